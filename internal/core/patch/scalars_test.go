package patch_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"brickshelf/internal/core/patch"
	"brickshelf/internal/core/site"
)

func TestSettingScalars(t *testing.T) {
	for _, c := range []struct{ path, before, from, to, after string }{
		{"menus/m.yaml", "items:\n  - {label: Fares, to: /fares/}\n", "Fares", "Prices",
			"items:\n  - {label: Prices, to: /fares/}\n"},
		{"menus/m.yaml", "items:\n  - {label: Fares, to: /fares/} # last\n", "/fares/", "/a, b/",
			"items:\n  - {label: Fares, to: \"/a, b/\"} # last\n"},
		{"rules/r.yaml", "on: [all, home]\n", "home", "under:/x/", "on: [all, \"under:/x/\"]\n"},
		{"site.yaml", "name: 'It''s here' # a name\n", "It's here", "It's there",
			"name: 'It''s there' # a name\n"},
		{"site.yaml", "name: 'It'\n", "It", "a\tb", "name: \"a\\tb\"\n"},
		{"site.yaml", "name: \"a \\\"b\\\"\"\r\nbase_url: x\r\n", `a "b"`, `"c"`,
			"name: \"\\\"c\\\"\"\r\nbase_url: x\r\n"},
		{"site.yaml", "fields:\n  a: {type: number, default: 12}\n", "12", "15",
			"fields:\n  a: {type: number, default: 15}\n"},
		{"site.yaml", "fields:\n  a: {type: number, default: 12}\n", "12", "x: y",
			"fields:\n  a: {type: number, default: \"x: y\"}\n"},
		{"pages/p.html", "---\ntitle: A\n---\nA", "A", "2024", "---\ntitle: \"2024\"\n---\nA"},
		{"pages/p.html", "---\ncopies:\n  a:\n    text: |\n      <p>One\n\n      two</p>\n\n    of: b\n---\n",
			"<p>One\n\ntwo</p>\n", "<p>Three\n\ntwo</p>\nfour\n",
			"---\ncopies:\n  a:\n    text: |\n      <p>Three\n\n      two</p>\n      four\n\n    of: b\n---\n"},
		{"pages/p.html", "---\r\ntitle: |-\r\n  One\r\n  two\r\nlayout: b\r\n---\r\n", "One\ntwo", "Three\ntwo",
			"---\r\ntitle: |-\r\n  Three\r\n  two\r\nlayout: b\r\n---\r\n"},
		{"site.yaml", "name: >\n  folded\n  over\nbase_url: x\n", "folded over\n", "x", ""},
		{"site.yaml", "name: plain\n  over lines\nbase_url: x\n", "plain over lines", "x", ""},
		{"site.yaml", "name: |\n  One\nbase_url: x\n", "One\n", "One", ""},
	} {
		split, _ := site.Cut([]byte(c.before))
		head := split.Head
		if !split.HasHead {
			head = []byte(c.before)
		}
		y, problem := site.ParseYAML(head, c.path, 1)
		require.Nil(t, problem, c.before)
		at := -1
		for i, s := range patch.ScalarsOf(y) {
			if s.Text == c.from {
				at = i
			}
		}
		require.GreaterOrEqual(t, at, 0, "%q has no %q", c.before, c.from)
		out, err := patch.SetScalars(c.path, []byte(c.before), map[int]string{at: c.to})
		if c.after == "" {
			require.ErrorContains(t, err, "edit it in the text", c.before)
			continue
		}
		require.NoError(t, err, c.before)
		require.Equal(t, c.after, string(out))
	}
	_, err := patch.SetScalars("site.yaml", []byte("name: a\n"), map[int]string{7: "b"})
	require.ErrorContains(t, err, "has no value of that number")
}

func TestSetScalarsReadBack(t *testing.T) {
	texts := rapid.SampledFrom([]string{"one", "it's", `a "b"`, "a: b", "1", "true", "", " x ", "a, b", "[c]",
		"{d}", "#e", "two\nlines", "tab\there", "\u00a0", "é", "- f", "null", "\\n"})
	quotes := rapid.SampledFrom([]string{"plain", "double", "single"})
	written := func(t *rapid.T, s string) string {
		if q := quotes.Draw(t, "quotes"); q == "double" {
			return site.QuoteYAML(s)
		} else if q == "single" && !strings.ContainsAny(s, "\n\t\u00a0") {
			return "'" + strings.ReplaceAll(s, "'", "''") + "'"
		}
		return site.PlainYAML(s)
	}
	rapid.Check(t, func(t *rapid.T) {
		var b strings.Builder
		for i := range rapid.IntRange(1, 5).Draw(t, "keys") {
			key := string(rune('a' + i))
			switch rapid.IntRange(0, 3).Draw(t, "shape") {
			case 0:
				b.WriteString(key + ": " + written(t, texts.Draw(t, "text")) + " # why\n")
			case 1:
				b.WriteString(key + ": {x: " + written(t, texts.Draw(t, "text")) + ", y: [" +
					written(t, texts.Draw(t, "text")) + ", 7]}\n")
			case 2:
				b.WriteString(key + ":\n  - " + written(t, texts.Draw(t, "text")) + "\n  - {z: " +
					written(t, texts.Draw(t, "text")) + "}\n")
			case 3:
				b.WriteString(key + ": |\n  one\n\n  two\n")
			}
		}
		src := b.String()
		y, problem := site.ParseYAML([]byte(src), "", 1)
		require.Nil(t, problem, src)
		list := patch.ScalarsOf(y)
		want := map[int]string{}
		for i := range list {
			if rapid.Bool().Draw(t, "edited") {
				want[i] = texts.Draw(t, "to")
			}
		}
		out, err := patch.SetScalars("rules/r.yaml", []byte(src), want)
		if err != nil { // a text under a bar ends with a line
			require.ErrorContains(t, err, "edit it in the text")
			return
		}
		after, problem := site.ParseYAML(out, "", 1)
		require.Nil(t, problem, string(out))
		now := patch.ScalarsOf(after)
		require.Len(t, now, len(list))
		for i, s := range list {
			to, edited := want[i]
			if !edited {
				to = s.Text
			}
			require.Equal(t, to, now[i].Text, "%s\n%s", src, out)
			require.Equal(t, s.Keys, now[i].Keys)
		}
		require.Equal(t, strings.Count(src, "# why"), strings.Count(string(out), "# why"))
	})
}
