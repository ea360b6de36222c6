package outline

import (
	"slices"
	"strconv"
	"strings"

	"brickshelf/internal/core/markup"
	"brickshelf/internal/core/patch"
	"brickshelf/internal/core/place"
	"brickshelf/internal/core/shelf"
	"brickshelf/internal/core/site"
)

// Row is a text, or what a page puts into one region, that is a row of calls and
// nothing else but white space and comments.
type Row struct {
	Region string // of a page, else ""
	Items  []RowItem

	from, to int // the range of the row in the document
}

// RowItem is a call, or a one-off copy, of a row. From and To are byte offsets in
// the document.
type RowItem struct {
	Name     string
	Copy     bool
	From, To int
}

// Rows finds the rows of a document: of a block at most one, of a page one for each
// region that it fills with nothing but calls.
func Rows(path string, src []byte) []Row {
	split, bad := site.Cut(src)
	if bad != "" {
		return nil
	}
	t := markup.Parse(split.Text)
	if len(t.Errors) > 0 {
		return nil
	}
	class, _, _ := site.Classify(path)
	rest := Row{from: split.TextAt, to: len(src)}
	var rows []Row
	var outside []*markup.Node
	for _, n := range t.Nodes {
		if n.Kind != markup.Fill {
			outside = append(outside, n)
			continue
		}
		r := Row{Region: n.Name, from: split.TextAt + n.Head.To, to: split.TextAt + n.Tail.From}
		if r.take(t, n.Body, split.TextAt) {
			rows = append(rows, r)
		}
	}
	if class == site.PageDoc {
		rest.Region = "main"
	}
	if rest.take(t, outside, split.TextAt) && (len(rest.Items) > 0 || class == site.BlockDoc) {
		rows = slices.Insert(rows, 0, rest)
	}
	return rows
}

// take makes the nodes the items of the row. It reports false where something else
// than calls stands among them.
func (r *Row) take(t *markup.Text, nodes []*markup.Node, shift int) bool {
	r.Items = []RowItem{}
	for _, n := range nodes {
		switch n.Kind {
		case markup.Comment:
		case markup.Literal:
			if strings.TrimSpace(string(t.Src[n.Span.From:n.Span.To])) != "" {
				return false
			}
		case markup.Call, markup.Copy:
			r.Items = append(r.Items, RowItem{n.Name, n.Kind == markup.Copy, shift + n.Span.From,
				shift + n.Span.To})
		default:
			return false
		}
	}
	return true
}

// Rearrange puts the items of a row in another order: order names those that stay,
// by their place before. add is the text of a call that is put behind them, "" for
// none. The texts of the items and what stands between them are kept byte for byte,
// but where something of the site speaks of an item by its place, it gets that as
// its key, so that what was said of it still holds.
func Rearrange(s *shelf.Shelf, path string, src []byte, region string, order []int, add string) ([]byte,
	error) {
	rows := Rows(path, src)
	at := slices.IndexFunc(rows, func(r Row) bool { return r.Region == region })
	if at < 0 {
		return nil, site.Refuse("this is no row of calls any more; edit it as text")
	}
	row := rows[at]
	seen := map[int]bool{}
	for _, i := range order {
		if i < 0 || i >= len(row.Items) || seen[i] {
			return nil, site.Refuse("the row has %d items, and each can stand in it once", len(row.Items))
		}
		seen[i] = true
	}
	stay := slices.Sorted(slices.Values(order))
	between := row.gaps(src, stay)
	out := slices.Clone(src[:row.from])
	starts := make([]int, len(order)) // where each item begins now
	for n, i := range order {
		out = append(out, between[n]...)
		starts[n] = len(out)
		out = append(out, src[row.Items[i].From:row.Items[i].To]...)
	}
	if add != "" {
		gap := patch.Newline(src)
		if len(order) > 1 && strings.TrimSpace(between[len(order)-1]) == "" {
			gap = between[len(order)-1]
		}
		if len(order) == 0 {
			gap = ""
		}
		out = append(append(out, gap...), add...)
	}
	out = append(append(out, between[len(order)]...), src[row.to:]...)
	text, _ := StableKeys(Speaks(s, path, src), src, out, func(at int) int {
		for n, i := range order {
			if it := row.Items[i]; at >= it.From && at < it.To {
				return starts[n] + at - it.From
			}
		}
		switch {
		case at < row.from:
			return at
		case at >= row.to:
			return at + len(out) - len(src)
		}
		return -1
	})
	return text, nil
}

// gaps are the texts before, between and behind the items that stay. Where an item
// goes, the white space on one side of it goes with it.
func (r *Row) gaps(src []byte, stay []int) []string {
	var all []string
	at := r.from
	for _, it := range r.Items {
		all = append(all, string(src[at:it.From]))
		at = it.To
	}
	all = append(all, string(src[at:r.to]))
	blank := func(s string) bool { return strings.TrimSpace(s) == "" }
	for i := len(r.Items) - 1; i >= 0; i-- {
		if slices.Contains(stay, i) {
			continue
		}
		joined := all[i] + all[i+1]
		switch {
		case blank(all[i+1]) && i+2 < len(all):
			joined = all[i]
		case blank(all[i]):
			joined = all[i+1]
		}
		all = slices.Replace(all, i, i+2, joined)
	}
	return all
}

// StableKeys gives the calls of which the place has changed their old step as key, all
// of a name, where something speaks of one of that name by its old step or the new;
// and a key of its own to a call that comes from elsewhere and would take up what was
// said of another.
// moved gives where a byte of the old text stands in the new one, -1 where nowhere.
// shift gives where a byte of out stands in what is returned.
func StableKeys(speaks func(container, step string) bool, src, out []byte,
	moved func(at int) int) (text []byte, shift func(at int) int) {
	was, wasAt := Steps(src)
	is, isAt := Steps(out)
	byPlace := map[int]*markup.Node{}
	for _, n := range is {
		byPlace[isAt+n.Span.From] = n
	}
	type change struct {
		node *markup.Node
		step string
	}
	var changed []change
	spoken := map[string]bool{} // by container and name
	of := func(n *markup.Node) string { return n.Container + "/" + n.Name }
	old := map[*markup.Node]bool{}
	for _, n := range was {
		now := byPlace[moved(wasAt+n.Span.From)]
		if now == nil || now.Container != n.Container {
			continue
		}
		if old[now] = true; now.Step == n.Step || n.ArgString("key") != "" {
			continue
		}
		changed = append(changed, change{now, n.Step})
		spoken[of(now)] = spoken[of(now)] || speaks(n.Container, n.Step) || speaks(n.Container, now.Step)
	}
	claimed := map[string]bool{}
	for _, c := range changed {
		claimed[c.node.Container+"/"+c.step] = spoken[of(c.node)]
	}
	for _, n := range is {
		taken := func(step string) bool { return claimed[n.Container+"/"+step] || speaks(n.Container, step) }
		if old[n] || n.ArgString("key") != "" || !taken(n.Step) {
			continue
		}
		step := n.Step
		for i := 1; taken(step); i++ {
			step = n.Name + "-" + strconv.Itoa(i)
		}
		claimed[n.Container+"/"+step], spoken[of(n)] = true, true
		changed = append(changed, change{n, step})
	}
	var patches []patch.Replacement
	for _, c := range changed {
		if spoken[of(c.node)] {
			patches = append(patches, withKey(c.node, isAt, c.step))
		}
	}
	return patch.Apply(out, patches), func(at int) int {
		by := 0
		for _, p := range patches {
			if p.From < at {
				by += len(p.With)
			}
		}
		return at + by
	}
}

// Speaks tells whether something is said of a placement: of one that a page's own
// text makes, by the page itself as its text stands; of a step in another document, by
// any page.
func Speaks(s *shelf.Shelf, path string, src []byte) func(container, step string) bool {
	class, name, _ := site.Classify(path)
	if class != site.PageDoc {
		return func(_, step string) bool { return s.Speaks(step) }
	}
	g, _ := place.ParsePage(name, path, "", src)
	var said []string
	for a := range g.Overrides {
		said = append(said, a)
	}
	for a := range g.Copies {
		said = append(said, a)
	}
	for a := range g.Hidden {
		said = append(said, a)
	}
	return func(container, step string) bool {
		address := container + "/" + step
		return slices.ContainsFunc(said, func(a string) bool {
			return a == address || strings.HasPrefix(a, address+"/")
		})
	}
}

// Steps lists the calls and copies of a document, and where its text begins.
func Steps(src []byte) ([]*markup.Node, int) {
	split, bad := site.Cut(src)
	if bad != "" {
		return nil, 0
	}
	var out []*markup.Node
	markup.Walk(markup.Parse(split.Text).Nodes, func(n *markup.Node) bool {
		if n.Kind == markup.Call || n.Kind == markup.Copy {
			out = append(out, n)
		}
		return true
	})
	return out, split.TextAt
}

// withKey gives a call or copy of a text that begins at an offset of a document a key.
func withKey(n *markup.Node, at int, key string) patch.Replacement {
	end := at + n.NameAt + len(n.Name)
	if n.Kind == markup.Copy { // whose name is that of its block
		end = at + n.NameAt + len("copy")
	}
	return patch.Put(end, end, " key="+markup.Quote(key))
}
