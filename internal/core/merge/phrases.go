package merge

import "strings"

// Span is a stretch of a text, in bytes.
type Span struct{ From, To int }

// Difference is where two texts say different things.
type Difference struct{ A, B Span }

// Phrases finds where two texts differ, each as wide as a field should be: a phrase is one, though
// only some of its words differ, and none is empty if there is a word beside it.
func Phrases(a, b string) []Difference {
	pieces := Two(a, b)
	var out []Difference
	x, y := 0, 0
	for i, p := range pieces {
		d := Difference{Span{x, x + len(p.Ours)}, Span{y, y + len(p.Theirs)}}
		x, y = d.A.To, d.B.To
		if !p.Conflict {
			continue
		}
		if d.A.From == d.A.To || d.B.From == d.B.To { // a field is made of something
			by := 0
			if i > 0 {
				by = lastWord(pieces[i-1].Text)
			}
			d.A.From, d.B.From = d.A.From-by, d.B.From-by
			if by == 0 && i+1 < len(pieces) {
				by = firstWord(pieces[i+1].Text)
				d.A.To, d.B.To = d.A.To+by, d.B.To+by
			}
		}
		out = append(out, d)
	}
	return out
}

// marks end a phrase: they belong to the markup.
const marks = "<>\"'=@{}"

// lastWord is how many bytes the word at the end of a text has, with what is between.
func lastWord(s string) int {
	s = s[strings.LastIndexAny(s, marks)+1:]
	words := strings.TrimRight(s, " \t\r\n")
	return len(s) - strings.LastIndexAny(words, " \t\r\n") - 1
}

// firstWord is how many bytes the word at the beginning of a text has, with what is between.
func firstWord(s string) int {
	if i := strings.IndexAny(s, marks); i >= 0 {
		s = s[:i]
	}
	words := strings.TrimLeft(s, " \t\r\n")
	if i := strings.IndexAny(words, " \t\r\n"); i >= 0 {
		return len(s) - len(words) + i
	}
	return len(s)
}
