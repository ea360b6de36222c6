package render

import (
	"html"

	"brickshelf/internal/core/assets"
	"brickshelf/internal/core/confine"
	"brickshelf/internal/core/shelf"
	"brickshelf/internal/core/site"
)

// loads notes the style and behaviour of a block that the page shows, behind the behaviours that
// it needs.
func (r *renderer) loads(b *shelf.Shelved) {
	if b.Code != "" && len(b.Block.Behaviour.Needs) > 0 {
		for _, o := range r.s.Needed(b.Block) {
			r.asset(asset{code: o.Code, each: o.Each}) // as a copy has it, which knows no names
		}
	}
	if b.Style != "" || b.Code != "" {
		r.asset(asset{name: b.Block.Name, style: b.Style, code: b.Code, each: b.Each})
	}
}

// copyLoads is loads for a copy, which has its own revisions of them all. starts is empty where the
// behaviour runs once for the page.
func (r *renderer) copyLoads(of, style, code, starts, needs string) {
	for _, n := range assets.Needed(needs) {
		r.asset(asset{code: n.Hash, each: n.Each})
	}
	r.asset(asset{of, site.Hash(style), site.Hash(code), true, starts != ""})
}

// here is where in what has been rendered so far something begins.
type here struct{ at, traced, literals int }

func (r *renderer) here() here {
	h := here{at: len(r.buf), literals: len(r.literals)}
	if r.trace != nil {
		h.traced = len(*r.trace)
	}
	return h
}

// starts marks the first element of what was rendered since from as one for which a behaviour is
// started, with what it is given. Where the placement shows no element, nothing is started.
func (r *renderer) starts(from here, code site.Hash, given string) {
	if given == "" || r.unmarked > 0 || r.only != nil {
		return
	}
	at := confine.First(r.buf[from.at:])
	if at < 0 {
		return
	}
	at += from.at
	put := " " + assets.Attribute(code) + `="` + html.EscapeString(given) + `"`
	end := len(r.buf)
	r.buf = append(r.buf, put...)
	copy(r.buf[at+len(put):], r.buf[at:end])
	copy(r.buf[at:], put)
	if r.trace == nil {
		return
	}
	moved := func(spot int) int {
		if spot >= at {
			return spot + len(put)
		}
		return spot
	}
	for i := range (*r.trace)[from.traced:] {
		p := &(*r.trace)[from.traced+i]
		p.From, p.To = moved(p.From), moved(p.To)
	}
	r.literals = append(r.literals[:from.literals], cut(r.literals[from.literals:], at, len(put))...)
}

// cut makes room at a spot of the page between or within literals: what is put into the middle of
// one cuts it in two.
func cut(list []Literal, at, room int) []Literal {
	var out []Literal
	for _, l := range list {
		switch {
		case l.From >= at:
			out = append(out, Literal{l.From + room, l.To + room, l.At})
		case l.To <= at:
			out = append(out, l)
		default:
			out = append(out, Literal{l.From, at, l.At}, Literal{at + room, l.To + room, l.At + at - l.From})
		}
	}
	return out
}
