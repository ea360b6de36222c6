package documents

import (
	"slices"

	"brickshelf/internal/core/patch"
	"brickshelf/internal/core/shelf"
	"brickshelf/internal/core/site"
)

// SwitchSet switches a set of shortcodes on or off: it edits what site.yaml says of
// it, and nothing else there.
func SwitchSet(s *shelf.Shelf, set string, on bool) (site.ChangeSet, error) {
	if len(s.InSet(set)) == 0 {
		return site.ChangeSet{}, site.Refuse("there is no set %s", set)
	}
	title, change := "Switch off the set "+set, patch.Add
	if on {
		title, change = "Switch on the set "+set, patch.Drop
	}
	if slices.Contains(s.Config().SetsOff, set) != on {
		return site.ChangeSet{}, site.Refuse("the set %s is so already", set)
	}
	src, _ := s.Get("site.yaml")
	after, err := change("site.yaml", src, []string{"sets_off"}, set)
	if err != nil {
		return site.ChangeSet{}, err
	}
	return site.ChangeSet{Title: title,
		Changes: []site.Change{{Path: "site.yaml", Before: s.Hash("site.yaml"), After: after}}}, nil
}
