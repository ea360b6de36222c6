// Package edit holds what the operations on a site share. The operations are in the rooms
// below it, named for what one does: pure functions from a site and arguments to a change
// set. Each is a lossless edit of texts; only the characters that must change do.
package edit

import (
	"bytes"
	"slices"
	"strings"

	"brickshelf/internal/core/markup"
	"brickshelf/internal/core/render"
	"brickshelf/internal/core/shelf"
	"brickshelf/internal/core/site"
)

// Texts gathers edits of the documents of a site, one after the other.
type Texts struct {
	Shelf *shelf.Shelf
	texts map[string][]byte
	paths []string
}

// Get is the text of a document by now; nil where there is none.
func (d *Texts) Get(path string) []byte {
	if src, ok := d.texts[path]; ok {
		return src
	}
	src, _ := d.Shelf.Get(path)
	return src
}

// Put gives a document another text.
func (d *Texts) Put(path string, src []byte) {
	if d.texts == nil {
		d.texts = map[string][]byte{}
	}
	if _, ok := d.texts[path]; !ok {
		d.paths = append(d.paths, path)
	}
	d.texts[path] = src
}

// Changes are the documents that differ, in order of their paths.
func (d *Texts) Changes() []site.Change {
	var out []site.Change
	slices.Sort(d.paths)
	shelf.Parallel(len(d.paths), func(i int) { d.Shelf.Hash(d.paths[i]) }) // which it remembers
	for _, p := range d.paths {
		if was, _ := d.Shelf.Get(p); !bytes.Equal(was, d.texts[p]) {
			out = append(out, site.Change{Path: p, Before: d.Shelf.Hash(p), After: d.texts[p]})
		}
	}
	return out
}

// Unchanged refuses a change set by which a page would change.
func Unchanged(s *shelf.Shelf, changes []site.Change, what string) error {
	o := s.With(changes)
	for _, r := range o.Reached() {
		before := s.Info(r.Path) // s can be an edit of a site itself
		if before == nil || r.After == nil {
			return site.Refuse("%s: %s would change by it", what, r.URL())
		}
		for _, seen := range []string{shelf.SignedOut, shelf.SignedIn} {
			if !bytes.Equal(render.AppendPage(s, nil, before.Seen(seen)), render.AppendPage(o, nil,
				r.After.Seen(seen))) {
				return site.Refuse("%s: %s would change by it", what, r.URL())
			}
		}
	}
	return nil
}

// TextOf is the text of a document; nil where there is none.
func TextOf(s *shelf.Shelf, path string) []byte {
	src, _ := s.Get(path)
	return src
}

func SortedKeys[V any](m map[string]V) []string {
	keys := make([]string, 0, len(m))
	for k := range m {
		keys = append(keys, k)
	}
	slices.Sort(keys)
	return keys
}

// Titled makes a title of a name: port-card gives Port card.
func Titled(name string) string {
	t := strings.ReplaceAll(name, "-", " ")
	return strings.ToUpper(t[:1]) + t[1:]
}

// FreeBlock reports why a block cannot have a name.
func FreeBlock(s *shelf.Shelf, name string) error {
	switch {
	case markup.IsReserved(name):
		return site.Refuse("%s is part of the language; choose another name", name)
	case !markup.ValidName(name):
		return site.Refuse("%q cannot name a block; use lower-case letters, digits and hyphens, a letter first", name)
	}
	if _, taken := s.Signature(name); taken {
		return site.Refuse("there is a block or shortcode %s already; choose another name", name)
	}
	return nil
}

// FreeName reports why a layout, rule or menu cannot have a name.
func FreeName(s *shelf.Shelf, what, path, name string) error {
	if !markup.ValidName(name) {
		return site.Refuse("%q cannot name a %s; use lower-case letters, digits and hyphens, a letter first",
			name, what)
	}
	if _, taken := s.Get(path); taken {
		return site.Refuse("there is a %s %s already; choose another name", what, name)
	}
	return nil
}
