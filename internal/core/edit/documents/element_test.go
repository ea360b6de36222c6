package documents_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"brickshelf/internal/core/edit/documents"
	"brickshelf/internal/core/render"
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
		from, to, err := documents.Element([]byte(c.text), max(0, strings.IndexByte(c.text, '<')))
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
	_, s := stock("layouts/l.html", "<html><head></head>@{region main /}</html>", "blocks/b.html",
		"<b>@{=inner}</b>", "blocks/b.css", "b{}",
		"pages/p.html",
		"---\nlayout: l\n---\n<p>one</p>@{b}<i>two</i>@{/b}@{# no }<p title=\"@{=page.title}\">é</p>",
		"pages/q.html", "<head></head><p>@{b /}x")
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
