package render_test

import (
	"strconv"
	"testing"
	"time"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"brickshelf/internal/core/explain"
	"brickshelf/internal/core/place"
	"brickshelf/internal/core/render"
	"brickshelf/internal/core/shelf"
	"brickshelf/internal/core/site"
	"brickshelf/internal/core/sitetest"
)

// A site looked at on another day, and one that has come to another day, are as one
// that was made on it.
func TestAnotherDay(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		files := sitetest.Site(t)
		day := rapid.SampledFrom([]time.Time{sitetest.Now.AddDate(0, 0, -1), sitetest.Now.AddDate(0, 1, 0),
			sitetest.Now.AddDate(1, 0, 0)}).Draw(t, "day")
		anew := shelf.NewScripted(files, day, sitetest.Runner{})
		stock := sitetest.New(files)
		edit := sitetest.Edit(t, files)
		edited, err := files.Apply(site.ChangeSet{Changes: edit})
		require.NoError(t, err)
		later := stock.With(edit).At(day)
		as := func(a, b *shelf.Shelf) {
			for _, p := range a.PagePaths() {
				for _, o := range []render.Options{{}, {SignedIn: true}} {
					require.Equal(t, string(render.Page(a, p, o).HTML), string(render.Page(b, p, o).HTML), p)
				}
			}
		}
		as(stock, sitetest.New(files)) // fills the store of fragments
		as(anew, stock.At(day))
		as(shelf.NewScripted(edited, day, sitetest.Runner{}), later)
		stock = stock.Commit(stock.At(day))
		as(anew, stock)
	})
}

// What is explained is what stands there.
func TestExplanationsAgreeWithRendering(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		s := sitetest.New(sitetest.Site(t))
		audience := rapid.SampledFrom([]string{shelf.SignedOut, shelf.SignedIn}).Draw(t, "audience")
		for _, p := range s.PagePaths() {
			e := explain.Page(s, p, audience, s.Now())
			var told, stands []string
			rules := map[string]int{}
			for _, r := range e.Regions {
				for _, v := range r.Verdicts {
					rules[v.Rule.Name]++
					require.NotEmpty(t, v.Words())
					switch v.Why {
					case place.Shown, place.Copied, place.Hidden:
						told = append(told, string(v.Why)+" "+r.Name+"/rule:"+v.Rule.Name)
					case place.Outranked:
						require.Contains(t, v.Words(), v.By.Name)
					}
				}
			}
			kinds := map[render.PlacementKind]place.Why{render.Linked: place.Shown,
				render.Copied: place.Copied, render.Hidden: place.Hidden}
			for _, pl := range render.Page(s, p, render.Options{Placements: true,
				SignedIn: audience == shelf.SignedIn}).Placements {
				if name := shelf.RuleOf(pl.Address); name != "" && s.Block(pl.Block) != nil {
					stands = append(stands, string(kinds[pl.Kind])+" "+pl.Address)
				}
			}
			for i := 0; i < len(told); i++ { // a rule for no block shows nothing
				name := shelf.RuleOf(told[i])
				for _, r := range s.Rules() {
					if r.Name == name && s.Block(r.Block) == nil && told[i][:5] == "shown" {
						told = append(told[:i], told[i+1:]...)
						i--
						break
					}
				}
			}
			require.ElementsMatch(t, stands, told, p)
			for _, v := range e.Homeless {
				require.Nil(t, e.Info.Layout.Region(v.Rule.Region))
				rules[v.Rule.Name]++
			}
			for _, c := range e.Info.Candidates {
				require.Equal(t, 1, rules[c.Rule.Name], "every rule that takes the page is told of once")
			}
		}
	})
}

// Winners tell of each page what its explanation tells.
func TestWinnersAgreeWithExplanations(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		s := sitetest.New(sitetest.Site(t))
		byURL := map[string]int{}
		for i, u := range s.Published() {
			byURL[u] = i
		}
		for _, w := range explain.Regions(s) {
			pages := make([]int, len(w.Groups))
			for u, i := range byURL {
				e := explain.Page(s, s.Page(u).Page.Path, shelf.SignedOut, s.Now())
				at := -1
				for j := range e.Regions {
					if e.Regions[j].Name == w.Region {
						at = j
					}
				}
				if at < 0 {
					require.Equal(t, -1, w.Of[i], u)
					continue
				}
				g := w.Groups[w.Of[i]]
				pages[w.Of[i]]++
				var rules, told []string
				page := false
				for _, part := range g.Parts {
					page = page || part.Kind == "page"
					if part.Rule != "" {
						rules = append(rules, part.Rule)
					}
				}
				for _, v := range e.Regions[at].Verdicts {
					if v.Why == place.Shown || v.Why == place.Copied {
						told = append(told, v.Rule.Name)
					}
				}
				require.Equal(t, told, rules, u)
				require.Equal(t, e.Regions[at].Filled, page, u)
				require.Equal(t, e.Regions[at].Shows() == "nothing", len(g.Parts) == 0, u)
			}
			for i, g := range w.Groups {
				require.Equal(t, pages[i], g.Pages)
			}
		}
	})
}

// A rule that is yet to begin meets those that stand on the day on which it begins.
func TestARuleMeetsThoseThatStandWhenItBegins(t *testing.T) {
	day := func(n int) string { return sitetest.Now.AddDate(0, 0, n).Format(time.DateOnly) }
	f := site.Files{"layouts/l.html": []byte("---\nregions: {bar: {mode: one}}\n---\n@{region bar /}"),
		"blocks/b.html": []byte("b"), "pages/x.html": []byte("---\nlayout: l\n---\n")}
	rule := func(dates string) []byte {
		return []byte("block: b\nregion: bar\non: [all]\n" + dates)
	}
	f["rules/over.yaml"] = rule("order: 9\nuntil: " + day(2) + "\n")
	f["rules/later.yaml"] = rule("order: 8\nfrom: " + day(4) + "\n")
	s := sitetest.New(f)
	for from, want := range map[string]string{"": "over", day(1): "over", day(2): "over", day(3): "",
		day(4): "later", day(-4): "over"} {
		text := rule("")
		if from != "" {
			text = rule("from: " + from + "\n")
		}
		r, problems := place.ParseRule("mine", "rules/mine.yaml", text)
		require.Empty(t, problems)
		met := ""
		for _, v := range explain.RuleOn(s, r).Outranked {
			met += v.Rule.Name
		}
		require.Equal(t, want, met, "from %s", from)
	}
}

// What a rule would do is what it does once it is written so and switched on.
func TestTheReachOfARuleIsWhatItDoes(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		files := sitetest.Site(t)
		s := sitetest.New(files)
		name := rapid.SampledFrom([]string{"r0", "r9"}).Draw(t, "name")
		text := append(sitetest.Rule(t), "except: [\"page:/b/p1/\"]\n"...)
		rule, problems := place.ParseRule(name, "rules/"+name+".yaml", text)
		require.Empty(t, problems)
		rule.Enabled, rule.Audience, rule.From, rule.Until = true, "everyone", "", ""
		reach := explain.RuleOn(s, rule)
		plain := []byte("block: " + rule.Block + "\nregion: " + rule.Region + "\non: [\"" +
			rule.On[0].String() + "\"]\nexcept: [\"page:/b/p1/\"]\norder: " + strconv.Itoa(rule.Order) +
			"\nat: " + map[bool]string{true: "start", false: "end"}[rule.AtStart] + "\n")
		o := s.With([]site.Change{{Path: rule.Path, After: plain}})
		without := s.With([]site.Change{{Path: rule.Path, Delete: true}})
		for i, u := range s.Published() {
			e := explain.Page(o, o.Page(u).Page.Path, shelf.SignedOut, s.Now())
			want := byte(explain.NotNamed)
			for _, v := range e.Homeless {
				if v.Rule.Name == name && v.Why == place.NoRegion {
					want = explain.Regionless
				} else if v.Rule.Name == name {
					want = explain.LeftOut
				}
			}
			for _, r := range e.Regions {
				for _, v := range r.Verdicts {
					if v.Rule.Name != name {
						continue
					}
					letters := map[place.Why]byte{place.Shown: explain.Takes, place.Copied: explain.Takes,
						place.Hidden: explain.TakenOff, place.Filled: explain.FilledBy,
						place.Outranked: explain.LosesTo, place.Excepted: explain.LeftOut}
					want = letters[v.Why]
					for _, was := range explain.Page(without, o.Page(u).Page.Path, shelf.SignedOut,
						s.Now()).Regions {
						shows := was.Shows()
						if rules := was.Verdicts; len(rules) > 0 && rules[0].Why == place.Hidden &&
							r.Mode == place.One {
							shows = "rule" // it stands there, though the page hides it
						}
						if was.Name == r.Name && want == explain.Takes && (shows == "default" ||
							r.Mode == place.One && shows == "rule") {
							want = explain.Displaces
						}
					}
				}
			}
			require.Equal(t, string(want), string(reach.Pages[i]), u)
		}
	})
}

func TestWhatLiesAhead(t *testing.T) {
	rule := func(more string) []byte { return []byte("block: b\nregion: main\non: [all]\n" + more) }
	s := shelf.New(site.Files{
		"blocks/b.html": []byte("b"), "layouts/l.html": []byte("@{region main /}"),
		"pages/p.html":     []byte("---\nlayout: l\n---\n"),
		"rules/past.yaml":  rule("from: 2025-01-01\nuntil: 2025-12-31\n"),
		"rules/now.yaml":   rule("until: 2026-06-01\n"),
		"rules/soon.yaml":  rule("from: 2026-06-02\nuntil: 2026-06-30\n"),
		"rules/later.yaml": rule("from: 2026-07-01\n"),
		"rules/off.yaml":   rule("from: 2026-06-02\nenabled: false\n"),
	}, time.Date(2026, 6, 1, 12, 0, 0, 0, time.UTC))
	require.Equal(t, []shelf.Turn{
		// the last day of a rule is one on which it stands
		{Day: "2026-06-02", Begins: []string{"soon"}, Ends: []string{"now"}},
		{Day: "2026-07-01", Begins: []string{"later"}, Ends: []string{"soon"}},
	}, s.Ahead())
	for _, turn := range s.Ahead() {
		day, err := time.Parse(time.DateOnly, turn.Day)
		require.NoError(t, err)
		before, from := s.At(day.AddDate(0, 0, -1)), s.At(day)
		require.NotEqual(t, string(render.Page(before, "pages/p.html", render.Options{}).HTML)+stands(before),
			string(render.Page(from, "pages/p.html", render.Options{}).HTML)+stands(from),
			"the page is another one from that day on")
	}
}

func stands(s *shelf.Shelf) (out string) {
	for _, p := range render.Placements(s, "pages/p.html") {
		out += p.Address + " "
	}
	return out
}
