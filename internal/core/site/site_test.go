package site

import (
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"
)

func TestDiffThenApplyLeadsFromOneTreeToTheOther(t *testing.T) {
	tree := rapid.MapOf(rapid.SampledFrom([]string{"a", "b", "c", "d"}), rapid.SliceOfN(rapid.Byte(), 0, 3))
	rapid.Check(t, func(t *rapid.T) {
		before, after := Files(tree.Draw(t, "before")), Files(tree.Draw(t, "after"))
		got, err := before.Apply(Diff(before, after))
		require.NoError(t, err)
		require.Equal(t, after.Paths(), got.Paths())
		for p := range after {
			require.Equal(t, string(after[p]), string(got[p]))
		}
	})
}

func TestPaths(t *testing.T) {
	for path, want := range map[string]string{
		"site.yaml": "site", "blocks/port-card.html": "block port-card", "blocks/a.css": "style a",
		"blocks/a.js":        "behaviour a",
		"pages/a/index.html": "page a/index", "assets/x/y.svg": "asset x/y.svg",
		"menus/main.yaml": "menu main", "history/" + strings.Repeat("a", 64): "history " +
			strings.Repeat("a", 64),
		"blocks/when.html": "! part of the language", "blocks/Upper.html": "! lower-case",
		"README.md": "! only site.yaml", "other/x": "! stands in no folder",
		"pages/../x.html": "! no empty, . or ..", "pages/a.txt": "! pages/PATH.html",
		"pages/100%.html": "! no # or %", "pages/c#/x.html": "! no # or %",
		"pages/über uns.html": "page über uns", "assets/50%.svg": "asset 50%.svg", "history/x": "! SHA-256",
		"assets/a\\b": "! none of", "assets/\x01": "! control",
	} {
		class, name, bad := Classify(path)
		if w, isBad := strings.CutPrefix(want, "! "); isBad {
			require.Contains(t, bad, w, path)
			continue
		}
		require.Equal(t, want, strings.TrimSpace(string(class)+" "+name), path)
	}
}

func TestAddresses(t *testing.T) {
	for _, c := range []struct {
		name, url, exact, root string
	}{{"index", "/", "/", "./"}, {"a", "/a/", "/a.html", "../"}, {"a/index", "/a/", "/a/", "../"},
		{"a/b", "/a/b/", "/a/b.html", "../../"}} {
		require.Equal(t, c.url, URLOf(c.name, false))
		require.Equal(t, c.exact, URLOf(c.name, true))
		require.Equal(t, c.root, RootOf(c.url))
	}
	require.Equal(t, "a/index.html", FileOf("/a/"))
	require.Equal(t, "a.html", FileOf("/a.html"))
}

func TestCuttingFrontMatter(t *testing.T) {
	for src, text := range map[string]string{
		"---\na: b\n---\nx\n": "x\n", "---\r\na: b\r\n---\r\nx": "x", "---\n---\n": "", "x": "x",
		"---- \nx": "---- \nx", "---\na: b\n---": "",
	} {
		s, bad := Cut([]byte(src))
		require.Empty(t, bad, src)
		require.Equal(t, text, string(s.Text), src)
		require.Equal(t, text, src[s.TextAt:], src)
	}
	_, bad := Cut([]byte("---\na: b\n"))
	require.NotEmpty(t, bad)
}

// Places count lines as they stand, whatever ends them; a byte order mark is a character of
// the first line and no part of a key.
func TestPlacesInYAMLOfOtherSystems(t *testing.T) {
	const text = "a: 1 # c\n# d\nb: |\n  x\n\n  y\nc: \"q\n  r\"\nd:\n  - e # f\n  - {g: h}\ni: plain\n  more\nj: 2\n"
	var flat func(y *YAML) []string
	flat = func(y *YAML) []string {
		out := []string{fmt.Sprint(y.Kind, y.Text, y.Line, y.Col)}
		for _, p := range y.Pairs {
			out = append(append(out, fmt.Sprint(p.Key, p.Line, p.Col)), flat(p.Value)...)
		}
		for _, it := range y.Items {
			out = append(out, flat(it)...)
		}
		return out
	}
	want, problem := ParseYAML([]byte(text), "p", 3)
	require.Nil(t, problem)
	got, problem := ParseYAML([]byte(strings.ReplaceAll(text, "\n", "\r\n")), "p", 3)
	require.Nil(t, problem)
	require.Equal(t, flat(want), flat(got))

	marked, problem := ParseYAML([]byte("\ufeff"+text), "p", 3)
	require.Nil(t, problem)
	require.Equal(t, "a", marked.Pairs[0].Key)
	require.Equal(t, [2]int{3, 2}, [2]int{marked.Pairs[0].Line, marked.Pairs[0].Col})
	require.Equal(t, [2]int{3, 5}, [2]int{marked.Pairs[0].Value.Line, marked.Pairs[0].Value.Col})
	require.Equal(t, flat(want.Pairs[1].Value), flat(marked.Pairs[1].Value))

	_, problem = ParseYAML([]byte("a: 1\r\nb: \r2\n"), "p", 3)
	require.NotNil(t, problem)
	require.Equal(t, [2]int{4, 4}, [2]int{problem.Line, problem.Column})
	_, problem = ParseYAML([]byte("\ufeff]"), "p", 3)
	require.NotNil(t, problem)
	require.Equal(t, 3, problem.Line)
}

func TestQuotedYAMLIsReadBackAsItWas(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		text := rapid.StringOf(rapid.OneOf(rapid.Rune(),
			rapid.SampledFrom([]rune("\n\t\"\\'#:{}[]\u0085\u2028\ufeff\x00\x7f@")))).Draw(t, "text")
		y, problem := ParseYAML([]byte("k: "+QuoteYAML(text)+"\n"), "p", 1)
		require.Nil(t, problem, "%q", QuoteYAML(text))
		require.Equal(t, text, y.Get("k").Text)
	})
}

func TestOnlyWhatYAMLCannotHoldIsEscaped(t *testing.T) {
	require.Equal(t, `"a b: é\t\u001f\u007f\u0085"`, QuoteYAML("a b: é\t\x1f\x7f\u0085"))
}

func FuzzYAML(f *testing.F) {
	for _, s := range []string{"a: b\nc: [1, {d: e}]\n", "a: |\n  x\n", "? - x\n: y", "!!str &a *b",
		"a: 'x\n"} {
		f.Add([]byte(s))
	}
	f.Fuzz(func(t *testing.T, src []byte) {
		y, problem := ParseYAML(src, "p", 1)
		if (y == nil) == (problem == nil) {
			t.Fatal("either a node or a problem")
		}
	})
}
