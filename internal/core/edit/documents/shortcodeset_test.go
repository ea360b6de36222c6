package documents_test

import (
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"brickshelf/internal/core/edit/documents"
	"brickshelf/internal/core/impact"
	"brickshelf/internal/core/render"
	"brickshelf/internal/core/site"
	"brickshelf/internal/core/sitetest"
)

func TestSwitchingASetEditsItsLineAlone(t *testing.T) {
	scripts := site.Files{}
	for _, n := range []string{"a", "b"} {
		scripts["shortcodes/"+n+".js"] = []byte("/*\nset: " + n + "\n*/\nfunction shortcode() {}\n")
	}
	const head = "format: brickshelf/1\n"
	for _, c := range []struct{ before, set, after string }{
		{"", "a", "sets_off: [a]\n"},
		{"name: X # no end", "a", "name: X # no end\nsets_off: [a]\n"},
		{"sets_off: [b] # why\nname: X\n", "a", "sets_off: [b, a] # why\nname: X\n"},
		{"sets_off: [a, b] # why\n", "a", "sets_off: [b] # why\n"},
		{"sets_off: [a]\n# kept\nname: X\n", "a", "# kept\nname: X\n"},
		{"sets_off: b\n", "a", "sets_off: [b, a]\n"},
		{"sets_off:\n  - b # one\nname: X\n", "a", "sets_off:\n  - b # one\n  - a\nname: X\n"},
		{"sets_off:\n  # first\n  - a\n  - b\n", "a", "sets_off:\n  # first\n  - b\n"},
	} {
		f := site.Files{"site.yaml": []byte(head + c.before)}
		for p, b := range scripts {
			f[p] = b
		}
		s := sitetest.New(f)
		require.Empty(t, s.Problems(func(string) bool { return true }), c.before)
		was := slices.Contains(s.Config().SetsOff, c.set)
		set, err := documents.SwitchSet(s, c.set, was)
		require.NoError(t, err)
		require.Equal(t, head+c.after, string(set.Changes[0].After), c.before)
		require.NotEqual(t, was, slices.Contains(s.With(set.Changes).Config().SetsOff, c.set))
		_, err = documents.SwitchSet(s, c.set, !was)
		require.ErrorContains(t, err, "is so already")
		_, err = documents.SwitchSet(s, "nowhere", false)
		require.ErrorContains(t, err, "there is no set nowhere")
	}
}

func TestSwitchingASetOffTellsWhatStopsResolving(t *testing.T) {
	s := sitetest.New(site.Files{
		"site.yaml":       []byte("format: brickshelf/1\nhome: /a/\n"),
		"blocks/b.html":   []byte("<p>@{s /}</p>"),
		"shortcodes/s.js": []byte("/*\nset: extra\n*/\nfunction shortcode() {}\n"),
		"pages/a.html":    []byte("@{s /}@{b /}"), "pages/b.html": []byte("@{b /}"),
		"pages/c.html": []byte("@{year /}"),
	})
	set, err := documents.SwitchSet(s, "extra", false)
	require.NoError(t, err)
	im := impact.Of(s, s.With(set.Changes))
	require.Equal(t, 2, im.Counts[impact.Changes])
	require.Equal(t, 1, im.Counts[impact.Untouched])
	var where []string
	for _, p := range im.Pages {
		for _, b := range p.Breaks {
			require.Equal(t, "unresolved-call", b.Code)
			where = append(where, p.Path+" "+b.Address)
		}
	}
	require.Equal(t, "/a/ main/b~1/s~1,/a/ main/s~1,/b/ main/b~1/s~1", strings.Join(where, ","))
	out := string(render.Page(s.With(set.Changes), "pages/a.html", render.Options{}).HTML)
	require.NotContains(t, out, "@{", "nothing raw is shown")
}
