package check_test

import (
	"fmt"
	"maps"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"brickshelf/internal/core/check"
	"brickshelf/internal/core/render"
	"brickshelf/internal/core/site"
	"brickshelf/internal/core/sitetest"
)

// What is wrong in a tree is told with file, line and column, and keeps the tree
// from becoming a site.
func TestBadInputIsRefusedWithItsPlace(t *testing.T) {
	for name, c := range map[string]struct {
		files map[string]string
		says  string
	}{
		"a cycle of blocks": {map[string]string{"blocks/a.html": "\n@{b /}",
			"blocks/b.html": "@{a /}"}, "a → b → a"},
		"a cycle through enclosed calls": {map[string]string{"blocks/a.html": "@{b}@{a /}@{/b}",
			"blocks/b.html": "@{=inner}"}, "a → a"},
		"a cycle through a menu": {map[string]string{"blocks/a.html": "@{menu name=m /}",
			"menus/m.yaml": "items:\n  - {label: A, panel: '@{a /}'}\n"}, "a → menu m → a"},
		"a call never closed": {map[string]string{"blocks/a.html": "<p>\n @{b}text",
			"blocks/b.html": ""}, "blocks/a.html:2:2: "},
		"a call in a tag name": {map[string]string{"blocks/a.html": "<@{b /}>", "blocks/b.html": ""},
			"blocks/a.html:1:2: "},
		"a value in a script": {map[string]string{"blocks/a.html": "---\nfields: {n: {type: text}}\n---\n<script>@{=n}</script>"}, "blocks/a.html:4:9: "},
		"a comment never ended": {map[string]string{"blocks/a.html": "<p>\n<!-- b"},
			"blocks/a.html:2:1: a comment is not ended"},
		"an attribute never ended": {map[string]string{"blocks/a.html": "<p>\n<b title=\"c"},
			"blocks/a.html:2:1: the attribute title is not ended"},
		"what a call encloses": {map[string]string{"blocks/a.html": "@{=inner}",
			"pages/p.html": "\n@{a}<b title=\"@{/a}"},
			"pages/p.html:2:1: the attribute title that begins in what this call encloses is not ended"},
		"a field given twice":         {map[string]string{"blocks/a.html": "---\nfields:\n  n: {type: text}\n  n: {type: text}\n---\n"}, "blocks/a.html:4:3: "},
		"a default of the wrong type": {map[string]string{"blocks/a.html": "---\nfields:\n  n: {type: number, default: many}\n---\n"}, "blocks/a.html:3:30: "},
		"a reserved name": {map[string]string{"blocks/each.html": ""},
			"blocks/each.html:1:1: the name each is part of the language"},
		"a bad name of a layout": {map[string]string{"layouts/L.html": "",
			"pages/p.html": "---\nlayout: L\n---\n"}, "layouts/L.html:1:1: "},
		"a bad name of a menu": {map[string]string{"menus/M.yaml": "items: []",
			"pages/p.html": "@{menu name=M /}"}, "menus/M.yaml:1:1: "},
		"a block that is not UTF-8": {map[string]string{"blocks/a.html": "caf\xe9"},
			"blocks/a.html:1:1: a block should be UTF-8"},
		"a script without a head": {map[string]string{"shortcodes/s.js": "function shortcode() {}"},
			"shortcodes/s.js:1:1: a scripted shortcode begins with a comment"},
		"a script without its function": {map[string]string{"shortcodes/s.js": "/*\n*/\nconst shortcode = 1;"}, "shortcodes/s.js:1:1: a scripted shortcode declares"},
		"a script that cannot be read":  {map[string]string{"shortcodes/s.js": "/*\n*/\nfunction shortcode() { return ( }"}, "shortcodes/s.js:3:33: "},
		"a script that reads too much":  {map[string]string{"shortcodes/s.js": "/*\nreads: [page, page s]\n*/\nfunction shortcode() {}"}, "shortcodes/s.js:2:8: a script can read page, pages, menus, assets"},
	} {
		f := site.Files{"site.yaml": []byte("format: brickshelf/1\n")}
		for p, text := range c.files {
			f[p] = []byte(text)
		}
		s := sitetest.New(f)
		require.ErrorContains(t, check.Validity(s), c.says, name)
		require.ErrorContains(t, check.Site(s), c.says, name)
	}
}

// What a block shows on a page in another encoding is in that.
func TestPagesAndFilesOfAnyEncodingAreKept(t *testing.T) {
	f := site.Files{"site.yaml": []byte("format: brickshelf/1\n"), "pages/p.html": []byte("caf\xe9 @{b /}"),
		"blocks/b.html": []byte("é"), "assets/x.txt": []byte("\xff\xfe")}
	s := sitetest.New(f)
	require.Empty(t, check.Validity(s))
	require.Equal(t, f, s.Files())
	require.Equal(t, "caf\xe9 \xe9", string(render.Page(s, "pages/p.html", render.Options{}).HTML))
}

func TestDeepNestingIsShownOrRefusedAndNeverPanics(t *testing.T) {
	f := site.Files{"site.yaml": []byte("format: brickshelf/1\n"),
		"blocks/b.html": []byte("<i>@{=inner}</i>")}
	for _, deep := range []int{90, 200, 5000} {
		f["pages/p.html"] = []byte(strings.Repeat("@{b}", deep) + "x" + strings.Repeat("@{/b}", deep))
		s := sitetest.New(f)
		if len(check.Validity(s)) > 0 {
			continue
		}
		res := render.Page(s, "pages/p.html", render.Options{})
		shown := strings.Count(string(res.HTML), "<i>")
		if shown != deep {
			require.NotEmpty(t, res.Faults, "what is not shown is told")
		}
		require.Equal(t, shown, strings.Count(string(res.HTML), "</i>"))
	}
}

func TestRichTextIsCleaned(t *testing.T) {
	f := site.Files{"site.yaml": []byte("format: brickshelf/1\n"),
		"blocks/b.html": []byte("---\nfields: {r: {type: rich}}\n---\n@{=r}")}
	for bad, gone := range map[string]string{
		`<script>x()</script>a`: "x()", `<style>p{}</style>a`: "p{}", `<b onclick=\"x()\">a</b>`: "onclick",
		`<a href=\"data:text/html,x\">a</a>`: "data:", `<a href=\"javascript:x()\">a</a>`: "javascript",
		`<iframe src=\"/x\"></iframe>a`: "iframe",
	} {
		f["pages/p.html"] = []byte(`@{b r="` + bad + `" /}`)
		s := sitetest.New(f)
		require.Empty(t, check.Validity(s))
		out := string(render.Page(s, "pages/p.html", render.Options{}).HTML)
		require.Contains(t, out, "a", bad)
		require.NotContains(t, out, gone, bad)
	}
}

// What a rich text does not show is said, wherever it is written, at its place.
func TestWhatRichTextsLoseIsTold(t *testing.T) {
	files := map[string]string{
		"site.yaml":      "format: brickshelf/1\nfields:\n  news: {type: rich, default: ‸<b>a}\n  plain: {type: text, default: <b>a}\n",
		"layouts/l.html": "---\npage_fields:\n  note: {type: rich, default: ‸<i>a}\nstarts_with:\n  main: ‸'@{b r=\"<b>\" /}'\n  bar: '@{b r=\"b\" /}'\n---\n@{region bar /}@{region main /}@{menu name=m /}",
		"blocks/b.html":  "---\nsample: ‸'@{b r=\"<b>\" /}'\nfields: {r: {type: rich}, t: {type: text}}\n---\n@{=r}@{=t}",
		"blocks/d.html":  "---\nfields:\n  r: {type: rich, from: page.lead, default: ‸<u>a}\n  s:\n    type: list\n    fields:\n      x: {type: rich, default: ‸</p>}\n    default: ‸[{x: <em>}]\n---\n@{=r}",
		"rules/r.yaml":   "block: b\nregion: bar\non: [all]\nset:\n  r: ‸<b>a\n",
		"menus/m.yaml":   "items:\n  - label: A\n    panel: ‸'@{b r=\"<b>\" t=\"<b>\" /}'\n  - label: B\n    panel: '@{b r=\"<b>b</b>\" /}'\n",
		"pages/p.html": "---\nlayout: l\nfields:\n  note: ‸<script>x()</script>\n  lead: ‸<b>\n  loose: <b>\noverrides:\n  main/b~2:\n    r: ‸<script>a</script>b\n    t: <b>a\n  main/d~1:\n    s: ‸[{x: <i>}]\n" +
			"  bar/rule:r: {t: <b>}\ncopies:\n  layout/d~1: {of: d, base: x, text: a}\n  ‸main/b~4:\n    of: b\n    base: x\n    text: '@{b r=\"<b>\" /}'\n---\n" +
			"@{b r=‸\"a</p>\" /}@{b /}@{b r=\"<b>a</b>\" t=\"<b>\" /}@{b /}@{d /}",
	}
	f, marks := site.Files{}, []string{}
	for path, text := range files {
		for i := strings.Index(text, here); i >= 0; i = strings.Index(text, here) {
			_, line, column := marked(t, text[:i]+here)
			marks = append(marks, fmt.Sprintf("%s:%d:%d cleaned-value warning", path, line, column))
			text = text[:i] + text[i+len(here):]
		}
		f[path] = []byte(text)
	}
	var told []string
	for _, p := range check.Site(sitetest.New(f)) {
		if p.Code != "lost-copy" {
			told = append(told, fmt.Sprintf("%s:%d:%d %s %s", p.Path, p.Line, p.Column, p.Code, p.Severity))
		}
	}
	require.ElementsMatch(t, marks, told)
}

// A text that ends within something takes in what stands behind it: that is told of pages
// that have something behind them, of copies and of panels.
func TestTextsThatEndWithinSomethingAreTold(t *testing.T) {
	f := site.Files{
		"site.yaml":      []byte("format: brickshelf/1\n"),
		"layouts/l.html": []byte("@{region main /}@{menu name=m /}"),
		"blocks/b.html":  []byte("---\nsample: <b title='x>\n---\nb"),
		"layouts/k.html": []byte("---\nstarts_with: {main: '<script>'}\n---\n"),
		"menus/m.yaml":   []byte("items:\n  - {label: A, panel: '<!-- x'}\n  - {label: B, panel: '<p>x'}\n"),
		"pages/a.html":   []byte("---\nlayout: l\n---\n<p>a\n <i title='x>y"),
		"pages/b.html":   []byte("<p>a <i title='x"),
		"pages/c.html":   []byte("---\nlayout: l\ncopies:\n  main/b~1: {of: b, base: x, text: '<script>'}\n---\n@{b /}"),
		"pages/d.html":   []byte("---\nlayout: l\n---\n<p>a <b>"),
	}
	var told []string
	for _, p := range check.Site(sitetest.New(f)) {
		if p.Code == "unended" {
			told = append(told, fmt.Sprintf("%s %s", p.Severity, p))
		}
	}
	require.Equal(t, []string{
		"warning blocks/b.html:2:9: in the sample: the attribute title is not ended here, so that it would go on behind; end it where it began",
		"warning layouts/k.html:2:21: in what main starts with: <script> is not ended here, so that it would go on behind; end it where it began",
		"warning menus/m.yaml:2:23: in this panel: a comment is not ended here, so that it would go on behind; end it where it began",
		"warning pages/a.html:5:2: the attribute title is not ended here, so that it would go on behind; end it where it began",
		"warning pages/c.html:4:3: in the copy at main/b~1: <script> is not ended here, so that it would go on behind; end it where it began",
	}, told)
}

func TestScriptsThatCannotBeCalledAreTold(t *testing.T) {
	const script = "/**/function shortcode() {}"
	f := site.Files{"site.yaml": []byte("format: brickshelf/1\n"), "blocks/b.html": []byte("b"),
		"shortcodes/b.js": []byte(script), "shortcodes/year.js": []byte(script),
		"shortcodes/more/x.js": []byte("not read"), "pages/p.html": []byte("@{b /}")}
	s := sitetest.New(f)
	require.Empty(t, check.Validity(s))
	var told []string
	for _, p := range check.Site(s) {
		told = append(told, p.Path+" "+p.Code+" "+string(p.Severity))
	}
	require.ElementsMatch(t, []string{"shortcodes/b.js name-taken error",
		"shortcodes/year.js name-taken error", "shortcodes/more/x.js ignored note"}, told)
}

// A tree whose documents could not all be written, as a folder or as a published site, is
// refused, whether it comes whole or one document at a time.
func TestWhatCannotBeWrittenIsRefused(t *testing.T) {
	long := strings.Repeat("n", 256)
	for _, c := range []struct {
		config string
		docs   []string
		says   string
	}{
		{"", []string{"assets/" + long}, "at most 255 bytes, and this one has 256"},
		{"", []string{"pages/" + long + "/x.html"}, "at most 255 bytes"},
		{"", []string{"assets/a", "assets/a/b"}, "assets/a"},
		{"", []string{"pages/x.html", "pages/x.html/y.html"}, "pages/x.html"},
		{"", []string{"pages/x/index.html.html", "pages/x.html"}, "x/index.html"},
		{"", []string{"pages/x/index.html/y.html", "pages/x/index.html"}, "pages/x/index.html"},
		{"", []string{"pages/x/index.html/y.html", "pages/x.html"}, "x/index.html"},
		{"", []string{"pages/sitemap.xml.html"},
			"the sitemap as the file sitemap.xml, which cannot be a folder too"},
		{"", []string{"pages/sitemap.xml/a.html"}, "the sitemap"},
		{"", []string{"pages/assets/x.html", "assets/x/index.html"}, "assets/x/index.html"},
		{"", []string{"pages/assets/x.html", "assets/x"}, "assets/x"},
		{"", []string{"pages/assets/x/index.html", "assets/x"}, "assets/x"},
		{"exact_urls: true\n", []string{"pages/assets/x.html", "assets/x.html"}, "assets/x.html"},
		{"exact_urls: true\n", []string{"pages/assets/x.html", "assets/x.html/y"}, "assets/x.html"},
		{"", []string{"files/assets/x", "assets/x"}, "would be published as the file assets/x"},
		{"", []string{"files/assets/x/y", "assets/x"}, "assets/x"},
		{"", []string{"files/assets/x", "assets/x/y"}, "assets/x"},
		{"", []string{"files/x/index.html", "pages/x.html"}, "x/index.html"},
		{"", []string{"files/x", "pages/x.html"}, "files/x"},
		{"", []string{"files/x", "pages/x/y/z.html"}, "files/x"},
		{"exact_urls: true\n", []string{"files/x.html", "pages/x.html"}, "x.html"},
		{"", []string{"files/_shelf/x.css"}, "_shelf is the name of a folder"},
		{"", []string{"pages/_shelf/a.html"}, "_shelf is the name of a folder"},
		{"", []string{"pages/_for/signed-in/index.html"}, "_for is the name"},
		{"", []string{"pages/_draft/a.html"}, "_draft is the name"},
		{"", []string{"pages/.hidden.html"}, "begin with a dot"},
		{"", []string{"/"}, "no empty, . or .. parts"},
		{"", []string{"/a/"}, "no empty, . or .. parts"},
		{"", []string{"pages//b.html"}, "no empty, . or .. parts"},
		{"", []string{"pages/../b.html"}, "no empty, . or .. parts"},
		{"", []string{"pages/a/.hidden/b.html"}, "begin with a dot"},
	} {
		base := site.Files{"site.yaml": []byte("format: brickshelf/1\n" + c.config),
			"pages/ok.html": []byte("ok")}
		whole := maps.Clone(base)
		for _, p := range c.docs {
			whole[p] = []byte("x")
		}
		require.Contains(t, check.Validity(sitetest.New(whole)).Error(), c.says, "%v", c.docs)
		for turn := range c.docs { // whichever comes last
			before := maps.Clone(whole)
			delete(before, c.docs[turn])
			require.Empty(t, check.Validity(sitetest.New(before)), "%v", c.docs)
			o := sitetest.New(before).With([]site.Change{{Path: c.docs[turn], After: []byte("x")}})
			require.Contains(t, check.Changed(o).Error(), c.says, "%v, %s last", c.docs, c.docs[turn])
		}
	}
}

func TestWhatCanBeWrittenIsNotRefused(t *testing.T) {
	for _, config := range []string{"", "exact_urls: true\n"} {
		f := site.Files{"site.yaml": []byte("format: brickshelf/1\n" + config)}
		for _, p := range []string{"pages/index.html", "pages/x.html", "pages/x/y.html",
			"pages/x/index.htm.html", "pages/assets/index.html", "assets/index", "assets/x/y.txt",
			"files/robots.txt", "files/sitemap.xml", "files/.well-known/security.txt", "files/x.html.txt",
			"files/assets/y", "files/x/y.css", "pages/render/a.html", "pages/sitemap.html", "assets/.htaccess", "assets/.well-known/x",
			"pages/" + strings.Repeat("n", 240) + ".html"} {
			f[p] = []byte("x")
		}
		require.Empty(t, check.Validity(sitetest.New(f)))
	}
}

func TestNamesThatSomeDisksTakeForOne(t *testing.T) {
	s := sitetest.New(site.Files{"site.yaml": []byte("format: brickshelf/1\n"), "assets/Logo.svg": nil,
		"assets/logo.svg": nil, "assets/caf\u00e9.txt": nil, "assets/cafe\u0301.txt": nil,
		"assets/STRASSE": nil, "assets/stra\u00dfe": nil, "assets/other": nil})
	var got []string
	for _, p := range check.Site(s) {
		require.Equal(t, site.Warning, p.Severity)
		require.Equal(t, "similar-names", p.Code)
		got = append(got, p.Path)
	}
	require.Equal(t, []string{"assets/caf\u00e9.txt", "assets/logo.svg", "assets/stra\u00dfe"}, got)
}
