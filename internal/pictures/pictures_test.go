package pictures_test

import (
	"bytes"
	"image"
	"os"
	"path/filepath"
	"testing"

	"github.com/stretchr/testify/require"

	"brickshelf/internal/core/picture"
	"brickshelf/internal/core/site"
	"brickshelf/internal/core/sitetest"
	"brickshelf/internal/pictures"
)

func TestAPictureIsMadeSmallerUpright(t *testing.T) {
	for ext, b := range map[string][]byte{".png": sitetest.PNG(sitetest.Halves(300, 200)), ".jpg": sitetest.JPEG(sitetest.Halves(300, 200), 0)} {
		out, err := pictures.Fitted(b, 60, ext)
		require.NoError(t, err)
		m, _, err := image.Decode(bytes.NewReader(out))
		require.NoError(t, err)
		require.Equal(t, image.Rect(0, 0, 60, 40), m.Bounds())
		require.True(t, red(m, 10, 20) && !red(m, 50, 20))
		again, err := pictures.Fitted(b, 60, ext)
		require.NoError(t, err)
		require.Equal(t, out, again, "the same file gives the same bytes")
	}
	out, err := pictures.Fitted(sitetest.JPEG(sitetest.Halves(300, 200), 6), 40, ".jpg") // its left is to be its top
	require.NoError(t, err)
	m, _, err := image.Decode(bytes.NewReader(out))
	require.NoError(t, err)
	require.Equal(t, image.Rect(0, 0, 40, 60), m.Bounds())
	require.True(t, red(m, 20, 10) && !red(m, 20, 50))
	_, err = pictures.Fitted([]byte("none"), 10, ".png")
	require.ErrorContains(t, err, "reading the picture")
}

func red(m image.Image, x, y int) bool {
	r, _, b, _ := m.At(x, y).RGBA()
	return r > b
}

func TestAPictureIsMadeOnce(t *testing.T) {
	b := sitetest.PNG(sitetest.Halves(300, 200))
	s := sitetest.New(site.Files{"site.yaml": []byte("format: brickshelf/1\n"), "files/a.png": b})
	name := picture.Name(site.HashOf(b), 50, ".png")
	dir := filepath.Join(t.TempDir(), "kept")
	m := pictures.NewMaker(dir)
	made := m.Named(name, sitetest.New(nil), s)
	require.NotEmpty(t, made)
	kept, err := os.ReadFile(filepath.Join(dir, name))
	require.NoError(t, err)
	require.Equal(t, made, kept)
	require.NoError(t, os.WriteFile(filepath.Join(dir, name), []byte("as it was made"), 0o644))
	require.Equal(t, "as it was made", string(m.Named(name, s)))
	require.Equal(t, made, pictures.NewMaker("").Named(name, s))
	require.Equal(t, made, pictures.NewMaker("/dev/null/x").Named(name, s), "where it cannot be kept it is made still")

	require.Nil(t, m.Named("x", s))
	require.Nil(t, m.Named(picture.Name(site.HashOf([]byte("other")), 50, ".png"), s))
	require.Nil(t, m.Named(picture.Name(site.HashOf(b), 301, ".png"), s), "it is made no larger")
	entries, err := os.ReadDir(dir)
	require.NoError(t, err)
	require.Len(t, entries, 1)
}
