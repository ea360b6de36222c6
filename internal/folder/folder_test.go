package folder_test

import (
	"archive/zip"
	"bytes"
	"encoding/binary"
	"fmt"
	"io/fs"
	"os"
	"path/filepath"
	"runtime"
	"testing"

	"github.com/stretchr/testify/require"

	"brickshelf/internal/core/site"
	"brickshelf/internal/folder"
)

var tree = site.Files{"site.yaml": []byte("format: brickshelf/1\r\n"), "assets/empty": {},
	"assets/b/\u00e9.bin": {0, 255, 10}, "pages/a/b.html": []byte("x")}

func TestWrittenAndReadBackIsTheSame(t *testing.T) {
	for _, name := range []string{"out", "out.zip"} {
		to := filepath.Join(t.TempDir(), name)
		require.NoError(t, folder.Write(to, tree, nil))
		got, err := folder.Read(to, nil)
		require.NoError(t, err)
		require.Equal(t, tree, got)
		require.Error(t, folder.Write(to, tree, nil), "what is there is not overwritten")
	}
}

func TestTheSameSiteGivesTheSameZip(t *testing.T) {
	var a, b bytes.Buffer
	require.NoError(t, folder.Zip(&a, tree, nil))
	require.NoError(t, folder.Zip(&b, tree, nil))
	require.Equal(t, a.Bytes(), b.Bytes())
}

type member struct {
	name string
	mode fs.FileMode
	text string
}

func packed(t *testing.T, members ...member) *bytes.Reader {
	var b bytes.Buffer
	z := zip.NewWriter(&b)
	for _, m := range members {
		h := &zip.FileHeader{Name: m.name, Method: zip.Deflate}
		h.SetMode(m.mode | 0o644)
		w, err := z.CreateHeader(h)
		require.NoError(t, err)
		_, err = w.Write([]byte(m.text))
		require.NoError(t, err)
	}
	require.NoError(t, z.Close())
	return bytes.NewReader(b.Bytes())
}

func TestZipsThatAreRefused(t *testing.T) {
	bomb := string(make([]byte, folder.MaxFile+1))
	for want, r := range map[string]*bytes.Reader{
		`"../x" leads outside`:      packed(t, member{name: "../x"}),
		`"/etc/x" leads outside`:    packed(t, member{name: "/etc/x"}),
		`"a/../../x" leads outside`: packed(t, member{name: "a/../../x"}),
		`leads outside the site`:    packed(t, member{name: `a\x`}),
		"is a link or device":       packed(t, member{name: "a", mode: fs.ModeSymlink, text: "/etc/passwd"}),
		"stands in the zip twice":   packed(t, member{name: "a"}, member{name: "a"}),
		"larger than 64 MB":         packed(t, member{name: "assets/bomb", text: bomb}),
		"no zip that can be read":   bytes.NewReader([]byte("hello")),
	} {
		_, err := folder.FromZip(r, r.Size(), nil)
		require.ErrorContains(t, err, want)
	}
}

func TestAZipOfOneFolder(t *testing.T) {
	r := packed(t, member{name: "mysite/site.yaml", text: "s"}, member{name: "mysite/pages/a.html",
		text: "a"}, member{name: "mysite/.git/config", text: "no"})
	got, err := folder.FromZip(r, r.Size(), nil)
	require.NoError(t, err)
	require.Equal(t, []string{"pages/a.html", "site.yaml"}, got.Paths())
}

// Only a folder that holds a site alone is taken off; anything else stays as it is,
// and is refused by those who look for site.yaml at the top.
func TestZipsThatAreNotOneFolder(t *testing.T) {
	for name, members := range map[string][]member{
		"two folders":           {{name: "a/site.yaml"}, {name: "b/x.html"}},
		"a folder and a file":   {{name: "a/site.yaml"}, {name: "x.html"}},
		"a folder without site": {{name: "a/pages/x.html"}},
	} {
		r := packed(t, members...)
		got, err := folder.FromZip(r, r.Size(), nil)
		require.NoError(t, err)
		for _, m := range members {
			require.Contains(t, got, m.name, name)
		}
	}
}

func TestHiddenFilesAreNoneOfTheSite(t *testing.T) {
	dir := t.TempDir()
	for _, name := range []string{"site.yaml", ".gitignore", ".git/config", "pages/.x.swp", "pages/a.html",
		"assets/.well-known/x.txt", "assets/.keep"} {
		require.NoError(t, os.MkdirAll(filepath.Join(dir, filepath.Dir(name)), 0o755))
		require.NoError(t, os.WriteFile(filepath.Join(dir, name), []byte(name), 0o644))
	}
	want := []string{"assets/.keep", "assets/.well-known/x.txt", "pages/a.html", "site.yaml"}
	got, err := folder.Read(dir, nil)
	require.NoError(t, err)
	require.Equal(t, want, got.Paths())
	r := packed(t, member{name: "site.yaml"}, member{name: ".gitignore"}, member{name: ".git/config"},
		member{name: "pages/.x.swp"}, member{name: "pages/a.html"}, member{name: "assets/.well-known/x.txt"},
		member{name: "assets/.keep"}, member{name: "assets/"})
	got, err = folder.FromZip(r, r.Size(), nil)
	require.NoError(t, err)
	require.Equal(t, want, got.Paths(), "a zip of the same is the same")
}

func TestWhatStandsBesideASiteIsLeftAlone(t *testing.T) {
	dir := t.TempDir()
	for _, name := range []string{"site.yaml", "README.md", "LICENSE", "node_modules/x/pages/y.html", "pages/a.html", ".gitignore"} {
		require.NoError(t, os.MkdirAll(filepath.Join(dir, filepath.Dir(name)), 0o755))
		require.NoError(t, os.WriteFile(filepath.Join(dir, name), []byte(name), 0o644))
	}
	want := []string{"pages/a.html", "site.yaml"}
	got, err := folder.Read(dir, nil)
	require.NoError(t, err)
	require.Equal(t, want, got.Paths())
	require.Equal(t, []string{"LICENSE", "README.md", "node_modules/"}, folder.Beside(dir))
	r := packed(t, member{name: "s/site.yaml"}, member{name: "s/README.md"}, member{name: "s/pages/a.html"}, member{name: "s/src/x"})
	got, err = folder.FromZip(r, r.Size(), nil)
	require.NoError(t, err)
	require.Equal(t, want, got.Paths())

	require.NoError(t, os.Remove(filepath.Join(dir, "site.yaml"))) // then it is no site, and nothing of it is hidden
	got, err = folder.Read(dir, nil)
	require.NoError(t, err)
	require.Contains(t, got, "README.md")
	require.Nil(t, folder.Beside(filepath.Join(dir, "none")))
}

func TestProgressIsToldFileByFile(t *testing.T) {
	to := filepath.Join(t.TempDir(), "out")
	for _, name := range []string{to, to + ".zip"} {
		var wrote, read []int
		require.NoError(t, folder.Write(name, tree, func(done, total int) {
			require.Equal(t, len(tree), total)
			wrote = append(wrote, done)
		}))
		_, err := folder.Read(name, func(done, _ int) { read = append(read, done) })
		require.NoError(t, err)
		require.Equal(t, []int{1, 2, 3, 4}, wrote)
		require.Equal(t, wrote, read)
	}
}

func TestAFileThatIsTooLargeIsNamed(t *testing.T) {
	dir := t.TempDir()
	require.NoError(t, os.MkdirAll(filepath.Join(dir, "assets"), 0o755))
	f, err := os.Create(filepath.Join(dir, "assets", "film.bin"))
	require.NoError(t, err)
	require.NoError(t, f.Truncate(folder.MaxFile+1)) // takes no room
	require.NoError(t, f.Close())
	_, err = folder.Read(dir, nil)
	require.ErrorContains(t, err,
		"assets/film.bin is larger than 64 MB; keep it outside the site and link to it")
}

func TestAFolderWithALinkIsRefused(t *testing.T) {
	dir := t.TempDir()
	require.NoError(t, os.Symlink("/etc/passwd", filepath.Join(dir, "x")))
	_, err := folder.Read(dir, nil)
	require.ErrorContains(t, err, "x is a link")
}

// A zip of many files that would unpack to more than a site may have is refused before any
// of it is unpacked, and one whose headers say less than it holds as soon as that shows.
func TestZipsThatUnpackWithoutEnd(t *testing.T) {
	var b bytes.Buffer
	z := zip.NewWriter(&b)
	for i := range folder.MaxTotal/folder.MaxFile + 2 { // the headers are looked at, and nothing else
		_, err := z.CreateRaw(&zip.FileHeader{Name: fmt.Sprintf("assets/%d", i), Method: zip.Deflate,
			UncompressedSize64: folder.MaxFile})
		require.NoError(t, err)
	}
	require.NoError(t, z.Close())
	used := func(r *bytes.Reader) (uint64, error) {
		var before, after runtime.MemStats
		runtime.ReadMemStats(&before)
		_, err := folder.FromZip(r, r.Size(), nil)
		runtime.ReadMemStats(&after)
		return after.TotalAlloc - before.TotalAlloc, err
	}
	n, err := used(bytes.NewReader(b.Bytes()))
	require.ErrorContains(t, err, "larger than 2 GB")
	require.Less(t, n, uint64(10<<20))

	lies := packed(t, member{name: "assets/x", text: string(make([]byte, 40<<20))})
	text := make([]byte, lies.Size())
	_, err = lies.ReadAt(text, 0)
	require.NoError(t, err)
	size := binary.LittleEndian.AppendUint32(nil, 40<<20)
	require.Equal(t, 2, bytes.Count(text, size), "behind the file and in the directory")
	text = bytes.ReplaceAll(text, size, binary.LittleEndian.AppendUint32(nil, 1000))
	n, err = used(bytes.NewReader(text))
	require.Error(t, err)
	require.Less(t, n, uint64(10<<20))
}

// A file of a zip that holds one byte more, or less, than the zip says is refused; one that
// is just as large as may be is not.
func TestAZipThatIsOneByteOff(t *testing.T) {
	of := func(says int) error {
		r := packed(t, member{name: "assets/x", text: "0123456789abcdef0123456789abcdef!"})
		text := make([]byte, r.Size())
		_, err := r.ReadAt(text, 0)
		require.NoError(t, err)
		size := binary.LittleEndian.AppendUint32(nil, 33)
		require.GreaterOrEqual(t, bytes.Count(text, size), 2, "behind the file and in the directory")
		text = bytes.ReplaceAll(text, size, binary.LittleEndian.AppendUint32(nil, uint32(says)))
		_, err = folder.FromZip(bytes.NewReader(text), int64(len(text)), nil)
		return err
	}
	require.NoError(t, of(33))
	require.Error(t, of(32))
	require.Error(t, of(34))
	whole := packed(t, member{name: "assets/x", text: string(make([]byte, folder.MaxFile))})
	files, err := folder.FromZip(whole, whole.Size(), nil)
	require.NoError(t, err)
	require.Len(t, files["assets/x"], folder.MaxFile)
}

// Documents of a folder take the place of the old ones whole, or all of them stay.
func TestDocumentsAreChangedTogether(t *testing.T) {
	dir := t.TempDir()
	require.NoError(t, folder.Change(dir, site.Files{"a/b.html": []byte("1"), "c.html": []byte("2")}))
	require.NoError(t, folder.Change(dir, site.Files{"a/b.html": []byte("3")}))
	read := func(p string) string {
		b, err := os.ReadFile(filepath.Join(dir, p))
		require.NoError(t, err)
		return string(b)
	}
	require.Equal(t, "3", read("a/b.html"))
	require.Equal(t, "2", read("c.html"))
	info, err := os.Stat(filepath.Join(dir, "c.html"))
	require.NoError(t, err)
	require.Equal(t, os.FileMode(0o644), info.Mode().Perm())

	// One that cannot be written leaves all as they were.
	require.NoError(t, os.WriteFile(filepath.Join(dir, "file"), nil, 0o600))
	require.Error(t, folder.Change(dir, site.Files{"a/b.html": []byte("4"), "file/x.html": []byte("5")}))
	require.Equal(t, "3", read("a/b.html"))
	left, err := filepath.Glob(filepath.Join(dir, "*", ".change-*"))
	require.NoError(t, err)
	require.Empty(t, left)
}
