package site

import (
	"crypto/sha256"
	"encoding/hex"
	"fmt"
	"sort"
)

// Hash is the SHA-256 of a document's bytes, in lower-case hexadecimal.
type Hash string

// HashOf returns the hash of b.
func HashOf(b []byte) Hash {
	h := sha256.Sum256(b)
	return Hash(hex.EncodeToString(h[:]))
}

// Files is a whole tree: path to bytes.
type Files map[string][]byte

// Paths returns the paths in ascending order.
func (f Files) Paths() []string {
	out := make([]string, 0, len(f))
	for p := range f {
		out = append(out, p)
	}
	sort.Strings(out)
	return out
}

// Change is what an edit does to one document: After is what it holds then, or
// nil where Delete is set. Before is the hash that the edit started from, ""
// where there was no document.
type Change struct {
	Path   string
	Before Hash
	After  []byte
	Delete bool
}

// ChangeSet is a titled list of changes, at most one for each path.
type ChangeSet struct {
	Title   string
	Author  string // as they sign; "" for nobody's name
	Changes []Change
}

// Conflict says that a document is no longer what a change started from.
type Conflict struct {
	Path    string
	Wanted  Hash
	Found   Hash
	Current []byte // what stands there now; nil where nothing does
	Offered []byte // what the change would have written
}

// Error says what to do about the conflict.
func (c *Conflict) Error() string {
	if c.Found == "" {
		return fmt.Sprintf("%s: was deleted since this edit began; save it under its name again or let it go",
			c.Path)
	}
	return fmt.Sprintf("%s: was changed since this edit began; compare both versions and save again", c.Path)
}

// Apply returns the tree after the change set. The tree given is left as it is.
// A change whose before-hash does not fit is refused with a Conflict.
func (f Files) Apply(set ChangeSet) (Files, error) {
	out := make(Files, len(f)+len(set.Changes))
	for p, b := range f {
		out[p] = b
	}
	for _, c := range set.Changes {
		old, there := f[c.Path]
		if err := c.Check(old, there); err != nil {
			return nil, err
		}
		if c.Delete {
			delete(out, c.Path)
		} else {
			out[c.Path] = c.After
		}
	}
	return out, nil
}

// Check holds the change against the document as it stands.
func (c Change) Check(old []byte, there bool) error {
	var found Hash
	if there {
		found = HashOf(old)
	}
	if found == c.Before {
		return nil
	}
	return &Conflict{Path: c.Path, Wanted: c.Before, Found: found, Current: old, Offered: c.After}
}

// Diff returns the change set that leads from one tree to another.
func Diff(before, after Files) ChangeSet {
	var set ChangeSet
	for _, p := range after.Paths() {
		old, there := before[p]
		if there && string(old) == string(after[p]) {
			continue
		}
		c := Change{Path: p, After: after[p]}
		if there {
			c.Before = HashOf(old)
		}
		set.Changes = append(set.Changes, c)
	}
	for _, p := range before.Paths() {
		if _, there := after[p]; !there {
			set.Changes = append(set.Changes, Change{Path: p, Before: HashOf(before[p]), Delete: true})
		}
	}
	return set
}
