// Package expansion writes placements out as text of the shelf language: what stands there as a copy,
// which follows its block no more.
package expansion

import (
	"bytes"
	"slices"
	"strconv"

	"brickshelf/internal/core/assets"
	"brickshelf/internal/core/block"
	"brickshelf/internal/core/markup"
	"brickshelf/internal/core/render"
	"brickshelf/internal/core/shelf"
	"brickshelf/internal/core/site"
)

// Expansion is a placement written out as text: what the block shows there, its
// values filled in, the calls inside still calls.
type Expansion struct {
	Block     string
	Base      site.Hash // of the block's document
	Style     site.Hash // "" where the block has none
	Behaviour site.Hash
	Starts    string // what the behaviour is given, "" where it runs once for the page
	Needs     string // the behaviours before it
	Text      []byte
	Shown     bool // the enclosed content stands in Text
	Literals  []Literal
}

// Literal is where a stretch of a block's own markup stands in what is written out. Where that had to
// be escaped, it does not hold.
type Literal struct {
	From int // in the text written out
	Of   markup.Span
}

// As is a block as it is, at no place: without text and what its behaviour is given.
func As(s *shelf.Shelf, name string) *Expansion {
	out := &Expansion{Block: name, Base: s.Hash("blocks/" + name + ".html"), Style: s.Hash("blocks/" + name + ".css"),
		Behaviour: s.Hash("blocks/" + name + ".js")}
	if b := s.Shelved(name); b != nil && b.Code != "" {
		var needs []assets.File
		for _, o := range s.Needed(b.Block) {
			needs = append(needs, assets.File{Hash: o.Code, Each: o.Each})
		}
		out.Needs = assets.Needs(needs)
	}
	return out
}

// Says are the words in which a copy says what it came from, but for its text: each key with what it
// has, in order; "" where it says nothing of it.
func (x *Expansion) Says() [][2]string {
	return [][2]string{{"of", x.Block}, {"base", string(x.Base)}, {"style", string(x.Style)},
		{"behaviour", string(x.Behaviour)}, {"starts", x.Starts}, {"needs", x.Needs}}
}

// Opening is how the tag of a copy begins.
func (x *Expansion) Opening() string {
	out := "@{copy"
	for _, w := range x.Says() {
		if w[1] != "" || w[0] == "base" {
			out += " " + w[0] + "=" + markup.Quote(w[1])
		}
	}
	return out
}

// Of writes out the placement at an address of a page. It returns nil where
// no linked placement of a block stands there. keyed gives the calls in enclosed
// content their steps as keys, for a text that stands apart from theirs.
func Of(s *shelf.Shelf, path, address string, keyed bool) *Expansion {
	for _, v := range s.Views(path) {
		if out := expand(v, address, keyed); out != nil {
			return out
		}
	}
	return nil
}

func expand(v shelf.View, address string, keyed bool) (out *Expansion) {
	s := v.Shelf
	render.Visit(v, func(p *render.Spot) {
		if out != nil || p.Address != address {
			return
		}
		b := p.Block
		x := &expander{s: s, keyed: keyed, steps: map[string]int{}}
		x.nodes(b.Text.Nodes, p.Scope())
		x.flush()
		out = As(s, b.Name)
		out.Text, out.Shown, out.Literals, out.Starts = x.out, x.shown, x.literals, p.Starts()
	})
	return out
}

// expander writes the content of one placement as a text of the shelf language.
// Bytes that are shown as they stand gather in run, so that an @{ that comes
// about between two pieces is noticed and escaped.
type expander struct {
	s        *shelf.Shelf
	out      []byte
	run      []byte
	keyed    bool
	shown    bool           // the enclosed content has been written
	steps    map[string]int // name → calls of that name written so far
	outer    map[string]int // the same around the copy being written
	literals []Literal      // those of the block
}

// flush writes out the gathered bytes. A tag follows, with which an @ at their
// end must not join.
func (x *expander) flush() {
	plain := bytes.TrimRight(x.run, "@")
	x.out = append(x.out, bytes.ReplaceAll(plain, []byte("@{"), []byte("@@{"))...)
	if ats := x.run[len(plain):]; len(ats) > 0 {
		x.out = append(x.out, `@{="`+string(ats)+`"}`...)
	}
	x.run = x.run[:0]
}

func (x *expander) tag(s string) {
	x.flush()
	x.out = append(x.out, s...)
}

func (x *expander) nodes(nodes []*markup.Node, sc render.Scope) {
	for _, n := range nodes {
		switch n.Kind {
		case markup.Literal:
			x.literals = append(x.literals, Literal{len(x.out) + len(x.run), n.Span})
			x.run = append(x.run, sc.Src()[n.Span.From:n.Span.To]...)
		case markup.Escape:
			x.run = append(x.run, "@{"...)
		case markup.Value:
			x.value(n, sc)
		case markup.When:
			if sc.Holds(n.Expr) {
				x.nodes(n.Body, sc)
			} else {
				x.nodes(n.Else, sc)
			}
		case markup.Each:
			for i, v := range sc.Eval(n.Expr).Items() {
				x.nodes(n.Body, sc.Turn(n.As, i, v))
			}
		case markup.Call:
			x.call(n, sc)
		case markup.Copy:
			x.copy(n, sc)
		case markup.Inner:
			x.tag("@{inner}")
			inner, outer := x.steps, x.outer
			x.steps = outer
			x.nodes(n.Body, sc)
			x.steps = inner
			x.tag("@{/inner}")
		}
	}
}

func (x *expander) value(n *markup.Node, sc render.Scope) {
	for i := range n.Expr.Terms {
		t := &n.Expr.Terms[i]
		last := i == len(n.Expr.Terms)-1
		if len(t.Path) == 1 && t.Path[0] == "inner" {
			if nodes, around, full, ok := sc.Enclosed(); ok && (full || last) {
				x.inner(nodes, around)
				return
			}
			continue
		}
		if v := sc.Term(t); !v.Empty() || last {
			x.run = block.Append(x.run, render.Within(v, n), n.Context)
			return
		}
	}
}

// inner writes the enclosed content: as itself the first time, and by reference
// after that where its calls have no keys to tell them by.
func (x *expander) inner(nodes []*markup.Node, around render.Scope) {
	if x.shown && !x.keyed {
		x.tag("@{=inner}")
		return
	}
	x.shown = true
	x.tag("@{inner}")
	if !x.keyed {
		for _, n := range nodes {
			x.out = append(x.out, around.Src()[n.Span.From:n.Span.To]...)
		}
	} else {
		sub := &expander{s: x.s, keyed: true, steps: nil}
		sub.nodes(nodes, around)
		sub.flush()
		x.out = append(x.out, sub.out...)
	}
	x.out = append(x.out, "@{/inner}"...)
}

// call writes a call that stays linked, its arguments filled in. Where its step
// would be another in the new text, it gets the old one as its key.
func (x *expander) call(n *markup.Node, sc render.Scope) {
	step := n.Step
	if n.Loops > 0 {
		step += sc.Round()
	}
	natural := ""
	if x.steps != nil {
		x.steps[n.Name]++
		natural = n.Name + "~" + strconv.Itoa(x.steps[n.Name])
	}
	x.tag("@{" + n.Name)
	if step != natural {
		x.out = append(x.out, " key="+markup.Quote(step)...)
	}
	x.args(n, sc)
	if !n.Closed {
		x.out = append(x.out, " /}"...)
		return
	}
	x.out = append(x.out, '}')
	x.nodes(n.Body, sc)
	x.tag("@{/" + n.Name + "}")
}

// copy writes a copy that stands in the block, its values filled in.
func (x *expander) copy(n *markup.Node, sc render.Scope) {
	x.tag("@{copy")
	for i := range n.Args {
		if a := &n.Args[i]; a.Name != "key" {
			x.out = append(x.out, " "+a.Name+"="+string(sc.Src()[a.Value.Span.From:a.Value.Span.To])...)
		}
	}
	x.out = append(x.out, " key="+markup.Quote(n.Step)+"}"...)
	steps, outer := x.steps, x.outer
	x.outer, x.steps = x.steps, map[string]int{}
	x.nodes(n.Body, sc)
	x.steps, x.outer = steps, outer
	x.tag("@{/copy}")
}

func (x *expander) args(n *markup.Node, sc render.Scope) {
	fields := x.s.Parameters(n.Name)
	for i := range n.Args {
		a := &n.Args[i]
		if a.Name == "key" {
			continue
		}
		text := string(sc.Src()[a.Value.Span.From:a.Value.Span.To])
		if a.Value.Kind == markup.ArgExpr {
			v := sc.Eval(a.Value.Expr)
			if j := slices.IndexFunc(fields, func(f *block.Field) bool { return f.Name == a.Name }); j >= 0 {
				if fit, err := x.s.Reader().Fit(fields[j], v); err == nil {
					v = fit
				}
			}
			if !v.IsSet() {
				continue
			}
			text = v.Argument()
		}
		x.out = append(x.out, " "+a.Name+"="+text...)
	}
}
