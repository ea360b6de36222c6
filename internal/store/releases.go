package store

import (
	"database/sql"
	"errors"
	"fmt"
	"time"

	"github.com/jmoiron/sqlx"

	"brickshelf/internal/core/site"
)

// Release is a published state of a site. Upto is the change set that it
// includes last.
type Release struct {
	ID     int64     `db:"id"`
	Number int       `db:"number"`
	Title  string    `db:"title"`
	Upto   int64     `db:"upto"`
	Stamp  string    `db:"at"`
	At     time.Time `db:"-"`
}

// Publish makes the draft the published tree, as a new release. ErrNothing says
// that the two are the same already.
func (s *Store) Publish(id int64, title string) (Release, error) {
	rel := Release{Title: title, Stamp: s.stamp()}
	rel.At, _ = time.Parse(time.RFC3339Nano, rel.Stamp)
	err := s.write(func(tx *sqlx.Tx) error {
		var differ int
		if err := tx.Get(&differ, `SELECT count(*) FROM (
			SELECT path, blob FROM drafts WHERE site = ?1
			EXCEPT SELECT path, blob FROM published WHERE site = ?1
			UNION ALL SELECT path, blob FROM published
				WHERE site = ?1 AND path NOT IN (SELECT path FROM drafts WHERE site = ?1))`, id); err != nil {
			return err
		}
		if err := tx.Get(&rel.Number, "SELECT coalesce(max(number), 0) + 1 FROM releases WHERE site = ?",
			id); err != nil {
			return err
		}
		if differ == 0 && rel.Number > 1 {
			return ErrNothing
		}
		if err := tx.Get(&rel.Upto, "SELECT coalesce(max(id), 0) FROM change_sets WHERE site = ?",
			id); err != nil {
			return err
		}
		res, err := tx.Exec("INSERT INTO releases (site, number, title, upto, at) VALUES (?, ?, ?, ?, ?)", id,
			rel.Number, title, rel.Upto, rel.Stamp)
		if err != nil {
			return err
		}
		if rel.ID, err = res.LastInsertId(); err != nil {
			return err
		}
		for _, q := range []string{
			`INSERT INTO release_changes (release, path, before, after)
				SELECT ?2, d.path, p.blob, d.blob
				FROM drafts d LEFT JOIN published p ON p.site = d.site AND p.path = d.path
				WHERE d.site = ?1 AND (p.blob IS NULL OR p.blob <> d.blob)`,
			`INSERT INTO release_changes (release, path, before, after)
				SELECT ?2, p.path, p.blob, NULL
				FROM published p LEFT JOIN drafts d ON d.site = p.site AND d.path = p.path
				WHERE p.site = ?1 AND d.blob IS NULL`,
			`DELETE FROM published WHERE site = ?1 AND path IN (SELECT path FROM release_changes WHERE release = ?2)`,
			`INSERT INTO published (site, path, blob)
				SELECT ?1, path, after FROM release_changes WHERE release = ?2 AND after IS NOT NULL`,
		} {
			if _, err := tx.Exec(q, id, rel.ID); err != nil {
				return err
			}
		}
		return nil
	})
	return rel, wrap(err, "publishing")
}

// LastRelease is the change set that the newest release includes last, 0 before the first.
func (s *Store) LastRelease(id int64) (int64, error) {
	var upto int64
	if err := s.db.Get(&upto, "SELECT coalesce(max(upto), 0) FROM releases WHERE site = ?", id); err != nil {
		return 0, fmt.Errorf("reading the releases: %w", err)
	}
	return upto, nil
}

// Releases lists the releases, newest first.
func (s *Store) Releases(id int64) ([]Release, error) {
	var out []Release
	if err := s.db.Select(&out,
		"SELECT id, number, title, upto, at FROM releases WHERE site = ? ORDER BY number DESC",
		id); err != nil {
		return nil, fmt.Errorf("reading the releases: %w", err)
	}
	for i := range out {
		out[i].At, _ = time.Parse(time.RFC3339Nano, out[i].Stamp)
	}
	return out, nil
}

// ReleaseFiles reads the tree as it was published under a number.
func (s *Store) ReleaseFiles(id int64, number int) (site.Files, error) {
	files, err := s.Files(id, Published)
	if err != nil {
		return nil, err
	}
	var newer []int64
	if err := s.db.Select(&newer,
		"SELECT id FROM releases WHERE site = ? AND number > ? ORDER BY number DESC", id,
		number); err != nil {
		return nil, err
	}
	var there int
	if err := s.db.Get(&there, "SELECT 1 FROM releases WHERE site = ? AND number = ?", id,
		number); errors.Is(err, sql.ErrNoRows) {
		return nil, fmt.Errorf("there is no release %d: %w", number, ErrNoRelease)
	} else if err != nil {
		return nil, err
	}
	tx, err := s.db.Beginx()
	if err != nil {
		return nil, err
	}
	defer func() { _ = tx.Rollback() }()
	for _, r := range newer {
		set, err := readChanges(tx, "release_changes", "release", r, true)
		if err != nil {
			return nil, err
		}
		if files, err = files.Apply(set); err != nil {
			return nil, err
		}
	}
	return files, nil
}
