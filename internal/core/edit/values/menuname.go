package values

import (
	"bytes"
	"fmt"

	"brickshelf/internal/core/block"
	"brickshelf/internal/core/edit"
	"brickshelf/internal/core/patch"
	"brickshelf/internal/core/shelf"
	"brickshelf/internal/core/site"
)

// RenameMenu gives a menu another name. Every value and default that names it follows. It is
// refused where the name stands in a list, in an expression or among what pages and the site
// say under their own fields, where it could not follow.
func RenameMenu(s *shelf.Shelf, name, to string) (site.ChangeSet, error) {
	set := site.ChangeSet{Title: fmt.Sprintf("Rename the menu %s to %s", name, to)}
	path, next := "menus/"+name+".yaml", "menus/"+to+".yaml"
	if s.Menu(name) == nil {
		return set, site.Missing("there is no menu %s", name)
	}
	if err := edit.FreeName(s, "menu", next, to); err != nil {
		return set, err
	}
	d := &edit.Texts{Shelf: s}
	for _, called := range s.Names() {
		menus := map[string]*block.Field{}
		for _, f := range s.Parameters(called) {
			if f.Type == block.Menu {
				menus[f.Name] = f
			}
		}
		if len(menus) == 0 {
			continue
		}
		list := Mentions(s, called, func(field string) bool { return menus[field] != nil })
		err := say(d, list, func(m Mention) *block.Field { return menus[m.Field] },
			func(m Mention) (*string, bool) { return &to, m.Text == name && !m.Derived })
		if err != nil {
			return set, err
		}
		if b := s.Block(called); b != nil {
			for _, f := range menus {
				if f.Written.Text != name {
					continue
				}
				src, err := patch.Set(b.Path, d.Get(b.Path), []string{"fields", f.Name, "default"}, to)
				if err != nil {
					return set, err
				}
				d.Put(b.Path, src)
			}
		}
	}
	src := d.Get(path)
	for _, c := range d.Changes() {
		if c.Path != path {
			set.Changes = append(set.Changes, c)
		}
	}
	set.Changes = append(set.Changes, site.Change{Path: path, Before: s.Hash(path), Delete: true},
		site.Change{Path: next, After: bytes.Clone(src)})
	return set, nil
}
