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

// What fits no field becomes one, of which the copy keeps its own value; other pages stay.
func TestWhatFitsNoFieldBecomesOne(t *testing.T) {
	card := "---\nfields:\n  name: {type: text}\n  xs: {type: list, fields: {n: {type: text}}, default: [{n: a}, {n: b}]}\n---\n<h3>@{=name}</h3>\n<p>Open all day</p>\n@{each xs as p}<i>x</i>\n@{/each}" +
		"<p>@{=name} is near</p>\n"
	hash := string(site.HashOf([]byte(card)))
	for _, c := range []struct {
		text, block, call string
		made              []string
		lost              []string
	}{
		{"<h3>N</h3>\n<p>Open at noon</p>\n<i>x</i>\n<i>x</i>\n<p>N is near</p>\n",
			"---\nfields:\n  name: {type: text}\n  xs: {type: list, fields: {n: {type: text}}, default: [{n: a}, {n: b}]}\n  text: {type: text, default: all day}\n---\n<h3>@{=name}</h3>\n<p>Open @{=text}</p>\n",
			`@{card name="N" text="at noon" /}`, []string{"text"}, nil},
		{"<h3>N</h3>\n<p>Open all day</p>\n<p class=\"small\">But &amp; not\nwhen it rains</p>\n<i>x</i>\n<i>x</i>\n<p>N is near</p>\n",
			"---\nfields:\n  name: {type: text}\n  xs: {type: list, fields: {n: {type: text}}, default: [{n: a}, {n: b}]}\n  part: {type: switch, label: But not when it rains}\n---\n<h3>@{=name}</h3>\n<p>Open all day</p>\n" +
				"@{when part}<p class=\"small\">But &amp; not\nwhen it rains</p>\n@{/when}@{each",
			`@{card name="N" part=true /}`, []string{"part"}, nil},
		{"<h3>M</h3>\n<b>Open <a href=/x/>now</a></b>\n<i>x</i>\n<i>x</i>\n<p>M is far</p>\n",
			"---\nfields:\n  name: {type: text}\n  xs: {type: list, fields: {n: {type: text}}, default: [{n: a}, {n: b}]}\n  text: {type: text, default: near}\n  part: {type: switch, label: Open now}\n---\n<h3>@{=name}</h3>\n" +
				"@{when part}<b>Open <a href=/x/>now</a></b>\n@{else}<p>Open all day</p>\n@{/when}@{each",
			`@{card name="M" part=true text="far" /}`, []string{"part", "text"}, nil},
		{"<h3>N</h3>\n<p>Open all day</p>\n<i>x</i>\n<i>y</i>\n<p>N is near</p>\n", "<i>x</i>", `@{card name="N" /}`, nil,
			[]string{"<i>y</i>"}}, // in a loop it would be there each time
		{"<h3>N</h3>\n<p>Open all day</p>\n@{inner}own@{/inner}\n<i>x</i>\n<i>x</i>\n<p>N is near</p>\n", "<p>Open all day</p>\n@{each",
			`@{card name="N" /}`, nil, []string{"@{inner}own@{/inner}"}}, // the block has no such content
	} {
		files := site.Files{"site.yaml": []byte("format: brickshelf/1\n"), "blocks/card.html": []byte(card),
			"pages/q.html": []byte(`@{card name="Q" /}`),
			"pages/p.html": []byte(`@{copy of="card" base="` + hash + `" call="@{card name=\"N\" /}"}` + c.text + "@{/copy}")}
		s := sitetest.New(files)
		require.Contains(t, sitetest.HTML(s, "pages/q.html"), "<i>x</i>\n<i>x</i>")
		spots := []copies.Spot{{Doc: "pages/p.html", Address: "main/card~1"}}
		set, linked, err := copies.LinkAll(s, spots, copies.Fields)
		require.NoError(t, err)
		after := sitetest.Apply(t, files, set)
		is := sitetest.New(after)
		require.Empty(t, check.Validity(is))
		require.Equal(t, c.made, linked[0].Made, c.text)
		require.Equal(t, c.lost, linked[0].Lost, c.text)
		require.Contains(t, string(after["blocks/card.html"]), c.block)
		require.Equal(t, c.call, string(after["pages/p.html"]))
		require.Equal(t, sitetest.HTML(s, "pages/q.html"), sitetest.HTML(is, "pages/q.html"))
		if c.lost == nil {
			require.Equal(t, sitetest.HTML(s, "pages/p.html"), sitetest.HTML(is, "pages/p.html"))
		}
	}
}

// What the block has become since is no edit of the copy, and is not kept.
func TestWhatTheBlockHasBecomeIsNoFieldOfACopy(t *testing.T) {
	was, is := "<h3>Port</h3>\n<p>Open</p>\n<b>till</b>\n<p>night</p>\n", "<h3>Port</h3>\n<p class=\"hours\">Open</p>\n<b>till</b>\n<p>night</p>\n"
	hash := string(site.HashOf([]byte(was)))
	for own, want := range map[string]string{
		"<h3>Port</h3>\n<p>Open</p>\n<b>till</b>\n<p>night</p>\n<i>own</i>\n": "<p>night</p>\n@{when part}<i>own</i>\n@{/when}",
		"<h3>Port</h3>\n<p>Open</p>\n<p>night</p>\n":                          "@{when part}@{else}<b>till</b>\n@{/when}<p>night</p>\n",
	} {
		files := site.Files{"site.yaml": []byte("format: brickshelf/1\n"), "blocks/port.html": []byte(is), "history/" + hash: []byte(was),
			"pages/p.html": []byte(`@{copy of="port" base="` + hash + `"}` + own + "@{/copy}")}
		set, linked, err := copies.LinkAll(sitetest.New(files), []copies.Spot{{Doc: "pages/p.html", Address: "main/port~1"}}, copies.Fields)
		require.NoError(t, err)
		require.Equal(t, []string{"part"}, linked[0].Made)
		require.Empty(t, linked[0].Lost)
		after := sitetest.Apply(t, files, set)
		require.Contains(t, string(after["blocks/port.html"]), "\n<p class=\"hours\">Open</p>\n")
		require.Contains(t, string(after["blocks/port.html"]), want)
		require.Equal(t, "@{port part=true /}", string(after["pages/p.html"]))
	}
}

// On drawn sites, whatever is made a field changes no other page, and loses no more than linking
// alone does.
func TestFieldsThatAreMadeChangeNoOtherPage(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		files, s, path, p := draw(t)
		set, err := copies.Detach(s, path, p.Address)
		require.NoError(t, err)
		files = sitetest.Apply(t, files, set)
		files[path] = edited(t, sitetest.New(files), path, p.Address)
		s = sitetest.New(files)
		spots := []copies.Spot{{Doc: path, Address: p.Address}}
		_, plain, err := copies.LinkAll(s, spots, copies.Goes)
		require.NoError(t, err)
		set, linked, err := copies.LinkAll(s, spots, copies.Fields)
		require.NoError(t, err)
		require.LessOrEqual(t, len(linked[0].Lost), len(plain[0].Lost))
		is := sitetest.New(sitetest.Apply(t, files, set))
		require.Empty(t, check.Validity(is))
		for _, q := range s.PagePaths() {
			if q != path {
				require.Equal(t, seen(s, q), seen(is, q), "%s\n%+v", q, linked)
			}
		}
	})
}

// Of several copies each keeps what is its own, also where linking one before it changes a page.
func TestFieldsAreMadeForSeveralCopiesAtOnce(t *testing.T) {
	was, is := "<h3>Port</h3>\n<p>Open</p>\n<b>till</b>\n", "<h3>Port</h3>\n<p>Open today</p>\n<b>till</b>\n"
	hash := string(site.HashOf([]byte(was)))
	page := func(own string) []byte {
		return []byte(`@{copy of="port" base="` + hash + `"}` + was + own + "@{/copy}")
	}
	files := site.Files{"site.yaml": []byte("format: brickshelf/1\n"), "blocks/port.html": []byte(is),
		"history/" + hash: []byte(was), "pages/p.html": page("<i>one</i>\n"), "pages/q.html": page("<i>two</i>\n")}
	set, linked, err := copies.LinkAll(sitetest.New(files), []copies.Spot{{Doc: "pages/p.html", Address: "main/port~1"},
		{Doc: "pages/q.html", Address: "main/port~1"}}, copies.Fields)
	require.NoError(t, err)
	for _, l := range linked {
		require.Empty(t, l.Lost, l.URL)
		require.Len(t, l.Made, 1, l.URL)
	}
	after := sitetest.New(sitetest.Apply(t, files, set))
	require.Empty(t, check.Validity(after))
	require.Equal(t, is+"<i>one</i>\n", sitetest.HTML(after, "pages/p.html"))
	require.Equal(t, is+"<i>two</i>\n", sitetest.HTML(after, "pages/q.html"))
}
