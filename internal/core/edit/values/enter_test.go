package values_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"brickshelf/internal/core/block"
	"brickshelf/internal/core/edit/values"
	"brickshelf/internal/core/site"
	"brickshelf/internal/core/sitetest"
)

var entering = site.Files{
	"site.yaml":      []byte("format: brickshelf/1\n"),
	"layouts/l.html": []byte("---\npage_fields: {p: {type: rich}}\n---\n@{region bar /}@{region main /}"),
	"blocks/b.html":  []byte("---\nfields:\n  r: {type: rich}\n  t: {type: text}\n  s: {type: list, fields: {x: {type: rich}}}\n---\n@{=r}"),
	"rules/r.yaml":   []byte("block: b\nregion: bar\non: [all]\n"),
	"pages/a.html":   []byte("---\nlayout: l\n---\n@{b /}"),
}

func TestWhatIsEnteredIsWrittenInOrder(t *testing.T) {
	s := sitetest.New(entering)
	text := func(s string) *string { return &s }
	edits := []values.Edit{
		{Doc: "pages/a.html", Address: "bar/rule:r", Field: "r", Text: text("<p>a <b>b")},
		{Doc: "pages/a.html", Address: "bar/rule:r", Field: "t", Text: text("<p>a <b>b")},
		{Doc: "pages/a.html", Address: "main/b~1", Field: "s", Text: text(`[{"x": "<p>a <b>b"}]`)},
	}
	set, err := values.Enter(s, "b", edits)
	require.NoError(t, err)
	require.Equal(t, "<p>a <b>b", *edits[0].Text, "what is given stays as it is")
	after := string(set.Changes[0].After)
	require.Contains(t, after, "{r: <p>a <b>b</b></p>, t: <p>a <b>b}")
	require.Contains(t, after, `@{b s=[{"x":"<p>a <b>b</b></p>"}] /}`)
	_, err = values.Enter(s, "none", edits)
	require.ErrorContains(t, err, "there is no block")
	_, err = values.Enter(s, "b", []values.Edit{{Doc: "pages/a.html", Address: "main/b~1", Field: "none",
		Text: text("x")}})
	require.ErrorContains(t, err, "none")
}

func TestEnteredValues(t *testing.T) {
	rich := &block.Field{Name: "x", Type: block.Rich}
	list := &block.Field{Name: "s", Type: block.List, Fields: []*block.Field{rich}}
	for _, c := range []struct {
		f           *block.Field
		typed, want string
	}{
		{rich, "<b>a", "<b>a</b>"},
		{list, `[ {"x": "a"} ]`, `[ {"x": "a"} ]`},
		{list, "[{", "[{"},
		{list, `[{"x": "<b>a"}]`, `[{x: <b>a</b>}]`},
	} {
		require.Equal(t, c.want, values.Entered(c.f, c.typed))
	}
}

func TestFieldAtKeys(t *testing.T) {
	s := sitetest.New(entering)
	for _, c := range []struct{ path, keys, want string }{
		{"pages/a.html", "overrides main/b~1 r", "r"},
		{"pages/a.html", "overrides bar/rule:r s", "s"},
		{"pages/a.html", "overrides bar/rule:r none", ""},
		{"pages/a.html", "overrides bar/none~1 r", ""},
		{"pages/a.html", "overrides bar/rule:r", ""},
		{"pages/a.html", "fields p", "p"},
		{"pages/a.html", "fields r", ""},
		{"pages/a.html", "title", ""},
		{"rules/r.yaml", "set t", "t"},
		{"rules/r.yaml", "set", ""},
		{"rules/r.yaml", "block t", ""},
		{"blocks/b.html", "fields s default", "s"},
		{"blocks/b.html", "fields s label", ""},
		{"blocks/b.html", "fields r", ""},
		{"layouts/l.html", "fields p", ""},
	} {
		f, got := values.FieldAt(s, c.path, string(entering[c.path]), strings.Fields(c.keys)), ""
		if f != nil {
			got = f.Name
		}
		require.Equal(t, c.want, got, "%s: %s", c.path, c.keys)
	}
	require.Nil(t, values.FieldAt(s, "pages/a.html", string(entering["pages/a.html"]), nil))
	require.Nil(t, values.FieldAt(s, "pages/a.html", "---\nlayout: none\n---\n", []string{"fields", "p"}))
}
