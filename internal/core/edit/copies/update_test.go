package copies_test

import (
	"testing"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"brickshelf/internal/core/check"
	"brickshelf/internal/core/edit/copies"
	"brickshelf/internal/core/site"
	"brickshelf/internal/core/sitetest"
)

// A copy that nobody edited becomes, on every page, what its block shows there today, and
// stands there unchanged from then on; one that was edited keeps what was written in it.
func TestACopyIsBroughtUpToItsBlock(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		files, s, path, p := draw(t)
		set, err := copies.Detach(s, path, p.Address)
		require.NoError(t, err)
		files = sitetest.Apply(t, files, set)
		doc := "blocks/" + p.Block + ".html"
		at := func() copies.Copy {
			c, err := copies.At(sitetest.New(files), path, p.Address)
			require.NoError(t, err)
			return c
		}
		own := rapid.Bool().Draw(t, "edited on the page")
		if own {
			files[path] = edited(t, sitetest.New(files), path, p.Address)
		}
		textAt := s.Block(p.Block).Split.TextAt
		files[doc] = []byte(string(files[doc][:textAt]) + "new in front of it\n" +
			string(files[doc][textAt:]))
		if rapid.Bool().Draw(t, "a new style") {
			files["blocks/"+p.Block+".css"] = []byte("b{color:red}")
		}
		was := at()
		require.Contains(t, []copies.Standing{copies.Behind, copies.Both}, was.Standing)
		pieces, seen, err := copies.Merged(sitetest.New(files), path, p.Address)
		require.NoError(t, err)
		want := copies.Wanted{Spot: copies.Spot{Doc: path, Address: p.Address}, Seen: seen}
		for _, piece := range pieces {
			if piece.Conflict { // as where both wrote into an empty text
				want.Choices = append(want.Choices, copies.Choice{Take: copies.OfBoth})
			}
		}
		set, left, err := copies.Update(sitetest.New(files), []copies.Wanted{want})
		require.NoError(t, err)
		require.Empty(t, left)
		sh := sitetest.New(files)
		o := sh.With(set.Changes)
		for _, q := range sh.PagePaths() {
			if q != path {
				require.Equal(t, sitetest.HTML(sh, q), sitetest.HTML(o, q), q)
			}
		}
		files = sitetest.Apply(t, files, set)
		require.Empty(t, check.Validity(sitetest.New(files)), "%s", files[path])
		is := at()
		require.Equal(t, string(files[doc]), string(files["history/"+string(site.HashOf(files[doc]))]))
		if own {
			require.Equal(t, copies.Edited, is.Standing)
			require.Contains(t, is.Text, " more")
			require.Contains(t, is.Text, "new in front of it")
			return
		}
		require.Equal(t, copies.Unchanged, is.Standing)
		require.Equal(t, was.Now, is.Text)
	})
}

// three is a site of three copies: one behind, one in conflict, one of unknown origin.
func three() site.Files {
	base := "<b>at nine</b>\n<i>x</i>\n"
	hash := string(site.HashOf([]byte(base)))
	return site.Files{
		"site.yaml":       []byte("format: brickshelf/1\n"),
		"blocks/a.html":   []byte("<b>at ten</b>\n<i>x</i>\n"),
		"blocks/a.css":    []byte("b{}"),
		"history/" + hash: []byte(base),
		"pages/p.html": []byte(`@{copy of="a" base="` + hash + `" key="k" call="@{a key=\"k\" /}"}` + base +
			`@{/copy} and ` +
			`@{copy of="a" base="` + hash + `"}<b>at eight</b>` + "\n<i>y</i>\n" + `@{/copy}`),
		"pages/q.html": []byte(`@{copy of="a" base="zero"}<b>own</b>@{/copy}`),
	}
}

func TestManyAreBroughtUpAtOnceAndConflictsAreLeft(t *testing.T) {
	files := three()
	s := sitetest.New(files)
	want := func(doc, address string, choices ...copies.Choice) copies.Wanted {
		return copies.Wanted{Spot: copies.Spot{Doc: doc, Address: address}, Choices: choices}
	}
	all := []copies.Wanted{want("pages/p.html", "main/k"), want("pages/p.html", "main/a~2"),
		want("pages/q.html", "main/a~1")}
	set, left, err := copies.Update(s, all)
	require.NoError(t, err)
	require.Equal(t, "Bring a copy up to a", set.Title)
	require.Len(t, left, 2)
	require.Equal(t, 1, left[0].Conflicts)
	require.Equal(t, "/p/", left[0].URL)
	require.Contains(t, left[1].Why, "is not in history")
	now := sitetest.Apply(t, files, set)
	text := string(now["pages/p.html"])
	hash, style := string(site.HashOf(files["blocks/a.html"])), string(site.HashOf(files["blocks/a.css"]))
	require.Contains(t, text, `@{copy of="a" base="`+hash+`" style="`+style+
		`" key="k" call="@{a key=\"k\" /}"}`+
		"<b>at ten</b>\n<i>x</i>\n@{/copy} and @{copy")
	require.Contains(t, text, "<b>at eight</b>\n<i>y</i>\n@{/copy}")
	require.Equal(t, "b{}", string(now["history/"+style]))

	for take, is := range map[copies.Side]string{copies.OfCopy: "eight", copies.OfBlock: "ten",
		copies.OfBoth: "eightten", copies.OwnWords: "noon"} {
		all[1].Choices = []copies.Choice{{Take: take, Text: "noon"}}
		set, left, err = copies.Update(s, all)
		require.NoError(t, err)
		require.Equal(t, "Bring 2 copies up to a", set.Title)
		require.Len(t, left, 1)
		require.Contains(t, string(sitetest.Apply(t, files, set)["pages/p.html"]), "<b>at "+is+
			"</b>\n<i>y</i>\n@{/copy}")
	}
	all[1].Choices = []copies.Choice{{Take: "neither"}}
	_, _, err = copies.Update(s, all)
	require.ErrorContains(t, err, `"neither" is no way`)
}

// What was decided of a conflict is not done to another one.
func TestWhatWasDecidedIsHeldToWhatWasSeen(t *testing.T) {
	files := three()
	_, seen, err := copies.Merged(sitetest.New(files), "pages/p.html", "main/a~2")
	require.NoError(t, err)
	list := []copies.Wanted{{Spot: copies.Spot{Doc: "pages/p.html", Address: "main/a~2"}, Seen: seen,
		Choices: []copies.Choice{{Take: copies.OfBlock}}}}
	_, _, err = copies.Update(sitetest.New(files), list)
	require.NoError(t, err)
	files["blocks/a.html"] = []byte("<b>at eleven</b>\n<i>x</i>\n")
	_, _, err = copies.Update(sitetest.New(files), list)
	require.ErrorContains(t, err, "has changed since")
}

func TestWhatCannotBeBroughtUp(t *testing.T) {
	files := three()
	one := func(doc, address string) error {
		_, _, err := copies.Update(sitetest.New(files),
			[]copies.Wanted{{Spot: copies.Spot{Doc: doc, Address: address}}})
		return err
	}
	require.ErrorContains(t, one("pages/q.html", "main/a~1"), "is not in history")
	require.ErrorContains(t, one("pages/q.html", "main/a~2"), "there is no copy")
	delete(files, "blocks/a.html")
	require.ErrorContains(t, one("pages/p.html", "main/k"), "is not on the shelf any more")
}
