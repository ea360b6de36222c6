package edit_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"brickshelf/internal/core/edit"
	"brickshelf/internal/core/site"
	"brickshelf/internal/core/sitetest"
)

func TestMakingABlockOfAPiece(t *testing.T) {
	page := "---\ntitle: é\n---\n<p>a</p>\n<section><h2>Tom &amp; Co</h2> <a href=\"/x/\">More</a><img src=\"/i.svg\" alt=\"\">@{hi /}</section>\n<p>z</p>"
	f, s := shelf("blocks/hi.html", "hi", "pages/p.html", page)
	from, to := strings.Index(page, "\n<section"), strings.Index(page, "<p>z")
	piece, err := edit.CutPiece(s, "pages/p.html", from, to)
	require.NoError(t, err)
	got := map[string]string{}
	for _, p := range piece.Parts {
		got[p.Field] = string(p.Type) + " " + p.Value
	}
	require.Equal(t, map[string]string{"title": "text Tom & Co", "link": "link /x/", "text": "text More", "image": "image /i.svg"}, got)
	set, err := edit.FromPiece(s, "pages/p.html", from, to, edit.Wanted{Name: "promo", Title: "Promo", Category: "Text", Fields: []string{"title", "link"}, Link: true})
	o := after(t, f, set, err)
	require.Equal(t, "---\ntitle: é\n---\n<p>a</p>\n@{promo /}\n<p>z</p>", doc(o, "pages/p.html"))
	require.Equal(t, "---\ntitle: Promo\ncategory: Text\nfields:\n  title: {type: text, default: \"Tom & Co\"}\n  link: {type: link, default: \"/x/\"}\n---\n<section><h2>@{=title}</h2> <a href=\"@{=link}\">More</a><img src=\"/i.svg\" alt=\"\">@{hi /}</section>", doc(o, "blocks/promo.html"))
	require.Equal(t, html(s, "pages/p.html"), html(o, "pages/p.html"))
	set, err = edit.FromPiece(s, "pages/p.html", from, to, edit.Wanted{Name: "promo", Title: "Promo"})
	require.Equal(t, page, doc(after(t, f, set, err), "pages/p.html"), "the spot stays as it is")
}

func TestPiecesThatAreRefused(t *testing.T) {
	page := "---\noverrides: {\"main/hi~2\": {t: own}}\n---\n<div><p>a</p>@{box}in@{/box}</div>@{hi /}@{hi /}"
	_, s := shelf("blocks/hi.html", "---\nfields: {t: {type: text, default: x}}\n---\n@{=t}", "blocks/box.html", "@{=inner}", "pages/p.html", page)
	for piece, want := range map[string]string{
		"<div><p>a</p>":      "the beginning of an element whose end",
		"a</p>":              "the end of an element whose beginning",
		"in@{/box}":          "inside a call",
		"overrides":          "below its front matter",
		"@{hi /}@{hi /}":     "values of its own",
		"<p>a</p>@{box}in@{": "inside a call",
	} {
		from := strings.Index(page, piece)
		_, err := edit.FromPiece(s, "pages/p.html", from, from+len(piece), edit.Wanted{Name: "new", Title: "New", Link: true})
		require.ErrorContains(t, err, want, piece)
	}
	from := strings.Index(page, "<p>a</p>")
	_, err := edit.FromPiece(s, "pages/p.html", from, from+8, edit.Wanted{Name: "hi", Title: "x"})
	require.ErrorContains(t, err, "already")
}

// Whatever piece is taken, either every page keeps its bytes or the piece is refused.
func TestAPieceNeverChangesThePage(t *testing.T) {
	taken := 0
	rapid.Check(t, func(t *rapid.T) {
		files := sitetest.Site(t)
		s := sitetest.New(files)
		path := rapid.SampledFrom(s.PagePaths()).Draw(t, "page")
		g := s.Info(path).Page
		var ends []int // where one node of the page's text ends and the next begins
		for _, n := range g.Text.Nodes {
			ends = append(ends, g.Split.TextAt+n.Span.From, g.Split.TextAt+n.Span.To)
		}
		if len(ends) == 0 {
			return
		}
		from, to := rapid.SampledFrom(ends).Draw(t, "from"), rapid.SampledFrom(ends).Draw(t, "to")
		if rapid.IntRange(0, 3).Draw(t, "off") == 0 {
			to += rapid.IntRange(-5, 5).Draw(t, "by")
		}
		w := edit.Wanted{Name: "piece", Title: "Piece", Link: true}
		p, err := edit.CutPiece(s, path, min(from, to), max(from, to))
		if err == nil {
			for _, part := range p.Parts {
				w.Fields = append(w.Fields, part.Field)
			}
		}
		set, err := edit.FromPiece(s, path, min(from, to), max(from, to), w)
		if err != nil {
			var refusal *site.Refusal
			require.ErrorAs(t, err, &refusal)
			return
		}
		taken++
		o := sitetest.New(apply(t, files, set))
		for _, q := range s.PagePaths() {
			require.Equal(t, html(s, q), html(o, q), "%s\n%s", set.Changes[0].After, set.Changes[len(set.Changes)-1].After)
		}
	})
	require.Positive(t, taken, "some pieces can be taken")
}
