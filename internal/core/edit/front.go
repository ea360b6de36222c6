package edit

import (
	"bytes"
	"slices"
	"strings"

	"brickshelf/internal/core/site"
)

// setEntry adds an entry to a mapping at the top of a document's front matter,
// making the mapping or the front matter where there is none.
func setEntry(src []byte, key, name, value string) ([]byte, error) {
	split, bad := site.Cut(src)
	if bad != "" {
		return nil, refuse("%s", bad)
	}
	nl := newline(src)
	entry := site.QuoteYAML(name) + ": " + value + nl
	if !split.HasHead {
		mark, text := marked(src)
		return slices.Concat(mark, []byte("---"+nl+key+":"+nl+"  "+entry+"---"+nl), text), nil
	}
	head := string(split.Head)
	y, problem := site.ParseYAML(split.Head, "", 1)
	if problem != nil {
		return nil, problem
	}
	m := y.Get(key)
	lines := strings.SplitAfter(head, "\n")
	var out string
	switch {
	case m == nil:
		out = head + key + ":" + nl + "  " + entry
	case m.Kind == site.Mapping && len(m.Pairs) > 0 && !inline(lines, y, key):
		at := m.Pairs[0].Line - 1
		out = strings.Join(lines[:at], "") + strings.Repeat(" ", m.Pairs[0].Col-1) + entry + strings.Join(lines[at:], "")
	default: // in braces, or empty: written anew, an entry a line
		from, to := extent(lines, y, key)
		out = strings.Join(lines[:from], "") + key + ":" + nl
		if m.Kind == site.Mapping {
			for _, p := range m.Pairs {
				out += "  " + site.QuoteYAML(p.Key) + ": " + flow(p.Value) + nl
			}
		}
		out += "  " + entry + strings.Join(lines[to:], "")
	}
	return rebuilt(src, split, out, key, name, true)
}

// dropEntry takes an entry out of such a mapping, and the mapping with it where
// it was the last.
func dropEntry(src []byte, key, name string) ([]byte, error) {
	split, _ := site.Cut(src)
	y, problem := site.ParseYAML(split.Head, "", 1)
	if problem != nil {
		return nil, problem
	}
	m := y.Get(key)
	if m == nil || m.Get(name) == nil {
		return nil, refuse("there is no %s at %s", key, name)
	}
	lines := strings.SplitAfter(string(split.Head), "\n")
	from, to := extent(lines, y, key)
	var out string
	switch {
	case len(m.Pairs) == 1:
		out = strings.Join(lines[:from], "") + strings.Join(lines[to:], "")
	case inline(lines, y, key):
		nl := newline(src)
		out = strings.Join(lines[:from], "") + key + ":" + nl
		for _, p := range m.Pairs {
			if p.Key != name {
				out += "  " + site.QuoteYAML(p.Key) + ": " + flow(p.Value) + nl
			}
		}
		out += strings.Join(lines[to:], "")
	default:
		for i, p := range m.Pairs {
			if p.Key == name {
				first, last := p.Line-1, to
				if i+1 < len(m.Pairs) {
					last = m.Pairs[i+1].Line - 1
				}
				out = strings.Join(lines[:first], "") + strings.Join(lines[last:], "")
			}
		}
	}
	return rebuilt(src, split, out, key, name, false)
}

// rebuilt puts new front matter into a document, having read it back: an edit
// that did not do what it was meant to is refused rather than written.
func rebuilt(src []byte, split site.Split, head, key, name string, wanted bool) ([]byte, error) {
	y, problem := site.ParseYAML([]byte(head), "", 1)
	if problem != nil || (y.Get(key).Get(name) != nil) != wanted {
		return nil, refuse("the front matter is written in a way that cannot be edited here; write %s with one entry a line", key)
	}
	at := bytes.Index(src, split.Head)
	if len(split.Head) == 0 {
		at = bytes.IndexByte(src, '\n') + 1
	}
	out := append([]byte{}, src[:at]...)
	out = append(out, head...)
	return append(out, src[at+len(split.Head):]...), nil
}

func newline(src []byte) string {
	if i := bytes.IndexByte(src, '\n'); i > 0 && src[i-1] == '\r' {
		return "\r\n"
	}
	return "\n"
}

// extent is the range of lines that a key at the top of a mapping covers.
func extent(lines []string, y *site.YAML, key string) (from, to int) {
	to = len(lines)
	for i, p := range y.Pairs {
		if p.Key == key {
			from = p.Line - 1
			if i+1 < len(y.Pairs) {
				to = y.Pairs[i+1].Line - 1
			}
		}
	}
	return from, to
}

// inline reports whether the mapping under key begins on the key's own line.
func inline(lines []string, y *site.YAML, key string) bool {
	for _, p := range y.Pairs {
		if p.Key == key {
			return p.Value.Kind == site.Mapping && (len(p.Value.Pairs) == 0 || p.Value.Pairs[0].Line == p.Line || strings.Contains(lines[p.Line-1], "{"))
		}
	}
	return false
}

// flow writes a YAML node on one line.
func flow(y *site.YAML) string {
	switch y.Kind {
	case site.Mapping:
		var parts []string
		for _, p := range y.Pairs {
			parts = append(parts, site.QuoteYAML(p.Key)+": "+flow(p.Value))
		}
		return "{" + strings.Join(parts, ", ") + "}"
	case site.Sequence:
		var parts []string
		for _, it := range y.Items {
			parts = append(parts, flow(it))
		}
		return "[" + strings.Join(parts, ", ") + "]"
	case site.Text:
		return site.QuoteYAML(y.Text)
	case site.Null:
		return "null"
	}
	return y.Text
}
