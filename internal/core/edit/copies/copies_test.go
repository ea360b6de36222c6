package copies_test

import (
	"testing"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"brickshelf/internal/core/edit/copies"
	"brickshelf/internal/core/impact"
	"brickshelf/internal/core/render"
	"brickshelf/internal/core/shelf"
	"brickshelf/internal/core/site"
	"brickshelf/internal/core/sitetest"
)

// draw picks a linked placement of a block of a random site.
func draw(t *rapid.T) (site.Files, *shelf.Shelf, string, render.Placement) {
	files := sitetest.Site(t)
	s := sitetest.New(files)
	type spot struct {
		page string
		at   render.Placement
	}
	var linked []spot
	for _, path := range s.PagePaths() {
		if s.Info(path).Draft {
			continue
		}
		for _, p := range render.Page(s, path, render.Options{Placements: true}).Placements {
			if p.Kind == render.Linked && s.Block(p.Block) != nil {
				linked = append(linked, spot{path, p})
			}
		}
	}
	if len(linked) == 0 { // such a site is of no use here, and one more page with a call is
		files["blocks/drawn.html"] = []byte("<p>@{=page.title}@{=inner}</p>")
		files["pages/drawn.html"] = []byte("@{drawn}x@{/drawn}")
		s = sitetest.New(files)
		return files, s, "pages/drawn.html", render.Page(s, "pages/drawn.html",
			render.Options{Placements: true}).Placements[0]
	}
	found := rapid.SampledFrom(linked).Draw(t, "placement")
	return files, s, found.page, found.at
}

// seen is what either audience sees of a page.
func seen(s *shelf.Shelf, path string) string {
	return sitetest.HTML(s, path) + string(render.Page(s, path, render.Options{SignedIn: true}).HTML)
}

func TestDetachingChangesNoByteOfAnyPage(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		files, s, path, p := draw(t)
		set, err := copies.Detach(s, path, p.Address)
		require.NoError(t, err)
		after := sitetest.New(sitetest.Apply(t, files, set))
		require.Empty(t, after.DocProblems(path).Invalid(), "%s", set.Changes[0].After)
		for _, q := range s.PagePaths() {
			require.Equal(t, seen(s, q), seen(after, q), "%s at %s of %s:\n%s", p.Block, p.Address, path,
				set.Changes[0].After)
		}
		kept := placementsBut(s, path, p.Address)
		require.Equal(t, kept, placementsBut(after, path, p.Address),
			"the other placements keep their addresses:\n%s", set.Changes[0].After)
	})
}

// placementsBut lists the addresses on a page, but for one and how often.
func placementsBut(s *shelf.Shelf, path, address string) map[string]string {
	out := map[string]string{}
	for _, p := range render.Page(s, path, render.Options{Placements: true}).Placements {
		if p.Address != address {
			out[p.Address] = p.Block
		}
	}
	return out
}

func TestALaterEditLeavesExactlyTheDetachedPlacementAlone(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		files, s, path, p := draw(t)
		set, err := copies.Detach(s, path, p.Address)
		require.NoError(t, err)
		detached := sitetest.Apply(t, files, set)
		later := site.Change{Path: "blocks/" + p.Block + ".html", Before: s.Hash("blocks/" + p.Block +
			".html"), After: []byte("entirely new @{=inner}")}
		linkedImpact := impact.Of(s, s.With([]site.Change{later}))
		d := sitetest.New(detached)
		o := d.With([]site.Change{later})
		got := impact.Of(d, o)
		for _, q := range s.PagePaths() {
			if q != path {
				require.Equal(t, effectOf(linkedImpact, q), effectOf(got, q), q)
			}
		}
		at := func(sh *shelf.Shelf) string {
			for _, c := range render.Page(sh, path, render.Options{Placements: true}).Placements {
				if c.Address == p.Address {
					require.Equal(t, render.Copied, c.Kind)
					return c.Block
				}
			}
			return ""
		}
		require.Equal(t, p.Block, at(d))
		alone := true
		for _, signedIn := range []bool{false, true} {
			for _, c := range render.Page(d, path, render.Options{Placements: true,
				SignedIn: signedIn}).Placements {
				alone = alone && (c.Kind != render.Linked || c.Block != p.Block)
			}
		}
		if alone {
			require.Equal(t, seen(d, path), seen(o, path))
			require.Equal(t, impact.Copied, effectOf(got, path))
		}
	})
}

func effectOf(im *impact.Impact, doc string) impact.Effect {
	for _, p := range im.Pages {
		if p.Doc == doc {
			return p.Effect
		}
	}
	return impact.Untouched
}

func TestLinkingAgainGivesThePageBack(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		files, s, path, p := draw(t)
		set, err := copies.Detach(s, path, p.Address)
		require.NoError(t, err)
		d := sitetest.New(sitetest.Apply(t, files, set))
		back, err := copies.Link(d, path, p.Address)
		require.NoError(t, err)
		o := d.With(back.Changes)
		require.Equal(t, seen(s, path), seen(o, path))
		if p.InText {
			require.Equal(t, string(files[path]), string(back.Changes[0].After),
				"the text is as it was before")
		}
	})
}

func TestDetachRefuses(t *testing.T) {
	s := shelf.New(site.Files{
		"site.yaml":       []byte("format: brickshelf/1\n"),
		"blocks/a.html":   []byte("a"),
		"pages/p.html":    []byte("@{a /}"),
		"pages/copy.html": []byte(`@{copy of="a" base="x"}old@{/copy}`),
	}, sitetest.Now)
	for _, c := range []struct{ page, address, want string }{
		{"pages/none.html", "main/a~1", "there is no page"},
		{"pages/p.html", "main/a~2", "nothing stands at main/a~2"},
		{"pages/copy.html", "main/a~1", "is a copy already"},
	} {
		_, err := copies.Detach(s, c.page, c.address)
		require.ErrorContains(t, err, c.want)
	}
	_, err := copies.Link(s, "pages/p.html", "main/a~1")
	require.ErrorContains(t, err, "there is no copy")
}
