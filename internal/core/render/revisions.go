package render

import (
	"slices"

	"brickshelf/internal/core/assets"
	"brickshelf/internal/core/confine"
)

// several finds the blocks that the page shows in several revisions, and marks their placements
// in what was rendered. Where there is none, which is so on almost every page, nothing is done.
func (r *renderer) several(res *Result) assets.Several {
	asked := map[string]bool{}
	for _, a := range r.assets {
		if !a.copy {
			continue
		}
		now := r.s.Shelved(a.name)
		if now != nil && (now.Style != a.style || now.Code != a.code) || now == nil && a.style+a.code != "" {
			asked[a.name] = true
		}
	}
	for _, a := range r.assets { // copies of two revisions, of neither of which the block is now
		for _, b := range r.assets {
			if a.copy && a.name == b.name && (a.style != b.style || a.code != b.code) {
				asked[a.name] = true
			}
		}
	}
	if len(asked) == 0 {
		return nil
	}
	list := res.Placements
	if r.trace == nil {
		again := newRenderer(r.s, r.info, nil)
		again.strip, again.trace = r.strip, &[]Placement{}
		again.page()
		list = *again.trace
	}
	shown := slices.DeleteFunc(slices.Clone(list), func(p Placement) bool { return p.Kind == Hidden })
	uses := make([]assets.Use, len(shown))
	for i, p := range shown {
		uses[i] = assets.Use{Block: p.Block, Revision: assets.Revision{Style: p.style, Code: p.code}}
	}
	out := assets.Grouped(asked, uses)
	var marked []confine.Stretch
	for i, p := range shown {
		if name, value, apart := out.Mark(uses[i]); apart && p.From < p.To {
			marked = append(marked, confine.Stretch{From: p.From, To: p.To, Name: name, Value: value})
		}
	}
	if len(out) > 0 {
		r.mark(res, marked)
	}
	return out
}

// mark marks stretches of the page, and moves along what stands behind.
func (r *renderer) mark(res *Result, marked []confine.Stretch) {
	insertions := confine.Marks(r.buf[r.start:], marked)
	text, moved := confine.Insert(r.buf[r.start:], insertions)
	r.buf = append(r.buf[:r.start:r.start], text...)
	if r.assetsAt >= 0 {
		r.assetsAt = r.start + moved(r.assetsAt-r.start)
	}
	for i := range res.Placements {
		p := &res.Placements[i]
		p.From, p.To = moved(p.From), moved(p.To)
	}
	by := 0
	for _, in := range insertions {
		res.Literals = cut(res.Literals, in.At+by, len(in.Text))
		by += len(in.Text)
	}
}
