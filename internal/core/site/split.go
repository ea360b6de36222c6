package site

import (
	"bytes"
	"sync"

	"brickshelf/internal/core/markup"
)

// Split is a document cut into its front matter and its text. HeadLine and
// TextLine are the lines of the file at which each begins; TextAt is the byte
// offset of the text. HasHead is false where the document has no front matter, Marked is
// set where a byte order mark stands before everything.
type Split struct {
	Head     []byte
	Text     []byte
	HasHead  bool
	Marked   bool
	HeadLine int
	TextLine int
	TextAt   int

	places *places
}

// places finds places in the text of a document. Faults are mostly found in their order.
type places struct {
	mu     sync.Mutex
	cursor markup.Cursor
}

// position is the line and column of an offset in the text, from the text's beginning.
func (s Split) position(offset int) (line, column int) {
	if s.places == nil {
		return markup.Position(s.Text, offset)
	}
	s.places.mu.Lock()
	defer s.places.mu.Unlock()
	return s.places.cursor.Position(s.Text, offset)
}

// ByteOrderMark may stand before the first line of a text in UTF-8.
var ByteOrderMark = []byte("\xef\xbb\xbf")

// Cut splits a document at the lines "---". A document that does not begin with
// such a line is text alone. The problem is "" unless the front matter never ends.
func Cut(src []byte) (Split, string) {
	body, marked := bytes.CutPrefix(src, ByteOrderMark)
	begin := len(src) - len(body)
	rest, ok := cutFence(body)
	if !ok {
		return Split{Text: body, Marked: marked, HeadLine: 1, TextLine: 1, TextAt: begin, places: &places{}},
			""
	}
	start := len(src) - len(rest)
	line := 2
	for at := start; at < len(src); line++ {
		if after, ok := cutFence(src[at:]); ok {
			to := len(src) - len(after)
			return Split{Head: src[start:at], Text: src[to:], HasHead: true, Marked: marked, HeadLine: 2,
				TextLine: line + 1, TextAt: to, places: &places{}}, ""
		}
		i := bytes.IndexByte(src[at:], '\n')
		if i < 0 {
			break
		}
		at += i + 1
	}
	return Split{Text: body, Marked: marked, HeadLine: 1, TextLine: 1, TextAt: begin},
		"the front matter that begins here never ends; close it with a line of ---"
}

// cutFence takes a line "---" off the beginning of b.
func cutFence(b []byte) ([]byte, bool) {
	r, ok := bytes.CutPrefix(b, []byte("---"))
	if !ok {
		return nil, false
	}
	r = bytes.TrimLeft(r, " \t")
	if len(r) == 0 {
		return r, true
	}
	if r[0] == '\r' {
		r = r[1:]
	}
	if len(r) > 0 && r[0] == '\n' {
		return r[1:], true
	}
	return nil, false
}
