package copies

import (
	"slices"
	"strings"

	"brickshelf/internal/core/assets"
	"brickshelf/internal/core/markup"
	"brickshelf/internal/core/shelf"
	"brickshelf/internal/core/site"
)

// Revisions lists the revisions of blocks that go by some changes of a site, and that copies
// came from: they are put into history, so that these copies can still be compared.
func Revisions(s *shelf.Shelf, changes []site.Change) []site.Change {
	gone := map[site.Hash]string{}
	for _, c := range changes {
		if class, _, _ := site.Classify(c.Path); class != site.BlockDoc && class != site.StyleDoc &&
			class != site.BehaviourDoc {
			continue
		}
		if h := s.Hash(c.Path); h != "" && s.Hash("history/"+string(h)) == "" {
			gone[h] = c.Path
		}
	}
	for _, c := range changes {
		if class, name, _ := site.Classify(c.Path); class == site.HistoryDoc && !c.Delete {
			delete(gone, site.Hash(name))
		}
	}
	if len(gone) == 0 {
		return nil
	}
	needed := Needed(s.With(changes))
	var out []site.Change
	for h, path := range gone {
		if needed[h] {
			b, _ := s.Get(path)
			out = append(out, site.Change{Path: "history/" + string(h), After: b})
		}
	}
	slices.SortFunc(out, func(a, b site.Change) int { return strings.Compare(a.Path, b.Path) })
	return out
}

// Needed are the revisions that the copies of a site came from, in the texts of pages, blocks,
// layouts and panels, and in front matter.
func Needed(s *shelf.Shelf) map[site.Hash]bool {
	out := map[site.Hash]bool{}
	needs := func(words string) {
		for _, n := range assets.Needed(words) {
			out[n.Hash] = true
		}
	}
	in := func(t *markup.Text) {
		markup.Walk(t.Nodes, func(n *markup.Node) bool {
			if n.Kind == markup.Copy {
				for _, arg := range []string{"base", "style", "behaviour"} {
					out[site.Hash(n.ArgString(arg))] = true
				}
				needs(n.ArgString("needs"))
			}
			return true
		})
	}
	for _, path := range s.PagePaths() {
		g := s.Info(path).Page
		if len(g.Copied) == 0 && len(g.Copies) == 0 {
			continue
		}
		in(g.Text)
		for _, c := range g.Copies {
			for _, h := range []string{c.Base, c.Style, c.Behaviour} {
				out[site.Hash(h)] = true
			}
			needs(c.Needs)
			in(c.Text)
		}
	}
	for _, name := range s.Names() {
		if b := s.Block(name); b != nil {
			in(b.Text)
		}
	}
	delete(out, "")
	return out
}
