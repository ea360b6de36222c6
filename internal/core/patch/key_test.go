package patch_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"brickshelf/internal/core/patch"
	"brickshelf/internal/core/site"
)

func TestSettingKeys(t *testing.T) {
	for _, c := range []struct {
		path, before string
		keys         string
		value        any
		after        string
	}{
		{"rules/r.yaml", "block: b\nregion: r\non: [all] # everywhere\n", "on", []any{"home"},
			"block: b\nregion: r\non: [home] # everywhere\n"},
		{"rules/r.yaml", "block: b\nregion: r\non: [all]\n", "except", []any{"under:/a/"},
			"block: b\nregion: r\non: [all]\nexcept: [\"under:/a/\"]\n"},
		{"rules/r.yaml", "block: b\r\non:\r\n  - all\r\n  # more\r\n  - home\r\nenabled: true\r\n", "on",
			[]any{"home"}, "block: b\r\non: [home]\r\nenabled: true\r\n"},
		{"rules/r.yaml", "block: b\non:\n- all\n\n# last\nenabled: true\n", "on", []any{"home"},
			"block: b\non: [home]\n\n# last\nenabled: true\n"},
		{"rules/r.yaml", "block: b\nenabled: false\n", "enabled", nil, "block: b\n"},
		{"rules/r.yaml", "block: b\nset: {menu: main}\n", "set logo", "/a.svg",
			"block: b\nset: {menu: main, logo: /a.svg}\n"},
		{"rules/r.yaml", "block: b\nset: {menu: main, search: false}\n", "set menu", nil,
			"block: b\nset: {search: false}\n"},
		{"rules/r.yaml", "block: b\nset: {menu: main}\n", "set menu", nil, "block: b\n"},
		{"rules/r.yaml", "block: b\nset: {menu: main}\n", "set menu", "freight",
			"block: b\nset: {menu: freight}\n"},
		{"rules/r.yaml", "block: b\nset:\n  menu: main # the big one\n  logo: x\n", "set menu", "freight",
			"block: b\nset:\n  menu: freight # the big one\n  logo: x\n"},
		{"rules/r.yaml", "block: b", "order", float64(10), "block: b\norder: 10\n"},
		{"pages/p.html", "<p>text", "title", "A page", "---\ntitle: A page\n---\n<p>text"},
		{"pages/p.html", "---\ntitle: A\n---\n<p>", "draft", true, "---\ntitle: A\ndraft: true\n---\n<p>"},
		{"pages/p.html", "---\ntitle: A\nlayout: b\ntags: [x]\n---\n<p>", "overrides|main/b~1|word", "a: b",
			"---\ntitle: A\nlayout: b\noverrides: {main/b~1: {word: \"a: b\"}}\ntags: [x]\n---\n<p>"},
		{"pages/p.html", "---\noverrides:\n  \"main/b~1\": {word: x}\n---\n", "overrides|main/c~1|word", "y",
			"---\noverrides:\n  \"main/b~1\": {word: x}\n  main/c~1: {word: y}\n---\n"},
		{"pages/p.html", "---\noverrides:\n  \"main/b~1\": {word: x}\n---\n", "overrides|main/b~1|word", nil,
			"---\n---\n"},
		{"pages/p.html", "---\ntitle: A\noverrides: {main/b~1: {word: x}}\n---\n", "overrides|main/b~1|word",
			nil, "---\ntitle: A\n---\n"},
		{"pages/p.html", "---\noverrides: {main/b~1: {word: x}, main/c~1: {word: y}}\n---\n",
			"overrides|main/b~1|word", nil, "---\noverrides: {main/c~1: {word: y}}\n---\n"},
		{"pages/p.html", "---\noverrides: {main/b~1: {word: x, more: y}}\n---\n", "overrides|main/b~1|word",
			nil, "---\noverrides: {main/b~1: {more: y}}\n---\n"},
		{"layouts/l.html", "---\nregions:\n  main: {mode: stack}\n---\n@{region main /}",
			"regions main width", float64(280),
			"---\nregions:\n  main: {mode: stack, width: 280}\n---\n@{region main /}"},
		{"pages/p.html", "---\ntitle: |\n  Two\n  lines\nlayout: b\n---\n", "title", "One",
			"---\ntitle: One\nlayout: b\n---\n"},
	} {
		sep := " "
		if strings.Contains(c.keys, "|") {
			sep = "|"
		}
		got, err := patch.Set(c.path, []byte(c.before), strings.Split(c.keys, sep), c.value)
		require.NoError(t, err, c.before)
		require.Equal(t, c.after, string(got))
	}
	_, err := patch.Set("assets/a.svg", []byte("<svg/>"), []string{"a"}, "b")
	require.ErrorContains(t, err, "has no keys")
	_, err = patch.Set("rules/r.yaml", []byte("block: ["), []string{"a"}, "b")
	require.Error(t, err)
}

// Whatever is set can be read back, all else stays, and setting it back gives the
// values that were there before.
func TestKeysReadBackAsSet(t *testing.T) {
	scalar := rapid.SampledFrom([]string{"a", "b c", "yes", "12", "", "x: y", "#1", "/a/", "é", "it's", "{",
		"2026-03-01", "two\nlines"})
	rapid.Check(t, func(t *rapid.T) {
		var b strings.Builder
		for _, k := range []string{"block", "set", "on", "note"} {
			switch rapid.IntRange(0, 5).Draw(t, k) {
			case 0:
				b.WriteString(k + ": " + site.PlainYAML(scalar.Draw(t, "v")) + " # why\n")
			case 1:
				b.WriteString(k + ":\n  one: " + site.PlainYAML(scalar.Draw(t, "v")) +
					"\n\n  # of two\n  two: {three: " + site.QuoteYAML(scalar.Draw(t, "v")) + ", four: 4}\n")
			case 2:
				b.WriteString("# before\n" + k + ": {one: " + site.QuoteYAML(scalar.Draw(t, "v")) +
					", two: [1, 2]}\n")
			case 3:
				b.WriteString(k + ":\n- x\n- {y: " + site.QuoteYAML(scalar.Draw(t, "v")) + "}\n")
			}
		}
		src := b.String()
		keys := rapid.SampledFrom([][]string{{"block"}, {"set", "one"}, {"set", "two", "three"},
			{"set", "new"}, {"on"}, {"until"}}).Draw(t, "keys")
		var value any = scalar.Draw(t, "value")
		switch rapid.IntRange(0, 3).Draw(t, "kind") {
		case 0:
			value = nil
		case 1:
			value = []any{scalar.Draw(t, "item"), true, float64(3)}
		}
		got, err := patch.Set("rules/r.yaml", []byte(src), keys, value)
		if err != nil {
			var refusal *site.Refusal
			require.ErrorAs(t, err, &refusal)
			return
		}
		y, problem := site.ParseYAML(got, "r", 1)
		require.Nil(t, problem, string(got))
		at := y
		for _, k := range keys {
			if at != nil {
				at = at.Get(k)
			}
		}
		if s, ok := value.(string); ok {
			require.NotNil(t, at, string(got))
			require.Equal(t, s, at.Text, string(got))
		}
		for _, line := range strings.Split(src, "\n") {
			if strings.HasPrefix(line, "#") {
				require.Contains(t, string(got), line, "comments stay")
			}
		}
		if value == nil {
			require.Nil(t, at)
		}
	})
}
