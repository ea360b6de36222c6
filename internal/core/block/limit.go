package block

import (
	"math/big"
	"unicode/utf8"

	"brickshelf/internal/core/site"
)

// limit reads a bound of a field: of a number its value, of a date the day, of a
// text its length in characters, of a list how many items it has.
func (h *Head) limit(f *Field, p site.Pair) string {
	s := h.String(p)
	of := &Field{Name: p.Key, Type: Number}
	switch f.Type {
	case Number:
	case Date:
		of.Type = Date
	case Text, Lines, Rich, List:
		if n, ok := new(big.Int).SetString(s, 10); !ok || n.Sign() < 0 {
			h.Fail(p.Value.Line, p.Value.Col, "wrong-type",
				"%s of the %s %s should be a whole number, as in %s: 3", p.Key, f.Type, f.Name, p.Key)
			return ""
		}
	default:
		h.Fail(p.Line, p.Col, "wrong-type", "a %s has no %s; numbers, dates, texts and lists do",
			f.Type, p.Key)
		return ""
	}
	if _, err := h.Reader.scalar(of, s); err != nil || s == "" {
		h.Fail(p.Value.Line, p.Value.Col, "wrong-type", "%s of %s should be a %s", p.Key, f.Name, of.Type)
		return ""
	}
	return s
}

// within makes sure that a value keeps to the limits of its field. No value keeps
// to all of them.
func within(f *Field, v Value) error {
	if f.Min == "" && f.Max == "" || v.Empty() {
		return nil
	}
	size, what := v.Text, ""
	switch f.Type {
	case Text, Lines, Rich:
		size, what = count(utf8.RuneCountInString(v.Text)), " characters"
	case List:
		size, what = count(len(v.Items())), " items"
	}
	less := func(a, b string) bool {
		if f.Type == Date {
			return a < b // as ISO 8601 writes days
		}
		x, ok1 := new(big.Rat).SetString(a)
		y, ok2 := new(big.Rat).SetString(b)
		return ok1 && ok2 && x.Cmp(y) < 0
	}
	verb := "is"
	if what != "" {
		verb = "has"
	}
	switch {
	case f.Min != "" && less(size, f.Min):
		return misfit("%s %s at least %s%s, and this %s %s", f.Name, verb, f.Min, what, verb, short(size))
	case f.Max != "" && less(f.Max, size):
		return misfit("%s %s at most %s%s, and this %s %s", f.Name, verb, f.Max, what, verb, short(size))
	}
	return nil
}

func count(n int) string { return big.NewInt(int64(n)).String() }
