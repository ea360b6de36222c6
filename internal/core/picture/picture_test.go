package picture_test

import (
	"bytes"
	"encoding/binary"
	"image"
	"image/color"
	"image/jpeg"
	"image/png"
	"testing"

	"github.com/stretchr/testify/require"

	"brickshelf/internal/core/picture"
	"brickshelf/internal/core/site"
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

func TestTheSizeOfAPicture(t *testing.T) {
	require.Equal(t, &picture.Picture{Width: 30, Height: 20, Ext: ".png"}, picture.Of("assets/a.PNG", asPNG(t, halves(30, 20))))
	require.Equal(t, &picture.Picture{Width: 30, Height: 20, Ext: ".jpg"}, picture.Of("assets/a.jpeg", asJPEG(t, halves(30, 20), 0)))
	require.Equal(t, &picture.Picture{Width: 30, Height: 20, Ext: ".jpg"}, picture.Of("a.jpg", asJPEG(t, halves(30, 20), 3)))
	turned := picture.Of("assets/a.jpg", asJPEG(t, halves(30, 20), 6))
	require.Equal(t, &picture.Picture{Width: 20, Height: 30, Ext: ".jpg"}, turned, "as it is shown")
	require.Equal(t, 15, turned.HeightAt(10))
	require.Equal(t, 1, (&picture.Picture{Width: 1000, Height: 1}).HeightAt(10))
	for doc, b := range map[string][]byte{"a.svg": []byte("<svg/>"), "a.png": []byte("none"), "b.png": asJPEG(t, halves(2, 2), 0),
		"c.jpg": asPNG(t, halves(2, 2)), "d.gif": asPNG(t, halves(2, 2))} {
		require.Nil(t, picture.Of(doc, b), doc)
	}
}

func TestTheNamesOfSmallerPictures(t *testing.T) {
	hash := site.HashOf([]byte("x"))
	name := picture.Name(hash, 280, ".jpg")
	of, width, ok := picture.Read(name)
	require.True(t, ok)
	require.Equal(t, string(hash[:32]), of)
	require.Equal(t, 280, width)
	for _, bad := range []string{"", "x-1.jpg", name + "x", string(hash[:32]) + "-0.jpg", string(hash[:32]) + "-280.gif",
		string(hash[:32]) + "-123456.png", string(hash[:32]) + ".css"} {
		_, _, ok = picture.Read(bad)
		require.False(t, ok, bad)
	}
	require.Equal(t, []string{name, picture.Name(hash, 560, ".jpg")},
		picture.In([]byte(`<img src="/_shelf/`+name+`" srcset="/_shelf/`+picture.Name(hash, 560, ".jpg")+` 2x"><link href="/_shelf/a.css">`)))
	require.Nil(t, picture.In([]byte("none")))
}
