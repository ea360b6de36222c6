package values_test

import (
	"testing"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"brickshelf/internal/core/edit/values"
	"brickshelf/internal/core/render"
	"brickshelf/internal/core/site"
	"brickshelf/internal/core/sitetest"
)

// A field that was removed and is brought back from what the block's text was leaves every
// page as it was before.
func TestBringingAFieldBackUndoesItsRemoval(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		f := sitetest.Site(t)
		s := sitetest.New(f)
		b := s.Block(rapid.SampledFrom(s.Names()).Draw(t, "block"))
		if b == nil || len(b.Fields) == 0 {
			return
		}
		field := rapid.SampledFrom(b.Fields).Draw(t, "field").Name
		set, _, err := values.RemoveField(s, b.Name, field)
		if err != nil {
			return // the markup asks for more than its value
		}
		gone := sitetest.Apply(t, f, set)
		back, err := values.BringBack(sitetest.New(gone), b.Name, field, [][]byte{gone[b.Path], f[b.Path]})
		require.NoError(t, err)
		o := sitetest.New(sitetest.Apply(t, gone, back))
		require.GreaterOrEqual(t, o.Block(b.Name).Field(field), 0)
		for _, p := range s.PagePaths() {
			require.Equal(t, string(render.Page(s, p, render.Options{}).HTML),
				string(render.Page(o, p, render.Options{}).HTML), p)
		}
	})
}

func TestBringBack(t *testing.T) {
	was := "---\nfields:\n  w: {type: number, default: 3, max: \"9\", help: How many}\n---\n<p>There are @{=w} of them,</p>@{=w}<p>and @{=w} more.</p>"
	f := site.Files{"blocks/b.html": []byte(was),
		"pages/p.html": []byte("---\noverrides: {main/b~1: {w: 5}}\n---\n@{b /}")}
	set, lost, err := values.RemoveField(sitetest.New(f), "b", "w")
	require.NoError(t, err)
	require.Len(t, lost, 1)
	gone := sitetest.Apply(t, f, set)
	require.Contains(t, string(gone["blocks/b.html"]), "<p>There are 3 of them,</p>3<p>and 3 more.</p>")

	gone["blocks/b.html"] = []byte("<h2>New</h2><p>There are 3 of them,</p>3<p>but not 3 more.</p>")
	set, err = values.BringBack(sitetest.New(gone), "b", "w", [][]byte{gone["blocks/b.html"], []byte(was)})
	require.NoError(t, err)
	require.Equal(t, "Bring the field w of b back", set.Title)
	back := sitetest.Apply(t, gone, set)
	require.Contains(t, string(back["blocks/b.html"]),
		"{type: number, default: 3, max: \"9\", help: How many}")
	require.Equal(t, "<h2>New</h2><p>There are 5 of them,</p>3<p>but not 3 more.</p>",
		string(render.Page(sitetest.New(back), "pages/p.html", render.Options{}).HTML),
		"where the markup around it is what it was")

	set, err = values.BringBack(sitetest.New(gone), "b", "w", nil)
	require.NoError(t, err)
	require.Contains(t, string(sitetest.Apply(t, gone, set)["blocks/b.html"]), "w: {type: text}",
		"nothing tells what it was")
	_, err = values.BringBack(sitetest.New(back), "b", "w", nil)
	require.ErrorContains(t, err, "has a field w")
	_, err = values.BringBack(sitetest.New(back), "c", "w", nil)
	require.ErrorContains(t, err, "no block")
}

func TestWhatARemovedFieldLeavesIsNoMarkup(t *testing.T) {
	f := site.Files{"blocks/a.html": []byte("a"),
		"blocks/b.html": []byte("---\nfields: {w: {type: text, default: \"x@\"}}\n---\n@{=w}@{a /}@{=w}{y}@{=w}z")}
	set, _, err := values.RemoveField(sitetest.New(f), "b", "w")
	require.NoError(t, err)
	f = sitetest.Apply(t, f, set)
	f["pages/p.html"] = []byte("@{b /}")
	require.Equal(t, "x&#64;ax&#64;{y}x@z",
		string(render.Page(sitetest.New(f), "pages/p.html", render.Options{}).HTML))
}
