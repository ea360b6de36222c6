package render

import "brickshelf/internal/core/block"

// Bound gives the values with which the block at an address of a page is rendered.
func (s *Shelf) Bound(path, address string) (values []block.Value) {
	r := &renderer{s: s, info: s.Info(path), assetsAt: -1, addressed: true, trace: &[]Placement{}, hookAt: address}
	r.hook = func(_ *block.Block, sc *scope) { values = append([]block.Value{}, sc.values...) }
	r.page()
	return values
}
