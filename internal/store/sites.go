package store

import (
	"context"
	"database/sql"
	"errors"
	"fmt"
	"strings"
	"time"

	"github.com/jmoiron/sqlx"
)

// KeptFor is how long a deleted site can be had back.
const KeptFor = 30 * 24 * time.Hour

// ErrTaken says that there is a site of the name that was asked for.
var ErrTaken = errors.New("there is a site of this name already; choose another")

// Summary tells of a site without opening it.
type Summary struct {
	Name     string `db:"name"`
	Pages    int    `db:"pages"`   // documents that are pages, drafts of pages among them
	Waiting  int    `db:"waiting"` // edits since the last release
	Release  int    `db:"release"` // the newest, 0 before the first
	Released string `db:"released"`
	Title    string `db:"title"`   // of the last edit
	Changed  string `db:"changed"` // when that was, or when the site was made
	Deleted  string `db:"deleted"` // when, "" for one that is there
}

// Summaries lists all sites by name, those that were deleted and can be had back last.
func (s *Store) Summaries() ([]Summary, error) {
	var out []Summary
	err := s.db.Select(&out, `WITH last AS (SELECT site, max(id) AS id FROM change_sets GROUP BY site),
		newest AS (SELECT site, max(number) AS number FROM releases GROUP BY site)
		SELECT CASE WHEN s.deleted IS NULL THEN s.name ELSE s.was END AS name,
			(SELECT count(*) FROM drafts d WHERE d.site = s.id AND d.path >= 'pages/' AND d.path < 'pages0')
				AS pages,
			(SELECT count(*) FROM change_sets e WHERE e.site = s.id AND e.id > coalesce(r.upto, 0) AND `+
		strings.ReplaceAll(waits, "?2", "coalesce(r.upto, 0)")+`) AS waiting,
			coalesce(r.number, 0) AS release, coalesce(r.at, '') AS released,
			coalesce(c.title, '') AS title, max(coalesce(c.at, ''), coalesce(r.at, ''), s.created) AS changed,
			coalesce(s.deleted, '') AS deleted
		FROM sites s LEFT JOIN last l ON l.site = s.id LEFT JOIN change_sets c ON c.id = l.id
			LEFT JOIN newest n ON n.site = s.id LEFT JOIN releases r ON r.site = s.id AND r.number = n.number
		ORDER BY s.deleted IS NOT NULL, name`)
	return out, err
}

// Document reads one document of a site's draft; nil where there is none.
func (s *Store) Document(id int64, path string) ([]byte, error) {
	c, err := s.db.Connx(context.Background())
	if err != nil {
		return nil, err
	}
	defer c.Close()
	out, err := documents(c, "SELECT d.path, "+columns+
		" FROM drafts d LEFT JOIN blobs b ON b.id = d.blob WHERE d.site = ? AND d.path = ?", id, path)
	return out[path], err
}

// Rename gives a site another name.
func (s *Store) Rename(id int64, name string) error {
	if err := CheckName(name); err != nil {
		return err
	}
	return s.write(func(tx *sqlx.Tx) error {
		if err := free(tx, name, id); err != nil {
			return err
		}
		_, err := tx.Exec("UPDATE sites SET name = ? WHERE id = ?", name, id)
		return err
	})
}

// free returns ErrTaken where another site has a name.
func free(tx *sqlx.Tx, name string, but int64) error {
	var other int64
	err := tx.Get(&other, "SELECT id FROM sites WHERE name = ? AND id <> ?", name, but)
	if errors.Is(err, sql.ErrNoRows) {
		return nil
	}
	if err == nil {
		err = fmt.Errorf("%s: %w", name, ErrTaken)
	}
	return err
}

// Delete takes a site away. It can be had back by its name for as long as KeptFor says.
func (s *Store) Delete(id int64) error {
	return s.write(func(tx *sqlx.Tx) error {
		// No name that a site can have holds a tilde, so its own is free again.
		_, err := tx.Exec(`UPDATE sites SET was = name, name = name || '~' || id, deleted = ?
			WHERE id = ? AND deleted IS NULL`, s.stamp(), id)
		return err
	})
}

// Recover has the site back that was deleted last under a name, as another one where that is
// taken by now.
func (s *Store) Recover(was, name string) (Site, error) {
	out := Site{Name: name}
	if err := CheckName(name); err != nil {
		return out, err
	}
	err := s.write(func(tx *sqlx.Tx) error {
		err := tx.Get(&out.ID, "SELECT id FROM sites WHERE was = ? AND deleted IS NOT NULL ORDER BY deleted DESC LIMIT 1",
			was)
		if errors.Is(err, sql.ErrNoRows) {
			return fmt.Errorf("%s: %w", was, ErrNoSite)
		}
		if err == nil {
			err = free(tx, name, out.ID)
		}
		if err == nil {
			_, err = tx.Exec("UPDATE sites SET name = ?, was = '', deleted = NULL WHERE id = ?", name, out.ID)
		}
		return err
	})
	return out, err
}

// forget drops the sites for good that were deleted before a moment, with all texts that only
// they have.
func forget(ctx context.Context, c *sqlx.Conn, before time.Time) error {
	tx, err := c.BeginTxx(ctx, nil)
	if err != nil {
		return err
	}
	defer func() { _ = tx.Rollback() }()
	var gone []int64
	if err := tx.Select(&gone, "SELECT id FROM sites WHERE deleted < ?",
		before.UTC().Format(time.RFC3339Nano)); err != nil || len(gone) == 0 {
		return err
	}
	steps := []string{}
	for _, id := range gone {
		for _, q := range []string{
			"changes WHERE change_set IN (SELECT id FROM change_sets WHERE site = %d)",
			"release_changes WHERE release IN (SELECT id FROM releases WHERE site = %d)",
			"change_sets WHERE site = %d", "releases WHERE site = %d", "drafts WHERE site = %d",
			"published WHERE site = %d", "sites WHERE id = %d",
		} {
			steps = append(steps, fmt.Sprintf("DELETE FROM "+q, id))
		}
	}
	steps = append(steps, `CREATE TEMP TABLE used AS SELECT blob AS id FROM drafts UNION SELECT blob FROM published
		UNION SELECT before FROM changes WHERE before IS NOT NULL
		UNION SELECT after FROM changes WHERE after IS NOT NULL
		UNION SELECT before FROM release_changes WHERE before IS NOT NULL
		UNION SELECT after FROM release_changes WHERE after IS NOT NULL`,
		// One that another text is spliced into stays as long as that does.
		"INSERT INTO used SELECT b.base FROM blobs b JOIN used u ON u.id = b.id WHERE b.base IS NOT NULL",
		"DELETE FROM blobs WHERE id NOT IN (SELECT id FROM used)", "DROP TABLE used")
	for _, q := range steps {
		if _, err := tx.Exec(q); err != nil {
			return err
		}
	}
	return tx.Commit()
}
