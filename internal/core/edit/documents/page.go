package documents

import (
	"bytes"
	"fmt"
	"slices"
	"strings"

	"brickshelf/internal/core/edit"
	"brickshelf/internal/core/edit/outline"
	"brickshelf/internal/core/patch"
	"brickshelf/internal/core/place"
	"brickshelf/internal/core/shelf"
	"brickshelf/internal/core/site"
)

// freePage reports why there can be no page with a path, as pages/fares/day.html.
func freePage(s *shelf.Shelf, path string) error {
	class, name, bad := site.Classify(path)
	switch {
	case bad != "":
		return site.Refuse("%s: %s", path, bad)
	case class != site.PageDoc:
		return site.Refuse("%s: a page should be named pages/PATH.html", path)
	}
	url := site.URLOf(name, s.Config().ExactURLs)
	if other := s.Page(url); other != nil {
		return site.Refuse("%s is the address of %s already; choose another", url, other.Page.Path)
	}
	return nil
}

// NewPage makes a page of a layout, which begins with what the layout says that its
// pages begin with.
func NewPage(s *shelf.Shelf, path, title, layout string) (site.ChangeSet, error) {
	if err := freePage(s, path); err != nil {
		return site.ChangeSet{}, err
	}
	l := s.Layout(layout)
	if l == nil && layout != "" {
		return site.ChangeSet{}, site.Missing("there is no layout %s", layout)
	}
	if title = strings.TrimSpace(title); title == "" {
		return site.ChangeSet{}, site.Refuse("give the page a title")
	}
	var b strings.Builder
	b.WriteString("---\ntitle: " + site.PlainYAML(title) + "\n")
	if layout != "" {
		b.WriteString("layout: " + layout + "\n")
	}
	b.WriteString("---\n")
	if l != nil {
		if main := l.StartsWith["main"]; main != "" {
			b.WriteString(main + "\n")
		}
		for _, r := range l.Regions {
			if text := l.StartsWith[r.Name]; text != "" && r.Name != "main" {
				b.WriteString("@{fill " + r.Name + "}" + text + "@{/fill}\n")
			}
		}
	}
	return site.ChangeSet{Title: "New page " + title,
		Changes: []site.Change{{Path: path, After: []byte(b.String())}}}, nil
}

// DuplicatePage makes a page that is as another one, under another path.
func DuplicatePage(s *shelf.Shelf, path, to, title string) (site.ChangeSet, error) {
	in := s.Info(path)
	if in == nil {
		return site.ChangeSet{}, site.Missing("there is no page %s", path)
	}
	if err := freePage(s, to); err != nil {
		return site.ChangeSet{}, err
	}
	src, _ := s.Get(path)
	if title = strings.TrimSpace(title); title != "" && title != in.Page.Title {
		var err error
		if src, err = patch.Set(to, src, []string{"title"}, title); err != nil {
			return site.ChangeSet{}, err
		}
	}
	return site.ChangeSet{Title: "Duplicate " + in.URL, Changes: []site.Change{{Path: to, After: src}}}, nil
}

// DeletePage deletes a page. What leads there is told by the impact.
func DeletePage(s *shelf.Shelf, path string) (site.ChangeSet, error) {
	in := s.Info(path)
	switch {
	case in == nil:
		return site.ChangeSet{}, site.Missing("there is no page %s", path)
	case in.URL == s.Config().Home:
		return site.ChangeSet{}, site.Refuse("this is the home page; name another home in site.yaml first")
	}
	return site.ChangeSet{Title: "Delete the page " + in.URL,
		Changes: []site.Change{{Path: path, Before: s.Hash(path), Delete: true}}}, nil
}

// SetLayout gives a page another layout. to names, for each region that the page fills
// and the new layout lacks, the region into which its content goes; for one that is not
// named the content stays as it is, and shows again where the layout has the region.
func SetLayout(s *shelf.Shelf, path, layout string, to map[string]string) (site.ChangeSet, error) {
	in, l := s.Info(path), s.Layout(layout)
	switch {
	case in == nil:
		return site.ChangeSet{}, site.Missing("there is no page %s", path)
	case l == nil:
		return site.ChangeSet{}, site.Missing("there is no layout %s", layout)
	}
	src, _ := s.Get(path)
	out, err := patch.Set(path, src, []string{"layout"}, layout)
	if err != nil {
		return site.ChangeSet{}, err
	}
	for _, region := range in.Homeless(l) {
		into := to[region]
		if into == "" {
			continue
		}
		if l.Region(into) == nil {
			return site.ChangeSet{}, site.Refuse("the layout %s has no region %s", layout, into)
		}
		for {
			p, more := firstIn(out, region)
			if !more {
				break
			}
			if out, err = outline.Move(path, out, p.From, into, -1); err != nil {
				return site.ChangeSet{}, err
			}
		}
	}
	if bytes.Equal(out, src) {
		return site.ChangeSet{}, site.Refuse("%s has the layout %s already", in.URL, layout)
	}
	return site.ChangeSet{Title: fmt.Sprintf("Give %s the layout %s", in.URL, layout),
		Changes: []site.Change{{Path: path, Before: s.Hash(path), After: out}}}, nil
}

func firstIn(src []byte, region string) (outline.Part, bool) {
	for _, p := range outline.Of(src) {
		if p.Region == region && !p.Within {
			return p, true
		}
	}
	return outline.Part{}, false
}

// NewLayout makes a layout: of the text of another one, or where from is "" a plain
// page with one region.
func NewLayout(s *shelf.Shelf, name, title, from string) (site.ChangeSet, error) {
	path := "layouts/" + name + ".html"
	if err := edit.FreeName(s, "layout", path, name); err != nil {
		return site.ChangeSet{}, err
	}
	if title = strings.TrimSpace(title); title == "" {
		title = edit.Titled(name)
	}
	text := []byte("---\ntitle: " + site.PlainYAML(title) +
		"\nregions:\n  main: {mode: stack}\n---\n<!doctype html>\n<html lang=\"en\">\n<head>\n<meta charset=\"utf-8\">\n<title>@{=page.title}</title>\n@{assets /}\n</head>\n<body>\n<main>@{region main /}</main>\n</body>\n</html>\n")
	if from != "" {
		src, ok := s.Get("layouts/" + from + ".html")
		if !ok {
			return site.ChangeSet{}, site.Missing("there is no layout %s", from)
		}
		var err error
		if text, err = patch.Set(path, src, []string{"title"}, title); err != nil {
			return site.ChangeSet{}, err
		}
	}
	return site.ChangeSet{Title: "New layout " + title, Changes: []site.Change{{Path: path, After: text}}},
		nil
}

// DeleteLayout deletes a layout. Pages that have it get another one, to, and rules that
// named it name those pages, so that no other page takes what they place; without to it
// is refused while a page or rule speaks of it.
func DeleteLayout(s *shelf.Shelf, name, to string) (site.ChangeSet, error) {
	path := "layouts/" + name + ".html"
	set := site.ChangeSet{Title: "Delete the layout " + name}
	if s.Layout(name) == nil {
		return set, site.Missing("there is no layout %s", name)
	}
	if to == name || to != "" && s.Layout(to) == nil {
		return set, site.Refuse("name another layout for the pages; there is no other layout %q", to)
	}
	n := 0
	var pages []string // what rules that named the layout name from then on
	for _, p := range s.PagePaths() {
		if s.Info(p).Page.Layout != name {
			continue
		}
		n++
		pages = append(pages, place.Target{Kind: place.OnePage, Arg: s.Info(p).URL}.String())
		if to != "" {
			one, err := SetLayout(s, p, to, nil)
			if err != nil {
				return set, err
			}
			set.Changes = append(set.Changes, one.Changes...)
		}
	}
	for _, r := range s.Rules() {
		if !speaksOfLayout(r, name) {
			continue
		}
		if n++; to == "" {
			continue
		}
		src, _ := s.Get(r.Path)
		src, err := withoutLayout(r, src, name, to, pages)
		if err != nil {
			return set, err
		}
		set.Changes = append(set.Changes, site.Change{Path: r.Path, Before: s.Hash(r.Path), After: src})
	}
	if n > 0 && to == "" {
		return set, site.Refuse("%d pages and rules have the layout %s; name another one for them", n, name)
	}
	set.Changes = append(set.Changes, site.Change{Path: path, Before: s.Hash(path), Delete: true})
	return set, nil
}

func speaksOfLayout(r *place.Rule, name string) bool {
	for _, t := range append(append([]place.Target{}, r.On...), r.Except...) {
		if t.Kind == place.ByLayout && t.Arg == name {
			return true
		}
	}
	return false
}

// withoutLayout is the text of a rule whose targets name pages in place of a layout that goes.
func withoutLayout(r *place.Rule, src []byte, name, to string, pages []string) ([]byte, error) {
	for key, list := range map[string][]place.Target{"on": r.On, "except": r.Except} {
		var targets []string
		for _, t := range list {
			with := []string{t.String()}
			if t.Kind == place.ByLayout && t.Arg == name {
				if with = pages; len(list) == 1 && len(pages) == 0 {
					with = []string{"layout:" + to} // a rule has to name something
				}
			}
			for _, t := range with {
				if !slices.Contains(targets, t) {
					targets = append(targets, t)
				}
			}
		}
		if len(list) == 0 {
			continue
		}
		var err error
		if src, err = patch.Set(r.Path, src, []string{key}, targets); err != nil {
			return nil, err
		}
	}
	return src, nil
}
