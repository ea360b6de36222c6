package render_test

import (
	"regexp"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"brickshelf/internal/core/assets"
	"brickshelf/internal/core/render"
	"brickshelf/internal/core/site"
	"brickshelf/internal/core/sitetest"
)

// revised is a site of which a page shows a block and copies of older revisions of it.
func revised() site.Files {
	old, older := ".card{color:red}", ".card{color:blue}"
	hash := func(s string) string { return string(site.HashOf([]byte(s))) }
	return site.Files{
		"site.yaml":               []byte("format: brickshelf/1\n"),
		"layouts/l.html":          []byte("<head></head>@{region main /}@{card /}"),
		"blocks/card.html":        []byte(`<div class="card">now</div><hr>`),
		"blocks/card.css":         []byte(".card{color:green}"),
		"blocks/card.js":          []byte("now()"),
		"blocks/other.html":       []byte("<p>other@{card /}"),
		"blocks/other.css":        []byte("p{}"),
		"history/" + hash(old):    []byte(old),
		"history/" + hash(older):  []byte(older),
		"history/" + hash("then"): []byte("then"),
		"pages/p.html": []byte("---\nlayout: l\ncopies: {main/other~1/card~1: {of: card, base: x, style: " + hash(older) +
			", text: '<i>older</i>'}}\n---\n" + `<b>a</b>@{copy of="card" base="x" style="` + hash(old) + `" behaviour="` +
			hash("then") + `"}<div class="card">then</div>@{/copy}@{other /}@{card /}`),
		"pages/q.html": []byte("---\nlayout: l\n---\n" + `@{copy of="card" base="x" style="` + hash(".card{color:green}") +
			`" behaviour="` + hash("now()") + `"}<div class="card">same</div>@{/copy}`),
	}
}

func TestRevisionsOfABlockLiveApart(t *testing.T) {
	files := revised()
	s := sitetest.New(files)
	res := render.Page(s, "pages/p.html", render.Options{Placements: true})
	html := string(res.HTML)
	group := regexp.MustCompile(`data-shelf-(\w{8})=`).FindStringSubmatch(html)[1]
	mark := func(style, code string) string {
		short := func(s string) string {
			if s == "" {
				return "0"
			}
			return string(site.HashOf([]byte(s)))[:8]
		}
		return ` data-shelf-` + group + `="` + short(style) + "-" + short(code) + `"`
	}
	now, then := mark(".card{color:green}", "now()"), mark(".card{color:red}", "then")
	older := mark(".card{color:blue}", "")
	require.Contains(t, html, `<b>a</b><div`+then+` class="card">then</div><p>other<i`+older+`>older</i><div`+now+
		` class="card">now</div><hr`+now+`>`)
	var names, texts []string
	for _, f := range append(res.Styles, res.Behaviours...) {
		names = append(names, strings.TrimLeft(strings.TrimPrefix(f.Name(), string(f.Hash[:32])), ""))
		b, ok := f.Bytes(s)
		require.True(t, ok)
		again, ok := assets.Named(s, f.Name())
		require.True(t, ok, f.Name())
		require.Equal(t, string(b), string(again))
		texts = append(texts, string(b))
	}
	require.Equal(t, []string{"~" + group + "~only.css", ".css", "~" + group + "~only.css", "~" + group + "~rest.css",
		"~" + group + "~only.js", "~" + group + "~rest.js"}, names)
	require.Equal(t, "p{}", texts[1], "nobody else is confined")
	require.Regexp(t, `^\.card:where\(\[data-shelf`, texts[0])
	require.Regexp(t, `^\.card:where\(:not\(\[data-shelf`, texts[3])
	for _, p := range res.Placements { // they stand where they say
		require.Regexp(t, `^<`, html[p.From:p.To], p.Address)
	}
	for _, l := range res.Literals {
		require.Equal(t, html[l.From:l.To], string(files["pages/p.html"][l.At:l.At+l.To-l.From]))
	}
	require.Equal(t, html, string(render.AppendPage(s, nil, s.Info("pages/p.html"))))
	require.NotContains(t, sitetest.HTML(s, "pages/q.html"), "data-shelf", "one revision alone is not marked")
	require.NotContains(t, sitetest.HTML(s, "pages/q.html"), "~")

	for _, name := range []string{"x.css", "~.css", strings.Repeat("0", 32) + ".css", res.Styles[0].Name()[:32] +
		"~" + group + "~most.css", "nothing"} {
		_, ok := assets.Named(s, name)
		require.False(t, ok, name)
	}
}

// A page that has only copies stays as it is, byte by byte, whatever becomes of their block.
func TestCopiesKeepTheirRevisionWhateverBecomesOfTheBlock(t *testing.T) {
	files := revised()
	files["layouts/l.html"] = []byte("<head></head>@{region main /}")
	text := string(files["pages/p.html"])
	files["pages/p.html"] = []byte(strings.TrimSuffix(text, "@{card /}"))
	was := sitetest.HTML(sitetest.New(files), "pages/p.html")
	require.Contains(t, was, "data-shelf")
	for _, change := range []site.Files{{"blocks/card.css": []byte("x{}")}, {"blocks/card.js": []byte("x")},
		{"blocks/card.css": nil, "blocks/card.js": nil}} {
		edited := revised()
		for p, b := range files {
			edited[p] = b
		}
		for p, b := range change {
			if edited[p] = b; b == nil {
				delete(edited, p)
			}
		}
		require.Equal(t, was, sitetest.HTML(sitetest.New(edited), "pages/p.html"))
	}
}

// On drawn pages, every outermost element of a placement of a block that is shown in several
// revisions has the mark of its own, and nothing else has one; each sheet is confined to one.
func TestMarksAreThoseOfTheirRevision(t *testing.T) {
	attr := regexp.MustCompile(` data-shelf-(\w{8})="([0-9a-f]+-[0-9a-f]+)"`)
	rapid.Check(t, func(t *rapid.T) {
		s := sitetest.New(sitetest.Site(t))
		for _, path := range s.PagePaths() {
			res := render.Page(s, path, render.Options{Placements: true})
			confined := map[string]bool{}
			for _, f := range append(res.Styles, res.Behaviours...) {
				if f.Of != "" {
					confined[f.Of] = true
				}
			}
			for _, m := range attr.FindAllStringSubmatch(string(res.HTML), -1) {
				require.True(t, confined[m[1]], "a mark without a sheet that knows it")
			}
			require.Equal(t, string(res.HTML), string(render.AppendPage(s, nil, s.Info(path))))
			for g := range confined {
				rest := 0
				for _, f := range res.Styles {
					if f.Of == g && f.Role == "rest" {
						rest++
					}
				}
				require.LessOrEqual(t, rest, 1)
			}
		}
	})
}
