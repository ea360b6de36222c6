package generate

import (
	"fmt"
	"strings"

	"brickshelf/internal/core/site"
)

// What a deep site has of each kind.
const (
	DeepBlocks   = 300
	DeepRules    = 400
	DeepLayouts  = 60
	DeepSections = 200
	deepPages    = 12 // in each section
	deepTitle    = 120
)

// scripts are words of five scripts, one of them written from right to left.
var scripts = [5]string{
	"Harbour timetable of the islands in the north and what it costs to cross with a bicycle ",
	"Лодки на острова отправляются каждое утро от старого причала возле маяка ",
	"Τα πλοία φεύγουν κάθε πρωί από την παλιά αποβάθρα δίπλα στον φάρο ",
	"القوارب تغادر كل صباح من الرصيف القديم بجانب المنارة إلى الجزر ",
	"渡船每天早晨从灯塔旁的旧码头出发开往各个岛屿请在开船前十分钟到达",
}

// longTitle is a title of 120 characters in one of the scripts, with a number behind.
func longTitle(i int) string {
	words := []rune(strings.Repeat(scripts[i%len(scripts)], 6))
	number := []rune(fmt.Sprintf(" %d", i))
	title := append(words[:deepTitle-len(number)], number...)
	if at := deepTitle - len(number) - 1; title[at] == ' ' {
		title[at] = '.'
	}
	return string(title)
}

// Deep makes a site with much of everything but pages: 300 blocks in 30 categories, 400 rules,
// 60 layouts, and 200 sections of 12 pages, half of them one below the other. All titles have
// 120 characters, in five scripts; names begin alike.
func Deep() site.Files {
	f := site.Files{}
	put := func(path, format string, args ...any) { f[path] = fmt.Appendf(nil, format, args...) }
	put("site.yaml", "format: brickshelf/1\nname: %q\nbase_url: https://deep.example\n", longTitle(0))
	for i := range DeepLayouts {
		put(fmt.Sprintf("layouts/long-named-layout-%02d.html", i),
			"---\ntitle: %q\nregions: {top: {mode: stack}, main: {mode: stack}, side: {mode: stack}, foot: {mode: one}}\n---\n"+
				"<!doctype html><html lang=\"en\"><head><title>@{=page.title}</title>@{assets /}</head><body>\n"+
				"@{region top /}<main>@{region main /}</main>@{region side /}@{region foot /}</body></html>\n", longTitle(i))
	}
	for i := range DeepBlocks {
		put(fmt.Sprintf("blocks/long-named-block-%03d.html", i),
			"---\ntitle: %q\ncategory: %q\nfields:\n  title: {type: text, default: Title}\n  text: {type: lines, default: Text}\n"+
				"---\n<section class=\"b%d\"><h2>@{=title}</h2><p>@{=text}</p></section>\n",
			longTitle(i), strings.TrimSpace(string([]rune(scripts[i%5])[:24]))+fmt.Sprint(" ", i%30), i)
	}
	section := func(i int) string {
		if i%2 == 1 {
			return fmt.Sprintf("section-of-the-islands-%03d/below", i-1)
		}
		return fmt.Sprintf("section-of-the-islands-%03d", i)
	}
	for i := range DeepRules {
		put(fmt.Sprintf("rules/long-named-rule-%03d.yaml", i), "block: long-named-block-%03d\nregion: %s\non: [\"under:/%s/\"]\norder: %d\n",
			i%DeepBlocks, [4]string{"top", "main", "side", "foot"}[i%4], section(i%DeepSections), i)
	}
	put("pages/index.html", "---\ntitle: %q\nlayout: long-named-layout-00\n---\n<p>All of it.</p>\n", longTitle(1))
	for i := range DeepSections {
		for j := range deepPages {
			n := i*deepPages + j
			put(fmt.Sprintf("pages/%s/page-%02d.html", section(i), j),
				"---\ntitle: %q\nlayout: long-named-layout-%02d\n---\n<p>%s</p>\n@{long-named-block-%03d title=\"Here\" /}\n",
				longTitle(n), n%DeepLayouts, prose, n%DeepBlocks)
		}
	}
	return f
}
