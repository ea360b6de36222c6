package picture_test

import (
	"testing"

	"github.com/stretchr/testify/require"

	"brickshelf/internal/core/picture"
	"brickshelf/internal/core/site"
	"brickshelf/internal/core/sitetest"
)

func TestTheSizeOfAPicture(t *testing.T) {
	require.Equal(t, &picture.Picture{Width: 30, Height: 20, Ext: ".png"}, picture.Of("assets/a.PNG", sitetest.PNG(sitetest.Halves(30, 20))))
	require.Equal(t, &picture.Picture{Width: 30, Height: 20, Ext: ".jpg"}, picture.Of("assets/a.jpeg", sitetest.JPEG(sitetest.Halves(30, 20), 0)))
	require.Equal(t, &picture.Picture{Width: 30, Height: 20, Ext: ".jpg"}, picture.Of("a.jpg", sitetest.JPEG(sitetest.Halves(30, 20), 3)))
	turned := picture.Of("assets/a.jpg", sitetest.JPEG(sitetest.Halves(30, 20), 6))
	require.Equal(t, &picture.Picture{Width: 20, Height: 30, Ext: ".jpg"}, turned, "as it is shown")
	require.Equal(t, 15, turned.HeightAt(10))
	require.Equal(t, 1, (&picture.Picture{Width: 1000, Height: 1}).HeightAt(10))
	for doc, b := range map[string][]byte{"a.svg": []byte("<svg/>"), "a.png": []byte("none"), "b.png": sitetest.JPEG(sitetest.Halves(2, 2), 0),
		"c.jpg": sitetest.PNG(sitetest.Halves(2, 2)), "d.gif": sitetest.PNG(sitetest.Halves(2, 2))} {
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
