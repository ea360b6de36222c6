// Package sitetest makes random sites and random edits of them for property
// tests.
package sitetest

import (
	"bytes"
	"fmt"
	"image"
	"image/png"
	"slices"
	"strings"
	"time"

	"pgregory.net/rapid"

	"brickshelf/internal/core/render"
	"brickshelf/internal/core/script"
	"brickshelf/internal/core/shelf"
	"brickshelf/internal/core/site"
)

// Now is the moment for which test sites are compiled.
var Now = time.Date(2026, 6, 1, 12, 0, 0, 0, time.UTC)

const blocks = 6

// Runner stands in for one that runs scripts: what a script gives tells of
// everything that it was handed, so that nothing of it can change unseen.
type Runner struct{}

// Run never fails.
func (Runner) Run(c script.Call) (script.Output, *script.Failure) {
	all := []string{string(c.Script.Hash), string(c.Args), string(c.Page), string(c.Site), c.Now}
	for _, what := range script.Readable {
		if d := c.Data[what]; d != nil {
			all = append(all, what, string(d.JSON))
		}
	}
	sum := site.HashOf([]byte(strings.Join(all, "|")))[:6]
	return script.Output{Text: fmt.Sprintf("<u>%s%s</u>", sum, c.Inner), HTML: true}, nil
}

// New compiles a test site.
func New(f site.Files) *shelf.Shelf { return shelf.NewScripted(f, Now, Runner{}) }

// Script draws a scripted shortcode.
func Script(t *rapid.T) []byte {
	reads := rapid.SampledFrom([]string{"", "page", "pages", "menus", "assets", "page, pages"}).Draw(t,
		"reads")
	return []byte(fmt.Sprintf("/*\nparams: {t: {type: text, default: %q}}\nreads: [%s]\nencloses: %v\nset: extra\n*/\nfunction shortcode() {}\n", word(t), reads, rapid.Bool().Draw(t, "encloses")))
}

// Config draws site.yaml.
func Config(t *rapid.T) []byte {
	off := rapid.SampledFrom([]string{"", "", "", "sets_off: [extra]\n", "sets_off: [paths]\n"}).Draw(t,
		"off")
	return []byte(fmt.Sprintf("format: brickshelf/1\nname: Test\n%sfields: {phone: {type: text, default: %q}}\n", off, word(t)))
}

// Site draws a valid site: layouts, blocks that call one another, rules, menus
// and pages with arguments, overrides, enclosed content and hidden placements.
func Site(t *rapid.T) site.Files {
	f := site.Files{}
	put := func(path, format string, args ...any) { f[path] = []byte(fmt.Sprintf(format, args...)) }
	f["site.yaml"] = Config(t)
	f["shortcodes/s0.js"] = Script(t)
	put("layouts/one.html",
		"---\nregions: {head: {mode: one}, main: {mode: stack}, side: {mode: stack, width: 20}}\npage_fields: {logo: {type: text}}\n---\n<head><title>@{=page.title}</title></head>@{region head}none@{/region}<main>@{region main /}</main>@{region side /}%s", Text(t, 0, 2, false))
	put("layouts/two.html",
		"---\nregions: {head: {mode: one}, main: {mode: one}}\n---\n<p>@{region head /}@{assets /}@{region main}@{b1 /}@{/region}")
	f["menus/main.yaml"] = Menu(t)
	put("assets/pic.svg", "<svg/>")
	f["assets/photo.png"] = Photo(t)
	for i := range blocks {
		f[fmt.Sprintf("blocks/b%d.html", i)] = Block(t, i)
	}
	put("blocks/b2.css", ".b2{color:%s}", word(t))
	for _, i := range []int{1, 4} {
		f[fmt.Sprintf("blocks/b%d.js", i)] = Behaviour(t)
	}
	for _, old := range Old {
		f["history/"+string(site.HashOf([]byte(old)))] = []byte(old)
	}
	for i := range rapid.IntRange(0, 4).Draw(t, "rules") {
		f[fmt.Sprintf("rules/r%d.yaml", i)] = Rule(t)
	}
	n := rapid.IntRange(1, 7).Draw(t, "pages")
	for i := range n {
		f[pagePath(i)] = Page(t, i)
	}
	s := New(f)
	for _, p := range s.PagePaths() {
		if rapid.IntRange(0, 2).Draw(t, "local") == 0 {
			f[p] = localise(t, s, p, f[p])
		}
	}
	return f
}

// Photo draws a picture of one of a few sizes.
func Photo(t *rapid.T) []byte {
	var b bytes.Buffer
	w := rapid.SampledFrom([]int{8, 24, 64}).Draw(t, "pixels")
	_ = png.Encode(&b, image.NewGray(image.Rect(0, 0, w, 10)))
	return b.Bytes()
}

func pagePath(i int) string {
	return fmt.Sprintf("pages/%s/p%d.html", []string{"a", "b"}[i%2], i)
}

func word(t *rapid.T) string {
	return rapid.SampledFrom([]string{"sea", "quay", "rope", "tide", "<b>", "a&b", "@", "{x}", "@{",
		"é"}).Draw(t, "word")
}

// Block draws the block of a number; it calls only blocks of higher numbers.
func Block(t *rapid.T, i int) []byte {
	fields := fmt.Sprintf("title: {type: text, default: %q}\n  on: {type: switch, default: %v}\n", word(t),
		rapid.Bool().Draw(t, "on"))
	if rapid.Bool().Draw(t, "from") {
		fields += "  logo: {type: text, from: page.logo, default: std}\n"
	} else {
		fields += "  logo: {type: text}\n"
	}
	fields += "  items: {type: list, fields: {name: {type: text}}, default: [{name: x}, {name: y}]}\n"
	text := Text(t, i+1, 4, true)
	if i == blocks-1 { // the panel of the menu calls it
		text = strings.ReplaceAll(text, "@{menu name=main /}", "")
	}
	sample := ""
	if rapid.IntRange(0, 3).Draw(t, "sampled") == 0 {
		sample = fmt.Sprintf("sample: '@{%s /}'\n", rapid.SampledFrom([]string{"b1", "b5", "s0", "gone"}).Draw(t, "sample"))
	}
	return []byte("---\n" + says(t, i) + sample + "fields:\n  " + fields + "---\n" + text)
}

// says draws what the block of a number says of its behaviour; it needs only those of higher numbers.
func says(t *rapid.T, i int) string {
	gives := rapid.SampledFrom([]string{"", "", "title", "title, items", "on"}).Draw(t, "gives")
	needs := ""
	if i < blocks-1 && rapid.IntRange(0, 2).Draw(t, "needy") == 0 {
		needs = fmt.Sprintf("b%d", rapid.IntRange(i+1, blocks-1).Draw(t, "needs"))
	}
	return fmt.Sprintf("behaviour: {gives: [%s], needs: [%s]}\n", gives, needs)
}

// Behaviour draws a behaviour that runs once for the page, or for each placement.
func Behaviour(t *rapid.T) []byte {
	return []byte(rapid.SampledFrom([]string{"// ", "export default () => {}; // "}).Draw(t, "behaviour") +
		word(t))
}

// Menu draws the menu main, perhaps with panels that hold the last block.
func Menu(t *rapid.T) []byte {
	label := strings.Trim(word(t), "<>&@{}") + "x"
	if rapid.Bool().Draw(t, "panel") {
		label += fmt.Sprintf(", panel: '@{b%d /}'", blocks-1)
	}
	if rapid.IntRange(0, 3).Draw(t, "within") == 0 {
		label += fmt.Sprintf(", items: [{label: Sub, to: /b/p1/, panel: '@{b%d /}'}]", blocks-1)
	}
	limits := rapid.SampledFrom([]string{"", "", "", ", audience: signed-in", ", audience: signed-out", ", from: 2026-07-01",
		", until: 2026-06-01"}).Draw(t, "limits")
	return []byte("items:\n  - {label: Home, to: /" + limits + "}\n  - {label: " + label + ", to: /a/p1/}\n")
}

// Text draws markup that calls blocks from number from on.
func Text(t *rapid.T, from, size int, inBlock bool) string {
	var whole, b strings.Builder
	for range rapid.IntRange(0, size).Draw(t, "size") {
		b.Reset()
		kind := rapid.IntRange(0, 19).Draw(t, "kind")
		if !inBlock && kind >= 5 && kind <= 9 {
			kind = 1
		}
		switch kind {
		case 0:
			b.WriteString("<i>" + strings.ReplaceAll(word(t), "@{", "@@{") + "</i>")
		case 1, 2, 3:
			b.WriteString(call(t, from, size, inBlock))
		case 4:
			b.WriteString("@{=page.title}@{# note }")
		case 5:
			b.WriteString("@{=title}")
		case 6:
			b.WriteString(`<a title="@{=logo}">@{when on}` + Text(t, from, size-1, true) +
				"@{else}off@{/when}</a>")
		case 7:
			b.WriteString("@{each items as it}@{=it.name}" + call(t, from, 1, true) + "@{/each}")
		case 8:
			b.WriteString("@{=inner}")
		case 9:
			b.WriteString("@{=site.phone}@")
		case 10:
			b.WriteString("@{menu name=main /}")
		case 11:
			b.WriteString("@{pages under=\"/a/\" /}@{crumbs /}")
		case 12:
			b.WriteString(`<a href="@{url page="/b/p3/" /}">to</a>`)
		case 13:
			b.WriteString(rapid.SampledFrom([]string{`<a href="/a/p2/">to</a>`, `<a href="../p1/">to</a>`,
				`<a href="/gone/">to</a>`}).Draw(t, "link"))
		case 14:
			b.WriteString(fmt.Sprintf(`<p id="x%d">`, rapid.IntRange(0, 2).Draw(t, "id")))
		case 15:
			b.WriteString(fmt.Sprintf(`<a href="#x%d">to</a>`, rapid.IntRange(0, 2).Draw(t, "target")))
		case 16:
			b.WriteString(rapid.SampledFrom([]string{`<img src="/assets/pic.svg">`,
				`@{image src="/assets/photo.png" /}`, `@{image src="/assets/photo.png" width=12 /}`}).Draw(t, "image"))
		case 17:
			b.WriteString(fmt.Sprintf("@{s0 t=%q /}", strings.ReplaceAll(word(t), `"`, "")))
		case 18:
			b.WriteString("@{s0}" + Text(t, from, size-1, inBlock) + "@{/s0}")
		case 19:
			b.WriteString(fmt.Sprintf(`<b %s="@{b%d /}">`,
				rapid.SampledFrom([]string{"title", "href", "style"}).Draw(t, "attribute"),
				rapid.IntRange(from, blocks).Draw(t, "callee")))
		}
		if strings.HasSuffix(whole.String(), "@") && strings.HasPrefix(b.String(), "@{") {
			whole.WriteByte('.') // together they would be an escape
		}
		whole.WriteString(b.String())
	}
	if strings.HasSuffix(whole.String(), "@") {
		whole.WriteByte('.') // a tag may follow
	}
	return whole.String()
}

func call(t *rapid.T, from, size int, inBlock bool) string {
	if from >= blocks+1 {
		return "."
	}
	n := rapid.IntRange(from, blocks).Draw(t, "callee") // one more than there are: unresolved
	args := ""
	switch rapid.IntRange(0, 4).Draw(t, "args") {
	case 1:
		args = fmt.Sprintf(" title=%q", strings.ReplaceAll(word(t), `"`, ""))
	case 2:
		args = " on=true items=[]"
	case 3:
		if inBlock {
			args = " logo=(title)"
		} else {
			args = " logo=(page.logo or site.phone)"
		}
	}
	if size > 1 && rapid.IntRange(0, 2).Draw(t, "enclose") == 0 {
		return fmt.Sprintf("@{b%d%s}%s@{/b%d}", n, args, Text(t, from, size-1, inBlock), n)
	}
	return fmt.Sprintf("@{b%d%s /}", n, args)
}

// Rule draws a rule.
func Rule(t *rapid.T) []byte {
	on := rapid.SampledFrom([]string{"all", "home", "layout:one", "under:/a/", "page:/b/p1/",
		"tag:new"}).Draw(t, "on")
	region := rapid.SampledFrom([]string{"head", "main", "side"}).Draw(t, "region")
	when := rapid.SampledFrom([]string{"", "", "", "", "audience: signed-in\n", "audience: signed-out\n",
		"from: 2026-07-01\n", "until: 2026-06-01\n"}).Draw(t, "when")
	return []byte(fmt.Sprintf(when+
		"block: b%d\nregion: %s\non: [\"%s\"]\norder: %d\nat: %s\nenabled: %v\nset: {title: %q}\n",
		rapid.IntRange(0, blocks).Draw(t, "block"), region, on, rapid.IntRange(0, 2).Draw(t, "order"),
		rapid.SampledFrom([]string{"start", "end"}).Draw(t, "at"), rapid.IntRange(0, 4).Draw(t,
			"enabled") > 0, word(t)))
}

// Page draws the page of a number.
func Page(t *rapid.T, i int) []byte {
	head := fmt.Sprintf("title: Page %d %s\n", i, rapid.SampledFrom([]string{"", "new", "old"}).Draw(t,
		"title"))
	head += "layout: " + rapid.SampledFrom([]string{"one", "two"}).Draw(t, "layout") + "\n"
	if rapid.Bool().Draw(t, "fields") {
		head += fmt.Sprintf("fields: {logo: %q}\n", word(t))
	}
	if rapid.IntRange(0, 5).Draw(t, "tags") == 0 {
		head += "tags: [new]\n"
	}
	if rapid.IntRange(0, 5).Draw(t, "draft") == 0 {
		head += "draft: true\n"
	}
	text := Text(t, 0, 4, false)
	if rapid.IntRange(0, 3).Draw(t, "fill") == 0 {
		text += "@{fill side}" + Text(t, 0, 2, false) + "@{/fill}"
	}
	return []byte("---\n" + head + "---\n" + text)
}

// Old are styles and behaviours that blocks no longer have, and copies can.
var Old = []string{".old,.b2{color:old}", ".older{}", "// old", "export default 0 // old"}

// older draws the revisions of a style and a behaviour that a copy was made with.
func older(t *rapid.T) string {
	hash := func(i int) string { return string(site.HashOf([]byte(Old[i]))) }
	return rapid.SampledFrom([]string{"", ", style: " + hash(0), ", style: " + hash(1), ", behaviour: " + hash(2),
		", behaviour: " + hash(3) + ", starts: '{}', needs: 'each:" + hash(3) + " " + hash(2) + "'",
		", style: " + hash(0) + ", behaviour: " + hash(2)}).Draw(t, "older")
}

// localise gives a page overrides and hidden placements at addresses that it has.
func localise(t *rapid.T, s *shelf.Shelf, path string, src []byte) []byte {
	res := render.Page(s, path, render.Options{Placements: true})
	if len(res.Placements) == 0 {
		return src
	}
	var addresses []string
	for _, p := range res.Placements {
		addresses = append(addresses, p.Address)
	}
	a := rapid.SampledFrom(addresses).Draw(t, "address")
	h := rapid.SampledFrom(addresses).Draw(t, "hidden")
	extra := fmt.Sprintf("overrides: {%q: {title: %q}}\n", a, word(t))
	if rapid.IntRange(0, 3).Draw(t, "hide") == 0 {
		extra += fmt.Sprintf("hidden: [%q]\n", h)
	}
	if rapid.IntRange(0, 3).Draw(t, "copy") == 0 {
		p := rapid.SampledFrom(res.Placements).Draw(t, "copied")
		extra += fmt.Sprintf("copies: {%q: {of: %s, base: x%s, text: %q}}\n", p.Address, p.Block,
			older(t), Text(t, 0, 2, false))
	}
	return []byte("---\n" + extra + strings.TrimPrefix(string(src), "---\n"))
}

// Edit draws a change set for a site: one or two documents made anew, or one deleted.
func Edit(t *rapid.T, f site.Files) []site.Change {
	var out []site.Change
	seen := map[string]bool{}
	for range rapid.IntRange(1, 2).Draw(t, "edits") {
		path, after := draw(t)
		if i := rapid.IntRange(0, 20).Draw(t, "spliced"); f[pagePath(i)] != nil {
			path, after = pagePath(i), splice(t, f[pagePath(i)])
		}
		if seen[path] {
			continue
		}
		seen[path] = true
		c := site.Change{Path: path, After: after}
		if old, ok := f[path]; ok {
			c.Before = site.HashOf(old)
		}
		c.Delete = after == nil
		if c.Delete && c.Before == "" {
			continue
		}
		out = append(out, c)
	}
	return out
}

// splice draws a page with something put into its text or taken out of it.
func splice(t *rapid.T, src []byte) []byte {
	split, _ := site.Cut(src)
	text := string(split.Text)
	spots := []int{0, len(text)}
	for i := range text {
		if text[i] == '<' || strings.HasPrefix(text[i:], "@{") || i > 0 && text[i-1] == '}' {
			spots = append(spots, i)
		}
	}
	slices.Sort(spots)
	from := rapid.IntRange(0, len(spots)-1).Draw(t, "from")
	to := min(from+rapid.IntRange(0, 2).Draw(t, "cut"), len(spots)-1)
	put := ""
	if rapid.IntRange(0, 3).Draw(t, "put") > 0 {
		put = Text(t, 0, 2, false)
	}
	return []byte(string(src[:split.TextAt]) + text[:spots[from]] + put + text[spots[to]:])
}

func draw(t *rapid.T) (string, []byte) {
	switch rapid.IntRange(0, 15).Draw(t, "what") {
	case 15:
		if rapid.IntRange(0, 3).Draw(t, "drop") == 0 {
			return "shortcodes/s0.js", nil
		}
		return "shortcodes/s0.js", Script(t)
	case 0, 1, 2, 3:
		i := rapid.IntRange(0, blocks-1).Draw(t, "block")
		return fmt.Sprintf("blocks/b%d.html", i), Block(t, i)
	case 4:
		return fmt.Sprintf("blocks/b%d.html", rapid.IntRange(0, blocks).Draw(t, "gone")), nil
	case 5:
		if rapid.Bool().Draw(t, "code") {
			return fmt.Sprintf("blocks/b%d.js", rapid.IntRange(0, blocks-1).Draw(t, "of")), Behaviour(t)
		}
		return fmt.Sprintf("blocks/b%d.css", rapid.IntRange(0, blocks-1).Draw(t, "style")), []byte(word(t))
	case 6:
		return fmt.Sprintf("rules/r%d.yaml", rapid.IntRange(0, 4).Draw(t, "rule")), Rule(t)
	case 7:
		return fmt.Sprintf("rules/r%d.yaml", rapid.IntRange(0, 4).Draw(t, "rule")), nil
	case 8:
		return "site.yaml", Config(t)
	case 9:
		return "menus/main.yaml", Menu(t)
	case 10:
		return pagePath(rapid.IntRange(0, 6).Draw(t, "page")), nil
	case 11:
		return "layouts/two.html",
			[]byte(fmt.Sprintf("---\nregions: {head: {mode: one}, main: {mode: one, width: %d}}\n---\n<p>@{region head /}<hr>@{region main}@{b1 /}@{/region}",
				rapid.SampledFrom([]int{10, 30}).Draw(t, "width")))
	}
	if rapid.IntRange(0, 8).Draw(t, "photo") == 0 {
		return "assets/photo.png", Photo(t)
	}
	if rapid.IntRange(0, 5).Draw(t, "file") == 0 {
		return rapid.SampledFrom([]string{"assets/pic.svg", "assets/photo.png", "blocks/b2.css", "blocks/b4.js"}).Draw(t, "path"),
			nil
	}
	i := rapid.IntRange(0, 7).Draw(t, "page")
	return pagePath(i), Page(t, i)
}
