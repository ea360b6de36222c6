package edit

import (
	"bytes"
	"slices"
	"strings"

	"brickshelf/internal/core/site"
)

// setEntry adds an entry, whose value is YAML on one line, to a mapping at the top of a
// page's front matter, making the mapping or the front matter where there is none.
func setEntry(path string, src []byte, key, name, value string) ([]byte, error) {
	split, bad := site.Cut(src)
	if bad != "" {
		return nil, refuse("%s", bad)
	}
	nl := newline(src)
	entry := key + ":" + nl + "  " + site.QuoteYAML(name) + ": " + value + nl
	if !split.HasHead {
		mark, text := marked(src)
		return slices.Concat(mark, []byte("---"+nl+entry+"---"+nl), text), nil
	}
	y, problem := site.ParseYAML(split.Head, "", 1)
	if problem != nil {
		return nil, problem
	}
	if m := y.Get(key); m != nil {
		return SetKey(path, src, []string{key, name}, literal(value))
	}
	at := bytes.IndexByte(src, '\n') + 1 + len(split.Head)
	return slices.Concat(src[:at], []byte(entry), src[at:]), nil
}

// dropEntry takes an entry out of such a mapping, and the mapping with it where
// it was the last.
func dropEntry(path string, src []byte, key, name string) ([]byte, error) {
	split, _ := site.Cut(src)
	y, problem := site.ParseYAML(split.Head, "", 1)
	if problem != nil {
		return nil, problem
	}
	if y.Get(key).Get(name) == nil {
		return nil, refuse("there is no %s at %s", key, name)
	}
	return SetKey(path, src, []string{key, name}, nil)
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
