package shelf

import (
	"sort"
	"strings"

	"brickshelf/internal/core/place"
)

// localEntry is one thing that a page says of an address of its own: an override
// of a field, a copy, or that what stands there is hidden.
type Saying struct{ Key, Address, Field string }

// localEntries lists what a page says of addresses, in order.
func localEntries(g *place.Page) []Saying {
	if !g.Local {
		return nil
	}
	var out []Saying
	for a, fields := range g.Overrides {
		for _, f := range fields {
			out = append(out, Saying{"overrides", a, f.Key})
		}
	}
	for a := range g.Copies {
		out = append(out, Saying{"copies", a, ""})
	}
	for a := range g.Hidden {
		out = append(out, Saying{"hidden", a, ""})
	}
	sort.Slice(out, func(i, j int) bool {
		x, y := out[i], out[j]
		if x.Address != y.Address {
			return x.Address < y.Address
		}
		return x.Key+x.Field < y.Key+y.Field
	})
	return out
}

// Speaks reports whether a page says something of an address with that step.
func (s *Shelf) Speaks(step string) bool {
	for _, p := range s.PagePaths() {
		for _, e := range s.Info(p).Says {
			for _, part := range strings.Split(e.Address, "/")[1:] { // the first is a region
				if step == part || strings.HasPrefix(part, step+".") { // or of it in a round of a loop
					return true
				}
			}
		}
	}
	return false
}
