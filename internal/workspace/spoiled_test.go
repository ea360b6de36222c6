package workspace_test

import (
	"testing"

	"github.com/stretchr/testify/require"

	"brickshelf/internal/core/site"
	"brickshelf/internal/workspace"
)

func TestWhatAnotherEncodingSaysIsNotSpoiled(t *testing.T) {
	w, _ := open(t, t.TempDir(), site.Files{"site.yaml": []byte("format: brickshelf/1\nname: x\n"),
		"pages/old.html": []byte("<p>one\nK\xfcste"), "pages/new.html": []byte("a \uFFFD that is its own")})
	save := func(path, text string) error {
		_, err := w.Save(site.ChangeSet{Title: "Edit", Changes: []site.Change{{Path: path,
			Before: w.State().Draft.Hash(path), After: []byte(text)}}}, "")
		return err
	}
	read := "<p>one\nK\uFFFDste, edited" // as one sees it who takes it for UTF-8
	var invalid *workspace.InvalidError
	require.ErrorAs(t, save("pages/old.html", read), &invalid)
	require.Equal(t, "lost-characters", invalid.Problems[0].Code)
	require.Equal(t, [2]int{2, 2}, [2]int{invalid.Problems[0].Line, invalid.Problems[0].Column})
	_, seen := w.Propose([]site.Change{{Path: "pages/old.html", Before: w.State().Draft.Hash("pages/old.html"),
		After: []byte(read)}})
	require.Len(t, seen.Problems, 1, "told while one types")
	require.Nil(t, seen.Impact)

	require.NoError(t, save("pages/new.html", "b \uFFFD that is its own"))
	require.NoError(t, save("pages/old.html", "<p>one\nK\xfcste, edited"), "the same encoding")
	require.NoError(t, save("pages/old.html", "<p>one\nK\u00fcste"), "made UTF-8")
}
