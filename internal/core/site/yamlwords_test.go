package site_test

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/require"

	"brickshelf/internal/core/site"
)

func TestMistakesInYAMLAreToldWithAWayOut(t *testing.T) {
	for text, want := range map[string]string{
		"title: A: B":         "1:8 a colon stands here where no key can; put a text that holds one in quotes, or indent the line as its neighbours",
		"a: 1\n b: 2":         "1:4 a colon stands here where no key can; put a text that holds one in quotes, or indent the line as its neighbours",
		"a: [1, 2":            "1:4 a list begins here and is never closed; close it with ]",
		"a: {b: c":            "1:4 a group of keys begins here and is never closed; close it with }",
		"\ta: 1":              "1:2 a tab stands here; indent with spaces",
		"fields:\n\tn: 1":     "2:1 a tab stands here; indent with spaces",
		"a: 'x":               "1:4 a text in quotes begins here and never ends; close it with ', and write '' for one within",
		"a: \"x":              "1:4 a text in quotes begins here and never ends; close it with \"",
		"a: \"\\q\"":          "1:6 a backslash and q mean nothing in double quotes; write two backslashes, or use single quotes",
		"sample: @{x /}":      "1:9 a text cannot begin with @; put it in quotes",
		"a: %x":               "1:4 a text cannot begin with %; put it in quotes",
		"a: - b":              "1:4 a list begins on a line of its own; put each - on one, indented",
		"a:1\nb: 2":           "1:1 here should stand a key and its value, as in title: Fares",
		"a: |\nb":             "2:1 here should stand a key and its value, as in title: Fares",
		"a:\n  - b\n c: 1":    "3:2 this belongs to nothing here; indent the line as its neighbours, or put the text in quotes",
		"a: b\n---\nc: d":     "1:1 only one YAML document can stand here",
		"a: &x 1":             "1:4 anchors, aliases, tags and merge keys are not read here; write the value out",
		"a: 1\na: 2":          "2:1 the key a stands here for a second time",
		"key with: 'a' b":     "1:15 this belongs to nothing here; indent the line as its neighbours, or put the text in quotes",
		"title: ok # and all": "",
	} {
		got := ""
		if _, p := site.ParseYAML([]byte(text), "p", 1); p != nil {
			got = fmt.Sprintf("%d:%d %s", p.Line, p.Column, p.Message)
		}
		require.Equal(t, want, got, text)
	}
}
