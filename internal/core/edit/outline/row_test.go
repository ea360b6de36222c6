package outline_test

import (
	"bytes"
	"fmt"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"brickshelf/internal/core/edit/outline"
	"brickshelf/internal/core/render"
	"brickshelf/internal/core/shelf"
	"brickshelf/internal/core/site"
	"brickshelf/internal/core/sitetest"
)

func TestRowsOfADocument(t *testing.T) {
	names := func(path, text string) string {
		var out []string
		for _, r := range outline.Rows(path, []byte(text)) {
			row := r.Region + ":"
			for _, it := range r.Items {
				require.Contains(t, text[it.From:it.To], it.Name)
				row += " " + it.Name
			}
			out = append(out, row)
		}
		return strings.Join(out, ", ")
	}
	for _, c := range []struct{ path, text, rows string }{
		{"blocks/b.html", "---\nfields: {}\n---\n@{a /}\n @{# note }@{b}<p>in</p>@{/b}\n", ": a b"},
		{"blocks/b.html", "@{a /} and", ""},
		{"blocks/b.html", "@{when x}@{a /}@{/when}", ""},
		{"blocks/b.html", "\n", ":"},
		{"pages/p.html", "<p>text</p>@{fill side}@{a /}@{a /}@{/fill}", "side: a a"},
		{"pages/p.html", "@{a /}@{fill side}@{/fill}@{b /}", "main: a b, side:"},
		{"pages/p.html", "@{a /}@{", ""},
	} {
		require.Equal(t, c.rows, names(c.path, c.text), c.text)
	}
}

func TestRearranging(t *testing.T) {
	s := sitetest.New(site.Files{"pages/x.html": []byte("---\noverrides: {\"main/card~2/deep~1\": {a: b}}\n---\n")})
	for _, c := range []struct {
		before string
		order  []int
		add    string
		after  string
	}{
		{"@{a /}\n@{b /}\n@{c /}\n", []int{2, 0, 1}, "", "@{c /}\n@{a /}\n@{b /}\n"},
		{"@{a /}\n@{b /}\n@{c /}\n", []int{0, 2}, "", "@{a /}\n@{c /}\n"},
		{"@{a /}\n@{b /}\n", []int{1}, "", "@{b /}\n"},
		{"\n@{a /}\n@{b /}\n", []int{0}, "", "\n@{a /}\n"},
		{"@{a /}\n@{# of b }@{b /}\n", []int{0}, "", "@{a /}\n@{# of b }\n"},
		{"@{a /}\n\n@{b /}\n", []int{0, 1}, "@{c /}", "@{a /}\n\n@{b /}\n\n@{c /}\n"},
		{"@{a /}\r\n", []int{0}, "@{c /}", "@{a /}\r\n@{c /}\r\n"},
		{"\n", []int{}, "@{c /}", "@{c /}\n"},
		{"@{card n=1 /}@{card n=2 /}@{note /}", []int{1, 0, 2}, "",
			"@{card key=\"card~2\" n=2 /}@{card key=\"card~1\" n=1 /}@{note /}"},
		{"@{card n=1 /}@{card n=2 /}@{note}@{card /}@{/note}", []int{1, 2}, "",
			"@{card key=\"card~2\" n=2 /}@{note}@{card key=\"card~3\" /}@{/note}"},
		{"@{tile n=1 /}@{tile n=2 /}", []int{1, 0}, "", "@{tile n=2 /}@{tile n=1 /}"},
	} {
		got, err := outline.Rearrange(s, "blocks/b.html", []byte(c.before), "", c.order, c.add)
		require.NoError(t, err)
		require.Equal(t, c.after, string(got), c.before)
	}
	for _, order := range [][]int{{0, 0}, {2}, {-1}} {
		_, err := outline.Rearrange(s, "blocks/b.html", []byte("@{a /}@{b /}"), "", order, "")
		require.Error(t, err)
	}
	_, err := outline.Rearrange(s, "blocks/b.html", []byte("text"), "", nil, "")
	require.ErrorContains(t, err, "no row of calls any more")
}

// Whatever is put in another order, every item that stays shows what it showed.
func TestItemsOfARowShowTheSameWhereverTheyStand(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		n := rapid.IntRange(1, 5).Draw(t, "items")
		var text, says []string
		for i := range n {
			name := rapid.SampledFrom([]string{"a", "b"}).Draw(t, "name")
			text = append(text, fmt.Sprintf("@{%s n=%d /}", name, i))
		}
		counts := map[string]int{}
		for i := range n {
			name := text[i][2:3]
			counts[name]++
			if rapid.Bool().Draw(t, "own") {
				says = append(says, fmt.Sprintf("\"main/%s~%d\": {word: own%d}", name, counts[name], i))
			}
		}
		src := "---\noverrides: {" + strings.Join(says, ", ") + "}\n---\n" + strings.Join(text, " ")
		block := "---\nfields: {n: {type: number}, word: {type: text, default: std}}\n---\n[@{=n} @{=word}]"
		f := site.Files{"blocks/a.html": []byte(block), "blocks/b.html": []byte(block),
			"pages/p.html": []byte(src)}
		s := sitetest.New(f)
		all := make([]int, n)
		for i := range all {
			all[i] = i
		}
		order := rapid.Permutation(all).Draw(t, "order")[:rapid.IntRange(0, n).Draw(t, "stay")]
		got, err := outline.Rearrange(s, "pages/p.html", f["pages/p.html"], "main", order, "")
		require.NoError(t, err)
		shown := func(s *shelf.Shelf) []string {
			return strings.FieldsFunc(string(render.Page(s, "pages/p.html", render.Options{}).HTML),
				func(r rune) bool {
					return r == '[' || r == ']'
				})
		}
		pieces := func(all []string) (out []string) {
			for _, p := range all {
				if p = strings.TrimSpace(p); p != "" {
					out = append(out, p)
				}
			}
			return out
		}
		was := pieces(shown(s))
		var want []string
		for _, i := range order {
			want = append(want, was[i])
		}
		require.Equal(t, want, pieces(shown(sitetest.New(site.Files{"blocks/a.html": []byte(block),
			"blocks/b.html": []byte(block), "pages/p.html": got}))))
	})
}

// A copy whose place becomes another one gets the old as its key, as a call does.
func TestCopiesGetKeysToo(t *testing.T) {
	src := []byte("---\nhidden: [main/a~1, main/a~2]\n---\n@{copy of=\"a\" base=\"x\"}one@{/copy}@{a /}")
	at := bytes.Index(src, []byte("@{copy"))
	out := slices.Concat(src[:at], []byte("@{a /}"), src[at:])
	text, _ := outline.StableKeys(outline.Speaks(nil, "pages/p.html", src), src, out, func(i int) int {
		if i < at {
			return i
		}
		return i + len("@{a /}")
	})
	require.Equal(t, `@{a key="a-1" /}@{copy key="a~1" of="a" base="x"}one@{/copy}@{a key="a~2" /}`, string(text[at:]))
}
