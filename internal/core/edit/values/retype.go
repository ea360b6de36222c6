package values

import (
	"fmt"
	"slices"
	"strings"

	"brickshelf/internal/core/block"
	"brickshelf/internal/core/edit"
	"brickshelf/internal/core/patch"
	"brickshelf/internal/core/shelf"
	"brickshelf/internal/core/site"
)

// RetypeField gives a field of a block another type. Values are converted where that can
// be done; those that cannot stay as they are and do not count any more.
func RetypeField(s *shelf.Shelf, name, field string, to block.Type) (site.ChangeSet, []Mention, error) {
	set := site.ChangeSet{Title: fmt.Sprintf("Make the field %s of %s a %s", field, name, to)}
	b, f, err := fieldOf(s, name, field)
	switch {
	case err != nil:
		return set, nil, err
	case !slices.Contains(block.Types, to):
		return set, nil, site.Refuse("%q is no type of field", to)
	case to == f.Type:
		return set, nil, site.Refuse("%s is a %s already", field, to)
	case to == block.List || f.Type == block.List:
		return set, nil,
			site.Refuse("a list holds values of its own fields and is no single value; add another field in its place")
	}
	next := *f
	next.Type, next.Default, next.Min, next.Max = to, block.Value{}, "", ""
	list := Mentions(s, name, only(field))
	if to == block.Choice && len(f.Choices) == 0 {
		next.Choices = choicesOf(f, list)
		if len(next.Choices) == 0 {
			return set, nil,
				site.Refuse("no value of %s is there to choose from; write the choices into the block's front matter", field)
		}
	}
	d, c := &edit.Texts{Shelf: s}, newConverter(f, &next)
	var misfits []Mention
	err = say(d, list, func(Mention) *block.Field { return &next }, func(m Mention) (*string, bool) {
		if m.Derived {
			return nil, false
		}
		text, ok := c.convert(m.Text)
		if !ok {
			misfits = append(misfits, m)
		}
		return &text, ok && text != m.Text
	})
	if err != nil {
		return set, nil, err
	}
	src, kept, err := redeclare(b, f, &next, c, d.Get(b.Path))
	if err != nil {
		return set, nil, err
	}
	if !kept {
		misfits = append([]Mention{{Path: b.Path, Field: field, Text: typedRaw(f.Written.Plain())}},
			misfits...)
	}
	d.Put(b.Path, src)
	set.Changes = d.Changes()
	slices.SortStableFunc(misfits, func(a, b Mention) int { return strings.Compare(a.Page, b.Page) })
	return set, misfits, nil
}

func choicesOf(f *block.Field, list []Mention) []string {
	var out []string
	add := func(text string) {
		if text != "" && !slices.Contains(out, text) {
			out = append(out, text)
		}
	}
	if f.Written.IsSet() {
		add(f.Written.Text)
	}
	for _, m := range list {
		if !m.Derived {
			add(m.Text)
		}
	}
	return out
}

// redeclare is a block's text with a field declared as another type. kept is not set where
// its default does not fit that, and is left out.
func redeclare(b *block.Block, f, next *block.Field, c *converter,
	src []byte) (out []byte, kept bool, err error) {
	key := func(k string, v any) {
		if err == nil {
			src, err = patch.Set(b.Path, src, []string{"fields", f.Name, k}, v)
		}
	}
	if f.Min != "" || f.Max != "" {
		key("min", nil)
		key("max", nil)
	}
	text, kept := "", true
	if f.Written.IsSet() {
		text, kept = c.convert(typedRaw(f.Written.Plain()))
		key("default", nil)
	}
	key("type", string(next.Type))
	if next.Type == block.Choice && len(f.Choices) == 0 {
		key("choices", next.Choices)
	}
	if next.Type != block.Choice && len(f.Choices) > 0 {
		key("choices", nil)
	}
	if err == nil && f.Written.IsSet() && kept {
		src, err = SetDefault(src, f.Name, text)
	}
	return src, kept, err
}
