// Package wording finds words wherever a site says them, and puts others there: in texts,
// attributes, arguments and values, each read as visitors read it and written as its place
// wants it; or in documents as they are written.
package wording

import (
	"bytes"
	"regexp"
	"strings"
	"unicode"
	"unicode/utf8"

	"brickshelf/internal/core/site"
)

// Query is what is looked for.
type Query struct {
	Text    string
	Pattern bool // Text is a regular expression, in the syntax of Go's package regexp
	Case    bool // capital letters are others than small ones
	Whole   bool // whole words alone
	// Written looks into documents as they are written: markup, keys, styles and scripts
	// too. Else what is read counts: a text of &amp; is one of &.
	Written bool
	// In are the classes of documents to look into; all, where there are none.
	In []site.Class
}

// matcher is a query made ready.
type matcher struct {
	*regexp.Regexp
	query Query
	// word has to stand in a document that says what is looked for, in small letters, save
	// where it is written by numbers of characters; "" where that cannot be told.
	word string
}

// compile makes a query ready. The error is a site.Refusal.
func compile(q Query) (*matcher, error) {
	if strings.TrimSpace(q.Text) == "" && !(q.Written && q.Text != "") {
		return nil, site.Refuse("type what to look for")
	}
	m := &matcher{query: q}
	source := q.Text
	if !q.Pattern {
		words := strings.FieldsFunc(q.Text, unicode.IsSpace)
		if source = regexp.QuoteMeta(q.Text); !q.Written {
			for i, w := range words {
				words[i] = regexp.QuoteMeta(w)
			}
			// Lines are broken anywhere, and spaces that do not break read as others do.
			source = strings.Join(words, `[\s\x{a0}]+`)
			m.word = longest(q.Text)
		}
	}
	flags := "(?m)"
	if !q.Case {
		flags = "(?mi)"
	}
	var err error
	if m.Regexp, err = regexp.Compile(flags + source); err != nil {
		what := strings.TrimPrefix(err.Error(), "error parsing regexp: ")
		return nil, site.Refuse("this is no regular expression: %s", what)
	}
	return m, nil
}

// longest is the longest run of small letters and digits in a text, in small letters.
func longest(text string) string {
	out := ""
	for _, w := range strings.FieldsFunc(strings.ToLower(text), func(r rune) bool {
		return r > 'z' || r < '0' || r > '9' && r < 'a'
	}) {
		if len(w) > len(out) {
			out = w
		}
	}
	return out
}

// can reports whether a document could say what is looked for.
func (m *matcher) can(src []byte) bool {
	if m.word == "" {
		return true
	}
	// Characters by their number.
	for _, s := range []string{"&#", `\u`, `\x`, `\U`} {
		if bytes.Contains(src, []byte(s)) {
			return true
		}
	}
	return says(src, m.word)
}

// says reports whether a text has a word of small letters and digits in it, however these are written: also
// by the two characters that count as s and k.
func says[T string | []byte](text T, word string) bool {
	n := len(word)
	for i := range len(text) {
		if text[i] >= 0x80 {
			rest := string(text[max(i-n, 0):])
			return strings.Contains(strings.ToLower(rest), word) || strings.ContainsAny(rest, "\u017f\u212a")
		}
		if i+n <= len(text) && text[i]|0x20 == word[0]|0x20 && strings.EqualFold(string(text[i:i+n]), word) {
			return true
		}
	}
	return false
}

// found is a stretch of a text that is looked for, with what would stand there.
type found struct {
	from, to int
	with     string
}

// find lists what of a text is looked for. Nothing is found where nothing stands.
func (m *matcher) find(text, with string) []found {
	var out []found
	if m.word != "" && !says(text, m.word) {
		return nil // this is told much faster than by the expression
	}
	for _, at := range m.FindAllStringSubmatchIndex(text, -1) {
		if at[0] == at[1] || m.query.Whole && !whole(text, at[0], at[1]) {
			continue
		}
		f := found{at[0], at[1], with}
		if m.query.Pattern {
			f.with = string(m.ExpandString(nil, with, text, at))
		}
		out = append(out, f)
	}
	return out
}

// whole reports whether no word goes on over an end of a stretch.
func whole(text string, from, to int) bool {
	before, _ := utf8.DecodeLastRuneInString(text[:from])
	first, _ := utf8.DecodeRuneInString(text[from:])
	last, _ := utf8.DecodeLastRuneInString(text[:to])
	behind, _ := utf8.DecodeRuneInString(text[to:])
	return !(inWord(before) && inWord(first)) && !(inWord(last) && inWord(behind))
}

func inWord(r rune) bool {
	return r != utf8.RuneError && (unicode.IsLetter(r) || unicode.IsDigit(r) || unicode.IsMark(r) || r == '_')
}
