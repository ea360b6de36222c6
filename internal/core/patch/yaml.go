package patch

import (
	"sort"
	"strings"
	"unicode/utf8"

	"brickshelf/internal/core/site"
)

// YAML is a text of YAML with the byte offset of each of its keys and values.
type YAML struct {
	Src  []byte
	Root *site.YAML

	lines []string
	at    []int // of all keys and values, ascending
}

// Read reads a text of YAML.
func Read(src []byte) (*YAML, error) {
	y, problem := site.ParseYAML(src, "", 1)
	if problem != nil {
		return nil, problem
	}
	t := &YAML{Src: src, Root: y, lines: strings.SplitAfter(string(src), "\n")}
	var walk func(*site.YAML)
	walk = func(n *site.YAML) {
		t.note(n.Line, n.Col)
		for _, p := range n.Pairs {
			t.note(p.Line, p.Col)
			walk(p.Value)
		}
		for _, it := range n.Items {
			walk(it)
		}
	}
	walk(y)
	t.at = append(t.at, len(src))
	sort.Ints(t.at)
	return t, nil
}

func (t *YAML) note(line, col int) {
	if o := offset(t.lines, line, col); o >= 0 {
		t.at = append(t.at, o)
	}
}

// Extent is the range of bytes from a key or value, which begins at a line and column, to
// the next one.
func (t *YAML) Extent(line, col int) (from, to int) {
	from = offset(t.lines, line, col)
	if from < 0 {
		return 0, 0
	}
	i := sort.SearchInts(t.at, from+1)
	return from, t.at[i]
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

// offset is where a line and column stand in a text; -1 where not. Columns are counted in
// characters, of which a byte that is none of UTF-8 is one.
func offset(lines []string, line, col int) int {
	if line < 1 || line > len(lines) {
		return -1
	}
	at := 0
	for _, l := range lines[:line-1] {
		at += len(l)
	}
	rest := lines[line-1]
	for range col - 1 {
		if rest == "" {
			return -1
		}
		_, n := utf8.DecodeRuneInString(rest)
		rest = rest[n:]
		at += n
	}
	return at
}

// insideBraces reports whether a mapping is written in braces.
func insideBraces(head string, m *site.YAML, lines []string) bool {
	at := offset(lines, m.Line, m.Col)
	if at < 0 {
		return false
	}
	before := strings.TrimRight(head[:at], " ")
	return strings.HasSuffix(before, "{")
}

// scalarEnd is where the YAML value that begins at from ends on its line, or -1
// where it goes on over lines.
func scalarEnd(head string, from int, braces bool) int {
	if from < 0 || from >= len(head) {
		return -1
	}
	switch c := head[from]; c {
	case '"', '\'':
		for i := from + 1; i < len(head); i++ {
			switch {
			case c == '"' && head[i] == '\\':
				i++
			case head[i] == c && c == '\'' && i+1 < len(head) && head[i+1] == '\'':
				i++
			case head[i] == c:
				return i + 1
			}
		}
		return -1
	case '[', '{':
		depth := 0
		for i := from; i < len(head); i++ {
			switch head[i] {
			case '"', '\'':
				if i = scalarEnd(head, i, false) - 1; i < 0 {
					return -1
				}
			case '[', '{':
				depth++
			case ']', '}':
				if depth--; depth == 0 {
					return i + 1
				}
			}
		}
		return -1
	case '|', '>', '\n':
		return -1
	}
	for i := from; i < len(head); i++ {
		switch {
		case head[i] == '\n' || head[i] == '\r', head[i] == '#' && head[i-1] == ' ', braces &&
			(head[i] == ',' || head[i] == '}'):
			return from + len(strings.TrimRight(head[from:i], " \t"))
		}
	}
	return len(head)
}
