package check

import (
	"strings"

	"brickshelf/internal/core/markup"
	"brickshelf/internal/core/render"
	"brickshelf/internal/core/shelf"
	"brickshelf/internal/core/site"
)

// placements are those of one page by their addresses, looked up when first asked for.
type placements struct {
	s    *shelf.Shelf
	path string
	at   map[string]render.Placement
}

func (p *placements) of(address string) render.Placement {
	if p.at == nil {
		p.at = map[string]render.Placement{}
		for _, one := range render.Placements(p.s, p.path) {
			p.at[one.Address] = one
		}
	}
	return p.at[address]
}

// shared is the place of what a fault is about where other pages share it: the call in a
// block or layout, or the rule, that brings about what stands there. There is none where
// the page itself says something of the address.
func (k *Checker) shared(in *shelf.Info, placed *placements, f render.Fault) (site.Problem, bool) {
	none := site.Problem{}
	if strings.HasPrefix(f.Code, "lost-") || len(in.Page.Overrides[f.Address]) > 0 ||
		in.Page.Copies[f.Address] != nil {
		return none, false
	}
	i := strings.LastIndexByte(f.Address, '/')
	if i < 0 {
		return none, false
	}
	around, step := f.Address[:i], f.Address[i+1:]
	if name, ok := strings.CutPrefix(step, "rule:"); ok {
		name, _, _ = strings.Cut(name, "~")
		if r := k.s.Rule(name); r != nil {
			return site.Problem{Path: r.Path, Line: r.BlockAt[0], Column: r.BlockAt[1]}, true
		}
		return none, false
	}
	if around == "layout" && in.Layout != nil {
		return calledAt(in.Layout.Split, in.Layout.Path, in.Layout.Text, step)
	}
	if !strings.Contains(around, "/") {
		return none, false // the page's own text calls it
	}
	if p := placed.of(around); p.Kind == render.Linked {
		if b := k.s.Block(p.Block); b != nil {
			return calledAt(b.Split, b.Path, b.Text, step)
		}
	}
	return none, false
}

// calledAt finds the call of a step in a text.
func calledAt(split site.Split, path string, t *markup.Text, step string) (site.Problem, bool) {
	step, _, _ = strings.Cut(step, ".")
	at := -1
	markup.Walk(t.Nodes, func(n *markup.Node) bool {
		if at < 0 && n.Kind == markup.Call && n.Step == step {
			at = n.Span.From
		}
		return at < 0
	})
	if at < 0 {
		return site.Problem{}, false
	}
	return site.At(split, path, at, site.Error, "", ""), true
}
