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
		var past, future []site.Files // drafts that undoing and redoing lead to, the next one last
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
					require.Equal(r, spell(draft), spell(published),
						"only what is published already has nothing to publish")
				}
			case "save":
				after := site.Files{}
				for p, b := range drawn.Draw(r, "becomes") {
					after[p] = []byte(b)
				}
				_, err := s.Save(st.ID, site.Diff(draft, after))
				require.NoError(r, err)
				past, future, draft = append(past, draft), nil, after
			case "undo":
				draft = stepped(r, st.ID, s.Undo, draft, &past, &future)
			case "redo":
				draft = stepped(r, st.ID, s.Redo, draft, &future, &past)
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
			require.Len(r, unpublished, len(site.Diff(draft, published).Changes),
				"and nothing else is among them")
		}
	})
}

// stepped is the draft after an undo or redo, where there is something to step over.
func stepped(r *rapid.T, id int64, step func(int64) (Record, site.ChangeSet, error), draft site.Files, from,
	to *[]site.Files) site.Files {
	_, set, err := step(id)
	if len(*from) == 0 {
		require.ErrorIs(r, err, ErrNothing)
		return draft
	}
	require.NoError(r, err)
	want := (*from)[len(*from)-1]
	*from, *to = (*from)[:len(*from)-1], append(*to, draft)
	after, err := draft.Apply(set)
	require.NoError(r, err)
	require.Equal(r, spell(want), spell(after), "the change set returned is what was done")
	return want
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
