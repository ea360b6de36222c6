package api_test

import (
	"testing"

	"github.com/stretchr/testify/require"

	"brickshelf/internal/api"
)

const bell = "/*\ntitle: Bell\nset: sounds\nparams:\n  note: {type: text, required: true}\n  times: {type: number, max: 3}\nencloses: true\n*/\nfunction shortcode() {}\n"

func TestScriptsAreTriedSavedAndSwitchedOff(t *testing.T) {
	b := start(t)
	try := func(text string, args map[string]string) (r api.ScriptResult) {
		b.send("POST", "/sites/small/script-trials", api.ScriptTrial{Name: "bell", Text: text,
			Arguments: args, Inner: "ding"}, &r)
		return r
	}
	good := try(bell, map[string]string{"note": "a\"b", "times": "2"})
	require.Empty(t, good.Problems)
	require.True(t, good.Html)
	require.Contains(t, good.Text, "ding")
	require.Equal(t, `@{bell note="a\"b" times=2}ding@{/bell}`, good.Call)
	for says, r := range map[string]api.ScriptResult{
		"bell needs the argument note":     try(bell, map[string]string{}),
		"times is at most 3":               try(bell, map[string]string{"note": "a", "times": "4"}),
		"a scripted shortcode begins with": try("function shortcode() {}", map[string]string{}),
	} {
		require.Len(t, r.Problems, 1, says)
		require.Contains(t, r.Problems[0].Message, says)
		require.Empty(t, r.Text)
	}
	require.Equal(t, 422, b.send("POST", "/sites/small/script-trials", api.ScriptTrial{Name: "No Name",
		Arguments: map[string]string{}}, nil).StatusCode)

	b.send("POST", "/sites/small/change-sets", change("shortcodes/bell.js", "", bell), nil)
	b.send("POST", "/sites/small/change-sets", change("pages/a.html", string(files["pages/a.html"]),
		"---\ntitle: A\nlayout: l\n---\n@{bell note=a}in@{/bell}"), nil)
	var callers []string
	b.send("GET", "/sites/small/callers?name=bell", nil, &callers)
	require.Equal(t, []string{"/a/"}, callers)
	set, off := "sounds", false
	var o operated
	b.send("POST", "/sites/small/operations", api.SwitchSetOperation{Operation: "switch-set", Set: set,
		On: off}, &o)
	require.Equal(t, 1, o.Proposal.Impact.Counts["changes"])
	require.Equal(t, []api.Break{{Page: "/a/", Code: "unresolved-call", Address: "main/bell~1",
		Message: "bell is in the set sounds, which is switched off; switch it on, or take this call away"}},
		o.Proposal.Impact.Breaks)
	b.send("POST", "/sites/small/change-sets", o.ChangeSet, nil)
	var ref api.Reference
	b.send("GET", "/sites/small/reference", nil, &ref)
	require.Contains(t, ref.Sets, api.ShortcodeSet{Name: "sounds", On: false, Shortcodes: []string{"bell"}})
	for _, e := range ref.Entries {
		require.Equal(t, e.Name != "bell", e.On, e.Name)
	}
}

func TestRowsAreFoundAndRearranged(t *testing.T) {
	b := start(t)
	text := "---\ntitle: é\n---\n@{foot /}\n@{year /}"
	var rows []api.Row
	b.send("POST", "/sites/small/rows", api.RowQuestion{Path: "pages/x.html", Text: text}, &rows)
	require.Len(t, rows, 1)
	require.Equal(t, api.RowItem{Name: "year", From: len(text) - len("@{year /}"), Text: "@{year /}"},
		rows[0].Items[1])
	var after api.BlockText
	b.send("POST", "/sites/small/row-edits", api.RowEdit{Path: "pages/x.html", Text: text, Region: "main",
		Order: []int{1, 0}, Add: "@{url page=\"/\" /}"}, &after)
	require.Equal(t, "---\ntitle: é\n---\n@{year /}\n@{foot /}\n@{url page=\"/\" /}", after.Text)
	require.Equal(t, 422, b.send("POST", "/sites/small/row-edits", api.RowEdit{Path: "pages/x.html",
		Text: text, Region: "side", Order: []int{}}, nil).StatusCode)

	var found api.FoundCall
	b.send("POST", "/sites/small/calls", api.PlaceInText{Text: text, Addresses: &[]string{"foot/rule:foot",
		"main/year~1", "main/foot~1"}}, &found)
	require.Equal(t, "year", found.Name)
	b.send("POST", "/sites/small/calls", api.PlaceInText{Text: text, Addresses: &[]string{"foot/rule:foot"}},
		&found)
	require.Empty(t, found.Name)
}
