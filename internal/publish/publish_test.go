package publish_test

import (
	"encoding/xml"
	"fmt"
	"io/fs"
	"net/url"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"brickshelf/internal/core/edit"
	"brickshelf/internal/core/render"
	"brickshelf/internal/core/site"
	"brickshelf/internal/core/sitetest"
	"brickshelf/internal/publish"
)

var files = site.Files{
	"site.yaml": []byte("format: brickshelf/1\nbase_url: https://x.example\n"), "blocks/a.html": []byte("<i>a</i>"), "blocks/a.css": []byte("i{}"), "blocks/a.js": []byte("1"),
	"pages/index.html": []byte("<head></head>@{a /}"), "pages/x/y.html": []byte("@{gone /}y"), "pages/z.html": []byte("---\ndraft: true\n---\n"), "assets/i.svg": []byte("<svg/>"),
}

func TestWhatIsPublished(t *testing.T) {
	out, err := publish.Render(sitetest.New(files), nil)
	require.NoError(t, err)
	css, js := render.AssetURL(site.HashOf([]byte("i{}")), ".css"), render.AssetURL(site.HashOf([]byte("1")), ".js")
	require.ElementsMatch(t, []string{css[1:], js[1:], "assets/i.svg", "index.html", "sitemap.xml", "x/y/index.html"}, out.Files.Paths())
	require.Equal(t, `<head><link rel="stylesheet" href="`+css+"\">\n<script type=\"module\" src=\""+js+"\"></script>\n</head><i>a</i>", string(out.Files["index.html"]))
	require.Contains(t, string(out.Files["sitemap.xml"]), "<loc>https://x.example/x/y/</loc>")
	require.Equal(t, "y", string(out.Files["x/y/index.html"]))
	require.Equal(t, "main/gone~1", out.Faults["/x/y/"][0].Address)
}

func TestTheSitemapHoldsAddressesThatLeadToThePages(t *testing.T) {
	out, err := publish.Render(sitetest.New(site.Files{
		"site.yaml":                 []byte("format: brickshelf/1\nbase_url: https://x.example\n"),
		"pages/über uns/index.html": []byte("a"), "pages/r&d.html": []byte("c"), "pages/it's;+=,.html": []byte("d"),
	}), nil)
	require.NoError(t, err)
	var urls struct {
		URL []struct {
			Loc string `xml:"loc"`
		} `xml:"url"`
	}
	require.NoError(t, xml.Unmarshal(out.Files["sitemap.xml"], &urls))
	require.Len(t, urls.URL, 3)
	for _, u := range urls.URL {
		require.Regexp(t, "^[!-~]+$", u.Loc)
		at, err := url.Parse(u.Loc)
		require.NoError(t, err)
		require.Contains(t, out.Files, strings.TrimPrefix(at.Path, "/")+"index.html", u.Loc)
	}
}

func TestACopyKeepsTheStyleItWasMadeWith(t *testing.T) {
	s := sitetest.New(files)
	set, err := edit.Detach(s, "pages/index.html", "main/a~1")
	require.NoError(t, err)
	after, err := files.Apply(set)
	require.NoError(t, err)
	after["blocks/a.css"] = []byte("i{color:red}")
	was, err := publish.Render(s, nil)
	require.NoError(t, err)
	is, err := publish.Render(sitetest.New(after), nil)
	require.NoError(t, err)
	require.Equal(t, was.Files, is.Files)
}

func write(t *testing.T, dir string, files site.Files) int {
	n, err := publish.Write(dir, files, nil)
	require.NoError(t, err)
	got := site.Files{}
	require.NoError(t, filepath.WalkDir(dir, func(p string, d fs.DirEntry, err error) error {
		if err == nil && !d.IsDir() {
			rel, _ := filepath.Rel(dir, p)
			got[filepath.ToSlash(rel)], err = os.ReadFile(p)
		}
		return err
	}))
	require.Equal(t, files.Paths(), got.Paths())
	for p := range files {
		require.Equal(t, string(files[p]), string(got[p]), p)
	}
	return n
}

func numbered(n int) site.Files {
	out := site.Files{"sitemap.xml": []byte("<urlset/>")}
	for i := range n {
		out[fmt.Sprintf("p%d/index.html", i)] = fmt.Appendf(nil, "page %d", i)
	}
	return out
}

func TestOnlyWhatDiffersIsWritten(t *testing.T) {
	dir := filepath.Join(t.TempDir(), "www")
	files := numbered(20)
	require.Equal(t, 21, write(t, dir, files))
	require.Equal(t, 0, write(t, dir, files))
	files["p3/index.html"] = []byte("another")
	files["deep/er/index.html"] = []byte("new")
	delete(files, "p4/index.html")
	require.Equal(t, 2, write(t, dir, files))
	_, err := os.Stat(filepath.Join(dir, "p4"))
	require.ErrorIs(t, err, fs.ErrNotExist, "empty folders go too")
	require.NoError(t, os.WriteFile(filepath.Join(dir, "p5/index.html"), []byte("touched by hand"), 0o644))
	require.Equal(t, 1, write(t, dir, files), "what somebody touched is put right")
	for i := range 10 {
		files[fmt.Sprintf("p%d/index.html", i)] = []byte("all new")
	}
	require.Equal(t, len(files), write(t, dir, files), "where much differs, the whole folder is swapped in")
	left, err := os.ReadDir(filepath.Dir(dir))
	require.NoError(t, err)
	require.Len(t, left, 2, "beside it stands only what was published")
}

// A crash can come at any step; the next call goes on from there.
func TestACrashIsMadeGood(t *testing.T) {
	parent := t.TempDir()
	dir := filepath.Join(parent, "www")
	files := numbered(20)
	write(t, dir, files)

	// Between the two renames of a swap the old site stands aside.
	require.NoError(t, os.Rename(dir, filepath.Join(parent, ".www.old")))
	require.Equal(t, 0, write(t, dir, files))

	// In the middle of an update some files are in place and some still in the stage.
	stage := filepath.Join(parent, ".www.new-1")
	require.NoError(t, os.Mkdir(stage, 0o755))
	require.NoError(t, os.WriteFile(filepath.Join(stage, "1"), []byte("second"), 0o644))
	require.NoError(t, os.WriteFile(filepath.Join(dir, "p0/index.html"), []byte("first"), 0o644))
	require.NoError(t, os.WriteFile(filepath.Join(parent, ".www.journal"), []byte(`{"stage":".www.new-1","write":["p0/index.html","p1/index.html"],"drop":["p2/index.html"]}`), 0o644))
	files["p0/index.html"], files["p1/index.html"] = []byte("first"), []byte("second")
	delete(files, "p2/index.html")
	write(t, dir, files)
	left, err := os.ReadDir(parent)
	require.NoError(t, err)
	require.Len(t, left, 2)
}

func TestAFolderOfOtherThingsIsLeftAlone(t *testing.T) {
	dir := t.TempDir()
	require.NoError(t, os.WriteFile(filepath.Join(dir, "thesis.txt"), []byte("x"), 0o644))
	_, err := publish.Write(dir, site.Files{"index.html": nil}, nil)
	require.ErrorContains(t, err, "holds something else")
	_, err = os.Stat(filepath.Join(dir, "thesis.txt"))
	require.NoError(t, err)
}

// Those who are signed in have files of their own just where they see something else.
func TestWhatThoseWhoAreSignedInSee(t *testing.T) {
	f := site.Files{"layouts/l.html": []byte("@{region bar /}@{region main /}"), "blocks/hello.html": []byte("<i>hello</i>"), "pages/index.html": []byte("---\nlayout: l\n---\nhome"), "pages/x/y.html": []byte("---\nlayout: l\n---\ny"),
		"rules/hello.yaml": []byte("block: hello\nregion: bar\non: [\"page:/x/y/\"]\naudience: signed-in\n")}
	out, err := publish.Render(sitetest.New(f), nil)
	require.NoError(t, err)
	require.Equal(t, "y", string(out.Files["x/y/index.html"]))
	require.Equal(t, "<i>hello</i>y", string(out.Files["_for/signed-in/x/y/index.html"]))
	require.NotContains(t, out.Files, "_for/signed-in/index.html", "the home page is the same for everyone")
	require.NotContains(t, string(out.Files["sitemap.xml"]), "_for")
}
