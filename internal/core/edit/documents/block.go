// Package documents makes, duplicates, renames, moves and deletes blocks, pages, layouts and
// menus, and keeps what speaks of them right.
package documents

import (
	"fmt"
	"slices"
	"strings"

	"brickshelf/internal/core/block"
	"brickshelf/internal/core/edit"
	"brickshelf/internal/core/edit/copies"
	"brickshelf/internal/core/edit/values"
	"brickshelf/internal/core/markup"
	"brickshelf/internal/core/patch"
	"brickshelf/internal/core/render"
	"brickshelf/internal/core/shelf"
	"brickshelf/internal/core/site"
)

// NewBlock puts a block on the shelf: its front matter and an element to begin
// with.
func NewBlock(s *shelf.Shelf, name, title, category string) (site.ChangeSet, error) {
	if err := edit.FreeBlock(s, name); err != nil {
		return site.ChangeSet{}, err
	}
	if title = strings.TrimSpace(title); title == "" {
		title = edit.Titled(name)
	}
	head := "---\ntitle: " + site.PlainYAML(title) + "\n"
	if category = strings.TrimSpace(category); category != "" {
		head += "category: " + site.PlainYAML(category) + "\n"
	}
	text := head + "fields:\n  text: {type: text, label: Text, default: " + site.PlainYAML(title) +
		"}\n---\n<div class=\"" + name + "\">@{=text}</div>\n"
	return site.ChangeSet{Title: "New block " + title,
		Changes: []site.Change{{Path: "blocks/" + name + ".html", After: []byte(text)}}}, nil
}

var blockFiles = []string{".html", ".css", ".js"}

// DuplicateBlock puts a copy of a block on the shelf under another name, with its
// style and behaviour.
func DuplicateBlock(s *shelf.Shelf, name, to string) (site.ChangeSet, error) {
	b := s.Block(name)
	if b == nil {
		return site.ChangeSet{}, site.Missing("there is no block %s", name)
	}
	if err := edit.FreeBlock(s, to); err != nil {
		return site.ChangeSet{}, err
	}
	set := site.ChangeSet{Title: fmt.Sprintf("Duplicate %s as %s", name, to)}
	for _, ext := range blockFiles {
		if src, ok := s.Get("blocks/" + name + ext); ok {
			set.Changes = append(set.Changes, site.Change{Path: "blocks/" + to + ext, After: src})
		}
	}
	if sample := sampleOf(b); sample != nil { // it calls the block, by its name
		src, err := patch.Set(set.Changes[0].Path, set.Changes[0].After, []string{"sample"},
			renamedCalls(sample.Text, name, to))
		if err != nil {
			return set, err
		}
		set.Changes[0].After = src
		if b, _ = block.Parse(to, set.Changes[0].Path, src, block.NewReader()); b == nil {
			return set, site.Refuse("the block %s cannot be read", name)
		}
	}
	if titleOf(b) != nil {
		src, err := patch.Set(set.Changes[0].Path, set.Changes[0].After, []string{"title"}, edit.Titled(to))
		if err != nil {
			return set, err
		}
		set.Changes[0].After = src
	}
	return set, nil
}

func sampleOf(b *block.Block) *site.YAML {
	y, problem := site.ParseYAML(b.Split.Head, "", 1)
	if problem != nil {
		return nil
	}
	return y.Get("sample")
}

// renamedCalls gives the calls of a block in a text another name.
func renamedCalls(text, name, to string) string {
	var patches []patch.Replacement
	t := markup.Parse([]byte(text))
	markup.Walk(t.Nodes, func(n *markup.Node) bool {
		if n.Kind == markup.Call && n.Name == name {
			patches = append(patches, patch.Put(n.NameAt, n.NameAt+len(name), to))
			if n.Tail.Len() > 0 {
				at := n.Tail.From + len("@{/")
				patches = append(patches, patch.Put(at, at+len(name), to))
			}
		}
		return true
	})
	return string(patch.Apply([]byte(text), patches))
}

func titleOf(b *block.Block) *site.YAML {
	y, problem := site.ParseYAML(b.Split.Head, "", 1)
	if problem != nil {
		return nil
	}
	return y.Get("title")
}

// Replacement says what takes the place of a block that is deleted.
type Replacement string

// A deleted block leaves nothing behind, which is refused where it is used; or a
// one-off copy in every spot; or its content, as the plain text of a page where
// that shows the same; or another block is called in its place.
const (
	WithNothing Replacement = "nothing"
	WithCopies  Replacement = "copies"
	WithContent Replacement = "content"
	WithAnother Replacement = "another"
)

// DeleteBlock takes a block off the shelf. Where another is put in its place, fields tells where
// its values go, as in an Exchange, and the mentions are those that have no place there.
func DeleteBlock(s *shelf.Shelf, name string, with Replacement, another string,
	fields map[string]string) (site.ChangeSet, []values.Mention, error) {
	set := site.ChangeSet{Title: "Delete " + name}
	if s.Block(name) == nil {
		return set, nil, site.Missing("there is no block %s", name)
	}
	var err error
	var lost []values.Mention
	if by := neededBy(s, name); by != "" && with != WithAnother {
		return set, nil, site.Refuse("the behaviour of %s needs that of %s; take it out of needs there first", by, name)
	}
	switch with {
	case WithNothing:
		if s.Used(name) {
			err = site.Refuse("%s is used on %d pages; leave a copy in every spot, or put another block there", name, len(s.Users(name)))
		}
	case WithCopies:
		set.Title += ", leaving copies"
		err = leaveCopies(s, &set, name)
	case WithContent:
		set.Title += ", leaving its content"
		if err = leaveCopies(s, &set, name); err == nil {
			copies.Unwrap(s, &set, name)
		}
	case WithAnother:
		var put site.ChangeSet
		put, lost, err = Replace(s, Exchange{From: name, To: another, Fields: fields})
		set.Title += ", putting " + another + " there"
		set.Changes = put.Changes
	default:
		err = site.Refuse("%q is no way to delete a block", with)
	}
	if err != nil {
		return set, nil, err
	}
	for _, ext := range blockFiles {
		path := "blocks/" + name + ext
		if h := s.Hash(path); h != "" {
			set.Changes = append(without(set.Changes, path), site.Change{Path: path, Before: h, Delete: true})
		}
	}
	return set, lost, nil
}

// neededBy is the first block whose behaviour needs that of another, "" where none does.
func neededBy(s *shelf.Shelf, name string) string {
	for _, n := range s.Names() {
		if b := s.Block(n); b != nil && n != name && slices.Contains(b.Behaviour.Needs, name) {
			return n
		}
	}
	return ""
}

func without(list []site.Change, path string) []site.Change {
	out := list[:0]
	for _, c := range list {
		if c.Path != path {
			out = append(out, c)
		}
	}
	return out
}

// leaveCopies detaches a block wherever it stands.
func leaveCopies(s *shelf.Shelf, set *site.ChangeSet, name string) error {
	kept := map[string]bool{}
	for _, path := range s.Users(name) {
		var page *site.Change
		for now := s; ; now = s.With([]site.Change{*page}) {
			at := ""
			for _, p := range render.Placements(now, path) {
				if p.Block == name && p.Kind == render.Linked {
					at = p.Address
					break
				}
			}
			if at == "" {
				break
			}
			one, err := copies.Detach(now, path, at)
			if err != nil {
				return err
			}
			for i := range one.Changes {
				c := one.Changes[i]
				if c.Path == path {
					c.Before = s.Hash(path)
					page = &c
				} else if !kept[c.Path] {
					kept[c.Path] = true
					set.Changes = append(set.Changes, c)
				}
			}
		}
		if page != nil {
			set.Changes = append(set.Changes, *page)
		}
	}
	return nil
}
