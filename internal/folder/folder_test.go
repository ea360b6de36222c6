package folder_test

import (
	"archive/zip"
	"bytes"
	"io/fs"
	"os"
	"path/filepath"
	"testing"

	"github.com/stretchr/testify/require"

	"brickshelf/internal/core/site"
	"brickshelf/internal/folder"
)

var tree = site.Files{"site.yaml": []byte("format: brickshelf/1\r\n"), "assets/empty": {}, "assets/b/\u00e9.bin": {0, 255, 10}, "pages/a/b.html": []byte("x")}

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
	r := packed(t, member{name: "mysite/site.yaml", text: "s"}, member{name: "mysite/pages/a.html", text: "a"}, member{name: "mysite/.git/config", text: "no"})
	got, err := folder.FromZip(r, r.Size(), nil)
	require.NoError(t, err)
	require.Equal(t, []string{"pages/a.html", "site.yaml"}, got.Paths())
}

func TestAFolderWithALinkIsRefused(t *testing.T) {
	dir := t.TempDir()
	require.NoError(t, os.Symlink("/etc/passwd", filepath.Join(dir, "x")))
	_, err := folder.Read(dir, nil)
	require.ErrorContains(t, err, "x is a link")
}
