package copies_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"brickshelf/internal/core/check"
	"brickshelf/internal/core/edit/copies"
	"brickshelf/internal/core/edit/outline"
	"brickshelf/internal/core/render"
	"brickshelf/internal/core/shelf"
	"brickshelf/internal/core/site"
	"brickshelf/internal/core/sitetest"
)

// spotsOf are the linked placements of blocks on a site's pages.
func spotsOf(s *shelf.Shelf) (out []copies.Spot) {
	for _, path := range s.PagePaths() {
		for _, p := range render.Placements(s, path) {
			if p.Kind == render.Linked && s.Block(p.Block) != nil {
				out = append(out, copies.Spot{Doc: path, Address: p.Address})
			}
		}
	}
	return out
}

// However many are detached at once, one in another among them, no page changes by it; filled
// in, nothing in them follows a block any more.
func TestManyAreDetachedAtOnceAndNoPageChanges(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		files := sitetest.Site(t)
		s := sitetest.New(files)
		spots := spotsOf(s)
		if len(spots) == 0 {
			t.Skip("nothing is linked")
		}
		n := rapid.IntRange(1, min(5, len(spots))).Draw(t, "how many")
		chosen := rapid.Permutation(spots).Draw(t, "spots")[:n]
		filled := rapid.Bool().Draw(t, "filled in")
		if filled { // what stands in another is detached with it
			var outer []copies.Spot
			for _, c := range chosen {
				inside := false
				for _, o := range chosen {
					inside = inside || o.Doc == c.Doc && strings.HasPrefix(c.Address, o.Address+"/")
				}
				if !inside {
					outer = append(outer, c)
				}
			}
			chosen = outer
		}
		set, err := copies.DetachAll(s, chosen, filled)
		require.NoError(t, err)
		is := sitetest.New(sitetest.Apply(t, files, set))
		require.Empty(t, check.Validity(is))
		for _, path := range s.PagePaths() {
			require.Equal(t, seen(s, path), seen(is, path), path)
		}
		still := spotsOf(is)
		for _, c := range chosen {
			k, err := copies.At(is, c.Doc, c.Address)
			require.NoError(t, err)
			require.NotEqual(t, copies.Edited, k.Standing, "%s\n%+v", set.Changes[0].After, k)
			for _, l := range still {
				if l.Doc == c.Doc {
					require.NotEqual(t, c.Address, l.Address)
					require.False(t, filled && strings.HasPrefix(l.Address, c.Address+"/"), l.Address)
				}
			}
		}
		back, linked, err := copies.LinkAll(is, chosen, copies.Goes)
		require.NoError(t, err)
		require.Len(t, linked, len(chosen))
		for _, l := range linked {
			require.Empty(t, l.Fits)
			require.Empty(t, l.Lost)
		}
		for _, path := range s.PagePaths() {
			require.Equal(t, seen(s, path), seen(is.With(back.Changes), path), path)
		}
	})
}

// A page is cut loose as a whole: then no edit of any block reaches it.
func TestAWholePageIsDetached(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		files, s, path, _ := draw(t)
		filled := rapid.Bool().Draw(t, "filled in")
		set, err := copies.DetachAll(s, []copies.Spot{{Doc: path}}, filled)
		require.NoError(t, err)
		files = sitetest.Apply(t, files, set)
		is := sitetest.New(files)
		require.Equal(t, seen(s, path), seen(is, path))
		stays := spotsOf(is)
		for _, l := range stays {
			require.False(t, l.Doc == path && (filled || strings.Count(l.Address, "/") == 1), l.Address)
		}
		if _, err = copies.DetachAll(is, []copies.Spot{{Doc: path}}, false); filled {
			require.ErrorContains(t, err, "nothing on the page follows a block")
		}
	})
	_, err := copies.DetachAll(sitetest.New(three()), []copies.Spot{{Doc: "pages/none.html"}}, false)
	require.ErrorContains(t, err, "there is no page")
}

func TestThoseOfWhichMostGoesComeFirst(t *testing.T) {
	base := "<b>one</b>\n<i>x</i>\n"
	hash := string(site.HashOf([]byte(base)))
	s := sitetest.New(site.Files{
		"site.yaml":     []byte("format: brickshelf/1\n"),
		"blocks/a.html": []byte("<b>two</b>\n<i>x</i>\n"), "history/" + hash: []byte(base),
		"pages/p.html": []byte(`@{copy of="a" base="` + hash + `"}` + base + `@{/copy}`),
		"pages/q.html": []byte(`@{copy of="a" base="` + hash + `"}` + base + "<p>own</p>\n\n<p>words</p>\n@{/copy}"),
	})
	set, linked, err := copies.LinkAll(s, []copies.Spot{{Doc: "pages/p.html", Address: "main/a~1"},
		{Doc: "pages/q.html", Address: "main/a~1"}}, copies.Goes)
	require.NoError(t, err)
	require.Equal(t, "Link 2 copies again", set.Title)
	require.Equal(t, "/q/", linked[0].URL)
	require.Equal(t, []string{"<p>own</p>", "<p>words</p>"}, linked[0].Lost)
	require.Empty(t, linked[1].Lost, "what it came from is no loss")

	stay, left, err := copies.LinkAll(s, []copies.Spot{{Doc: "pages/p.html", Address: "main/a~1"},
		{Doc: "pages/q.html", Address: "main/a~1"}}, copies.Stays)
	require.NoError(t, err)
	require.Equal(t, "Link a again on /p/", stay.Title)
	require.Len(t, stay.Changes, 1)
	require.True(t, left[0].Left)
	require.False(t, left[1].Left)

	set, err = copies.DetachAll(s.With(set.Changes), []copies.Spot{{Doc: "pages/p.html", Address: "main/a~1"},
		{Doc: "pages/q.html", Address: "main/a~1"}}, false)
	require.NoError(t, err)
	require.Equal(t, "Detach 2 placements on 2 pages", set.Title)
	_, err = copies.DetachAll(s, []copies.Spot{{Doc: "pages/p.html", Address: "main/a~1"}}, false)
	require.ErrorContains(t, err, "is a copy already")
	_, _, err = copies.LinkAll(s, []copies.Spot{{Doc: "pages/p.html", Address: "main/a~3"}}, copies.Goes)
	require.ErrorContains(t, err, "there is no copy")
}

// What is written into pages as copies shows what it would show linked, and follows nothing.
func TestCallsAreWrittenAsCopies(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		files := sitetest.Site(t)
		s := sitetest.New(files)
		var pages, names []string
		for _, path := range s.PagePaths() {
			if in := s.Info(path); in.Layout != nil && in.Layout.Region("main") != nil {
				pages = append(pages, path)
			}
		}
		for _, n := range s.Names() {
			if s.Block(n) != nil {
				names = append(names, n)
			}
		}
		if len(pages) == 0 || len(names) == 0 || len(check.Validity(s)) > 0 {
			t.Skip("nothing can be put anywhere")
		}
		name := rapid.SampledFrom(names).Draw(t, "block")
		call := rapid.SampledFrom([]string{"@{" + name + " /}", "@{" + name + "}x@{" + name + " /}@{/" + name + "}"}).
			Draw(t, "call")
		path := rapid.SampledFrom(pages).Draw(t, "page")
		src, from, err := outline.PutAt(path, files[path], "main", rapid.IntRange(-1, 1).Draw(t, "before"), call)
		require.NoError(t, err)
		linked := []site.Change{{Path: path, Before: s.Hash(path), After: src}}
		changes, err := copies.AsCopies(s, path, src, from, from+1)
		require.NoError(t, err)
		is := sitetest.New(sitetest.Apply(t, files, site.ChangeSet{Changes: changes}))
		require.Equal(t, seen(s.With(linked), path), seen(is, path), "%s", changes[0].After)
		require.Len(t, copies.All(is), len(copies.All(s))+1)
		block := "blocks/" + name + ".html"
		later := []site.Change{{Path: block, Before: is.Hash(block), After: []byte("entirely new")}}
		copied := 0
		for _, c := range copies.Of(is.With(later), name) {
			if c.Page == path && strings.HasPrefix(c.Address, "main/") && !strings.Contains(c.Text, "entirely new") {
				copied++
			}
		}
		require.Positive(t, copied, "it does not follow")
	})
}

// A revision that a copy came from is put into history by the edit by which it goes.
func TestRevisionsThatGoAreKeptForTheirCopies(t *testing.T) {
	hash := func(s string) string { return string(site.HashOf([]byte(s))) }
	files := site.Files{"site.yaml": []byte("format: brickshelf/1\n"),
		"blocks/a.html": []byte("<b>a</b>"), "blocks/a.css": []byte("b{}"), "blocks/b.html": []byte("<i>b</i>"),
		"blocks/c.html": []byte(`@{copy of="b" base="` + hash("<i>b</i>") + `"}<i>b</i>@{/copy}`),
		"pages/p.html":  []byte("---\ncopies: {main/x~1: {of: a, base: x, style: " + hash("b{}") + ", text: x}}\n---\n@{c /}"),
	}
	s := sitetest.New(files)
	change := func(path, text string) []site.Change {
		return []site.Change{{Path: path, Before: s.Hash(path), After: []byte(text), Delete: text == ""}}
	}
	require.Empty(t, copies.Revisions(s, change("blocks/a.html", "new")), "no copy came from it")
	require.Empty(t, copies.Revisions(s, change("pages/p.html", "new")))
	for path, text := range map[string]string{"blocks/a.css": "b{}", "blocks/b.html": "<i>b</i>"} {
		for _, to := range []string{"new", ""} {
			require.Equal(t, []site.Change{{Path: "history/" + hash(text), After: []byte(text)}},
				copies.Revisions(s, change(path, to)))
		}
	}
	both := append(change("blocks/b.html", "new"), site.Change{Path: "history/" + hash("<i>b</i>"), After: []byte("<i>b</i>")})
	require.Empty(t, copies.Revisions(s, both), "it is there")
	require.Empty(t, copies.Revisions(s, append(change("blocks/b.html", "new"), change("blocks/c.html", "without")...)),
		"its copy goes too")
}
