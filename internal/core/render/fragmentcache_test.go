package render_test

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"brickshelf/internal/core/explain"
	"brickshelf/internal/core/markup"
	"brickshelf/internal/core/render"
	"brickshelf/internal/core/site"
	"brickshelf/internal/core/sitetest"
)

// What is kept from page to page gives the bytes that rendering without it gives,
// in whatever order pages are asked for.
func TestWhatIsKeptShowsOnEachPageWhatItWouldShowAlone(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		s := sitetest.New(sitetest.Site(t))
		pages := s.PagePaths()
		for range 2 * len(pages) {
			p := rapid.SampledFrom(pages).Draw(t, "page")
			alone := render.Page(s, p, render.Options{Placements: true}) // telling placements keeps nothing
			require.Equal(t, string(alone.HTML), string(render.AppendPage(s, nil, s.Info(p))), p)
			require.Equal(t, string(alone.HTML), string(render.Page(s, p, render.Options{}).HTML), p)
			require.Equal(t, alone.Faults, render.Page(s, p, render.Options{}).Faults, p)
		}
	})
}

// A header that asks for a page value and a menu has a version for each answer, and
// more answers than are kept do no harm.
func TestVersionsOfAHeader(t *testing.T) {
	f := files(
		"layouts/l.html",
		"---\nregions: {top: {mode: one}}\npage_fields: {logo: {type: text, default: std}}\n---\n@{region top /}",
		"menus/m.yaml", "items:\n  - {label: One, to: /p1/}\n",
		"blocks/head.html",
		"---\nfields: {logo: {type: text, from: page.logo, default: block}}\n---\n@{=logo}|@{=page.logo}|@{menu name=m /}",
		"rules/head.yaml", "block: head\nregion: top\non: [all]\n",
	)
	for i := range 30 {
		head := "layout: l\n"
		if i%2 == 0 {
			head += fmt.Sprintf("fields: {logo: l%d}\n", i%20)
		}
		f[fmt.Sprintf("pages/p%d.html", i)] = []byte("---\n" + head + "---\n")
	}
	s := sitetest.New(f)
	for range 2 {
		for i := range 30 {
			logo, page := "block", "std"
			if i%2 == 0 {
				logo = fmt.Sprint("l", i%20)
				page = logo
			}
			mark := ""
			if i == 1 {
				mark = ` aria-current="page"`
			}
			want := logo + "|" + page + `|<ul class="menu"><li><a href="/p1/"` + mark + `>One</a></li></ul>`
			require.Equal(t, want, string(render.AppendPage(s, nil,
				s.Info(fmt.Sprintf("pages/p%d.html", i)))))
		}
	}
}

func TestSayingThingsOfAddressesWhereNothingStands(t *testing.T) {
	f := files(
		"layouts/l.html", "---\nregions: {main: {mode: stack}}\n---\n@{region main /}",
		"blocks/a.html", "---\nfields: {t: {type: text, default: x}}\n---\n@{=t}",
		"pages/p.html",
		"---\nlayout: l\noverrides: {\"main/a~1\": {t: y, u: z}, \"main/a~2\": {t: z}}\nhidden: [\"main/b~1\"]\ncopies: {\"main/c~1\": {of: a, base: x, text: c}}\n---\n@{a /}",
	)
	var got []string
	for _, fault := range explain.Faults(sitetest.New(f), "pages/p.html") {
		got = append(got, fault.Code+" "+fault.Address+" "+fault.Field)
	}
	require.Equal(t, []string{"lost-override main/a~1 u", "lost-override main/a~2 t", "lost-hidden main/b~1 ",
		"lost-copy main/c~1 "}, got)
}

// No document, however broken, makes the program stumble.
func FuzzDocuments(f *testing.F) {
	paths := []string{"site.yaml", "layouts/l.html", "blocks/a.html", "rules/r.yaml", "menus/m.yaml",
		"pages/p.html"}
	for i, text := range []string{"format: brickshelf/1\nfields: {a: {type: list}}\n",
		"---\nregions: {main: {mode: one}}\n---\n@{region main}x@{/region}",
		"---\nfields: {t: {type: text, from: page.t}}\n---\n@{=t or inner}",
		"block: a\nregion: main\non: [all, \"page:/p/\"]\nset: {t: [1]}\n",
		"items: [{label: x, to: /p/, panel: '@{a /}', items: []}]",
		"---\nlayout: l\noverrides: {\"main/a~1\": {t: 1}}\ncopies: {\"x\": {of: a, text: \"@{inner}@{/inner}\"}}\n---\n@{a}@{/a}@{fill main}@{/fill}"} {
		f.Add(i, []byte(text))
	}
	// regions where there can be none
	for _, text := range []string{"@{region a}", "---\nlayout: l\n---\n@{region main /}",
		"---\nlayout: l\ncopies: {\"main/a~1\": {of: a, text: \"@{region main /}\"}}\n---\n@{a /}"} {
		f.Add(5, []byte(text))
	}
	f.Add(4, []byte("items: [{label: x, panel: '@{region main /}'}]"))
	f.Fuzz(func(t *testing.T, which int, text []byte) {
		tree := site.Files{
			"site.yaml": []byte("format: brickshelf/1\n"), "layouts/l.html": []byte("@{region main /}"),
			"blocks/a.html": []byte("---\nfields: {t: {type: text, default: x}}\n---\n@{=t}@{=inner}@{menu name=m /}"),
			"rules/r.yaml":  []byte("block: a\nregion: main\non: [all]\n"),
			"menus/m.yaml":  []byte("items: [{label: x, to: /}]"),
			"pages/p.html":  []byte("---\nlayout: l\n---\n@{a}x@{/a}"),
		}
		tree[paths[uint(which)%uint(len(paths))]] = text
		s := sitetest.New(tree)
		for _, p := range s.PagePaths() {
			render.Page(s, p, render.Options{Placements: true})
			render.AppendPage(s, nil, s.Info(p))
			s.DocProblems(p)
		}
	})
}

func TestScriptsAreToldWhatTheDraftHoldsNow(t *testing.T) {
	f := site.Files{"site.yaml": []byte("format: brickshelf/1\nfields: {n: {type: text}}\n"),
		"shortcodes/s.js": []byte("/*\nreads: [pages]\nencloses: true\n*/\nfunction shortcode() {}"),
		"pages/p.html":    []byte("---\nfields: {n: 5}\n---\n@{s /}"),
		"pages/q.html":    []byte("@{s}caf\xe9@{/s}")}
	s := sitetest.New(f)
	render.Page(s, "pages/p.html", render.Options{})
	f["site.yaml"] = []byte("format: brickshelf/1\nfields: {n: {type: number}}\n")
	s = s.Commit(s.With([]site.Change{{Path: "site.yaml", After: f["site.yaml"]}}))
	want := render.Page(sitetest.New(f), "pages/p.html", render.Options{}).HTML
	require.Equal(t, string(want), string(render.Page(s, "pages/p.html", render.Options{}).HTML))
	res := render.Page(s, "pages/q.html", render.Options{})
	require.Empty(t, string(res.HTML))
	require.Contains(t, res.Faults[0].Message, "is not UTF-8")
}

// A site at rest remembers nothing of its pages' calls, and shows the same again.
func TestASiteAtRest(t *testing.T) {
	f := site.Files{"blocks/b.html": []byte("b@{=inner}"),
		"pages/x.html": []byte("@{b /}@{when page.url}@{b}x@{/b}@{/when}@{b /}")}
	s := sitetest.New(f)
	remembered := func() (n int) {
		segs := s.Info("pages/x.html").Page.Fills[0].Segments
		for i := range segs {
			if segs[i].Memo.Load() != nil {
				n++
			}
		}
		markup.Walk(s.Info("pages/x.html").Page.Text.Nodes, func(m *markup.Node) bool {
			if m.Memo.Load() != nil {
				n++
			}
			return true
		})
		return n
	}
	want := string(render.Page(s, "pages/x.html", render.Options{}).HTML)
	require.Equal(t, 3, remembered(), "the two calls and the one in the condition")
	s.Rest()
	require.Zero(t, remembered())
	require.Equal(t, want, string(render.Page(s, "pages/x.html", render.Options{}).HTML))
	require.Equal(t, 3, remembered())
}
