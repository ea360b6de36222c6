package documents

import (
	"bytes"
	"strings"

	"brickshelf/internal/core/patch"
	"brickshelf/internal/core/shelf"
	"brickshelf/internal/core/site"
)

// MoveFile gives a file another path, and so another address. What names it follows: in pages,
// blocks, styles, behaviours, scripts, menus and rules.
func MoveFile(s *shelf.Shelf, path, to string) (site.ChangeSet, error) {
	set := site.ChangeSet{Title: "Move " + path + " to " + to}
	src, there := s.Get(path)
	old, url := site.FileURL(path), site.FileURL(to)
	_, _, bad := site.Classify(to)
	switch {
	case !there || old == "":
		return set, site.Missing("there is no file %s", path)
	case bad != "":
		return set, site.Refuse("%s: %s", to, bad)
	case url == "":
		return set, site.Refuse("%s: a file stands in assets/ or files/", to)
	case to == path:
		return set, site.Refuse("the file stands there already")
	case s.Hash(to) != "":
		return set, site.Refuse("there is a file %s already; choose another name, or delete that first", to)
	}
	for _, p := range s.Paths("") {
		text, _ := s.Get(p)
		list, err := naming(s, p, text, old, url)
		if err != nil {
			return set, err
		}
		if len(list) > 0 {
			set.Changes = append(set.Changes, site.Change{Path: p, Before: s.Hash(p),
				After: patch.Apply(text, list)})
		}
	}
	set.Changes = append(set.Changes, site.Change{Path: path, Before: s.Hash(path), Delete: true},
		site.Change{Path: to, After: src})
	return set, nil
}

// naming finds where a document names the address of a file.
func naming(s *shelf.Shelf, p string, src []byte, old, url string) ([]patch.Replacement, error) {
	class, _, _ := site.Classify(p)
	switch class {
	case site.StyleDoc, site.BehaviourDoc, site.ShortcodeDoc:
		return patch.Each(src, 0, len(src), old, url, func(before, after string) bool {
			before = strings.TrimSuffix(before, "..") // a style is published one folder down
			return isQuoted(before, after) || strings.HasSuffix(before, "url(") &&
				strings.IndexByte(")#?", (after + " ")[0]) >= 0
		}), nil
	}
	list, err := readdressed(p, src, old, url)
	if err != nil {
		return nil, err
	}
	if at := s.Info(p); at != nil {
		list = append(list, relative(src, at.URL, old, url)...)
	}
	return list, nil
}

// Names reports whether a document names the address of a file.
func Names(s *shelf.Shelf, doc, path string) bool {
	src, _ := s.Get(doc)
	url := site.FileURL(path)
	list, err := naming(s, doc, src, url, url+"-")
	return err == nil && len(list) > 0
}

// Naming lists the documents that name the address of a file.
func Naming(s *shelf.Shelf, path string) []string {
	var out []string
	old := site.FileURL(path)
	last := []byte(old[strings.LastIndexByte(old, '/')+1:])
	for _, p := range s.Paths("") {
		src, _ := s.Get(p)
		if !bytes.Contains(src, last) {
			continue
		}
		if Names(s, p, path) {
			out = append(out, p)
		}
	}
	return out
}

// DeleteFile takes a file away.
func DeleteFile(s *shelf.Shelf, path string) (site.ChangeSet, error) {
	if s.Hash(path) == "" || site.FileURL(path) == "" {
		return site.ChangeSet{}, site.Missing("there is no file %s", path)
	}
	return site.ChangeSet{Title: "Delete " + path,
		Changes: []site.Change{{Path: path, Before: s.Hash(path), Delete: true}}}, nil
}
