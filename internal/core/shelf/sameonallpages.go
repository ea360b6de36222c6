package shelf

import (
	"brickshelf/internal/core/block"
	"brickshelf/internal/core/markup"
	"brickshelf/internal/core/script"
)

// sameOnAllPages reports whether a block shows the same on every page that gives it
// the same values: nothing in it or in what it calls asks for the page.
func (s *Shelf) SameOnAllPages(name string) bool {
	if s.base != nil && !s.touched[name] && !s.all {
		return s.base.SameOnAllPages(name)
	}
	b := s.Shelved(name)
	own := b != nil && (s.base == nil || s.blocks[name] == b)
	if own {
		if known := b.free.Load(); known != 0 {
			return known == 1
		}
	}
	s.mu.Lock()
	free := s.free(name, map[string]bool{})
	s.mu.Unlock()
	if own && free {
		b.free.Store(1)
	} else if own {
		b.free.Store(2)
	}
	return free
}

// free works it out with s.mu held. A name that is being worked out counts as
// free, so that cycles end.
func (s *Shelf) free(name string, pending map[string]bool) bool {
	if v, ok := s.onAllPages[name]; ok {
		return v
	}
	if pending[name] {
		return true
	}
	pending[name] = true
	free := true
	if b := s.Block(name); b != nil {
		free = fieldsFree(b.Fields) && s.nodesFree(b, pending)
	} else if bi := BuiltinOf(name); bi != nil {
		free = !bi.ReadsOf(script.Page) && !bi.ReadsOf(Place)
	} else if c := s.Script(name); c != nil {
		free = !c.ReadsOf(script.Page) && fieldsFree(c.Params)
	}
	if len(pending) == 1 || !free {
		s.onAllPages[name] = free
	}
	delete(pending, name)
	return free
}

// fieldsFree reports whether no field takes its value from the page.
func fieldsFree(fields []*block.Field) bool {
	for _, f := range fields {
		if f.From != nil && f.From[0] == "page" {
			return false
		}
	}
	return true
}

func (s *Shelf) nodesFree(b *block.Block, pending map[string]bool) bool {
	free := true
	asks := func(e *markup.Expr) bool {
		if e == nil {
			return false
		}
		for _, t := range e.Terms {
			if len(t.Path) > 0 && t.Path[0] == "page" {
				return true
			}
		}
		return false
	}
	markup.Walk(b.Text.Nodes, func(n *markup.Node) bool {
		if asks(n.Expr) {
			free = false
		}
		for i := range n.Args {
			if asks(n.Args[i].Value.Expr) {
				free = false
			}
		}
		if free && n.Kind == markup.Call && !s.free(n.Name, pending) {
			free = false
		}
		return free
	})
	return free
}
