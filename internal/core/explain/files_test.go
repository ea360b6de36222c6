package explain_test

import (
	"testing"

	"github.com/stretchr/testify/require"

	"brickshelf/internal/core/explain"
	"brickshelf/internal/core/site"
	"brickshelf/internal/core/sitetest"
)

func TestThePagesThatShowAFile(t *testing.T) {
	s := sitetest.New(site.Files{"site.yaml": []byte("format: brickshelf/1\n"),
		"assets/a.png":      []byte("a"),
		"files/x.pdf":       []byte("x"),
		"blocks/pic.html":   []byte("---\nfields: {src: {type: image, default: /assets/a.png}}\n---\n<img src=\"@{=src}\">"),
		"blocks/wall.html":  []byte("<p>w</p>"),
		"blocks/wall.css":   []byte("p{background:url(/assets/a.png)}"),
		"blocks/near.html":  []byte("<p>n</p>"),
		"blocks/near.css":   []byte("p{background:url(/assets/a.pngs)}"),
		"layouts/l.html":    []byte("---\nregions: {main: {mode: stack}}\n---\n<head></head>@{region main /}"),
		"rules/in.yaml":     []byte("block: pic\nregion: main\non: [page:/b/]\naudience: signed-in\n"),
		"pages/a.html":      []byte("<head></head>@{pic /}"),
		"pages/b.html":      []byte("---\nlayout: l\n---\nb"),
		"pages/c.html":      []byte("<head></head>@{wall /}"),
		"pages/d.html":      []byte("<head></head>@{near /}/assets/a.png.gz"),
		"pages/e/f.html":    []byte("<a href=\"../../x.pdf\"></a>"),
		"pages/g.html":      []byte("<img srcset=\"/assets/a.png 2x, /b 1x\">"),
		"pages/unseen.html": []byte("---\ndraft: true\n---\n<img src=\"/assets/a.png\">")})
	require.Equal(t, []string{"pages/a.html", "pages/b.html", "pages/c.html", "pages/g.html"},
		explain.Showing(s, "/assets/a.png"))
	require.Equal(t, []string{"pages/e/f.html"}, explain.Showing(s, "/x.pdf"))
	require.Empty(t, explain.Showing(s, "/none"))
}
