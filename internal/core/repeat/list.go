package repeat

import (
	"bytes"
	"slices"
)

// rows are those of a list, of all places: what they share, and where they differ.
type rows struct {
	*aligner
	parts []part
	ups   []string // of the pages on which they stand
	times []int    // how often each stands in all places
}

// Row is what one row of a list says: its values in the order of the fields of a row, nil where it has none.
type Row [][]byte

// rowNames are elements of which a list has many, and those of them whose rows may hold any markup: of
// others that is rather prose.
var (
	rowNames = hashes("li tr option a div section article")
	anyRows  = hashes("li tr")
)

// What the rows of a list have at most: fields, and conditions.
const (
	mostOfRow      = 6
	priceInRow     = 4 // what a row says is what one wants of it
	mostConditions = 2
)

// list makes a list of what elements hold: rows of one kind, of which each says something else. It reports
// false where they hold anything else, or the rows have too little in common.
func (a *aligner) list(lists [][]*item, in []int, hints []string) ([]part, bool) {
	if a.inRow {
		return nil, false // what rows hold is a text
	}
	lists, lead, trail := a.between(lists, in)
	found, spans, tails := split(lists, in, a.n)
	if len(found) < 2 {
		return nil, false
	}
	r := &rows{aligner: &aligner{price: priceInRow, inRow: true}}
	var rowLists [][]*item
	seen := map[string]int{}
	for _, row := range found {
		first, last := row[0], row[len(row)-1]
		text := first.page.Text[first.token().from:last.page.tokens[last.last].to]
		key := string(text) + "\x00" + first.page.Up
		n, known := seen[key]
		if !known {
			n = len(rowLists)
			seen[key] = n
			rowLists = append(rowLists, unsaid(row))
			r.ups, r.times = append(r.ups, first.page.Up), append(r.times, 0)
		}
		r.times[n]++
	}
	r.n = len(rowLists)
	if r.n < 2 {
		return nil, false
	}
	cols, ok := r.columns(rowLists, r.all())
	if !ok {
		return nil, false
	}
	if r.parts, ok = r.row(cols, r.all(), nil); !ok || !r.worth(found[0], cols) {
		return nil, false
	}
	h := a.add(hole{place: isList, hints: listHints(found[0], hints), rows: r}, in,
		func(i int) []byte { return spans[i] })
	out := []part{{bytes: lead}, {kind: each, hole: h, row: r.parts}}
	tail := func(i int) []byte { return tails[i] }
	if same(in, tail) {
		out = append(out, part{bytes: tails[in[0]]})
	} else {
		t := a.add(hole{place: inMarkup, hints: []string{"spacing"}}, in, tail)
		out = append(out, part{kind: value, hole: t})
	}
	return joined(append(out, part{bytes: trail})), true
}

// between are lists without what all of them begin with and end with, as captions and heads of tables; and
// that.
func (a *aligner) between(lists [][]*item, in []int) (out [][]*item, lead, trail []byte) {
	least := len(lists[in[0]])
	for _, i := range in {
		least = min(least, len(lists[i]))
	}
	from := 0
	for from < least && same(in, func(i int) []byte { return lists[i][from].bytes() }) {
		from++
	}
	if from > 0 && lists[in[0]][from-1].token().kind == space {
		from-- // it stands before each row
	}
	to := 0
	for to < least-from && same(in, func(i int) []byte { return lists[i][len(lists[i])-1-to].bytes() }) {
		to++
	}
	out = make([][]*item, a.n)
	for _, i := range in {
		out[i] = lists[i][from : len(lists[i])-to]
	}
	first := lists[in[0]]
	for _, it := range first[:from] {
		lead = append(lead, it.bytes()...)
	}
	for _, it := range first[len(first)-to:] {
		trail = append(trail, it.bytes()...)
	}
	return out, lead, trail
}

// split parts what elements hold into rows: an element each, with the white space before it. spans are the
// bytes of all rows of a place, tails the white space behind them. No rows come of anything else.
func split(lists [][]*item, in []int, n int) (found [][]*item, spans, tails [][]byte) {
	spans, tails = make([][]byte, n), make([][]byte, n)
	name := uint32(0)
	for _, i := range in {
		from := 0
		for k, it := range lists[i] {
			t := it.token()
			if t.kind == space {
				continue
			}
			if t.kind != start || it.half() || !rowNames[t.name] || name != 0 && name != t.name {
				return nil, nil, nil
			}
			name = t.name
			row := lists[i][from : k+1]
			found, from = append(found, row), k+1
			for _, x := range row {
				spans[i] = append(spans[i], x.bytes()...)
			}
		}
		for _, x := range lists[i][from:] {
			tails[i] = append(tails[i], x.bytes()...)
		}
	}
	return found, spans, tails
}

// unsaid are items that may answer others, whatever they say: rows of a list do.
func unsaid(row []*item) []*item {
	out := make([]*item, len(row))
	for i, it := range row {
		plain := *it
		plain.says = 0
		out[i] = &plain
	}
	return out
}

// worth reports whether rows are of one kind: what differs between them is few values, and no white space.
func (r *rows) worth(row []*item, cols []column) bool {
	_, conditions := weigh(r.parts)
	made := r.made(0)
	if made == 0 || made > mostOfRow || conditions > mostConditions ||
		made > 1 && r.dear(cols, r.all(), r.parts, 0) {
		return false
	}
	any := anyRows[row[len(row)-1].token().name]
	for i := range r.holes {
		if h := &r.holes[i]; h.blank() || h.place == inMarkup && !any {
			return false
		}
	}
	return true
}

// uneven reports whether elements hold different numbers of others.
func uneven(lists [][]*item, in []int) bool {
	count := func(i int) int {
		n := 0
		for _, it := range lists[i] {
			if it.token().kind == start {
				n++
			}
		}
		return n
	}
	return slices.ContainsFunc(in, func(i int) bool { return count(i) != count(in[0]) })
}

// saidInAll is how many bytes the values of the rows of all places have.
func (r *rows) saidInAll() int {
	n := 0
	for _, h := range r.holes {
		for i, v := range h.values {
			n += r.times[i] * len(v)
		}
	}
	return n
}

// listHints are words of which a list can be named.
func listHints(row []*item, hints []string) []string {
	name, _, _ := attributes(row[len(row)-1].tag())
	word := map[string]string{"li": "entries", "tr": "rows", "option": "options", "a": "links"}[string(bytes.ToLower(name[1:]))]
	if word == "" {
		word = "items"
	}
	out := slices.DeleteFunc(slices.Clone(hints), func(h string) bool { return h == "table" || rowWords[h] })
	return append(out, word)
}

// each reads rows from an offset on, as many as can be, and then what follows them.
func (m *matcher) each(p *part, rest []part, at int, then func(at int) bool) bool {
	r := m.holes[p.hole].rows
	var found []Row
	var more func(from int) bool
	more = func(from int) bool {
		if m.steps++; m.steps > mostSteps {
			return false
		}
		one := &matcher{holes: r.holes, text: m.text, above: m.above, values: make([][]byte, len(r.holes))}
		n := len(found)
		ok := one.parts(p.row, from, func(end int) bool {
			if end == from {
				return false
			}
			found = append(found[:n], append(Row{}, one.values...))
			return more(end)
		})
		m.far = max(m.far, one.far)
		if ok {
			return true
		}
		found = found[:n]
		m.values[p.hole], m.rows[p.hole] = m.text[at:from:from], append([]Row{}, found...)
		if m.parts(rest, from, then) {
			return true
		}
		m.values[p.hole], m.rows[p.hole] = nil, nil
		return false
	}
	return more(at)
}

// sameTemplate reports whether parts are the same, those of rows too.
func sameTemplate(a, b []part) bool {
	if len(a) != len(b) {
		return false
	}
	for i := range a {
		x, y := &a[i], &b[i]
		if x.kind != y.kind || x.hole != y.hole || x.is != y.is || !bytes.Equal(x.bytes, y.bytes) ||
			!sameTemplate(x.body, y.body) || !sameTemplate(x.row, y.row) {
			return false
		}
	}
	return true
}
