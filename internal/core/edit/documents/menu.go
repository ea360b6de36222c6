package documents

import (
	"strings"

	"brickshelf/internal/core/edit"
	"brickshelf/internal/core/shelf"
	"brickshelf/internal/core/site"
)

// NewMenu makes a menu.
func NewMenu(s *shelf.Shelf, name, title string) (site.ChangeSet, error) {
	path := "menus/" + name + ".yaml"
	if err := edit.FreeName(s, "menu", path, name); err != nil {
		return site.ChangeSet{}, err
	}
	if title = strings.TrimSpace(title); title == "" {
		title = edit.Titled(name)
	}
	home := s.Config().Home
	return site.ChangeSet{Title: "New menu " + title,
		Changes: []site.Change{{Path: path, After: []byte("title: " + site.PlainYAML(title) +
			"\nitems:\n  - {label: Home, to: " + home + "}\n")}}}, nil
}

// DeleteMenu deletes a menu. Where it is still shown is told by the impact.
func DeleteMenu(s *shelf.Shelf, name string) (site.ChangeSet, error) {
	if s.Menu(name) == nil {
		return site.ChangeSet{}, site.Missing("there is no menu %s", name)
	}
	path := "menus/" + name + ".yaml"
	return site.ChangeSet{Title: "Delete the menu " + name,
		Changes: []site.Change{{Path: path, Before: s.Hash(path), Delete: true}}}, nil
}
