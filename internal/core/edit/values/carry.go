package values

import (
	"cmp"
	"slices"
	"strings"

	"brickshelf/internal/core/block"
	"brickshelf/internal/core/edit"
	"brickshelf/internal/core/patch"
	"brickshelf/internal/core/site"
)

// Pairs finds for the fields of a block those of another that take their values: the one of
// the same name, else the one of the same type with the same label, else the only one left of
// that type.
func Pairs(from, to *block.Block) map[string]string {
	out, taken := map[string]string{}, map[string]bool{}
	pair := func(fits func(a, b *block.Field) bool, alone bool) {
		for _, a := range from.Fields {
			if out[a.Name] != "" {
				continue
			}
			var found []string
			for _, b := range to.Fields {
				if !taken[b.Name] && fits(a, b) {
					found = append(found, b.Name)
				}
			}
			rivals := 0
			for _, other := range from.Fields {
				if out[other.Name] == "" && other.Type == a.Type {
					rivals++
				}
			}
			if len(found) == 1 && (!alone || rivals == 1) {
				out[a.Name], taken[found[0]] = found[0], true
			}
		}
	}
	same := func(a, b *block.Field) bool { return a.Type == b.Type }
	label := func(f *block.Field) string { return strings.ToLower(cmp.Or(f.Label, f.Name)) }
	pair(func(a, b *block.Field) bool { return a.Name == b.Name && same(a, b) }, false)
	pair(func(a, b *block.Field) bool { return label(a) == label(b) && same(a, b) }, false)
	pair(func(a, b *block.Field) bool { return a.Name == b.Name }, false)
	pair(same, true)
	return out
}

// Carry makes values of fields of a block values of fields of another, under their names and
// converted where the type is another one. concerns tells of which placements; it is asked of
// each value, as it stands in d's shelf. Those that have no place are taken out, and listed.
func Carry(d *edit.Texts, from, to *block.Block, fields map[string]string,
	concerns func(Mention) bool) ([]Mention, error) {
	var lost []Mention
	target := func(m Mention) *block.Field {
		if i := to.Field(fields[m.Field]); i >= 0 {
			return to.Fields[i]
		}
		return nil
	}
	any := func(string) bool { return true }
	mine := func(list []Mention) []Mention {
		return slices.DeleteFunc(list, func(m Mention) bool { return !concerns(m) })
	}
	still := func(m Mention) *block.Field { // under its name as it is, with the type to be
		f := block.Field{}
		if t := target(m); t != nil {
			f = *t
		}
		f.Name = m.Field
		return &f
	}
	err := say(d, mine(Mentions(d.Shelf, from.Name, any)), still, func(m Mention) (*string, bool) {
		f, at := target(m), from.Field(m.Field)
		if f == nil || at < 0 {
			lost = append(lost, m)
			return nil, true
		}
		if m.Derived || f.Type == from.Fields[at].Type {
			return nil, false // as it is
		}
		text, ok := newConverter(from.Fields[at], f).convert(m.Text)
		if !ok {
			lost = append(lost, m)
			return nil, true
		}
		return &text, true
	})
	if err != nil {
		return nil, err
	}
	slices.SortStableFunc(lost, func(a, b Mention) int { return cmp.Compare(a.Page, b.Page) })
	now := &edit.Texts{Shelf: d.Shelf.With(d.Changes())}
	list := mine(Mentions(now.Shelf, from.Name, any))
	if err := renameFields(now, list, func(m Mention) string { return fields[m.Field] }); err != nil {
		return nil, err
	}
	for _, c := range now.Changes() {
		d.Put(c.Path, c.After)
	}
	return lost, nil
}

// renameFields gives the fields of values other names, all at once: two can exchange theirs.
func renameFields(d *edit.Texts, list []Mention, called func(Mention) string) error {
	list = slices.DeleteFunc(list, func(m Mention) bool { return called(m) == m.Field })
	patches := map[string][]patch.Replacement{}
	for _, m := range list {
		if m.keys == nil && m.text == nil {
			patches[m.Path] = append(patches[m.Path], patch.Put(m.arg, m.arg+len(m.Field), called(m)))
		}
	}
	for path, p := range patches {
		d.Put(path, patch.Apply(d.Get(path), p))
	}
	slices.SortStableFunc(list, func(a, b Mention) int { return b.arg - a.arg })
	p := panels{}
	put := func(m Mention, src []byte, err error) error {
		if err != nil {
			return site.Refuse("%s: %v", m.Path, err)
		}
		d.Put(m.Path, src)
		return nil
	}
	const passing = "-passing" // no name of a field ends so where another one takes it up
	for _, m := range list {
		rename := func(text []byte) ([]byte, error) {
			return patch.Apply(text, []patch.Replacement{patch.Put(m.arg, m.arg+len(m.Field), called(m))}),
				nil
		}
		src, err := d.Get(m.Path), error(nil)
		switch {
		case m.keys != nil:
			src, err = patch.Rename(m.Path, src, m.keys, called(m)+passing)
		case m.text == nil:
			continue
		case m.text[0] == "panel":
			src, err = p.edit(m.Path, src, m.text[1], rename)
		default:
			src, err = inText(m.Path, src, m.text, rename)
		}
		if err := put(m, src, err); err != nil {
			return err
		}
	}
	for _, m := range list {
		if m.keys != nil {
			keys := append(slices.Clone(m.keys[:len(m.keys)-1]), called(m)+passing)
			src, err := patch.Rename(m.Path, d.Get(m.Path), keys, called(m))
			if err := put(m, src, err); err != nil {
				return err
			}
		}
	}
	return nil
}

// Overrides reports whether a value is one that a page gives by an address.
func (m *Mention) Overrides() bool { return len(m.keys) > 0 && m.keys[0] == "overrides" }
