package copies_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"brickshelf/internal/core/check"
	"brickshelf/internal/core/edit/copies"
	"brickshelf/internal/core/site"
	"brickshelf/internal/core/sitetest"
)

func TestPiecesThatLookLikeABlock(t *testing.T) {
	files := site.Files{
		"site.yaml":     []byte("format: brickshelf/1\n"),
		"blocks/a.html": []byte("---\nfields: {name: {type: text, label: Name, default: N}, to: {type: link, default: /x/}}\n---\n<div class=\"card\">\n  <h3><a href=\"@{=to}\">@{=name}</a></h3>\n  <p>Ask at the office</p>\n</div>"),
		"pages/p.html":  []byte("---\ntitle: P\n---\n<p>before</p>\n<div class=\"card\">\n  <h3><a href=\"/y/\">Tom</a></h3>\n  <p>Ask at the office</p>\n</div>\n<p>behind</p>@{a /}"),
		"pages/q.html":  []byte("<div class=\"card\">\n  <h3><a href=\"/y/\">Ann</a></h3>\n  <p>Ask at the office</p>\n  <p>own</p>\n</div><div class=\"card\">\n  <p>Ask at the office</p>\n other\n words\n here\n and\n there</div>"),
		"pages/r.html":  []byte("<div class=\"card\">Ask</div>@{a}<div class=\"card\">\n  <h3><a href=\"/y/\">Tom</a></h3>\n  <p>Ask at the office</p>\n</div>@{/a}"),
	}
	s := sitetest.New(files)
	all, err := copies.Alike(s, "a")
	require.NoError(t, err)
	require.Len(t, all, 2)
	require.Equal(t, "/p/", all[0].URL)
	require.Empty(t, all[0].Lost)
	require.Equal(t, all[0].Text, all[0].Linked)
	require.Equal(t, []copies.Fit{{Field: "name", Label: "Name", Text: "Tom", Words: "Tom"},
		{Field: "to", Label: "to", Text: "/y/", Words: "/y/"}}, all[0].Fits)
	require.Equal(t, []string{"  <p>own</p>"}, all[1].Lost)

	var places []copies.Place
	for _, l := range all {
		places = append(places, copies.Place{Doc: l.Doc, From: l.From, To: l.To})
	}
	set, linked, err := copies.Adopt(s, "a", places[:1], true)
	require.NoError(t, err)
	require.Equal(t, "Link a piece to a", set.Title)
	require.Empty(t, linked[0].Lost)
	is := sitetest.New(sitetest.Apply(t, files, set))
	require.Equal(t, sitetest.HTML(s, "pages/p.html"), sitetest.HTML(is, "pages/p.html"))
	require.Contains(t, sitetest.Source(is, "pages/p.html"), `<p>before</p>`+"\n"+`@{a name="Tom" to="/y/" /}`+"\n<p>behind")

	set, _, err = copies.Adopt(s, "a", places, false)
	require.NoError(t, err)
	require.Equal(t, "Declare 2 copies of a", set.Title)
	is = sitetest.New(sitetest.Apply(t, files, set))
	for _, path := range s.PagePaths() {
		require.Equal(t, sitetest.HTML(s, path), sitetest.HTML(is, path))
	}
	for _, c := range copies.All(is) {
		require.Equal(t, copies.Edited, c.Standing, c.Page)
	}
	require.Len(t, copies.All(is), 2)
	all, err = copies.Alike(is, "a")
	require.NoError(t, err)
	require.Empty(t, all, "they are copies now")

	_, linked, err = copies.Adopt(s, "a", places, true)
	require.NoError(t, err)
	require.Equal(t, "/q/", linked[0].URL)
	require.Equal(t, []string{"  <p>own</p>"}, linked[0].Lost)
	_, _, err = copies.Adopt(is, "a", places, true)
	require.ErrorContains(t, err, "has changed meanwhile")
	_, _, err = copies.Adopt(s, "a", []copies.Place{{Doc: "pages/none.html"}}, true)
	require.ErrorContains(t, err, "there is no page")
	_, err = copies.Alike(s, "none")
	require.ErrorContains(t, err, "there is no block")
}

// What is too little to be looked for is looked for nowhere.
func TestBlocksOfFewWordsAreLikeNothing(t *testing.T) {
	for _, text := range []string{"<p>@{=inner}</p>", "words alone", "<b>x</b>", ""} {
		s := sitetest.New(site.Files{"site.yaml": []byte("format: brickshelf/1\n"), "blocks/a.html": []byte(text),
			"pages/p.html": []byte("<p>x</p><b>x</b>words alone")})
		all, err := copies.Alike(s, "a")
		require.NoError(t, err)
		require.Empty(t, all, text)
	}
}

// Pieces of other blocks are found, too, and become calls in their text, but for where that
// would be a circle.
func TestPiecesOfBlocksAreFound(t *testing.T) {
	piece := func(name string) string {
		return "<div class=\"card\">\n  <h3>" + name + "</h3>\n  <p>Ask at the office</p>\n</div>"
	}
	files := site.Files{
		"site.yaml":        []byte("format: brickshelf/1\n"),
		"blocks/a.html":    []byte("---\nfields: {name: {type: text, default: N}}\n---\n" + piece("@{=name}") + "@{part /}"),
		"blocks/part.html": []byte(piece("Sub")),
		"blocks/list.html": []byte("<ul>" + piece("Ann &amp; Bob") + "</ul>@{a /}@{a name=z /}<i>" + piece("Cy") + "</i>"),
		"blocks/tile.html": []byte("<i>" + piece("Di") + "</i>"),
		"pages/p.html":     []byte("---\noverrides: {main/list~1/a~1: {name: own}}\n---\n@{list /}@{tile /}"),
		"pages/q.html":     []byte("---\noverrides: {main/a~1: {name: own}}\n---\n" + piece("Eve") + "@{part /}\n@{a /}"),
	}
	// The block is its card and its part: the piece alone lacks that, and is told with it.
	files["blocks/a.html"] = []byte(strings.TrimSuffix(string(files["blocks/a.html"]), "@{part /}"))
	s := sitetest.New(files)
	all, err := copies.Alike(s, "a")
	require.NoError(t, err)
	var found []string
	var places []copies.Place
	for _, l := range all {
		require.Empty(t, l.Lost)
		require.Len(t, l.Fits, 1)
		found = append(found, l.Doc+" "+l.URL+" "+l.Fits[0].Text)
		places = append(places, copies.Place{Doc: l.Doc, From: l.From, To: l.To})
	}
	require.Equal(t, []string{"blocks/list.html  Ann & Bob", "blocks/list.html  Cy", "blocks/part.html  Sub",
		"blocks/tile.html  Di", "pages/q.html /q/ Eve"}, found)
	for _, link := range []bool{true, false} {
		set, linked, err := copies.Adopt(s, "a", places, link)
		require.NoError(t, err)
		require.Len(t, linked, map[bool]int{true: 5}[link])
		after := sitetest.Apply(t, files, set)
		is := sitetest.New(after)
		require.Empty(t, check.Validity(is))
		for _, path := range s.PagePaths() {
			require.Equal(t, sitetest.HTML(s, path), sitetest.HTML(is, path), "%s\n%s", path, after[path])
		}
		if link {
			require.Equal(t, `<ul>@{a key="a-1" name="Ann & Bob" /}</ul>@{a key="a~1" /}@{a key="a~2" name=z /}<i>@{a key="a~3" name="Cy" /}</i>`,
				string(after["blocks/list.html"]))
			require.Contains(t, string(after["pages/q.html"]), `@{a key="a-1" name="Eve" /}@{part /}`)
		} else {
			require.Len(t, copies.All(is), 5)
		}
	}

	files["blocks/a.html"] = append(files["blocks/a.html"], "@{part /}"...)
	s = sitetest.New(files)
	all, err = copies.Alike(s, "a")
	require.NoError(t, err)
	for _, l := range all {
		require.NotEqual(t, "blocks/part.html", l.Doc, "the block shows it")
	}
	_, _, err = copies.Adopt(s, "a", []copies.Place{{Doc: "blocks/part.html", From: 0, To: len(piece("Sub"))}}, true)
	require.ErrorContains(t, err, "a shows part, which cannot show it too")
	_, _, err = copies.Adopt(s, "a", []copies.Place{{Doc: "rules/r.yaml", From: 0, To: 1}}, true)
	require.ErrorContains(t, err, "there is no page or block rules/r.yaml")
}
