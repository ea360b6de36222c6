package assets_test

import (
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"brickshelf/internal/core/assets"
	"brickshelf/internal/core/site"
)

func TestFaultsOfStylesAndBehavioursAreTold(t *testing.T) {
	for _, c := range []struct{ path, text, want string }{
		{"blocks/a.js", "", ""},
		{"blocks/a.js", "export default (root, { values }) => () => root.remove();\nconst x = await y?.z ?? 1n;", ""},
		{"blocks/a.js", "import a from \"./a.json\" with { type: 'json' };\nimport './b.css' with\n{ type: 'css' };\nclass B { static #p = 1; static { B.#p++ } }", ""},
		{"blocks/a.js", "with_({a: 1}); for (const x of y) { z(x) }\nconst s = `a${`b${c}`}`", ""},
		{"blocks/a.js", "let a = 1;\nfoo(}\n", "2:5 is no JavaScript that a browser runs: "},
		{"blocks/a.js", "let a = 1;\nx = 'é;\n", "2:5 is no JavaScript that a browser runs: unterminated string"},
		{"blocks/a.js", "import a from './a.js' with { type: };\n b c", "2:4 is no JavaScript that a browser runs: unexpected c"},
		{"blocks/a.css", "", ""},
		{"blocks/a.css", "@import 'x' layer(a);\n@media (min-width: 1px) { .x { &:hover { color: red } } }\na:is(.b, > c) { --x: { y }; background: url(x.png) }\n/* end */", ""},
		{"blocks/a.css", "a { color red }\nb { c: d }", "1:11 is no CSS: expected colon"},
		{"blocks/a.css", "a { b: c }\nd } e { f: g }", "2:4 is no CSS: unexpected ending"},
		{"blocks/a.css", "a { b: c }\nd { e: f", "2:3 is no CSS: what begins here is not closed; close it with }"},
		{"blocks/a.css", "a { width: calc((1px + 2px) }", "1:12 is no CSS: what begins here is not closed; close it with )"},
		{"blocks/a.css", "a { b: c }\n/* open", "2:1 is no CSS: this comment is never closed; end it with */"},
		{"blocks/a.css", "a { b: 'c\n }", "1:8 is no CSS: a text or address is not closed on its line"},
		{"blocks/a.css", ".é { color: red", "1:4 is no CSS: "},
		{"blocks/a.js", "x = 'éé' + ;", "1:12 is no JavaScript"},
		{"files/a.css", "a {", ""},
	} {
		var got []string
		for _, p := range assets.Syntax(c.path, []byte(c.text)) {
			require.Equal(t, site.Error, p.Severity)
			got = append(got, fmt.Sprintf("%d:%d %s", p.Line, p.Column, p.Message))
		}
		if c.want == "" {
			require.Empty(t, got, c.text)
		} else {
			require.Contains(t, strings.Join(got, "\n"), c.want, c.text)
		}
	}
}

func FuzzSyntax(f *testing.F) {
	f.Add("a { b: c }", true)
	f.Add("export default 1", false)
	f.Fuzz(func(t *testing.T, text string, style bool) {
		path := map[bool]string{true: "blocks/a.css", false: "blocks/a.js"}[style]
		src := []byte(text)
		for _, p := range assets.Syntax(path, src) {
			if p.Line < 1 || p.Column < 1 || p.Line > strings.Count(text, "\n")+strings.Count(text, "\r")+1 {
				t.Fatalf("%+v stands nowhere in %q", p, text)
			}
		}
		if string(src) != text {
			t.Fatal("the text has been changed")
		}
	})
}
