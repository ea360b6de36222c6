package edit

import (
	"brickshelf/internal/core/markup"
	"brickshelf/internal/core/shelf"
)

// Leads reports whether showing one block shows another.
func Leads(s *shelf.Shelf, from, to string) bool { return leads(s, from, to, map[string]bool{}) }

func leads(s *shelf.Shelf, from, to string, seen map[string]bool) bool {
	b := s.Block(from)
	if b == nil || seen[from] {
		return false
	}
	seen[from] = true
	found := false
	markup.Walk(b.Text.Nodes, func(n *markup.Node) bool {
		if n.Kind == markup.Call {
			called := []string{n.Name}
			if s.ShowsMenus(n.Name) { // shows what the panels of menus call
				called = s.PanelCalls()
			}
			for _, name := range called {
				found = found || name == to || leads(s, name, to, seen)
			}
		}
		return !found
	})
	return found
}
