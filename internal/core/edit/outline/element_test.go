package outline_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"brickshelf/internal/core/edit/outline"
	"brickshelf/internal/core/render"
	"brickshelf/internal/core/site"
	"brickshelf/internal/core/sitetest"
)

func TestElementsOfAPagesText(t *testing.T) {
	for _, c := range []struct{ text, element string }{
		{"a <p>b</p> c", "<p>b</p>"},
		{"<div><div>x</div>y</div>z", "<div><div>x</div>y</div>"},
		{"<p>a<br>b<img src=x></p>", "<p>a<br>b<img src=x></p>"},
		{"<br>a", "<br>"},
		{"<img src=\"a>b\"/>c", "<img src=\"a>b\"/>"},
		{"<section>@{a n=\"</section>\" /}</section>", "<section>@{a n=\"</section>\" /}</section>"},
		{"<p>never", ""},
		{"text", ""},
	} {
		from, to, err := outline.Element([]byte(c.text), max(0, strings.IndexByte(c.text, '<')))
		if c.element == "" {
			require.Error(t, err, c.text)
			continue
		}
		require.NoError(t, err)
		require.Equal(t, c.element, c.text[from:to])
	}
}

// Each literal of a page says truly where its bytes stand in the document.
func TestLiteralsStandWhereTheySay(t *testing.T) {
	s := sitetest.New(site.Files{"layouts/l.html": []byte("<html><head></head>@{region main /}</html>"),
		"site.yaml": []byte("format: brickshelf/1\n"), "blocks/b.html": []byte("<b>@{=inner}</b>"), "blocks/b.css": []byte("b{}"),
		"pages/p.html": []byte("---\nlayout: l\n---\n<p>one</p>@{b}<i>two</i>@{/b}@{# no }<p title=\"@{=page.title}\">é</p>"),
		"pages/q.html": []byte("<head></head><p>@{b /}x")})
	for _, p := range []string{"pages/p.html", "pages/q.html"} {
		src, _ := s.Get(p)
		res := render.Page(s, p, render.Options{Placements: true})
		n := 0
		for _, l := range res.Literals {
			require.Equal(t, string(src[l.At:l.At+l.To-l.From]), string(res.HTML[l.From:l.To]))
			n += l.To - l.From
		}
		require.Greater(t, n, 5)
	}
}
