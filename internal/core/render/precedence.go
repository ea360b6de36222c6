package render

import (
	"slices"

	"brickshelf/internal/core/block"
	"brickshelf/internal/core/markup"
	"brickshelf/internal/core/place"
	"brickshelf/internal/core/site"
)

// Precedence tells, for each field of a placement, what every source says and which one wins.
type Precedence struct {
	Address string
	Block   string
	Via     string // the document that brought the block there
	InText  bool   // it is a call in the page's own text, outside loops
	Fields  []FieldPrecedence
}

// FieldPrecedence is the precedence of one field. Wins is the place of the source that gives the
// value, -1 where none does.
type FieldPrecedence struct {
	Field   *block.Field
	Sources []SourceValue // from the most to the least particular
	Wins    int
}

// SourceValue is what one source says. Doc is where it is said, or would be; Line and Column
// are 0 where it is not said, or stands in a one-off copy.
type SourceValue struct {
	Source Source
	Set    bool
	Value  block.Value
	// Written is the value as it is written, where a rich text shows less than it says;
	// Unshown is what it does not show. See block.Reader.Lost.
	Written block.Value
	Unshown string
	Doc     string
	Line    int
	Column  int
	Bad     string // why what is said does not count
}

// Precedence gives the precedence of the placement at an address of a page; nil where no block
// stands there, or a one-off copy of it.
func (s *Shelf) Precedence(path, address string, o Options) *Precedence {
	in := s.Info(path)
	if in == nil {
		return nil
	}
	if o.SignedIn {
		in = in.Seen(SignedIn)
	}
	r := newRenderer(s, in, nil)
	r.trace, r.precedenceAt = &[]Placement{}, address
	r.page()
	return r.precedence
}

// PrecedenceOf is Precedence for whoever sees the placement, and whenever that is.
func (s *Shelf) PrecedenceOf(path, address string) *Precedence {
	for _, v := range s.Views(path) {
		if l := v.Shelf.Precedence(path, address, Options{SignedIn: v.SignedIn}); l != nil {
			return l
		}
	}
	return nil
}

// ValueRow is a linked placement of a block with its precedences.
type ValueRow struct {
	Page *Info
	*Precedence
}

// Values lists the linked placements of a block on all pages, drafts too, in the order
// of the pages; on each those that stand there now for all, then those that only
// some see, or on days ahead. Only a shelf made by New knows them.
func (s *Shelf) Values(name string) []ValueRow {
	return s.ValuesWhile(name, func() bool { return true })
}

// ValuesWhile is Values for who may lose interest: it passes over the pages that are left
// when goOn reports false.
func (s *Shelf) ValuesWhile(name string, goOn func() bool) []ValueRow {
	paths := s.Users(name)
	found := make([][]*Precedence, len(paths))
	Parallel(len(paths), func(i int) {
		if !goOn() {
			return
		}
		for _, v := range s.Views(paths[i]) {
			r := newRenderer(v.Shelf, v.info, nil)
			r.trace, r.precedencesOf = &[]Placement{}, name
			r.page()
			for _, l := range r.precedences {
				if !slices.ContainsFunc(found[i],
					func(k *Precedence) bool { return k.Address == l.Address }) {
					found[i] = append(found[i], l)
				}
			}
		}
	})
	var out []ValueRow
	for i, list := range found {
		for _, l := range list {
			out = append(out, ValueRow{s.Info(paths[i]), l})
		}
	}
	return out
}

// climb notes the precedence of a placement that is about to be bound.
func (r *renderer) climb(b *block.Block, address string, n *markup.Node, rule *place.Rule, sc *scope) {
	g := r.info.Page
	l := &Precedence{Address: address, Block: b.Name, Via: r.via(n, rule, sc), InText: n != nil && sc.own &&
		sc.pageText && sc.loops == nil}
	for _, f := range b.Fields {
		one := FieldPrecedence{Field: f, Wins: -1}
		add := func(v SourceValue) {
			if v.Set = v.Bad == "" && v.Value.IsSet(); v.Set && one.Wins < 0 {
				one.Wins = len(one.Sources)
			}
			one.Sources = append(one.Sources, v)
		}
		read := func(v SourceValue, raw any) SourceValue {
			var err error
			if v.Value, err = r.s.reader.Read(f, raw); err != nil {
				v.Bad = err.Error()
			}
			v.Written, _ = block.Verbatim.Read(f, raw)
			v.Unshown = r.s.reader.Lost(f, raw)
			return v
		}
		override := SourceValue{Source: FromOverride, Doc: g.Path}
		for _, p := range g.Overrides[address] {
			if p.Key == f.Name {
				override.Line, override.Column = p.Value.Line, p.Value.Col
				override = read(override, block.Raw(p.Value))
			}
		}
		add(override)
		if n != nil {
			add(r.argued(f, n, sc, l))
		}
		if rule != nil {
			v := SourceValue{Source: FromPlacing, Doc: rule.Path}
			for _, s := range rule.Set {
				if s.Field == f.Name {
					v.Line, v.Column = s.Line, s.Col
					v = read(v, s.Raw)
				}
			}
			add(v)
		}
		if f.From != nil {
			v := SourceValue{Source: FromPage, Value: r.from(f), Doc: g.Path}
			v.Written = v.Value
			if f.From[0] == "site" {
				v.Source, v.Doc = FromSite, "site.yaml"
			}
			for _, p := range g.Fields {
				if v.Source == FromPage && p.Key == f.From[1] {
					v.Line, v.Column = p.Value.Line, p.Value.Col
				}
			}
			add(v)
		}
		add(SourceValue{Source: FromDefault, Value: f.Default, Written: f.Written, Unshown: f.Unshown,
			Doc: b.Path, Line: f.Line, Column: f.Column})
		l.Fields = append(l.Fields, one)
	}
	if r.precedenceAt == address {
		r.precedence = l
	}
	if r.precedencesOf == b.Name {
		r.precedences = append(r.precedences, l)
	}
}

// argued is what the arguments of a call say of a field. Of a call in a copy that stands
// in the front matter, or in a loop, they are what placed it: they are not one placement's
// to edit.
func (r *renderer) argued(f *block.Field, n *markup.Node, sc *scope, l *Precedence) SourceValue {
	v := SourceValue{Source: FromPlacing, Doc: l.Via}
	if l.InText {
		v.Source = FromArgument
	}
	for i := range n.Args {
		if n.Args[i].Name != f.Name || v.Bad != "" || v.Value.IsSet() {
			continue
		}
		var err error
		if v.Value, err = r.argument(f, n.Args[i].Value, sc); err != nil {
			v.Bad = err.Error()
		}
		v.Written = v.Value
		if a := n.Args[i].Value; a.Kind != markup.ArgExpr {
			v.Written, _ = block.Verbatim.Argument(f, a)
			v.Unshown = r.s.reader.Lost(f, block.RawArgument(a))
		}
		if split := r.splitOf(sc); split != nil {
			p := site.At(*split, l.Via, n.Args[i].At, site.Invalid, "", "")
			v.Line, v.Column = p.Line, p.Column
		}
	}
	return v
}

// splitOf is the document in which the text of a scope stands, nil where that is a
// one-off copy or a menu.
func (r *renderer) splitOf(sc *scope) *site.Split {
	switch {
	case sc.outer != nil:
	case sc.pageText:
		return &r.info.Page.Split
	case sc.block != nil && len(sc.src) > 0 && &sc.src[0] == &sc.block.Text.Src[0]:
		return &sc.block.Split
	case sc.block == nil && r.info.Layout != nil && len(sc.src) > 0 &&
		&sc.src[0] == &r.info.Layout.Text.Src[0]:
		return &r.info.Layout.Split
	}
	return nil
}
