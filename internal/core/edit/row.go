package edit

import (
	"slices"
	"strings"

	"brickshelf/internal/core/markup"
	"brickshelf/internal/core/render"
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
			r.Items = append(r.Items, RowItem{n.Name, n.Kind == markup.Copy, shift + n.Span.From, shift + n.Span.To})
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
func Rearrange(s *render.Shelf, path string, src []byte, region string, order []int, add string) ([]byte, error) {
	rows := Rows(path, src)
	at := slices.IndexFunc(rows, func(r Row) bool { return r.Region == region })
	if at < 0 {
		return nil, refuse("this is no row of calls any more; edit it as text")
	}
	row := rows[at]
	seen := map[int]bool{}
	for _, i := range order {
		if i < 0 || i >= len(row.Items) || seen[i] {
			return nil, refuse("the row has %d items, and each can stand in it once", len(row.Items))
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
		gap := newline(src)
		if len(order) > 1 && strings.TrimSpace(between[len(order)-1]) == "" {
			gap = between[len(order)-1]
		}
		if len(order) == 0 {
			gap = ""
		}
		out = append(append(out, gap...), add...)
	}
	out = append(append(out, between[len(order)]...), src[row.to:]...)
	return keyed(s, src, out, row, order, starts)
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

// keyed gives the calls of which the place has changed their old step as key, all
// of a name, where the site speaks of one of that name by its old step or the new.
func keyed(s *render.Shelf, src, out []byte, row Row, order, starts []int) ([]byte, error) {
	was, wasAt := stepsOf(src)
	is, isAt := stepsOf(out)
	byPlace := map[int]*markup.Node{}
	for i, n := range is {
		byPlace[isAt+n.Span.From] = is[i]
	}
	type change struct {
		node *markup.Node
		step string
	}
	var changed []change
	spoken := map[string]bool{}
	for n, i := range order {
		it := row.Items[i]
		for _, old := range was {
			if p := wasAt + old.Span.From; p >= it.From && p < it.To {
				now := byPlace[starts[n]+p-it.From]
				if now == nil || now.Step == old.Step || old.ArgString("key") != "" {
					continue
				}
				changed = append(changed, change{now, old.Step})
				spoken[old.Name] = spoken[old.Name] || s.Speaks(old.Step) || s.Speaks(now.Step)
			}
		}
	}
	var patches []patch
	for _, c := range changed {
		if spoken[c.node.Name] {
			end := isAt + c.node.NameAt + len(c.node.Name)
			if c.node.Kind == markup.Copy {
				end = isAt + c.node.NameAt
			}
			patches = append(patches, patch{end, end, " key=" + markup.Quote(c.step)})
		}
	}
	return patched(out, patches), nil
}

// stepsOf lists the calls and copies of a document, and where its text begins.
func stepsOf(src []byte) ([]*markup.Node, int) {
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
