package impact

import (
	"brickshelf/internal/core/render"
	"brickshelf/internal/core/shelf"
)

// Detail fills in the effects on a page's placements: of those that what was
// edited brings about, and of every other one that comes, goes or changes.
func Detail(before, after *shelf.Shelf, docs []string, p *Page) {
	e := newEdit(docs)
	a, b := spots(before, p.Doc, false), spots(after, p.Doc, false)
	var sa, sb map[string]spot
	p.Placements = []Placement{}
	add := func(s spot, effect Effect) {
		mine := e.blocks[s.Block] || e.rules[s.Rule()]
		if effect != Same || mine {
			one := Placement{Address: s.Address, Block: s.Block, Effect: effect}
			if effect == Held {
				one.Holds = s.Own
			}
			p.Placements = append(p.Placements, one)
		}
	}
	for _, addr := range b.order {
		now := b.at[addr]
		was, there := a.at[addr]
		switch {
		case !there:
			add(now, Added)
		case now.Kind == render.Hidden:
			if was.Kind != render.Hidden || e.blocks[now.Block] {
				add(now, Hidden)
			}
		case string(was.html) != string(now.html) || was.loads != now.loads:
			add(now, Changes)
		case now.Kind == render.Copied:
			if was.Kind != render.Copied || e.blocks[now.Block] {
				add(now, Copied)
			}
		case len(now.Own) > 0 && (e.blocks[now.Block] || e.rules[now.Rule()]):
			if sa == nil {
				sa, sb = spots(before, p.Doc, true).at, spots(after, p.Doc, true).at
			}
			if string(sa[addr].html) != string(sb[addr].html) {
				add(now, Held)
			} else {
				add(now, Same)
			}
		default:
			add(now, Same)
		}
	}
	for _, addr := range a.order {
		if _, there := b.at[addr]; !there {
			add(a.at[addr], Removed)
		}
	}
}

type spot struct {
	render.Placement
	html  []byte
	loads string // its style and behaviour, and the behaviours that this needs
}

// loads tells what a placement loads.
func loads(s *shelf.Shelf, p render.Placement) string {
	style, code := p.Loads()
	out := string(style) + " " + string(code)
	if b := s.Shelved(p.Block); b != nil && p.Kind == render.Linked && code != "" {
		for _, o := range s.Needed(b.Block) {
			out += " " + string(o.Code)
		}
	}
	return out
}

// Rule is the rule that placed the spot itself, or "".
func (s spot) Rule() string { return shelf.RuleOf(s.Address) }

type spotList struct {
	order []string
	at    map[string]spot
}

func spots(s *shelf.Shelf, path string, strip bool) spotList {
	out := spotList{at: map[string]spot{}}
	in := s.Info(path)
	if in == nil || in.Page.Draft {
		return out
	}
	for _, v := range s.Views(path) {
		res := render.PageAs(v, path, render.Options{Placements: true, Strip: strip})
		fresh := map[string]bool{} // the last of one view counts, the first of several
		for _, p := range res.Placements {
			if _, known := out.at[p.Address]; !known {
				out.order = append(out.order, p.Address)
				fresh[p.Address] = true
			}
			if fresh[p.Address] {
				out.at[p.Address] = spot{p, res.HTML[p.From:p.To], loads(v.Shelf, p)}
			}
		}
	}
	return out
}
