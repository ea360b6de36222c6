package api_test

import (
	"net/http"
	"testing"

	"github.com/stretchr/testify/require"

	"brickshelf/internal/api"
)

func TestWordsAreFoundAndReplaced(t *testing.T) {
	b := start(t)
	b.send("POST", "/sites/small/change-sets", change("pages/words.html", "",
		"---\ntitle: The long quay\n---\n<p class=\"quay\">A quay &amp; a Quay.</p>"), &api.Saved{})
	var found api.WordsFound
	ask := func(w api.Words, limit int) {
		found = api.WordsFound{}
		b.send("POST", "/sites/small/words", api.WordsQuestion{Words: w, With: ptr("pier"), Limit: &limit}, &found)
	}
	words := api.Words{Text: "quay", In: &[]api.DocumentClass{api.ClassPage}}
	ask(words, 2)
	require.Equal(t, 4, found.Total)
	require.Equal(t, []api.WordsIn{{Class: api.ClassPage, Documents: 1, Spots: 4}}, found.Classes)
	require.Equal(t, []api.WordsSpot{
		{Doc: "pages/words.html", Kind: "value", Of: "title", Line: 2, Column: 8, Before: "The long ",
			Match: "quay", With: "pier"},
		{Doc: "pages/words.html", N: 1, Kind: "attribute", Of: "class", Line: 4, Column: 11, Match: "quay", With: "pier"},
	}, found.Spots)

	o := b.operate(api.ReplaceWordsOperation{Operation: "replace-words", Words: words, With: "pier",
		Without: &[]api.WordsSpotName{{Doc: "pages/words.html", N: 1}}, Seen: &found.Seen})
	require.Equal(t, "Replace “quay” by “pier”", o.ChangeSet.Title)
	require.Contains(t, b.page("/_draft/words/"), ` class="quay">A pier &amp; a pier.</p>`)
	require.Contains(t, b.refused(api.ReplaceWordsOperation{Operation: "replace-words", Words: words, With: "x",
		Seen: &found.Seen}), "look at the list again")

	words = api.Words{Text: "Pier", Case: ptr(true)}
	ask(words, 10)
	require.Zero(t, found.Total)
	words = api.Words{Text: "(p)ier", Pattern: ptr(true), Whole: ptr(true), Written: ptr(true)}
	ask(words, 10)
	require.Equal(t, api.WordsSpotKind("written"), found.Spots[0].Kind)
	require.Contains(t, b.refused(api.ReplaceWordsOperation{Operation: "replace-words",
		Words: api.Words{Text: "nowhere"}, With: "x"}), "nothing is chosen")
	var p api.Problem
	require.Equal(t, http.StatusUnprocessableEntity, b.send("POST", "/sites/small/words",
		api.WordsQuestion{Words: api.Words{Text: "(", Pattern: ptr(true)}}, &p).StatusCode)
	require.Contains(t, p.Detail, "this is no regular expression")
}
