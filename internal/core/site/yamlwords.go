package site

import (
	"regexp"
	"strings"
)

// yamlWords say what is wrong with a text of YAML, by what the parser of the package says, and how to
// mend it. The first that fits is told.
var yamlWords = []struct {
	when *regexp.Regexp
	say  string
}{
	{regexp.MustCompile(`tab character|character '\t'`), "a tab stands here; indent with spaces"},
	{regexp.MustCompile(`sequence end token`), "a list begins here and is never closed; close it with ]"},
	{regexp.MustCompile(`flow mapping end token`), "a group of keys begins here and is never closed; close it with }"},
	{regexp.MustCompile(`end character of single-quoted`),
		"a text in quotes begins here and never ends; close it with ', and write '' for one within"},
	{regexp.MustCompile(`end character of double-quoted`), `a text in quotes begins here and never ends; close it with "`},
	{regexp.MustCompile(`unknown escape character '(.)'`),
		`a backslash and $1 mean nothing in double quotes; write two backslashes, or use single quotes`},
	{regexp.MustCompile(`'(.)' is a reserved character`), "a text cannot begin with $1; put it in quotes"},
	{regexp.MustCompile(`directive`), "a text cannot begin with %; put it in quotes"},
	{regexp.MustCompile(`block sequence entries`), "a list begins on a line of its own; put each - on one, indented"},
	{regexp.MustCompile(`mapping value is not allowed`),
		"a colon stands here where no key can; put a text that holds one in quotes, or indent the line as its neighbours"},
	{regexp.MustCompile(`unexpected key name|non-map value`), "here should stand a key and its value, as in title: Fares"},
	{regexp.MustCompile(`value is not allowed`),
		"this belongs to nothing here; indent the line as its neighbours, or put the text in quotes"},
}

// yamlWord is what is wrong, in words of this program.
func yamlWord(message string) string {
	for _, w := range yamlWords {
		if m := w.when.FindStringSubmatch(message); m != nil {
			if len(m) > 1 {
				return strings.ReplaceAll(w.say, "$1", m[1])
			}
			return w.say
		}
	}
	return "this cannot be read as YAML; look at its quotes, brackets and indentation"
}
