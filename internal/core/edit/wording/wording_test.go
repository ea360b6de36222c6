package wording_test

import (
	"context"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"brickshelf/internal/core/edit/wording"
	"brickshelf/internal/core/site"
	"brickshelf/internal/core/sitetest"
)

const layout = "---\nregions: {main: {mode: stack}}\n---\n<html><body>@{region main /}</body></html>"

func siteOf(path, text string) site.Files {
	return site.Files{"site.yaml": []byte("format: brickshelf/1\nname: A site\n"),
		"layouts/l.html": []byte(layout), path: []byte(text)}
}

func TestReplacing(t *testing.T) {
	page := func(text string) [2]string { return [2]string{"pages/p.html", text} }
	plain := func(text string) wording.Query { return wording.Query{Text: text} }
	for _, c := range []struct {
		what       string
		doc        [2]string
		q          wording.Query
		with, then string
	}{
		{"a text", page("<p>Ticket desk</p>"), plain("ticket desk"), "Office", "<p>Office</p>"},
		{"a text over lines and hard spaces", page("<p>Ticket\n   desk, ticket&nbsp;desk</p>"),
			plain("ticket desk"), "Office", "<p>Office, Office</p>"},
		{"a text with a reference in it", page("<p>Tom &amp; Ann &lt;b&gt;</p>"), plain("Tom & Ann"), "A < B",
			"<p>A &lt; B &lt;b&gt;</p>"},
		{"half of a character by its name", page("<p>&NotEqualTilde;</p>"), plain("\u0338"), "x", ""},
		{"no tag, no name of an attribute", page("<p class=\"p\">p</p>"), plain("p"), "q",
			"<p class=\"q\">q</p>"},
		{"an attribute", page("<img alt='The pier' src=/pier.png>"), plain("pier"), "Jack's quay",
			"<img alt='The Jack&#39;s quay' src=\"/Jack's quay.png\">"},
		{"an attribute beside a value", page("<a href=/x/@{=page.title}/x title=\"@{=page.title} x\">"),
			plain("x"), "y z", "<a href=\"/y z/@{=page.title}/y z\" title=\"@{=page.title} y z\">"},
		{"an attribute without quotes that needs none", page("<a href=one>"), plain("one"), "two",
			"<a href=two>"},
		{"neither comment nor script nor style",
			page("<!-- x --><script>x</script><style>x</style>@{# x }x<!doctype x>"), plain("x"), "y",
			"<!-- x --><script>x</script><style>x</style>@{# x }y<!doctype x>"},
		{"no tag of the language comes about", page("<p>x{=page.title} x</p>"), plain("x"), "@",
			"<p>&#64;{=page.title} @</p>"},
		{"nor out of what is typed", page("<p>x</p>"), plain("x"), "@{x /}", "<p>@@{x /}</p>"},
		{"around a tag of the language", page("one@{=page.title}one@@{one"), plain("one"), "two",
			"two@{=page.title}two@@{two"},
		{"what reads as a tag", page("a @@{b} c"), plain("a @{b}"), "x", "x c"},
		{"arguments", page(`@{b word="say one" other='one "1"' n=12 list=["one", {"one": "x one"}] key="one" /}`),
			plain("one"), "t'o", `@{b word="say t'o" other="t'o \"1\"" n=12 list=["t'o", {"one": "x t'o"}] key="one" /}`},
		{"texts of a list as they are spelled", page("@{b list=[{\"a\": `x&nbsp;one`, \"b\": `<i>one</i>`, \"c\": `two`}] /}"),
			plain("one"), "t & o",
			"@{b list=[{\"a\": \"x\u00a0t & o\", \"b\": `<i>t & o</i>`, \"c\": `two`}] /}"},
		{"a number", page(`@{b n=12 /}12`), plain("12"), "15", `@{b n=15 /}15`},
		{"a number that becomes a text", page(`@{b n=12 /}`), plain("12"), "a", `@{b n="a" /}`},
		{"an argument with no quotes", page(`@{b word=one /}`), plain("one"), "t o", `@{b word="t o" /}`},
		{"no expression", page(`@{b word=(page.title or "one") /}@{when page.x is "one"}@{/when}one`),
			plain("one"), "two",
			`@{b word=(page.title or "one") /}@{when page.x is "one"}@{/when}two`},
		{"enclosed text, and what stands behind else",
			page(`@{b}one@{/b}@{when page.x}one@{else}one@{/when}`), plain("one"), "two",
			`@{b}two@{/b}@{when page.x}two@{else}two@{/when}`},
		{"front matter", page("---\ntitle: 'It''s one' # one\nlayout: one\noverrides:\n  main/one~1: {a: one}\n---\n"),
			plain("one"), "t'o", "---\ntitle: 'It''s t''o' # one\nlayout: one\noverrides:\n  main/one~1: {a: \"t'o\"}\n---\n"},
		{"a copy", page("---\ncopies:\n  main/rule:r:\n    of: b\n    text: |-\n      <p class=\"b\">b &amp; c</p>\n---\n"),
			plain("b & c"), "<b>", "---\ncopies:\n  main/rule:r:\n    of: b\n    text: |-\n      <p class=\"b\">&lt;b&gt;</p>\n---\n"},
		{"a menu", [2]string{"menus/m.yaml", "items:\n  - {label: One, to: /one/}\n  - label: X\n    panel: '<p>One</p>'\n"},
			plain("one"), "T & o",
			"items:\n  - {label: T & o, to: /T & o/}\n  - label: X\n    panel: '<p>T &amp; o</p>'\n"},
		{"a rule", [2]string{"rules/one.yaml", "block: one\nregion: one\non: [\"under:/one/\"]\nset: {a: one}\n"},
			plain("one"), "two", "block: one\nregion: one\non: [\"under:/one/\"]\nset: {a: two}\n"},
		{"a block", [2]string{"blocks/one.html", "---\nfields:\n  text: {type: text, default: Text}\n---\n<p>text</p>"},
			plain("text"), "word", "---\nfields:\n  text: {type: text, default: word}\n---\n<p>word</p>"},
		{"the case of letters", page("One one ONE"), wording.Query{Text: "One", Case: true}, "x", "x one ONE"},
		{"whole words", page("port ports sport port-card Häfen port2 port_1"), wording.Query{Text: "port",
			Whole: true}, "x", "x ports sport x-card Häfen port2 port_1"},
		{"whole words beside letters of any script", page("хport port"), wording.Query{Text: "port", Whole: true},
			"x", "хport x"},
		{"a pattern", page("<p>0900 44 18 and 0900 44 19</p>"), wording.Query{Text: `0900 (\d\d) (\d)`,
			Pattern: true}, "+9 $1-$2", "<p>+9 44-18 and +9 44-19</p>"},
		{"a pattern of nothing", page("<p>abc</p>"), wording.Query{Text: `x*`, Pattern: true}, "y", ""},
		{"as it is written", page("<p class=\"x\">x</p>@{# x }"), wording.Query{Text: "x", Written: true}, "&",
			"<p class=\"&\">&</p>@{# & }"},
		{"a style, as it is written", [2]string{"blocks/b.css", ".x { color: red }"},
			wording.Query{Text: "red", Written: true}, "blue", ".x { color: blue }"},
		{"a style is not read", [2]string{"blocks/b.css", ".x { color: red }"}, plain("red"), "blue", ""},
		{"other documents alone", page("one"), wording.Query{Text: "one", In: []site.Class{site.MenuDoc}}, "x", ""},
		{"what is written by numbers", page("<p>o&#110;e</p>"), plain("one"), "two", "<p>two</p>"},
	} {
		t.Run(c.what, func(t *testing.T) {
			s := sitetest.New(siteOf(c.doc[0], c.doc[1]))
			list, err := wording.Find(context.Background(), s, c.q, c.with)
			require.NoError(t, err)
			set, err := wording.Replace(s, c.q, c.with, nil, wording.Seen(list))
			if c.then == "" {
				require.Empty(t, list)
				require.ErrorContains(t, err, "nothing is chosen")
				return
			}
			require.NoError(t, err)
			require.Len(t, set.Changes, 1)
			require.Equal(t, c.then, string(set.Changes[0].After))
		})
	}
}

// A page in another encoding says what others say, and is written back in that.
func TestReplacingInAnotherEncoding(t *testing.T) {
	f := site.Files{"site.yaml": []byte("format: brickshelf/1\nname: A site\nexact_urls: true\n"),
		"pages/a.html": []byte("<meta charset=iso-8859-1><p title=\"M\xfchle\">An der M\xfchle \xe4</p>"),
		"pages/b.html": []byte("<p>Mühle</p>")}
	s := sitetest.New(f)
	list, err := wording.Find(context.Background(), s, wording.Query{Text: "mühle"}, "Höfe")
	require.NoError(t, err)
	require.Len(t, list, 3)
	require.Equal(t, "An der ", list[1].Before)
	set, err := wording.Replace(s, wording.Query{Text: "mühle"}, "Höfe", nil, wording.Seen(list))
	require.NoError(t, err)
	now := sitetest.Apply(t, f, set)
	require.Equal(t, "<meta charset=iso-8859-1><p title=\"H\xf6fe\">An der H\xf6fe \xe4</p>", string(now["pages/a.html"]))
	require.Equal(t, "<p>Höfe</p>", string(now["pages/b.html"]))
	_, err = wording.Replace(s, wording.Query{Text: "mühle"}, "Łódź", nil, "")
	require.ErrorContains(t, err, "pages/a.html is in another encoding than UTF-8, which has no 'Ł': leave its spots out")
	set, err = wording.Replace(s, wording.Query{Text: "mühle"}, "Łódź",
		[]wording.Name{{Path: "pages/a.html", N: 0}, {Path: "pages/a.html", N: 1}}, "")
	require.NoError(t, err)
	require.Len(t, set.Changes, 1)
	written := wording.Query{Text: "\"Mühle\"", Written: true}
	set, err = wording.Replace(s, written, "\"ä\"", nil, "")
	require.NoError(t, err)
	require.Contains(t, string(sitetest.Apply(t, f, set)["pages/a.html"]), "title=\"\xe4\"")
}

func TestSpotsAreToldWithTheirPlaces(t *testing.T) {
	f := siteOf("pages/p.html", "---\ntitle: One\noverrides: {main/b~1: {word: x one}}\n---\n<p>A&amp;A\nsays one</p>\n@{b word=\"my one\" /}")
	list, err := wording.Find(context.Background(), sitetest.New(f), wording.Query{Text: "one"}, "two")
	require.NoError(t, err)
	require.Equal(t, []wording.Spot{
		{Path: "pages/p.html", N: 0, Kind: wording.Value, Of: "title", Line: 2, Column: 8, Match: "One", With: "two"},
		{Path: "pages/p.html", N: 1, Kind: wording.Value, Of: "overrides › main/b~1 › word", Line: 3, Column: 30,
			Before: "x ", Match: "one", With: "two"},
		{Path: "pages/p.html", N: 2, Kind: wording.Text, Line: 6, Column: 6, Before: "A&A\nsays ", Match: "one",
			With: "two"},
		{Path: "pages/p.html", N: 3, Kind: wording.Value, Of: "b › word", Line: 7, Column: 10, Before: "my ",
			Match: "one", With: "two"},
	}, list)
	long := strings.Repeat("ä", 60)
	list, err = wording.Find(context.Background(), sitetest.New(siteOf("pages/p.html", long+"one"+long)), wording.Query{Text: "one"}, "")
	require.NoError(t, err)
	require.Equal(t, long[:60], list[0].Before)
	require.Equal(t, long[:60], list[0].After)
}

func TestWhatCannotBeReplaced(t *testing.T) {
	s := sitetest.New(siteOf("pages/p.html", "---\ntitle: >\n  one\n  two\n---\none"))
	q := wording.Query{Text: "one"}
	for _, bad := range []wording.Query{{Text: "  "}, {Text: "(", Pattern: true}} {
		_, err := wording.Find(context.Background(), s, bad, "")
		require.Error(t, err)
		_, err = wording.Replace(s, bad, "", nil, "")
		var refusal *site.Refusal
		require.ErrorAs(t, err, &refusal)
	}
	_, err := wording.Replace(s, q, "x", nil, "")
	require.ErrorContains(t, err, "pages/p.html: title is written in a way")
	set, err := wording.Replace(s, q, "x", []wording.Name{{Path: "pages/p.html", N: 0}}, "")
	require.NoError(t, err)
	require.Equal(t, "---\ntitle: >\n  one\n  two\n---\nx", string(set.Changes[0].After))
	_, err = wording.Replace(s, q, "x", nil, "another")
	require.ErrorContains(t, err, "look at the list again")
	require.Equal(t, "Replace “one” by “x”", set.Title)
}

// After a replacement the site says the same at all spots but those that were chosen, and
// there the other words; whatever they are. Replacing them back gives the site back.
func TestReplacedSitesSayTheOtherWords(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		f := sitetest.Site(t)
		s := sitetest.New(f)
		q := wording.Query{Text: rapid.SampledFrom([]string{"a", "on", "e", "b", "1", "s"}).Draw(t, "text"),
			Case: rapid.Bool().Draw(t, "case"), Whole: rapid.Bool().Draw(t, "whole")}
		const mark = "QZX"
		with := rapid.SampledFrom([]string{mark, mark + " & <" + mark + ">", "'" + mark + "\"", mark + ": @{" + mark + " /}",
			"{" + mark + "}, [" + mark + "] #" + mark}).Draw(t, "with")
		list, err := wording.Find(context.Background(), s, q, with)
		require.NoError(t, err)
		var without []wording.Name
		want, chosen := []string{}, 0
		for _, spot := range list {
			if rapid.IntRange(0, 4).Draw(t, "left") == 0 {
				without = append(without, wording.Name{Path: spot.Path, N: spot.N})
			} else {
				chosen++
				want = append(want, spot.Path)
			}
		}
		if chosen == 0 {
			return
		}
		set, err := wording.Replace(s, q, with, without, wording.Seen(list))
		if err != nil {
			require.ErrorContains(t, err, "edit it in the text")
			return
		}
		o := sitetest.New(sitetest.Apply(t, f, set))
		now, err := wording.Find(context.Background(), o, wording.Query{Text: with, Case: true}, "")
		require.NoError(t, err)
		var got []string
		for _, spot := range now {
			got = append(got, spot.Path)
		}
		require.Equal(t, want, got, "%s", set.Changes)
		again, err := wording.Find(context.Background(), o, q, with)
		require.NoError(t, err)
		if with == mark && !q.Whole { // which says nothing that is looked for
			require.Len(t, again, len(without))
		}
	})
}

func FuzzReplacing(f *testing.F) {
	for _, s := range []string{"<p>one</p>", "<a b=one c='one'>@{b word=\"one\" /}", "---\ntitle: one\n---\none",
		"@{b list=[\"one\"] /}&amp;one", "<textarea>one</textarea><title>one</title>"} {
		f.Add(s, "one", "t<w>o")
	}
	f.Fuzz(func(t *testing.T, text, find, with string) {
		files := siteOf("pages/p.html", text)
		s := sitetest.New(files)
		q := wording.Query{Text: find, Case: true}
		list, err := wording.Find(context.Background(), s, q, with)
		if err != nil || len(list) == 0 {
			return
		}
		set, err := wording.Replace(s, q, with, nil, wording.Seen(list))
		if err != nil {
			return
		}
		for _, c := range set.Changes {
			files[c.Path] = c.After
		}
		again, err := wording.Find(context.Background(), sitetest.New(files), q, with)
		require.NoError(t, err)
		if !strings.Contains(with, find) && len(find) > 0 && !strings.ContainsAny(find, " \n\t\r\f\v\u00a0") &&
			!strings.ContainsAny(with, find) {
			require.Empty(t, again, "%q", files["pages/p.html"])
		}
	})
}
