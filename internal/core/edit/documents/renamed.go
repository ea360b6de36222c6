package documents

import (
	"fmt"
	"slices"
	"strings"

	"brickshelf/internal/core/edit"
	"brickshelf/internal/core/markup"
	"brickshelf/internal/core/patch"
	"brickshelf/internal/core/shelf"
	"brickshelf/internal/core/site"
)

// RenameShortcode gives a scripted shortcode another name. Every call follows.
func RenameShortcode(s *shelf.Shelf, name, to string) (site.ChangeSet, error) {
	set := site.ChangeSet{Title: fmt.Sprintf("Rename %s to %s", name, to)}
	if s.Script(name) == nil {
		return set, site.Missing("there is no shortcode %s", name)
	}
	if err := edit.FreeBlock(s, to); err != nil {
		return set, err
	}
	path := "shortcodes/" + name + ".js"
	src, _ := s.Get(path)
	text := src
	if _, head, end := strings.Cut(string(src), "*/"); end { // its sample stands in its comment
		list := patch.Each(src, 0, len(src)-len(head), name, to, isTag)
		text = patch.Apply(src, list)
	}
	err := recall(s, &set, name, to)
	set.Changes = append(set.Changes, site.Change{Path: path, Before: s.Hash(path), Delete: true},
		site.Change{Path: "shortcodes/" + to + ".js", After: text})
	return set, err
}

// RenameLayout gives a layout another name. The pages that it frames and the rules that take
// them follow.
func RenameLayout(s *shelf.Shelf, name, to string) (site.ChangeSet, error) {
	set := site.ChangeSet{Title: fmt.Sprintf("Rename the layout %s to %s", name, to)}
	if s.Layout(name) == nil {
		return set, site.Missing("there is no layout %s", name)
	}
	path, next := "layouts/"+name+".html", "layouts/"+to+".html"
	if err := edit.FreeName(s, "layout", next, to); err != nil {
		return set, err
	}
	d := &edit.Texts{Shelf: s}
	for _, p := range s.PagePaths() {
		if s.Info(p).Page.Layout != name {
			continue
		}
		src, err := patch.Set(p, d.Get(p), []string{"layout"}, to)
		if err != nil {
			return set, err
		}
		d.Put(p, src)
	}
	for _, r := range s.Rules() {
		for _, key := range []string{"on", "except"} {
			if !slices.Contains(texts(s, r.Path, key), "layout:"+name) {
				continue
			}
			src, err := patch.Exchange(r.Path, d.Get(r.Path), []string{key}, "layout:"+name, "layout:"+to)
			if err != nil {
				return set, err
			}
			d.Put(r.Path, src)
		}
	}
	return moved(s, set, d, path, next), nil
}

// texts are the entries of a list of a document's YAML, as they are written.
func texts(s *shelf.Shelf, path, key string) []string {
	src, _ := s.Get(path)
	y, problem := site.ParseYAML(src, path, 1)
	if problem != nil || y.Get(key) == nil {
		return nil
	}
	var out []string
	for _, it := range append(y.Get(key).Items, y.Get(key)) {
		out = append(out, it.Text)
	}
	return out
}

// RenameRule gives a rule another name. What pages say of what it places follows.
func RenameRule(s *shelf.Shelf, name, to string) (site.ChangeSet, error) {
	set := site.ChangeSet{Title: fmt.Sprintf("Rename the rule %s to %s", name, to)}
	if s.Rule(name) == nil {
		return set, site.Missing("there is no rule %s", name)
	}
	path, next := "rules/"+name+".yaml", "rules/"+to+".yaml"
	if err := edit.FreeName(s, "rule", next, to); err != nil {
		return set, err
	}
	d := &edit.Texts{Shelf: s}
	step := "/rule:" + name
	for _, p := range s.PagePaths() {
		src := d.Get(p)
		split, _ := site.Cut(src)
		d.Put(p, patch.Apply(src, patch.Each(src, 0, split.TextAt, step, "/rule:"+to, func(_, behind string) bool {
			return behind == "" || !markup.ValidName("a"+behind[:1])
		})))
	}
	return moved(s, set, d, path, next), nil
}

// moved ends a set of edits with a document that takes another path.
func moved(s *shelf.Shelf, set site.ChangeSet, d *edit.Texts, path, to string) site.ChangeSet {
	set.Changes = append(d.Changes(), site.Change{Path: path, Before: s.Hash(path), Delete: true},
		site.Change{Path: to, After: d.Get(path)})
	return set
}
