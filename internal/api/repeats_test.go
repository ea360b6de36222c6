package api_test

import (
	"fmt"
	"net/http"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"brickshelf/internal/api"
)

// noticed are pages with one notice, in which a name differs; the last one has a call where the name is.
func noticed(b *bench) {
	var changes []api.Change
	for i, name := range []string{"Ida", "Ole", "Per", "@{year /}"} {
		text := fmt.Sprintf("<!doctype html><h1>%s</h1>\n<div class=\"notice\"><b>Beware of the swans on the quay</b> "+
			"<p>They are fed by <i>%s</i>, who asks you to keep a distance of ten metres at least.</p></div>\n",
			strings.Repeat(string(rune('a'+i)), 30), name)
		changes = append(changes, api.Change{Path: fmt.Sprintf("pages/swans/n%d.html", i), Text: &text})
	}
	b.send("POST", "/sites/small/change-sets", api.ChangeSet{Title: "Notices", Changes: changes}, &api.Saved{})
}

func TestRepeatedPiecesBecomeABlock(t *testing.T) {
	b := start(t)
	noticed(b)
	var list api.Repeats
	b.send("GET", "/sites/small/repeats", nil, &list)
	require.NotEmpty(t, list.Pieces)
	p := list.Pieces[0]
	require.Equal(t, "Notice", p.Title)
	require.Equal(t, 3, p.Pages, "the fourth calls something where the others have a name")
	var whole api.RepeatedPiece
	b.send("GET", "/sites/small/repeats/"+p.Id, nil, &whole)
	require.Equal(t, p, whole.Piece)
	require.Len(t, whole.Places, 3)
	require.Equal(t, "Ida", *(*whole.Places[0].Values)[0])
	require.Len(t, whole.Odd, 1)
	require.Equal(t, "pages/swans/n3.html", whole.Odd[0].Doc)
	require.Equal(t, &api.RepeatDiffers{Line: 2, Text: "@{year /}</i>, who asks you to keep a distance of ten metres at least.</p></div>"},
		whole.Odd[0].Differs)
	require.Contains(t, whole.Markup, "<i>@{=")

	wanted := api.WantedPiece{Id: p.Id, Block: ptr("swans"), Title: ptr("Swans"), Leave: &[]string{"pages/swans/n1.html"},
		Rename: &map[string]string{p.Fields[0].Name: "keeper"}}
	require.Equal(t, []string{"text", "lines", "rich", "number", "date", "link", "image"}, p.Fields[0].Types)
	require.Contains(t, b.refused(api.MakeBlocksOperation{Operation: "make-blocks", Pieces: []api.WantedPiece{
		{Id: p.Id, Types: &map[string]string{p.Fields[0].Name: "switch"}}}}), "cannot be of type switch")
	wanted.Types = &map[string]string{p.Fields[0].Name: "lines"}
	o := b.operate(api.MakeBlocksOperation{Operation: "make-blocks", Pieces: []api.WantedPiece{wanted}})
	require.Equal(t, "Made a block of Swans", o.ChangeSet.Title)
	require.Contains(t, b.page("/_draft/swans/n0/"), "fed by <i>Ida</i>")
	var doc strings.Builder
	for _, c := range o.ChangeSet.Changes {
		fmt.Fprintln(&doc, c.Path, *c.Text)
	}
	require.Contains(t, doc.String(), `@{swans keeper="Ida" /}`)
	require.Contains(t, doc.String(), "keeper: {type: lines")
	require.NotContains(t, doc.String(), "pages/swans/n1.html")

	require.Contains(t, b.refused(api.MakeBlocksOperation{Operation: "make-blocks", Pieces: []api.WantedPiece{wanted}}),
		"is not repeated on them any more", "its pages have changed")
	var problem api.Problem
	require.Equal(t, http.StatusNotFound, b.send("GET", "/sites/small/repeats/"+p.Id, nil, &problem).StatusCode)
	require.Contains(t, problem.Detail, "not repeated on them any more")
}

// Where a piece stands more often than anybody reads, its places are told in parts.
func TestPlacesOfAPieceAreToldInParts(t *testing.T) {
	b := start(t)
	var changes []api.Change
	const rows, pages = 400, 3
	for i := range pages {
		var text strings.Builder
		fmt.Fprintf(&text, "<!doctype html><h1>%s</h1>\n", strings.Repeat(string(rune('a'+i)), 30))
		for r := range rows {
			fmt.Fprintf(&text, "<div class=\"berth\"><b>Berth</b> <i>%d</i> lies at the quay beside the tower</div>\n<p>%d</p>\n", i*rows+r, r)
		}
		s := text.String()
		changes = append(changes, api.Change{Path: fmt.Sprintf("pages/berths/n%d.html", i), Text: &s})
	}
	b.send("POST", "/sites/small/change-sets", api.ChangeSet{Title: "Berths", Changes: changes}, &api.Saved{})
	var list api.Repeats
	b.send("GET", "/sites/small/repeats", nil, &list)
	i := slices.IndexFunc(list.Pieces, func(p api.Repeat) bool { return p.Places == rows*pages })
	require.GreaterOrEqual(t, i, 0)
	at := "/sites/small/repeats/" + list.Pieces[i].Id
	var first, rest, none api.RepeatedPiece
	b.send("GET", at, nil, &first)
	b.send("GET", at+"?after=1000", nil, &rest)
	b.send("GET", at+"?after=100000", nil, &none)
	require.Len(t, first.Places, 1000)
	require.Len(t, rest.Places, rows*pages-1000)
	require.Empty(t, none.Places)
	require.Equal(t, "pages/berths/n2.html", rest.Places[0].Doc)
	require.NotEqual(t, first.Places[999], rest.Places[0])
	want := []string{"pages/berths/n0.html", "pages/berths/n1.html", "pages/berths/n2.html"}
	require.Equal(t, want, first.Docs)
	require.Equal(t, want, none.Docs)
}

// The pieces with which pages begin and end become a layout, and the pages content.
func TestFramesBecomeALayout(t *testing.T) {
	b := start(t)
	var changes []api.Change
	for i := range 4 {
		text := fmt.Sprintf("<!doctype html><html><head><title>Part %d</title></head><body><div class=\"head\">The handbook of the quay, "+
			"for all who come by sea</div>\n%s<div class=\"foot\">Kept by the keepers of the quay, who live in the tower</div></body></html>",
			i, strings.Repeat("<p>"+strings.Repeat(string(rune('a'+i)), 60)+"</p>", 20+i))
		changes = append(changes, api.Change{Path: fmt.Sprintf("pages/book/n%d.html", i), Text: &text})
	}
	b.send("POST", "/sites/small/change-sets", api.ChangeSet{Title: "Book", Changes: changes}, &api.Saved{})
	var list api.Repeats
	b.send("GET", "/sites/small/repeats", nil, &list)
	op := api.MakeLayoutOperation{Operation: "make-layout", Title: ptr("Book")}
	for _, p := range list.Pieces {
		switch {
		case p.Pages == 4 && p.Example.From < 100 && op.Top == "":
			op.Top = p.Id
		case p.Pages == 4 && p.Example.From > 1000 && op.Bottom == "":
			op.Bottom = p.Id
		}
	}
	before := b.page("/_draft/book/n2/")
	o := b.operate(op)
	require.Equal(t, "made", o.Answer)
	require.Len(t, o.ChangeSet.Changes, 5)
	require.Contains(t, b.page("/_draft/book/n2/"), "for all who come by sea")
	require.Equal(t, strings.Count(before, "cccc"), strings.Count(b.page("/_draft/book/n2/"), "cccc"))
	require.Contains(t, b.refused(op), "not repeated on them any more")
}

// What was found holds until a page changes, whatever else does.
func TestPagesAreLookedThroughOnce(t *testing.T) {
	b := start(t)
	noticed(b)
	var list, again api.Repeats
	b.send("GET", "/sites/small/repeats", nil, &list)
	b.send("POST", "/sites/small/change-sets", change("assets/a.css", "", "p{}"), &api.Saved{})
	b.send("GET", "/sites/small/repeats", nil, &again)
	require.Equal(t, list, again)
	text := "<p>Nothing of it.</p>"
	b.send("POST", "/sites/small/change-sets", change("pages/swans/other.html", "", text), &api.Saved{})
	b.send("GET", "/sites/small/repeats", nil, &again)
	require.Equal(t, list.Looked+1, again.Looked)
}
