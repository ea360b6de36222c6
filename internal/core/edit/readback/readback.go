// Package readback reads values off a text that was made with them: off what stands where a
// template has markers.
package readback

import (
	"fmt"
	"html"
	"net/url"
	"regexp"
	"strconv"
	"strings"

	"brickshelf/internal/core/block"
	"brickshelf/internal/core/markup"
)

// hole is where a value is shown: the number of its marker, and how that is written there.
var hole = regexp.MustCompile(`/?Qx(\d+)xQ/?|-?98765(\d{4})`)

// Marker is what stands for a value of a field in a template; "" where none can.
func Marker(f *block.Field, n int) string {
	switch f.Type {
	case block.Link:
		return fmt.Sprintf("/Qx%dxQ/", n)
	case block.Text, block.Lines, block.Rich:
		return fmt.Sprintf("Qx%dxQ", n)
	case block.Number:
		return fmt.Sprintf("98765%04d", n)
	}
	return ""
}

// Collect reads what stands in the holes of a template out of a text, by the numbers of their
// markers; nil if that is not made like it.
func Collect(template, text string) map[int][]string {
	var pattern strings.Builder
	var marks []int
	var inCall []bool // it is an argument, which is written otherwise than HTML
	at := 0
	for _, m := range hole.FindAllStringSubmatchIndex(template, -1) {
		pattern.WriteString(regexp.QuoteMeta(template[at:m[0]]) + "(.*?)")
		number := template[max(m[2], m[4]):max(m[3], m[5])]
		n, _ := strconv.Atoi(number) // the pattern has digits there
		marks, at = append(marks, n), m[1]
		inCall = append(inCall, strings.LastIndex(template[:m[0]], "@{") > strings.LastIndexByte(template[:m[0]], '}'))
	}
	pattern.WriteString(regexp.QuoteMeta(template[at:]))
	re, err := regexp.Compile(`(?s)^` + pattern.String() + `$`)
	if err != nil {
		return nil
	}
	m := re.FindStringSubmatch(text)
	if m == nil {
		return nil
	}
	found := map[int][]string{}
	for i, n := range marks {
		text := m[i+1]
		if inCall[i] {
			text = html.EscapeString(unquoted(text))
		}
		found[n] = append(found[n], text)
	}
	return found
}

// unquoted is what stands between the quotes of an argument.
func unquoted(text string) string {
	if t := markup.Parse([]byte(`@{x v="` + text + `" /}`)); len(t.Nodes) == 1 && t.Nodes[0].Kind == markup.Call {
		return t.Nodes[0].ArgString("v")
	}
	return text
}

// Value reads back what was written where a field is shown: as it stands in rich text, as text,
// as lines, and as a part of an address where it stands elsewhere in plain words; all its holes
// have to say the same.
func Value(holes []string, f *block.Field) (string, bool) {
	var read []string
	for _, h := range holes {
		text := h
		if f.Type != block.Rich {
			text = html.UnescapeString(h)
		}
		if f.Type == block.Lines {
			text = strings.ReplaceAll(text, "<br>\n", "\n")
		}
		read = append(read, text)
	}
	for _, text := range read {
		same := true
		for _, other := range read {
			plain, err := url.PathUnescape(other)
			same = same && (other == text || err == nil && plain == text)
		}
		if same {
			return text, true
		}
	}
	return "", false
}

// Marked reports whether a text has markers.
func Marked(text string) bool { return hole.MatchString(text) }
