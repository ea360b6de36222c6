// Package values sets, moves, renames and retypes the values and fields of blocks, wherever
// they are given: arguments, overrides, rules, defaults, fields of pages.
package values

import (
	"cmp"
	"fmt"
	"slices"
	"strings"

	"brickshelf/internal/core/block"
	"brickshelf/internal/core/markup"
	"brickshelf/internal/core/patch"
	"brickshelf/internal/core/place"
	"brickshelf/internal/core/shelf"
	"brickshelf/internal/core/site"
)

// Edit gives a field of a placement another value on one page; Text is what a
// person types, nil takes back what the page says.
type Edit struct {
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

// Set gives placements of a block values of their pages' own: calls in the pages'
// own text as arguments, others as overrides at their addresses. All or none of it is
// done; the error is BadValues where some do not fit.
func Set(s *shelf.Shelf, name string, edits []Edit) (site.ChangeSet, error) {
	set := site.ChangeSet{}
	b := s.Block(name)
	if b == nil {
		return set, site.Missing("there is no block %q%s", name, block.Nearest(name, s.Names()))
	}
	d, edits := withKeys(s, edits)
	var docs []string
	of := map[string][]int{} // the edits of each document
	for i, e := range edits {
		if of[e.Doc] == nil {
			docs = append(docs, e.Doc)
		}
		of[e.Doc] = append(of[e.Doc], i)
	}
	texts, wrong := make([][]byte, len(docs)), make([]BadValues, len(docs))
	shelf.Parallel(len(docs), func(i int) {
		texts[i], wrong[i] = setOn(s.Info(docs[i]), d.Get(docs[i]), b, edits, of[docs[i]])
	})
	if bad := slices.Concat(wrong...); len(bad) > 0 {
		slices.SortFunc(bad, func(x, y BadValue) int { return cmp.Compare(x.At, y.At) })
		return set, bad
	}
	pages := 0
	for i, doc := range docs {
		if was, _ := s.Get(doc); string(was) != string(texts[i]) {
			pages++
		}
		d.Put(doc, texts[i])
	}
	set.Changes = d.Changes()
	many := "pages"
	if pages == 1 {
		many = "page"
	}
	set.Title = fmt.Sprintf("Set values of %s on %d %s", b.Title, pages, many)
	return set, nil
}

// setOn makes those of the edits that are one page's.
func setOn(in *shelf.Info, src []byte, b *block.Block, edits []Edit, mine []int) ([]byte, BadValues) {
	var bad BadValues
	v := &valued{name: b.Name}
	if in != nil {
		v.path = in.Page.Path
		if was := in.Page.Split.Text; len(was) > 0 && len(src) == in.Page.Split.TextAt+len(was) &&
			&src[in.Page.Split.TextAt] == &was[0] {
			v.take(src, in.Page) // as it is saved
		} else {
			v.read(src)
		}
	}
	for _, i := range mine {
		e := edits[i]
		at := b.Field(e.Field)
		if at < 0 {
			bad = append(bad, BadValue{i, fmt.Sprintf("%s has no field %s%s", b.Name, e.Field,
				block.Nearest(e.Field, b.FieldNames()))})
			continue
		}
		if in == nil {
			bad = append(bad, BadValue{i, "there is no page " + e.Doc})
			continue
		}
		f := b.Fields[at]
		if err := v.set(e, f); err != nil {
			bad = append(bad, BadValue{i, fmt.Sprintf("%s, %s: %s", in.URL, cmp.Or(f.Label, f.Name), err)})
		}
	}
	if in == nil || len(bad) > 0 {
		return src, bad
	}
	if len(v.patches) > 0 {
		return patch.Apply(v.src, v.patches), nil
	}
	return v.src, nil
}

// valued is a page's text of which values are edited. Edits of calls in the text are kept
// and made together, for as long as no call is met twice.
type valued struct {
	name, path string
	src        []byte
	t          *markup.Text
	shift      int
	calls      map[string]*markup.Node
	said       map[string]bool // address and field of each override
	patches    []patch.Replacement
	edited     map[*markup.Node]bool
}

// read takes a text up as it is now.
func (v *valued) read(src []byte) {
	page, _ := place.ParsePage("", v.path, "", src)
	v.take(src, page)
}

func (v *valued) take(src []byte, page *place.Page) {
	v.src, v.t, v.shift = src, page.Text, page.Split.TextAt
	v.patches, v.edited = nil, map[*markup.Node]bool{}
	v.calls, v.said = map[string]*markup.Node{}, map[string]bool{}
	markup.Walk(v.t.Nodes, func(n *markup.Node) bool {
		if n.Kind == markup.Call && n.Name == v.name {
			if address := n.Container + "/" + n.Step; v.calls[address] == nil {
				v.calls[address] = n
			}
		}
		return true
	})
	for address, fields := range page.Overrides {
		for _, p := range fields {
			v.said[address+" "+p.Key] = true
		}
	}
}

// flush makes the edits that are kept.
func (v *valued) flush() {
	if len(v.patches) > 0 {
		v.read(patch.Apply(v.src, v.patches))
	} else if v.t == nil {
		v.read(v.src)
	}
}

// set edits the page's text. An override counts before an argument, so where there is one
// it is what is set; both are taken back.
func (v *valued) set(e Edit, f *block.Field) error {
	if v.t == nil || v.edited[v.calls[e.Address]] {
		v.flush()
	}
	call := v.calls[e.Address]
	overridden := v.said[e.Address+" "+e.Field]
	if call != nil && (e.Text == nil || !overridden) {
		p, err := argumentPatch(v.t, v.shift, call, f, e.Text)
		if err != nil {
			return err
		}
		if p != nil {
			v.patches = append(v.patches, *p)
			v.edited[call] = true
		}
	}
	if e.Text == nil && !overridden || e.Text != nil && call != nil && !overridden {
		return nil
	}
	v.flush()
	var value any
	if e.Text != nil {
		typed, err := Typed(block.Verbatim, f, *e.Text)
		if err != nil {
			return err
		}
		value = typed.Plain()
	}
	src, err := patch.Set(v.path, v.src, []string{"overrides", e.Address, e.Field}, value)
	if err == nil {
		v.src, v.t = src, nil // read when there is another edit
	}
	return err
}
