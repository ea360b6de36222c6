package store

import (
	"maps"
	"os"
	"testing"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"brickshelf/internal/core/site"
)

// What the store says of its two trees is held to a model that keeps both whole, through
// drawn saves, releases, undoing and redoing.
func TestTreesAreAsAModelHasThem(t *testing.T) {
	t.Parallel()
	rapid.Check(t, func(r *rapid.T) {
		s, err := Open(fresh(t))
		require.NoError(r, err)
		defer func() { _ = s.Close() }()
		paths := []string{"pages/a.html", "pages/b.html", "pages/c.html", "site.yaml"}
		drawn := rapid.MapOf(rapid.SampledFrom(paths), rapid.SampledFrom([]string{"", "x", "y"}))
		draft, published := site.Files{}, site.Files{}
		for p, b := range drawn.Draw(r, "begins with") {
			draft[p] = []byte(b)
		}
		st, err := s.Create("drawn", draft, nil)
		require.NoError(r, err)
		for range rapid.IntRange(1, 8).Draw(r, "steps") {
			switch rapid.SampledFrom([]string{"save", "save", "publish", "undo", "redo"}).Draw(r, "step") {
			case "publish":
				if _, err := s.Publish(st.ID, "drawn"); err == nil {
					published = maps.Clone(draft)
				} else {
					require.ErrorIs(r, err, ErrNothing)
					require.Equal(r, spell(draft), spell(published), "only what is published already has nothing to publish")
				}
			case "save":
				after := site.Files{}
				for p, b := range drawn.Draw(r, "becomes") {
					after[p] = []byte(b)
				}
				_, err := s.Save(st.ID, site.Diff(draft, after))
				require.NoError(r, err)
				draft = after
			case "undo":
				draft = stepped(r, draft, st.ID, s.Undo)
			case "redo":
				draft = stepped(r, draft, st.ID, s.Redo)
			}
			held(r, s, st.ID, Draft, draft)
			held(r, s, st.ID, Published, published)
			unpublished, err := s.Unpublished(st.ID)
			require.NoError(r, err)
			back := draft
			for _, c := range unpublished {
				c.Before = site.HashOf(draft[c.Path])
				if _, there := draft[c.Path]; !there {
					c.Before = ""
				}
				back, err = back.Apply(site.ChangeSet{Changes: []site.Change{c}})
				require.NoError(r, err)
			}
			require.Equal(r, spell(published), spell(back))
			require.Len(r, unpublished, len(site.Diff(draft, published).Changes), "and nothing else is among them")
		}
	})
}

// stepped is a draft after an undo or redo, where there is something to step over.
func stepped(r *rapid.T, draft site.Files, id int64, step func(int64) (Record, site.ChangeSet, error)) site.Files {
	_, set, err := step(id)
	if err != nil {
		require.ErrorIs(r, err, ErrNothing)
		return draft
	}
	after, err := draft.Apply(set)
	require.NoError(r, err)
	return after
}

func held(r *rapid.T, s *Store, id int64, tree Tree, want site.Files) {
	got, err := s.Files(id, tree)
	require.NoError(r, err)
	require.Equal(r, spell(want), spell(got), tree)
}

func spell(files site.Files) map[string]string {
	out := map[string]string{}
	for p, b := range files {
		out[p] = string(b)
	}
	return out
}

// fresh is a folder of its own for each draw.
func fresh(t *testing.T) string {
	dir, err := os.MkdirTemp(t.TempDir(), "")
	require.NoError(t, err)
	return dir
}
