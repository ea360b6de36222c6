package api_test

import (
	"testing"

	"github.com/stretchr/testify/require"

	"brickshelf/internal/api"
)

func TestAnEditComesWithTheKeysThatItNeeds(t *testing.T) {
	b := start(t)
	outer := "@{foot /}"
	var saved api.Saved
	b.send("POST", "/sites/small/change-sets", change("blocks/outer.html", "", outer), &saved)
	home := string(files["pages/index.html"])
	b.send("POST", "/sites/small/change-sets", change("pages/index.html", home, home+"@{outer /}"), &saved)

	own := "---\ntitle: Home\noverrides: {main/outer~1/foot~1: {word: mine}}\n---\n@{outer /}"
	var keyed api.KeyedChanges
	b.send("POST", "/sites/small/keyed-changes", change("pages/index.html", home+"@{outer /}", own), &keyed)
	require.Equal(t, map[string]string{"main/outer~1/foot~1": "main/outer~1/foot"}, keyed.Called)
	require.Len(t, keyed.ChangeSet.Changes, 2)
	require.Equal(t, "Edit pages/index.html", keyed.ChangeSet.Title)
	require.NotContains(t, b.page("/_draft/"), "mine", "nothing is saved")
	b.send("POST", "/sites/small/change-sets", keyed.ChangeSet, &saved)
	require.Contains(t, b.page("/_draft/"), "mine")
	var block string
	b.send("GET", "/sites/small/documents?path=blocks/outer.html", nil, &block)
	require.Equal(t, `@{foot key="foot" /}`, block)

	var same api.KeyedChanges
	b.send("POST", "/sites/small/keyed-changes", change("blocks/outer.html", `@{foot key="foot" /}`, "other"),
		&same)
	require.Empty(t, same.Called)
	require.Equal(t, "other", *same.ChangeSet.Changes[0].Text)
}
