package api_test

import (
	"io"
	"net/http"
	"testing"

	"github.com/stretchr/testify/require"

	"brickshelf/internal/api"
)

func TestPartsForUseFromElsewhere(t *testing.T) {
	b := start(t)
	get := func(path string, headers ...string) (*http.Response, string) {
		req, err := http.NewRequest("GET", b.site+path, nil)
		require.NoError(t, err)
		for i := 0; i < len(headers); i += 2 {
			req.Header.Set(headers[i], headers[i+1])
		}
		answer, err := http.DefaultClient.Do(req)
		require.NoError(t, err)
		defer answer.Body.Close()
		got, err := io.ReadAll(answer.Body)
		require.NoError(t, err)
		return answer, string(got)
	}
	answer, html := get("/render/blocks/foot?word=" + "%3Cb%3Ehi%22")
	require.Equal(t, "<footer>&lt;b&gt;hi&#34;</footer>", html)
	require.Contains(t, answer.Header.Get("Link"), "rel=stylesheet")
	require.Equal(t, "*", answer.Header.Get("Access-Control-Allow-Origin"))
	require.Regexp(t, "^sandbox;", answer.Header.Get("Content-Security-Policy"),
		"nothing runs in the site's name by a query")
	again, _ := get("/render/blocks/foot?word=%3Cb%3Ehi%22", "If-None-Match", answer.Header.Get("ETag"))
	require.Equal(t, http.StatusNotModified, again.StatusCode)
	_, page := get("/render/pages/a/")
	require.Equal(t, b.page("/a/"), page)
	for path, want := range map[string]string{"/render/blocks/none": "no published block none",
		"/render/blocks/foot?wrod=x": "did you mean word?", "/render/pages/none/": "no published page"} {
		answer, text := get(path)
		require.GreaterOrEqual(t, answer.StatusCode, 400)
		require.Contains(t, text, want)
	}
	b.send("POST", "/sites/small/change-sets", change("blocks/foot.html", string(files["blocks/foot.html"]),
		foot), nil)
	_, html = get("/render/blocks/foot")
	require.Equal(t, "<footer>hello</footer>", html, "only what is published is shown")
}

func TestReferenceAndCalls(t *testing.T) {
	b := start(t)
	var ref api.Reference
	b.send("GET", "/sites/small/reference", nil, &ref)
	calls := map[string]string{}
	for _, e := range ref.Entries {
		calls[e.Name] = e.Call
	}
	require.Equal(t, "@{foot /}", calls["foot"])
	require.Equal(t, `@{image src="…" /}`, calls["image"])

	text := "---\ntitle: é\n---\nx @{foot word=\"a\" /}"
	at := len("---\ntitle: é\n---\nx @{fo")
	var found api.FoundCall
	b.send("POST", "/sites/small/calls", api.PlaceInText{Text: text, At: at}, &found)
	require.Equal(t, api.FoundCall{Name: "foot", From: at - 4, Address: "main/foot~1",
		Arguments: []api.Argument{{Name: "word", Text: "a"}}}, found)
	b.send("POST", "/sites/small/change-sets", change("blocks/foot.html", string(files["blocks/foot.html"]),
		"---\nfields: {word: {type: rich}}\n---\n@{=word}"), nil)
	b.send("POST", "/sites/small/calls", api.PlaceInText{Text: `@{foot word=(page.title) none=(x) /}`, At: 3},
		&found)
	require.Equal(t, []api.Argument{{Name: "word", Text: "(page.title)", Derived: true},
		{Name: "none", Text: "(x)", Derived: true}}, found.Arguments)
	value := "b"
	var after api.BlockText
	b.send("POST", "/sites/small/arguments", api.ArgumentEdit{Text: text, At: at, Field: "word",
		Value: &value}, &after)
	require.Equal(t, "---\ntitle: é\n---\nx @{foot word=\"b\" /}", after.Text)
	b.send("POST", "/sites/small/arguments", api.ArgumentEdit{Text: text, At: at, Field: "word"}, &after)
	require.Equal(t, "---\ntitle: é\n---\nx @{foot /}", after.Text)
	require.Equal(t, 422, b.send("POST", "/sites/small/arguments", api.ArgumentEdit{Text: text, At: at,
		Field: "none", Value: &value}, nil).StatusCode)

	var fields []api.Field
	b.send("POST", "/sites/small/fields",
		api.BlockText{Text: "---\nfields: {n: {type: number, default: 2}}\n---\n"}, &fields)
	require.Equal(t, "2", fields[0].DefaultText)
}

func TestMakingBlocksOverHTTP(t *testing.T) {
	b := start(t)
	operate := func(op any) operated {
		var out operated
		b.send("POST", "/sites/small/operations", op, &out)
		return out
	}
	made := operate(api.NewBlockOperation{Operation: "new-block", Block: "card", Title: ptr("Card")})
	b.send("POST", "/sites/small/change-sets", made.ChangeSet, nil)
	home := string(files["pages/index.html"])
	piece := api.PlaceOfPiece{From: len(home) - len("home"), To: len(home)}
	var parts []api.Part
	b.send("POST", "/sites/small/pieces", api.PieceQuestion{Doc: "pages/index.html", Piece: piece}, &parts)
	require.Equal(t, []api.Part{{Field: "text", Type: "text", Value: "home"}}, parts)
	cut := operate(api.BlockFromPieceOperation{Operation: "block-from-piece", Doc: "pages/index.html",
		Piece: piece, Block: "welcome", Title: ptr("Welcome"), Fields: &[]string{"text"}})
	require.Zero(t, cut.Proposal.Impact.Counts["changes"])
	b.send("POST", "/sites/small/change-sets", cut.ChangeSet, nil)
	require.Equal(t, 422, b.send("POST", "/sites/small/pieces", api.PieceQuestion{Doc: "pages/a.html",
		Piece: api.PlaceOfPiece{To: 3}}, nil).StatusCode)
	renamed := operate(api.RenameBlockOperation{Operation: "rename-block", Block: "foot", To: "base"})
	require.Zero(t, renamed.Proposal.Impact.Counts["changes"])
	b.send("POST", "/sites/small/change-sets", renamed.ChangeSet, nil)
	with := api.DeleteBlockOperationWithCopies
	gone := operate(api.DeleteBlockOperation{Operation: "delete-block", Block: "base", With: &with})
	require.Zero(t, gone.Proposal.Impact.Counts["changes"])
	b.send("POST", "/sites/small/change-sets", gone.ChangeSet, nil)
	var o api.Overview
	b.send("GET", "/sites/small", nil, &o)
	require.Equal(t, 0, o.Differ)
	require.Equal(t, 422, b.send("POST", "/sites/small/operations",
		api.NewBlockOperation{Operation: "new-block", Block: "when"}, nil).StatusCode)
}

// By whichever form a rich text is entered, it is written with its tags in order, and what
// becomes of it can be asked before.
func TestRichTextsAreWrittenInOrder(t *testing.T) {
	const typed, ordered = "<p>a <b>b", "<p>a <b>b</b></p>"
	b := start(t)
	foot := "---\nfields: {word: {type: rich, default: x}}\n---\n@{=word}"
	b.send("POST", "/sites/small/change-sets", change("blocks/foot.html", string(files["blocks/foot.html"]),
		foot), nil)
	var entered api.EnteredRichText
	b.send("POST", "/sites/small/rich-texts", api.RichText{Text: typed}, &entered)
	require.Equal(t, ordered, entered.Written)
	require.Contains(t, entered.Unshown, "put in order")
	b.send("POST", "/sites/small/rich-texts", api.RichText{Text: ordered}, &entered)
	require.Equal(t, api.EnteredRichText{Written: ordered}, entered)
	for path, in := range map[string]any{
		"key-edits": api.KeyEdit{Path: "rules/foot.yaml", Text: string(files["rules/foot.yaml"]),
			Keys: []string{"set", "word"}, Value: typed},
		"arguments": api.ArgumentEdit{Text: `@{foot /}`, At: 3, Field: "word", Value: ptr(typed)},
		"defaults":  api.DefaultEdit{Text: foot, Field: "word", Value: typed},
	} {
		var after api.BlockText
		require.Equal(t, 200, b.send("POST", "/sites/small/"+path, in, &after).StatusCode, path)
		require.Contains(t, after.Text, ordered, path)
	}
	for name, op := range map[string]any{
		"set-values": api.SetValuesOperation{Operation: "set-values", Block: "foot",
			Values: []api.ValueEdit{{Doc: "pages/a.html", Address: "foot/rule:foot", Field: "word",
				Text: ptr(typed)}}},
		"add-field": api.AddFieldOperation{Operation: "add-field", Block: "foot", Field: "new", Type: "rich",
			Value: ptr(typed)},
	} {
		var out operated
		require.Equal(t, 200, b.send("POST", "/sites/small/operations", op, &out).StatusCode, name)
		require.Contains(t, *out.ChangeSet.Changes[0].Text, ordered, name)
	}
}
