package store

import (
	"context"
	"fmt"
	"strings"

	"github.com/jmoiron/sqlx"
)

// Steps tells of a site how many edits back the texts are kept that undo needs.
type Steps func(site int64) int

// atATime is how many documents are tidied up in one transaction, between which others can
// save.
const atATime = 2000

// droppable are the change sets whose texts nothing needs any more: what undo and redo
// wrote, since they go by the edits themselves; edits that were taken back and cannot be
// done again, since another one has followed; and those further back than undo reaches.
const droppable = `SELECT e.id FROM change_sets e WHERE e.kept = 1 AND e.site = ? AND (e.kind <> 'edit'
	OR e.undone = 1
		AND coalesce((SELECT max(u.id) FROM change_sets u WHERE u.kind = 'undo' AND u.target = e.id), 0)
			< (SELECT max(id) FROM change_sets l WHERE l.kind = 'edit' AND l.site = e.site)
	OR e.id <= coalesce((SELECT id FROM change_sets o WHERE o.site = e.site AND o.kind = 'edit'
		ORDER BY id DESC LIMIT 1 OFFSET ?), 0))`

// Tidy drops the texts that no draft, release, undo or copy needs, and gives their room
// back to the disk. It works in small steps, between which others can save, until ctx ends.
func (s *Store) Tidy(ctx context.Context, steps Steps) error {
	c, err := s.db.Connx(ctx)
	if err != nil {
		return err
	}
	defer c.Close()
	// References are looked at for many texts at once here, not for each.
	if _, err := c.ExecContext(ctx, "PRAGMA foreign_keys = 0"); err != nil {
		return err
	}
	defer func() { _, _ = c.ExecContext(context.Background(), "PRAGMA foreign_keys = 1") }()
	if err := forget(ctx, c, s.now().Add(-KeptFor)); err != nil {
		return fmt.Errorf("tidying up: %w", err)
	}
	var sites []int64
	if err := c.SelectContext(ctx, &sites, "SELECT id FROM sites"); err != nil {
		return fmt.Errorf("tidying up: %w", err)
	}
	for _, id := range sites {
		if _, err := c.ExecContext(ctx, "UPDATE change_sets SET kept = 0 WHERE id IN ("+droppable+")", id,
			steps(id)); err != nil {
			return fmt.Errorf("tidying up: %w", err)
		}
	}
	for more := true; more; {
		if more, err = tidySome(ctx, c); err != nil {
			return fmt.Errorf("tidying up: %w", err)
		}
	}
	for _, q := range []string{"PRAGMA incremental_vacuum", "PRAGMA wal_checkpoint(TRUNCATE)"} {
		if err := drain(ctx, c, q); err != nil {
			return fmt.Errorf("tidying up: %w", err)
		}
	}
	return nil
}

// tidySome lets go of some texts, and reports whether there are more.
func tidySome(ctx context.Context, c *sqlx.Conn) (bool, error) {
	tx, err := c.BeginTxx(ctx, nil)
	if err != nil {
		return false, err
	}
	defer func() { _ = tx.Rollback() }()
	var some []struct {
		Set    int64  `db:"change_set"`
		Path   string `db:"path"`
		Before int64  `db:"before"`
		After  int64  `db:"after"`
	}
	if err := tx.Select(&some,
		`SELECT c.change_set, c.path, coalesce(c.before, 0) AS before, coalesce(c.after, 0) AS after FROM change_sets s JOIN changes c ON c.change_set = s.id
		WHERE s.kept = 0 AND (c.before IS NOT NULL OR c.after IS NOT NULL) LIMIT ?`, atATime); err != nil ||
		len(some) == 0 {
		return false, err
	}
	many := &prepared{tx: tx}
	var loose []string
	for _, r := range some {
		if _,
			err := many.Exec("UPDATE changes SET before = NULL, after = NULL WHERE change_set = ? AND path = ?", r.Set, r.Path); err != nil {
			return false, err
		}
		loose = append(loose, fmt.Sprintf("(%d),(%d)", r.Before, r.After))
	}
	for _, q := range []string{
		"CREATE TEMP TABLE IF NOT EXISTS loose (id INTEGER PRIMARY KEY)",
		"DELETE FROM loose",
		"INSERT OR IGNORE INTO loose VALUES " + strings.Join(loose, ","),
		"INSERT OR IGNORE INTO loose SELECT base FROM blobs WHERE id IN (SELECT id FROM loose) AND base IS NOT NULL",
		"DELETE FROM loose WHERE id IN (SELECT blob FROM drafts)",
		"DELETE FROM loose WHERE id IN (SELECT blob FROM published)",
		"DELETE FROM loose WHERE id IN (SELECT before FROM changes WHERE before IS NOT NULL)",
		"DELETE FROM loose WHERE id IN (SELECT after FROM changes WHERE after IS NOT NULL)",
		"DELETE FROM loose WHERE id IN (SELECT before FROM release_changes WHERE before IS NOT NULL)",
		"DELETE FROM loose WHERE id IN (SELECT after FROM release_changes WHERE after IS NOT NULL)",
		// One that another text is spliced into stays as long as that does.
		"DELETE FROM loose WHERE id IN (SELECT base FROM blobs WHERE base IS NOT NULL AND id NOT IN (SELECT id FROM loose))",
		"DELETE FROM blobs WHERE id IN (SELECT id FROM loose)",
	} {
		if _, err := tx.Exec(q); err != nil {
			return false, err
		}
	}
	return true, tx.Commit()
}

// drain runs a pragma that gives rows until it is done.
func drain(ctx context.Context, c *sqlx.Conn, query string) error {
	rs, err := c.QueryContext(ctx, query)
	if err != nil {
		return err
	}
	defer rs.Close()
	for rs.Next() {
	}
	return rs.Err()
}
