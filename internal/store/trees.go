package store

import (
	"context"
	"database/sql"
	"errors"
	"fmt"
	"maps"

	"github.com/jmoiron/sqlx"

	"brickshelf/internal/core/site"
)

// Files reads a tree. Where some of its texts are damaged it gives the others, and a
// *Damaged.
func (s *Store) Files(id int64, tree Tree) (site.Files, error) {
	var out site.Files
	err := s.together(id, func(one, two *sqlx.Conn) error {
		middle, err := middle(one, id, tree)
		if err != nil {
			return err
		}
		const from = " d LEFT JOIN blobs b ON b.id = d.blob WHERE d.site = ? AND d.path "
		var later site.Files
		var failed error
		done := make(chan struct{})
		go func() {
			defer close(done)
			later, failed = documents(two, "SELECT d.path, "+columns+" FROM "+string(tree)+from+">= ?", id,
				middle)
		}()
		out, err = documents(one, "SELECT d.path, "+columns+" FROM "+string(tree)+from+"< ?", id, middle)
		<-done
		if out == nil || later == nil {
			return errors.Join(err, failed)
		}
		maps.Copy(out, later)
		return joined(err, failed)
	})
	if err != nil {
		return out, fmt.Errorf("reading the %s: %w", tree, err)
	}
	return out, nil
}

// joined is the damage that two readers found.
func joined(one, other error) error {
	var a, b *Damaged
	if errors.As(one, &a) && errors.As(other, &b) {
		for _, p := range b.Paths {
			a.add(p, b.Hashes[p])
		}
		return a.orNil()
	}
	return errors.Join(one, other)
}

// together runs do with two connections that read the same state of a site, whatever is
// written meanwhile.
func (s *Store) together(id int64, do func(one, two *sqlx.Conn) error) error {
	ctx := context.Background()
	var both [2]*sqlx.Conn
	for i := range both {
		c, err := s.db.Connx(ctx)
		if err != nil {
			return err
		}
		defer c.Close()
		both[i] = c
	}
	for {
		var state [2]struct {
			Changes  int64 `db:"changes"`
			Releases int64 `db:"releases"`
		}
		for i, c := range both {
			if _, err := c.ExecContext(ctx, "BEGIN DEFERRED"); err != nil {
				return err
			}
			defer func() { _, _ = c.ExecContext(ctx, "ROLLBACK") }() // which fails where that is done
			if err := c.GetContext(ctx, &state[i],
				"SELECT (SELECT coalesce(max(id), 0) FROM change_sets WHERE site = ?1) AS changes, (SELECT coalesce(max(id), 0) FROM releases WHERE site = ?1) AS releases", id); err != nil {
				return err
			}
		}
		if state[0] == state[1] {
			return do(both[0], both[1])
		}
		for _, c := range both { // something was saved between the two
			if _, err := c.ExecContext(ctx, "ROLLBACK"); err != nil {
				return err
			}
		}
	}
}

// middle is a path with about as many documents before as after it: a tree is read in
// two halves at once, since it is the processor that takes the time.
func middle(c *sqlx.Conn, id int64, tree Tree) (string, error) {
	var path string
	err := c.GetContext(context.Background(), &path, "SELECT path FROM "+string(tree)+
		" WHERE site = ? ORDER BY path LIMIT 1 OFFSET (SELECT count(*) / 2 FROM "+string(tree)+
		" WHERE site = ?)", id, id)
	if errors.Is(err, sql.ErrNoRows) {
		return "", nil
	}
	return path, err
}

// Unpublished reads in what a site's published tree differs from its draft, as changes
// that lead from the draft to it; without before-hashes.
func (s *Store) Unpublished(id int64) ([]site.Change, error) {
	c, err := s.db.Connx(context.Background())
	if err != nil {
		return nil, err
	}
	defer c.Close()
	differ, err := documents(c, "SELECT p.path, "+columns+
		` FROM published p LEFT JOIN blobs b ON b.id = p.blob
		LEFT JOIN drafts d ON d.site = p.site AND d.path = p.path WHERE p.site = ? AND d.blob IS NOT p.blob`,
		id)
	if err != nil {
		return nil, fmt.Errorf("reading what is published: %w", err)
	}
	var added []string
	if err := s.db.Select(&added, `SELECT d.path FROM drafts d
		LEFT JOIN published p ON p.site = d.site AND p.path = d.path WHERE d.site = ? AND p.blob IS NULL`,
		id); err != nil {
		return nil, fmt.Errorf("reading what is published: %w", err)
	}
	var out []site.Change
	for path, b := range differ {
		out = append(out, site.Change{Path: path, After: b})
	}
	for _, path := range added {
		out = append(out, site.Change{Path: path, Delete: true})
	}
	return out, nil
}
