package render

import (
	"brickshelf/internal/core/block"
	"brickshelf/internal/core/markup"
	"brickshelf/internal/core/place"
	"brickshelf/internal/core/shelf"
	"brickshelf/internal/core/site"
)

// Spot is a linked placement of a block while its page is rendered, for who asks what stands
// there and why.
type Spot struct {
	Page    *shelf.Info
	Block   *block.Block
	Address string
	Node    *markup.Node // the call; nil where a rule placed the block
	Rule    *place.Rule  // nil where a call did

	r            *renderer
	outer, inner *scope
}

// Visit renders a page as a view has it, and hands over each linked placement of a block.
func Visit(v shelf.View, look func(*Spot)) {
	r := newRenderer(v.Shelf, v.Info, nil)
	r.visit = look
	r.page()
}

// Via is the document that brought the block there.
func (p *Spot) Via() string { return p.r.via(p.Node, p.Rule, p.outer) }

// InText reports whether it is a call in the page's own text, outside loops.
func (p *Spot) InText() bool {
	return p.Node != nil && p.outer.own && p.outer.pageText && p.outer.loops == nil
}

// Argument is what an argument of the call gives a field.
func (p *Spot) Argument(f *block.Field, a markup.ArgValue) (block.Value, error) {
	return p.r.argument(f, a, p.outer)
}

// From is the page or site value from which a field is taken; unset where that is none.
func (p *Spot) From(f *block.Field) block.Value { return p.r.from(f) }

// Split is the document in which the call stands, nil where that is a one-off copy or a menu.
func (p *Spot) Split() *site.Split {
	sc, in := p.outer, p.Page
	switch {
	case sc.outer != nil:
	case sc.pageText:
		return &in.Page.Split
	case sc.block != nil && len(sc.src) > 0 && &sc.src[0] == &sc.block.Text.Src[0]:
		return &sc.block.Split
	case sc.block == nil && in.Layout != nil && len(sc.src) > 0 && &sc.src[0] == &in.Layout.Text.Src[0]:
		return &in.Layout.Split
	}
	return nil
}

// Starts is what the block's behaviour is given there, "" where it is not started for each placement.
func (p *Spot) Starts() string {
	if !p.r.s.Shelved(p.Block.Name).Each {
		return ""
	}
	return p.Block.Start(p.inner.values)
}

// Scope is what names mean in the text of the block.
func (p *Spot) Scope() Scope { return Scope{p.r, p.inner} }

// Scope is what names in a text mean, at a Spot.
type Scope struct {
	r  *renderer
	sc *scope
}

// Src is the text.
func (s Scope) Src() []byte { return s.sc.src }

// Round tells the turn of the loops around, as in ".2"; it ends the steps of calls in them.
func (s Scope) Round() string { return s.sc.round }

// Holds reports whether a condition does.
func (s Scope) Holds(e *markup.Expr) bool { return s.r.holds(e, s.sc) }

// Eval is the value of an expression.
func (s Scope) Eval(e *markup.Expr) block.Value { return s.r.eval(e, s.sc) }

// Term is the value of a term.
func (s Scope) Term(t *markup.Term) block.Value { return s.r.term(t, s.sc) }

// Turn is the scope in a turn of a loop.
func (s Scope) Turn(name string, i int, v block.Value) Scope {
	return Scope{s.r, s.sc.turn(name, i, v)}
}

// Enclosed is the content that the call encloses, with the scope in which it was written;
// full is set where it is more than white space. ok is false where there is none.
func (s Scope) Enclosed() (nodes []*markup.Node, around Scope, full, ok bool) {
	e := s.sc.enclosed
	return e.nodes, Scope{s.r, e.scope}, e.full, e.scope != nil
}
