package render

import (
	"slices"

	"brickshelf/internal/core/assets"
	"brickshelf/internal/core/site"
)

// finish puts the links to styles and behaviours into their place.
func (r *renderer) finish() *Result {
	res := &Result{Faults: r.faults}
	if r.trace != nil {
		res.Placements, res.Literals = *r.trace, r.literals
	}
	if len(r.assets) == 0 {
		res.HTML = r.buf
		return res
	}
	several := r.several(res)
	seen := map[assets.File]bool{}
	for _, a := range r.assets {
		res.Styles = assets.Add(res.Styles, seen, several.File(a.name, a.style, ".css"))
		code := several.File(a.name, a.code, ".js")
		code.Each = a.each
		res.Behaviours = assets.Add(res.Behaviours, seen, code)
	}
	res.HTML = r.buf
	if slices.ContainsFunc(res.Behaviours, func(f assets.File) bool { return f.Each }) {
		res.Behaviours = append(res.Behaviours, assets.Starter())
	}
	head := assets.Links(r.info.Page.URL, res.Styles, res.Behaviours)
	if len(head) == 0 {
		return res
	}
	at := r.assetsAt
	if at < 0 {
		at = assets.HeadEnd(r.buf[r.start:]) + r.start
	}
	n := len(r.buf)
	r.buf = append(r.buf, head...)
	copy(r.buf[at+len(head):], r.buf[at:n])
	copy(r.buf[at:], head)
	res.HTML = r.buf
	for i := range res.Literals {
		if l := &res.Literals[i]; l.From >= at {
			l.From += len(head)
			l.To += len(head)
		} else if l.To > at { // the links stand in the middle of it
			l.To = at
		}
	}
	movePlacements(res.Placements, at, len(head))
	return res
}

// movePlacements makes room at a spot of the page. What shows nothing there stays
// before it, but for what stands within something that begins there, which comes
// after that in the list.
func movePlacements(list []Placement, at, room int) {
	begun := false
	for i := range list {
		p := &list[i]
		switch {
		case p.From > at || p.From == at && (begun || p.To > at):
			begun = begun || p.From == at
			p.From += room
			p.To += room
		case p.To > at:
			p.To += room
		}
	}
}

// asset is a block whose style and behaviour a page loads: a block's present
// ones, or those that a copy was made with.
type asset struct {
	name  string
	style site.Hash
	code  site.Hash
	copy  bool // those of a copy, which can be another revision's
	each  bool // the behaviour is started for each placement
}

// fewAssets is how many assets are looked through one by one.
const fewAssets = 32

func (r *renderer) asset(a asset) {
	switch {
	case a.style == "" && a.code == "" && !a.copy:
		return
	case r.manyAssets != nil:
		if r.manyAssets[a] {
			return
		}
		r.manyAssets[a] = true
	case slices.Contains(r.assets, a):
		return
	case len(r.assets) == fewAssets:
		r.manyAssets = map[asset]bool{a: true}
		for _, known := range r.assets {
			r.manyAssets[known] = true
		}
	}
	r.assets = append(r.assets, a)
}
