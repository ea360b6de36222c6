package render

import (
	"bytes"
	"slices"
	"strconv"

	"brickshelf/internal/core/block"
	"brickshelf/internal/core/markup"
	"brickshelf/internal/core/site"
)

// Expansion is a placement written out as text: what the block shows there, its
// values filled in, the calls inside still calls.
type Expansion struct {
	Block     string
	Base      site.Hash // of the block's document
	Style     site.Hash // "" where the block has none
	Behaviour site.Hash
	Text      []byte
	Shown     bool // the enclosed content stands in Text
}

// Expand writes out the placement at an address of a page. It returns nil where
// no linked placement of a block stands there. keyed gives the calls in enclosed
// content their steps as keys, for a text that stands apart from theirs.
func (s *Shelf) Expand(path, address string, keyed bool) *Expansion {
	for _, v := range s.Views(path) {
		if out := v.expand(address, keyed); out != nil {
			return out
		}
	}
	return nil
}

func (v View) expand(address string, keyed bool) *Expansion {
	var out *Expansion
	s := v.Shelf
	r := newRenderer(s, v.info, nil)
	r.hookAt = address
	r.hook = func(b *block.Block, sc *scope) {
		if out != nil {
			return
		}
		x := &expander{r: r, keyed: keyed}
		x.steps = map[string]int{}
		x.nodes(b.Text.Nodes, sc)
		x.flush()
		out = &Expansion{Block: b.Name, Base: s.Hash(b.Path), Text: x.out, Shown: x.shown,
			Style: s.Hash("blocks/" + b.Name + ".css"), Behaviour: s.Hash("blocks/" + b.Name + ".js")}
	}
	r.page()
	return out
}

// expander writes the content of one placement as a text of the shelf language.
// Bytes that are shown as they stand gather in run, so that an @{ that comes
// about between two pieces is noticed and escaped.
type expander struct {
	r     *renderer
	out   []byte
	run   []byte
	keyed bool
	shown bool           // the enclosed content has been written
	steps map[string]int // name → calls of that name written so far
	outer map[string]int // the same around the copy being written
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

func (x *expander) nodes(nodes []*markup.Node, sc *scope) {
	for _, n := range nodes {
		switch n.Kind {
		case markup.Literal:
			x.run = append(x.run, sc.src[n.Span.From:n.Span.To]...)
		case markup.Escape:
			x.run = append(x.run, "@{"...)
		case markup.Value:
			x.value(n, sc)
		case markup.When:
			if x.r.holds(n.Expr, sc) {
				x.nodes(n.Body, sc)
			} else {
				x.nodes(n.Else, sc)
			}
		case markup.Each:
			for i, v := range x.r.eval(n.Expr, sc).Items() {
				x.nodes(n.Body, sc.turn(n.As, i, v))
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

func (x *expander) value(n *markup.Node, sc *scope) {
	for i := range n.Expr.Terms {
		t := &n.Expr.Terms[i]
		last := i == len(n.Expr.Terms)-1
		if len(t.Path) == 1 && t.Path[0] == "inner" {
			if sc.enclosed.scope != nil && (sc.enclosed.full || last) {
				x.inner(&sc.enclosed)
				return
			}
			continue
		}
		if v := x.r.term(t, sc); !v.Empty() || last {
			x.run = block.Append(x.run, contained(v, n), n.Context)
			return
		}
	}
}

// inner writes the enclosed content: as itself the first time, and by reference
// after that where its calls have no keys to tell them by.
func (x *expander) inner(e *enclosed) {
	if x.shown && !x.keyed {
		x.tag("@{=inner}")
		return
	}
	x.shown = true
	x.tag("@{inner}")
	if !x.keyed {
		for _, n := range e.nodes {
			x.out = append(x.out, e.scope.src[n.Span.From:n.Span.To]...)
		}
	} else {
		sub := &expander{r: x.r, keyed: true, steps: nil}
		sub.nodes(e.nodes, e.scope)
		sub.flush()
		x.out = append(x.out, sub.out...)
	}
	x.out = append(x.out, "@{/inner}"...)
}

// call writes a call that stays linked, its arguments filled in. Where its step
// would be another in the new text, it gets the old one as its key.
func (x *expander) call(n *markup.Node, sc *scope) {
	step := n.Step
	if n.Loops > 0 {
		step += sc.round
	}
	natural := ""
	if x.steps != nil {
		x.steps[n.Name]++
		natural = stepOf(n.Name, x.steps[n.Name])
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
func (x *expander) copy(n *markup.Node, sc *scope) {
	x.tag("@{copy")
	for i := range n.Args {
		if a := &n.Args[i]; a.Name != "key" {
			x.out = append(x.out, " "+a.Name+"="+string(sc.src[a.Value.Span.From:a.Value.Span.To])...)
		}
	}
	x.out = append(x.out, " key="+markup.Quote(n.Step)+"}"...)
	steps, outer := x.steps, x.outer
	x.outer, x.steps = x.steps, map[string]int{}
	x.nodes(n.Body, sc)
	x.steps, x.outer = steps, outer
	x.tag("@{/copy}")
}

func (x *expander) args(n *markup.Node, sc *scope) {
	fields := x.r.s.Parameters(n.Name)
	for i := range n.Args {
		a := &n.Args[i]
		if a.Name == "key" {
			continue
		}
		text := string(sc.src[a.Value.Span.From:a.Value.Span.To])
		if a.Value.Kind == markup.ArgExpr {
			v := x.r.eval(a.Value.Expr, sc)
			if j := slices.IndexFunc(fields, func(f *block.Field) bool { return f.Name == a.Name }); j >= 0 {
				if fit, err := x.r.s.reader.Fit(fields[j], v); err == nil {
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

func stepOf(name string, n int) string { return name + "~" + strconv.Itoa(n) }
