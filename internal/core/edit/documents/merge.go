package documents

import (
	"bytes"
	"fmt"

	"brickshelf/internal/core/block"
	"brickshelf/internal/core/edit"
	"brickshelf/internal/core/edit/values"
	"brickshelf/internal/core/merge"
	"brickshelf/internal/core/shelf"
	"brickshelf/internal/core/site"
)

// Merge makes one block of two that are nearly the same: where their texts differ, a field
// comes about, of which the placements of the other one have their own value; then they are
// placements of the one that is kept, and the other one goes. The names are those of the fields.
// No page changes but for the styles and behaviours that it asks for, which have to be the
// same; where one would, the merge is refused.
func Merge(s *shelf.Shelf, keep, other string) (site.ChangeSet, []string, error) {
	set := site.ChangeSet{Title: fmt.Sprintf("Merge %s into %s", other, keep)}
	a, b := s.Block(keep), s.Block(other)
	switch {
	case a == nil:
		return set, nil, site.Missing("there is no block %q%s", keep, block.Nearest(keep, s.Names()))
	case b == nil || a == b:
		return set, nil, site.Refuse("name the block to merge; there is no other block %q%s", other,
			block.Nearest(other, s.Names()))
	case edit.Leads(s, keep, other) || edit.Leads(s, other, keep):
		return set, nil, site.Refuse("one of %s and %s calls the other; they cannot be one", keep, other)
	}
	bare := true
	for _, ext := range []string{".css", ".js"} {
		x, y := edit.TextOf(s, "blocks/"+keep+ext), edit.TextOf(s, "blocks/"+other+ext)
		if !bytes.Equal(x, y) {
			return set, nil, site.Refuse("blocks/%s%s and blocks/%s%s are not the same; make them so first",
				keep, ext,
				other, ext)
		}
		bare = bare && len(x) == 0
	}
	m := &merger{was: s, now: s}
	names, err := m.fields(a, b)
	if err != nil {
		return set, nil, err
	}
	if err := m.defaults(keep, other); err != nil {
		return set, nil, err
	}
	gone, lost, err := DeleteBlock(m.now, other, WithAnother, keep, nil)
	if err != nil {
		return set, nil, err
	}
	if len(lost) > 0 {
		return set, nil, site.Refuse("%s gives %s of %s the value %q, which %s has no place for",
			lost[0].Path,
			lost[0].Field, other, lost[0].Text, keep)
	}
	m.take(gone.Changes)
	set.Changes = m.changes()
	if bare {
		if err := edit.Unchanged(s, set.Changes, "they cannot be merged"); err != nil {
			return set, nil, err
		}
	}
	return set, names, nil
}

// merger makes one edit after the other.
type merger struct {
	was, now *shelf.Shelf
	paths    []string
	of       map[string]site.Change
}

func (m *merger) take(changes []site.Change) {
	if m.of == nil {
		m.of = map[string]site.Change{}
	}
	for _, c := range changes {
		if _, known := m.of[c.Path]; !known {
			m.paths = append(m.paths, c.Path)
		}
		c.Before = m.was.Hash(c.Path)
		m.of[c.Path] = c
	}
	m.now = m.was.With(m.changes())
}

func (m *merger) changes() []site.Change {
	out := make([]site.Change, len(m.paths))
	for i, p := range m.paths {
		out[i] = m.of[p]
	}
	return out
}

// fields makes fields of where the texts of two blocks differ, in both of them.
func (m *merger) fields(a, b *block.Block) ([]string, error) {
	var names []string
	differ := merge.Phrases(string(a.Text.Src), string(b.Text.Src))
	for i := len(differ) - 1; i >= 0; i-- { // from the end, so that offsets hold
		d := differ[i]
		line := 1 + bytes.Count(b.Text.Src[:d.B.From], []byte("\n"))
		name := "text"
		for n := 2; a.Field(name) >= 0 || b.Field(name) >= 0 || contains(names, name); n++ {
			name = fmt.Sprintf("text-%d", n)
		}
		for _, side := range []struct {
			of *block.Block
			at merge.Span
		}{{a, d.A}, {b, d.B}} {
			now := m.now.Block(side.of.Name)
			set, err := values.FieldFromText(m.now, now.Name, now.Split.TextAt+side.at.From,
				now.Split.TextAt+side.at.To, name)
			if err != nil {
				return nil,
					site.Refuse("%s and %s differ in line %d of their markup in what no field can be: %v",
						a.Name,
						b.Name, line, err)
			}
			m.take(set.Changes)
		}
		names = append([]string{name}, names...)
	}
	return names, nil
}

func contains(list []string, s string) bool {
	for _, l := range list {
		if l == s {
			return true
		}
	}
	return false
}

// defaults makes the defaults of a block those of the one that is kept, and its placements keep
// what they show.
func (m *merger) defaults(keep, other string) error {
	a, b := m.now.Block(keep), m.now.Block(other)
	for _, f := range b.Fields {
		at := a.Field(f.Name)
		if at < 0 || a.Fields[at].Type != f.Type {
			return site.Refuse("%s has no field %s of type %s, as %s has", keep, f.Name, f.Type, other)
		}
		to := values.Default(a.Fields[at])
		if values.Default(f) == to {
			continue
		}
		set, err := values.MakeDefault(m.now, other, f.Name, to, true)
		if err != nil {
			return err
		}
		m.take(set.Changes)
	}
	return nil
}
