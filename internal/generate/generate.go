// Package generate makes sites of any size for measurements: every page with a
// header that holds a menu, a footer, three blocks in the sidebar, and six
// pieces of text with two blocks each; one page in seven has values of its own.
package generate

import (
	"fmt"
	"strings"

	"brickshelf/internal/core/site"
)

const prose = "The harbour wakes before the town does. Ropes creak, the ramp comes down, and the first lorries roll aboard while the gulls argue over yesterday's bread. By half past six the deck is full and the lines are cast off. "

// Site makes a site of n pages of about 20 KB each.
func Site(n int) site.Files {
	f := site.Files{}
	put := func(path, text string) { f[path] = []byte(text) }
	put("site.yaml",
		"format: brickshelf/1\nname: Measured\nbase_url: https://measured.example\nfields: {phone: {type: text, default: 0900 44 18}}\n")
	put("layouts/page.html", `---
title: Page
regions: {header: {mode: one}, main: {mode: stack}, sidebar: {mode: stack}, footer: {mode: one}}
page_fields: {logo: {type: image}}
---
<!doctype html><html lang="en"><head><meta charset="utf-8"><title>@{=page.title}</title>@{assets /}</head><body>
@{region header /}<main>@{region main /}</main><aside>@{region sidebar /}</aside>@{region footer /}
</body></html>
`)
	put("menus/main.yaml",
		"items:\n  - {label: Home, to: /s00/p00000/}\n  - {label: Second, to: /s01/p00001/}\n  - {label: Third, to: /s02/p00002/}\n  - {label: Fourth, to: /s03/p00003/}\n")
	put("blocks/header.html",
		"---\nfields:\n  logo: {type: image, from: page.logo, default: /assets/logo.svg}\n  menu: {type: menu, default: main}\n---\n<header><img src=\"@{=logo}\" alt=\"\">@{menu name=(menu) /}</header>\n")
	put("blocks/header-plain.html",
		"---\nfields:\n  claim: {type: text, default: Always on time}\n---\n<div class=\"claim\">@{=claim}</div>\n")
	put("blocks/footer.html",
		"---\nfields:\n  motto: {type: text, default: Since 1911}\n---\n<footer><p>@{=site.name}, @{=motto}</p><p>@{=site.phone}</p></footer>\n")
	for _, b := range []string{"help", "hours", "links"} {
		put("blocks/"+b+".html", "---\nfields:\n  title: {type: text, default: "+strings.ToUpper(b[:1])+b[1:]+
			"}\n---\n<section><h2>@{=title}</h2><p>"+prose+"</p></section>\n")
		put("rules/"+b+".yaml", "block: "+b+"\nregion: sidebar\non: [all]\n")
	}
	put("blocks/card.html",
		"---\nfields:\n  title: {type: text, required: true}\n  text: {type: lines, default: No more is known.}\n  tone: {type: choice, choices: [calm, loud], default: calm}\n---\n<div class=\"card @{=tone}\"><h3>@{=title}</h3><p>@{=text}</p></div>")
	put("blocks/rare.html", "---\nfields:\n  title: {type: text, default: Rare}\n---\n<b>@{=title}</b>")
	put("blocks/note.html",
		"---\nfields:\n  tone: {type: choice, choices: [calm, loud], default: calm}\n---\n<aside class=\"@{=tone}\">@{=inner}</aside>")
	put("rules/header.yaml", "block: header\nregion: header\non: [all]\n")
	put("rules/footer.yaml", "block: footer\nregion: footer\non: [all]\n")
	put("rules/claim.yaml", "block: header-plain\nregion: main\non: [all]\nat: start\n")
	for _, logo := range []string{"logo", "logo-0", "logo-1", "logo-2", "logo-3", "logo-4"} {
		put("assets/"+logo+".svg", `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 8 8"><title>`+logo+
			`</title><rect width="8" height="8"/></svg>`)
	}
	filler := strings.Repeat("<p>"+prose+"</p>\n", 12)
	for i := range n {
		var b strings.Builder
		fmt.Fprintf(&b, "---\ntitle: Page %d\nlayout: page\n", i)
		if i%7 == 3 {
			fmt.Fprintf(&b, "fields: {logo: /assets/logo-%d.svg}\n", i%5)
			b.WriteString("overrides: {\"footer/rule:footer\": {motto: On this route since 1934}}\n")
		}
		b.WriteString("---\n")
		for j := range 6 {
			fmt.Fprintf(&b,
				"%s@{card title=\"Card %d of page %d\" /}\n@{note}<p>Mind the gap, page %d.</p>@{/note}\n",
				filler, j, i, i)
		}
		if i < 20 {
			b.WriteString("@{rare /}\n")
		}
		put(fmt.Sprintf("pages/s%02d/p%05d.html", i%40, i), b.String())
	}
	return f
}
