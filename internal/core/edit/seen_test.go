package edit_test

import (
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"brickshelf/internal/core/check"
	"brickshelf/internal/core/edit/copies"
	"brickshelf/internal/core/edit/documents"
	"brickshelf/internal/core/edit/placing"
	"brickshelf/internal/core/explain"
	"brickshelf/internal/core/impact"
	"brickshelf/internal/core/render"
	"brickshelf/internal/core/shelf"
	"brickshelf/internal/core/site"
	"brickshelf/internal/core/sitetest"
)

// club is a site with blocks that only some visitors see: members, and everyone next week.
func club() site.Files {
	in := func(days int) string { return sitetest.Now.AddDate(0, 0, days).Format(time.DateOnly) }
	return site.Files{
		"site.yaml":          []byte("format: brickshelf/1\nname: x\n"),
		"layouts/l.html":     []byte("---\nregions: {bar: {mode: stack}, main: {mode: stack}}\n---\n@{region bar /}@{region main /}"),
		"blocks/offer.html":  []byte("---\nfields: {text: {type: text, default: ten}}\n---\n<i>@{=text}</i>"),
		"blocks/fair.html":   []byte("<u>fair</u>"),
		"rules/members.yaml": []byte("block: offer\nregion: bar\non: [all]\naudience: signed-in\n"),
		"rules/fair.yaml": []byte("block: fair\nregion: bar\non: [all]\nfrom: " + in(7) + "\nuntil: " +
			in(9) + "\n"),
		"pages/p.html": []byte("---\nlayout: l\n---\np"),
	}
}

// whoever is what a page shows to everyone who ever sees another thing there.
func whoever(s *shelf.Shelf) []string {
	var out []string
	for _, d := range []int{0, 7, 10} {
		for _, signedIn := range []bool{false, true} {
			out = append(out, string(render.Page(s.At(sitetest.Now.AddDate(0, 0, d)), "pages/p.html",
				render.Options{SignedIn: signedIn}).HTML))
		}
	}
	return out
}

func TestPlacementsThatOnlySomeSeeAreTold(t *testing.T) {
	s := sitetest.New(club())
	sights := map[string]render.Sight{}
	for _, p := range render.Placements(s, "pages/p.html") {
		sights[p.Address] = p.Sight
	}
	day := func(n int) string { return sitetest.Now.AddDate(0, 0, n).Format(time.DateOnly) }
	require.Equal(t, map[string]render.Sight{"bar/rule:members": {Audience: shelf.SignedIn},
		"bar/rule:fair": {From: day(7), Until: day(9)}}, sights)
	require.Equal(t, []string{"p", "<i>ten</i>p", "<u>fair</u>p", "<u>fair</u><i>ten</i>p", "p",
		"<i>ten</i>p"}, whoever(s))
}

// A block that only some see is detached, and deleted with copies left, without anybody's
// losing what he saw; and what was detached is linked again.
func TestWhatOnlySomeSeeIsDetachedDeletedAndLinked(t *testing.T) {
	for address, block := range map[string]string{"bar/rule:members": "offer", "bar/rule:fair": "fair"} {
		f := club()
		s := sitetest.New(f)
		set, err := copies.Detach(s, "pages/p.html", address)
		require.NoError(t, err)
		detached := sitetest.New(sitetest.Apply(t, f, set))
		require.Equal(t, whoever(s), whoever(detached))
		require.Equal(t, render.Copied, kindAt(detached, address))
		back, err := copies.Link(detached, "pages/p.html", address)
		require.NoError(t, err)
		linked := sitetest.New(sitetest.Apply(t, sitetest.Apply(t, f, set), back))
		require.Equal(t, whoever(s), whoever(linked))
		require.Equal(t, render.Linked, kindAt(linked, address))

		set, _, err = documents.DeleteBlock(s, block, documents.WithCopies, "", nil)
		require.NoError(t, err)
		require.Equal(t, whoever(s), whoever(sitetest.New(sitetest.Apply(t, f, set))),
			"nobody loses what %s showed", block)
	}
}

func kindAt(s *shelf.Shelf, address string) render.PlacementKind {
	for _, p := range render.Placements(s, "pages/p.html") {
		if p.Address == address {
			return p.Kind
		}
	}
	return ""
}

func TestRollOutSkipsPagesWhereOnlySomeSeeTheBlock(t *testing.T) {
	s := sitetest.New(club())
	for _, block := range []string{"offer", "fair"} {
		set, rolled, err := placing.RollOut(s, []string{"pages/p.html"}, "main", "@{"+block+" /}", true)
		require.NoError(t, err)
		require.Empty(t, set.Changes, block)
		require.Contains(t, rolled[0].Why, "is placed by the rule")
	}
}

func TestEffectsOnWhatOnlySomeSee(t *testing.T) {
	s := sitetest.New(club())
	o := s.With([]site.Change{{Path: "blocks/offer.html", After: []byte("new")}})
	im := impact.Of(s, o)
	require.Equal(t, 1, im.Counts[impact.Changes])
	impact.Detail(s, o, []string{"blocks/offer.html"}, &im.Pages[0])
	require.Equal(t, []impact.Placement{{Address: "bar/rule:members", Block: "offer",
		Effect: impact.Changes}}, im.Pages[0].Placements)
	require.Len(t, explain.Values(s, "fair"), 1, "it has a row in the table of values")
}

// What a page sets of a placement goes into the copy and waits there until it is linked
// again: detaching breaks nothing.
func TestDetachingBreaksNothingThatThePageSaid(t *testing.T) {
	f := site.Files{
		"site.yaml":        []byte("format: brickshelf/1\nname: x\n"),
		"layouts/l.html":   []byte("---\nregions: {bar: {mode: one}, main: {mode: stack}}\n---\n@{region bar /}@{region main /}"),
		"blocks/note.html": []byte("---\nfields: {t: {type: text, default: std}}\n---\n<i>@{=t}</i>"),
		"rules/r.yaml":     []byte("block: note\nregion: bar\non: [all]\n"),
		"pages/p.html":     []byte("---\nlayout: l\noverrides: {\"bar/rule:r\": {t: own}, main/note~1: {t: mine}}\n---\n@{note /}"),
	}
	s := sitetest.New(f)
	for _, address := range []string{"bar/rule:r", "main/note~1"} {
		set, err := copies.Detach(s, "pages/p.html", address)
		require.NoError(t, err)
		o := s.With(set.Changes)
		im := impact.Of(s, o)
		require.Zero(t, im.Breaks(), "%s: %s", address, im.Sentence())
		detached := sitetest.New(sitetest.Apply(t, f, set))
		require.Empty(t, check.Site(detached), address)
		require.Equal(t, whoever(s), whoever(detached))
		back, err := copies.Link(detached, "pages/p.html", address)
		require.NoError(t, err)
		require.Equal(t, whoever(s), whoever(sitetest.New(sitetest.Apply(t, sitetest.Apply(t, f, set),
			back))), "and it counts again")
	}
}
