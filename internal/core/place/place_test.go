package place

import (
	"testing"
	"time"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"brickshelf/internal/core/block"
	"brickshelf/internal/core/site"
)

func rule(t *testing.T, name, more string) *Rule {
	r, problems := ParseRule(name, "rules/"+name+".yaml", []byte("block: b\nregion: r\n"+more))
	require.Empty(t, problems)
	return r
}

func TestTheMoreSpecificRuleWins(t *testing.T) {
	page := Facts{URL: "/ports/north/aldwick/", Layout: "port", Tags: []string{"winter"}}
	home := Facts{URL: "/", IsHome: true}
	order := []string{"on: [all]", "on: [\"tag:winter\"]", "on: [\"under:/ports/\"]",
		"on: [\"under:/ports/north/\"]", "on: [\"page:/ports/north/aldwick/\"]"}
	for i := 1; i < len(order); i++ {
		a, b := rule(t, "a", order[i-1]), rule(t, "b", order[i])
		slots := Resolve(&Region{Name: "r", Mode: One}, Candidates([]*Rule{a, b}, page), false)
		require.Equal(t, "r/rule:b", slots[0].Address, order[i])
	}
	a, b := rule(t, "a", "on: [\"under:/\"]"), rule(t, "b", "on: [home]")
	require.Equal(t, b, Resolve(&Region{Name: "r", Mode: One}, Candidates([]*Rule{a, b}, home),
		false)[0].Rule)
}

func TestTies(t *testing.T) {
	page := Facts{URL: "/x/"}
	one := &Region{Name: "r", Mode: One}
	a, b := rule(t, "a", "on: [all]"), rule(t, "b", "on: [all]\norder: 5")
	require.Equal(t, b, Resolve(one, Candidates([]*Rule{a, b}, page), false)[0].Rule, "the higher order")
	c := rule(t, "c", "on: [all]\norder: 5")
	require.Equal(t, b, Resolve(one, Candidates([]*Rule{c, b}, page), false)[0].Rule, "then the name")
	require.Nil(t, Resolve(one, Candidates([]*Rule{a}, page), true)[0].Rule, "the page's own fill before all")
}

func TestAStackShowsAllInOrder(t *testing.T) {
	rules := []*Rule{rule(t, "z", "on: [all]\nat: start\norder: 1"), rule(t, "y", "on: [all]\nat: start"),
		rule(t, "x", "on: [all]"), rule(t, "w", "on: [all]\nexcept: [home]")}
	var got []string
	for _, s := range Resolve(&Region{Name: "r", Mode: Stack},
		Candidates(rules, Facts{URL: "/", IsHome: true}), true) {
		got = append(got, s.Address)
	}
	require.Equal(t, []string{"r/rule:y", "r/rule:z", "", "r/rule:x"}, got)
}

func TestRunning(t *testing.T) {
	day := func(s string) time.Time {
		d, err := time.Parse("2006-01-02", s)
		require.NoError(t, err)
		return d
	}
	r := rule(t, "a", "on: [all]\nfrom: 2026-03-01\nuntil: 2026-03-31\naudience: signed-in")
	for _, c := range []struct {
		date, audience string
		want           bool
	}{{"2026-02-28", "signed-in", false}, {"2026-03-01", "signed-in", true}, {"2026-03-31", "signed-in",
		true}, {"2026-04-01", "signed-in", false}, {"2026-03-15", "signed-out", false}} {
		require.Equal(t, c.want, r.Running(day(c.date), c.audience), c)
	}
	require.False(t, rule(t, "b", "on: [all]\nenabled: false").Running(day("2026-01-01"), "signed-out"))
}

func TestBadRules(t *testing.T) {
	for src, want := range map[string]string{
		"region: r\non: [all]":                                                "rules/a.yaml:1:1: a rule needs block",
		"block: b\nregion: r\non: [everywhere]":                               `rules/a.yaml:3:6: "everywhere" is no target`,
		"block: b\nregion: r\non: [all]\nform: 2026-01-01":                    `has no key "form"; did you mean from?`,
		"block: b\nregion: r\non: [all]\nfrom: 2026-03-01\nuntil: 2026-02-01": "ends on 2026-02-01, before it begins",
		"block: b\nregion: r\non: [all]\norder: high":                         "order should be a whole number",
		"block: [": "rules/a.yaml:1:",
	} {
		_, problems := ParseRule("a", "rules/a.yaml", []byte(src))
		require.Contains(t, problems.Error(), want)
	}
}

func TestBadLayouts(t *testing.T) {
	for src, want := range map[string]string{
		"---\nregions: {main: {mode: one}}\n---\n<p>":              "the region main is declared and stands nowhere",
		"@{region main /}@{region main /}":                         "layouts/a.html:1:17: the region main stands here for a second time",
		"---\nregions: {main: {mode: two}}\n---\n@{region main /}": "the mode of a region is one or stack",
		"@{fill main}x@{/fill}":                                    "belongs into a page",
	} {
		_, problems := ParseLayout("a", "layouts/a.html", []byte(src), block.NewReader())
		require.Contains(t, problems.Error(), want, src)
	}
}

// The short way of reading front matter agrees with the YAML parser wherever it
// is taken.
func TestPlainFrontMatterIsReadAsYAMLReadsIt(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		title := rapid.OneOf(rapid.StringMatching(`[a-zA-Z][a-zA-Z0-9 .,()/-]{0,14}`),
			rapid.StringMatching(`[a-z#:~&*!|>%@'"-][a-zA-Z0-9 .,()'"#:-]{0,5}`),
			rapid.SampledFrom([]string{"null", "Yes", "no", "true", "False", "on", "y", "~", "nan",
				"inf"})).Draw(t, "title")
		head := "title: " + title + "\nlayout: port\n"
		short := &Page{}
		taken := short.plain([]byte(head))
		whole, problems := ParsePage("p", "pages/p.html", "/p/", []byte("---\n"+head+"---\n"))
		y, problem := site.ParseYAML([]byte(head), "p", 1)
		if problem != nil {
			require.False(t, taken, head)
			require.NotEmpty(t, problems, head)
			return
		}
		require.Equal(t, y.Get("title").Text, whole.Title, head)
		require.Equal(t, "port", whole.Layout)
		if taken {
			require.Equal(t, site.Text, y.Get("title").Kind, head)
			require.Equal(t, whole.Title, short.Title)
			require.Equal(t, whole.Layout, short.Layout)
		}
	})
}

func FuzzPage(f *testing.F) {
	f.Add([]byte("---\ntitle: x\nlayout: l\noverrides: {\"a/b~1\": {c: d}}\ncopies: {\"a/b~1\": {of: b, base: x, text: \"@{=inner}\"}}\nhidden: [x]\n---\n@{fill a}@{b /}@{/fill}"))
	f.Add([]byte("---\r\ntitle: \"\xff\"\r\n---\r\n"))
	f.Fuzz(func(t *testing.T, src []byte) {
		g, _ := ParsePage("p", "pages/p.html", "/p/", src)
		g.Check()
		if string(src[g.Split.TextAt:]) != string(g.Split.Text) {
			t.Fatal("the text of a page is the end of its file")
		}
	})
}

func TestBadPages(t *testing.T) {
	for head, want := range map[string]string{
		"overrides: word":                                "pages/p.html:2:12: overrides should be written as ADDRESS: …",
		"copies: [a]":                                    "copies should be written as ADDRESS: …",
		"overrides: {main/a~1: word}":                    "an override should be written as ADDRESS: {FIELD: value}",
		"copies: {main/a~1: {text: x}}":                  "a copy should say what it is of",
		"copies: {main/a~1: {of: a, text: '@{when x}'}}": "in the text of this copy, line 1, column 1: ",
		"copies: {main/a~1: {of: a, txt: x}}":            "has no key \"txt\"",
		"titel: x":                                       "a page has no key \"titel\"",
		"title: [x]":                                     "title should be",
		"draft: perhaps":                                 "draft should be true or false",
		"tags: winter\ntags: summer":                     "pages/p.html:3:1: ",
	} {
		_, problems := ParsePage("p", "pages/p.html", "/p/", []byte("---\n"+head+"\n---\ntext"))
		require.NotEmpty(t, problems, head)
		require.Contains(t, problems.Error(), want, head)
	}
	for _, fine := range []string{"overrides:", "copies:", "hidden: []", "tags: []"} {
		g, problems := ParsePage("p", "pages/p.html", "/p/", []byte("---\n"+fine+"\n---\n"))
		require.Empty(t, problems, fine)
		require.False(t, g.Local, fine)
	}
}

// What stands in fills and outside of them goes to its region, in the order of the text.
func TestWhatAPagePutsWhere(t *testing.T) {
	g, problems := ParsePage("p", "pages/p.html", "/p/",
		[]byte("a@{fill side}b@{/fill}@{c /}@{fill main}d@{/fill}@{fill side}@{e /}@{/fill}"))
	require.Empty(t, problems)
	put := func(region string) (out string) {
		for _, n := range g.Fills.Of(region).Nodes {
			out += string(g.Text.Src[n.Span.From:n.Span.To])
		}
		return out
	}
	require.Equal(t, "a@{c /}d", put("main"))
	require.Equal(t, "b@{e /}", put("side"))
	require.Nil(t, g.Fills.Of("head"))
	require.Equal(t, []string{"c", "e"}, g.Calls)
	require.True(t, g.Filled("main"))
	empty, _ := ParsePage("p", "pages/p.html", "/p/", []byte("@{fill side} @{# nothing } @{/fill}\n"))
	require.False(t, empty.Filled("side"), "spaces and comments fill nothing")
	require.False(t, empty.Filled("main"))
}

func TestWhatARegionHoldsOfItself(t *testing.T) {
	for content, want := range map[string]bool{"": false, " \n": false, "@{# later }": false, "x": true,
		" @{foot /} ": true} {
		l, problems := ParseLayout("a", "layouts/a.html", []byte("@{region main}"+content+"@{/region}"),
			block.NewReader())
		require.Empty(t, problems)
		require.Equal(t, want, l.Regions[0].Default, content)
	}
}

func TestASiteSaysHowFarUndoReaches(t *testing.T) {
	read := func(history string) (int, site.Problems) {
		c, problems := ParseConfig([]byte("format: brickshelf/1\n"+history), block.NewReader())
		return c.Undo, problems
	}
	for history, want := range map[string]int{"": UndoSteps, "history: {edits: 20}": 20,
		"history: {edits: 100000}": 100_000} {
		n, problems := read(history)
		require.Empty(t, problems)
		require.Equal(t, want, n)
	}
	for _, bad := range []string{"history: {edits: 19}", "history: {edits: 100001}", "history: {edits: '30'}", "history: {edits: 2.5}"} {
		n, problems := read(bad)
		require.Equal(t, UndoSteps, n)
		require.Len(t, problems, 1)
		require.Equal(t, []any{2, 18}, []any{problems[0].Line, problems[0].Column})
	}
	_, problems := read("history: {days: 3}")
	require.Equal(t, "unknown-key", problems[0].Code)
}
