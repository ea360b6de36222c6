package explain

import (
	"slices"
	"strings"

	"brickshelf/internal/core/refer"
	"brickshelf/internal/core/render"
	"brickshelf/internal/core/shelf"
)

// Overlay is what a block that is one shows under an id, and the pages that host it, by path.
type Overlay struct {
	Block string
	ID    string
	Hosts []string
}

// Overlays lists the overlays of a site by block and id: those that stand on pages, and of a block that
// stands on none the one that it would be.
func Overlays(s *shelf.Shelf) []Overlay {
	var out []Overlay
	for _, name := range s.Names() {
		b := s.Block(name)
		if b == nil || !b.Overlay || b.Field("id") < 0 {
			continue
		}
		hosts := hosted(s, name)
		if deflt := b.Fields[b.Field("id")].Default.Text; deflt != "" && hosts[deflt] == nil {
			hosts[deflt] = []string{}
		}
		first := len(out)
		for id, pages := range hosts {
			slices.Sort(pages)
			out = append(out, Overlay{name, id, pages})
		}
		slices.SortFunc(out[first:], func(a, b Overlay) int { return strings.Compare(a.ID, b.ID) })
	}
	return out
}

// hosted gives the pages that show an element with the id of an overlay, by id.
func hosted(s *shelf.Shelf, name string) map[string][]string {
	users := s.Users(name)
	found := make([]map[string]bool, len(users))
	shelf.Parallel(len(users), func(i int) {
		found[i] = map[string]bool{}
		for _, v := range s.ViewsOn(nil, users[i], "") {
			res := render.PageAs(v, users[i], render.Options{Placements: true})
			for _, p := range res.Placements {
				if p.Block != name || p.Kind == render.Hidden {
					continue
				}
				if id := refer.FirstID(res.HTML[p.From:p.To]); id != "" {
					found[i][id] = true
				}
			}
		}
	})
	out := map[string][]string{}
	for i, p := range users {
		for id := range found[i] {
			out[id] = append(out[id], p)
		}
	}
	return out
}

// Unhosted lists the pages, by path, that lead to an id of their own which nothing on them has.
func Unhosted(s *shelf.Shelf, id string) []string {
	paths := s.PagePaths()
	lacks := make([]bool, len(paths))
	shelf.Parallel(len(paths), func(i int) {
		in := s.Info(paths[i])
		for _, v := range s.ViewsOn(nil, paths[i], "") {
			res := render.PageAs(v, paths[i], render.Options{})
			if !strings.Contains(string(res.HTML), id) {
				continue
			}
			f := refer.Scan(res.HTML, in.URL)
			lacks[i] = lacks[i] || !f.IDs[id] && slices.ContainsFunc(f.Refs, func(r refer.Ref) bool {
				return r.Kind == refer.ToElement && r.To == id
			})
		}
	})
	var out []string
	for i, p := range paths {
		if lacks[i] {
			out = append(out, p)
		}
	}
	return out
}
