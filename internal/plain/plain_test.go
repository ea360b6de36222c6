package plain_test

import (
	"archive/zip"
	"bytes"
	"os"
	"path/filepath"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"brickshelf/internal/core/check"
	"brickshelf/internal/core/shelf"
	"brickshelf/internal/core/site"
	"brickshelf/internal/plain"
	"brickshelf/internal/publish"
)

// old is a web site of many hands: ends missing, encodings of their own, tags that are ours and mean nothing.
var old = site.Files{
	"index.html":         []byte("\xef\xbb\xbf<TITLE>Harbour &amp; Sound</TITLE><p>Home<p>of user@{host /} and @@{x} and @@@{"),
	"about.HTM":          []byte("---\nno: front matter\n---\r\n<title>About</title>\r\n<b>us"),
	"fence.html":         []byte("---\nnothing ends this"),
	"dir/index.htm":      []byte("<meta charset=iso-8859-1><title>K\xfcste</title>"),
	"dir/page.xhtml":     []byte("<?xml version=\"1.0\" encoding=\"Shift_JIS\"?><title>\x83\x5c\x83\x7b</title>\x83\x40{"),
	"dir/wide.html":      []byte("\xff\xfe<\x00t\x00i\x00t\x00l\x00e\x00>\x00W\x00<\x00/\x00t\x00i\x00t\x00l\x00e\x00>\x00"),
	"frames.html":        []byte("<frameset cols=20%,*><frame src=a.html></frameset>"),
	"binary.html":        []byte("GIF89a\x00\x00\xff"),
	"50%.html":           []byte("<p>half"),
	"css/a.css":          []byte("a{color:red}"),
	"assets/x.js":        []byte("x@{y"),
	".htaccess":          []byte("deny"),
	"robots.txt":         []byte(""),
	"deep/er/a.b.html":   []byte("<title>\n  two\n  lines @{=x}</title>"),
	"deep/er/x.htm.html": []byte("no title"),
}

// published is what a shelf folder is published as.
func published(t require.TestingT, files site.Files) site.Files {
	s := shelf.New(files, time.Date(2027, 3, 1, 12, 0, 0, 0, time.UTC))
	require.Empty(t, check.Validity(s))
	out, err := publish.Render(s, nil)
	require.NoError(t, err)
	return out.Files
}

func TestASiteIsPublishedAgainByteForByte(t *testing.T) {
	files, report := plain.Convert(old, "harbour", nil)
	require.Empty(t, report.Refusal())
	require.Equal(t, old, published(t, files))
	require.Equal(t, [2]int{len(old) - 6, 6}, [2]int{report.Pages, report.Files})
	said := map[string]string{}
	for _, n := range report.Notes {
		said[n.Path] = string(n.As) + " " + n.Says
	}
	require.Contains(t, said["index.html"], "@@{")
	require.Contains(t, said["about.HTM"], "empty front matter")
	require.Contains(t, said["fence.html"], "empty front matter")
	require.Contains(t, said["binary.html"], "file has zero bytes")
	require.Contains(t, said["50%.html"], "file is no page here")
	require.Len(t, said, 7)
}

func TestPagesAreCalledWhatTheySay(t *testing.T) {
	files, _ := plain.Convert(old, "harbour", nil)
	s := shelf.New(files, time.Now())
	require.Equal(t, "Harbour & Sound", s.Config().Name)
	for path, want := range map[string][2]string{
		"pages/index.html":         {"Harbour & Sound", "/"},
		"pages/about.HTM":          {"About", "/about.HTM"},
		"pages/dir/index.htm":      {"Küste", "/dir/index.htm"},
		"pages/dir/page.xhtml":     {"ソボ", "/dir/page.xhtml"},
		"pages/dir/wide.html":      {"W", "/dir/wide.html"},
		"pages/frames.html":        {"frames", "/frames.html"},
		"pages/deep/er/a.b.html":   {"two lines @{=x}", "/deep/er/a.b.html"},
		"pages/deep/er/x.htm.html": {"x.htm.html", "/deep/er/x.htm.html"},
	} {
		page := s.Info(path).Page
		require.Equal(t, want, [2]string{page.Called(), page.URL}, path)
	}
	// A title follows the text that says it.
	o := s.With([]site.Change{{Path: "pages/frames.html", Before: s.Hash("pages/frames.html"), After: []byte("<title>Now</title>")}})
	require.Equal(t, "Now", o.Info("pages/frames.html").Page.Title)
}

func TestAnyBytesComeBack(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		bits := rapid.SliceOfN(rapid.SampledFrom([]string{"@", "{", "@{", "@@{", "---", "\n", "\r\n", "<p>", "<title>", "</title>", "<!--",
			"<script>", "\xff", "\x83\x40{", "a", " ", "=x}", "/}", "\xef\xbb\xbf"}), 0, 12)
		in := site.Files{"a.html": nil, "b/c.htm": nil, "d.txt": nil}
		for p := range in {
			in[p] = []byte(strings.Join(bits.Draw(t, p), ""))
		}
		files, report := plain.Convert(in, "x", nil)
		require.Empty(t, report.Refusal())
		require.Equal(t, in, published(t, files))
	})
}

func TestWhatCannotBeTakenIsToldAtOnce(t *testing.T) {
	dir := t.TempDir()
	put := func(p, text string) {
		require.NoError(t, os.MkdirAll(filepath.Dir(filepath.Join(dir, p)), 0o755))
		require.NoError(t, os.WriteFile(filepath.Join(dir, p), []byte(text), 0o644))
	}
	put("a.html", "a")
	put("sub/b.html", "b")
	put(".git/config", "none of it")
	put("what?.html", "a name that no disk has")
	put("na\xefve.html", "x")
	outside := filepath.Join(t.TempDir(), "o.html")
	require.NoError(t, os.WriteFile(outside, []byte("o"), 0o644))
	for name, to := range map[string]string{"twin.html": "a.html", "twins": "sub", "nowhere": "gone", "out.html": outside, "sub/round": dir} {
		require.NoError(t, os.Symlink(to, filepath.Join(dir, name)))
	}
	files, report, err := plain.Take(dir, true, nil)
	require.NoError(t, err)
	var left []string
	for _, p := range report.Refusal() {
		left = append(left, p.Path+": "+p.Message)
	}
	require.Len(t, left, 6, strings.Join(left, "\n"))
	for i, want := range []string{"na\uFFFDve.html: its name is not UTF-8", "nowhere: is a link that leads nowhere",
		"out.html: is a link out of the folder", "sub/round: is a link to a folder around it", "twins/round: is a link to a folder around it", "what?.html: its name cannot be published"} {
		require.Contains(t, left[i], want)
	}
	require.Equal(t, site.Files{"a.html": []byte("a"), "sub/b.html": []byte("b"), "twin.html": []byte("a"), "twins/b.html": []byte("b")},
		published(t, files))

	_, report, err = plain.Take(dir, false, nil)
	require.NoError(t, err)
	require.Len(t, report.Refusal(), 7, "links are left out where that is chosen")
}

func TestAZipIsTakenAsItsFolder(t *testing.T) {
	var b bytes.Buffer
	z := zip.NewWriter(&b)
	for p, text := range map[string]string{"site/index.html": "<p>x", "site/a/b.css": "c", "__MACOSX/site/._index.html": "no"} {
		w, err := z.Create(p)
		require.NoError(t, err)
		_, err = w.Write([]byte(text))
		require.NoError(t, err)
	}
	require.NoError(t, z.Close())
	files, report, err := plain.FromZip(bytes.NewReader(b.Bytes()), int64(b.Len()), "my.zip", nil)
	require.NoError(t, err)
	require.NotNil(t, report)
	require.Equal(t, site.Files{"index.html": []byte("<p>x"), "a/b.css": []byte("c")}, published(t, files))
	require.Contains(t, string(files["site.yaml"]), "name: site")
}

func TestAPartOfAShelfFolderInAZipIsNone(t *testing.T) {
	var b bytes.Buffer
	z := zip.NewWriter(&b)
	_, err := z.Create("blocks/a.html")
	require.NoError(t, err)
	require.NoError(t, z.Close())
	files, report, err := plain.FromZip(bytes.NewReader(b.Bytes()), int64(b.Len()), "my.zip", nil)
	require.NoError(t, err)
	require.Nil(t, report)
	require.Equal(t, []string{"blocks/a.html"}, files.Paths())
}

func TestAShelfFolderIsNone(t *testing.T) {
	for name, f := range map[string]site.Files{
		"whole":    {"site.yaml": nil, "x.html": nil},
		"a part":   {"pages/a.html": nil},
		"no pages": {"a.txt": nil},
		"nothing":  {},
	} {
		require.False(t, plain.Is(f), name)
	}
	require.True(t, plain.Is(site.Files{"a/b.XHTML": nil}))
	require.True(t, plain.Is(site.Files{"index.html": nil, "pages/a.html": nil}), "a web site has such folders, too")
}
