package outline_test

import (
	"fmt"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"brickshelf/internal/core/edit/outline"
	"brickshelf/internal/core/explain"
	"brickshelf/internal/core/render"
	"brickshelf/internal/core/shelf"
	"brickshelf/internal/core/site"
	"brickshelf/internal/core/sitetest"
)

func TestOutline(t *testing.T) {
	src := "---\ntitle: x\n---\n<p>one</p>@{a /}\n@{fill side}@{b}in@{/b} and @{# note }more @{/fill}\n<p>two @{=page.title}</p>"
	var got []string
	for _, p := range outline.Of([]byte(src)) {
		got = append(got, p.Region+" "+p.Address+" "+src[p.From:p.To])
	}
	require.Equal(t, []string{"main  <p>one</p>", "main main/a~1 @{a /}", "main  <p>two @{=page.title}</p>",
		"side side/b~1 @{b}in@{/b}", "side  and @{# note }more"}, got)
	require.Empty(t, outline.Of([]byte("@{a")))

	pictures := outline.Of([]byte("@{image src=x name=\"The pier\" /}@{a name=b /}"))
	require.Equal(t, "The pier", pictures[0].Called)
	require.Empty(t, pictures[1].Called)
}

// An element is one part, with the calls inside it; text in a line is one with the
// elements in it.
func TestOutlineOfElements(t *testing.T) {
	for _, c := range []struct {
		src  string
		want []string
	}{
		{"<div>@{a /}<div></div></div><p>x</p>", []string{"<div>@{a /}<div></div></div>", "(@{a /})",
			"<p>x</p>"}},
		{"one <b>two</b> three <hr> four", []string{"one <b>two</b> three", "<hr>", "four"}},
		{`<a href="@{u /}">x</a> and @{a}<p>@{/a} b`, []string{`<a href="@{u /}">x</a> and`, "(@{u /})",
			"@{a}<p>@{/a}", "b"}},
		{"<section><p>@{a /}</p>\n</div>@{b /}", []string{"<section><p>@{a /}</p>\n</div>@{b /}", "(@{a /})",
			"(@{b /})"}},
		{"<p>x</p> a @{=page.title} b", []string{"<p>x</p>", "a @{=page.title} b"}},
		{"<!-- @{a /} --><br>@{b /}</p> z", []string{"<!-- @{a /} --><br>", "(@{a /})", "@{b /}", "</p> z"}},
		{"@{when page.title}<p>x</p>@{/when}<p>y</p>", []string{"@{when page.title}<p>x</p>@{/when}",
			"<p>y</p>"}},
	} {
		var got []string
		for _, p := range outline.Of([]byte(c.src)) {
			if text := c.src[p.From:p.To]; p.Within {
				got = append(got, "("+text+")")
			} else {
				got = append(got, text)
			}
		}
		require.Equal(t, c.want, got, c.src)
	}
}

func TestPuttingCalls(t *testing.T) {
	for _, c := range []struct {
		src, region string
		before      int
		want        string
	}{
		{"<p>", "main", -1, "<p>\n@{n /}"},
		{"<p>\n", "main", 0, "@{n /}\n<p>\n"},
		{"", "main", -1, "@{n /}\n"},
		{"<p>\n", "side", -1, "<p>\n@{fill side}@{n /}@{/fill}\n"},
		{"<p>", "side", 0, "<p>\n@{fill side}@{n /}@{/fill}\n"},
		{"@{fill side}\r\n@{a /}\r\n@{/fill}\r\n", "side", -1,
			"@{fill side}\r\n@{a /}\r\n@{n /}\r\n@{/fill}\r\n"},
		{"---\noverrides: {main/n~1: {a: b}}\n---\n@{n t=1 /}", "main", 0,
			"---\noverrides: {main/n~1: {a: b}}\n---\n@{n key=\"n-1\" /}\n@{n key=\"n~1\" t=1 /}"},
		{"---\nhidden: [main/n~1]\n---\n<p>", "main", -1,
			"---\nhidden: [main/n~1]\n---\n<p>\n@{n key=\"n-1\" /}"},
	} {
		got, err := outline.Put("pages/p.html", []byte(c.src), c.region, c.before, "@{n /}")
		require.NoError(t, err)
		require.Equal(t, c.want, string(got), c.src)
	}
	_, err := outline.Put("pages/p.html", nil, "main", 0, "@{n")
	require.Error(t, err)
}

func TestTakingAndMovingParts(t *testing.T) {
	src := "---\ntitle: x\noverrides: {main/a~1/b~1: {w: own}}\nhidden: [main/a~1]\n---\n@{a /}\n<p>text</p>\n@{fill side}@{c /}@{/fill}\n"
	at := func(piece string) int { return strings.Index(src, piece) }
	take := func(piece string) string {
		out, err := outline.Take("pages/p.html", []byte(src), at(piece))
		require.NoError(t, err)
		return string(out)
	}
	require.Equal(t, "---\ntitle: x\n---\n<p>text</p>\n@{fill side}@{c /}@{/fill}\n", take("@{a /}"))
	require.Equal(t, strings.Replace(src, "<p>text</p>\n", "", 1), take("<p>"))
	require.Equal(t, strings.Replace(src, "@{fill side}@{c /}@{/fill}\n", "", 1), take("@{c /}"))
	moved, err := outline.Move("pages/p.html", []byte(src), at("@{a /}"), "side", 0)
	require.NoError(t, err)
	require.Equal(t,
		"---\ntitle: x\noverrides: {side/a~1/b~1: {w: own}}\nhidden: [side/a~1]\n---\n<p>text</p>\n@{fill side}@{a /}\n@{c /}@{/fill}\n", string(moved))
	_, err = outline.Move("pages/p.html", []byte(src), 3, "side", 0)
	require.ErrorContains(t, err, "choose the piece again")
}

func TestHidingAndShowing(t *testing.T) {
	src := []byte("@{a /}")
	once, err := outline.Hide("pages/p.html", src, "main/a~1")
	require.NoError(t, err)
	require.Equal(t, "---\nhidden: [main/a~1]\n---\n@{a /}", string(once))
	twice, err := outline.Hide("pages/p.html", once, "notice/rule:n")
	require.NoError(t, err)
	require.Contains(t, string(twice), "hidden: [main/a~1, \"notice/rule:n\"]")
	back, err := outline.Show("pages/p.html", twice, "main/a~1")
	require.NoError(t, err)
	back, err = outline.Show("pages/p.html", back, "notice/rule:n")
	require.NoError(t, err)
	require.NotContains(t, string(back), "hidden")
}

// Whatever is moved where, everything on the page shows what it showed, the page's own
// values included; and what is sent to another page shows there what it showed here.
func TestMovedPartsShowTheSame(t *testing.T) {
	block := "---\nfields: {n: {type: number}, word: {type: text, default: std}}\n---\n[@{=n} @{=word}]"
	layout := "---\nregions: {main: {mode: stack}, side: {mode: stack}}\n---\n@{region main /}|@{region side /}"
	rapid.Check(t, func(t *rapid.T) {
		n, says := 0, []string{}
		draw := func(region string) string {
			out, counts := "", map[string]int{}
			for range rapid.IntRange(0, 4).Draw(t, region) {
				n++
				kind := rapid.IntRange(0, 4).Draw(t, "kind")
				if kind == 0 {
					out += fmt.Sprintf("[text%d]\n", n)
					continue
				}
				name := rapid.SampledFrom([]string{"a", "b"}).Draw(t, "name")
				counts[name]++
				call := fmt.Sprintf("@{%s n=%d /}", name, n)
				if kind == 1 {
					call = "<div>" + call + "</div>"
				}
				out += call + rapid.SampledFrom([]string{"\n", " ", ""}).Draw(t, "gap")
				switch rapid.IntRange(0, 3).Draw(t, "own") {
				case 0:
					says = append(says, fmt.Sprintf("%s/%s~%d: {word: own%d}", region, name, counts[name], n))
				}
			}
			return out
		}
		text := draw("main") + "@{fill side}" + draw("side") + "@{/fill}\n"
		head := "---\nlayout: l\noverrides: {" + strings.Join(says, ", ") + "}\n---\n"
		f := site.Files{"layouts/l.html": []byte(layout), "blocks/a.html": []byte(block),
			"blocks/b.html": []byte(block), "pages/p.html": []byte(head + text),
			"pages/q.html": []byte("---\nlayout: l\noverrides: {main/a~1: {word: q}}\n---\n@{a n=100 /}")}
		s := sitetest.New(f)
		shown := func(s *shelf.Shelf, page string) []string {
			out := strings.FieldsFunc(string(render.Page(s, page, render.Options{}).HTML), func(r rune) bool {
				return strings.ContainsRune("[]|\n", r)
			})
			out = slices.DeleteFunc(out, func(p string) bool { return strings.Trim(p, " </div>") == "" })
			slices.Sort(out)
			return out
		}
		parts := outline.Of(f["pages/p.html"])
		if len(parts) == 0 {
			return
		}
		p := rapid.SampledFrom(parts).Draw(t, "part")
		region := rapid.SampledFrom([]string{"main", "side"}).Draw(t, "to")
		got, err := outline.Move("pages/p.html", f["pages/p.html"], p.From, region,
			rapid.IntRange(-1, 4).Draw(t, "before"))
		require.NoError(t, err)
		moved := s.With([]site.Change{{Path: "pages/p.html", After: got}})
		require.Equal(t, shown(s, "pages/p.html"), shown(moved, "pages/p.html"), "%s", got)
		require.Empty(t, explain.Faults(moved, "pages/p.html"), "%s", got)

		set, err := outline.Send(s, "pages/p.html", p.From, "pages/q.html", region)
		require.NoError(t, err)
		sent := s.With(set.Changes)
		both := func(s *shelf.Shelf) []string {
			out := append(shown(s, "pages/p.html"), shown(s, "pages/q.html")...)
			slices.Sort(out)
			return out
		}
		require.Equal(t, both(s), both(sent), "%s", set.Changes[1].After)
		require.Empty(t, explain.Faults(sent, "pages/p.html"))
		require.Empty(t, explain.Faults(sent, "pages/q.html"))
	})
}
