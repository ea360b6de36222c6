package adopting

import (
	"slices"

	"brickshelf/internal/core/markup"
	"brickshelf/internal/core/repeat"
	"brickshelf/internal/core/site"
)

// retypes are the types that a field can have instead of the one that was found, in the order in which they
// are offered. A switch and a choice say what else is shown, and so stay what they are.
var retypes = map[repeat.FieldType][]repeat.FieldType{
	repeat.Text:  {repeat.Text, "lines", repeat.Rich, "number", "date", repeat.Link, repeat.Image},
	repeat.Rich:  {repeat.Rich, repeat.Text, "lines"},
	repeat.Link:  {repeat.Link, repeat.Image, repeat.Text},
	repeat.Image: {repeat.Image, repeat.Link, repeat.Text},
}

// Types are the types that a field of a type can have.
func Types(found repeat.FieldType) []repeat.FieldType {
	if types, ok := retypes[found]; ok {
		return types
	}
	return []repeat.FieldType{found}
}

// decided is the piece that is wanted, with what was decided of its fields.
func decided(w Wanted) (*repeat.Piece, error) {
	p := w.Piece
	if len(w.Rename)+len(w.Types)+len(w.Drop) == 0 {
		return p, nil
	}
	drop := map[string]bool{}
	for _, name := range w.Drop {
		drop[name] = true
	}
	for i := len(p.Fields) - 1; i >= 0; i-- {
		// Those within what goes may have gone with it.
		if i < len(p.Fields) && drop[p.Fields[i].Name] {
			p = p.Without(i)
		}
	}
	found := p
	p = renamed(p, w.Rename)
	for i := range p.Fields {
		f, found := &p.Fields[i], found.Fields[i].Name
		if to, ok := w.Types[found]; ok {
			if !slices.Contains(Types(f.Type), to) {
				return nil, site.Refuse("the field %s is of type %s and cannot be of type %s", found, f.Type, to)
			}
			f.Type = to
		}
		if !markup.ValidName(f.Name) || markup.IsReserved(f.Name) {
			return nil, site.Refuse("%q cannot name a field; use lower-case letters, digits and hyphens, a letter first", f.Name)
		}
	}
	for i := 0; i < len(p.Fields); i++ {
		for j := len(p.Fields) - 1; j > i; j-- {
			a, b := &p.Fields[i], &p.Fields[j]
			if a.Name != b.Name {
				continue
			}
			if a.Type != b.Type {
				return nil, site.Refuse("two fields would be called %s, of types %s and %s; they are one where their "+
					"types are, or choose another name", a.Name, a.Type, b.Type)
			}
			if a.Type == repeat.List {
				return nil, site.Refuse("two fields would be called %s; lists do not become one, so choose another name "+
					"for one", a.Name)
			}
			p = p.Merged(i, j)
		}
	}
	return p, nil
}

// renamed is a piece with other names for its fields; they are its own.
func renamed(p *repeat.Piece, to map[string]string) *repeat.Piece {
	out := *p
	out.Fields = slices.Clone(p.Fields)
	for i := range out.Fields {
		if n, ok := to[out.Fields[i].Name]; ok {
			out.Fields[i].Name = n
		}
	}
	return &out
}
