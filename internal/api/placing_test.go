package api_test

import (
	"net/http"
	"testing"

	"github.com/stretchr/testify/require"

	"brickshelf/internal/api"
)

// operate asks about an operation and saves its change set.
func (b *bench) operate(in any) operated {
	var o operated
	b.send("POST", "/sites/small/operations", in, &o)
	require.NotNil(b.t, o.Proposal.Impact, "%v", o.Proposal.Problems)
	if len(o.ChangeSet.Changes) > 0 {
		b.send("POST", "/sites/small/change-sets", o.ChangeSet, &api.Saved{})
	}
	return o
}

// refused asks about an operation and gives what is wrong with it.
func (b *bench) refused(in any) string {
	var p api.Problem
	answer := b.send("POST", "/sites/small/operations", in, &p)
	require.GreaterOrEqual(b.t, answer.StatusCode, 400)
	return p.Detail
}

func ptr[T any](v T) *T { return &v }

func TestWhyAndWhoWins(t *testing.T) {
	b := start(t)
	b.send("POST", "/sites/small/change-sets", change("rules/home.yaml", "",
		"block: foot\nregion: foot\non: [home]\nset: {word: home}\naudience: signed-in\n"), &api.Saved{})
	var e api.Explanation
	b.send("GET", "/sites/small/explanations?page=/", nil, &e)
	require.Equal(t, "pages/index.html", e.Doc)
	foot := e.Regions[1]
	require.Equal(t, "foot", foot.Region)
	why := map[string]api.CandidateWhy{}
	for _, c := range foot.Candidates {
		why[c.Rule] = c.Why
	}
	require.Equal(t, map[string]api.CandidateWhy{"foot": "shown", "home": "audience"}, why)
	b.send("GET", "/sites/small/explanations?page=/&audience=signed-in", nil, &e)
	require.Len(t, e.Regions[1].Candidates, 2, "a stack shows both")
	require.Equal(t, 404, b.send("GET", "/sites/small/explanations?page=/gone/", nil, nil).StatusCode)
	require.Equal(t, 400, b.send("GET", "/sites/small/explanations?page=/&on=tomorrow", nil, nil).StatusCode)

	var w []api.Winners
	b.send("GET", "/sites/small/winners", nil, &w)
	require.Equal(t, "foot", w[1].Region)
	pages := 0
	for _, g := range w[1].Groups {
		pages += g.Pages
	}
	require.Equal(t, 2, pages, "each page is in one group")
	var rules []api.RuleSummary
	b.send("GET", "/sites/small/rules", nil, &rules)
	require.Len(t, rules, 2)

	require.NotContains(t, b.page("/_draft/"), ">home</footer>")
	require.Contains(t, b.page("/_draft/?shelf-as=signed-in"), ">home</footer>")
	b.send("POST", "/sites/small/releases", api.PublishRequest{Title: "for members"}, &api.Release{})
	plain, err := http.Get(b.site + "/")
	require.NoError(t, err)
	plain.Body.Close()
	require.Contains(t, plain.Header.Values("Vary"), "Cookie")
	require.NotContains(t, b.page("/"), ">home</footer>")
	req, _ := http.NewRequest("GET", b.site+"/", nil)
	req.AddCookie(&http.Cookie{Name: "signed-in", Value: "yes"})
	member, err := http.DefaultClient.Do(req)
	require.NoError(t, err)
	defer member.Body.Close()
	require.NotEqual(t, plain.Header.Get("ETag"), member.Header.Get("ETag"),
		"what is kept for one audience is not taken for the other's")
}

func TestWhereValuesComeFrom(t *testing.T) {
	b := start(t)
	var l api.Precedence
	b.send("GET", "/sites/small/precedences?page=/a/&address=foot/rule:foot", nil, &l)
	require.Equal(t, "rules/foot.yaml", l.Via)
	require.Equal(t, "word", l.Fields[0].Field.Name)
	require.Equal(t, 0, l.Fields[0].Wins)
	require.Equal(t, api.Source{Source: "override", Set: true, Text: "own", Doc: "pages/a.html", Line: 4,
		Column: 38}, l.Fields[0].Sources[0])
	require.Equal(t, api.Source{Source: "placed", Doc: "rules/foot.yaml"}, l.Fields[0].Sources[1])
	require.Equal(t, "hello", l.Fields[0].Sources[2].Text)

	var p api.Proposal
	b.send("POST", "/sites/small/proposals", change("pages/a.html", string(files["pages/a.html"]),
		"---\ntitle: A\nlayout: l\n---\na"), &p)
	b.send("GET", "/sites/small/precedences?page=/a/&address=foot/rule:foot&proposal="+p.Id, nil, &l)
	require.Equal(t, 2, l.Fields[0].Wins, "as it would be")
	require.Equal(t, 404, b.send("GET", "/sites/small/precedences?page=/a/&address=foot/rule:gone", nil,
		nil).StatusCode)
	require.Equal(t, 404, b.send("GET", "/sites/small/precedences?page=/gone/&address=foot/rule:foot", nil,
		nil).StatusCode)
}

func TestTheTableOfValues(t *testing.T) {
	b := start(t)
	var v api.ValueTable
	b.send("GET", "/sites/small/blocks/foot/values", nil, &v)
	require.Len(t, v.Rows, 2)
	require.Equal(t, api.ValueRow{Page: "/a/", Title: "A", Doc: "pages/a.html", Address: "foot/rule:foot",
		Cells: []api.ValueCell{{Text: "own", Source: "override", Doc: "pages/a.html", Otherwise: "hello"}}},
		v.Rows[1])
	require.Equal(t, []api.ValueCell{{Text: "hello", Source: "default", Doc: "blocks/foot.html",
		Otherwise: "hello"}}, v.Rows[0].Cells)
	o := b.operate(api.SetValuesOperation{Operation: "set-values", Block: "foot",
		Values: []api.ValueEdit{{Doc: "pages/a.html", Address: "foot/rule:foot", Field: "word"},
			{Doc: "pages/index.html", Address: "foot/rule:foot", Field: "word", Text: ptr("home's")}}})
	require.Equal(t, "Set values of Foot on 2 pages", o.ChangeSet.Title)
	b.send("GET", "/sites/small/blocks/foot/values", nil, &v)
	require.Equal(t, "home's", v.Rows[0].Cells[0].Text)
	require.Equal(t, "hello", v.Rows[1].Cells[0].Text)
	require.Contains(t, b.refused(api.SetValuesOperation{Operation: "set-values", Block: "foot",
		Values: []api.ValueEdit{{Doc: "pages/a.html", Address: "foot/rule:foot", Field: "wort",
			Text: ptr("x")}}}), "did you mean word")
	require.Equal(t, 404, b.send("GET", "/sites/small/blocks/gone/values", nil, nil).StatusCode)
}

// What a rule's text says that cannot be, each named with the way out.
func TestRulesAreReadBeforeTheyAreSaved(t *testing.T) {
	b := start(t)
	read := func(text string) api.RuleReading {
		var r api.RuleReading
		b.send("POST", "/sites/small/rule-readings", api.RuleText{Name: "fresh", Text: text}, &r)
		return r
	}
	r := read("block: foot\nregion: foot\non: [\"page:/a/\"]\nenabled: false\n")
	require.Equal(t, "-t", r.Reach)
	require.False(t, r.Rule.Enabled)
	require.Equal(t, "mm", read("block: foot\nregion: nowhere\non: [all]\n").Reach, "no page has the region")
	require.Equal(t, "--", read("block: foot\nregion: foot\non: [\"page:/gone/\"]\n").Reach)
	require.NotEmpty(t,
		read("block: foot\nregion: foot\non: [all]\nfrom: 2027-02-01\nuntil: 2027-01-01\n").Problems)

	for text, want := range map[string]string{
		"block: fot\nregion: foot\non: [all]\n":                                         "foot",
		"block: foot\nregion: fot\non: [all]\n":                                         "foot",
		"block: foot\nregion: foot\non: [\"page:/gone/\"]\n":                            "/gone/",
		"block: foot\nregion: foot\non: [all]\nfrom: 2027-02-01\nuntil: 2027-01-01\n":   "2027-01-01",
		"block: foot\nregion: foot\non: [all]\nset: {wrd: x}\n":                         "word",
		"block: foot\nregion: foot\non: [\"layout:none\"]\n":                            "none",
		"block: foot\nregion: foot\non: [all]\nexcept: [\"under:/nowhere/in/here/\"]\n": "/nowhere/in/here/",
	} {
		var p api.Proposal
		b.send("POST", "/sites/small/proposals", change("rules/fresh.yaml", "", text), &p)
		told := ""
		for _, f := range p.Problems {
			told += f.Message
		}
		if p.Impact != nil {
			// What can be saved is a finding of the site from then on.
			b.send("POST", "/sites/small/change-sets", change("rules/fresh.yaml", "", text), &api.Saved{})
			var found api.Findings
			b.send("GET", "/sites/small/findings", nil, &found)
			for _, f := range found.List {
				if f.Path == "rules/fresh.yaml" {
					require.Positive(t, f.Line)
					told += f.Message
				}
			}
			b.send("POST", "/sites/small/undo", nil, &api.Saved{})
		}
		require.Contains(t, told, want, text)
	}
}

func TestTextsAreEditedByWhatTheySay(t *testing.T) {
	b := start(t)
	var text api.BlockText
	b.send("POST", "/sites/small/key-edits", api.KeyEdit{Path: "rules/foot.yaml",
		Text: string(files["rules/foot.yaml"]), Keys: []string{"set", "word"}, Value: "rule"}, &text)
	require.Equal(t, "block: foot\nregion: foot\non: [all]\nset: {word: rule}\n", text.Text)
	for _, c := range []struct{ path, text, want string }{
		{"pages/a.html",
			"---\r\ntitle: A # a\r\nfields:\r\n  a: |\r\n    one\r\n    two\r\n---\r\n@{foot /}\r\n",
			"---\r\ntitle: B # a\r\nfields:\r\n  a: |\r\n    one\r\n    two\r\n---\r\n@{foot /}\r\n"},
		{"pages/a.html", "\ufeff---\r\n# a\r\nlayout: l\r\n---\r\n@{foot /}",
			"\ufeff---\r\n# a\r\ntitle: B\r\nlayout: l\r\n---\r\n@{foot /}"},
		{"rules/foot.yaml", "block: foot\r\nregion: foot\r\non:\r\n  - all\r\n",
			"title: B\r\nblock: foot\r\nregion: foot\r\non:\r\n  - all\r\n"},
	} {
		b.send("POST", "/sites/small/key-edits", api.KeyEdit{Path: c.path, Text: c.text,
			Keys: []string{"title"}, Value: "B"}, &text)
		require.Equal(t, c.want, text.Text)
	}
	page := "---\ntitle: A\n---\n@{foot /}\n"
	edit := func(e api.PageEdit) string {
		e.Path, e.Text = "pages/a.html", page
		b.send("POST", "/sites/small/page-edits", e, &text)
		return text.Text
	}
	require.Equal(t, "---\ntitle: A\n---\n@{year /}\n@{foot /}\n",
		edit(api.PageEdit{Edit: "put", Region: ptr("main"), Before: ptr(0), Call: ptr("@{year /}")}))
	require.Equal(t, "---\ntitle: A\n---\n", edit(api.PageEdit{Edit: "take", From: ptr(17)}))
	require.Equal(t, "---\ntitle: A\n---\n@{fill foot}@{foot /}@{/fill}\n",
		edit(api.PageEdit{Edit: "move", From: ptr(17), Region: ptr("foot"), Before: ptr(-1)}))
	require.Equal(t, "---\ntitle: A\nhidden: [main/foot~1]\n---\n@{foot /}\n",
		edit(api.PageEdit{Edit: "hide", Address: ptr("main/foot~1")}))
	require.Equal(t, page, edit(api.PageEdit{Edit: "show", Address: ptr("main/foot~1")}))
	require.Equal(t, 422, b.send("POST", "/sites/small/page-edits", api.PageEdit{Path: "pages/a.html",
		Text: page, Edit: "take", From: ptr(3)}, nil).StatusCode)

	var l api.Layout
	b.send("POST", "/sites/small/layout-readings",
		api.BlockText{Text: "---\nregions: {side: {mode: one, width: 200}}\nstarts_with: {side: x}\n---\n@{region side /}@{region main /}"}, &l)
	require.Equal(t, []api.Region{{Name: "side", Mode: "one", Width: 200}, {Name: "main", Mode: "stack"}},
		l.Regions)
	b.send("POST", "/sites/small/layout-edits", api.LayoutEdit{Text: "@{region main /}", Edit: "add",
		Region: "side", After: ptr("main")}, &text)
	require.Equal(t, "---\nregions: {side: {mode: stack}}\n---\n@{region main /}\n@{region side /}",
		text.Text)
	b.send("POST", "/sites/small/layout-edits", api.LayoutEdit{Text: text.Text, Edit: "drop", Region: "side"},
		&text)
	require.NotContains(t, text.Text, "side")

	var m api.MenuReading
	menu := "items:\n  - {label: A, to: /a/} # kept\n  - label: B\n"
	b.send("POST", "/sites/small/menu-readings", api.BlockText{Text: menu}, &m)
	require.Len(t, m.Items, 2)
	m.Items[0], m.Items[1] = m.Items[1], m.Items[0]
	b.send("POST", "/sites/small/menu-edits", api.MenuEdit{Text: menu, Items: m.Items}, &text)
	require.Equal(t, "items:\n  - label: B\n  - {label: A, to: /a/} # kept\n", text.Text)
}

func TestPlacingOnManyPages(t *testing.T) {
	b := start(t)
	b.send("POST", "/sites/small/change-sets", change("blocks/note.html", "", ">note</b>"), &api.Saved{})
	both := []string{"pages/index.html", "pages/a.html"}
	o := b.operate(api.RollOutOperation{Operation: "roll-out", Pages: both, Region: "main",
		Calls: "@{note /}\n@{foot /}", Layouts: &[]string{"l"}})
	require.Equal(t, []api.Rolled{
		{Doc: "pages/index.html", Page: "/", Outcome: "added",
			Why: "not foot, which is placed by the rule foot"},
		{Doc: "pages/a.html", Page: "/a/", Outcome: "added",
			Why: "not foot, which is placed by the rule foot"},
	}, o.Rolled)
	require.Len(t, o.ChangeSet.Changes, 3, "two pages, and the layout with which new ones begin")
	var layouts []api.Layout
	b.send("GET", "/sites/small/layouts", nil, &layouts)
	require.Equal(t, map[string]string{"main": "@{note /}\n@{foot /}"}, layouts[0].StartsWith)
	require.Equal(t, 2, layouts[0].Pages)
	again := b.operate(api.RollOutOperation{Operation: "roll-out", Pages: both, Region: "main",
		Calls: "@{note /}"})
	require.Empty(t, again.ChangeSet.Changes)
	require.Equal(t, api.RolledOutcome("there"), (again.Rolled)[0].Outcome)
	off := b.operate(api.TakeOffOperation{Operation: "take-off", Pages: both, Region: "", Block: "note"})
	require.Equal(t, api.RolledOutcome("removed"), (off.Rolled)[1].Outcome)
	b.operate(api.NewPageOperation{Operation: "new-page", To: "pages/b.html", Title: ptr("B"),
		Layout: ptr("l")})
	require.Contains(t, b.page("/_draft/b/"), ">note</b>")
}

// Each is refused in words, and nothing is changed by it.
func TestPlacingThatIsRefused(t *testing.T) {
	b := start(t)
	for want, o := range map[string]any{
		"is the address of pages/a.html already": api.NewPageOperation{Operation: "new-page",
			To: "pages/a/index.html", Title: ptr("A"), Layout: ptr("l")},
		"this is the home page": api.DeletePageOperation{Operation: "delete-page",
			Doc: "pages/index.html"},
		"have the layout l": api.DeleteLayoutOperation{Operation: "delete-layout", Name: "l"},
		"no layout gone": api.SetLayoutOperation{Operation: "set-layout", Doc: "pages/a.html",
			Layout: ptr("gone")},
		"no block \"fot\"": api.NewRuleOperation{Operation: "new-rule", Name: "x", Block: "fot",
			Region: "foot"},
		"no rule gone": api.DeleteRuleOperation{Operation: "delete-rule", Name: "gone"},
		"no menu gone": api.DeleteMenuOperation{Operation: "delete-menu", Name: "gone"},
		"no block or shortcode fot": api.RollOutOperation{Operation: "roll-out",
			Pages: []string{"pages/a.html"}, Region: "main", Calls: "@{fot /}"},
		"choose the piece again": api.SendPartOperation{Operation: "send-part", Doc: "pages/a.html", From: 1,
			To: "pages/index.html", Region: "main"},
	} {
		require.Contains(t, b.refused(o), want)
	}
	var o api.Overview
	b.send("GET", "/sites/small", nil, &o)
	require.Zero(t, o.Edits)
}

// operated is what any operation answers with.
type operated struct {
	Answer    string
	ChangeSet api.ChangeSet `json:"change_set"`
	Proposal  api.Proposal
	Rolled    []api.Rolled
	Without   []api.Mention
}

func TestTheSitesOwnValues(t *testing.T) {
	b := start(t)
	var read api.SiteReading
	b.send("POST", "/sites/small/site-readings",
		api.BlockText{Text: "format: brickshelf/1\nname: N\nfields: {phone: {type: text, default: 1}}\naudiences: {cookie: in}\n"}, &read)
	require.Equal(t, "N", read.Name)
	require.Equal(t, "in", read.Cookie)
	require.Equal(t, "1", read.Fields[0].DefaultText)

	var text api.BlockText
	b.send("POST", "/sites/small/defaults", api.DefaultEdit{Path: ptr("site.yaml"), Field: "phone", Value: "2",
		Text: "format: brickshelf/1\nfields: {phone: {type: text, default: '1'}} # p\n"}, &text)
	require.Equal(t, "format: brickshelf/1\nfields: {phone: {type: text, default: \"2\"}} # p\n", text.Text)

	b.send("POST", "/sites/small/change-sets", change("site.yaml", string(files["site.yaml"]),
		"format: brickshelf/1\nname: Small\nfields: {phone: {type: text, default: '1', min: 1, max: 1}, idle: {type: switch}, one: {type: choice, choices: [a]}}\n"), nil)
	b.send("POST", "/sites/small/change-sets", change("pages/a.html", string(files["pages/a.html"]), "@{=site.phone}"), nil)
	for value, want := range map[string]api.SiteValue{"phone": {Pages: 1, States: "-l"}, "idle": {States: "--"},
		"name": {States: "--"}} {
		var got api.SiteValue
		b.send("GET", "/sites/small/site-values/"+value, nil, &got)
		require.Equal(t, want, got, value)
	}
	require.Equal(t, 404, b.send("GET", "/sites/small/site-values/none", nil, nil).StatusCode)
}
