package repeat

import (
	"bytes"
	"slices"

	"github.com/cespare/xxhash/v2"
)

// partKind says what a part of a template is.
type partKind uint8

const (
	fixed partKind = iota // bytes that are the same everywhere
	value                 // a field
	up                    // what leads from the page to the top of the site
	when                  // parts that stand where a field has a value
	each                  // a row for each of a list
)

// part is a part of what all places of a piece share.
type part struct {
	kind  partKind
	bytes []byte
	hole  int
	is    string // of a when: the value that the field has
	body  []part
	row   []part // of an each: what its rows share; their holes count for themselves
}

// holds reports whether a part stands for a hole.
func (p *part) holds() bool { return p.kind == value || p.kind == when || p.kind == each }

// place says where a hole stands, and so what its values may be.
type place uint8

const (
	inText    place = iota // between tags, without any
	inAttr                 // in a quoted attribute
	inMarkup               // between tags, with tags
	inAddress              // the same, where it holds an address
	isFlag                 // nowhere: it says whether something else is shown
	isList                 // rows of elements
)

// hole is where places differ. values has one for each, nil where there is none.
type hole struct {
	place  place
	quote  byte
	values [][]byte
	hints  []string // words around it, the best first, of which its name is made
	attr   string
	tag    string
	rows   *rows  // of a list
	mark   string // of a flag: what is shown, and where, as in class="current" of the entry Home
}

// item is a node of one place, and what it holds.
type item struct {
	page        *page
	first, last int32
	ended       bool
	kids        []*item
	says        uint32 // of an entry of a list: hash of its words, where many pages have them; else 0
}

func (it *item) token() *token { return &it.page.tokens[it.first] }

func (it *item) bytes() []byte {
	return it.page.Text[it.page.tokens[it.first].from:it.page.tokens[it.last].to]
}

// tag is the start tag of the item, or the token that it is.
func (it *item) tag() []byte { k := it.token(); return it.page.Text[k.from:k.to] }

// inner are the bytes between its tags.
func (it *item) inner() []byte {
	to := it.page.tokens[it.last].to
	if it.ended {
		to = it.page.tokens[it.last].from
	}
	return it.page.Text[it.token().to:to]
}

func (it *item) endTag() []byte {
	if !it.ended {
		return nil
	}
	k := it.page.tokens[it.last]
	return it.page.Text[k.from:k.to]
}

// column is what places have at the same spot: an item for each, nil where there is none.
type column []*item

// aligner lays places over one another. price is how many fixed bytes a field has to be worth.
type aligner struct {
	n     int
	price int
	holes []hole
	inRow bool // the places are rows of a list
}

// lists are what the places begin with: the nodes that stand in no other.
func (f *finder) lists(spots []spot) [][]*item {
	out := make([][]*item, len(spots))
	for i, s := range spots {
		p := &f.pages[s.page]
		nodes := f.grammar.grow(p.tokens[s.first : s.last+1])
		var build func(from, to int32) []*item
		build = func(from, to int32) []*item {
			var kids []*item
			for j := from; j < to; j = nodes[j].next {
				n := &nodes[j]
				it := &item{page: p, first: s.first + n.first, last: s.first + n.last, ended: n.ended}
				it.kids = build(j+1, n.next)
				if f.grammar.entries[it.token().name] {
					it.says = it.words()
				}
				kids = append(kids, it)
			}
			return kids
		}
		out[i] = build(0, int32(len(nodes)))
	}
	return out
}

// all are the numbers of all places.
func (a *aligner) all() []int {
	out := make([]int, a.n)
	for i := range out {
		out[i] = i
	}
	return out
}

// same reports whether all have the same bytes.
func same(in []int, of func(i int) []byte) bool {
	for _, i := range in[1:] {
		if !bytes.Equal(of(in[0]), of(i)) {
			return false
		}
	}
	return true
}

// row makes parts of columns. It reports false where something differs that no field can hold.
func (a *aligner) row(cols []column, in []int, hints []string) ([]part, bool) {
	var out []part
	for c := 0; c < len(cols); {
		has := present(cols[c], in)
		if len(has) == len(in) {
			ps, ok := a.one(cols[c], in, around(out, hints))
			if !ok {
				return nil, false
			}
			out, c = append(out, ps...), c+1
			continue
		}
		to := c + 1
		for to < len(cols) && slices.Equal(present(cols[to], in), has) {
			to++
		}
		ps, ok := a.sometimes(cols[c:to], has, around(out, hints))
		if !ok {
			return nil, false
		}
		out, c = append(out, ps...), to
	}
	return joined(out), true
}

func present(c column, in []int) []int {
	var out []int
	for _, i := range in {
		if c[i] != nil {
			out = append(out, i)
		}
	}
	return out
}

// sometimes makes parts of columns that only some places have.
func (a *aligner) sometimes(cols []column, has []int, hints []string) ([]part, bool) {
	blank := true
	for _, c := range cols {
		blank = blank && c[has[0]].token().kind == space
	}
	if blank {
		h := a.add(hole{place: inMarkup, hints: []string{"spacing"}}, has, func(i int) []byte {
			var all []byte
			for _, c := range cols {
				all = append(all, c[i].bytes()...)
			}
			return all
		})
		return []part{{kind: value, hole: h}}, true
	}
	before := len(a.holes)
	body, ok := a.row(cols, has, hints)
	if !ok {
		return nil, false
	}
	for _, p := range body {
		if h := p.hole; (p.kind == value || p.kind == each) && h >= before && a.always(h, has) {
			return []part{{kind: when, hole: h, body: body}}, true
		}
	}
	for _, c := range cols {
		if k := c[has[0]].token().kind; k == start || k == void {
			hints = hintsOf(c, has, hints)
			break
		}
	}
	h := a.add(hole{place: isFlag, hints: append(hints, wordsOf(body)...)}, has,
		func(int) []byte { return yes })
	return []part{{kind: when, hole: h, body: body}}, true
}

var yes = []byte("true")

// always reports whether a hole has a value in all these places.
func (a *aligner) always(h int, in []int) bool {
	for _, i := range in {
		if len(bytes.TrimSpace(a.holes[h].values[i])) == 0 {
			return false
		}
	}
	return true
}

// add makes a hole with the values of places, and gives its number.
func (a *aligner) add(h hole, in []int, of func(i int) []byte) int {
	h.values = make([][]byte, a.n)
	for _, i := range in {
		h.values[i] = append([]byte{}, of(i)...)
	}
	a.holes = append(a.holes, h)
	return len(a.holes) - 1
}

// one makes parts of a column that all these places have.
func (a *aligner) one(c column, in []int, hints []string) ([]part, bool) {
	if same(in, func(i int) []byte { return c[i].bytes() }) {
		return []part{{bytes: c[in[0]].bytes()}}, true
	}
	switch c[in[0]].token().kind {
	case word, space:
		return a.text(in, func(i int) []byte { return c[i].bytes() }, hints), true
	case raw:
		return nil, false
	case comment:
		h := a.add(hole{place: inMarkup, hints: []string{"comment"}}, in, func(i int) []byte { return c[i].bytes() })
		return []part{{kind: value, hole: h}}, true
	}
	before := len(a.holes)
	reps, of := distinct(c, in)
	if out, ok := a.element(c, reps, hints); ok {
		for _, h := range a.holes[before:] {
			for n, i := range in {
				h.values[i] = h.values[of[n]]
			}
		}
		return out, true
	}
	a.holes = a.holes[:before]
	if c[in[0]].half() {
		return nil, false
	}
	h := a.add(hole{place: inMarkup, hints: hintsOf(c, in, hints)}, in,
		func(i int) []byte { return c[i].bytes() })
	return []part{{kind: value, hole: h}}, true
}

// distinct are the places whose items differ, and for each place the one of those that it is like.
func distinct(c column, in []int) (reps, of []int) {
	seen := map[uint64]int{}
	of = make([]int, len(in))
	for n, i := range in {
		h := xxhash.Sum64(c[i].bytes())
		r, ok := seen[h]
		if !ok || !bytes.Equal(c[r].bytes(), c[i].bytes()) {
			r = i
			seen[h] = i
			reps = append(reps, i)
		}
		of[n] = r
	}
	return reps, of
}

// element makes parts of elements of one name: of their tags, and of what they hold, which becomes one
// field where its own would not be worth it.
func (a *aligner) element(c column, in []int, hints []string) ([]part, bool) {
	tag, ok := a.tag(c, in, hints)
	if !ok || !same(in, func(i int) []byte { return c[i].endTag() }) {
		return nil, false
	}
	hints = hintsOf(c, in, hints)
	inner := func(i int) []byte { return c[i].inner() }
	out := tag
	if same(in, inner) {
		out = append(out, part{bytes: inner(in[0])})
	} else {
		body, ok := a.body(c, in, hints)
		if !ok {
			return nil, false
		}
		out = append(out, body...)
	}
	return joined(append(out, part{bytes: c[in[0]].endTag()})), true
}

// body makes parts of what elements hold; one field for all of it where its own would not be worth it.
func (a *aligner) body(c column, in []int, hints []string) ([]part, bool) {
	before := len(a.holes)
	lists := make([][]*item, a.n)
	for _, i := range in {
		lists[i] = c[i].kids
	}
	if bare(lists, in) {
		return a.text(in, func(i int) []byte { return c[i].inner() }, hints), true
	}
	if !prose(lists, in) {
		if cols, ok := a.columns(lists, in); ok {
			if out, ok := a.rows(cols, lists, in, hints); ok {
				return out, true
			}
		} else if out, ok := a.list(lists, in, hints); ok {
			return out, true
		}
	}
	a.holes = a.holes[:before]
	for _, i := range in {
		for _, k := range c[i].kids {
			if k.token().kind == raw || k.half() {
				return nil, false
			}
		}
	}
	h := a.add(hole{place: inMarkup, hints: hints}, in, func(i int) []byte { return c[i].inner() })
	return []part{{kind: value, hole: h}}, true
}

// bare reports whether rows hold a text or nothing.
func bare(lists [][]*item, in []int) bool {
	return !slices.ContainsFunc(in, func(i int) bool {
		return len(lists[i]) > 1 || len(lists[i]) == 1 && lists[i][0].token().kind > space
	})
}

// prose reports whether rows hold words between elements, and differ in what these are.
func prose(lists [][]*item, in []int) bool {
	words, one := false, shapeOf(lists[in[0]])
	differ := false
	for _, i := range in {
		differ = differ || shapeOf(lists[i]) != one
		words = words || slices.ContainsFunc(lists[i], func(it *item) bool { return it.token().kind == word })
	}
	return words && differ
}

// half reports whether an item is a tag without its other one, which is no value by itself.
func (it *item) half() bool {
	t := it.token()
	return t.kind == end || t.kind == start && it.first == it.last
}

// rows makes parts of columns as row does; else a list, or one field of the stretch of them in which little
// is the same. It reports false where that is all of them. lists are the rows of which the columns are made.
func (a *aligner) rows(cols []column, lists [][]*item, in []int, hints []string) ([]part, bool) {
	before := len(a.holes)
	out, ok := a.row(cols, in, hints)
	ok = ok && !a.dear(cols, in, out, before)
	if ok && !uneven(lists, in) {
		return out, true
	}
	apart := slices.Clone(a.holes[before:])
	made, said := a.made(before), a.said(before)
	a.holes = a.holes[:before]
	if list, is := a.list(lists, in, hints); is {
		if r := a.holes[before].rows; !ok || r.made(0) <= made && r.saidInAll() <= 2*said {
			return list, true
		}
	}
	if a.holes = a.holes[:before]; ok {
		a.holes = append(a.holes, apart...)
		return out, true
	}
	good := func(c column) bool {
		ok := len(present(c, in)) == len(in)
		if ok {
			_, ok = a.one(c, in, nil)
			ok = ok && a.made(before) == 0
			a.holes = a.holes[:before]
		}
		return ok
	}
	from, to := 0, len(cols)
	for from < to && good(cols[from]) {
		from++
	}
	for to > from && good(cols[to-1]) {
		to--
	}
	if from == 0 && to == len(cols) || from == to {
		return nil, false
	}
	for _, c := range cols[from:to] {
		for _, i := range present(c, in) {
			if c[i].token().kind == raw || c[i].half() {
				return nil, false
			}
		}
	}
	if out, ok = a.row(cols[:from], in, hints); !ok {
		return nil, false
	}
	h := a.add(hole{place: inMarkup, hints: around(out, hints)}, in, func(i int) []byte {
		var all []byte
		for _, c := range cols[from:to] {
			if c[i] != nil {
				all = append(all, c[i].bytes()...)
			}
		}
		return all
	})
	rest, ok := a.row(cols[to:], in, hints)
	return joined(slices.Concat(out, []part{{kind: value, hole: h}}, rest)), ok
}

// made is how many fields were made from a number on, marks left out: those become one.
func (a *aligner) made(from int) int {
	n := 0
	for _, h := range a.holes[from:] {
		if h.place != isFlag || h.mark == "" {
			n++
		}
	}
	return n
}

// said is how many bytes the values have that were made from a number on.
func (a *aligner) said(from int) int {
	n := 0
	for _, h := range a.holes[from:] {
		for _, v := range h.values {
			n += len(v)
		}
	}
	return n
}

// dear reports whether the fields of columns are worth less than one for all of them: too little is the same
// between them, or it is prose whose markup differs.
func (a *aligner) dear(cols []column, in []int, body []part, before int) bool {
	made := a.made(before)
	kept, conditions := weigh(body)
	if made > 2 && kept < a.price*made {
		return true
	}
	if conditions == 0 {
		return false
	}
	for _, c := range cols {
		if has := present(c, in); c[has[0]].token().kind == word {
			return true
		}
	}
	return conditions > 4
}

// weigh gives the fixed bytes of parts, and how many of them stand only sometimes.
func weigh(parts []part) (kept, conditions int) {
	for _, p := range parts {
		kept += len(p.bytes)
		if p.kind == when {
			k, c := weigh(p.body)
			kept, conditions = kept+k, conditions+c
			if len(p.body) > 0 && (len(p.body[0].bytes) == 0 || p.body[0].bytes[0] == '<') {
				conditions++
			}
		}
	}
	return kept, conditions
}

// joined are parts with neighbouring bytes put together.
func joined(parts []part) []part {
	var out []part
	for _, p := range parts {
		switch n := len(out) - 1; {
		case p.kind == fixed && len(p.bytes) == 0:
		case p.kind == fixed && n >= 0 && out[n].kind == fixed:
			out[n].bytes = append(slices.Clip(out[n].bytes), p.bytes...)
		default:
			out = append(out, p)
		}
	}
	return out
}
