package follow_test

import (
	"fmt"
	"maps"
	"os"
	"path/filepath"
	"slices"
	"testing"
	"time"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"brickshelf/internal/core/check"
	"brickshelf/internal/core/shelf"
	"brickshelf/internal/core/site"
	"brickshelf/internal/folder"
	"brickshelf/internal/follow"
	"brickshelf/internal/workspace"
)

// desk is a draft with its history.
type desk struct {
	files site.Files
	past  []site.Files
	title string
}

func (d *desk) Files() site.Files { return maps.Clone(d.files) }

func (d *desk) Draft() *shelf.Shelf { return shelf.New(d.files, time.Now()) }

func (d *desk) Save(set site.ChangeSet) error {
	next := maps.Clone(d.files)
	for _, c := range set.Changes {
		old, there := next[c.Path]
		if err := c.Check(old, there); err != nil {
			return err
		}
		if c.Delete {
			delete(next, c.Path)
		} else {
			next[c.Path] = c.After
		}
	}
	if bad := check.Validity(shelf.New(next, time.Now())); len(bad) > 0 {
		return &workspace.InvalidError{Problems: bad}
	}
	d.past = append(d.past, d.files)
	d.files, d.title = next, set.Title
	return nil
}

func begin(t require.TestingT, dir, memory string) (*desk, *follow.Follower, *int) {
	d := &desk{files: site.Files{"site.yaml": []byte("format: brickshelf/1\n"), "pages/a.html": []byte("a"),
		"blocks/b.html": []byte("b"), "files/.well-known/x": []byte("w")}}
	require.NoError(t, folder.Tree(dir, d.files, nil))
	told := new(int)
	f := follow.New(dir, memory, d, func() { *told++ })
	f.Sync()
	require.Empty(t, f.State().Conflicts)
	return d, f, told
}

func at(dir, p string) string { return filepath.Join(dir, filepath.FromSlash(p)) }

func put(t require.TestingT, dir, p, text string) {
	require.NoError(t, os.MkdirAll(filepath.Dir(at(dir, p)), 0o755))
	require.NoError(t, os.WriteFile(at(dir, p), []byte(text), 0o644))
}

func disk(t require.TestingT, dir string) site.Files {
	files, err := folder.Read(dir, nil)
	require.NoError(t, err)
	return files
}

func TestWhatIsChangedOnOneSideComesToTheOther(t *testing.T) {
	dir := t.TempDir()
	d, f, _ := begin(t, dir, filepath.Join(t.TempDir(), "known.json"))
	put(t, dir, "README.md", "left alone")
	put(t, dir, ".git/HEAD", "left alone")
	put(t, dir, "pages/new.html", "n")
	require.NoError(t, os.Remove(at(dir, "files/.well-known/x")))
	f.Sync()
	require.Equal(t, "From the folder: 2 documents", d.title)
	require.Equal(t, "n", string(d.files["pages/new.html"]))
	require.NotContains(t, d.files, "files/.well-known/x")
	require.NotContains(t, d.files, "README.md")
	put(t, dir, "pages/a.html", "edited")
	f.Sync()
	require.Equal(t, "From the folder: pages/a.html", d.title)

	d.files = d.past[len(d.past)-1] // undo
	f.Sync()
	require.Equal(t, d.files, disk(t, dir))
	require.NoError(t, d.Save(site.ChangeSet{Title: "x", Changes: []site.Change{{Path: "pages/deep/x.html", After: []byte("x")},
		{Path: "blocks/b.html", Before: site.HashOf([]byte("b")), Delete: true}}}))
	f.Sync()
	require.Equal(t, d.files, disk(t, dir))
	require.FileExists(t, at(dir, "README.md"))
	require.FileExists(t, at(dir, ".git/HEAD"))
}

func TestWhatIsNotValidInTheFolderIsToldAndWaits(t *testing.T) {
	dir := t.TempDir()
	d, f, told := begin(t, dir, filepath.Join(t.TempDir(), "known.json"))
	was := d.Files()
	put(t, dir, "pages/a.html", "---\nlayout: [\n---\n")
	f.Sync()
	require.Equal(t, was, d.files)
	require.Equal(t, "pages/a.html", f.State().Problems[0].Path)
	require.Equal(t, 1, *told)
	f.Sync()
	require.Equal(t, 1, *told, "nothing is new")
	// What is saved in the tool goes to the folder meanwhile.
	require.NoError(t, d.Save(site.ChangeSet{Changes: []site.Change{{Path: "pages/b.html", After: []byte("b")}}}))
	f.Sync()
	require.FileExists(t, at(dir, "pages/b.html"))
	put(t, dir, "pages/a.html", "mended")
	f.Sync()
	require.Empty(t, f.State().Problems)
	require.Equal(t, d.files, disk(t, dir))
}

func TestAnEditOfTheSameTextOnBothSidesKeepsBoth(t *testing.T) {
	for _, takeFolder := range []bool{true, false} {
		dir := t.TempDir()
		d, f, _ := begin(t, dir, filepath.Join(t.TempDir(), "known.json"))
		put(t, dir, "pages/a.html", "theirs")
		require.NoError(t, d.Save(site.ChangeSet{Changes: []site.Change{{Path: "pages/a.html", Before: site.HashOf([]byte("a")),
			After: []byte("ours")}}}))
		f.Sync()
		f.Sync()
		require.Equal(t, []string{"pages/a.html"}, f.State().Conflicts)
		require.Equal(t, "theirs", string(disk(t, dir)["pages/a.html"]))
		require.Equal(t, "ours", string(d.files["pages/a.html"]))
		text, err := f.Text("pages/a.html")
		require.NoError(t, err)
		require.Equal(t, "theirs", string(text))
		text, err = f.Text("pages/none.html")
		require.NoError(t, err)
		require.Empty(t, text)
		_, err = f.Text("../known.json")
		require.Error(t, err)
		require.NoError(t, f.Choose("pages/a.html", takeFolder))
		require.Empty(t, f.State().Conflicts)
		require.Equal(t, d.files, disk(t, dir))
		want, kept := "theirs", "ours"
		if !takeFolder {
			want, kept = kept, want
		}
		require.Equal(t, want, string(d.files["pages/a.html"]))
		require.True(t, slices.ContainsFunc(d.past, func(f site.Files) bool { return string(f["pages/a.html"]) == kept }),
			"what went is in the history")
		require.ErrorContains(t, f.Choose("pages/a.html", takeFolder), "the same on both sides")
	}
}

// What is not valid cannot become an edit that is taken back: it would be kept nowhere.
func TestWhatTheFolderHoldsIsNotLostWhereItIsNotValid(t *testing.T) {
	dir := t.TempDir()
	d, f, _ := begin(t, dir, filepath.Join(t.TempDir(), "known.json"))
	bad := "---\nlayout: [\n---\ntheirs"
	put(t, dir, "pages/a.html", bad)
	require.NoError(t, d.Save(site.ChangeSet{Changes: []site.Change{{Path: "pages/a.html", Before: site.HashOf([]byte("a")),
		After: []byte("ours")}}}))
	f.Sync()
	var invalid *workspace.InvalidError
	require.ErrorAs(t, f.Choose("pages/a.html", false), &invalid)
	require.Equal(t, bad, string(disk(t, dir)["pages/a.html"]))
	require.Equal(t, "ours", string(d.files["pages/a.html"]))
	require.Equal(t, []string{"pages/a.html"}, f.State().Conflicts)
	put(t, dir, "pages/a.html", "mended")
	require.NoError(t, f.Choose("pages/a.html", false))
	require.Equal(t, "ours", string(disk(t, dir)["pages/a.html"]))
}

func TestAFolderThatIsGoneIsNotASiteThatWasEmptied(t *testing.T) {
	dir := filepath.Join(t.TempDir(), "site")
	require.NoError(t, os.Mkdir(dir, 0o755))
	d, f, _ := begin(t, dir, filepath.Join(t.TempDir(), "known.json"))
	was := d.Files()
	require.NoError(t, os.Rename(dir, dir+"-moved"))
	f.Sync()
	require.Contains(t, f.State().Broken, "was moved or emptied")
	require.Equal(t, was, d.files)
	require.NoError(t, os.Rename(dir+"-moved", dir))
	f.Sync()
	require.Empty(t, f.State().Broken)

	if os.Getuid() != 0 { // who may do all is refused nothing
		require.NoError(t, os.Chmod(at(dir, "pages"), 0o500))
		require.NoError(t, d.Save(site.ChangeSet{Changes: []site.Change{{Path: "pages/n.html", After: []byte("n")}}}))
		f.Sync()
		require.Contains(t, f.State().Broken, "pages/n.html cannot be written")
		require.NoError(t, os.Chmod(at(dir, "pages"), 0o755))
		f.Sync()
		require.Equal(t, d.files, disk(t, dir))
	}
}

// What changed while nobody followed is told apart by its side.
func TestWhatIsKnownIsRemembered(t *testing.T) {
	dir, memory := t.TempDir(), filepath.Join(t.TempDir(), "known.json")
	d, _, _ := begin(t, dir, memory)
	put(t, dir, "pages/a.html", "theirs")
	require.NoError(t, d.Save(site.ChangeSet{Changes: []site.Change{{Path: "blocks/b.html", Before: site.HashOf([]byte("b")),
		After: []byte("ours")}}}))
	f := follow.New(dir, memory, d, func() {})
	f.Sync()
	require.Empty(t, f.State().Conflicts)
	require.Equal(t, "theirs", string(d.files["pages/a.html"]))
	require.Equal(t, d.files, disk(t, dir))
}

// Folder and draft are equal after any interleaving of edits on both sides, but for what was edited
// on both.
func TestFolderAndDraftAreOne(t *testing.T) {
	n := 0
	base := t.TempDir()
	rapid.Check(t, func(r *rapid.T) {
		n++
		dir := filepath.Join(base, fmt.Sprint(n))
		d, f, _ := begin(r, dir, filepath.Join(base, fmt.Sprint(n, ".json")))
		paths := []string{"pages/a.html", "pages/b.html", "blocks/b.html", "files/x/y.txt"}
		for i := range rapid.IntRange(1, 12).Draw(r, "steps") {
			p := rapid.SampledFrom(paths).Draw(r, "path")
			text := fmt.Sprintf("text %d", i)
			switch rapid.IntRange(0, 5).Draw(r, "step") {
			case 0, 1:
				put(r, dir, p, text)
			case 2:
				_ = os.Remove(at(dir, p))
			case 3:
				old, there := d.files[p]
				c := site.Change{Path: p, After: []byte(text)}
				if there {
					c.Before = site.HashOf(old)
				}
				require.NoError(r, d.Save(site.ChangeSet{Changes: []site.Change{c}}))
			case 4:
				if old, there := d.files[p]; there {
					gone := site.Change{Path: p, Before: site.HashOf(old), Delete: true}
					require.NoError(r, d.Save(site.ChangeSet{Changes: []site.Change{gone}}))
				}
			default:
				f.Sync()
			}
		}
		f.Sync()
		f.Sync()
		conflicts := f.State().Conflicts
		is, on := d.Files(), disk(r, dir)
		for _, p := range slices.Concat(is.Paths(), on.Paths()) {
			if string(is[p]) != string(on[p]) {
				require.Contains(r, conflicts, p)
			}
		}
		for _, p := range conflicts {
			require.NotEqual(r, is[p], on[p])
			require.NoError(r, f.Choose(p, rapid.Bool().Draw(r, "folder")))
		}
		require.Equal(r, d.files, disk(r, dir))
	})
}
