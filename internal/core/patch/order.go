package patch

import (
	"slices"
	"strings"

	"brickshelf/internal/core/site"
)

// Move puts the key that keys lead to before the one that stands at a place among the others of its
// mapping, behind them all where there are no more. The comments above it go with it, and nothing
// else changes. The error is a site.Refusal where the text cannot be edited so.
func Move(path string, src []byte, keys []string, before int) ([]byte, error) {
	if len(keys) == 0 {
		return nil, site.Refuse("name a key")
	}
	return inYAML(path, src, func(text string) (string, error) {
		e, y, err := editing(text)
		if err != nil {
			return "", err
		}
		m := y
		for _, k := range keys[:len(keys)-1] {
			if m = m.Get(k); m == nil {
				return "", site.Refuse("%s is gone", strings.Join(keys, ", "))
			}
		}
		i := slices.IndexFunc(m.Pairs, func(p site.Pair) bool { return p.Key == keys[len(keys)-1] })
		if i < 0 || m.Kind != site.Mapping {
			return "", site.Refuse("%s is gone", strings.Join(keys, ", "))
		}
		order := moved(len(m.Pairs), i, before)
		from, parts, between := e.parts(m)
		if from < 0 {
			return "", unfit(keys)
		}
		var names []string
		out := text[:from]
		for n, at := range order {
			if n > 0 {
				out += between
			}
			out += parts[at]
			names = append(names, m.Pairs[at].Key)
		}
		out += text[from+len(strings.Join(parts, between)):]
		if !says(out, plainOf(y)) || !slices.Equal(names, keysAt(out, keys[:len(keys)-1])) {
			return "", unfit(keys)
		}
		return out, nil
	})
}

// moved are the places of n things, where one of them stands before another of the rest.
func moved(n, i, before int) []int {
	var rest []int
	for j := range n {
		if j != i {
			rest = append(rest, j)
		}
	}
	return slices.Insert(rest, min(max(before, 0), n-1), i)
}

// parts cuts a mapping into its entries, each with the comments above it, and tells where the first begins
// and what stands between them; from is -1 where it cannot be cut so.
func (e *keyEdit) parts(m *site.YAML) (from int, parts []string, between string) {
	if !insideBraces(e.text, m, e.lines) {
		from = -1
		at := len(strings.Join(e.lines[:m.Pairs[0].Line-1], ""))
		for at > 0 { // the comments above the first
			start := strings.LastIndexByte(e.text[:at-1], '\n') + 1
			if l := e.text[start:at]; !isComment(l) || len(l)-len(strings.TrimLeft(l, " ")) < m.Pairs[0].Col-1 {
				break
			}
			at = start
		}
		from = at
		for _, p := range m.Pairs {
			end := e.blockEnd(p)
			part := e.text[at:end]
			if !strings.HasSuffix(part, "\n") {
				return -1, nil, "" // the last line of a text that has no end
			}
			parts, at = append(parts, part), end
		}
		return from, parts, ""
	}
	for i, p := range m.Pairs {
		at, end := offset(e.lines, p.Line, p.Col), -1
		if value := e.valueAt(p, e.colon(p)); value >= 0 {
			end = scalarEnd(e.text, value, true)
		}
		if at < 0 || end < at {
			return -1, nil, ""
		}
		if i == 0 {
			from = at
		}
		parts = append(parts, strings.TrimRight(e.text[at:end], " "))
	}
	between = ", "
	if whole := strings.Join(parts, between); !strings.HasPrefix(e.text[from:], whole) {
		return -1, nil, ""
	}
	return from, parts, between
}

// keysAt lists the keys of a mapping in a text.
func keysAt(text string, keys []string) []string {
	y, problem := site.ParseYAML([]byte(text), "", 1)
	if problem != nil {
		return nil
	}
	for _, k := range keys {
		if y = y.Get(k); y == nil {
			return nil
		}
	}
	var out []string
	for _, p := range y.Pairs {
		out = append(out, p.Key)
	}
	return out
}
