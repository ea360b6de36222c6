package parts

import (
	"path"
	"slices"
	"strings"

	"brickshelf/internal/core/edit/documents"
	"brickshelf/internal/core/edit/values"
	"brickshelf/internal/core/shelf"
	"brickshelf/internal/core/site"
)

// called is the ID that a unit has under another name: for a page its address below pages/,
// for a file its path.
func called(u Unit, name string) string {
	switch u.Kind {
	case Page:
		return "pages/" + strings.Trim(strings.TrimSuffix(strings.TrimPrefix(name, "pages/"), ".html"), "/") + ".html"
	case File:
		return name
	}
	return strings.TrimSuffix(u.ID, path.Base(u.ID)) + name + path.Ext(u.ID)
}

// renamed is a part in which a unit has another name, and all that speaks of it follows.
func renamed(p *shelf.Shelf, u Unit, name string) (*shelf.Shelf, error) {
	var set site.ChangeSet
	var err error
	switch u.Kind {
	case Block:
		set, err = documents.RenameBlock(p, u.Name, name)
	case Script:
		set, err = documents.RenameShortcode(p, u.Name, name)
	case Menu:
		set, err = values.RenameMenu(p, u.Name, name)
	case Layout:
		set, err = documents.RenameLayout(p, u.Name, name)
	case Rule:
		set, err = documents.RenameRule(p, u.Name, name)
	case Page:
		set, err = documents.MovePage(p, u.ID, called(u, name), false)
	case File:
		set, err = documents.MoveFile(p, u.ID, name)
	default:
		err = site.Refuse("%s of %s cannot have another name here; take it or keep yours", u.Kind, u.Name)
	}
	if err != nil {
		return nil, err
	}
	files, err := p.Files().Apply(set)
	if err != nil {
		return nil, err
	}
	next := shelf.NewScripted(files, p.Now(), p.Runner())
	// What names it in a way that nothing could follow is told before it stands there broken.
	for _, o := range Units(next) {
		if slices.Contains(newNeeds(next).of(o), u.ID) {
			return nil, site.Refuse("%s names %s in a way that cannot follow; edit it there first, or take another way",
				o.ID, u.Name)
		}
	}
	return next, nil
}
