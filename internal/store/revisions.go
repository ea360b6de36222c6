package store

import (
	"database/sql"
	"errors"
	"fmt"
	"time"

	"brickshelf/internal/core/site"
)

// Revision is what a document became by a change set.
type Revision struct {
	ID     int64     `db:"id"` // of the change set
	Title  string    `db:"title"`
	Author string    `db:"author"`
	Kind   string    `db:"kind"` // edit, undo or redo
	Undone bool      `db:"undone"`
	At     time.Time `db:"-"`
	Stamp  string    `db:"at"`
	Hash   site.Hash `db:"hash"` // "" where the document went
}

// maxRevisions is how many revisions of a document are listed.
const maxRevisions = 200

// Revisions lists what a document became by its last changes, the newest first, and last what
// it was before them, where that is known, with the id 0. Revisions of which the text is not
// kept any more are left out.
func (s *Store) Revisions(id int64, path string) ([]Revision, error) {
	var out []Revision
	err := s.db.Select(&out, `SELECT e.id, e.title, e.author, e.kind, e.undone, e.at, coalesce(b.hash, '') AS hash
		FROM changes c JOIN change_sets e ON e.id = c.change_set LEFT JOIN blobs b ON b.id = c.after
		WHERE e.site = ? AND c.path = ? AND e.kept = 1 ORDER BY e.id DESC LIMIT ?`,
		id, path, maxRevisions)
	if err != nil {
		return nil, fmt.Errorf("reading the history of %s: %w", path, err)
	}
	for i := range out {
		out[i].At, _ = time.Parse(time.RFC3339Nano, out[i].Stamp)
	}
	if len(out) == 0 {
		return out, nil
	}
	var first Revision
	err = s.db.Get(&first.Hash, `SELECT b.hash FROM changes c JOIN blobs b ON b.id = c.before
		WHERE c.change_set = ? AND c.path = ?`, out[len(out)-1].ID, path)
	if err == nil {
		out = append(out, first)
	} else if !errors.Is(err, sql.ErrNoRows) {
		return nil, fmt.Errorf("reading the history of %s: %w", path, err)
	}
	return out, nil
}

// Text gives the text of a revision of a document of the site, by its hash. It returns ErrNothing
// where it was never that, or where that is not kept any more.
func (s *Store) Text(id int64, path string, h site.Hash) ([]byte, error) {
	var row stored
	err := s.db.Get(&row, "SELECT "+columns+` FROM blobs b WHERE b.hash = ? AND b.id IN (
		SELECT coalesce(c.after, 0) FROM changes c JOIN change_sets e ON e.id = c.change_set
			WHERE e.site = ? AND c.path = ?
		UNION SELECT coalesce(c.before, 0) FROM changes c JOIN change_sets e ON e.id = c.change_set
			WHERE e.site = ? AND c.path = ?) LIMIT 1`, h, id, path, id, path)
	if errors.Is(err, sql.ErrNoRows) {
		return nil, ErrNothing
	}
	if err != nil {
		return nil, fmt.Errorf("reading what %s was: %w", path, err)
	}
	return unpack(&row, rows(s.db))
}

// Reversal is what takes an edit back, or does again one that was taken back.
type Reversal struct {
	Set    site.ChangeSet
	Undone bool // it was taken back, and is done again
}

// Reverse gives what takes an edit of the site back; where it was taken back, what does it again.
// Nothing is written. It returns ErrNothing where there is no such edit, or its texts are not kept.
func (s *Store) Reverse(id, changeSet int64) (Reversal, error) {
	var out Reversal
	tx, err := s.db.Beginx()
	if err != nil {
		return out, wrap(err, "reading an edit")
	}
	defer func() { _ = tx.Rollback() }()
	var e struct {
		Title  string `db:"title"`
		Undone bool   `db:"undone"`
		Kept   bool   `db:"kept"`
	}
	err = tx.Get(&e,
		"SELECT title, undone, kept FROM change_sets WHERE site = ? AND id = ? AND kind = 'edit'", id,
		changeSet)
	if errors.Is(err, sql.ErrNoRows) || err == nil && !e.Kept {
		return out, ErrNothing
	}
	if err != nil {
		return out, wrap(err, "reading an edit")
	}
	out.Undone = e.Undone
	if out.Set, err = readChanges(tx, "changes", "change_set", changeSet, !e.Undone); err != nil {
		return out, wrap(err, "reading an edit")
	}
	out.Set.Title = map[bool]string{false: "Take back: ", true: "Do again: "}[e.Undone] + e.Title
	return out, nil
}

// Rewind gives what takes the draft of a site back to how it was after an edit, and from there to
// how it was before. It returns ErrNothing where there is no such edit, or the texts are not kept.
func (s *Store) Rewind(id, changeSet int64) (later, own []site.Change, err error) {
	tx, err := s.db.Beginx()
	if err != nil {
		return nil, nil, wrap(err, "reading edits")
	}
	defer func() { _ = tx.Rollback() }()
	var list []struct {
		ID   int64 `db:"id"`
		Kept bool  `db:"kept"`
	}
	err = tx.Select(&list, "SELECT id, kept FROM change_sets WHERE site = ? AND id >= ? ORDER BY id DESC", id, changeSet)
	if err != nil {
		return nil, nil, wrap(err, "reading edits")
	}
	at := map[string]int{}
	for _, e := range list {
		if !e.Kept {
			return nil, nil, ErrNothing
		}
		set, err := readChanges(tx, "changes", "change_set", e.ID, true)
		if err != nil {
			return nil, nil, wrap(err, "reading edits")
		}
		if e.ID == changeSet {
			return later, set.Changes, nil
		}
		for _, c := range set.Changes {
			if i, known := at[c.Path]; known {
				later[i] = c
			} else {
				at[c.Path], later = len(later), append(later, c)
			}
		}
	}
	return nil, nil, ErrNothing
}

// Since lists the titles of the edits after one that changed a document and stand, the newest
// first.
func (s *Store) Since(id, changeSet int64, path string) ([]string, error) {
	var out []string
	err := s.db.Select(&out, `SELECT e.title FROM changes c JOIN change_sets e ON e.id = c.change_set
		WHERE e.site = ? AND e.id > ? AND c.path = ? AND e.kind = 'edit' AND e.undone = 0 ORDER BY e.id DESC LIMIT 5`,
		id, changeSet, path)
	return out, wrap(err, "reading edits")
}
