package render_test

import (
	"bytes"
	"image"
	"image/png"
	"testing"

	"github.com/stretchr/testify/require"

	"brickshelf/internal/core/picture"
	"brickshelf/internal/core/site"
	"brickshelf/internal/core/sitetest"
)

func TestAPictureFitsItsPlace(t *testing.T) {
	var b bytes.Buffer
	require.NoError(t, png.Encode(&b, image.NewGray(image.Rect(0, 0, 90, 60))))
	name := func(width int) string {
		return "/_shelf/" + picture.Name(site.HashOf(b.Bytes()), width, ".png")
	}
	f := site.Files{"site.yaml": []byte("format: brickshelf/1\n"),
		"assets/p.png":     b.Bytes(),
		"assets/p.svg":     []byte("<svg/>"),
		"assets/bad.png":   []byte("none"),
		"blocks/pic.html":  []byte("@{image src=\"/assets/p.png\" /}"),
		"layouts/one.html": []byte("---\nregions: {main: {mode: stack}, side: {mode: stack, width: 20}}\n---\n@{region main /}|@{region side /}"),
		"layouts/two.html": []byte("---\nregions: {main: {mode: stack}, side: {mode: stack, width: 60}}\n---\n@{region main /}|@{region side /}"),
		"layouts/all.html": []byte("---\nregions: {main: {mode: stack}, side: {mode: stack, width: 90}}\n---\n@{region main /}|@{region side /}"),
		"rules/r.yaml":     []byte("block: pic\nregion: side\non: [all]\n")}
	for _, l := range []string{"one", "two", "all"} {
		f["pages/"+l+".html"] = []byte("---\nlayout: " + l + "\n---\n")
	}
	f["pages/z.html"] = []byte("@{image src=\"/assets/p.png\" alt=a name=\"The pier\" /}@{image src=\"/assets/p.png\" width=30 height=7 /}" +
		"@{image src=\"/assets/p.png\" width=200 /}@{image src=\"/assets/p.svg\" width=5 /}@{image src=\"/assets/bad.png\" width=5 lazy=false /}" +
		"@{image src=\"/assets/p.png\" width=1.5 /}")
	s := sitetest.New(f)
	lazy := " loading=\"lazy\">"
	for range 2 { // what was kept of one page shows nothing of it on another
		require.Equal(t, `|<img src="`+name(20)+`" srcset="`+name(20)+` 1x, `+name(40)+` 2x" alt="" width="20" height="13"`+lazy, sitetest.HTML(s, "pages/one.html"))
		require.Equal(t, `|<img src="`+name(60)+`" srcset="`+name(60)+` 1x, `+name(90)+` 2x" alt="" width="60" height="40"`+lazy, sitetest.HTML(s, "pages/two.html"))
		require.Equal(t, `|<img src="/assets/p.png" alt=""`+lazy, sitetest.HTML(s, "pages/all.html"))
	}
	require.Equal(t, `<img src="/assets/p.png" alt="a"`+lazy+
		`<img src="`+name(30)+`" srcset="`+name(30)+` 1x, `+name(60)+` 2x" alt="" width="30" height="7"`+lazy+
		`<img src="/assets/p.png" alt="" width="200"`+lazy+`<img src="/assets/p.svg" alt="" width="5"`+lazy+
		`<img src="/assets/bad.png" alt="" width="5"><img src="/assets/p.png" alt="" width="1.5"`+lazy, sitetest.HTML(s, "pages/z.html"))
}
