package values

import (
	"fmt"
	"slices"
	"strings"

	"brickshelf/internal/core/block"
	"brickshelf/internal/core/edit"
	"brickshelf/internal/core/explain"
	"brickshelf/internal/core/markup"
	"brickshelf/internal/core/patch"
	"brickshelf/internal/core/place"
	"brickshelf/internal/core/render"
	"brickshelf/internal/core/shelf"
	"brickshelf/internal/core/site"
)

// own is the value that a page gives a field of a placement itself; unset where it gives
// none.
func own(f explain.FieldPrecedence) block.Value {
	for _, r := range f.Sources {
		if r.Set && (r.Source == render.FromOverride || r.Source == render.FromArgument) {
			return r.Written
		}
	}
	return block.Value{}
}

// under is the source that gives a field its value where the page itself gives none; nil
// where nothing does.
func under(f explain.FieldPrecedence) *explain.SourceValue {
	for i := range f.Sources {
		if r := &f.Sources[i]; r.Set && r.Source != render.FromOverride && r.Source != render.FromArgument {
			return r
		}
	}
	return nil
}

// MakeDefault gives a field of a block another default. Pages that gave it that value
// themselves, and would get it now anyway, no longer do. Where keep is set, those that
// showed the old default get it as a value of their own; else they follow.
func MakeDefault(s *shelf.Shelf, name, field, text string, keep bool) (site.ChangeSet, error) {
	set := site.ChangeSet{Title: fmt.Sprintf("Make %s the default of %s in %s", short(text), field, name)}
	b, f, err := fieldOf(s, name, field)
	if err != nil {
		return set, err
	}
	value, err := Typed(block.Verbatim, f, text)
	if err != nil {
		return set, err
	}
	at, was := b.Field(field), typedRaw(f.Written.Plain())
	var edits []Edit
	for _, row := range explain.Values(s, name) {
		l := row.Fields[at]
		e := Edit{Doc: row.Page.Page.Path, Address: row.Address, Field: field}
		source := under(l)
		switch mine := own(l); {
		case source != nil && source.Source != render.FromDefault: // the default is not shown here
		case mine.IsSet() && mine.Equal(value):
			edits = append(edits, e)
		case keep && !mine.IsSet() && !f.Written.Equal(value):
			if e.Text = &was; f.Written.IsSet() || takesNothing(f) {
				edits = append(edits, e)
			}
		}
	}
	values, err := Set(s, name, edits)
	if err != nil {
		return set, err
	}
	d := &edit.Texts{Shelf: s}
	for _, c := range values.Changes {
		d.Put(c.Path, c.After)
	}
	src, err := SetDefault(d.Get(b.Path), field, text)
	if err != nil {
		return set, err
	}
	d.Put(b.Path, src)
	set.Changes = d.Changes()
	return set, nil
}

// takesNothing reports whether a field takes an empty value.
func takesNothing(f *block.Field) bool {
	_, err := Typed(block.Verbatim, f, "")
	return err == nil
}

// short is a value as a title has it.
func short(text string) string {
	text = strings.Join(strings.Fields(text), " ")
	if r := []rune(text); len(r) > 40 {
		return string(r[:39]) + "…"
	}
	return text
}

// RaiseToRule makes a value that pages give a field of what a rule places the rule's own.
// Pages that gave it themselves no longer do; those that gave none follow.
func RaiseToRule(s *shelf.Shelf, rule, field, text string) (site.ChangeSet, error) {
	var set site.ChangeSet
	i := slices.IndexFunc(s.Rules(), func(r *place.Rule) bool { return r.Name == rule })
	if i < 0 {
		return set, site.Missing("there is no rule %q", rule)
	}
	r := s.Rules()[i]
	set.Title = fmt.Sprintf("Let the rule %s set %s to %s", r.Called(), field, short(text))
	b, f, err := fieldOf(s, r.Block, field)
	if err != nil {
		return set, err
	}
	value, err := Typed(block.Verbatim, f, text)
	if err != nil {
		return set, err
	}
	d := &edit.Texts{Shelf: s}
	if err := takeBack(s, d, b, field, value,
		func(row explain.ValueRow) bool { return row.Via == r.Path }); err != nil {
		return set, err
	}
	src, err := patch.Set(r.Path, d.Get(r.Path), []string{"set", field}, value.Plain())
	if err != nil {
		return set, err
	}
	d.Put(r.Path, src)
	set.Changes = d.Changes()
	return set, nil
}

// RaiseToPage makes a value that pages give a field of a block a value of these pages:
// the block takes it from there. A page changes by it only where something else asks for
// the same value of the page.
func RaiseToPage(s *shelf.Shelf, name, field, text, key string) (site.ChangeSet, error) {
	set := site.ChangeSet{Title: fmt.Sprintf("Let %s of %s come from page.%s", field, name, key)}
	b, f, err := fieldOf(s, name, field)
	switch {
	case err != nil:
		return set, err
	case !markup.ValidName(key):
		return set, site.Refuse("%q cannot name a page field; use lower-case letters, digits and hyphens",
			key)
	case f.From != nil && (f.From[0] != "page" || f.From[1] != key):
		return set, site.Refuse("%s of %s comes from %s already", field, name, strings.Join(f.From, "."))
	}
	value, err := Typed(block.Verbatim, f, text)
	if err != nil {
		return set, err
	}
	pages, layouts, err := giving(s, b, field, value, key)
	if err != nil {
		return set, err
	}
	if len(pages) == 0 {
		return set, site.Refuse("no page gives %s the value %s itself", field, short(text))
	}
	d := &edit.Texts{Shelf: s}
	if err := takeBack(s, d, b, field, value,
		func(row explain.ValueRow) bool { return pages[row.Page.Page.Path] }); err != nil {
		return set, err
	}
	for _, path := range edit.SortedKeys(pages) {
		src, err := patch.Set(path, d.Get(path), []string{"fields", key}, value.Plain())
		if err != nil {
			return set, err
		}
		d.Put(path, src)
	}
	for _, name := range edit.SortedKeys(layouts) {
		l := s.Layout(name)
		if l == nil || l.PageField(key) != nil ||
			slices.ContainsFunc(s.Config().Fields, func(f *block.Field) bool { return f.Name == key }) {
			continue
		}
		src, err := patch.Set(l.Path, d.Get(l.Path), []string{"page_fields", key},
			patch.Entries{}.With("type", string(f.Type)))
		if err != nil {
			return set, err
		}
		d.Put(l.Path, src)
	}
	if f.From == nil {
		src, err := patch.Set(b.Path, d.Get(b.Path), []string{"fields", field, "from"}, "page."+key)
		if err != nil {
			return set, err
		}
		d.Put(b.Path, src)
	}
	set.Changes = d.Changes()
	return set, nil
}

// takeBack takes a value back that pages give a field themselves, of the placements that
// want takes.
func takeBack(s *shelf.Shelf, d *edit.Texts, b *block.Block, field string, value block.Value,
	want func(explain.ValueRow) bool) error {
	at := b.Field(field)
	var edits []Edit
	for _, row := range explain.Values(s, b.Name) {
		if mine := own(row.Fields[at]); want(row) && mine.IsSet() && mine.Equal(value) {
			edits = append(edits, Edit{Doc: row.Page.Page.Path, Address: row.Address, Field: field})
		}
	}
	set, err := Set(s, b.Name, edits)
	for _, c := range set.Changes {
		d.Put(c.Path, c.After)
	}
	return err
}

// giving are the pages that give a field of a block a value themselves, and their layouts;
// none may have another value under a key of its own.
func giving(s *shelf.Shelf, b *block.Block, field string, value block.Value,
	key string) (pages, layouts map[string]bool, err error) {
	at := b.Field(field)
	pages, layouts = map[string]bool{}, map[string]bool{}
	for _, row := range explain.Values(s, b.Name) {
		if mine := own(row.Fields[at]); !mine.IsSet() || !mine.Equal(value) {
			continue
		}
		for _, p := range row.Page.Page.Fields {
			if p.Key == key && typedRaw(block.Raw(p.Value)) != typedRaw(value.Plain()) {
				return nil, nil, site.Refuse("%s has another value for page.%s already; "+
					"name another field, or clear that one first", row.Page.URL, key)
			}
		}
		pages[row.Page.Page.Path] = true
		layouts[row.Page.Page.Layout] = true
	}
	return pages, layouts, nil
}
