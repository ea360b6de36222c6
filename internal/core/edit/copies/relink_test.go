package copies_test

import (
	"regexp"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"brickshelf/internal/core/block"
	"brickshelf/internal/core/edit/copies"
	"brickshelf/internal/core/edit/outline"
	"brickshelf/internal/core/edit/values"
	"brickshelf/internal/core/patch"
	"brickshelf/internal/core/shelf"
	"brickshelf/internal/core/site"
	"brickshelf/internal/core/sitetest"
)

// adjacent are values with nothing that shows between them.
var adjacent = regexp.MustCompile(`@\{=[^}]*\}(@\{[^}]*\})*@\{=|@\{each[^}]*\}(@\{[^}]*\})*@\{=[^}]*\}(@\{[^}]*\})*@\{/each`)

// A copy that shows what its block would with a value of the placement's own is linked again with
// such a value, and no byte of any page changes.
func TestWhatFitsFieldsIsKeptWhenACopyIsLinkedAgain(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		files, s, path, p := draw(t)
		b := s.Block(p.Block)
		if len(b.Fields) == 0 || adjacent.Match(b.Text.Src) {
			t.Skip("it has no values, or nothing tells where one ends and the next begins")
		}
		f := rapid.SampledFrom(b.Fields).Draw(t, "field")
		value := rapid.SampledFrom(map[block.Type][]string{
			block.Text:   {"quay", "a & b", "<b>", "50 %", `"`, "x y", ""},
			block.Switch: {"true", "false"},
			block.List:   {"[]", `[{"name":"one"}]`, `[{"name":"a & b"},{"name":"two"},{"name":"one"}]`},
		}[f.Type]).Draw(t, "value")
		set, err := values.Set(s, p.Block, []values.Edit{{Doc: path, Address: p.Address,
			Field: f.Name, Text: &value}})
		if err != nil {
			return // its pattern does not take it
		}
		with := sitetest.New(sitetest.Apply(t, files, set))
		if _, stands := placementsBut(with, path, "")[p.Address]; !stands {
			return // the call was given a key, and is another placement by that
		}
		detached := func(s *shelf.Shelf) (site.ChangeSet, string) {
			set, err := copies.Detach(s, path, p.Address)
			require.NoError(t, err)
			c, err := copies.At(s.With(set.Changes), path, p.Address)
			require.NoError(t, err)
			return set, c.Text
		}
		set, was := detached(s)
		_, text := detached(with)
		files = sitetest.Apply(t, files, set)
		if g := sitetest.New(files).Info(path).Page; g.Copies[p.Address] != nil {
			files[path], err = patch.Set(path, files[path], []string{"copies", p.Address, "text"}, text)
			require.NoError(t, err)
		} else {
			n := outline.Find(g, p.Address)
			at := g.Split.TextAt + n.Head.To
			require.Equal(t, was, string(files[path][at:at+len(was)]))
			files[path] = patch.Apply(files[path], []patch.Replacement{patch.Put(at, at+len(was), text)})
		}
		edited := sitetest.New(files)
		r, err := copies.Relink(edited, path, p.Address)
		require.NoError(t, err)
		require.Equal(t, text, r.Before)
		require.Equal(t, r.Before, r.After, "%s = %s: %+v", f.Name, value, r.Fits)
		after := sitetest.New(sitetest.Apply(t, files, r.Set))
		for _, q := range s.PagePaths() {
			require.Equal(t, given.ReplaceAllString(seen(edited, q), ""), given.ReplaceAllString(seen(after, q), ""), q)
		}
	})
}

// given is what a behaviour is given: a copy keeps what it was, whatever its text says since.
var given = regexp.MustCompile(` data-shelf-run-\w+="[^"]*"`)

func TestLinkingAgain(t *testing.T) {
	card := "---\nfields:\n  name: {type: text, label: Name}\n  phone: {type: text, default: \"1 2\"}\n" +
		"  at: {type: lines, default: \"a\\nb\"}\n  to: {type: link, default: /x/}\n  big: {type: switch}\n---\n" +
		"<h3><a href=\"@{=to}\">@{=name}</a></h3>\n<p>@{=at}</p>\n@{when big}<b>\n@{/when}" +
		"<a href=\"tel:@{=phone}\">@{=phone}</a>\n"
	hash := string(site.HashOf([]byte(card)))
	relink := func(text string) (copies.Relinked, string) {
		files := site.Files{"site.yaml": []byte("format: brickshelf/1\n"), "blocks/card.html": []byte(card),
			"pages/p.html": []byte(`@{copy of="card" base="` + hash + `" call="@{card name=\"N\" /}"}` + text +
				"@{/copy}")}
		s := sitetest.New(files)
		r, err := copies.Relink(s, "pages/p.html", "main/card~1")
		require.NoError(t, err)
		return r, string(sitetest.Apply(t, files, r.Set)["pages/p.html"])
	}
	plain := "<h3><a href=\"/x/\">N</a></h3>\n<p>a<br>\nb</p>\n<a href=\"tel:1%202\">1 2</a>\n"
	with := func(pairs ...string) string { return strings.NewReplacer(pairs...).Replace(plain) }
	for _, c := range []struct {
		text, call string
		whole      bool
		fits       []copies.Fit
	}{
		{plain, `@{card name="N" /}`, true, nil},
		{with(">N<", ">M &amp; O<"), `@{card name="M & O" /}`, true, []copies.Fit{{Field: "name", Label: "Name", Text: "M & O", Words: "M & O"}}},
		{with("1%202", "3%204", "1 2", "3 4"), `@{card name="N" phone="3 4" /}`, true,
			[]copies.Fit{{Field: "phone", Label: "phone", Text: "3 4", Words: "3 4"}}},
		{with("1 2", "3 4"), `@{card name="N" /}`, false, nil}, // its two places say two things
		{with("a<br>\nb", "c<br>\nd", "/x/", "/y/"), "", true,
			[]copies.Fit{{Field: "at", Label: "at", Text: "c\nd", Words: "c\nd"}, {Field: "to", Label: "to", Text: "/y/", Words: "/y/"}}},
		{with(">N<", ">M<") + "<p>own</p>\n", `@{card name="M" /}`, false,
			[]copies.Fit{{Field: "name", Label: "Name", Text: "M", Words: "M"}}},
		{"all its own", `@{card name="N" /}`, false, nil},
	} {
		r, text := relink(c.text)
		require.ElementsMatch(t, c.fits, r.Fits, c.text)
		require.Equal(t, c.whole, r.Before == r.After, "%s\n%s", r.Before, r.After)
		if c.call != "" {
			require.Equal(t, c.call, text)
		}
	}
}

// Values that decide what is shown are found by what is shown: in conditions, choices, loops and
// numbers, and where a call of another block takes them on.
func TestValuesThatDecideWhatIsShownAreFound(t *testing.T) {
	card := "---\nfields:\n  big: {type: switch, label: Big}\n  tone: {type: choice, choices: [calm, loud], default: calm}\n" +
		"  size: {type: number, default: 3, min: 0, max: 40}\n  note: {type: text, default: said}\n  more: {type: rich, default: ''}\n" +
		"  days: {type: list, label: Days, fields: {day: {type: text}, to: {type: link}}, default: [{day: Mon, to: /m/}]}\n---\n" +
		"<div class=\"@{=tone}\">\n@{when big}<b>\n@{else}<i>\n@{/when}<p>@{=size}</p>\n@{when note}<em>@{=note}</em>\n@{/when}" +
		"<ul>@{each days as d}<li><a href=\"@{=d.to}\">@{=d.day}</a></li>@{/each}</ul>\n<div>@{=more}</div>\n" +
		"@{badge text=(note) small=(big) /}\n@{badge text=\"fixed\" /}\n"
	badge := "---\ntitle: Badge\nfields: {text: {type: text}, small: {type: switch}}\n---\n<s>@{=text}@{when small}!@{/when}</s>"
	hash := string(site.HashOf([]byte(card)))
	plain := "<div class=\"calm\">\n<i>\n<p>3</p>\n<em>said</em>\n<ul><li><a href=\"/m/\">Mon</a></li></ul>\n" +
		"<div></div>\n@{badge text=\"said\" /}\n@{badge text=\"fixed\" /}\n"
	for _, c := range []struct {
		pairs []string
		fits  []copies.Fit
		whole bool
	}{
		{[]string{"<i>", "<b>", "said\" /", "said\" small=true /"},
			[]copies.Fit{{Field: "big", Label: "Big", Text: "true", Words: "on"}}, true},
		{[]string{"calm", "loud"}, []copies.Fit{{Field: "tone", Label: "tone", Text: "loud", Words: "loud"}}, true},
		{[]string{"<p>3", "<p>17"}, []copies.Fit{{Field: "size", Label: "size", Text: "17", Words: "17"}}, true},
		{[]string{"<em>said</em>\n", "", "text=\"said\"", "text=\"\""},
			[]copies.Fit{{Field: "note", Label: "note", Text: "", Words: "empty"}}, true},
		{[]string{"<em>said</em>", "<em>a &lt; b</em>", "\"said\"", "\"a < b\""},
			[]copies.Fit{{Field: "note", Label: "note", Text: "a < b", Words: "a < b"}}, true},
		{[]string{"</li>", `</li><li><a href="/t/">Tue</a></li><li><a href="/w/">Wed &amp; Thu</a></li>`},
			[]copies.Fit{{Field: "days", Label: "Days", Words: "3 entries: Mon, Tue, Wed & Thu",
				Text: `[{"day":"Mon","to":"/m/"},{"day":"Tue","to":"/t/"},{"day":"Wed \u0026 Thu","to":"/w/"}]`}}, true},
		{[]string{`<li><a href="/m/">Mon</a></li>`, ""},
			[]copies.Fit{{Field: "days", Label: "Days", Text: "[]", Words: "no entries"}}, true},
		{[]string{"<div></div>", "<div><p>One <b>two</b></p></div>"},
			[]copies.Fit{{Field: "more", Label: "more", Text: "<p>One <b>two</b></p>", Words: "<p>One <b>two</b></p>"}}, true},
		{[]string{"<i>", "<b>", "said\" /", "said\" small=true /", "calm", "loud", "<p>3", "<p>4", "</ul>", "</ul><hr>"},
			[]copies.Fit{{Field: "big", Label: "Big", Text: "true", Words: "on"},
				{Field: "tone", Label: "tone", Text: "loud", Words: "loud"},
				{Field: "size", Label: "size", Text: "4", Words: "4"}}, false},
		{[]string{"@{badge text=\"fixed\" /}", "@{badge small=true text=\"own\" /}"},
			[]copies.Fit{{Field: "badge~2/small", Label: "Badge, small", Text: "true", Words: "on"},
				{Field: "badge~2/text", Label: "Badge, text", Text: "own", Words: "own"}}, true},
		{[]string{"<p>3", "<p>5", "fixed", "own"}, []copies.Fit{{Field: "size", Label: "size", Text: "5", Words: "5"},
			{Field: "badge~2/text", Label: "Badge, text", Text: "own", Words: "own"}}, true},
		{[]string{"<p>3", "<p>99"}, nil, false}, // more than it may be
	} {
		text := strings.NewReplacer(c.pairs...).Replace(plain)
		files := site.Files{"site.yaml": []byte("format: brickshelf/1\n"), "blocks/card.html": []byte(card),
			"blocks/badge.html": []byte(badge),
			"pages/p.html":      []byte(`@{copy of="card" base="` + hash + `" call="@{card /}"}` + text + "@{/copy}")}
		s := sitetest.New(files)
		r, err := copies.Relink(s, "pages/p.html", "main/card~1")
		require.NoError(t, err)
		require.ElementsMatch(t, c.fits, r.Fits, text)
		require.Equal(t, c.whole, r.Before == r.After, "%s\n%s", r.Before, r.After)
		if c.whole {
			require.Equal(t, sitetest.HTML(s, "pages/p.html"), sitetest.HTML(sitetest.New(sitetest.Apply(t, files, r.Set)), "pages/p.html"))
		}
	}
}
