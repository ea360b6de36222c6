package documents_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"brickshelf/internal/core/edit/documents"
	"brickshelf/internal/core/site"
	"brickshelf/internal/core/sitetest"
)

func TestMakingABlockOfAPiece(t *testing.T) {
	page := "---\ntitle: é\n---\n<p>a</p>\n<section><h2>Tom &amp; Co</h2> <a href=\"/x/\">More</a><img src=\"/i.svg\" alt=\"\">@{hi /}</section>\n<p>z</p>"
	f, s := stock("blocks/hi.html", "hi", "pages/p.html", page)
	from, to := strings.Index(page, "\n<section"), strings.Index(page, "<p>z")
	piece, err := documents.CutPiece(s, "pages/p.html", from, to)
	require.NoError(t, err)
	got := map[string]string{}
	for _, p := range piece.Parts {
		got[p.Field] = string(p.Type) + " " + p.Value
	}
	require.Equal(t, map[string]string{"title": "text Tom & Co", "link": "link /x/", "text": "text More",
		"image": "image /i.svg"}, got)
	set, err := documents.FromPiece(s, "pages/p.html", from, to, documents.Wanted{Name: "promo",
		Title: "Promo", Category: "Text", Fields: []string{"title", "link"}, Link: true})
	o := after(t, f, set, err)
	require.Equal(t, "---\ntitle: é\n---\n<p>a</p>\n@{promo /}\n<p>z</p>", sitetest.Source(o, "pages/p.html"))
	require.Equal(t,
		"---\ntitle: Promo\ncategory: Text\nfields:\n  title: {type: text, default: \"Tom & Co\"}\n  link: {type: link, default: \"/x/\"}\n---\n<section><h2>@{=title}</h2> <a href=\"@{=link}\">More</a><img src=\"/i.svg\" alt=\"\">@{hi /}</section>", sitetest.Source(o, "blocks/promo.html"))
	require.Equal(t, sitetest.HTML(s, "pages/p.html"), sitetest.HTML(o, "pages/p.html"))
	set, err = documents.FromPiece(s, "pages/p.html", from, to, documents.Wanted{Name: "promo",
		Title: "Promo"})
	o = after(t, f, set, err)
	base := string(site.HashOf([]byte(sitetest.Source(o, "blocks/promo.html"))))
	require.Equal(t, "---\ntitle: é\n---\n<p>a</p>\n@{copy of=\"promo\" base=\""+base+"\" call=\"@{promo /}\"}"+
		strings.TrimSpace(page[from:to])+"@{/copy}\n<p>z</p>", sitetest.Source(o, "pages/p.html"), "the spot is a copy")
	require.Equal(t, sitetest.HTML(s, "pages/p.html"), sitetest.HTML(o, "pages/p.html"))
}

func TestPiecesThatAreRefused(t *testing.T) {
	page := "---\noverrides: {\"main/hi~2\": {t: own}}\n---\n<div><p>a</p>@{box}in@{/box}</div>@{hi /}@{hi /}"
	_, s := stock("blocks/hi.html", "---\nfields: {t: {type: text, default: x}}\n---\n@{=t}",
		"blocks/box.html", "@{=inner}", "pages/p.html", page)
	for piece, want := range map[string]string{
		"<div><p>a</p>":      "the beginning of an element whose end",
		"a</p>":              "the end of an element whose beginning",
		"in@{/box}":          "inside a call",
		"overrides":          "below its front matter",
		"@{hi /}@{hi /}":     "values of its own",
		"<p>a</p>@{box}in@{": "inside a call",
	} {
		from := strings.Index(page, piece)
		_, err := documents.FromPiece(s, "pages/p.html", from, from+len(piece), documents.Wanted{Name: "new",
			Title: "New", Link: true})
		require.ErrorContains(t, err, want, piece)
	}
	from := strings.Index(page, "<p>a</p>")
	_, err := documents.FromPiece(s, "pages/p.html", from, from+8, documents.Wanted{Name: "hi", Title: "x"})
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
		w := documents.Wanted{Name: "piece", Title: "Piece", Link: true}
		p, err := documents.CutPiece(s, path, min(from, to), max(from, to))
		if err == nil {
			for _, part := range p.Parts {
				w.Fields = append(w.Fields, part.Field)
			}
		}
		set, err := documents.FromPiece(s, path, min(from, to), max(from, to), w)
		if err != nil {
			var refusal *site.Refusal
			require.ErrorAs(t, err, &refusal)
			return
		}
		taken++
		o := sitetest.New(sitetest.Apply(t, files, set))
		for _, q := range s.PagePaths() {
			require.Equal(t, sitetest.HTML(s, q), sitetest.HTML(o, q), "%s\n%s", set.Changes[0].After,
				set.Changes[len(set.Changes)-1].After)
		}
	})
	require.Positive(t, taken, "some pieces can be taken")
}
