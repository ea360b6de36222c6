package workspace

import (
	"errors"
	"fmt"
	"strings"

	"brickshelf/internal/core/edit/copies"
	"brickshelf/internal/core/impact"
	"brickshelf/internal/core/site"
	"brickshelf/internal/store"
)

// Revisions lists what a document of the draft became by its last changes, the newest first.
func (w *Workspace) Revisions(path string) ([]store.Revision, error) {
	return w.store.Revisions(w.Site.ID, path)
}

// LastChanges gives the number of the last edit of each document that begins so and was edited.
func (w *Workspace) LastChanges(prefix string) (map[string]int64, error) {
	return w.store.LastChanges(w.Site.ID, prefix)
}

// Revision is the text of a revision of a document.
func (w *Workspace) Revision(path string, h site.Hash) ([]byte, error) {
	b, err := w.store.Text(w.Site.ID, path, h)
	if errors.Is(err, store.ErrNothing) {
		return nil, site.Missing("%s was never that, or what it was is not kept any more", path)
	}
	return b, err
}

// BringBack is the change set by which a document of the draft is again what it was; with no
// hash, by which it is gone again.
func (w *Workspace) BringBack(path string, h site.Hash) (site.ChangeSet, error) {
	d := w.State().Draft
	set := site.ChangeSet{Title: "Bring back " + path + " as it was"}
	c := site.Change{Path: path, Before: d.Hash(path), Delete: h == ""}
	switch {
	case c.Before == h:
		return set, site.Refuse("%s is that now", path)
	case h != "":
		var err error
		if c.After, err = w.Revision(path, h); err != nil {
			return set, err
		}
	}
	set.Changes = []site.Change{c}
	return set, nil
}

// TakeBack is the change set that takes an edit back, also an old one, or does again one that
// was taken back. It is refused, with what stands in the way named, where a document has been
// changed since.
func (w *Workspace) TakeBack(edit int64) (site.ChangeSet, error) {
	r, err := w.store.Reverse(w.Site.ID, edit)
	if errors.Is(err, store.ErrNothing) {
		return r.Set, site.Missing("there is no such edit, or what it changed is not kept any more")
	}
	if err != nil {
		return r.Set, err
	}
	d := w.State().Draft
	// Revisions that copies need stay in history.
	needed := copies.Needed(d.With(without(r.Set.Changes, site.HistoryDoc)))
	var out []site.Change
	var why []string
	for _, c := range r.Set.Changes {
		class, name, _ := site.Classify(c.Path)
		now := d.Hash(c.Path)
		switch after := site.HashOf(c.After); {
		case class == site.HistoryDoc && c.Delete && (needed[site.Hash(name)] || now == ""):
		case class == site.HistoryDoc && !c.Delete && now != "":
		case now == c.Before:
			out = append(out, c)
		case c.Delete && now == "" || !c.Delete && now == after: // it is so already
		default:
			since, err := w.store.Since(w.Site.ID, edit, c.Path)
			if err != nil {
				return r.Set, err
			}
			why = append(why, c.Path+" was changed since"+titled(since))
		}
	}
	if len(why) > 0 {
		return r.Set, site.Refuse("this edit cannot be %s by itself: %s. Take that back first, or bring back the documents one by one",
			map[bool]string{false: "taken back", true: "done again"}[r.Undone], strings.Join(why, "; "))
	}
	if len(out) == 0 {
		return r.Set, site.Refuse("nothing of this edit is left")
	}
	r.Set.Changes = out
	return r.Set, nil
}

// Changed tells which pages an edit changed when it was made, undone or done again: those of which
// it changed a byte, that came by it and that went. Rules are taken to be on as they are today.
func (w *Workspace) Changed(edit int64) (*impact.Impact, error) {
	later, own, err := w.store.Rewind(w.Site.ID, edit)
	if errors.Is(err, store.ErrNothing) {
		return nil, site.Missing("there is no such edit, or what it changed is not kept any more")
	}
	if err != nil {
		return nil, err
	}
	d := w.State().Draft
	after := d.Commit(d.With(later))
	im := impact.Turned(after, after.With(own))
	out := &impact.Impact{Total: im.Total, Counts: map[impact.Effect]int{}}
	for _, p := range im.Pages {
		switch p.Effect {
		case impact.Changes, impact.Added, impact.Removed:
			p.Breaks = nil
			out.Pages = append(out.Pages, p)
			out.Counts[p.Effect]++
		}
	}
	return out, nil
}

func titled(titles []string) string {
	var out []string
	for _, t := range titles {
		out = append(out, fmt.Sprintf("%q", t))
	}
	if len(out) == 0 {
		return ""
	}
	return " by " + strings.Join(out, ", ")
}

func without(changes []site.Change, class site.Class) []site.Change {
	var out []site.Change
	for _, c := range changes {
		if is, _, _ := site.Classify(c.Path); is != class {
			out = append(out, c)
		}
	}
	return out
}
