package repeat

import (
	"bytes"
	"slices"
)

// Without is the piece with what most of its places say in place of a field, by its number. Places that say
// something else are odd there: the template cannot give them any more.
func (p *Piece) Without(field int) *Piece {
	f := &p.Fields[field]
	count := map[string]int{}
	none := 0
	for _, v := range f.Values {
		if v == nil {
			none++
		} else {
			count[string(v)]++
		}
	}
	var usual []byte // the first one of those that are said most
	most := none
	for _, v := range f.Values {
		if v != nil && count[string(v)] > most {
			usual, most = v, count[string(v)]
		}
	}
	out := p.keeping(func(place int) bool { return sameValue(f.Values[place], usual) })
	out.parts = settled(p.parts, field, usual)
	return out.reduced()
}

// Merged is the piece with one field, by its number, for two: it has the name and the type of the first.
// Places at which they differ are odd there.
func (p *Piece) Merged(field, other int) *Piece {
	a, b := &p.Fields[field], &p.Fields[other]
	out := p.keeping(func(place int) bool { return sameValue(a.Values[place], b.Values[place]) })
	out.parts = copied(p.parts)
	visit(out.parts, func(x *part) {
		if x.holds() && x.hole == other {
			x.hole = field
		}
	})
	if out.Fields[field].quote == 0 {
		out.Fields[field].quote = b.quote
	}
	return out.reduced()
}

// sameValue tells apart what is empty and what is not there.
func sameValue(a, b []byte) bool { return (a == nil) == (b == nil) && bytes.Equal(a, b) }

// keeping is the piece with those places alone that are kept; the others are odd.
func (p *Piece) keeping(keep func(place int) bool) *Piece {
	out := *p
	out.Places, out.Odd, out.Fields = nil, slices.Clone(p.Odd), slices.Clone(p.Fields)
	for i := range out.Fields {
		out.Fields[i].Values, out.Fields[i].Rows = nil, nil
		out.Fields[i].Fields = slices.Clone(out.Fields[i].Fields)
		for k := range out.Fields[i].Fields {
			out.Fields[i].Fields[k].Values = nil
		}
	}
	for i, at := range p.Places {
		if !keep(i) {
			at.Differs = at.From
			out.Odd = append(out.Odd, at)
			continue
		}
		out.Places = append(out.Places, at)
		for f := range p.Fields {
			out.Fields[f].take(p.Fields[f].Values[i], p.Fields[f].rowsOf(i))
		}
	}
	return &out
}

// rowsOf are the rows of a place, where the field is a list.
func (f *Field) rowsOf(place int) []Row {
	if f.Type != List {
		return nil
	}
	return f.Rows[place]
}

// settled are parts in which a field always has a value; nil is none.
func settled(parts []part, field int, usual []byte) []part {
	var out []part
	for _, x := range parts {
		switch {
		case (x.kind == value || x.kind == each) && x.hole == field:
			if len(usual) > 0 {
				out = append(out, part{kind: fixed, bytes: usual})
			}
		case x.kind == when && x.hole == field:
			if usual != nil && (x.is == "" || x.is == string(usual)) {
				out = append(out, settled(x.body, field, usual)...)
			}
		default:
			x.body = settled(x.body, field, usual)
			out = append(out, x)
		}
	}
	return out
}

func copied(parts []part) []part {
	out := slices.Clone(parts)
	for i := range out {
		out[i].body = copied(out[i].body)
	}
	return out
}

// reduced is the piece, whose parts are its own, without fields that nothing shows.
func (p *Piece) reduced() *Piece {
	used := make([]bool, len(p.Fields))
	visit(p.parts, func(x *part) {
		if x.holds() {
			used[x.hole] = true
		}
	})
	to := make([]int, len(p.Fields))
	var kept []Field
	for i, f := range p.Fields {
		to[i] = len(kept)
		if used[i] {
			kept = append(kept, f)
		}
	}
	visit(p.parts, func(x *part) {
		if x.holds() {
			x.hole = to[x.hole]
		}
	})
	p.Fields, p.Pages = kept, 0
	for i, at := range p.Places {
		if i == 0 || at.Page != p.Places[i-1].Page {
			p.Pages++
		}
	}
	return p
}
