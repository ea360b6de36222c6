package copies

import (
	"fmt"
	"maps"
	"slices"
	"strings"

	"brickshelf/internal/core/edit/expansion"
	"brickshelf/internal/core/markup"
	"brickshelf/internal/core/render"
	"brickshelf/internal/core/shelf"
	"brickshelf/internal/core/site"
)

// Spot is where something stands on a page.
type Spot struct {
	Doc     string // the page's document
	Address string // for DetachAll, "" stands for every block on the page
}

// DetachAll detaches placements as Detach does each. With filled, the calls of blocks in what is
// detached become copies too, so that nothing in it follows any block.
func DetachAll(s *shelf.Shelf, spots []Spot, filled bool) (site.ChangeSet, error) {
	g := gathered{s: s}
	pages, title := map[string]bool{}, ""
	spots, err := spread(s, spots)
	if err != nil {
		return site.ChangeSet{}, err
	}
	for _, spot := range spots {
		set, err := Detach(g.now(spot.Doc), spot.Doc, spot.Address)
		if err != nil {
			return site.ChangeSet{}, err
		}
		g.take(set.Changes)
		if pages[spot.Doc], title = true, set.Title; !filled {
			continue
		}
		for {
			now := g.now(spot.Doc)
			next := within(now, spot)
			if next == "" {
				break
			}
			set, err := Detach(now, spot.Doc, next)
			if err != nil {
				return site.ChangeSet{}, err
			}
			g.take(set.Changes)
		}
	}
	if len(spots) > 1 {
		title = fmt.Sprintf("Detach %d placements on %s", len(spots), counted(len(pages), "a page", "pages"))
	}
	return site.ChangeSet{Title: title, Changes: g.changes()}, nil
}

// spread puts the placements of blocks on a page, but for those within others, in the place of
// a spot that stands for them.
func spread(s *shelf.Shelf, spots []Spot) ([]Spot, error) {
	var out []Spot
	for _, spot := range spots {
		if spot.Address != "" {
			out = append(out, spot)
			continue
		}
		if s.Info(spot.Doc) == nil {
			return nil, site.Missing("there is no page %s", spot.Doc)
		}
		outer := map[string]bool{}
		for _, p := range render.Placements(s, spot.Doc) {
			if p.Kind == render.Linked && s.Block(p.Block) != nil {
				outer[p.Address] = true
			}
		}
		for _, a := range slices.Sorted(maps.Keys(outer)) {
			if !inside(outer, a) {
				out = append(out, Spot{spot.Doc, a})
			}
		}
	}
	if len(out) == 0 {
		return nil, site.Refuse("nothing on the page follows a block")
	}
	return out, nil
}

// inside reports whether an address stands in one of some others.
func inside(outer map[string]bool, address string) bool {
	for i := strings.LastIndexByte(address, '/'); i > 0; i = strings.LastIndexByte(address[:i], '/') {
		if outer[address[:i]] {
			return true
		}
	}
	return false
}

// within is the address of a placement of a block inside another spot that is linked; "" where
// there is none.
func within(s *shelf.Shelf, spot Spot) string {
	for _, p := range render.Placements(s, spot.Doc) {
		if p.Kind == render.Linked && strings.HasPrefix(p.Address, spot.Address+"/") && s.Block(p.Block) != nil {
			return p.Address
		}
	}
	return ""
}

// Linked is what linking one of several copies again comes to.
type Linked struct {
	Spot
	URL  string
	Fits []Fit
	Made []string // the fields that its block gets for them
	Lost []string // the lines that were written into the copy and are nowhere any more
	Left bool     // it stays a copy, since some would be
	Now  string   // what would be written there
}

// Rest says what becomes of what was written into a copy and fits no field of its block.
type Rest string

// What can become of it.
const (
	Goes   Rest = "goes"
	Stays  Rest = "stays"  // the copy stays as it is
	Fields Rest = "fields" // it becomes fields of the block, for this placement alone, where it can
)

// LinkAll links copies again as Relink does each, and tells what goes by it, those by which
// most goes first.
func LinkAll(s *shelf.Shelf, spots []Spot, rest Rest) (site.ChangeSet, []Linked, error) {
	g := gathered{s: s}
	var out []Linked
	title := ""
	linked := 0
	for _, spot := range innermost(spots) {
		tries := max(few, searched/len(spots))
		var r Relinked
		var err error
		if rest == Fields {
			r, err = withFields(s.With(g.changes()), spot.Doc, spot.Address, tries)
		} else {
			r, err = relink(g.now(spot.Doc), spot.Doc, spot.Address, tries, true)
		}
		if err != nil {
			return site.ChangeSet{}, nil, err
		}
		lost := r.Lost()
		left := rest == Stays && len(lost) > 0
		out = append(out, Linked{spot, s.Info(spot.Doc).URL, r.Fits, r.Made, lost, left, r.After})
		if left {
			continue
		}
		g.take(r.Set.Changes)
		title = r.Set.Title
		linked++
	}
	slices.SortStableFunc(out, func(a, b Linked) int { return len(b.Lost) - len(a.Lost) })
	if linked > 1 {
		title = fmt.Sprintf("Link %d copies again", linked)
	}
	return site.ChangeSet{Title: title, Changes: g.changes()}, out, nil
}

// few is how many values are tried at least for each of many copies.
const few = 40

// innermost are spots with those that stand in others before these.
func innermost(spots []Spot) []Spot {
	out := slices.Clone(spots)
	slices.SortStableFunc(out, func(a, b Spot) int {
		return strings.Count(b.Address, "/") - strings.Count(a.Address, "/")
	})
	return out
}

// lost are the lines of a text that another one lacks.
func lost(text, other string) []string {
	there := map[string]int{}
	for l := range strings.SplitSeq(other, "\n") {
		there[l]++
	}
	var out []string
	for l := range strings.SplitSeq(text, "\n") {
		if there[l]--; there[l] < 0 {
			out = append(out, l)
		}
	}
	return out
}

func counted(n int, one, many string) string {
	if n == 1 {
		return one
	}
	return fmt.Sprintf("%d %s", n, many)
}

// kept are the revisions that a copy came from, where they are not in history yet.
func kept(s *shelf.Shelf, x *expansion.Expansion) []site.Change {
	var out []site.Change
	type revision struct {
		h    site.Hash
		path string
	}
	list := []revision{{x.Base, "blocks/" + x.Block + ".html"}, {x.Style, "blocks/" + x.Block + ".css"},
		{x.Behaviour, "blocks/" + x.Block + ".js"}}
	if b := s.Block(x.Block); b != nil && x.Needs != "" {
		for _, o := range s.Needed(b) {
			list = append(list, revision{o.Code, "blocks/" + o.Block.Name + ".js"})
		}
	}
	for _, d := range list {
		if d.h != "" && s.Hash("history/"+string(d.h)) == "" {
			b, _ := s.Get(d.path)
			out = append(out, site.Change{Path: "history/" + string(d.h), After: b})
		}
	}
	return out
}

// gathered are the changes of several edits of pages, one after the other. What is done to one
// page is seen by what is done to it next; pages do not see each other's.
type gathered struct {
	s     *shelf.Shelf
	paths []string
	of    map[string]site.Change
}

// now is the site with what was done to a page.
func (g *gathered) now(page string) *shelf.Shelf {
	if c, ok := g.of[page]; ok {
		changes := []site.Change{c}
		for _, p := range g.paths {
			if class, _, _ := site.Classify(p); class == site.HistoryDoc {
				changes = append(changes, g.of[p])
			}
		}
		return g.s.With(changes)
	}
	return g.s
}

func (g *gathered) take(changes []site.Change) {
	if g.of == nil {
		g.of = map[string]site.Change{}
	}
	for _, c := range changes {
		if was, ok := g.of[c.Path]; ok {
			c.Before = was.Before
		} else {
			g.paths = append(g.paths, c.Path)
		}
		g.of[c.Path] = c
	}
}

func (g *gathered) changes() []site.Change {
	out := make([]site.Change, len(g.paths))
	for i, p := range g.paths {
		out[i] = g.of[p]
	}
	return out
}

// AsCopies makes copies of the calls of blocks that stand between two offsets of a page's new
// text. They show what they would show linked, and follow no edit of their blocks.
func AsCopies(s *shelf.Shelf, path string, text []byte, from, to int) ([]site.Change, error) {
	g := gathered{s: s}
	g.take([]site.Change{{Path: path, Before: s.Hash(path), After: text}})
	now := g.now(path)
	page := now.Info(path).Page
	var spots []Spot
	markup.Walk(page.Text.Nodes, func(n *markup.Node) bool {
		at := page.Split.TextAt + n.Span.From
		mine := n.Kind == markup.Call && at >= from && at < to && s.Block(n.Name) != nil
		if mine {
			spots = append(spots, Spot{path, n.Container + "/" + n.Step})
		}
		return !mine && n.Kind != markup.Copy
	})
	for _, spot := range spots {
		one, err := Detach(g.now(path), path, spot.Address)
		if err != nil {
			return nil, err
		}
		g.take(one.Changes)
	}
	return g.changes(), nil
}
