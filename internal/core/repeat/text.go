package repeat

import "bytes"

// text makes a field of a text, and leaves white space around it that is the same outside.
func (a *aligner) text(in []int, of func(i int) []byte, hints []string) []part {
	lead, trail := of(in[0]), of(in[0])
	for _, i := range in {
		lead = lead[:prefix(lead, of(i))]
	}
	if lead = said(lead, hints); len(lead) == 0 {
		lead = blank(of(in[0]))
		for _, i := range in {
			lead = lead[:prefix(lead, blank(of(i)))]
		}
	}
	for _, i := range in {
		trail = trail[len(trail)-suffix(trail, of(i)[len(lead):]):]
	}
	if trail = saidLast(trail, hints); len(trail) == 0 {
		trail = blankEnd(of(in[0])[len(lead):])
		for _, i := range in {
			trail = trail[len(trail)-suffix(trail, blankEnd(of(i)[len(lead):])):]
		}
	}
	h := hole{place: inText, hints: around([]part{{bytes: lead}}, hints)}
	cut := func(i int) []byte { b := of(i); return b[len(lead) : len(b)-len(trail)] }
	for _, i := range in {
		if bytes.IndexByte(cut(i), '<') >= 0 {
			h.place = inMarkup
		}
	}
	return []part{{bytes: lead}, {kind: value, hole: a.add(h, in, cut)}, {bytes: trail}}
}

// leastSaid is how many bytes of a text have to be the same for them to stand outside of its field.
const leastSaid = 16

// said is what texts that begin alike all say first, in whole words: a label, or much of a sentence.
// Titles and headings stay whole, since they are those of the page.
func said(b []byte, hints []string) []byte {
	n := bytes.LastIndexAny(b, blanks) + 1
	words := bytes.TrimRight(b[:n], blanks)
	if len(hints) > 0 && (hints[0] == "title" || hints[0] == "heading") ||
		len(words) < leastSaid && !bytes.HasSuffix(words, []byte(":")) || bytes.IndexByte(b[:n], '<') >= 0 {
		return nil
	}
	return b[:n]
}

// saidLast is what texts that end alike all say last.
func saidLast(b []byte, hints []string) []byte {
	n := bytes.IndexAny(b, blanks)
	if n < 0 || len(bytes.TrimSpace(b[n:])) < leastSaid || bytes.IndexByte(b[n:], '<') >= 0 ||
		len(hints) > 0 && (hints[0] == "title" || hints[0] == "heading") {
		return nil
	}
	return b[n:]
}

// blankEnd is the white space at the end of a text.
func blankEnd(b []byte) []byte { return b[len(bytes.TrimRight(b, blanks)):] }

func blank(b []byte) []byte { return b[:len(b)-len(bytes.TrimLeft(b, blanks))] }

func prefix(a, b []byte) int {
	n := 0
	for n < len(a) && n < len(b) && a[n] == b[n] {
		n++
	}
	return n
}

func suffix(a, b []byte) int {
	n := 0
	for n < len(a) && n < len(b) && a[len(a)-1-n] == b[len(b)-1-n] {
		n++
	}
	return n
}
