// Package merge joins two edits of one text: line by line, and where both have touched the same
// lines, tag by tag and word by word. What both have changed in different ways is a conflict.
package merge

import (
	"regexp"
	"slices"
	"strings"
	"time"

	"github.com/sergi/go-diff/diffmatchpatch"
)

// Piece is a stretch of a merged text: what the base and either edit have there, and what is
// made of it, unless it is a conflict.
type Piece struct {
	Text               string // "" in a conflict
	Conflict           bool
	Base, Ours, Theirs string
}

// Three merges two edits of a base. The pieces follow one another; there are never two without
// conflict in a row, and none is empty. Bytes that are no UTF-8 are kept as they are.
func Three(base, ours, theirs string) []Piece {
	var out []Piece
	for _, p := range three(lines(base), lines(ours), lines(theirs)) {
		if p.Conflict && len(p.Base)+len(p.Ours)+len(p.Theirs) <= closely {
			out = append(out, joined(three(tokens(p.Base), tokens(p.Ours), tokens(p.Theirs)))...)
		} else {
			out = append(out, p)
		}
	}
	return tidy(out)
}

// Two compares two texts word by word. Where they differ there is a conflict, without a base; a
// phrase in which several words differ is one.
func Two(a, b string) []Piece {
	list := []string{a}
	other := []string{b}
	if len(a)+len(b) <= closely {
		list, other = tokens(a), tokens(b)
	}
	in := symbols{}
	at := matches(in.of(list), in.of(other))
	var out []Piece
	x, y := 0, 0
	put := func(toX, toY int) {
		p := Piece{Ours: text(list[x:toX]), Theirs: text(other[y:toY])}
		if p.Conflict = p.Ours != p.Theirs; !p.Conflict {
			p.Text = p.Ours
		}
		n := len(out)
		if p.Conflict && n >= 2 && out[n-2].Conflict && !strings.ContainsAny(out[n-1].Text, "<>\"'=@{}\n") {
			out[n-2].add(out[n-1])
			out[n-2].add(p)
			out = out[:n-1]
		} else if p != (Piece{}) {
			out = tidy(append(out, p))
		}
		x, y = toX, toY
	}
	for i, j := range at {
		if j >= 0 {
			put(i, j)
			put(i+1, j+1)
		}
	}
	put(len(list), len(other))
	return out
}

// Lines finds where two texts differ line by line.
func Lines(a, b string) []Difference {
	var out []Difference
	list, other := lines(a), lines(b)
	in := symbols{}
	var x, y, atX, atY int // lines, and bytes
	for i, j := range append(matches(in.of(list), in.of(other)), len(other)) {
		if j < 0 {
			continue
		}
		d := Difference{Span{atX, atX + len(text(list[x:i]))}, Span{atY, atY + len(text(other[y:j]))}}
		if i > x || j > y {
			out = append(out, d)
		}
		if x, y, atX, atY = i+1, j+1, d.A.To, d.B.To; i < len(list) {
			atX, atY = atX+len(list[i]), atY+len(other[j])
		}
	}
	return out
}

// closely is how many bytes of a conflict are looked at word by word. More takes too long and
// is another text.
const closely = 64 << 10

// Resolved is the merged text with a text in the place of each conflict, in their order.
func Resolved(pieces []Piece, with []string) string {
	var b strings.Builder
	at := 0
	for _, p := range pieces {
		if p.Conflict {
			b.WriteString(with[at])
			at++
		} else {
			b.WriteString(p.Text)
		}
	}
	return b.String()
}

// Conflicts counts what is left to be decided.
func Conflicts(pieces []Piece) int {
	n := 0
	for _, p := range pieces {
		if p.Conflict {
			n++
		}
	}
	return n
}

func lines(s string) []string {
	out := strings.SplitAfter(s, "\n")
	if out[len(out)-1] == "" {
		out = out[:len(out)-1]
	}
	return out
}

// token is the beginning of a tag, a word, white space or a single character.
var token = regexp.MustCompile(`</?[\pL\pN-]+|@\{/?[\pL\pN-]*|[\pL\pN_-]+|\s+|(?s).`)

func tokens(s string) []string { return token.FindAllString(s, -1) }

// three merges sequences that make up texts.
func three(base, ours, theirs []string) []Piece {
	in, seen := symbols{}, [3][]rune{}
	for i, list := range [][]string{base, ours, theirs} {
		seen[i] = in.of(list)
	}
	o, t := matches(seen[0], seen[1]), matches(seen[0], seen[2])
	var out []Piece
	b, x, y := 0, 0, 0
	for {
		next := b // the next of the base that stands in both
		for next < len(base) && (o[next] < 0 || t[next] < 0) {
			next++
		}
		toX, toY := len(ours), len(theirs)
		if next < len(base) {
			toX, toY = o[next], t[next]
		}
		out = append(out, decided(text(base[b:next]), text(ours[x:toX]), text(theirs[y:toY])))
		if next == len(base) {
			return tidy(out)
		}
		out = append(out, decided(base[next], base[next], base[next]))
		b, x, y = next+1, toX+1, toY+1
	}
}

// decided is what stands where at least one of two edits has changed something.
func decided(base, ours, theirs string) Piece {
	p := Piece{Base: base, Ours: ours, Theirs: theirs}
	switch {
	case ours == theirs, theirs == base:
		p.Text = ours
	case ours == base:
		p.Text = theirs
	default:
		p.Conflict = true
	}
	return p
}

func text(list []string) string { return strings.Join(list, "") }

// matches tells for each symbol of a sequence where it stands in another, or -1: a common
// sequence, as long as can be.
func matches(a, b []rune) []int {
	d := diffmatchpatch.New()
	d.DiffTimeout = longest
	out := make([]int, 0, len(a))
	at := 0
	for _, part := range d.DiffMainRunes(a, b, false) {
		for range []rune(part.Text) {
			switch part.Type {
			case diffmatchpatch.DiffEqual:
				out = append(out, at)
				at++
			case diffmatchpatch.DiffDelete:
				out = append(out, -1)
			case diffmatchpatch.DiffInsert:
				at++
			}
		}
	}
	return out
}

// longest is how long a comparison looks for the least difference. Texts that need more have
// almost nothing in common.
const longest = time.Second

// symbols gives each line or token a rune of its own.
type symbols map[string]rune

func (s symbols) of(list []string) []rune {
	out := make([]rune, len(list))
	for i, one := range list {
		r, known := s[one]
		if !known {
			if r = rune(len(s)) + 1; r >= 0xd800 { // where no characters are
				r += 0x800
			}
			s[one] = r
		}
		out[i] = r
	}
	return out
}

// joined makes one conflict of those between which only a word or two are settled: a sentence
// that both have written anew is one choice and not five.
func joined(list []Piece) []Piece {
	var out []Piece
	for _, p := range list {
		n := len(out)
		if p.Conflict && n >= 2 && out[n-2].Conflict && little(out[n-1].Text) {
			out[n-2].add(out[n-1])
			out[n-2].add(p)
			out = out[:n-1]
			continue
		}
		out = append(out, p)
	}
	return out
}

// add takes what follows into what the base and the edits have.
func (p *Piece) add(next Piece) {
	p.Base += next.Base
	p.Ours += next.Ours
	p.Theirs += next.Theirs
}

// little reports whether a text is hardly more than a word, and no line of its own.
func little(s string) bool {
	return !strings.ContainsAny(s, "\n<") && len(strings.Fields(s)) <= 2
}

// tidy joins what follows one another without conflict.
func tidy(list []Piece) []Piece {
	var out []Piece
	for _, p := range list {
		n := len(out)
		switch {
		case p == Piece{}:
		case !p.Conflict && n > 0 && !out[n-1].Conflict:
			out[n-1].add(p)
			out[n-1].Text += p.Text
		default:
			out = append(out, p)
		}
	}
	return slices.Clip(out)
}
