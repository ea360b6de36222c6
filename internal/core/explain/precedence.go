package explain

import (
	"slices"

	"brickshelf/internal/core/block"
	"brickshelf/internal/core/markup"
	"brickshelf/internal/core/place"
	"brickshelf/internal/core/render"
	"brickshelf/internal/core/shelf"
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
	Source render.Source
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

// PrecedenceAt gives the precedence of the placement at an address of a page, as some see
// it; nil where no block stands there, or a one-off copy of it.
func PrecedenceAt(s *shelf.Shelf, path, address string, signedIn bool) *Precedence {
	in := s.Info(path)
	if in == nil {
		return nil
	}
	if signedIn {
		in = in.Seen(shelf.SignedIn)
	}
	return precedenceIn(shelf.View{Shelf: s, SignedIn: signedIn, Info: in}, address)
}

func precedenceIn(v shelf.View, address string) (found *Precedence) {
	render.Visit(v, func(p *render.Spot) {
		if p.Address == address {
			found = precedence(v.Shelf, p)
		}
	})
	return found
}

// PrecedenceOf is PrecedenceAt for whoever sees the placement, and whenever that is.
func PrecedenceOf(s *shelf.Shelf, path, address string) *Precedence {
	for _, v := range s.Views(path) {
		if l := precedenceIn(v, address); l != nil {
			return l
		}
	}
	return nil
}

// ValueRow is a linked placement of a block with its precedences.
type ValueRow struct {
	Page *shelf.Info
	*Precedence
}

// Values lists the linked placements of a block on all pages, drafts too, in the order
// of the pages; on each those that stand there now for all, then those that only
// some see, or on days ahead. Only a shelf made by New knows them.
func Values(s *shelf.Shelf, name string) []ValueRow {
	return ValuesOn(s, name, s.Users(name), func() bool { return true })
}

// ValuesOn is Values of some pages, by their paths, for who may lose interest: it passes over the
// pages that are left when goOn reports false.
func ValuesOn(s *shelf.Shelf, name string, paths []string, goOn func() bool) []ValueRow {
	found := make([][]*Precedence, len(paths))
	shelf.Parallel(len(paths), func(i int) {
		if !goOn() {
			return
		}
		for _, v := range s.Views(paths[i]) {
			render.Visit(v, func(p *render.Spot) {
				same := func(k *Precedence) bool { return k.Address == p.Address }
				if p.Block.Name == name && !slices.ContainsFunc(found[i], same) {
					found[i] = append(found[i], precedence(v.Shelf, p))
				}
			})
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

// precedence is what every source says of the fields of a placement.
func precedence(s *shelf.Shelf, p *render.Spot) *Precedence {
	l := &Precedence{Address: p.Address, Block: p.Block.Name, Via: p.Via(), InText: p.InText()}
	for _, f := range p.Block.Fields {
		one := FieldPrecedence{Field: f, Wins: -1}
		for _, v := range (asking{s, p, f}).sources() {
			if v.Set = v.Bad == "" && v.Value.IsSet(); v.Set && one.Wins < 0 {
				one.Wins = len(one.Sources)
			}
			one.Sources = append(one.Sources, v)
		}
		l.Fields = append(l.Fields, one)
	}
	return l
}

// asking asks the sources of a field, at a placement, what they say.
type asking struct {
	s *shelf.Shelf
	p *render.Spot
	f *block.Field
}

// sources gives what each says, from the most to the least particular.
func (k asking) sources() []SourceValue {
	out := []SourceValue{k.override()}
	if k.p.Node != nil {
		out = append(out, k.argued())
	}
	if k.p.Rule != nil {
		out = append(out, k.ruled(k.p.Rule))
	}
	if k.f.From != nil {
		out = append(out, k.taken())
	}
	return append(out, SourceValue{Source: render.FromDefault, Value: k.f.Default, Written: k.f.Written,
		Unshown: k.f.Unshown, Doc: k.p.Block.Path, Line: k.f.Line, Column: k.f.Column})
}

// read is what stands at a line and column of a source.
func (k asking) read(v SourceValue, line, column int, raw any) SourceValue {
	var err error
	if v.Value, err = k.s.Reader().Read(k.f, raw); err != nil {
		v.Bad = err.Error()
	}
	v.Line, v.Column = line, column
	v.Written, _ = block.Verbatim.Read(k.f, raw)
	v.Unshown = k.s.Reader().Lost(k.f, raw)
	return v
}

func (k asking) override() SourceValue {
	g := k.p.Page.Page
	v := SourceValue{Source: render.FromOverride, Doc: g.Path}
	for _, o := range g.Overrides[k.p.Address] {
		if o.Key == k.f.Name {
			v = k.read(v, o.Value.Line, o.Value.Col, block.Raw(o.Value))
		}
	}
	return v
}

func (k asking) ruled(rule *place.Rule) SourceValue {
	v := SourceValue{Source: render.FromPlacing, Doc: rule.Path}
	for _, set := range rule.Set {
		if set.Field == k.f.Name {
			v = k.read(v, set.Line, set.Col, set.Raw)
		}
	}
	return v
}

// taken is the page or site value that the field is taken from.
func (k asking) taken() SourceValue {
	g := k.p.Page.Page
	v := SourceValue{Source: render.FromPage, Value: k.p.From(k.f), Doc: g.Path}
	v.Written = v.Value
	if k.f.From[0] == "site" {
		v.Source, v.Doc = render.FromSite, "site.yaml"
		return v
	}
	for _, own := range g.Fields {
		if own.Key == k.f.From[1] {
			v.Line, v.Column = own.Value.Line, own.Value.Col
		}
	}
	return v
}

// argued is what the arguments of the call say. Of a call in a copy that stands in the front
// matter, or in a loop, they are what placed it: they are not one placement's to edit.
func (k asking) argued() SourceValue {
	v := SourceValue{Source: render.FromPlacing, Doc: k.p.Via()}
	if k.p.InText() {
		v.Source = render.FromArgument
	}
	for _, given := range k.p.Node.Args {
		if given.Name != k.f.Name || v.Bad != "" || v.Value.IsSet() {
			continue
		}
		var err error
		if v.Value, err = k.p.Argument(k.f, given.Value); err != nil {
			v.Bad = err.Error()
		}
		v.Written = v.Value
		if given.Value.Kind != markup.ArgExpr {
			v.Written, _ = block.Verbatim.Argument(k.f, given.Value)
			v.Unshown = k.s.Reader().Lost(k.f, block.RawArgument(given.Value))
		}
		if split := k.p.Split(); split != nil {
			at := site.At(*split, v.Doc, given.At, site.Invalid, "", "")
			v.Line, v.Column = at.Line, at.Column
		}
	}
	return v
}
