package render

import (
	"slices"
	"strings"

	"brickshelf/internal/core/place"
	"brickshelf/internal/core/shelf"
)

// Class is what pages of one plan have in common for which a comparison comes out
// alike: they answer the same to what the edit's pieces ask, and say nothing of
// their addresses.
type Class struct {
	plan   *shelf.Plan
	values []ask
	menus  []*place.Menu // of which no item is marked
	roots  []string
}

// Class gives the pages for which the last comparison holds as well: those that
// rules and layouts alone bring the edit to. There are none where the page shows
// a piece as hardly another one does.
func (c *Comparer) Class() (*Class, bool) {
	in := c.a.info
	if !c.pieced || in.Layout == nil || !in.Layout.Fixed || len(c.a.pieces) != len(c.b.pieces) {
		return nil, false
	}
	for i := range c.a.pieces {
		if c.a.pieces[i].fragment == nil || c.b.pieces[i].fragment == nil {
			return nil, false
		}
	}
	k := &Class{plan: in.Plan}
	for _, r := range []*renderer{&c.a, &c.b} {
		for _, p := range r.pieces {
			k.roots = append(k.roots, p.address)
			for _, a := range p.fragment.asks {
				k.ask(a, r)
			}
		}
	}
	if !k.Has(in) { // what the page says of its own decides
		return nil, false
	}
	return k, true
}

// ask adds what a page must answer. Where the page's own values were left out, they
// were so on every page.
func (k *Class) ask(a ask, r *renderer) {
	switch {
	case a.menu != nil:
		if !slices.Contains(k.menus, a.menu) {
			k.menus = append(k.menus, a.menu)
		}
	case !r.strip:
		if !slices.Contains(k.values, a) {
			k.values = append(k.values, a)
		}
	}
}

// Has reports whether a page belongs to the class.
func (k *Class) Has(in *shelf.Info) bool {
	if in.Plan != k.plan {
		return false
	}
	for i := range k.values {
		if in.Fields[k.values[i].name] != k.values[i].value {
			return false
		}
	}
	for _, m := range k.menus {
		if marked(m.Items, in.URL) {
			return false
		}
	}
	for i := range in.Says {
		for _, root := range k.roots {
			if strings.HasPrefix(in.Says[i].Address, root) {
				return false
			}
		}
	}
	return true
}

// Join narrows the class to the pages that are of another one too.
func (k *Class) Join(other *Class) {
	k.values = append(k.values, other.values...)
	k.menus = append(k.menus, other.menus...)
	k.roots = append(k.roots, other.roots...)
}
