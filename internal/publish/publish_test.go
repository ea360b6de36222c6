package publish_test

import (
	"bytes"
	"encoding/xml"
	"image"
	"image/png"
	"maps"
	"net/url"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"brickshelf/internal/core/assets"
	"brickshelf/internal/core/check"
	"brickshelf/internal/core/edit/copies"
	"brickshelf/internal/core/edit/documents"
	"brickshelf/internal/core/picture"
	"brickshelf/internal/core/site"
	"brickshelf/internal/core/sitetest"
	"brickshelf/internal/pictures"
	"brickshelf/internal/publish"
)

var files = site.Files{
	"site.yaml":     []byte("format: brickshelf/1\nbase_url: https://x.example\n"),
	"blocks/a.html": []byte("<i>a</i>"), "blocks/a.css": []byte("i{}"), "blocks/a.js": []byte("1"),
	"pages/index.html": []byte("<head></head>@{a /}"), "pages/x/y.html": []byte("@{gone /}y"),
	"pages/z.html": []byte("---\ndraft: true\n---\n"), "assets/i.svg": []byte("<svg/>"),
}

func TestWhatIsPublished(t *testing.T) {
	out, err := publish.Render(sitetest.New(files), nil)
	require.NoError(t, err)
	css, js := assets.File{Hash: site.HashOf([]byte("i{}")), Ext: ".css"}.URL(),
		assets.File{Hash: site.HashOf([]byte("1")), Ext: ".js"}.URL()
	require.ElementsMatch(t, []string{css[1:], js[1:], "assets/i.svg", "index.html", "sitemap.xml",
		"x/y/index.html"}, out.Files.Paths())
	require.Equal(t, `<head><link rel="stylesheet" href="`+css+"\">\n<script type=\"module\" src=\""+js+
		"\"></script>\n</head><i>a</i>", string(out.Files["index.html"]))
	require.Contains(t, string(out.Files["sitemap.xml"]), "<loc>https://x.example/x/y/</loc>")
	require.Equal(t, "y", string(out.Files["x/y/index.html"]))

	own := maps.Clone(files)
	own["files/.well-known/x"], own["files/sitemap.xml"] = []byte("w"), []byte("mine")
	out, err = publish.Render(sitetest.New(own), nil)
	require.NoError(t, err)
	require.Equal(t, "w", string(out.Files[".well-known/x"]))
	require.Equal(t, "mine", string(out.Files["sitemap.xml"]))
	out, err = publish.Render(sitetest.New(files), nil)
	require.NoError(t, err)
	require.Equal(t, "main/gone~1", out.Faults["/x/y/"][0].Address)
}

func TestTheSitemapHoldsAddressesThatLeadToThePages(t *testing.T) {
	out, err := publish.Render(sitetest.New(site.Files{
		"site.yaml":                 []byte("format: brickshelf/1\nbase_url: https://x.example\n"),
		"pages/über uns/index.html": []byte("a"), "pages/r&d.html": []byte("c"),
		"pages/it's;+=,.html": []byte("d"),
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
	set, err := copies.Detach(s, "pages/index.html", "main/a~1")
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

// Those who are signed in have files of their own just where they see something else.
func TestWhatThoseWhoAreSignedInSee(t *testing.T) {
	f := site.Files{"layouts/l.html": []byte("@{region bar /}@{region main /}"),
		"blocks/hello.html": []byte("<i>hello</i>"), "pages/index.html": []byte("---\nlayout: l\n---\nhome"),
		"pages/x/y.html":   []byte("---\nlayout: l\n---\ny"),
		"rules/hello.yaml": []byte("block: hello\nregion: bar\non: [\"page:/x/y/\"]\naudience: signed-in\n")}
	out, err := publish.Render(sitetest.New(f), nil)
	require.NoError(t, err)
	require.Equal(t, "y", string(out.Files["x/y/index.html"]))
	require.Equal(t, "<i>hello</i>y", string(out.Files["_for/signed-in/x/y/index.html"]))
	require.NotContains(t, out.Files, "_for/signed-in/index.html", "the home page is the same for everyone")
	require.NotContains(t, string(out.Files["sitemap.xml"]), "_for")
}

// What only those who are signed in would meet is at fault too, though it shows nothing.
func TestFaultsThatOnlySomeMeetAreTold(t *testing.T) {
	f := site.Files{"layouts/l.html": []byte("@{region bar /}@{region main /}"),
		"blocks/hello.html": []byte("@{gone /}"), "pages/x.html": []byte("---\nlayout: l\n---\nx"),
		"rules/hello.yaml": []byte("block: hello\nregion: bar\non: [all]\naudience: signed-in\n")}
	out, err := publish.Render(sitetest.New(f), nil)
	require.NoError(t, err)
	require.Equal(t, "unresolved-call", out.Faults["/x/"][0].Code)
	require.NotContains(t, out.Files, "_for/signed-in/x/index.html")
}

// What is published today is at fault too where it will not work on a day that is known.
func TestFaultsOfDaysAheadAreTold(t *testing.T) {
	f := site.Files{"layouts/l.html": []byte("@{region bar /}@{region main /}"),
		"blocks/hello.html": []byte("@{gone /}"), "pages/x.html": []byte("---\nlayout: l\n---\nx"),
		"rules/hello.yaml": []byte("block: hello\nregion: bar\non: [all]\nfrom: " + sitetest.Now.AddDate(0, 0,
			3).Format(time.DateOnly) + "\n")}
	out, err := publish.Render(sitetest.New(f), nil)
	require.NoError(t, err)
	require.Len(t, out.Faults["/x/"], 1)
	require.Contains(t, out.Faults["/x/"][0].Message, "from "+sitetest.Now.AddDate(0, 0,
		3).Format(time.DateOnly)+" on: ")
	require.Equal(t, "x", string(out.Files["x/index.html"]))
}

// What a moved page leaves behind leads on to it, and is listed nowhere.
func TestAWayOnIsNoPageOfItsOwn(t *testing.T) {
	f := site.Files{"site.yaml": []byte("format: brickshelf/1\nbase_url: https://x.example\n"),
		"pages/index.html": []byte("@{pages under=\"/\" /}"),
		"pages/old.html":   []byte("---\ntitle: Old\n---\nold")}
	set, err := documents.MovePage(sitetest.New(f), "pages/old.html", "pages/new.html", true)
	require.NoError(t, err)
	after, err := f.Apply(set)
	require.NoError(t, err)
	s := sitetest.New(after)
	require.Empty(t, check.Site(s))
	out, err := publish.Render(s, nil)
	require.NoError(t, err)
	require.Contains(t, string(out.Files["old/index.html"]), `content="0; url=/new/"`)
	require.NotContains(t, string(out.Files["index.html"]), "/old/")
	require.Contains(t, string(out.Files["index.html"]), "/new/")
	require.NotContains(t, string(out.Files["sitemap.xml"]), "/old/")
	require.Equal(t, []string{"/", "/new/"}, s.Published())
}

func TestTheSmallerPicturesThatPagesShowArePublished(t *testing.T) {
	var b bytes.Buffer
	require.NoError(t, png.Encode(&b, image.NewGray(image.Rect(0, 0, 90, 60))))
	f := maps.Clone(files)
	f["assets/p.png"] = b.Bytes()
	f["pages/index.html"] = []byte(`@{image src="/assets/p.png" width=30 /}<img src="/_shelf/00000000000000000000000000000000-9.png">`)
	out, err := publish.RenderWith(sitetest.New(f), pictures.NewMaker(""), nil)
	require.NoError(t, err)
	var made []string
	for _, p := range out.Files.Paths() {
		if strings.HasPrefix(p, "_shelf/") && strings.HasSuffix(p, ".png") {
			made = append(made, p)
		}
	}
	hash := site.HashOf(b.Bytes())
	require.ElementsMatch(t, []string{"_shelf/" + picture.Name(hash, 30, ".png"), "_shelf/" + picture.Name(hash, 60, ".png")}, made)
	config, err := png.DecodeConfig(bytes.NewReader(out.Files["_shelf/"+picture.Name(hash, 60, ".png")]))
	require.NoError(t, err)
	require.Equal(t, 60, config.Width)
	require.Equal(t, b.Bytes(), out.Files["assets/p.png"], "the original is kept")
}
