package placing_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"brickshelf/internal/core/check"
	"brickshelf/internal/core/edit/placing"
	"brickshelf/internal/core/site"
	"brickshelf/internal/core/sitetest"
)

func TestWhatARulePlacesStandsInTheTextOfOnePageInstead(t *testing.T) {
	f := site.Files{"site.yaml": []byte("format: brickshelf/1\n"),
		"blocks/ask.html": []byte("---\nfields: {word: {type: text, default: d}, wide: {type: switch}, rows: {type: list, fields: {a: {type: text}}}}\n---\n" +
			"<i>@{=word}@{when wide}!@{/when}@{each rows as r}@{=r.a}@{/each}@{inn /}</i>"),
		"blocks/inn.html": []byte("---\nfields: {x: {type: text, default: o}}\n---\n@{=x}"),
		"layouts/l.html":  []byte("---\nregions: {main: {mode: stack}, corner: {mode: stack}}\n---\n@{region main /}|@{region corner /}"),
		"rules/ask.yaml":  []byte("block: ask\nregion: corner\non: [all]\nset: {word: 'say \"so\"', wide: true, rows: [{a: <}]}\n"),
		"pages/a.html":    []byte("---\nlayout: l\noverrides: {\"corner/rule:ask\": {wide: false}, \"corner/rule:ask/inn~1\": {x: mine}}\n---\n<p>a</p>\n@{ask word=first /}\n"),
		"pages/b.html":    []byte("---\nlayout: l\nhidden: [\"corner/rule:ask\"]\n---\n")}
	s := sitetest.New(f)
	before := sitetest.HTML(s, "pages/a.html")
	require.Contains(t, before, "|<i>say &#34;so&#34;&lt;mine</i>")

	src, _ := s.Get("pages/a.html")
	text, at, err := placing.Own(s, "pages/a.html", src, "corner/rule:ask", "main", 1)
	require.NoError(t, err)
	require.True(t, strings.HasPrefix(string(text[at:]), "@{ask word=\"say"), "%s", text[at:])
	f["pages/a.html"] = text
	is := sitetest.New(f)
	require.Empty(t, check.Validity(is))
	require.Equal(t, "<p>a</p>\n<i>say &#34;so&#34;&lt;mine</i>\n<i>firsto</i>\n|", sitetest.HTML(is, "pages/a.html"))

	src, _ = s.Get("pages/b.html")
	_, _, err = placing.Own(s, "pages/b.html", src, "corner/rule:ask", "main", -1)
	require.ErrorContains(t, err, "show or link it first")
	for _, address := range []string{"corner/rule:other", "main/ask~1"} {
		_, _, err = placing.Own(s, "pages/a.html", src, address, "main", -1)
		require.ErrorContains(t, err, "no rule puts something at")
	}
}
