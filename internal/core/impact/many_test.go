package impact_test

import (
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"brickshelf/internal/core/impact"
	"brickshelf/internal/core/render"
	"brickshelf/internal/core/site"
	"brickshelf/internal/core/sitetest"
)

// edited is a site and an edit of it.
type edited struct {
	before  site.Files
	changes []site.Change
}

// drawn gives one such pair for each number.
func drawn(n int) []edited {
	one := rapid.Custom(func(t *rapid.T) edited {
		before := sitetest.Site(t)
		after := apply(t, before, sitetest.Edit(t, before))
		return edited{before, site.Diff(before, after).Changes} // without what changes nothing
	})
	out := make([]edited, n)
	for i := range out {
		out[i] = one.Example(i)
	}
	return out
}

// grown is a site with each of its pages standing there so many times.
func grown(f site.Files, times int) site.Files {
	out := site.Files{}
	for p, b := range f {
		out[p] = b
		if stem, ok := strings.CutSuffix(p, ".html"); ok && strings.HasPrefix(p, "pages/") {
			for i := range times {
				out[fmt.Sprintf("%s-%d.html", stem, i)] = b
			}
		}
	}
	return out
}

// agree holds an impact to what it should be, page by page.
func agree(t *testing.T, want, got *impact.Impact, d edited) {
	t.Helper()
	require.Equal(t, want.Counts, got.Counts, "edits %v", paths(d.changes))
	require.Len(t, got.Pages, len(want.Pages))
	for i := range want.Pages {
		require.Equal(t, want.Pages[i], got.Pages[i])
	}
	require.Equal(t, want.Total, got.Total)
}

// What an edit reaches is marked in another way where it is many pages, and they
// are evaluated side by side.
func TestImpactOnManyPages(t *testing.T) {
	reached := 0
	for i, d := range drawn(8) {
		before := grown(d.before, 900/len(sitetest.New(d.before).PagePaths()))
		if p := "layouts/one.html"; i%2 == 1 { // every page with this layout shows it
			d.changes = append(d.changes, site.Change{Path: p, Before: site.HashOf(before[p]),
				After: append([]byte(nil), string(before[p])+"<hr>"...)})
		}
		after := apply(t, before, d.changes)
		stock := sitetest.New(before)
		if i%4 < 2 {
			for _, p := range stock.PagePaths() {
				render.Page(stock, p, render.Options{})
			}
		}
		got := impact.Of(stock, stock.With(d.changes))
		agree(t, oracle(before, after), got, d)
		bytesDecide(t, got, sitetest.New(before), sitetest.New(after))
		reached = max(reached, len(got.Pages))
	}
	require.Greater(t, reached, 512, "an edit that many pages show has to be among them")
}

// What holds for a page holds for each other one that is as it is, but for its
// address.
func TestPagesThatAreAlikeFareAlike(t *testing.T) {
	for _, d := range drawn(20) {
		before := grown(d.before, 25)
		stock := sitetest.New(before)
		effects := map[string]map[impact.Effect]int{}
		edits := map[string]bool{}
		for _, c := range d.changes {
			edits[c.Path] = true
		}
		for _, p := range impact.Of(stock, stock.With(d.changes)).Pages {
			stem, number, copied := strings.Cut(strings.TrimSuffix(p.Doc, ".html"), "-")
			if !copied || number == "" {
				continue // the rules speak of it, and other pages lead to it
			}
			if effects[stem] == nil {
				effects[stem] = map[impact.Effect]int{}
			}
			effects[stem][p.Effect]++
		}
		for stem, counts := range effects {
			require.Len(t, counts, 1, "the pages made from %s: %v", stem, counts)
			for effect, n := range counts {
				require.Equal(t, 25, n, "%s of the pages made from %s", effect, stem)
			}
		}
	}
}

func TestASiteThatMovesAsAWholeIsComparedPageByPage(t *testing.T) {
	for i, d := range drawn(40) {
		config := string(d.before["site.yaml"]) + []string{"exact_urls: true\n", "home: /a/p0/\n"}[i%2]
		after := apply(t, d.before, d.changes)
		after["site.yaml"] = []byte(config)
		stock := sitetest.New(d.before)
		got, o := impact.Whole(stock, after)
		require.False(t, o.Overlay())
		agree(t, oracle(d.before, after), got, d)
		bytesDecide(t, got, sitetest.New(d.before), sitetest.New(after))
		for _, p := range o.PagePaths() {
			require.Equal(t, string(render.Page(sitetest.New(after), p, render.Options{}).HTML),
				string(render.Page(o, p, render.Options{}).HTML), p)
		}
	}
}

func TestWhatOneSiteMakesOfAnother(t *testing.T) {
	all := drawn(20)
	for i, d := range all {
		before, after := d.before, all[(i+1)%len(all)].before
		got, _ := impact.Whole(sitetest.New(before), after)
		require.Equal(t, oracle(before, after), got)
		back, _ := impact.Whole(sitetest.New(after), before)
		require.Equal(t, got.Counts[impact.Added], back.Counts[impact.Removed])
		require.Equal(t, got.Counts[impact.Removed], back.Counts[impact.Added])
		require.Equal(t, got.Counts[impact.Changes], back.Counts[impact.Changes])
	}
}

func TestTheFirstReleaseAddsEveryPageThatIsNoDraft(t *testing.T) {
	for _, d := range drawn(20) {
		s := sitetest.New(d.before)
		im := impact.First(s)
		var want []string
		for _, p := range s.PagePaths() {
			if !s.Info(p).Draft {
				want = append(want, s.Info(p).URL)
			}
		}
		var got []string
		for _, p := range im.Pages {
			require.Equal(t, impact.Added, p.Effect)
			got = append(got, p.Path)
		}
		require.Equal(t, want, got)
		require.Equal(t, len(want), im.Total)
		require.Equal(t, len(want), im.Counts[impact.Added])
		require.NotContains(t, im.Sentence(), "breaks", "nobody looked for that")
	}
}

func TestTurnedIsTheImpactOfTheWayBack(t *testing.T) {
	for _, d := range drawn(60) {
		after := apply(t, d.before, d.changes)
		s := sitetest.New(d.before)
		if o := s.With(d.changes); o.Overlay() {
			agree(t, oracle(after, d.before), impact.Turned(s, o), d)
		}
	}
}
