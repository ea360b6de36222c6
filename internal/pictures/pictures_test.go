package pictures_test

import (
	"bytes"
	"encoding/binary"
	"image"
	"image/color"
	"image/jpeg"
	"image/png"
	"os"
	"path/filepath"
	"testing"

	"github.com/stretchr/testify/require"

	"brickshelf/internal/core/picture"
	"brickshelf/internal/core/site"
	"brickshelf/internal/core/sitetest"
	"brickshelf/internal/pictures"
)

// halves is a picture that is red at the left and blue at the right.
func halves(w, h int) image.Image {
	m := image.NewNRGBA(image.Rect(0, 0, w, h))
	for y := range h {
		for x := range w {
			c := color.NRGBA{200, 0, 0, 255}
			if x >= w/2 {
				c = color.NRGBA{0, 0, 200, 255}
			}
			m.Set(x, y, c)
		}
	}
	return m
}

func asPNG(t *testing.T, m image.Image) []byte {
	var b bytes.Buffer
	require.NoError(t, png.Encode(&b, m))
	return b.Bytes()
}

// asJPEG writes a JPEG, with the mark that it is to be turned where turn is not 0.
func asJPEG(t *testing.T, m image.Image, turn uint16) []byte {
	var b bytes.Buffer
	require.NoError(t, jpeg.Encode(&b, m, nil))
	if turn == 0 {
		return b.Bytes()
	}
	tiff := []byte("Exif\x00\x00MM\x00*\x00\x00\x00\x08\x00\x01\x01\x12\x00\x03\x00\x00\x00\x01")
	tiff = binary.BigEndian.AppendUint16(tiff, turn)
	tiff = append(tiff, 0, 0, 0, 0, 0, 0)
	segment := binary.BigEndian.AppendUint16([]byte{0xff, 0xe1}, uint16(len(tiff)+2))
	return bytes.Join([][]byte{b.Bytes()[:2], segment, tiff, b.Bytes()[2:]}, nil)
}

func TestAPictureIsMadeSmallerUpright(t *testing.T) {
	for ext, b := range map[string][]byte{".png": asPNG(t, halves(300, 200)), ".jpg": asJPEG(t, halves(300, 200), 0)} {
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
	out, err := pictures.Fitted(asJPEG(t, halves(300, 200), 6), 40, ".jpg") // its left is to be its top
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
	b := asPNG(t, halves(300, 200))
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
