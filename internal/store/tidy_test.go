package store

import (
	"context"
	"fmt"
	"os"
	"path/filepath"
	"testing"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"brickshelf/internal/core/site"
)

// Tidying up changes nothing that anybody can ask for: not the trees, not the releases, not
// how far undo and redo go.
func TestTidyingUpLosesNothingThatIsNeeded(t *testing.T) {
	var both [2]*Store
	for i := range both {
		s, err := Open(t.TempDir())
		require.NoError(t, err)
		defer s.Close()
		both[i] = s
	}
	n := 0
	rapid.Check(t, func(t *rapid.T) {
		var st Site // one of many in both, alike but for tidying up
		n++
		for _, s := range both {
			var err error
			st, err = s.Create(fmt.Sprint("x", n), site.Files{"a": []byte("one"), "b": noise(3000)}, nil)
			require.NoError(t, err)
		}
		for range rapid.IntRange(1, 9).Draw(t, "steps") {
			step := rapid.IntRange(0, 6).Draw(t, "step")
			path := rapid.SampledFrom([]string{"a", "b", "c"}).Draw(t, "path")
			text := append(noise(3000), rapid.SampledFrom([]string{"1", "2", "3", "4"}).Draw(t, "text")...)
			gone := rapid.IntRange(0, 4).Draw(t, "gone") == 0
			for i, s := range both {
				switch step {
				case 0:
					_, _ = s.Publish(st.ID, "release")
				case 1, 2:
					_, _, _ = s.Undo(st.ID)
				case 3:
					_, _, _ = s.Redo(st.ID)
				default:
					f, err := s.Files(st.ID, Draft)
					require.NoError(t, err)
					c := site.Change{Path: path, After: text}
					if old, there := f[path]; there {
						c.Before = site.HashOf(old)
						if c.Delete = gone; gone {
							c.After = nil
						}
					}
					_, err = s.Save(st.ID, site.ChangeSet{Title: "edit", Changes: []site.Change{c}})
					require.NoError(t, err)
				}
				if i == 0 && path == "a" {
					require.NoError(t, s.Tidy(context.Background(), everything))
				}
			}
		}
		look := func(s *Store) []any {
			var out []any
			for _, tree := range []Tree{Draft, Published} {
				f, err := s.Files(st.ID, tree)
				require.NoError(t, err)
				out = append(out, f)
			}
			rs, err := s.Releases(st.ID)
			require.NoError(t, err)
			for _, r := range rs {
				f, err := s.ReleaseFiles(st.ID, r.Number)
				require.NoError(t, err)
				out = append(out, f)
			}
			undo, redo, err := s.Steps(st.ID)
			require.NoError(t, err)
			h, err := s.History(st.ID, 0, 0, 1000)
			require.NoError(t, err)
			for i := range h {
				h[i].At, h[i].Stamp = both[0].now().Truncate(1<<62), ""
			}
			return append(out, undo, redo, h)
		}
		require.Equal(t, look(both[1]), look(both[0]))
		for range 4 {
			for _, s := range both {
				_, _, _ = s.Undo(st.ID)
			}
			require.Equal(t, look(both[1])[0], look(both[0])[0])
		}
		for range 4 {
			for _, s := range both {
				_, _, _ = s.Redo(st.ID)
			}
			require.Equal(t, look(both[1])[0], look(both[0])[0])
		}
	})
}

// What was taken back for good takes no room any more, on the disk either.
func TestWhatWasTakenBackTakesNoRoom(t *testing.T) {
	s, st, dir := open(t)
	size := func() (n int64) {
		require.NoError(t, s.Tidy(t.Context(), everything))
		for _, name := range []string{FileName, FileName + "-wal"} {
			if info, err := os.Stat(filepath.Join(dir, name)); err == nil {
				n += info.Size()
			}
		}
		return n
	}
	before := size()
	large := site.ChangeSet{Title: "large"}
	for i := range 3000 { // more than are dropped in one go
		large.Changes = append(large.Changes, site.Change{Path: fmt.Sprintf("assets/%d", i),
			After: append(noise(2000), fmt.Sprint(i)...)})
	}
	_, err := s.Save(st.ID, large)
	require.NoError(t, err)
	_, _, err = s.Undo(st.ID)
	require.NoError(t, err)
	require.Greater(t, size(), before+100_000, "it can still be done again")
	undo, redo, err := s.Steps(st.ID)
	require.NoError(t, err)
	require.Equal(t, []string{"", "large"}, []string{undo, redo})
	_, err = s.Save(st.ID, edit("pages/x.html", "b", "c"))
	require.NoError(t, err)
	require.Less(t, size(), before+600_000, "the names of what was edited stay")
	h, err := s.History(st.ID, 0, 0, 1000)
	require.NoError(t, err)
	require.Equal(t, 3000, h[2].Count)
	require.Len(t, h[2].Paths, maxPaths)
}

// everything keeps what undo needs a thousand edits back.
func everything(int64) int { return 1000 }

// A site says itself how far back undo reaches.
func TestUndoReachesAsFarAsASiteSays(t *testing.T) {
	s, st, _ := open(t)
	text := "0"
	_, err := s.Save(st.ID, site.ChangeSet{Title: "edit", Changes: []site.Change{{Path: "assets/a", After: []byte(text)}}})
	require.NoError(t, err)
	for i := range 30 {
		c := site.Change{Path: "assets/a", Before: site.HashOf([]byte(text)), After: fmt.Appendf(nil, "text %d", i)}
		text = string(c.After)
		_, err := s.Save(st.ID, site.ChangeSet{Title: "edit", Changes: []site.Change{c}})
		require.NoError(t, err)
	}
	require.NoError(t, s.Tidy(t.Context(), func(id int64) int {
		require.Equal(t, st.ID, id)
		return 20
	}))
	undone := 0
	for {
		if _, _, err := s.Undo(st.ID); err != nil {
			break
		}
		undone++
	}
	require.Equal(t, 20, undone)
}
