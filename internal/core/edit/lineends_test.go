package edit_test

import (
	"bytes"
	"regexp"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"brickshelf/internal/core/check"
	"brickshelf/internal/core/patch"
	"brickshelf/internal/core/render"
	"brickshelf/internal/core/site"
	"brickshelf/internal/core/sitetest"
)

// asWindows is a site whose documents have line ends of two bytes and, if marked, a byte
// order mark.
func asWindows(f site.Files, marked bool) site.Files {
	out := site.Files{}
	for p, b := range f {
		if class, _, _ := site.Classify(p); class != site.HistoryDoc && class != site.AssetDoc {
			b = bytes.ReplaceAll(b, []byte("\n"), []byte("\r\n"))
			if marked {
				b = append(bytes.Clone(site.ByteOrderMark), b...)
			}
		}
		out[p] = b
	}
	return out
}

var hashes = regexp.MustCompile("[0-9a-f]{64}")

// plain is a text without what asWindows has put into it, written out or escaped.
func plain(b []byte) string {
	return strings.NewReplacer("\r\n", "\n", `\r\n`, `\n`, "\ufeff", "").Replace(string(b))
}

// Every operation does to a site of other line ends, and with byte order marks, what it does
// to one without: the same texts, each with the line ends and mark that it had.
func TestLineEndsAndMarksMakeNoDifference(t *testing.T) {
	var names []string
	for name := range operations {
		names = append(names, name)
	}
	rapid.Check(t, func(t *rapid.T) {
		files := sitetest.Site(t)
		if rapid.Bool().Draw(t, "harbour") || len(check.Validity(sitetest.New(files))) > 0 {
			files = sitetest.Harbour()
		}
		marked := rapid.Bool().Draw(t, "marked")
		others := asWindows(files, marked)
		name, seed := rapid.SampledFrom(sortedNames(names)).Draw(t, "operation"),
			rapid.IntRange(0, 1<<30).Draw(t, "arguments")
		carry := func(f site.Files) (set site.ChangeSet, err error) {
			rapid.Custom(func(t *rapid.T) int {
				set, err = operations[name](world{t, sitetest.New(f)})
				return 0
			}).Example(seed)
			return set, err
		}
		set, err := carry(files)
		other, othersErr := carry(others)
		require.Equal(t, err, othersErr, name)
		texts := func(set site.ChangeSet) map[string]string {
			out := map[string]string{}
			for _, c := range set.Changes {
				if class, _, _ := site.Classify(c.Path); class != site.HistoryDoc {
					out[c.Path] = plain(c.After)
				}
			}
			return out
		}
		bases := func(of map[string]string) map[string]string { // copies name what they came from by its hash
			for p, s := range of {
				of[p] = hashes.ReplaceAllString(s, "HASH")
			}
			return of
		}
		require.Equal(t, bases(texts(set)), bases(texts(other)), name)
		for _, c := range other.Changes {
			// what a moved page leaves behind is new
			if c.Before == "" || c.Delete || bytes.Contains(c.After, []byte("redirect: ")) {
				continue
			}
			require.Equal(t, marked, bytes.HasPrefix(c.After, site.ByteOrderMark),
				"%s: %s keeps its mark\n%q", name, c.Path, c.After)
			require.Equal(t, 1, max(1, bytes.Count(c.After, site.ByteOrderMark)), "%s: %s has one", name,
				c.Path)
			require.Equal(t, bytes.Count(c.After, []byte("\n")), bytes.Count(c.After, []byte("\r\n")),
				"%s: %s keeps its line ends\n%q", name, c.Path, c.After)
		}
	})
}

// A byte order mark is no part of what is shown, but where a page is its text alone.
func TestAByteOrderMark(t *testing.T) {
	f := site.Files{"site.yaml": []byte("format: brickshelf/1\n"),
		"layouts/l.html": []byte("\ufeff---\ntitle: L\n---\n<p>@{region main /}"),
		"blocks/b.html":  []byte("\ufeffb"),
		"blocks/c.html":  []byte("\ufeff---\nfields: {f: {type: text}}\n---\nc@{=f}"),
		"menus/m.yaml":   []byte("\ufeffitems: []\n"),
		"pages/p.html":   []byte("\ufeff---\nlayout: l\n---\n@{b /}@{c f=x /}"),
		"pages/q.html":   []byte("\ufeffq@{b /}")}
	s := sitetest.New(f)
	require.Empty(t, check.Validity(s))
	require.Equal(t, "<p>bcx", string(render.Page(s, "pages/p.html", render.Options{}).HTML))
	require.Equal(t, "\ufeffqb", string(render.Page(s, "pages/q.html", render.Options{}).HTML))

	got, err := patch.Set("pages/q.html", f["pages/q.html"], []string{"title"}, "Q")
	require.NoError(t, err)
	require.Equal(t, "\ufeff---\ntitle: Q\n---\nq@{b /}", string(got))
	got, err = patch.Set("menus/m.yaml", f["menus/m.yaml"], []string{"title"}, "M")
	require.NoError(t, err)
	require.Equal(t, "\ufefftitle: M\nitems: []\n", string(got))

	place := func(mark string) (out []int) {
		bad := sitetest.New(site.Files{"site.yaml": []byte(mark + "wrong: 1\nformat: brickshelf/1\n"),
			"blocks/b.html": []byte(mark + "@{=x}"), "menus/m.yaml": []byte(mark + "items: [\n")})
		for _, p := range check.Validity(bad) {
			require.Equal(t, 1, p.Line)
			out = append(out, p.Column)
		}
		return out
	}
	with, without := place("\ufeff"), place("")
	require.Len(t, without, 3)
	for i := range without {
		require.Equal(t, without[i]+1, with[i], "the mark is a character of its line")
	}
}
