package values

import (
	"bytes"
	"fmt"
	"html"
	"slices"
	"strings"

	"brickshelf/internal/core/block"
	"brickshelf/internal/core/edit"
	"brickshelf/internal/core/markup"
	"brickshelf/internal/core/patch"
	"brickshelf/internal/core/shelf"
	"brickshelf/internal/core/site"
)

func fieldOf(s *shelf.Shelf, name, field string) (*block.Block, *block.Field, error) {
	b := s.Block(name)
	if b == nil {
		return nil, nil, site.Missing("there is no block %q%s", name, block.Nearest(name, s.Names()))
	}
	i := b.Field(field)
	if i < 0 {
		return nil, nil, site.Refuse("%s has no field %q%s", name, field,
			block.Nearest(field, b.FieldNames()))
	}
	return b, b.Fields[i], nil
}

func freeField(b *block.Block, to string) error {
	switch {
	case !markup.ValidName(to) || markup.IsReserved(to):
		return site.Refuse("%q cannot name a field; use lower-case letters, digits and hyphens, and none of %s", to, strings.Join(markup.Reserved, ", "))
	case b.Field(to) >= 0:
		return site.Refuse("%s has a field %s already", b.Name, to)
	}
	return nil
}

func only(field string) func(string) bool { return func(f string) bool { return f == field } }

// RenameField gives a field of a block another name. Arguments, overrides, rules, copies
// and the block's own markup follow; not one page changes.
func RenameField(s *shelf.Shelf, name, field, to string) (site.ChangeSet, error) {
	set := site.ChangeSet{Title: fmt.Sprintf("Rename the field %s of %s to %s", field, name, to)}
	b, _, err := fieldOf(s, name, field)
	if err != nil {
		return set, err
	}
	if err := freeField(b, to); err != nil {
		return set, err
	}
	if stale := Mentions(s, name, only(to)); len(stale) > 0 {
		return set,
			site.Refuse("%s still gives %s a value for %s, from a field that is gone; drop those values first", stale[0].Path, name, to)
	}
	d := &edit.Texts{Shelf: s}
	list := Mentions(s, name, only(field))
	if err := renameFields(d, list, func(Mention) string { return to }); err != nil {
		return set, err
	}
	var patches []patch.Replacement
	own, _ := block.Parse(name, b.Path, d.Get(b.Path), s.Reader())
	for _, at := range uses(own, field) {
		patches = append(patches, patch.Put(own.Split.TextAt+at.At, own.Split.TextAt+at.At+len(field), to))
	}
	d.Put(b.Path, patch.Apply(d.Get(b.Path), patches))
	src, err := patch.Rename(b.Path, d.Get(b.Path), []string{"fields", field}, to)
	if err != nil {
		return set, err
	}
	if src, err = regiven(b, src, field, to); err != nil {
		return set, err
	}
	d.Put(b.Path, src)
	set.Changes = d.Changes()
	return set, edit.Unchanged(s, set.Changes, fmt.Sprintf("the field %s cannot be renamed here", field))
}

// regiven writes a block whose behaviour is given another field in the place of one, under the name that
// it knows; none where to is "".
func regiven(b *block.Block, src []byte, field, to string) ([]byte, error) {
	var list []block.Given
	found := false
	for _, g := range b.Behaviour.Gives {
		if g.Field == field {
			if found = true; to == "" {
				continue
			}
			g.Field = to
		}
		list = append(list, g)
	}
	if !found {
		return src, nil
	}
	return setGives(b.Path, src, list)
}

// givenAgain writes a block whose behaviour is given a field again, where it was given it once.
func givenAgain(was, now *block.Block, src []byte, field string) ([]byte, error) {
	var list []block.Given
	found := false
	for _, g := range was.Behaviour.Gives {
		found = found || g.Field == field
		if g.Field == field || slices.Contains(now.Behaviour.Gives, g) {
			list = append(list, g)
		}
	}
	for _, g := range now.Behaviour.Gives {
		if !slices.Contains(list, g) {
			list = append(list, g)
		}
	}
	if !found {
		return src, nil
	}
	return setGives(now.Path, src, list)
}

// setGives writes what a behaviour is given: as a list, where each field has its own name.
func setGives(path string, src []byte, list []block.Given) ([]byte, error) {
	var all patch.Entries
	var names []any
	plain := true
	for _, g := range list {
		all, names = all.With(g.Name, g.Field), append(names, g.Field)
		plain = plain && g.Name == g.Field
	}
	var gives any = all
	if plain {
		gives = names
	}
	if len(list) == 0 {
		gives = nil
	}
	return patch.Set(path, src, []string{"behaviour", "gives"}, gives)
}

// uses lists where a block's markup names a field.
func uses(b *block.Block, field string) []markup.Term {
	slot := b.Field(field) + 1
	var out []markup.Term
	look := func(e *markup.Expr) {
		if e == nil {
			return
		}
		for _, t := range e.Terms {
			if t.Literal == nil && t.Slot == slot && t.Path[0] == field {
				out = append(out, t)
			}
		}
	}
	markup.Walk(b.Text.Nodes, func(n *markup.Node) bool {
		look(n.Expr)
		for _, a := range n.Args {
			look(a.Value.Expr)
		}
		return true
	})
	return out
}

// RemoveField takes a field off a block. Where its markup shows the field, the page's or
// site's value that it came from takes that place, and the default. Values that
// documents give it stay where they are, without effect, until they are dropped or the
// field is back; they are told.
func RemoveField(s *shelf.Shelf, name, field string) (site.ChangeSet, []Mention, error) {
	set := site.ChangeSet{Title: fmt.Sprintf("Remove the field %s of %s", field, name)}
	b, f, err := fieldOf(s, name, field)
	if err != nil {
		return set, nil, err
	}
	var list []patch.Replacement
	shown := 0
	markup.Walk(b.Text.Nodes, func(n *markup.Node) bool {
		if n.Kind == markup.Value && len(n.Expr.Terms) == 1 && n.Expr.Terms[0].Slot > 0 &&
			len(n.Expr.Terms[0].Path) == 1 && n.Expr.Terms[0].Path[0] == field {
			list = append(list, patch.Put(b.Split.TextAt+n.Span.From, b.Split.TextAt+n.Span.To,
				inPlace(f, n.Context, b.Split.Text[n.Span.To:])))
			shown++
		}
		return true
	})
	if all := uses(b, field); len(all) > shown {
		at := all[0]
		for _, u := range all {
			if !slices.ContainsFunc(list, func(p patch.Replacement) bool {
				return p.From <= b.Split.TextAt+u.At && b.Split.TextAt+u.At < p.To
			}) {
				at = u
				break
			}
		}
		p := site.At(b.Split, b.Path, at.At, site.Invalid, "", "")
		return set, nil,
			site.Refuse("the markup asks for %s at %s:%d:%d in more than its value; take that out first",
				field, b.Path, p.Line, p.Column)
	}
	lost := Mentions(s, name, only(field))
	src := patch.Apply(edit.TextOf(s, b.Path), list)
	if src, err = patch.Set(b.Path, src, []string{"fields", field}, nil); err == nil {
		src, err = regiven(b, src, field, "")
	}
	if err != nil {
		return set, nil, err
	}
	set.Changes = []site.Change{{Path: b.Path, Before: s.Hash(b.Path), After: src}}
	return set, lost, nil
}

// inPlace is markup that shows what a field shows where nobody gives it a value, before
// what follows it there.
func inPlace(f *block.Field, in markup.Context, behind []byte) string {
	switch {
	case f.From == nil:
		text := strings.ReplaceAll(string(block.Append(nil, f.Default, in)), "@{", "@@{")
		if rest, ok := strings.CutSuffix(text, "@"); ok && (bytes.HasPrefix(behind, []byte("{")) ||
			bytes.HasPrefix(behind, []byte("@{"))) {
			return rest + "&#64;" // the two would be read as one mark
		}
		return text
	case f.Default.Text == "":
		return "@{=" + strings.Join(f.From, ".") + "}"
	}
	return "@{=" + strings.Join(f.From, ".") + " or " + markup.Quote(f.Default.Text) + "}"
}

// AddField gives a block one more field, of a type, with a default or "". Values that
// documents kept for a field of that name count again.
func AddField(s *shelf.Shelf, name, field string, t block.Type, deflt string) (site.ChangeSet, error) {
	set := site.ChangeSet{Title: fmt.Sprintf("Add the field %s to %s", field, name)}
	b := s.Block(name)
	if b == nil {
		return set, site.Missing("there is no block %q%s", name, block.Nearest(name, s.Names()))
	}
	if err := freeField(b, field); err != nil {
		return set, err
	}
	f := &block.Field{Name: field, Type: t}
	if !slices.Contains(block.Types, t) || t == block.List || t == block.Choice {
		return set,
			site.Refuse("write the field %s into the block's front matter; a %s needs more than a type",
				field, t)
	}
	desc := patch.Entries{}.With("type", string(t))
	if deflt != "" {
		v, err := Typed(block.Verbatim, f, deflt)
		if err != nil {
			return set, err
		}
		desc = desc.With("default", v.Plain())
	}
	src, err := patch.Set(b.Path, edit.TextOf(s, b.Path), []string{"fields", field}, desc)
	if err != nil {
		return set, err
	}
	set.Changes = []site.Change{{Path: b.Path, Before: s.Hash(b.Path), After: src}}
	return set, nil
}

// FieldFromText makes a field of a stretch of a block's literal text, between two offsets
// in its document: the text is its default, and not one page changes.
func FieldFromText(s *shelf.Shelf, name string, from, to int, field string) (site.ChangeSet, error) {
	set := site.ChangeSet{Title: fmt.Sprintf("Make %s a field of %s", field, name)}
	b := s.Block(name)
	if b == nil {
		return set, site.Missing("there is no block %q%s", name, block.Nearest(name, s.Names()))
	}
	if err := freeField(b, field); err != nil {
		return set, err
	}
	x, y := from-b.Split.TextAt, to-b.Split.TextAt
	inside := false
	markup.Walk(b.Text.Nodes, func(n *markup.Node) bool {
		inside = inside || n.Kind == markup.Literal && n.Span.From <= x && y <= n.Span.To
		return !inside
	})
	if !inside || x >= y {
		return set, site.Refuse("choose a piece of the markup's plain text, without values and calls in it")
	}
	text := string(b.Text.Src[x:y])
	if strings.ContainsAny(text, "<>") {
		return set,
			site.Refuse("choose text between two tags, or the value of an attribute; this holds a tag")
	}
	src := patch.Apply(edit.TextOf(s, b.Path), []patch.Replacement{patch.Put(from, to, "@{="+field+"}")})
	src, err := patch.Set(b.Path, src, []string{"fields", field}, patch.Entries{}.With("type",
		string(block.Text)).With("default", html.UnescapeString(text)))
	if err != nil {
		return set, err
	}
	set.Changes = []site.Change{{Path: b.Path, Before: s.Hash(b.Path), After: src}}
	if _, problems := block.Parse(name, b.Path, src, block.NewReader()); len(problems) > 0 {
		return set, site.Refuse("no field can stand there: %s", problems[0].Message)
	}
	return set, edit.Unchanged(s, set.Changes, "this text shows otherwise as a field")
}
