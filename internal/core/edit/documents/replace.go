package documents

import (
	"fmt"
	"slices"
	"strings"

	"brickshelf/internal/core/block"
	"brickshelf/internal/core/edit"
	"brickshelf/internal/core/edit/copies"
	"brickshelf/internal/core/edit/outline"
	"brickshelf/internal/core/edit/values"
	"brickshelf/internal/core/markup"
	"brickshelf/internal/core/patch"
	"brickshelf/internal/core/render"
	"brickshelf/internal/core/shelf"
	"brickshelf/internal/core/site"
)

// Exchange says what is put in the place of a block.
type Exchange struct {
	From, To string
	// Spots are the placements of which the calls, or rules, call the other block from then on;
	// what else these bring about changes with them. nil stands for all there are, in every
	// document.
	Spots []copies.Spot
	// Fields leads from fields of the one to fields of the other; what it does not name, or
	// leads to "", has no place. nil stands for values.Pairs.
	Fields map[string]string
}

// Replace puts another block in the place of one. Values follow to the fields that they are
// given to, converted where the type is another one. The mentions are those that have no place
// there, and content that the other block does not show, as values of a field inner.
func Replace(s *shelf.Shelf, x Exchange) (site.ChangeSet, []values.Mention, error) {
	set := site.ChangeSet{Title: fmt.Sprintf("Put %s in the place of %s", x.To, x.From)}
	from, to := s.Block(x.From), s.Block(x.To)
	switch {
	case from == nil:
		return set, nil, site.Missing("there is no block %q%s", x.From, block.Nearest(x.From, s.Names()))
	case to == nil || from == to:
		return set, nil, site.Refuse("name the block to put there; there is no other block %q%s", x.To,
			block.Nearest(x.To, s.Names()))
	case edit.Leads(s, x.To, x.From):
		return set, nil, site.Refuse("%s calls %s itself and cannot take its place; take that call out of it first", x.To,
			x.From)
	}
	if x.Fields == nil {
		x.Fields = values.Pairs(from, to)
	}
	if err := fitting(x.Fields, from, to); err != nil {
		return set, nil, err
	}
	r := &replacer{Exchange: x, s: s}
	if err := r.choose(); err != nil {
		return set, nil, err
	}
	d := &edit.Texts{Shelf: s}
	lost, err := values.Carry(d, from, to, x.Fields, r.concerns)
	if err != nil {
		return set, nil, err
	}
	if showsInner(from) && !showsInner(to) {
		lost = append(lost, r.enclosed()...)
	}
	for _, path := range s.Paths("") {
		if err := r.rename(d, path); err != nil {
			return set, nil, err
		}
	}
	set.Changes = d.Changes()
	if x.Spots != nil {
		set.Title += fmt.Sprintf(" in %d spots", len(x.Spots))
		if len(x.Spots) == 1 {
			set.Title = strings.TrimSuffix(set.Title, " in 1 spots") + " on " + s.Info(x.Spots[0].Doc).URL
		}
	}
	return set, lost, nil
}

// fitting reports why values cannot go from fields of a block to fields of another.
func fitting(fields map[string]string, from, to *block.Block) error {
	taken := map[string]string{}
	for _, a := range edit.SortedKeys(fields) {
		b := fields[a]
		switch {
		case from.Field(a) < 0:
			return site.Refuse("%s has no field %s%s", from.Name, a, block.Nearest(a, from.FieldNames()))
		case b == "":
		case to.Field(b) < 0:
			return site.Refuse("%s has no field %s%s", to.Name, b, block.Nearest(b, to.FieldNames()))
		case taken[b] != "":
			return site.Refuse("%s and %s cannot both become %s", taken[b], a, b)
		default:
			taken[b] = a
		}
	}
	return nil
}

// showsInner reports whether a block shows what a call of it encloses.
func showsInner(b *block.Block) bool {
	found := false
	of := func(e *markup.Expr) {
		if e == nil {
			return
		}
		for _, t := range e.Terms {
			found = found || len(t.Path) == 1 && t.Path[0] == "inner"
		}
	}
	markup.Walk(b.Text.Nodes, func(n *markup.Node) bool {
		if n.Kind == markup.Value {
			of(n.Expr)
		}
		for _, a := range n.Args {
			of(a.Value.Expr)
		}
		return true
	})
	return found
}

// source is what brings a placement where it stands: a call in a document's text, or a rule.
type source struct {
	path string
	step string // of a call, in a page with its region or copy; "" for a rule
	// panel is what the panel of a menu says that holds the call. Panels that say the same are one.
	panel string
}

// replacer knows what is replaced.
type replacer struct {
	Exchange
	s       *shelf.Shelf
	sources map[source]bool // nil for all there are
}

// choose finds what brought the spots where they stand.
func (r *replacer) choose() error {
	if r.Spots == nil {
		return nil
	}
	r.sources = map[source]bool{}
	list := map[string][]render.Placement{}
	for _, spot := range r.Spots {
		if r.s.Info(spot.Doc) == nil {
			return site.Missing("there is no page %s", spot.Doc)
		}
		if list[spot.Doc] == nil {
			list[spot.Doc] = render.Placements(r.s, spot.Doc)
		}
		i := slices.IndexFunc(list[spot.Doc], func(p render.Placement) bool {
			return p.Address == spot.Address && p.Block == r.From
		})
		if i < 0 {
			return site.Refuse("%s does not stand at %s of %s", r.From, spot.Address, spot.Doc)
		}
		p := list[spot.Doc][i]
		if p.Kind != render.Linked {
			return site.Refuse("%s is a %s; only what is linked is replaced", spot.Address, p.Kind)
		}
		r.sources[r.sourceOf(p)] = true
	}
	return nil
}

func (r *replacer) sourceOf(p render.Placement) source {
	switch class, _, _ := site.Classify(p.Via); class {
	case site.RuleDoc:
		return source{path: p.Via}
	case site.PageDoc:
		return source{path: p.Via, step: p.Address}
	case site.MenuDoc:
		src, _ := r.s.Get(p.Via)
		return source{path: p.Via, step: stepOf(p), panel: patch.PanelAt(src, p.Address)}
	}
	return source{path: p.Via, step: stepOf(p)}
}

// stepOf is the step of the call that brings a placement, without the round of a loop.
func stepOf(p render.Placement) string {
	step, _, _ := strings.Cut(p.Address[strings.LastIndexByte(p.Address, '/')+1:], ".")
	return step
}

// takes reports whether a call in a document's text is replaced.
func (r *replacer) takes(path string, n *markup.Node) bool {
	if n == nil || n.Kind != markup.Call || n.Name != r.From {
		return false
	}
	if class, _, _ := site.Classify(path); class == site.PageDoc {
		return r.sources[source{path: path, step: n.Container + "/" + n.Step}]
	}
	return r.sources[source{path: path, step: n.Step}]
}

// concerns reports whether a value is one of a placement that is replaced.
func (r *replacer) concerns(m values.Mention) bool {
	if r.sources == nil {
		return true
	}
	if class, _, _ := site.Classify(m.Path); class == site.RuleDoc {
		return r.sources[source{path: m.Path}]
	}
	if m.Overrides() {
		for _, p := range render.Placements(r.s, m.Path) {
			if p.Address == m.Address {
				return r.sources[r.sourceOf(p)]
			}
		}
		return false
	}
	switch under, step := m.Within(); {
	case len(under) > 1 && under[0] == "panel":
		return r.sources[source{path: m.Path, step: step, panel: under[1]}]
	case len(under) > 1 && under[0] == "copies":
		return r.sources[source{path: m.Path, step: under[1] + "/" + step}]
	}
	return m.Call != nil && r.takes(m.Path, m.Call)
}

// enclosed lists what the calls that are replaced enclose.
func (r *replacer) enclosed() []values.Mention {
	var out []values.Mention
	for _, path := range r.s.Paths("") {
		src := edit.TextOf(r.s, path)
		class, _, _ := site.Classify(path)
		if class != site.PageDoc && class != site.BlockDoc && class != site.LayoutDoc ||
			!strings.Contains(string(src), "@{"+r.From) {
			continue
		}
		nodes, at := outline.Steps(src)
		for _, n := range nodes {
			if !n.Closed || n.Head.To == n.Tail.From || r.sources != nil && !r.takes(path, n) ||
				n.Kind != markup.Call || n.Name != r.From {
				continue
			}
			m := values.Mention{Path: path, Field: "inner", Text: string(src[at+n.Head.To : at+n.Tail.From])}
			if in := r.s.Info(path); in != nil {
				m.Page, m.Address = in.URL, n.Container+"/"+n.Step
			}
			out = append(out, m)
		}
	}
	return out
}
