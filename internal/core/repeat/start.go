package repeat

import (
	"bytes"
	"slices"
	"strings"
)

// tag makes parts of the start tags of a column: attributes that differ become fields, and those that only
// some have stand where a field says so.
func (a *aligner) tag(c column, in []int, hints []string) ([]part, bool) {
	tagOf := func(i int) []byte { return c[i].tag() }
	if same(in, tagOf) {
		return []part{{bytes: tagOf(in[0])}}, true
	}
	attrs, names, rests := make([][]attr, a.n), make([][]byte, a.n), make([][]byte, a.n)
	for _, i := range in {
		if c[i].token().hard {
			return nil, false
		}
		names[i], attrs[i], rests[i] = attributes(tagOf(i))
	}
	if !same(in, func(i int) []byte { return names[i] }) ||
		!same(in, func(i int) []byte { return rests[i] }) {
		return nil, false
	}
	order, ok := ordered(attrs, in)
	if !ok {
		return nil, false
	}
	elem := strings.ToLower(string(names[in[0]][1:]))
	out := []part{{bytes: names[in[0]]}}
	for _, name := range order {
		has, at := []int{}, make([]attr, a.n)
		for _, i := range in {
			if n := slices.IndexFunc(attrs[i], func(x attr) bool { return string(x.name) == name }); n >= 0 {
				has, at[i] = append(has, i), attrs[i][n]
			}
		}
		ps, ok := a.attribute(elem, at, has, hintsOf(c, in, hints))
		if !ok || name == "http-equiv" {
			return nil, false
		}
		if len(has) < len(in) {
			ps = a.optional(ps, c, has, hints)
		}
		out = append(out, ps...)
	}
	return joined(append(out, part{bytes: rests[in[0]]})), true
}

// ordered are the names of the attributes of all these tags, in the order that all of them keep to. It
// reports false where there is none, or where a tag has one twice.
func ordered(attrs [][]attr, in []int) ([]string, bool) {
	var out []string
	for _, i := range in {
		at := 0
		for n, x := range attrs[i] {
			name := string(x.name)
			for _, y := range attrs[i][:n] {
				if string(y.name) == name {
					return nil, false
				}
			}
			switch k := slices.Index(out, name); {
			case k >= at:
				at = k + 1
			case k >= 0:
				return nil, false
			default:
				out = slices.Insert(out, at, name)
				at++
			}
		}
	}
	// What was put in later may upset those that were read before.
	for _, i := range in {
		at := -1
		for _, x := range attrs[i] {
			k := slices.Index(out, string(x.name))
			if k < at {
				return nil, false
			}
			at = k
		}
	}
	return out, true
}

// addresses are the attributes that hold one.
var addresses = setOf("href src action background cite longdesc poster data formaction")

// attribute makes parts of an attribute of the places that have it.
func (a *aligner) attribute(elem string, at []attr, has []int, hints []string) ([]part, bool) {
	first := at[has[0]]
	full := func(i int) []byte {
		x := at[i]
		return slices.Concat(x.lead, x.name, x.eq, quoted(x.quote), x.value, quoted(x.quote))
	}
	if same(has, full) {
		return []part{{bytes: full(has[0])}}, true
	}
	name := strings.ToLower(string(first.name))
	bad := strings.HasPrefix(name, "on") || name == "style" || name == "srcdoc" || name == "http-equiv" ||
		strings.HasSuffix(name, "srcset") || name == "ping" || name == "archive"
	alike := same(has, func(i int) []byte {
		return slices.Concat(at[i].lead, at[i].name, at[i].eq, quoted(at[i].quote))
	})
	if bad || !alike || first.quote == 0 {
		return nil, false
	}
	out := []part{{bytes: slices.Concat(first.lead, first.name, first.eq, quoted(first.quote))}}
	h := hole{place: inAttr, quote: first.quote, attr: name, tag: elem, hints: hints}
	valueOf := func(i int) []byte { return at[i].value }
	if addresses[name] {
		h.place = inAddress
		if tail := unrooted(valueOf(has[0])); same(has, func(i int) []byte { return unrooted(valueOf(i)) }) {
			root := func(i int) []byte { v := valueOf(i); return v[:len(v)-len(tail)] }
			h.hints, h.attr = []string{"root"}, ""
			out = append(out, part{kind: value, hole: a.add(h, has, root)}, part{bytes: tail})
			return append(out, part{bytes: quoted(first.quote)}), true
		}
	}
	out = append(out, part{kind: value, hole: a.add(h, has, valueOf)})
	return append(out, part{bytes: quoted(first.quote)}), true
}

func quoted(q byte) []byte {
	if q == 0 {
		return nil
	}
	return []byte{q}
}

// optional puts an attribute that only some places have behind a condition: whether its own value is there,
// or where it has none, a mark.
func (a *aligner) optional(ps []part, c column, has []int, hints []string) []part {
	for _, p := range ps {
		if p.kind == value && a.always(p.hole, has) {
			return []part{{kind: when, hole: p.hole, body: ps}}
		}
	}
	mark := ""
	if len(ps) == 1 && ps[0].kind == fixed {
		mark = string(bytes.TrimSpace(ps[0].bytes))
	}
	h := hole{place: isFlag, mark: mark, hints: append([]string{"current"}, hints...), tag: caption(c[has[0]])}
	return []part{{kind: when, hole: a.add(h, has, func(int) []byte { return yes }), body: ps}}
}

// caption is what an element says, in a few words.
func caption(it *item) string {
	var words []string
	for t := it.first; t <= it.last && len(words) < 4; t++ {
		if k := it.page.tokens[t]; k.kind == word {
			words = append(words, strings.Fields(string(it.page.Text[k.from:k.to]))...)
		}
	}
	return strings.Join(words[:min(len(words), 4)], " ")
}
