package api_test

import (
	"maps"
	"net/url"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"brickshelf/internal/api"
	"brickshelf/internal/core/site"
)

func TestDetachAndLinkAgain(t *testing.T) {
	b := start(t)
	var o operated
	doc, address := "pages/a.html", "foot/rule:foot"
	op := map[string]any{"operation": "detach", "spots": []api.Spot{{Doc: doc, Address: address}}}
	b.send("POST", "/sites/small/operations", op, &o)
	require.Equal(t, 0, o.Proposal.Impact.Counts["changes"])
	b.send("POST", "/sites/small/change-sets", o.ChangeSet, nil)
	require.Equal(t, 422, b.send("POST", "/sites/small/operations", op, nil).StatusCode,
		"it is a copy already")
	var stand []api.Placement
	b.send("GET", "/sites/small/blocks/foot/placements", nil, &stand)
	require.Equal(t, api.PlacementKind("copy"), stand[1].Kind)
	require.Equal(t, api.StandingUnchanged, *stand[1].Standing)
	require.Nil(t, stand[0].Standing)
	var all []api.Copy
	b.send("GET", "/sites/small/copies", nil, &all)
	require.Len(t, all, 1)
	require.Equal(t, []string{doc, address, "foot", "/a/"}, []string{all[0].Doc, all[0].Address, all[0].Of,
		all[0].Page})
	block := string(files["blocks/foot.html"])
	b.send("POST", "/sites/small/change-sets", change("blocks/foot.html", block,
		strings.Replace(block, "@{=word}", "@{=word}, all", 1)), nil)
	var texts api.CopyTexts
	at := "/sites/small/copies/texts?doc=" + doc + "&address=" + url.QueryEscape(address)
	require.Equal(t, 200, b.send("GET", at, nil, &texts).StatusCode)
	require.Equal(t, api.StandingBehind, texts.Standing)
	require.Equal(t, texts.Base, texts.Text)
	require.Contains(t, texts.Now, ", all")
	require.Contains(t, texts.Head, string(site.HashOf([]byte(block))))
	require.Equal(t, 404, b.send("GET", at+"~9", nil, nil).StatusCode)
	require.Len(t, texts.Merged, 1)
	require.Equal(t, texts.Now, texts.Merged[0].Text)
	b.send("POST", "/sites/small/undo", nil, nil)
	op["operation"] = "link"
	var again api.LinkedAgain
	b.send("POST", "/sites/small/operations", op, &again)
	require.Len(t, again.Linked, 1)
	require.Empty(t, again.Linked[0].Lost)
	b.send("POST", "/sites/small/change-sets", again.ChangeSet, nil)
	var got string
	b.send("GET", "/sites/small/documents?path=pages/a.html", nil, &got)
	require.Equal(t, string(files["pages/a.html"]), got)
	var def api.BlockText
	b.send("POST", "/sites/small/defaults", api.DefaultEdit{Text: string(files["blocks/foot.html"]),
		Field: "word", Value: "good day"}, &def)
	require.Contains(t, def.Text, `default: "good day"`)
}

// A copy that fell behind and was edited where the block was: what is in conflict is said and
// settled, and what was settled does not go to another one.
func TestACopyIsBroughtUpToItsBlock(t *testing.T) {
	b := start(t)
	spot := api.Spot{Doc: "pages/a.html", Address: "foot/rule:foot"}
	var o api.Changed
	b.send("POST", "/sites/small/operations", map[string]any{"operation": "detach", "filled": true,
		"spots": []api.Spot{spot}}, &o)
	b.send("POST", "/sites/small/change-sets", o.ChangeSet, nil)
	block := string(files["blocks/foot.html"])
	b.send("POST", "/sites/small/change-sets", change("blocks/foot.html", block,
		strings.Replace(block, "@{=word}", "@{=word} from all of us", 1)), nil)
	var page string
	b.send("GET", "/sites/small/documents?path=pages/a.html", nil, &page)
	b.send("POST", "/sites/small/change-sets", change("pages/a.html", page,
		strings.Replace(page, "<footer>own", "<footer>own from me", 1)), nil)
	var texts api.CopyTexts
	b.send("GET", "/sites/small/copies/texts?doc="+spot.Doc+"&address="+url.QueryEscape(spot.Address), nil, &texts)
	require.Equal(t, api.StandingBoth, texts.Standing)
	update := func(more map[string]any) (map[string]any, *api.Updated) {
		one := map[string]any{"doc": spot.Doc, "address": spot.Address}
		maps.Copy(one, more)
		return map[string]any{"operation": "update", "copies": []any{one}}, &api.Updated{}
	}
	op, left := update(nil)
	b.send("POST", "/sites/small/operations", op, left)
	require.Empty(t, left.ChangeSet.Changes)
	require.Equal(t, []api.LeftCopy{{Doc: spot.Doc, Address: spot.Address, Page: "/a/", Conflicts: 1}}, left.Left)
	op, _ = update(map[string]any{"choices": []api.Choice{{Take: api.ChoiceTakeBoth}}, "seen": "another"})
	require.Equal(t, 422, b.send("POST", "/sites/small/operations", op, nil).StatusCode)
	op, done := update(map[string]any{"choices": []api.Choice{{Take: api.ChoiceTakeBoth}}, "seen": texts.Seen})
	b.send("POST", "/sites/small/operations", op, done)
	require.Empty(t, done.Left)
	b.send("POST", "/sites/small/change-sets", done.ChangeSet, nil)
	b.send("GET", "/sites/small/copies/texts?doc="+spot.Doc+"&address="+url.QueryEscape(spot.Address), nil, &texts)
	require.Equal(t, api.StandingEdited, texts.Standing)
	require.Contains(t, texts.Text, "from me from all of us")
}

// A block is put into a page as a copy, in its region, at the cursor and on many pages at once;
// what it came from is kept once the block is edited.
func TestABlockIsInsertedAsACopy(t *testing.T) {
	b := start(t)
	page := string(files["pages/a.html"])
	var put api.BlockText
	b.send("POST", "/sites/small/page-edits", map[string]any{"path": "pages/a.html", "text": page, "edit": "put",
		"region": "main", "before": 0, "call": `@{foot word="new" /}`, "as_copy": true}, &put)
	base := string(site.HashOf(files["blocks/foot.html"]))
	require.Contains(t, put.Text, `@{copy of="foot" base="`+base+`"`)
	require.Contains(t, put.Text, `call="@{foot word=\"new\" /}"}<footer>new</footer>@{/copy}`)
	text := page + `@{foot /}@{foot /}`
	b.send("POST", "/sites/small/page-edits", map[string]any{"path": "pages/a.html", "text": text, "edit": "copy",
		"from": len(page)}, &put)
	require.Regexp(t, `call="@\{foot /\}"\}<footer>hello</footer>@\{/copy\}@\{foot /\}$`, put.Text)
	require.Equal(t, 422, b.send("POST", "/sites/small/page-edits", map[string]any{"path": "pages/a.html", "text": text,
		"edit": "copy", "from": 0}, nil).StatusCode, "no call begins there")

	var o api.RolledOut
	b.send("PUT", "/sites/small/documents?path=blocks/note.html", []byte("<p>note</p>"), nil, "If-None-Match", "*")
	b.send("POST", "/sites/small/operations", map[string]any{"operation": "roll-out", "pages": []string{"pages/a.html",
		"pages/index.html"}, "region": "main", "calls": "@{note /}@{note /}", "as_copies": true}, &o)
	require.Equal(t, "Put note, note on 2 pages, as copies", o.ChangeSet.Title)
	b.send("POST", "/sites/small/change-sets", o.ChangeSet, nil)
	var all []api.Copy
	b.send("GET", "/sites/small/copies", nil, &all)
	require.Len(t, all, 4)
	require.Equal(t, api.StandingUnchanged, all[0].Standing)

	// A copy that somebody wrote by hand, of the block as it is: its revision goes with the next edit.
	b.send("GET", "/sites/small/documents?path=pages/index.html", nil, &page)
	b.send("POST", "/sites/small/change-sets", change("pages/index.html", page, "---\ntitle: Home\nlayout: l\n---\n"+put.Text[strings.Index(put.Text, "@{copy"):]), nil)
	block := string(files["blocks/foot.html"])
	b.send("POST", "/sites/small/change-sets", change("blocks/foot.html", block, block+"!"), nil)
	var kept string
	require.Equal(t, 200, b.send("GET", "/sites/small/documents?path=history/"+base, nil, &kept).StatusCode)
	require.Equal(t, block, kept)
	b.send("GET", "/sites/small/copies", nil, &all)
	of := map[string]int{}
	for _, c := range all {
		of[c.Of]++
		require.Equal(t, map[string]api.Standing{"foot": api.StandingBehind, "note": api.StandingUnchanged}[c.Of],
			c.Standing)
	}
	require.Equal(t, map[string]int{"foot": 1, "note": 2}, of)
}
