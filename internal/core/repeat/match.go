package repeat

import "bytes"

// matcher reads the values of a place off its bytes, by the template that was made of other places.
type matcher struct {
	holes  []hole
	text   []byte
	above  string
	values [][]byte
	rows   map[int][]Row // of lists, by their holes
	steps  int
	far    int // the furthest offset up to which anything was read
}

// reading is what a place says: its values by their holes, and the rows of those that are lists.
type reading struct {
	values [][]byte
	rows   map[int][]Row
}

// mostSteps is how many ways to read a place are tried.
const mostSteps = 4000

// match gives the values of a place; where it is no place of the template, the offset up to which it could
// be one.
func (a *aligner) match(parts []part, text []byte, above string) (found reading, far int, ok bool) {
	m := &matcher{holes: a.holes, text: text, above: above, values: make([][]byte, len(a.holes)),
		rows: map[int][]Row{}}
	ok = m.parts(parts, 0, func(at int) bool {
		m.far = max(m.far, at)
		return at == len(text)
	})
	return reading{m.values, m.rows}, m.far, ok
}

// begins reports whether what stands at an offset begins with some bytes.
func (m *matcher) begins(at int, with []byte) bool {
	n := 0
	for n < len(with) && at+n < len(m.text) && m.text[at+n] == with[n] {
		n++
	}
	m.far = max(m.far, at+n)
	return n == len(with)
}

// parts reads parts from an offset on, and then what follows them.
func (m *matcher) parts(ps []part, at int, then func(at int) bool) bool {
	if m.steps++; m.steps > mostSteps {
		return false
	}
	if len(ps) == 0 {
		return then(at)
	}
	p, rest := &ps[0], ps[1:]
	switch p.kind {
	case fixed:
		return m.begins(at, p.bytes) && m.parts(rest, at+len(p.bytes), then)
	case up:
		return m.begins(at, []byte(m.above)) && m.parts(rest, at+len(m.above), then)
	case when:
		return m.sometimes(p, rest, at, then)
	}
	if v := m.values[p.hole]; v != nil {
		return m.begins(at, v) && m.parts(rest, at+len(v), then)
	}
	if p.kind == each {
		return m.each(p, rest, at, then)
	}
	return m.value(p, rest, at, then)
}

// sometimes reads what stands only in some places: with it first, then without; the other way round where it
// holds markup, which could be what stands behind it as well.
func (m *matcher) sometimes(p *part, rest []part, at int, then func(at int) bool) bool {
	was := m.values[p.hole]
	set := was
	if m.holes[p.hole].place == isFlag {
		if set = yes; p.is != "" {
			set = []byte(p.is)
		}
	}
	with := func() bool {
		if was != nil && !bytes.Equal(was, set) {
			return false
		}
		m.values[p.hole] = set
		if m.parts(p.body, at, func(at int) bool { return m.shown(p) && m.parts(rest, at, then) }) {
			return true
		}
		m.values[p.hole] = was
		return false
	}
	without := func() bool {
		return !m.shown(p) && m.parts(rest, at, func(at int) bool { return !m.shown(p) && then(at) })
	}
	if m.loose(p.body) {
		return without() || with()
	}
	return with() || without()
}

// loose reports whether parts hold markup that can be anything.
func (m *matcher) loose(ps []part) bool {
	found := false
	visit(ps, func(p *part) {
		found = found || p.kind == value && m.holes[p.hole].place == inMarkup || p.kind == each
	})
	return found
}

// shown reports whether the values so far show what stands behind a condition.
func (m *matcher) shown(p *part) bool {
	v := m.values[p.hole]
	return p.is == "" && len(bytes.TrimSpace(v)) > 0 || p.is != "" && string(v) == p.is
}

// value reads a value up to where what follows it can begin.
func (m *matcher) value(p *part, rest []part, at int, then func(at int) bool) bool {
	limit := len(m.text)
	switch h := &m.holes[p.hole]; h.place {
	case inText:
		if n := bytes.IndexByte(m.text[at:], '<'); n >= 0 {
			limit = at + n
		}
	case inAttr, inAddress:
		if n := bytes.IndexByte(m.text[at:], h.quote); n >= 0 {
			limit = at + n
		}
	case inMarkup, isFlag, isList:
	}
	next := firsts(rest)
	for end := at; end <= limit; end++ {
		if len(next) > 0 {
			n := -1
			for _, s := range next {
				if i := bytes.Index(m.text[end:], s); i >= 0 && (n < 0 || i < n) {
					n = i
				}
			}
			if n < 0 {
				break
			}
			end += n
		} else {
			end = limit
		}
		if end > limit {
			break
		}
		m.values[p.hole] = m.text[at:end:end]
		if m.parts(rest, end, then) {
			return true
		}
		m.values[p.hole] = nil
	}
	return false
}

// firsts are the bytes with which parts can begin; nil where that can be anything.
func firsts(ps []part) [][]byte {
	var out [][]byte
	for i := range ps {
		switch p := &ps[i]; p.kind {
		case fixed:
			return append(out, p.bytes)
		case when:
			in := firsts(p.body)
			if in == nil {
				return nil
			}
			out = append(out, in...)
		default:
			return nil
		}
	}
	return nil
}
