package publish

import (
	"bytes"
	"fmt"
	"io/fs"
	"maps"
	"os"
	"path/filepath"
	"strings"
	"testing"
	"time"

	"github.com/gofrs/flock"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"brickshelf/internal/core/site"
)

// onDisk is everything in a folder but for what publishing remembers.
func onDisk(t require.TestingT, dir string) site.Files {
	out := site.Files{}
	dir, err := filepath.EvalSymlinks(dir)
	require.NoError(t, err)
	require.NoError(t, filepath.WalkDir(dir, func(p string, d fs.DirEntry, err error) error {
		rel, _ := filepath.Rel(dir, p)
		if rel == State {
			return fs.SkipDir
		}
		if err == nil && !d.IsDir() {
			out[filepath.ToSlash(rel)], err = os.ReadFile(p)
		}
		return err
	}))
	return out
}

func put(t require.TestingT, dir string, files site.Files) {
	for p, b := range files {
		full := filepath.Join(dir, filepath.FromSlash(p))
		require.NoError(t, os.MkdirAll(filepath.Dir(full), 0o755))
		require.NoError(t, os.WriteFile(full, b, 0o644))
	}
}

func texts(files site.Files) map[string]string {
	out := map[string]string{}
	for p, b := range files {
		out[p] = string(b)
	}
	return out
}

// written publishes and holds the folder to what was published and what else is there.
func written(t require.TestingT, dir string, files, foreign site.Files) Written {
	w, err := Write(dir, files, nil)
	require.NoError(t, err)
	want := maps.Clone(foreign)
	if want == nil {
		want = site.Files{}
	}
	maps.Copy(want, files)
	require.Equal(t, texts(want), texts(onDisk(t, dir)))
	Settle()
	left, err := os.ReadDir(filepath.Join(dir, State))
	require.NoError(t, err)
	for _, e := range left {
		require.Contains(t, []string{"manifest", "lock", "aside", ".gitignore"}, e.Name(), "nothing of the work is left")
	}
	return w
}

func numbered(n int) site.Files {
	out := site.Files{"sitemap.xml": []byte("<urlset/>")}
	for i := range n {
		out[fmt.Sprintf("p%d/index.html", i)] = fmt.Appendf(nil, "page %d", i)
	}
	return out
}

func TestOnlyWhatDiffersIsWritten(t *testing.T) {
	dir := filepath.Join(t.TempDir(), "www")
	files := numbered(20)
	require.Equal(t, 21, written(t, dir, files, nil).Files)
	require.Equal(t, 0, written(t, dir, files, nil).Files)
	files["p3/index.html"] = []byte("another")
	files["deep/er/index.html"] = []byte("new")
	delete(files, "p4/index.html")
	require.Equal(t, 2, written(t, dir, files, nil).Files)
	_, err := os.Stat(filepath.Join(dir, "p4"))
	require.ErrorIs(t, err, fs.ErrNotExist, "empty folders go too")
	for i := range 20 {
		files[fmt.Sprintf("p%d/index.html", i)] = []byte("all new")
	}
	require.Equal(t, 20, written(t, dir, files, nil).Files)
	beside, err := os.ReadDir(filepath.Dir(dir))
	require.NoError(t, err)
	require.Len(t, beside, 1, "nothing is put beside the folder")
}

func TestMoreFilesThanAreSyncedOneByOne(t *testing.T) {
	dir := t.TempDir()
	files := numbered(syncEach + 50)
	require.Equal(t, len(files), written(t, dir, files, nil).Files)
	require.Equal(t, 0, written(t, dir, files, nil).Files)
}

// What was not written by publishing is not changed by it, in a whole publish or a small one.
func TestOtherFilesAreLeftAlone(t *testing.T) {
	dir := t.TempDir()
	foreign := site.Files{".htaccess": []byte("Deny"), "CNAME": []byte("x.example"),
		".git/HEAD": []byte("ref"), "uploads/a/b.pdf": []byte("%PDF"), "p1/notes.txt": []byte("mine")}
	put(t, dir, foreign)
	files := numbered(4)
	written(t, dir, files, foreign)
	delete(files, "p1/index.html")
	written(t, dir, files, foreign)
	written(t, dir, site.Files{"sitemap.xml": []byte("<a/>")}, foreign)
	written(t, dir, site.Files{}, foreign)
}

func TestAFileInTheWayIsRefusedByName(t *testing.T) {
	for name, c := range map[string]struct {
		foreign site.Files
		files   site.Files
		says    string
	}{
		"the file itself": {site.Files{"sitemap.xml": []byte("of another program")}, numbered(2),
			"sitemap.xml would be overwritten"},
		"a file, not a folder": {site.Files{"p1": []byte("x")}, numbered(2), "the site needs a folder"},
		"a folder, not a file": {site.Files{"p1/index.html/x": []byte("x")}, numbered(2),
			"p1/index.html/x would be overwritten"},
		"a name of publishing's": {site.Files{}, site.Files{".shelf/manifest": []byte("x")}, "another name"},
	} {
		t.Run(name, func(t *testing.T) {
			dir := t.TempDir()
			put(t, dir, c.foreign)
			_, err := Write(dir, c.files, nil)
			require.ErrorContains(t, err, c.says)
			require.Equal(t, texts(c.foreign), texts(onDisk(t, dir)), "nothing was written")
		})
	}
	t.Run("all of them are named, and how many", func(t *testing.T) {
		dir := t.TempDir()
		put(t, dir, numbered(9))
		other := numbered(9)
		for p := range other {
			other[p] = []byte("other")
		}
		_, err := Write(dir, other, nil)
		var o *Obstacle
		require.ErrorAs(t, err, &o)
		require.Len(t, o.Paths, 10)
		require.ErrorContains(t, err, "and 7 more")
	})
	t.Run("links", func(t *testing.T) {
		dir, elsewhere := t.TempDir(), t.TempDir()
		require.NoError(t, os.Symlink(elsewhere, filepath.Join(dir, "p0")))
		_, err := Write(dir, numbered(2), nil)
		require.ErrorContains(t, err, "p0 would be overwritten, and it is a link")
		require.NoError(t, os.Remove(filepath.Join(dir, "p0")))
		require.NoError(t, os.Symlink(filepath.Join(elsewhere, "x"), filepath.Join(dir, "sitemap.xml")))
		_, err = Write(dir, numbered(2), nil)
		require.ErrorContains(t, err, "sitemap.xml would be overwritten, and it is a link")
	})
}

// Where the files are as they would be, nobody loses anything: a manifest that was lost
// does not stop publishing.
func TestFilesThatAreAsTheyShouldBeAreTakenOver(t *testing.T) {
	dir := t.TempDir()
	files := numbered(5)
	written(t, dir, files, nil)
	require.NoError(t, os.RemoveAll(filepath.Join(dir, State)))
	require.Equal(t, 0, written(t, dir, files, nil).Files)
	files["p1/index.html"] = []byte("new")
	require.Equal(t, 1, written(t, dir, files, nil).Files)
	now := time.Now().Add(time.Hour)
	require.NoError(t, os.Chtimes(filepath.Join(dir, "p2/index.html"), now, now))
	w := written(t, dir, files, nil)
	require.Zero(t, w.Files)
	require.Empty(t, w.Aside, "another time alone is no edit")
}

func TestWhatSomebodyEditedIsPutRightAndKept(t *testing.T) {
	dir := t.TempDir()
	files := numbered(5)
	written(t, dir, files, nil)
	put(t, dir, site.Files{"p1/index.html": []byte("by hand"), "p2/index.html": []byte("also by hand")})
	delete(files, "p2/index.html")
	w := written(t, dir, files, nil)
	require.Equal(t, []string{"p1/index.html", "p2/index.html"}, w.Aside)
	kept, err := filepath.Glob(filepath.Join(dir, State, "aside/*/*/index.html"))
	require.NoError(t, err)
	require.Len(t, kept, 2)
	for i, want := range []string{"by hand", "also by hand"} {
		b, err := os.ReadFile(kept[i])
		require.NoError(t, err)
		require.Equal(t, want, string(b))
	}
	require.NoError(t, os.Remove(filepath.Join(dir, "p3/index.html")))
	require.Equal(t, 1, written(t, dir, files, nil).Files, "what somebody removed comes back")
}

func TestAFileBecomesAFolderAndTheOtherWayRound(t *testing.T) {
	dir := t.TempDir()
	foreign := site.Files{"x.txt": []byte("x")}
	put(t, dir, foreign)
	a := site.Files{"a": []byte("file"), "b/c/d": []byte("deep"), "b/c/e": []byte("deep")}
	b := site.Files{"a/b": []byte("deep"), "b": []byte("file")}
	for range 2 {
		written(t, dir, a, foreign)
		require.NoError(t, os.MkdirAll(filepath.Join(dir, "b/empty/er"), 0o755))
		written(t, dir, b, foreign)
	}
}

func TestTheFolderItselfMayBeALinkOrWhereOneStands(t *testing.T) {
	parent := t.TempDir()
	real := filepath.Join(parent, "real")
	require.NoError(t, os.Mkdir(real, 0o755))
	require.NoError(t, os.Symlink(real, filepath.Join(parent, "www")))
	written(t, filepath.Join(parent, "www"), numbered(3), nil)
	info, err := os.Lstat(filepath.Join(parent, "www"))
	require.NoError(t, err)
	require.NotZero(t, info.Mode()&fs.ModeSymlink, "the link is still one")
	require.Equal(t, texts(numbered(3)), texts(onDisk(t, real)))
	t.Chdir(real)
	written(t, ".", numbered(4), nil)
}

func TestTwoDoNotPublishToOneFolderAtATime(t *testing.T) {
	dir := t.TempDir()
	written(t, dir, numbered(1), nil)
	other := flock.New(filepath.Join(dir, State, "lock"))
	got, err := other.TryLock()
	require.NoError(t, err)
	require.True(t, got)
	_, err = Write(dir, numbered(2), nil)
	require.ErrorContains(t, err, "another process")
	require.NoError(t, other.Unlock())
	written(t, dir, numbered(2), nil)
}

// aTree draws files whose names often need a folder where another tree has a file.
func aTree(t *rapid.T, label string) site.Files {
	out := site.Files{}
	for _, p := range rapid.SliceOfN(rapid.SampledFrom([]string{"a", "b", "a/b", "a/c", "b/a", "b/a/c", "c",
		"d/e/f", "d/e"}), 0, 6).Draw(t, label) {
		fits := true
		for q := range out {
			fits = fits && !strings.HasPrefix(q, p+"/") && !strings.HasPrefix(p, q+"/")
		}
		if fits {
			out[p] = []byte(rapid.SampledFrom([]string{"1", "2", "3"}).Draw(t, "bytes"))
		}
	}
	return out
}

// begun prepares an update as Write does, up to the journal.
func begun(t require.TestingT, dir string, files site.Files) (target, *journal, manifest) {
	tg, err := open(dir)
	require.NoError(t, err)
	s, known := tg.inspect(files)
	up, err := tg.plan(s, known, files)
	require.NoError(t, err)
	j, err := tg.begin(up, files, nil)
	require.NoError(t, err)
	return tg, j, known
}

// Whenever a run is killed, the next one makes the folder what it should be, and nobody
// else's files are touched.
func TestACrashAtAnyStepIsMadeGood(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		dir, err := os.MkdirTemp("", "publish-*")
		require.NoError(t, err)
		defer os.RemoveAll(dir)
		foreign := site.Files{"x/mine": []byte("mine")}
		put(t, dir, foreign)
		written(t, dir, aTree(t, "before"), foreign)
		next := aTree(t, "next")
		tg, j, _ := begun(t, dir, next)
		if all := len(j.Clear) + len(j.Trees) + len(j.Write) + len(j.Drop); all > 0 {
			steps := rapid.IntRange(0, all).Draw(t, "steps done")
			do := func(err error) { require.NoError(t, err) }
			s := tg.stage(j)
			for i, p := range j.Clear[:min(steps, len(j.Clear))] {
				do(tg.take(p, s.kept("cleared", i)))
			}
			steps -= min(steps, len(j.Clear))
			for _, d := range j.Trees[:min(steps, len(j.Trees))] {
				do(tg.putTree(d, s))
			}
			steps -= min(steps, len(j.Trees))
			for i, w := range j.Write[:min(steps, len(j.Write))] {
				do(tg.put(w, s.fresh(w, i), s.kept("old", i)))
			}
			steps -= min(steps, len(j.Write))
			for i, p := range j.Drop[:min(steps, len(j.Drop))] {
				do(tg.take(p, s.kept("gone", i)))
			}
			if rapid.Bool().Draw(t, "was being taken back") {
				j.Back = true
				require.NoError(t, tg.writeJournal(j))
			}
		}
		if rapid.Bool().Draw(t, "another site next") {
			next = aTree(t, "another")
		}
		written(t, dir, next, foreign)
	})
}

// An update that cannot be completed leaves everything as it was.
func TestWhatCannotBeCompletedIsTakenBack(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		dir, err := os.MkdirTemp("", "publish-*")
		require.NoError(t, err)
		defer os.RemoveAll(dir)
		before := aTree(t, "before")
		written(t, dir, before, nil)
		next := aTree(t, "next")
		next["y/z"] = []byte("new")
		tg, j, known := begun(t, dir, next)
		foreign := site.Files{"y/z": []byte("somebody else's, since")}
		put(t, dir, foreign)
		require.ErrorContains(t, tg.finish(j, known), "y/z has come in the way")
		want := maps.Clone(before)
		maps.Copy(want, foreign)
		require.Equal(t, texts(want), texts(onDisk(t, dir)))
		_, err = Write(dir, next, nil)
		require.ErrorContains(t, err, "y/z would be overwritten")
		require.NoError(t, os.RemoveAll(filepath.Join(dir, "y")))
		written(t, dir, next, nil)
	})
}

// A folder that is new comes into place as a whole, with all that stands in it: readers of the
// site never see a part of it, and a thousand files are one step.
func TestANewFolderComesAsAWhole(t *testing.T) {
	dir := t.TempDir()
	written(t, dir, site.Files{"there/a": []byte("a")}, nil)
	_, j, _ := begun(t, dir, site.Files{"there/a": []byte("b"), "there/new/b": []byte("b"),
		"there/new/deep/c": []byte("c"), "there/newer": []byte("d"), "top/e": []byte("e"), "topmost": []byte("f")})
	require.Equal(t, []string{"there/new", "top"}, j.Trees)
	whole := map[string]bool{}
	for _, w := range j.Write {
		whole[w.Path] = w.Tree
	}
	require.Equal(t, map[string]bool{"there/a": false, "there/new/b": true, "there/new/deep/c": true,
		"there/newer": false, "top/e": true, "topmost": false}, whole)
}

func TestAJournalThatWasDamagedStopsNothing(t *testing.T) {
	for _, j := range []string{"{", `{"stage":"../..","write":[]}`,
		`{"stage":"stage-1","drop":["../../x"]}`} {
		dir := t.TempDir()
		written(t, dir, numbered(3), nil)
		put(t, dir, site.Files{State + "/journal": []byte(j), State + "/stage-1/new/0": []byte("left")})
		written(t, dir, numbered(4), nil)
	}
}

// An edit by hand is found out though the file is as long as it was.
func TestAnEditOfTheSameLengthIsPutRight(t *testing.T) {
	dir := t.TempDir()
	files := numbered(5)
	written(t, dir, files, nil)
	same := bytes.Repeat([]byte("x"), len(files["p1/index.html"]))
	require.NotEqual(t, same, files["p1/index.html"])
	put(t, dir, site.Files{"p1/index.html": same})
	later := time.Now().Add(time.Second)
	require.NoError(t, os.Chtimes(filepath.Join(dir, "p1/index.html"), later, later))
	w := written(t, dir, files, nil)
	require.Equal(t, []string{"p1/index.html"}, w.Aside)
	b, err := os.ReadFile(filepath.Join(dir, "p1/index.html"))
	require.NoError(t, err)
	require.Equal(t, string(files["p1/index.html"]), string(b))
}

// A disk that takes two names for one would lose one of the files without a word.
func TestADiskThatIsBlindToCaseIsToldOf(t *testing.T) {
	twins := site.Files{"a/X.html": []byte("1"), "a/x.html": []byte("2"), "b.html": []byte("3")}
	dir := t.TempDir()
	wrote, err := Write(dir, twins, nil)
	require.NoError(t, err)
	require.Equal(t, 3, wrote.Files, "this disk tells them apart")
	require.NoFileExists(t, filepath.Join(dir, State, "Probe"))

	was := folds
	t.Cleanup(func() { folds = was })
	folds = func(target) bool { return true }
	dir = t.TempDir()
	_, err = Write(dir, twins, nil)
	require.ErrorContains(t, err, "takes a/X.html and a/x.html for one file")
	require.NoFileExists(t, filepath.Join(dir, "b.html"))
	delete(twins, "a/x.html")
	_, err = Write(dir, twins, nil)
	require.NoError(t, err)
}
