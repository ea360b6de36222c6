package placing_test

import (
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"brickshelf/internal/core/edit/documents"
	"brickshelf/internal/core/edit/placing"
	"brickshelf/internal/core/place"
	"brickshelf/internal/core/render"
	"brickshelf/internal/core/shelf"
	"brickshelf/internal/core/site"
	"brickshelf/internal/core/sitetest"
)

// Rules come in the order in which they were put, and where one of them was moved and
// there is room, it alone is written anew.
func TestOrderingRules(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		f := sitetest.Site(t)
		mode := rapid.SampledFrom([]place.Mode{place.One, place.Stack}).Draw(t, "mode")
		for range 3 {
			f["rules/"+rapid.StringMatching("[a-d]").Draw(t, "name")+".yaml"] = sitetest.Rule(t)
		}
		s := sitetest.New(f)
		region := rapid.SampledFrom([]string{"head", "main", "side"}).Draw(t, "region")
		var rules []*place.Rule
		for _, r := range s.Rules() {
			if r.Region == region {
				rules = append(rules, r)
			}
		}
		sorted := func(list []*place.Rule) []string {
			slices.SortFunc(list, func(a, b *place.Rule) int { return placing.Before(a, b, mode) })
			var out []string
			for _, r := range list {
				out = append(out, r.Name)
			}
			return out
		}
		was := sorted(rules)
		wanted := rapid.Permutation(was).Draw(t, "wanted")
		set, err := placing.OrderRules(s, region, mode, wanted)
		if slices.Equal(was, wanted) {
			require.Error(t, err)
			return
		}
		require.NoError(t, err)
		var after []*place.Rule
		for _, r := range s.With(set.Changes).Rules() {
			if r.Region == region {
				after = append(after, r)
			}
		}
		require.Equal(t, wanted, sorted(after))
	})
	s := sitetest.New(site.Files{"blocks/b.html": nil,
		"rules/a.yaml": []byte("block: b\nregion: r\non: [all]\norder: 10\n"),
		"rules/b.yaml": []byte("block: b\nregion: r\non: [all]\norder: 20\n"),
		"rules/c.yaml": []byte("block: b\nregion: r\non: [all]\norder: 30\n")})
	set, err := placing.OrderRules(s, "r", place.Stack, []string{"a", "c", "b"})
	require.NoError(t, err)
	require.Len(t, set.Changes, 1)
	_, err = placing.OrderRules(s, "r", place.Stack, []string{"a", "c"})
	require.ErrorContains(t, err, "has 3 rules")
}

// After a roll-out every page that can shows the block, and a page that did is as it
// was; what a roll-out put there can be taken off again.
func TestRollingOut(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		f := sitetest.Site(t)
		f["blocks/fresh.html"] = []byte("<b>fresh</b>")
		s := sitetest.New(f)
		name := rapid.SampledFrom([]string{"fresh", "b0", "b3"}).Draw(t, "block")
		region := rapid.SampledFrom([]string{"head", "main", "side"}).Draw(t, "region")
		set, rolled, err := placing.RollOut(s, s.PagePaths(), region, "@{"+name+" /}",
			rapid.Bool().Draw(t, "start"))
		require.NoError(t, err)
		o := sitetest.New(sitetest.Apply(t, f, set))
		shows := func(s *shelf.Shelf, path string) int {
			n := 0
			for _, p := range render.Placements(s, path) {
				if p.Block == name && p.Kind != render.Hidden {
					n++
				}
			}
			return n
		}
		var got []string
		for _, r := range rolled {
			changed := slices.ContainsFunc(set.Changes, func(c site.Change) bool { return c.Path == r.Doc })
			require.Equal(t, r.Outcome == placing.Gets, changed)
			switch r.Outcome {
			case placing.Gets:
				got = append(got, r.Doc)
				require.Zero(t, shows(s, r.Doc))
				require.Positive(t, shows(o, r.Doc), "%s", r.Doc)
			case placing.HasIt:
				require.Positive(t, shows(s, r.Doc))
				require.NotEmpty(t, r.Why)
			case placing.NoRegion:
				require.Nil(t, s.Info(r.Doc).Layout.Region(region))
			}
		}
		again, _, err := placing.RollOut(o, s.PagePaths(), region, "@{"+name+" /}", false)
		require.NoError(t, err)
		require.Empty(t, again.Changes)
		off, lost, err := placing.TakeOff(o, got, region, name)
		require.NoError(t, err)
		require.Len(t, off.Changes, len(got))
		for _, r := range lost {
			require.Equal(t, placing.Loses, r.Outcome)
		}
		back := o.With(off.Changes)
		for _, p := range got {
			require.Zero(t, shows(back, p))
		}
	})
}

func TestRollOutsAreRefused(t *testing.T) {
	s := sitetest.New(site.Files{"pages/p.html": nil})
	for calls, want := range map[string]string{"": "name a block", "<p>": "and nothing else",
		"@{nowhere /}": "no block or shortcode nowhere", "@{a": "never closed"} {
		_, _, err := placing.RollOut(s, nil, "main", calls, true)
		require.ErrorContains(t, err, want)
	}
	_, _, err := placing.RollOut(s, []string{"pages/q.html"}, "main", "@{year /}", true)
	require.ErrorContains(t, err, "no page pages/q.html")
}

func TestPages(t *testing.T) {
	layout := func(name, more string) []byte {
		return []byte("---\ntitle: " + name +
			"\nregions: {main: {mode: stack}, side: {mode: stack}}\nstarts_with: {main: '<p>Begin</p>', side: '@{b /}'}\n---\n@{region main /}@{region side /}" + more)
	}
	s := sitetest.New(site.Files{"layouts/port.html": layout("Port", ""),
		"layouts/wide.html": []byte("@{region main /}"), "blocks/b.html": []byte("B"),
		"pages/index.html": nil,
		"pages/a.html":     []byte("---\ntitle: A\nlayout: port\noverrides: {side/b~1: {x: y}}\n---\n<p>text\n@{fill side}@{b /}@{/fill}\n"), "rules/r.yaml": []byte("block: b\nregion: main\non: [\"layout:port\", all]\n")})
	set, err := documents.NewPage(s, "pages/fares/day.html", "Day: one", "port")
	require.NoError(t, err)
	require.Equal(t,
		"---\ntitle: \"Day: one\"\nlayout: port\n---\n<p>Begin</p>\n@{fill side}@{b /}@{/fill}\n",
		string(set.Changes[0].After))
	for path, want := range map[string]string{"pages/a.html": "is the address of pages/a.html",
		"pages/a/index.html": "is the address of", "blocks/x.html": "pages/PATH.html",
		"pages/../x.html": "pages/"} {
		_, err = documents.NewPage(s, path, "X", "port")
		require.ErrorContains(t, err, want, path)
	}
	_, err = documents.NewPage(s, "pages/x.html", "X", "prot")
	require.ErrorContains(t, err, "no layout prot")

	set, err = documents.DuplicatePage(s, "pages/a.html", "pages/b.html", "B")
	require.NoError(t, err)
	require.Contains(t, string(set.Changes[0].After), "---\ntitle: B\nlayout: port\noverrides:")

	_, err = documents.DeletePage(s, "pages/index.html")
	require.ErrorContains(t, err, "home page")
	set, err = documents.DeletePage(s, "pages/a.html")
	require.NoError(t, err)
	require.True(t, set.Changes[0].Delete)

	set, err = documents.SetLayout(s, "pages/a.html", "wide", map[string]string{"side": "main"})
	require.NoError(t, err)
	require.Equal(t, "---\ntitle: A\nlayout: wide\noverrides: {main/b~1: {x: y}}\n---\n<p>text\n@{b /}\n",
		string(set.Changes[0].After))
	set, err = documents.SetLayout(s, "pages/a.html", "wide", nil)
	require.NoError(t, err)
	require.Contains(t, string(set.Changes[0].After), "@{fill side}@{b /}@{/fill}", "nothing is lost")
	_, err = documents.SetLayout(s, "pages/a.html", "wide", map[string]string{"side": "nowhere"})
	require.ErrorContains(t, err, "has no region nowhere")

	_, err = documents.DeleteLayout(s, "port", "")
	require.ErrorContains(t, err, "2 pages and rules have the layout port")
	set, err = documents.DeleteLayout(s, "port", "wide")
	require.NoError(t, err)
	o := s.With(set.Changes)
	require.Equal(t, "wide", o.Info("pages/a.html").Page.Layout)
	require.Equal(t, []place.Target{{Kind: place.OnePage, Arg: "/a/"}, {Kind: place.All}}, o.Rules()[0].On,
		"no other page takes what the rule places")
	set, err = documents.NewLayout(s, "port-two", "", "port")
	require.NoError(t, err)
	require.Contains(t, string(set.Changes[0].After), "title: Port two\n")
	_, err = documents.NewLayout(s, "port", "", "")
	require.ErrorContains(t, err, "already")
}

func TestRulesAndMenusBegin(t *testing.T) {
	s := sitetest.New(site.Files{"blocks/b.html": nil, "menus/main.yaml": []byte("items: []\n"),
		"rules/old.yaml": []byte("block: b\nregion: r\non: [all]\n")})
	set, err := placing.NewRule(s, "fresh", "Fresh: #1", "b", "side")
	require.NoError(t, err)
	made := s.With(set.Changes)
	require.Empty(t, made.DocProblems("rules/fresh.yaml"))
	require.Equal(t, "Fresh: #1", made.Rule("fresh").Called())
	gone, err := placing.DeleteRule(made, "fresh")
	require.NoError(t, err)
	require.Equal(t, "Delete the rule Fresh: #1", gone.Title)
	require.Equal(t, "old", s.Rule("old").Called())
	for _, bad := range [][2]string{{"old", "b"}, {"Fresh", "b"}, {"fresh", "c"}} {
		_, err = placing.NewRule(s, bad[0], "", bad[1], "side")
		require.Error(t, err)
	}
	set, err = placing.DeleteRule(s, "old")
	require.NoError(t, err)
	require.Empty(t, s.With(set.Changes).Rules())
	set, err = documents.NewMenu(s, "side", "")
	require.NoError(t, err)
	require.Equal(t, "Side", s.With(set.Changes).Menu("side").Title)
	_, err = documents.NewMenu(s, "main", "")
	require.Error(t, err)
	_, err = documents.DeleteMenu(s, "side")
	require.Error(t, err)
	_, err = documents.DeleteMenu(s, "main")
	require.NoError(t, err)
	require.True(t, strings.HasPrefix(set.Title, "New menu"))
}
