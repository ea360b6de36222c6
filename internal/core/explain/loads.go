package explain

import (
	"slices"

	"brickshelf/internal/core/assets"
	"brickshelf/internal/core/render"
	"brickshelf/internal/core/shelf"
	"brickshelf/internal/core/site"
)

// Load is a style or behaviour that a page loads, and why.
type Load struct {
	File    assets.File
	Block   string   // whose it is, or was; "" where only copies need a revision that is no block's any more
	Now     bool     // it is that of the block as it is
	Through []string // the addresses of the placements that it belongs to
	Needed  []string // the blocks on the page whose behaviour needs it
}

// Loads are the styles and behaviours that the page at a path loads, as an audience sees it, in order.
func Loads(s *shelf.Shelf, path, audience string) []Load {
	res := render.Page(s, path, render.Options{Placements: true, SignedIn: audience == shelf.SignedIn})
	if res == nil {
		return nil
	}
	var out []Load
	for _, f := range slices.Concat(res.Styles, res.Behaviours) {
		if f != assets.Starter() {
			out = append(out, loaded(s, f, res.Placements))
		}
	}
	return out
}

func loaded(s *shelf.Shelf, f assets.File, placements []render.Placement) Load {
	l := Load{File: f}
	for _, p := range placements {
		if style, code := p.Loads(); p.Kind != render.Hidden && (f.Hash == style || f.Hash == code) {
			l.Through = append(l.Through, p.Address)
			l.Block = p.Block
		}
		if b := s.Shelved(p.Block); b != nil && p.Kind == render.Linked && f.Ext == ".js" && b.Code != f.Hash {
			for _, o := range s.Needed(b.Block) {
				if o.Code == f.Hash && !slices.Contains(l.Needed, p.Block) {
					l.Needed = append(l.Needed, p.Block)
					l.Block = o.Block.Name
				}
			}
		}
	}
	if b := s.Shelved(l.Block); b != nil {
		l.Now = b.Style == f.Hash || b.Code == f.Hash
	}
	return l
}

// Loading lists the pages, by address, that load the style or behaviour of a block as it is, for
// any audience.
func Loading(s *shelf.Shelf, block string, class site.Class) []string {
	b := s.Shelved(block)
	out := []string{}
	if b == nil {
		return out
	}
	h := b.Style
	if class == site.BehaviourDoc {
		h = b.Code
	}
	users := s.Users(block)
	loads := make([]bool, len(users))
	shelf.Parallel(len(users), func(i int) {
		for _, v := range s.ViewsOn(nil, users[i], "") {
			res := render.PageAs(v, users[i], render.Options{})
			loads[i] = loads[i] || slices.ContainsFunc(slices.Concat(res.Styles, res.Behaviours),
				func(f assets.File) bool { return f.Hash == h })
		}
	})
	for i, p := range users {
		if h != "" && loads[i] {
			out = append(out, s.Info(p).URL)
		}
	}
	return out
}
