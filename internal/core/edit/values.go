package edit

import (
	"cmp"
	"fmt"
	"slices"
	"strings"

	"brickshelf/internal/core/block"
	"brickshelf/internal/core/render"
	"brickshelf/internal/core/site"
)

// ValueEdit gives a field of a placement another value on one page; Text is what a
// person types, nil takes back what the page says.
type ValueEdit struct {
	Doc, Address, Field string
	Text                *string
}

// BadValues are the values that do not fit, each with the place of its edit among the
// others.
type BadValues []BadValue

// BadValue is one of them.
type BadValue struct {
	At      int
	Message string
}

func (e BadValues) Error() string {
	var out []string
	for i, b := range e {
		if i == 12 && len(e) > 13 {
			out = append(out, fmt.Sprintf("and %d more", len(e)-i))
			break
		}
		out = append(out, b.Message)
	}
	return strings.Join(out, "; ")
}

// SetValues gives placements of a block values of their pages' own: calls in the pages'
// own text as arguments, others as overrides at their addresses. All or none of it is
// done; the error is BadValues where some do not fit.
func SetValues(s *render.Shelf, name string, edits []ValueEdit) (site.ChangeSet, error) {
	set := site.ChangeSet{}
	b := s.Block(name)
	if b == nil {
		return set, refuse("there is no block %q%s", name, block.Nearest(name, s.Names()))
	}
	reader := block.NewReader()
	d, edits := withKeys(s, edits)
	pages := map[string]bool{}
	var bad BadValues
	for i, e := range edits {
		at := b.Field(e.Field)
		if at < 0 {
			bad = append(bad, BadValue{i, fmt.Sprintf("%s has no field %s%s", name, e.Field, block.Nearest(e.Field, b.FieldNames()))})
			continue
		}
		f := b.Fields[at]
		if s.Info(e.Doc) == nil {
			bad = append(bad, BadValue{i, "there is no page " + e.Doc})
			continue
		}
		src, err := setValue(reader, e, name, f, d.get(e.Doc))
		if err != nil {
			bad = append(bad, BadValue{i, fmt.Sprintf("%s, %s: %s", s.Info(e.Doc).URL, cmp.Or(f.Label, f.Name), err)})
			continue
		}
		if was, _ := s.Get(e.Doc); string(was) != string(src) {
			pages[e.Doc] = true
		}
		d.put(e.Doc, src)
	}
	if len(bad) > 0 {
		return set, bad
	}
	set.Changes = d.changes()
	many := "pages"
	if len(pages) == 1 {
		many = "page"
	}
	set.Title = fmt.Sprintf("Set values of %s on %d %s", b.Title, len(pages), many)
	return set, nil
}

// setValue edits a page's text. An override counts before an argument, so where there is
// one it is what is set; both are taken back.
func setValue(r *block.Reader, e ValueEdit, name string, f *block.Field, src []byte) ([]byte, error) {
	call := CallOf(src, e.Address)
	keys := []string{"overrides", e.Address, e.Field}
	overridden := slices.ContainsFunc(entriesOf(e.Doc, src, e.Address), func(x entry) bool {
		said, _ := x.value.(entries)
		return x.key == "overrides" && x.rest == "" && slices.ContainsFunc(said, func(p struct {
			Key   string
			Value any
		}) bool {
			return p.Key == e.Field
		})
	})
	inText := call != nil && call.Name == name
	if e.Text == nil {
		if inText {
			var err error
			if src, err = SetArgument(src, call.From+3, f, nil); err != nil {
				return nil, err
			}
		}
		return SetKey(e.Doc, src, keys, nil)
	}
	if inText && !overridden {
		return SetArgument(src, call.From+3, f, e.Text)
	}
	v, err := Typed(r, f, *e.Text)
	if err != nil {
		return nil, err
	}
	return SetKey(e.Doc, src, keys, v.Plain())
}
