package publish_test

import (
	"os"
	"path/filepath"
	"testing"

	"github.com/stretchr/testify/require"

	"brickshelf/internal/core/edit"
	"brickshelf/internal/core/render"
	"brickshelf/internal/core/site"
	"brickshelf/internal/core/sitetest"
	"brickshelf/internal/folder"
	"brickshelf/internal/publish"
)

var files = site.Files{
	"site.yaml": []byte("format: brickshelf/1\nbase_url: https://x.example\n"), "blocks/a.html": []byte("<i>a</i>"), "blocks/a.css": []byte("i{}"), "blocks/a.js": []byte("1"),
	"pages/index.html": []byte("<head></head>@{a /}"), "pages/x/y.html": []byte("@{gone /}y"), "pages/z.html": []byte("---\ndraft: true\n---\n"), "assets/i.svg": []byte("<svg/>"),
}

func TestWhatIsPublished(t *testing.T) {
	out, err := publish.Render(render.New(files, sitetest.Now), nil)
	require.NoError(t, err)
	css, js := render.AssetURL(site.HashOf([]byte("i{}")), ".css"), render.AssetURL(site.HashOf([]byte("1")), ".js")
	require.ElementsMatch(t, []string{css[1:], js[1:], "assets/i.svg", "index.html", "sitemap.xml", "x/y/index.html"}, out.Files.Paths())
	require.Equal(t, `<head><link rel="stylesheet" href="`+css+"\">\n<script type=\"module\" src=\""+js+"\"></script>\n</head><i>a</i>", string(out.Files["index.html"]))
	require.Contains(t, string(out.Files["sitemap.xml"]), "<loc>https://x.example/x/y/</loc>")
	require.Equal(t, "y", string(out.Files["x/y/index.html"]))
	require.Equal(t, "main/gone~1", out.Faults["/x/y/"][0].Address)
}

func TestACopyKeepsTheStyleItWasMadeWith(t *testing.T) {
	s := render.New(files, sitetest.Now)
	set, err := edit.Detach(s, "pages/index.html", "main/a~1")
	require.NoError(t, err)
	after, err := files.Apply(set)
	require.NoError(t, err)
	after["blocks/a.css"] = []byte("i{color:red}")
	was, err := publish.Render(s, nil)
	require.NoError(t, err)
	is, err := publish.Render(render.New(after, sitetest.Now), nil)
	require.NoError(t, err)
	require.Equal(t, was.Files, is.Files)
}

func TestPublishingSwapsTheFolderIn(t *testing.T) {
	dir := filepath.Join(t.TempDir(), "www")
	one, two := site.Files{"index.html": []byte("1"), "sitemap.xml": nil, "old/index.html": nil}, site.Files{"index.html": []byte("2"), "sitemap.xml": nil}
	require.NoError(t, publish.Write(dir, one, nil))
	require.NoError(t, publish.Write(dir, two, nil))
	got, err := folder.Read(dir, nil)
	require.NoError(t, err)
	require.Equal(t, []string{"index.html", "sitemap.xml"}, got.Paths())
	left, err := os.ReadDir(filepath.Dir(dir))
	require.NoError(t, err)
	require.Len(t, left, 1, "nothing is left beside it")

	// A crash between the two renames leaves the old site aside.
	require.NoError(t, os.Rename(dir, filepath.Join(filepath.Dir(dir), ".www.old")))
	require.NoError(t, publish.Write(dir, one, nil))
	got, err = folder.Read(dir, nil)
	require.NoError(t, err)
	require.Equal(t, "1", string(got["index.html"]))
}

func TestAFolderOfOtherThingsIsLeftAlone(t *testing.T) {
	dir := t.TempDir()
	require.NoError(t, os.WriteFile(filepath.Join(dir, "thesis.txt"), []byte("x"), 0o644))
	require.ErrorContains(t, publish.Write(dir, site.Files{"index.html": nil}, nil), "holds something else")
	_, err := os.Stat(filepath.Join(dir, "thesis.txt"))
	require.NoError(t, err)
}
