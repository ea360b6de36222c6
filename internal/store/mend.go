package store

import (
	"errors"
	"fmt"

	"github.com/jmoiron/sqlx"

	"brickshelf/internal/core/site"
)

// Mend takes from a tree what is damaged in a site: a text that is the same is stored once
// more, another text becomes that of the draft, as an edit. What the tree does not hold
// stays damaged.
func (s *Store) Mend(id int64, files site.Files) error {
	lost := map[string]site.Hash{}
	for _, tree := range []Tree{Draft, Published} {
		_, err := s.Files(id, tree)
		var bad *Damaged
		if errors.As(err, &bad) {
			for _, p := range bad.Paths {
				lost[p] = bad.Hashes[p]
			}
		} else if err != nil {
			return err
		}
	}
	set := site.ChangeSet{Title: "Mend what was damaged"}
	err := s.write(func(tx *sqlx.Tx) error {
		many := &prepared{tx: tx}
		for p, hash := range lost {
			text, there := files[p]
			switch {
			case !there:
			case hash == "": // the row is gone, and nobody knows what it held
				row, err := blob(many, text, 0)
				if err != nil {
					return err
				}
				for _, tree := range []Tree{Draft, Published} {
					if _, err := many.Exec("UPDATE "+string(tree)+
						" SET blob = ? WHERE site = ? AND path = ? AND blob NOT IN (SELECT id FROM blobs)",
						row, id, p); err != nil {
						return err
					}
				}
			case site.HashOf(text) == hash:
				if _, err := blob(many, text, 0); err != nil {
					return err
				}
			default:
				set.Changes = append(set.Changes, site.Change{Path: p, Before: hash, After: text})
			}
		}
		return nil
	})
	if err == nil && len(set.Changes) > 0 {
		_, err = s.Save(id, set)
	}
	if err != nil {
		return fmt.Errorf("mending what is damaged: %w", err)
	}
	return nil
}
