package script_test

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/require"

	"brickshelf/internal/core/block"
	"brickshelf/internal/core/script"
)

// What only a compiler finds is told at its own line, before the script is run.
func TestWhatTheCompilerFindsIsToldAtItsLine(t *testing.T) {
	for text, want := range map[string]string{
		"let a = 1;\nlet a = 2;":                           "2:5: Identifier 'a' has already been declared",
		"function other() {\n  let x; let x;\n}":           "2:14: Identifier 'x' has already been declared",
		"\nvar r = /(/;":                                   "2:9: Unterminated group",
		"\nvar r = /a(?<n>b)\\k<m>/;":                      "2:9: Invalid regular expression",
		"var r = /a/gg;":                                   "1:9: Invalid flags",
		"with (a) {}":                                      "1:1: Strict mode code may not include a with statement",
		"const f = (a) => {\n  eval = a;\n};":              "2:3: Assignment to eval",
		"class A {\n constructor() {}\n constructor() {}}": "3:2: A class may only have one constructor",
		"\n const r = [{a: /\\p{Lu}/u}];":                  "2:17: classes such as \\p{Lu} are not available",
		"const r = (x) => `${x.match(/[\\P{L}]/v)}`;":      "1:29: ",
		"const r = /\\p{Lu}/;":                             "", // a p, a brace and so on
		"const r = /\\\\p{2}/u;":                           "", // a backslash and two of p
		"const r = /(?<year>\\d+)(?<=x)/su;":               "",
	} {
		_, problems := script.Parse("s", "shortcodes/s.js",
			[]byte("/*\n*/\n"+text+"\nfunction shortcode() {}"), block.NewReader())
		if want == "" {
			require.Empty(t, problems, text)
			continue
		}
		require.NotEmpty(t, problems, text)
		p := problems[0]
		require.Equal(t, "syntax", p.Code)
		require.Contains(t, fmt.Sprintf("%d:%d: %s", p.Line-2, p.Column, p.Message), want, text)
	}
}
