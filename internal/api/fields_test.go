package api_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"brickshelf/internal/api"
)

func (b *bench) values() api.ValueTable {
	var v api.ValueTable
	b.send("GET", "/sites/small/blocks/foot/values", nil, &v)
	return v
}

func TestAFieldIsRenamedRetypedAndRemoved(t *testing.T) {
	b := start(t)
	text := "mine"
	b.operate(api.SetValuesOperation{Operation: "set-values", Block: "foot",
		Values: []api.ValueEdit{{Doc: "pages/index.html", Address: "foot/rule:foot", Field: "word",
			Text: &text}}})
	o := b.operate(api.RenameFieldOperation{Operation: "rename-field", Block: "foot", Field: "word",
		To: "motto"})
	require.Contains(t, o.Proposal.Impact.Sentence, "No page changes")
	require.Contains(t, b.refused(api.RenameFieldOperation{Operation: "rename-field", Block: "foot",
		Field: "word", To: "x"}), "has no field")
	require.Equal(t, "motto", b.values().Fields[0].Name)

	o = b.operate(api.RetypeFieldOperation{Operation: "retype-field", Block: "foot", Field: "motto",
		Type: "number"})
	require.Contains(t, says(o.Without), "pages/index.html / foot/rule:foot motto=mine")
	require.Contains(t, b.refused(api.RetypeFieldOperation{Operation: "retype-field", Block: "foot",
		Field: "motto", Type: "money"}), "value is not one of the allowed values")
	o = b.operate(api.RemoveFieldOperation{Operation: "remove-field", Block: "foot", Field: "motto"})
	require.Contains(t, says(o.Without), "pages/index.html / foot/rule:foot motto=mine")
	require.Contains(t, says(b.values().Orphans), "pages/index.html / foot/rule:foot motto=mine")

	b.operate(api.BringBackFieldOperation{Operation: "bring-back-field", Block: "foot", Field: "motto"})
	require.Equal(t, "number", string(b.values().Fields[0].Type), "as it was")
	b.operate(api.RemoveFieldOperation{Operation: "remove-field", Block: "foot", Field: "motto"})
	b.operate(api.AddFieldOperation{Operation: "add-field", Block: "foot", Field: "motto", Type: "text"})
	require.Empty(t, b.values().Orphans)
	b.operate(api.RemoveFieldOperation{Operation: "remove-field", Block: "foot", Field: "motto"})
	o = b.operate(api.DropOrphansOperation{Operation: "drop-orphans", Block: "foot", Field: ptr("motto")})
	require.Contains(t, o.Proposal.Impact.Sentence, "No page changes")
	require.Empty(t, b.values().Orphans)
}

func says(list []api.Mention) (out []string) {
	for _, m := range list {
		out = append(out, m.Doc+" "+m.Page+" "+m.Address+" "+m.Field+"="+m.Text)
	}
	return out
}

func TestAValueMovesToWhereOthersGetIt(t *testing.T) {
	b := start(t)
	text := "mine"
	set := api.SetValuesOperation{Operation: "set-values", Block: "foot",
		Values: []api.ValueEdit{{Doc: "pages/index.html", Address: "foot/rule:foot", Field: "word",
			Text: &text}}}
	b.operate(set)
	sources := func() (out []string) {
		for _, r := range b.values().Rows {
			out = append(out, r.Page+" "+r.Cells[0].Text+" "+string(r.Cells[0].Source))
		}
		return out
	}
	was := b.page("/_draft/a/")
	o := b.operate(api.MakeDefaultOperation{Operation: "make-default", Block: "foot", Field: "word",
		Value: "mine", Keep: ptr(true)})
	require.Contains(t, o.Proposal.Impact.Sentence, "No page changes")
	require.Equal(t, was, b.page("/_draft/a/"))
	require.Contains(t, sources(), "/ mine default")
	b.operate(api.MakeDefaultOperation{Operation: "make-default", Block: "foot", Field: "word",
		Value: "other", Keep: ptr(false)})
	require.Contains(t, sources(), "/ other default")
	b.operate(set)
	b.operate(api.RaiseToPageOperation{Operation: "raise-to-page", Block: "foot", Field: "word",
		Value: "mine", To: "motto"})
	require.Contains(t, sources(), "/ mine page")
	b.operate(api.RaiseToRuleOperation{Operation: "raise-to-rule", Rule: "foot", Field: "word",
		Value: "ruled"})
	require.Contains(t, sources(), "/ ruled placed")
}

func TestWhatAPageSaysOfNothingIsAimedAnew(t *testing.T) {
	b := start(t)
	text := string(files["pages/index.html"])
	head, rest, _ := strings.Cut(text, "\n")
	require.Equal(t, 200, b.send("POST", "/sites/small/change-sets", change("pages/index.html", text, head+
		"\noverrides: {\"foot/rule:gone\": {word: lost}}\n"+rest), &api.Saved{}).StatusCode)
	var e api.Explanation
	b.send("GET", "/sites/small/explanations?page=/", nil, &e)
	require.Equal(t, "word: lost", e.Orphans[0].Said)
	require.Equal(t, []string{"foot/rule:foot"}, e.Orphans[0].Could)
	b.operate(api.RetargetOperation{Operation: "retarget", Doc: "pages/index.html", Address: "foot/rule:gone",
		To: ptr("foot/rule:foot")})
	e = api.Explanation{}
	b.send("GET", "/sites/small/explanations?page=/", nil, &e)
	require.Empty(t, e.Orphans)
	require.Contains(t, b.page("/_draft/"), "lost")

	o := b.operate(api.MakeDefaultOperation{Operation: "make-default", Block: "foot", Field: "word",
		Value: "new", Keep: ptr(false)})
	var c api.Comparison
	now := *o.ChangeSet.Changes[0].Text
	b.send("POST", "/sites/small/proposals", change("blocks/foot.html", now,
		"---\nfields: {word: {type: text, default: newer}}\n---\n<footer>@{=word}</footer>"), &o.Proposal)
	b.send("GET", "/sites/small/comparisons/"+o.Proposal.Id+"?page=/", nil, &c)
	require.Equal(t, api.Effect("held"), c.Placements[0].Effect)
	require.Equal(t, []api.OwnValue{{Field: "word", Text: "lost", Source: "override"}},
		*c.Placements[0].Holds)
}

func TestAMegabyteInATextField(t *testing.T) {
	b := start(t)
	long := strings.Repeat("a long line of words ", 50_000) // a megabyte
	o := b.operate(api.SetValuesOperation{Operation: "set-values", Block: "foot",
		Values: []api.ValueEdit{{Doc: "pages/index.html", Address: "foot/rule:foot", Field: "word",
			Text: &long}}})
	require.Equal(t, o.Proposal.Id, *o.ChangeSet.Proposal, "such texts stay with the server")
	require.Empty(t, *o.ChangeSet.Changes[0].Text)
	require.Contains(t, b.page("/_draft/"), strings.TrimSpace(long))
	o.ChangeSet.Proposal = ptr("999")
	require.GreaterOrEqual(t, b.send("POST", "/sites/small/change-sets", o.ChangeSet,
		&api.Problem{}).StatusCode, 400, "a proposal that is gone")
}
