package edit

import (
	"bytes"
	"sort"
	"strings"

	"brickshelf/internal/core/site"
)

// patch replaces bytes of a document.
type patch struct {
	from, to int
	with     string
}

// patched applies patches that do not overlap.
func patched(src []byte, list []patch) []byte {
	sort.Slice(list, func(i, j int) bool { return list[i].from < list[j].from })
	out := make([]byte, 0, len(src)+64)
	at := 0
	for _, p := range list {
		if p.from < at {
			continue
		}
		out = append(out, src[at:p.from]...)
		out = append(out, p.with...)
		at = p.to
	}
	return append(out, src[at:]...)
}

// yamlText is YAML with the byte offset of each of its keys and values.
type yamlText struct {
	src   []byte
	lines []string
	at    []int // of all keys and values, ascending
}

func readYAML(src []byte) (*yamlText, *site.YAML, error) {
	y, problem := site.ParseYAML(src, "", 1)
	if problem != nil {
		return nil, nil, problem
	}
	t := &yamlText{src: src, lines: strings.SplitAfter(string(src), "\n")}
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
	return t, y, nil
}

func (t *yamlText) note(line, col int) {
	if o := offset(t.lines, line, col); o >= 0 {
		t.at = append(t.at, o)
	}
}

// extent is the range of bytes from a key or value to the next one.
func (t *yamlText) extent(line, col int) (from, to int) {
	from = offset(t.lines, line, col)
	if from < 0 {
		return 0, 0
	}
	i := sort.SearchInts(t.at, from+1)
	return from, t.at[i]
}

// within patches each occurrence of old between two offsets that accept takes,
// given what stands before and behind it.
func within(src []byte, from, to int, old, with string, accept func(before, behind string) bool) []patch {
	var out []patch
	for i := from; ; i += len(old) {
		j := bytes.Index(src[i:to], []byte(old))
		if j < 0 {
			return out
		}
		i += j
		if accept(string(src[from:i]), string(src[i+len(old):])) {
			out = append(out, patch{i, i + len(old), with})
		}
	}
}
