package shelf

import "brickshelf/internal/core/markup"

// Rest lets go of what is remembered of the calls in pages' texts: most of what a site has
// in memory besides its texts, and rendered anew in a moment once somebody asks. Others may
// read meanwhile.
func (s *Shelf) Rest() {
	for _, e := range s.docs {
		g, ok := e.page()
		if !ok {
			continue
		}
		for i := range g.Fills {
			f := &g.Fills[i]
			for j := range f.Segments {
				f.Segments[j].Memo.Store(nil)
			}
			markup.Walk(f.Nodes, func(n *markup.Node) bool {
				if n.Kind != markup.Literal {
					n.Memo.Store(nil)
				}
				return true
			})
		}
	}
}
