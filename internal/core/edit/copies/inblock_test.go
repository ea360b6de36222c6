package copies_test

import (
	"testing"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"brickshelf/internal/core/check"
	"brickshelf/internal/core/edit/copies"
	"brickshelf/internal/core/patch"
	"brickshelf/internal/core/render"
	"brickshelf/internal/core/site"
	"brickshelf/internal/core/sitetest"
)

// A call in a block is detached there for all pages, where it shows the same on all of them: none
// changes, the copy stands unchanged, falls behind with its block, and is linked again.
func TestACallInABlockIsDetachedThere(t *testing.T) {
	done, inMenus := 0, 0
	rapid.Check(t, func(t *rapid.T) {
		files := sitetest.Site(t)
		s := sitetest.New(files)
		var spots []copies.Spot
		for _, path := range s.PagePaths() {
			for _, p := range render.Placements(s, path) {
				if class, _, _ := site.Classify(p.Via); p.Kind == render.Linked && (class == site.BlockDoc ||
					class == site.MenuDoc) && s.Block(p.Block) != nil {
					spots = append(spots, copies.Spot{Doc: path, Address: p.Address})
				}
			}
		}
		if len(spots) == 0 || len(check.Validity(s)) > 0 {
			t.Skip("no block calls another")
		}
		spot := rapid.SampledFrom(spots).Draw(t, "spot")
		set, err := copies.DetachInBlock(s, spot)
		if err != nil {
			return
		}
		done++
		files = sitetest.Apply(t, files, set)
		is := sitetest.New(files)
		require.Empty(t, check.Validity(is), "%s", set.Changes[0].After)
		for _, path := range s.PagePaths() {
			require.Equal(t, seen(s, path), seen(is, path), "%s", set.Changes[0].After)
		}
		c, err := copies.At(is, spot.Doc, spot.Address)
		require.NoError(t, err)
		require.Equal(t, set.Changes[0].Path, c.Holder)
		require.Contains(t, []copies.Standing{copies.Unchanged, copies.Unknown}, c.Standing, "%+v", c)
		back, err := copies.Relink(is, spot.Doc, spot.Address)
		require.NoError(t, err)
		was, _ := s.Get(c.Holder)
		if class, _, _ := site.Classify(c.Holder); class == site.MenuDoc {
			before, err := patch.MenuItems(was)
			require.NoError(t, err)
			after, err := patch.MenuItems(back.Set.Changes[0].After)
			require.NoError(t, err)
			for i := range before { // an item tells as what it was read
				require.Equal(t, before[i].Panel, after[i].Panel)
			}
			inMenus++
			return
		}
		require.Equal(t, textOf(t, was), textOf(t, back.Set.Changes[0].After))
	})
	require.Positive(t, done, "none could be")
	t.Log(inMenus, "of", done, "in menus")
}

func textOf(t require.TestingT, src []byte) string {
	split, bad := site.Cut(src)
	require.Empty(t, bad)
	return string(split.Text)
}

func TestCopiesInBlocksStandAsOthersDo(t *testing.T) {
	files := site.Files{
		"site.yaml":     []byte("format: brickshelf/1\n"),
		"blocks/a.html": []byte("---\nfields: {n: {type: text, default: one}}\n---\n<b>@{=n}</b>\n<i>x</i>\n"),
		"blocks/w.html": []byte("---\nfields: {m: {type: text, default: q}}\n---\n<p>@{a n=\"two\" /}</p>@{a n=(m) /}"),
		"pages/p.html":  []byte("@{w /}"), "pages/q.html": []byte("@{w m=\"z\" /}"),
	}
	s := sitetest.New(files)
	_, err := copies.DetachInBlock(s, copies.Spot{Doc: "pages/p.html", Address: "main/w~1/a~2"})
	require.ErrorContains(t, err, "a shows values of the page")
	_, err = copies.DetachInBlock(s, copies.Spot{Doc: "pages/p.html", Address: "main/w~1"})
	require.ErrorContains(t, err, "stands neither in a block nor in a menu")
	_, err = copies.DetachInBlock(s, copies.Spot{Doc: "pages/none.html", Address: "main/w~1"})
	require.ErrorContains(t, err, "there is no page")
	spot := copies.Spot{Doc: "pages/q.html", Address: "main/w~1/a~1"}
	set, err := copies.DetachInBlock(s, spot)
	require.NoError(t, err)
	require.Equal(t, "Detach a in w", set.Title)
	files = sitetest.Apply(t, files, set)
	all := copies.All(sitetest.New(files))
	require.Len(t, all, 1, "once, however many pages show it")
	require.Equal(t, "/p/ main/w~1/a~1 unchanged blocks/w.html", all[0].URL+" "+all[0].Address+" "+
		string(all[0].Standing)+" "+all[0].Holder)

	files["blocks/a.html"] = []byte("---\nfields: {n: {type: text, default: one}}\n---\n<b>@{=n}</b>\n<i>y</i>\n")
	behind := sitetest.New(files)
	set, left, err := copies.Update(behind, []copies.Wanted{{Spot: spot}})
	require.NoError(t, err)
	require.Empty(t, left)
	is := sitetest.New(sitetest.Apply(t, files, set))
	require.Contains(t, sitetest.Source(is, "blocks/w.html"), "<b>two</b>\n<i>y</i>\n@{/copy}</p>")
	c, err := copies.At(is, spot.Doc, spot.Address)
	require.NoError(t, err)
	require.Equal(t, copies.Unchanged, c.Standing)
	set, linked, err := copies.LinkAll(is, []copies.Spot{spot}, copies.Goes)
	require.NoError(t, err)
	require.Equal(t, "Link a again in w", set.Title)
	require.Empty(t, linked[0].Lost)
	require.Equal(t, "<p>@{a n=\"two\" /}</p>@{a n=(m) /}", textOf(t, set.Changes[0].After))

	files["blocks/w.html"] = []byte("---\nfields: {m: {type: text, default: q}}\n---\n@{copy of=\"a\" base=\"x\"}<b>@{=m}</b>@{/copy}")
	all = copies.All(sitetest.New(files))
	require.Equal(t, copies.Unknown, all[0].Standing)
	require.Contains(t, all[0].Why, "shows values of the block")
}
