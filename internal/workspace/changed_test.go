package workspace_test

import (
	"os"
	"testing"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"brickshelf/internal/core/impact"
	"brickshelf/internal/core/site"
)

// Whatever has been done since, an edit is said to have changed the pages that it did change when it
// was made.
func TestAnEditIsSaidToHaveChangedWhatItDid(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		dir, err := os.MkdirTemp("", "changed-*")
		require.NoError(t, err)
		defer os.RemoveAll(dir)
		w, st := open(t, dir, site.Files{"site.yaml": []byte("format: brickshelf/1\n"),
			"blocks/a.html": []byte("a"), "blocks/b.html": []byte("b@{a /}"), "blocks/c.html": []byte("c"),
			"pages/p.html": []byte("@{a /}"), "pages/q.html": []byte("@{b /}"), "pages/r.html": []byte("@{c /}")})
		defer st.Close()
		paths := []string{"blocks/a.html", "blocks/b.html", "blocks/c.html", "pages/p.html", "pages/new.html"}
		texts := []string{"x", "y", "<b>z</b>", "@{c /}"}
		want := map[int64]map[string]impact.Effect{}
		var ids []int64
		for range rapid.IntRange(1, 5).Draw(t, "edits") {
			was := w.State().Draft
			path := rapid.SampledFrom(paths).Draw(t, "path")
			change := site.Change{Path: path, Before: was.Hash(path), After: []byte(rapid.SampledFrom(texts).Draw(t, "text"))}
			if path == "blocks/c.html" {
				change.After = []byte("c2")
			}
			if _, there := was.Get(path); there && path == "pages/new.html" {
				change.After, change.Delete = nil, true
			}
			rec, err := w.Save(site.ChangeSet{Title: "edit", Changes: []site.Change{change}}, "")
			require.NoError(t, err)
			im := impact.Of(was, was.With([]site.Change{change}))
			want[rec.ID] = map[string]impact.Effect{}
			for _, p := range im.Pages {
				if p.Effect == impact.Changes || p.Effect == impact.Added || p.Effect == impact.Removed {
					want[rec.ID][p.Path] = p.Effect
				}
			}
			ids = append(ids, rec.ID)
		}
		if rapid.Bool().Draw(t, "undone") {
			_, err := w.Undo("")
			require.NoError(t, err)
		}
		for _, id := range ids {
			im, err := w.Changed(id)
			require.NoError(t, err)
			got := map[string]impact.Effect{}
			for _, p := range im.Pages {
				got[p.Path] = p.Effect
			}
			require.Equal(t, want[id], got)
			total := im.Counts[impact.Changes] + im.Counts[impact.Added] + im.Counts[impact.Removed]
			require.Equal(t, len(got), total)
		}
		_, err = w.Changed(ids[len(ids)-1] + 100)
		require.ErrorContains(t, err, "there is no such edit")
	})
}
