package store

import (
	"database/sql"
	"errors"
	"fmt"
	"slices"
	"time"

	"github.com/jmoiron/sqlx"

	"brickshelf/internal/core/site"
)

// Record is a change set as it was saved.
type Record struct {
	ID     int64     `db:"id"`
	Title  string    `db:"title"`
	Author string    `db:"author"`
	Kind   string    `db:"kind"` // edit, undo or redo
	Undone bool      `db:"undone"`
	At     time.Time `db:"-"`
	Stamp  string    `db:"at"`
	Waits  bool      `db:"waits"` // it is part of what differs between the last release and the draft
	Paths  []string  `db:"-"`     // the first of the documents
	Count  int       `db:"count"` // of the documents
}

// Save writes a change set to the draft. Where a document is no longer what the
// change set started from, it returns a *site.Conflict and writes nothing. Where an edit since the last
// release has its title already, a number behind it tells the two apart.
func (s *Store) Save(id int64, set site.ChangeSet) (Record, error) {
	var rec Record
	err := s.write(func(tx *sqlx.Tx) error {
		var err error
		if set.Title, err = ownTitle(tx, id, set.Title); err != nil {
			return err
		}
		rec, err = s.apply(tx, id, set, "edit", 0)
		return err
	})
	return rec, wrap(err, "saving")
}

// ownTitle is a title as it is, or as "Title (2)" where an edit since the last release has it.
func ownTitle(tx *sqlx.Tx, id int64, title string) (string, error) {
	var same, numbered int
	err := tx.QueryRow(`SELECT coalesce(sum(title = ?2), 0), coalesce(sum(substr(title, 1, length(?2) + 2) = ?2 || ' ('), 0)
		FROM change_sets WHERE site = ?1 AND kind = 'edit'
			AND id > (SELECT coalesce(max(upto), 0) FROM releases WHERE site = ?1)`, id, title).Scan(&same, &numbered)
	if err != nil || same == 0 {
		return title, err
	}
	return fmt.Sprintf("%s (%d)", title, same+numbered+1), nil
}

func wrap(err error, doing string) error {
	var conflict *site.Conflict
	if err == nil || errors.As(err, &conflict) || errors.Is(err, ErrNothing) || errors.Is(err, ErrNoRelease) {
		return err
	}
	return fmt.Errorf("%s: %w", doing, err)
}

func (s *Store) apply(tx *sqlx.Tx, id int64, set site.ChangeSet, kind string, target int64) (Record, error) {
	rec := Record{Title: set.Title, Author: set.Author, Kind: kind, Stamp: s.stamp()}
	rec.At, _ = time.Parse(time.RFC3339Nano, rec.Stamp)
	res, err := tx.Exec(`INSERT INTO change_sets (site, title, author, kind, target, at)
		VALUES (?, ?, ?, ?, nullif(?, 0), ?)`, id, set.Title, set.Author, kind, target, rec.Stamp)
	if err != nil {
		return rec, err
	}
	if rec.ID, err = res.LastInsertId(); err != nil {
		return rec, err
	}
	p := &prepared{tx: tx}
	for _, c := range set.Changes {
		if err := change(p, id, rec.ID, c); err != nil {
			return rec, err
		}
		rec.Paths = append(rec.Paths, c.Path)
	}
	return rec, nil
}

func change(tx *prepared, id, changeSet int64, c site.Change) error {
	var before, after sql.NullInt64
	var old struct {
		Blob int64  `db:"blob"`
		Hash string `db:"hash"`
	}
	err := tx.Get(&old,
		"SELECT d.blob, b.hash FROM drafts d JOIN blobs b ON b.id = d.blob WHERE d.site = ? AND d.path = ?",
		id, c.Path)
	if err != nil && !errors.Is(err, sql.ErrNoRows) {
		return err
	}
	if err == nil {
		before = sql.NullInt64{Int64: old.Blob, Valid: true}
	}
	if site.Hash(old.Hash) != c.Before {
		conflict := &site.Conflict{Path: c.Path, Wanted: c.Before, Found: site.Hash(old.Hash),
			Offered: c.After}
		if before.Valid {
			row, err := rows(tx.tx)(old.Blob)
			if err == nil {
				conflict.Current, err = unpack(row, rows(tx.tx))
			}
			if err != nil && !errors.Is(err, errDamaged) {
				return err
			}
		}
		return conflict
	}
	if c.Delete {
		_, err = tx.Exec("DELETE FROM drafts WHERE site = ? AND path = ?", id, c.Path)
	} else {
		if after.Int64, err = blob(tx, c.After, before.Int64); err != nil {
			return err
		}
		after.Valid = true
		_,
			err = tx.Exec("INSERT INTO drafts (site, path, blob) VALUES (?, ?, ?) ON CONFLICT (site, path) DO UPDATE SET blob = excluded.blob", id, c.Path, after.Int64)
	}
	if err != nil {
		return err
	}
	_, err = tx.Exec("INSERT INTO changes (change_set, path, before, after) VALUES (?, ?, ?, ?)", changeSet,
		c.Path, before, after)
	return err
}

// Undo takes back the newest change set that still stands, Redo the one that
// was taken back last. Both write a change set of their own. The change set
// returned is what was done to the draft. ErrNothing says that there is none.
func (s *Store) Undo(id int64) (Record, site.ChangeSet, error) {
	return s.step(id, "undo", "SELECT id, title "+undoable)
}

// undoable is the newest change set that still stands, if its texts are still kept.
const undoable = `FROM (SELECT id, title, kept FROM change_sets WHERE site = ?1 AND kind = 'edit' AND undone = 0
	ORDER BY id DESC LIMIT 1) WHERE kept = 1`

// redoable is the change set that was taken back last, if nothing has been edited since:
// a new edit ends for good what could be done again before it.
const redoable = `FROM change_sets e WHERE e.site = ?1 AND e.kind = 'edit' AND e.undone = 1 AND e.kept = 1
	AND (SELECT max(u.id) FROM change_sets u
			WHERE u.site = ?1 AND u.id > e.id AND u.kind = 'undo' AND u.target = e.id)
		> (SELECT max(id) FROM change_sets WHERE site = ?1 AND kind = 'edit') ORDER BY e.id LIMIT 1`

// Redo is described with Undo.
func (s *Store) Redo(id int64) (Record, site.ChangeSet, error) {
	return s.step(id, "redo", "SELECT e.id, e.title "+redoable)
}

func (s *Store) step(id int64, kind, query string) (Record, site.ChangeSet, error) {
	var rec Record
	var set site.ChangeSet
	err := s.write(func(tx *sqlx.Tx) error {
		var target struct {
			ID    int64  `db:"id"`
			Title string `db:"title"`
		}
		if err := tx.Get(&target, query, id); errors.Is(err, sql.ErrNoRows) {
			return ErrNothing
		} else if err != nil {
			return err
		}
		var err error
		if set, err = readChanges(tx, "changes", "change_set", target.ID, kind == "undo"); err != nil {
			return err
		}
		set.Title = map[string]string{"undo": "Undone: ", "redo": "Redone: "}[kind] + target.Title
		if rec, err = s.apply(tx, id, set, kind, target.ID); err != nil {
			return err
		}
		_, err = tx.Exec("UPDATE change_sets SET undone = ? WHERE id = ?", kind == "undo", target.ID)
		return err
	})
	return rec, set, wrap(err, kind)
}

// readChanges reads the changes of a change set or release, or what takes them back: of
// each just the side that it leads to.
func readChanges(q *sqlx.Tx, table, column string, id int64, back bool) (site.ChangeSet, error) {
	from, to := "before", "after"
	if back {
		from, to = to, from
	}
	var set site.ChangeSet
	rs, err := q.Query("SELECT c.path, x.hash, c."+to+", "+columns+" FROM "+table+
		" c LEFT JOIN blobs x ON x.id = c."+from+" LEFT JOIN blobs b ON b.id = c."+to+" WHERE c."+column+
		" = ? ORDER BY c.path", id)
	if err != nil {
		return set, err
	}
	defer rs.Close()
	bad := &Damaged{}
	waiting := map[int]*stored{} // by change: whose bases are read when these rows are
	for rs.Next() {
		var d document
		var before sql.NullString
		var leads sql.NullInt64
		if err := rs.Scan(&d.Path, &before, &leads, &d.ID, &d.Hash, &d.Form, &d.Base, &d.Sum,
			&d.Bytes); err != nil {
			return set, err
		}
		c := site.Change{Path: d.Path, Before: site.Hash(before.String), Delete: !leads.Valid}
		if leads.Valid && !d.ID.Valid {
			bad.add(d.Path, "")
		} else if leads.Valid {
			row := &stored{d.ID.Int64, d.Hash.String, int(d.Form.Int64), d.Base, d.Sum,
				slices.Clone([]byte(d.Bytes))}
			if row.Form == spliced {
				waiting[len(set.Changes)] = row
			} else if c.After, err = unpack(row, nil); err != nil {
				bad.add(d.Path, site.Hash(row.Hash))
			}
		}
		set.Changes = append(set.Changes, c)
	}
	if err := rs.Err(); err != nil {
		return set, err
	}
	for i := range set.Changes {
		row := waiting[i]
		if row == nil {
			continue
		}
		c := &set.Changes[i]
		if c.After, err = unpack(row, rows(q)); errors.Is(err, errDamaged) {
			bad.add(c.Path, site.Hash(row.Hash))
		} else if err != nil {
			return set, err
		}
	}
	return set, bad.orNil()
}

// waits is what makes a change set e one that waits to be published after change set ?2:
// an edit since that stands, or the taking back of one that was published with it.
const waits = `(e.kind = 'edit' AND e.undone = 0 OR e.kind = 'undo' AND e.target <= ?2
	AND e.id = (SELECT max(u.id) FROM change_sets u WHERE u.kind = 'undo' AND u.target = e.target) AND (SELECT t.undone FROM change_sets t WHERE t.id = e.target) = 1)`

// Waiting counts the change sets after the one given that wait to be published.
func (s *Store) Waiting(id, after int64) (int, error) {
	var n int
	err := s.db.Get(&n, "SELECT count(*) FROM change_sets e WHERE e.site = ?1 AND e.id > ?2 AND "+waits,
		id, after)
	if err != nil {
		return 0, fmt.Errorf("counting what waits: %w", err)
	}
	return n, nil
}

// LastChanges gives, for each document that begins so and was ever edited, the number of the
// last change set that has it: the larger, the later.
func (s *Store) LastChanges(id int64, prefix string) (map[string]int64, error) {
	var rows []struct {
		Path string
		Last int64
	}
	err := s.db.Select(&rows, `SELECT c.path, max(c.change_set) AS last FROM change_sets e CROSS JOIN changes c
		ON c.change_set = e.id AND c.path >= ?2 AND c.path < ?3 WHERE e.site = ?1 GROUP BY c.path`, id, prefix, prefix+"\U0010ffff")
	if err != nil {
		return nil, fmt.Errorf("reading when documents were edited: %w", err)
	}
	out := make(map[string]int64, len(rows))
	for _, r := range rows {
		out[r.Path] = r.Last
	}
	return out, nil
}

// maxPaths is how many documents of a change set History names.
const maxPaths = 20

// History lists the change sets after one and, where that is not 0, before another, the
// newest first, at most so many.
func (s *Store) History(id, after, before int64, most int) ([]Record, error) {
	var out []Record
	err := s.db.Select(&out, `SELECT e.id, e.title, e.author, e.kind, e.undone, e.at, `+waits+
		` AS waits, (SELECT count(*) FROM changes c WHERE c.change_set = e.id) AS count
		FROM change_sets e WHERE e.site = ?1 AND e.id > ?2 AND (?3 = 0 OR e.id < ?3) ORDER BY e.id DESC LIMIT ?4`, id, after, before, most)
	if err != nil {
		return nil, fmt.Errorf("reading the history: %w", err)
	}
	for i := range out {
		out[i].At, _ = time.Parse(time.RFC3339Nano, out[i].Stamp)
		if err := s.db.Select(&out[i].Paths,
			"SELECT path FROM changes WHERE change_set = ? ORDER BY path LIMIT ?", out[i].ID,
			maxPaths); err != nil {
			return nil, fmt.Errorf("reading the history: %w", err)
		}
	}
	return out, nil
}

// Earlier gives what a document of the draft was before each of its last hundred changes,
// the newest first.
func (s *Store) Earlier(id int64, path string) ([][]byte, error) {
	var list []stored
	err := s.db.Select(&list, "SELECT "+columns+
		` FROM changes c JOIN change_sets s ON s.id = c.change_set JOIN blobs b ON b.id = c.before
		WHERE s.site = ? AND c.path = ? ORDER BY s.id DESC LIMIT 100`, id, path)
	if err != nil {
		return nil, fmt.Errorf("reading what %s was: %w", path, err)
	}
	var out [][]byte
	for i := range list {
		text, err := unpack(&list[i], rows(s.db))
		if errors.Is(err, errDamaged) {
			continue // another one may serve
		}
		if err != nil {
			return nil, fmt.Errorf("reading what %s was: %w", path, err)
		}
		out = append(out, text)
	}
	return out, nil
}

// Steps tells what Undo and Redo would do: the titles, "" where there is nothing.
func (s *Store) Steps(id int64) (undo, redo string, err error) {
	err = s.db.Get(&undo, "SELECT coalesce((SELECT title "+undoable+"), '')", id)
	if err == nil {
		err = s.db.Get(&redo, "SELECT coalesce((SELECT e.title "+redoable+"), '')", id)
	}
	return undo, redo, err
}
