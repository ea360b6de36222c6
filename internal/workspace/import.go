package workspace

import (
	"fmt"
	"strings"

	"brickshelf/internal/core/impact"
	"brickshelf/internal/core/site"
)

// Mode says what an import may do to a site that is there already.
type Mode byte

// Add refuses to remove anything, Merge leaves what the import does not hold, Replace
// removes it.
const (
	Add Mode = iota
	Merge
	Replace
)

// Imported tells what an import does to a site.
type Imported struct {
	Added, Changed, Removed []string // documents
	Impact                  *impact.Impact
	Saved                   bool // false where nothing differs, or nothing was to be saved
}

// RemovalError says that an import which may not would remove documents.
type RemovalError struct{ Paths []string }

// Error names the first few, and how many there are.
func (e *RemovalError) Error() string {
	more := ""
	if n := len(e.Paths) - 3; n > 0 {
		more = fmt.Sprintf(" and %d more", n)
	}
	return fmt.Sprintf("%s%s would be removed, since the import does not hold them; nothing was changed",
		strings.Join(e.Paths[:min(3, len(e.Paths))], ", "), more)
}

// Import makes a tree part of the draft, as one edit like any other, signed by its author. Where
// dry is set it only tells what that would do. It returns an *InvalidError or a *RemovalError, having
// changed nothing, where it cannot be.
func (w *Workspace) Import(files site.Files, mode Mode, title, author string,
	dry bool) (*Imported, error) {
	draft := w.State().Draft
	set := site.ChangeSet{Title: title, Author: author}
	var removed []string
	for _, c := range site.Diff(draft.Files(), files).Changes {
		if c.Delete && mode == Merge {
			continue
		}
		if c.Delete {
			removed = append(removed, c.Path)
		}
		set.Changes = append(set.Changes, c)
	}
	if len(removed) > 0 && mode == Add && !dry {
		return nil, &RemovalError{removed}
	}
	return w.Take(set, dry)
}

// Take saves an edit that came about elsewhere, or, where dry is set, only tells what it would do. It
// returns an *InvalidError, having changed nothing, where the site would not be valid.
func (w *Workspace) Take(set site.ChangeSet, dry bool) (*Imported, error) {
	out := &Imported{Added: []string{}, Changed: []string{}, Removed: []string{}}
	for _, c := range set.Changes {
		switch {
		case c.Delete:
			out.Removed = append(out.Removed, c.Path)
		case c.Before == "":
			out.Added = append(out.Added, c.Path)
		default:
			out.Changed = append(out.Changed, c.Path)
		}
	}
	_, seen := w.Propose(set.Changes)
	if err := seen.Err(); err != nil {
		return nil, err
	}
	out.Impact = seen.Impact
	if dry || len(set.Changes) == 0 {
		return out, nil
	}
	if _, err := w.Save(set, ""); err != nil {
		return nil, err
	}
	out.Saved = true
	return out, nil
}
