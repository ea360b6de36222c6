package render

import "brickshelf/internal/core/block"

// Bound gives the values with which the block at an address of a page is rendered, for
// whoever sees it first.
func (s *Shelf) Bound(path, address string) (values []block.Value) {
	found := false
	for _, v := range s.Views(path) {
		r := newRenderer(v.Shelf, v.info, nil)
		r.trace, r.hookAt = &[]Placement{}, address
		r.hook = func(_ *block.Block, sc *scope) {
			if !found {
				values = append([]block.Value{}, sc.values...)
			}
		}
		if r.page(); values != nil {
			found = true
		}
	}
	return values
}
