package documents_test

import (
	"testing"

	"github.com/stretchr/testify/require"

	"brickshelf/internal/core/check"
	"brickshelf/internal/core/edit/documents"
	"brickshelf/internal/core/site"
	"brickshelf/internal/core/sitetest"
)

func withFiles() site.Files {
	return site.Files{"site.yaml": []byte("format: brickshelf/1\nfields: {logo: {type: image, default: /assets/a.png}}\n"),
		"assets/a.png":       []byte("a"),
		"assets/a.png.txt":   []byte("/assets/a.png"),
		"files/css/x.css":    []byte("x"),
		"blocks/b.html":      []byte("---\nfields: {i: {type: image, default: /assets/a.png}}\n---\n<img src=\"@{=i}\"><img src='/assets/a.png'><img src=\"/assets/a.png.txt\">"),
		"blocks/b.css":       []byte("i{background:url(/assets/a.png)}b{background:url('../assets/a.png')}u{background:url(/assets/a.pngx)}"),
		"blocks/b.js":        []byte("const a = \"/assets/a.png\", b = /assets/.a;"),
		"menus/m.yaml":       []byte("items: [{label: A, to: /, image: /assets/a.png}]\n"),
		"rules/r.yaml":       []byte("block: b\nregion: main\non: [all]\nset: {i: /assets/a.png}\n"),
		"pages/index.html":   []byte("<link rel=stylesheet href=\"/css/x.css\"><img src=\"assets/a.png\">@{b i=\"/assets/a.png\" /}/assets/a.png"),
		"pages/deep/in.html": []byte("---\ntitle: /assets/a.png\n---\n<img src=\"../../assets/a.png\">")}
}

func TestWhatNamesAFileFollowsIt(t *testing.T) {
	f := withFiles()
	s := sitetest.New(f)
	set, err := documents.MoveFile(s, "assets/a.png", "files/img/b.png")
	require.NoError(t, err)
	is := sitetest.Apply(t, f, set)
	require.Empty(t, check.Validity(sitetest.New(is)))
	for path, want := range map[string]string{
		"site.yaml":          "format: brickshelf/1\nfields: {logo: {type: image, default: /img/b.png}}\n",
		"files/img/b.png":    "a",
		"assets/a.png.txt":   "/assets/a.png",
		"blocks/b.html":      "---\nfields: {i: {type: image, default: /img/b.png}}\n---\n<img src=\"@{=i}\"><img src='/img/b.png'><img src=\"/assets/a.png.txt\">",
		"blocks/b.css":       "i{background:url(/img/b.png)}b{background:url('../img/b.png')}u{background:url(/assets/a.pngx)}",
		"blocks/b.js":        "const a = \"/img/b.png\", b = /assets/.a;",
		"menus/m.yaml":       "items: [{label: A, to: /, image: /img/b.png}]\n",
		"rules/r.yaml":       "block: b\nregion: main\non: [all]\nset: {i: /img/b.png}\n",
		"pages/index.html":   "<link rel=stylesheet href=\"/css/x.css\"><img src=\"/img/b.png\">@{b i=\"/img/b.png\" /}/assets/a.png",
		"pages/deep/in.html": "---\ntitle: /img/b.png\n---\n<img src=\"/img/b.png\">",
	} {
		require.Equal(t, want, string(is[path]), path)
	}
	require.NotContains(t, is, "assets/a.png")

	require.Equal(t, []string{"blocks/b.css", "blocks/b.html", "blocks/b.js", "menus/m.yaml", "pages/deep/in.html",
		"pages/index.html", "rules/r.yaml", "site.yaml"}, documents.Naming(s, "assets/a.png"))
	require.Equal(t, []string{"pages/index.html"}, documents.Naming(s, "files/css/x.css"))
}

func TestAFileIsNotMovedWhereItCannotStand(t *testing.T) {
	s := sitetest.New(withFiles())
	for to, says := range map[string]string{"assets/a.png": "there already", "assets/a.png.txt": "already",
		"pages/x.html": "stands in assets/ or files/", "assets/a:b": "none of"} {
		_, err := documents.MoveFile(s, "assets/a.png", to)
		require.ErrorContains(t, err, says)
	}
	for _, path := range []string{"assets/none.png", "blocks/b.css"} {
		_, err := documents.MoveFile(s, path, "assets/x")
		require.ErrorContains(t, err, "there is no file")
		_, err = documents.DeleteFile(s, path)
		require.ErrorContains(t, err, "there is no file")
	}
	set, err := documents.DeleteFile(s, "files/css/x.css")
	require.NoError(t, err)
	require.Len(t, set.Changes, 1)
}
