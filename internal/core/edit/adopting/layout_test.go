package adopting_test

import (
	"fmt"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"brickshelf/internal/core/edit/adopting"
	"brickshelf/internal/core/repeat"
)

// book are pages with one frame, whose top opens what its bottom closes.
func book() map[string]string {
	out := map[string]string{}
	for i := range 8 {
		deep := strings.Repeat("../", i%2)
		out[strings.Repeat("d/", i%2)+fmt.Sprintf("p%d.html", i)] = fmt.Sprintf(`<!doctype html>
<html><head><title>Chapter %d &amp; more</title><link rel="stylesheet" href="%smill.css"></head>
<body class="book"><div class="wrap"><div class="head"><b>The handbook of the mill</b> <i title="Kept by %s">of 1890</i></div>
<h1>%c</h1>%s
<div class="foot">Kept by the keepers of the mill house, at the end of the long pond</div></div></body></html>
`, i, deep, []string{"Ida", "Ole"}[i%2], 'a'+i, strings.Repeat("<p>"+strings.Repeat(string(rune('a'+i)), 40)+"</p><h2>x</h2>", 20+i))
	}
	return out
}

// whole reports whether a piece is all of its pages.
func whole(p *repeat.Piece) bool {
	m := string(p.Markup())
	return strings.HasPrefix(m, "<!doctype") && strings.HasSuffix(m, "</html>")
}

// edges are the pieces with which pages begin and end.
func edges(t *testing.T, pieces []*repeat.Piece) (top, bottom *repeat.Piece) {
	at := slices.IndexFunc(pieces, func(p *repeat.Piece) bool {
		return p.Places[0].From == 0 && p.Pages == 8 && !whole(p)
	})
	require.GreaterOrEqual(t, at, 0)
	to := slices.IndexFunc(pieces, func(p *repeat.Piece) bool {
		return p.Pages == 8 && !whole(p) && strings.HasSuffix(string(p.Markup()), "</html>")
	})
	require.GreaterOrEqual(t, to, 0)
	return pieces[at], pieces[to]
}

// Pages with one frame become content with a layout, and no byte of them changes.
func TestTheFrameOfPagesBecomesALayout(t *testing.T) {
	pages := book()
	pages["p2.html"] = strings.Replace(pages["p2.html"], "Kept by Ida", "Kept by &#73;da", 1)
	s := siteOf(pages)
	looked, pieces := find(t, s)
	top, bottom := edges(t, pieces)
	set, made, err := adopting.Layout(s, looked, adopting.WantedLayout{Top: top, Bottom: bottom, Title: "Chapter"})
	require.NoError(t, err)
	require.Equal(t, "chapter", made.Name)
	require.Equal(t, 7, made.Pages)
	require.Equal(t, []string{"pages/p2.html"}, made.Left, "its value is spelled as front matter cannot")
	o := after(s, set)
	same(t, o, pages)
	in := o.Info("pages/d/p3.html")
	require.Equal(t, "chapter", in.Page.Layout)
	require.Equal(t, "Chapter 3 & more", in.Page.Title)
	require.NotContains(t, string(in.Page.Text.Src), "handbook")
	require.True(t, strings.HasPrefix(string(in.Page.Text.Src), "<p>ddd"))
	require.NotNil(t, o.Layout("chapter").Region("main"))
}

func TestLayoutsThatAreRefused(t *testing.T) {
	s := siteOf(book())
	looked, pieces := find(t, s)
	top, bottom := edges(t, pieces)
	_, _, err := adopting.Layout(s, looked, adopting.WantedLayout{Top: bottom, Bottom: top})
	require.ErrorContains(t, err, "no page begins with")
	_, _, err = adopting.Layout(s, looked, adopting.WantedLayout{Top: top, Bottom: bottom, Name: "No"})
	require.ErrorContains(t, err, "cannot name a layout")
}
