package repeat

import (
	"bytes"
	"html"
	"slices"
	"strconv"
	"strings"
	"unicode"
)

// hintsOf are words of which a field in elements can be named, the best first, and behind them those of what
// is around it. Only values that all of them have are such words.
func hintsOf(c column, in []int, around []string) []string {
	head, attrs, _ := attributes(c[in[0]].tag())
	attrs = slices.DeleteFunc(attrs, func(a attr) bool {
		whole := slices.Concat(a.name, a.eq, quoted(a.quote), a.value)
		return slices.ContainsFunc(in, func(i int) bool { return !bytes.Contains(c[i].tag(), whole) })
	})
	elem := strings.ToLower(string(head[min(1, len(head)):]))
	var out []string
	for _, want := range []string{"rel", "name", "property", "itemprop", "id", "class", "accesskey", "alt"} {
		for _, a := range attrs {
			if strings.EqualFold(string(a.name), want) {
				if s := NameOf(string(a.value)); s != "" && len(s) <= 24 && !bytes.Contains(a.value, []byte("@{")) {
					out = append(out, s)
				}
			}
		}
	}
	if m := meanings[elem]; m != "" {
		out = append(out, m)
	}
	return append(out, around...)
}

// meanings are what elements hold.
var meanings = map[string]string{"title": "title", "h1": "heading", "h2": "heading", "h3": "heading",
	"h4": "heading", "h5": "heading", "h6": "heading", "img": "image", "time": "date", "td": "cell", "th": "head",
	"li": "entry", "p": "paragraph", "pre": "code", "code": "code", "dt": "term", "dd": "description",
	"caption": "caption", "ul": "entries", "ol": "entries", "tr": "row", "table": "table", "a": "label"}

// around puts before the hints the words that stand right before, as those of a label: Last changed.
func around(before []part, hints []string) []string {
	if len(before) == 0 || before[len(before)-1].kind != fixed {
		return hints
	}
	b := before[len(before)-1].bytes
	if i := bytes.LastIndexByte(b, '>'); i >= 0 {
		if len(bytes.TrimSpace(b[i+1:])) == 0 {
			return hints
		}
		b = b[i+1:]
	}
	words := strings.Fields(html.UnescapeString(string(b)))
	words = words[max(len(words)-2, 0):]
	if s := NameOf(strings.Join(words, " ")); s != "" && len(s) <= 24 {
		return append([]string{s}, hints...)
	}
	return hints
}

// wordsOf are hints of what fixed parts say.
func wordsOf(parts []part) []string {
	for _, p := range parts {
		for _, piece := range bytes.Split(p.bytes, []byte(">")) {
			text, _, _ := bytes.Cut(piece, []byte("<"))
			words := strings.Fields(html.UnescapeString(string(text)))
			if s := NameOf(strings.Join(words[:min(len(words), 2)], " ")); s != "" {
				return []string{s}
			}
		}
	}
	return nil
}

// NameOf is a name made of words: lower-case letters, digits and hyphens, a letter first.
func NameOf(s string) string {
	var out strings.Builder
	for _, r := range strings.ToLower(s) {
		switch {
		case r >= 'a' && r <= 'z' || r >= '0' && r <= '9' && out.Len() > 0:
			out.WriteRune(r)
		case out.Len() > 0 && !strings.HasSuffix(out.String(), "-") && (unicode.IsSpace(r) || unicode.IsPunct(r)):
			out.WriteByte('-')
		}
	}
	return strings.Trim(out.String(), "-")
}

// name finds a name for a hole that no other has: of the words around it, and of the attribute that it is in.
func name(h *hole, taken map[string]bool) string {
	suffix := map[string]string{"href": "href", "src": "src", "content": "", "value": "", "": ""}
	tail, ok := suffix[h.attr]
	if !ok {
		tail = NameOf(h.attr)
	}
	var tries []string
	for _, w := range h.hints {
		switch {
		case tail == "" || w == tail:
			tries = append(tries, w)
		case w == "image" && tail == "src" || w == "label" && tail == "href":
		default:
			tries = append(tries, w+"-"+tail)
		}
	}
	if tail != "" {
		tries = append(tries, map[string]string{"href": "address", "src": "image"}[tail], tail)
	}
	if h.place == inMarkup {
		tries = append(tries, "content")
	}
	tries = append(tries, "words")
	if h.blank() {
		tries = []string{"spacing"}
	}
	free := func(s string) bool { return s != "" && !taken[s] && !reserved[s] }
	for _, t := range tries {
		if free(t) {
			taken[t] = true
			return t
		}
	}
	for i := range len(tries) {
		for j := i + 1; j < len(tries); j++ {
			if t := tries[j] + "-" + tries[i]; free(t) && len(t) <= 32 {
				taken[t] = true
				return t
			}
		}
	}
	for n := 2; ; n++ {
		if t := tries[0] + "-" + strconv.Itoa(n); free(t) {
			taken[t] = true
			return t
		}
	}
}

var reserved = setOf("when else each region fill copy assets key inner page site or is not as key true false")
