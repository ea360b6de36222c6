// Package patch edits texts and YAML so that every byte stays that need not change:
// comments, indentation, quotes, flow and block style, and line ends. It knows documents by
// their paths and nothing of what they say.
package patch

import (
	"bytes"
	"slices"
	"sort"

	"brickshelf/internal/core/site"
)

// Replacement puts other bytes in the place of those from From to To, offsets in a document.
type Replacement struct {
	From, To int
	With     string
}

// Put replaces the bytes between two offsets.
func Put(from, to int, with string) Replacement { return Replacement{from, to, with} }

// Shift moves replacements to the right, for a part of a document that begins at an offset.
func Shift(list []Replacement, by int) []Replacement {
	out := slices.Clone(list)
	for i := range out {
		out[i].From += by
		out[i].To += by
	}
	return out
}

// Apply makes replacements, in any order. One that overlaps another before it in the
// document is left out.
func Apply(src []byte, list []Replacement) []byte {
	list = slices.Clone(list)
	sort.SliceStable(list, func(i, j int) bool { return list[i].From < list[j].From })
	out := make([]byte, 0, len(src)+64)
	at := 0
	for _, p := range list {
		if p.From < at {
			continue
		}
		out = append(out, src[at:p.From]...)
		out = append(out, p.With...)
		at = p.To
	}
	return append(out, src[at:]...)
}

// Each replaces each occurrence of old between two offsets that accept takes, given what
// stands before it, from the first offset on, and behind it.
func Each(src []byte, from, to int, old, with string, accept func(before, behind string) bool) []Replacement {
	var out []Replacement
	for i := from; ; i += len(old) {
		j := bytes.Index(src[i:to], []byte(old))
		if j < 0 {
			return out
		}
		i += j
		if accept(string(src[from:i]), string(src[i+len(old):])) {
			out = append(out, Replacement{i, i + len(old), with})
		}
	}
}

// Newline is how lines end in a text: as the first one does.
func Newline(src []byte) string {
	if i := bytes.IndexByte(src, '\n'); i > 0 && src[i-1] == '\r' {
		return "\r\n"
	}
	return "\n"
}

// mark takes the byte order mark off a text.
func mark(src []byte) (mark, text []byte) {
	if text, ok := bytes.CutPrefix(src, site.ByteOrderMark); ok {
		return site.ByteOrderMark, text
	}
	return nil, src
}
