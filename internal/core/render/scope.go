package render

import (
	"strconv"

	"brickshelf/internal/core/block"
	"brickshelf/internal/core/markup"
	"brickshelf/internal/core/place"
	"brickshelf/internal/core/site"
)

// scope is what names in a text mean: whose text it is, which fields and loop
// variables there are, what content was enclosed.
type scope struct {
	src      []byte
	block    *block.Block // nil in pages, layouts and copies
	values   []block.Value
	loops    *loop
	address  string // of the container, before the step
	round    string // ".2" in the second turn of a loop
	own      bool   // the text is the page's own
	menu     string // the document of the menu in whose panel the text stands, else ""
	pageText bool   // and stands in the page's text, not in its front matter
	enclosed enclosed
	outer    *scope // of a copy: where its enclosed content belongs
}

type loop struct {
	name  string
	value block.Value
	next  *loop
}

// enclosed is content handed to a call, with the scope that it was written in.
type enclosed struct {
	nodes []*markup.Node
	scope *scope
	full  bool // more than white space
}

func (r *renderer) eval(e *markup.Expr, sc *scope) block.Value {
	for i := range e.Terms {
		if v := r.term(&e.Terms[i], sc); !v.Empty() || i == len(e.Terms)-1 {
			return v
		}
	}
	return block.Value{}
}

func (r *renderer) holds(e *markup.Expr, sc *scope) bool {
	v := r.eval(e, sc)
	ok := !v.Empty()
	if e.Is != nil {
		ok = v.Text == *e.Is
	}
	return ok != e.Not
}

func (r *renderer) term(t *markup.Term, sc *scope) block.Value {
	if t.Literal != nil {
		return block.Value{Type: block.Text, Text: *t.Literal}
	}
	var v block.Value
	if t.Slot > 0 && sc.block != nil {
		v = sc.values[t.Slot-1]
	} else {
		v = r.root(t.Path, sc)
	}
	if len(t.Path) == 1 {
		return v
	}
	rest := t.Path[1:]
	if t.Path[0] == "page" || t.Path[0] == "site" {
		rest = t.Path[2:]
	}
	for _, m := range rest {
		v = v.Member(m)
	}
	return v
}

func (r *renderer) root(path []string, sc *scope) block.Value {
	switch path[0] {
	case "page":
		return r.pageValue(path[1])
	case "site":
		r.readSite = true
		return r.s.Config().Field(path[1])
	case "inner":
		if sc.enclosed.full {
			return block.Value{Type: block.Text, Text: "inner"}
		}
		return block.Value{}
	}
	for l := sc.loops; l != nil; l = l.next {
		if l.name == path[0] {
			return l.value
		}
	}
	if sc.block != nil {
		if i := sc.block.Field(path[0]); i >= 0 {
			return sc.values[i]
		}
	}
	return block.Value{}
}

func (r *renderer) pageValue(name string) block.Value {
	g := r.info.Page
	switch name {
	case "title", "url", "root", "to-top":
		r.alone = true
	}
	switch name {
	case "title":
		return block.Value{Type: block.Text, Text: g.Title}
	case "url":
		return block.Value{Type: block.Link, Text: g.URL}
	case "root":
		return block.Value{Type: block.Link, Text: site.RootOf(g.URL)}
	case "to-top":
		return block.Value{Type: block.Link, Text: site.UpOf(g.URL)}
	case "layout":
		return block.Value{Type: block.Text, Text: g.Layout}
	}
	v := r.fieldOf(name)
	r.asked(ask{name: name, value: v})
	if v.IsSet() {
		return v
	}
	if r.info.Layout != nil {
		if f := r.info.Layout.PageField(name); f != nil {
			return f.Default
		}
	}
	return block.Value{}
}

// fieldOf is the page's own value of a field; unset where the page's own values are
// left out.
func (r *renderer) fieldOf(name string) block.Value {
	if r.strip {
		return block.Value{}
	}
	return r.info.Fields[name]
}

// Source says which layer of the precedence a value came from.
type Source string

// The sources, from the most to the least particular.
const (
	FromOverride Source = "override"
	FromArgument Source = "argument" // of a call in the page's own text
	FromPlacing  Source = "placed"   // by the rule, or the call in a block or layout
	FromPage     Source = "page"
	FromSite     Source = "site"
	FromDefault  Source = "default"
)

// OwnValue is a value that a page itself gives to a field of a placement.
type OwnValue struct {
	Field  string
	Value  block.Value
	Source Source
}

// bind works out the value of every field of a placement: the page's override
// or own argument, what placed it, the page value, the default.
func (r *renderer) bind(b *block.Block, address string, n *markup.Node, rule *place.Rule,
	sc *scope) ([]block.Value, []OwnValue) {
	values := r.slots(len(b.Fields))
	var own []OwnValue
	if r.info.Page.Overrides != nil && !r.strip {
		for _, p := range r.info.Page.Overrides[address] {
			if i := b.Field(p.Key); i >= 0 {
				r.meet("overrides", address, p.Key)
				if v, err := r.s.Reader().Read(b.Fields[i], block.Raw(p.Value)); err == nil && v.IsSet() {
					values[i] = v
					own = r.note(own, b.Fields[i], v, FromOverride)
				} else if err != nil {
					r.fault(Fault{Code: "wrong-type", Address: address, Field: p.Key, Message: err.Error()})
				}
			}
		}
	}
	if n != nil && (!sc.own || !r.strip) {
		own = r.bindArguments(b, address, n, sc, values, own)
	}
	if rule != nil {
		for _, s := range rule.Set {
			if i := b.Field(s.Field); i >= 0 && !values[i].IsSet() {
				if v, err := r.s.Reader().Read(b.Fields[i], s.Raw); err == nil {
					values[i] = v
				}
			}
		}
	}
	return values, r.bindRest(b, address, values, own)
}

// note takes down a value that the page itself gives, where that is asked.
func (r *renderer) note(own []OwnValue, f *block.Field, v block.Value, from Source) []OwnValue {
	if r.trace == nil {
		return own
	}
	return append(own, OwnValue{f.Name, v, from})
}

// bindArguments gives the fields that are not set yet the values of a call's arguments.
func (r *renderer) bindArguments(b *block.Block, address string, n *markup.Node, sc *scope,
	values []block.Value, own []OwnValue) []OwnValue {
	for a := range n.Args {
		i := b.Field(n.Args[a].Name)
		if i < 0 || values[i].IsSet() {
			continue
		}
		v, err := r.argument(b.Fields[i], n.Args[a].Value, sc)
		if err != nil {
			r.fault(Fault{Code: "wrong-type", Address: address, Field: b.Fields[i].Name,
				Message: err.Error()})
			continue
		}
		values[i] = v
		if sc.own && v.IsSet() {
			own = r.note(own, b.Fields[i], v, FromArgument)
		}
	}
	return own
}

// bindRest gives the other fields the page or site value that they are taken from, else
// their default.
func (r *renderer) bindRest(b *block.Block, address string, values []block.Value,
	own []OwnValue) []OwnValue {
	for i, f := range b.Fields {
		if values[i].IsSet() {
			continue
		}
		if f.From != nil {
			values[i] = r.from(f)
			if values[i].IsSet() && f.From[0] == "page" {
				own = r.note(own, f, values[i], FromPage)
			}
		}
		if !values[i].IsSet() {
			values[i] = f.Default
		}
		if f.Required && !values[i].IsSet() && !r.strip {
			r.fault(Fault{Code: "missing-value", Address: address, Field: f.Name,
				Message: "the required field " + f.Name + " of " + b.Name + " has no value here"})
		}
	}
	return own
}

// from takes a field's value from the page or site value that it names, where
// that is set and fits.
func (r *renderer) from(f *block.Field) block.Value {
	var v block.Value
	if f.From[0] == "site" {
		r.readSite = true
		v = r.s.Config().Field(f.From[1])
	} else {
		v = r.fieldOf(f.From[1])
		r.asked(ask{name: f.From[1], value: v})
		if f.From[1] == "title" && !r.strip {
			v = r.pageValue("title")
		}
	}
	fit, err := r.s.Reader().Fit(f, v)
	if err != nil {
		return block.Value{}
	}
	return fit
}

func (r *renderer) argument(f *block.Field, a markup.ArgValue, sc *scope) (block.Value, error) {
	if a.Kind == markup.ArgExpr {
		return r.s.Reader().Fit(f, r.eval(a.Expr, sc))
	}
	if r.foreign(sc) {
		a = r.argumentIn(a)
	}
	return r.s.Reader().Argument(f, a)
}

// step gives the address of a node in a scope.
func (sc *scope) step(n *markup.Node) string {
	if n.Loops == 0 {
		return sc.address + "/" + n.Step
	}
	return sc.address + "/" + n.Step + sc.round
}

func (sc *scope) turn(name string, i int, v block.Value) *scope {
	t := *sc
	t.loops = &loop{name, v, sc.loops}
	t.round = sc.round + "." + strconv.Itoa(i+1)
	return &t
}
