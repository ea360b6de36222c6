package store

import (
	"fmt"
	"os"
	"os/exec"
	"path/filepath"
	"syscall"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"brickshelf/internal/core/site"
)

func open(t *testing.T) (*Store, Site, string) {
	dir := t.TempDir()
	s, err := Open(dir)
	require.NoError(t, err)
	t.Cleanup(func() { _ = s.Close() })
	st, err := s.Create("demo", site.Files{"site.yaml": []byte("a"), "pages/x.html": []byte("b"),
		"assets/e": {}}, nil)
	require.NoError(t, err)
	return s, st, dir
}

func edit(path, before, after string) site.ChangeSet {
	return site.ChangeSet{Title: "Edit " + path,
		Changes: []site.Change{{Path: path, Before: site.HashOf([]byte(before)), After: []byte(after)}}}
}

func draft(t *testing.T, s *Store, st Site) map[string]string {
	f, err := s.Files(st.ID, Draft)
	require.NoError(t, err)
	out := map[string]string{}
	for p, b := range f {
		out[p] = string(b)
	}
	return out
}

func TestSaveUndoRedo(t *testing.T) {
	s, st, _ := open(t)
	_, err := s.Save(st.ID, edit("pages/x.html", "b", "c"))
	require.NoError(t, err)
	_, err = s.Save(st.ID, site.ChangeSet{Title: "Two", Changes: []site.Change{
		{Path: "pages/y.html", After: []byte("new")}, {Path: "assets/e", Before: site.HashOf(nil),
			Delete: true}}})
	require.NoError(t, err)
	require.Equal(t, map[string]string{"site.yaml": "a", "pages/x.html": "c", "pages/y.html": "new"},
		draft(t, s, st))

	_, set, err := s.Undo(st.ID)
	require.NoError(t, err)
	require.Len(t, set.Changes, 2)
	require.Equal(t, map[string]string{"site.yaml": "a", "pages/x.html": "c", "assets/e": ""},
		draft(t, s, st))
	_, _, err = s.Undo(st.ID)
	require.NoError(t, err)
	_, _, err = s.Undo(st.ID)
	require.ErrorIs(t, err, ErrNothing)
	undo, redo, err := s.Steps(st.ID)
	require.NoError(t, err)
	require.Equal(t, []string{"", "Edit pages/x.html"}, []string{undo, redo})
	_, _, err = s.Redo(st.ID)
	require.NoError(t, err)
	require.Equal(t, "c", draft(t, s, st)["pages/x.html"])
	_, err = s.Save(st.ID, edit("pages/x.html", "c", "d"))
	require.NoError(t, err)
	_, _, err = s.Redo(st.ID)
	require.ErrorIs(t, err, ErrNothing, "a new edit ends what could be redone")
	h, err := s.History(st.ID, 0, 0, 1000)
	require.NoError(t, err)
	require.Len(t, h, 6)
	require.Equal(t, []string{"pages/x.html"}, h[0].Paths)
}

func TestLastChanges(t *testing.T) {
	s, st, _ := open(t)
	last := func(prefix string) map[string]int64 {
		m, err := s.LastChanges(st.ID, prefix)
		require.NoError(t, err)
		return m
	}
	require.Empty(t, last(""), "a new site was not edited")
	first, err := s.Save(st.ID, edit("pages/x.html", "b", "c"))
	require.NoError(t, err)
	second, err := s.Save(st.ID, site.ChangeSet{Title: "Two", Changes: []site.Change{
		{Path: "pages/y.html", After: []byte("new")}, {Path: "pagesx", After: []byte("new")}}})
	require.NoError(t, err)
	require.Equal(t, map[string]int64{"pages/x.html": first.ID, "pages/y.html": second.ID}, last("pages/"))
	third, err := s.Save(st.ID, edit("pages/x.html", "c", "d"))
	require.NoError(t, err)
	require.Equal(t, third.ID, last("pages/")["pages/x.html"])
	undone, _, err := s.Undo(st.ID)
	require.NoError(t, err)
	require.Equal(t, undone.ID, last("pages/")["pages/x.html"], "taking back changes it too")
}

func TestAStaleSaveIsRefusedWithBothVersions(t *testing.T) {
	s, st, _ := open(t)
	_, err := s.Save(st.ID, edit("pages/x.html", "b", "first"))
	require.NoError(t, err)
	set := edit("pages/x.html", "b", "second")
	set.Changes = append([]site.Change{{Path: "pages/other.html", After: []byte("o")}}, set.Changes...)
	_, err = s.Save(st.ID, set)
	var conflict *site.Conflict
	require.ErrorAs(t, err, &conflict)
	require.Equal(t, "first", string(conflict.Current))
	require.Equal(t, "second", string(conflict.Offered))
	require.NotContains(t, draft(t, s, st), "pages/other.html", "nothing of a refused change set is written")
}

func TestEditsOfOneTitleAreToldApart(t *testing.T) {
	s, st, _ := open(t)
	save := func(before, after string) string {
		rec, err := s.Save(st.ID, edit("pages/x.html", before, after))
		require.NoError(t, err)
		return rec.Title
	}
	require.Equal(t, "Edit pages/x.html", save("b", "c"))
	require.Equal(t, "Edit pages/x.html (2)", save("c", "d"))
	require.Equal(t, "Edit pages/x.html (3)", save("d", "e"))
	other, err := s.Save(st.ID, site.ChangeSet{Title: "Edit pages/x.htm", // which the others begin with
		Changes: []site.Change{{Path: "pages/z.html", After: []byte("z")}}})
	require.NoError(t, err)
	require.Equal(t, "Edit pages/x.htm", other.Title)
	undo, _, err := s.Steps(st.ID)
	require.NoError(t, err)
	require.Equal(t, "Edit pages/x.htm", undo)
	_, err = s.Publish(st.ID, "one")
	require.NoError(t, err)
	require.Equal(t, "Edit pages/x.html", save("e", "f"), "a release begins anew")
}

func TestReleases(t *testing.T) {
	s, st, _ := open(t)
	one, err := s.Publish(st.ID, "first")
	require.NoError(t, err)
	require.Equal(t, 1, one.Number)
	_, err = s.Publish(st.ID, "again")
	require.ErrorIs(t, err, ErrNothing)
	_, err = s.Save(st.ID, site.ChangeSet{Changes: []site.Change{{Path: "pages/x.html",
		Before: site.HashOf([]byte("b")), Delete: true}, {Path: "pages/z.html", After: []byte("z")}}})
	require.NoError(t, err)
	_, err = s.Publish(st.ID, "second")
	require.NoError(t, err)
	now, err := s.Files(st.ID, Published)
	require.NoError(t, err)
	require.Equal(t, []string{"assets/e", "pages/z.html", "site.yaml"}, now.Paths())
	first, err := s.ReleaseFiles(st.ID, 1)
	require.NoError(t, err)
	require.Equal(t, []string{"assets/e", "pages/x.html", "site.yaml"}, first.Paths())
	_, err = s.ReleaseFiles(st.ID, 9)
	require.Error(t, err)
}

func TestOpenRefuses(t *testing.T) {
	s, _, dir := open(t)
	require.NoError(t, s.Close())
	path := filepath.Join(dir, FileName)
	good, err := os.ReadFile(path)
	require.NoError(t, err)

	for name, harm := range map[string]func(){
		"is damaged": func() {
			require.NoError(t, os.WriteFile(path, append([]byte("SQLite format 3\x00"), good[2000:]...),
				0o644))
		},
		"is not a data": func() { require.NoError(t, os.WriteFile(path, nil, 0o644)); foreign(t, path) },
		"newer version": func() { require.NoError(t, os.WriteFile(path, good, 0o644)); newer(t, path) },
	} {
		harm()
		before, err := os.ReadFile(path)
		require.NoError(t, err)
		_, err = Open(dir)
		require.ErrorContains(t, err, name)
		after, err := os.ReadFile(path)
		require.NoError(t, err)
		require.Equal(t, before, after, "the file is left alone")
		_ = os.Remove(path + "-wal")
		_ = os.Remove(path + "-shm")
	}
}

func foreign(t *testing.T, path string) { execSQL(t, path, "CREATE TABLE other (x)") }

func newer(t *testing.T, path string) {
	execSQL(t, path, "INSERT INTO goose_db_version (version_id, is_applied) VALUES (999, 1)")
}

func execSQL(t *testing.T, path, query string) {
	out := &Store{}
	var err error
	out.db, err = openPlain(path)
	require.NoError(t, err)
	_, err = out.db.Exec(query)
	require.NoError(t, err)
	require.NoError(t, out.Close())
}

// TestKilledAtAnyMoment kills a process that saves change sets of two documents
// again and again, and looks whether either both or none are there.
func TestKilledAtAnyMoment(t *testing.T) {
	if dir := os.Getenv("BRICKSHELF_SAVE_LOOP"); dir != "" {
		saveLoop(dir)
		return
	}
	s, st, dir := open(t)
	seen := 0
	for round := range 8 {
		require.NoError(t, s.Close())
		cmd := exec.Command(os.Args[0], "-test.run", "^TestKilledAtAnyMoment$")
		cmd.Env = append(os.Environ(), "BRICKSHELF_SAVE_LOOP="+dir)
		require.NoError(t, cmd.Start())
		time.Sleep(time.Duration(60+37*round) * time.Millisecond)
		require.NoError(t, cmd.Process.Signal(syscall.SIGKILL))
		_ = cmd.Wait()
		var err error
		s, err = Open(dir)
		require.NoError(t, err, "a process that was killed holds no lock")
		f := draft(t, s, st)
		require.Equal(t, f["pages/left.html"], f["pages/right.html"],
			"both documents of a change set or neither")
		h, err := s.History(st.ID, 0, 0, 1000)
		require.NoError(t, err)
		require.Equal(t, len(h) > 0, f["pages/left.html"] != "")
		seen = len(h)
	}
	require.Positive(t, seen, "something was saved before the kills")
	require.NoError(t, s.Close())
}

func saveLoop(dir string) {
	s, err := Open(dir)
	if err != nil {
		panic(err)
	}
	st, err := s.Site("demo")
	if err != nil {
		panic(err)
	}
	for i := 0; ; i++ {
		f, err := s.Files(st.ID, Draft)
		if err != nil {
			panic(err)
		}
		set := site.ChangeSet{Title: "pair"}
		for _, p := range []string{"pages/left.html", "pages/right.html"} {
			c := site.Change{Path: p, After: fmt.Appendf(nil, "%d of %d", i, os.Getpid())}
			if old, ok := f[p]; ok {
				c.Before = site.HashOf(old)
			}
			set.Changes = append(set.Changes, c)
		}
		if _, err := s.Save(st.ID, set); err != nil {
			panic(err)
		}
	}
}

func TestANewEditEndsForGoodWhatCouldBeRedone(t *testing.T) {
	s, st, _ := open(t)
	steps := func() []string {
		undo, redo, err := s.Steps(st.ID)
		require.NoError(t, err)
		return []string{undo, redo}
	}
	save := func(before, after string) {
		_, err := s.Save(st.ID, edit("pages/x.html", before, after))
		require.NoError(t, err)
	}
	save("b", "one")
	_, _, err := s.Undo(st.ID)
	require.NoError(t, err)
	save("b", "two")
	_, _, err = s.Undo(st.ID)
	require.NoError(t, err)
	require.Equal(t, []string{"", "Edit pages/x.html (2)"}, steps())
	_, _, err = s.Redo(st.ID)
	require.NoError(t, err)
	require.Equal(t, "two", draft(t, s, st)["pages/x.html"], "not what was taken back before it")
	require.Equal(t, []string{"Edit pages/x.html (2)", ""}, steps())
	_, _, err = s.Redo(st.ID)
	require.ErrorIs(t, err, ErrNothing)

	save("two", "three")
	for _, want := range []string{"two", "b"} {
		_, _, err = s.Undo(st.ID)
		require.NoError(t, err)
		require.Equal(t, want, draft(t, s, st)["pages/x.html"])
	}
	for _, want := range []string{"two", "three"} {
		_, _, err = s.Redo(st.ID)
		require.NoError(t, err)
		require.Equal(t, want, draft(t, s, st)["pages/x.html"])
	}
}
