package workspace_test

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/require"

	"brickshelf/internal/core/site"
)

// What waits to be published is counted as it is: an edit that was taken back does not, and
// taking back one that was published does.
func TestWhatWaitsToBePublished(t *testing.T) {
	w, st := open(t, t.TempDir(), site.Files{"site.yaml": []byte("format: brickshelf/1\n"),
		"pages/p.html": []byte("0")})
	defer st.Close()
	n := 0
	edit := func() {
		_, err := w.Save(site.ChangeSet{Title: fmt.Sprint("edit ", n+1),
			Changes: []site.Change{{Path: "pages/p.html", Before: site.HashOf(fmt.Append(nil, n)),
				After: fmt.Append(nil, n+1)}}}, "")
		require.NoError(t, err)
		n++
	}
	waiting := func() int {
		s, err := w.Steps()
		require.NoError(t, err)
		r, err := w.Review()
		require.NoError(t, err)
		listed := 0
		for _, rec := range r.Records {
			if rec.Waits {
				listed++
			}
		}
		require.Equal(t, s.Waiting, listed)
		return listed
	}
	step := func(do func() error) { require.NoError(t, do()) }
	undo := func() error { _, err := w.Undo(""); return err }
	redo := func() error { _, err := w.Redo(""); return err }
	publish := func() error { _, err := w.Publish("release", ""); return err }
	step(publish)
	edit()
	edit()
	require.Equal(t, 2, waiting())
	step(undo)
	require.Equal(t, 1, waiting())
	step(redo)
	require.Equal(t, 2, waiting())
	step(publish)
	require.Equal(t, 0, waiting())
	step(undo)
	require.Equal(t, 1, waiting(), "the taking back of what is published waits")
	step(undo)
	require.Equal(t, 2, waiting())
	step(redo)
	step(redo)
	require.Equal(t, 0, waiting())
	step(undo)
	step(publish)
	require.Equal(t, 0, waiting())
}

// The edits are listed some at a time, as many as there are.
func TestEditsAreListedWithoutEnd(t *testing.T) {
	w, st := open(t, t.TempDir(), site.Files{"site.yaml": []byte("format: brickshelf/1\n"),
		"pages/p.html": []byte("0")})
	defer st.Close()
	const all = 250
	for i := range all {
		_, err := w.Save(site.ChangeSet{Title: fmt.Sprint("edit ", i),
			Changes: []site.Change{{Path: "pages/p.html", Before: site.HashOf(fmt.Append(nil, i)),
				After: fmt.Append(nil, i+1)}}}, "")
		require.NoError(t, err)
	}
	seen, before := map[int64]bool{}, int64(0)
	for {
		list, err := w.History(before)
		require.NoError(t, err)
		if len(list) == 0 {
			break
		}
		for _, r := range list {
			require.False(t, seen[r.ID])
			seen[r.ID] = true
			before = r.ID
		}
	}
	require.Len(t, seen, all)
	s, err := w.Steps()
	require.NoError(t, err)
	require.Equal(t, all, s.Waiting)
}
