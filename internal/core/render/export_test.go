package render

import (
	"brickshelf/internal/core/block"
	"brickshelf/internal/core/shelf"
)

// Bound gives the values with which the block at an address of a page is rendered, for
// whoever sees it first.
func Bound(s *shelf.Shelf, path, address string) (values []block.Value) {
	found := false
	for _, v := range s.Views(path) {
		Visit(v, func(p *Spot) {
			if p.Address == address && !found {
				values = append([]block.Value{}, p.inner.values...)
			}
		})
		if values != nil {
			found = true
		}
	}
	return values
}
