package documents

import (
	"bytes"
	"fmt"
	"html"
	"strings"

	"brickshelf/internal/core/edit/outline"
	"brickshelf/internal/core/patch"
	"brickshelf/internal/core/refer"
	"brickshelf/internal/core/shelf"
	"brickshelf/internal/core/site"
)

// MovePage gives a page another path, and so another address. Every link, argument,
// field, menu item and rule that names the page follows. Where redirect is set, a
// small page stays behind that leads on. to is a path such as pages/fares/day.html.
func MovePage(s *shelf.Shelf, path, to string, redirect bool) (site.ChangeSet, error) {
	set := site.ChangeSet{}
	in := s.Info(path)
	if in == nil {
		return set, site.Missing("there is no page %s", path)
	}
	class, name, bad := site.Classify(to)
	switch {
	case bad != "":
		return set, site.Refuse("%s: %s", to, bad)
	case class != site.PageDoc:
		return set, site.Refuse("%s: a page should be named pages/PATH.html", to)
	case in.URL == s.Config().Home:
		return set, site.Refuse("this is the home page; name another home in site.yaml first")
	case to == path:
		return set, site.Refuse("the page stands there already")
	}
	url := site.URLOf(name, s.Config().ExactURLs)
	if other := s.Page(url); other != nil {
		return set, site.Refuse("%s is the address of %s already; choose another, or move that page first",
			url, other.Page.Path)
	}
	set.Title = fmt.Sprintf("Move %s to %s", in.URL, url)
	own, _ := s.Get(path)
	for _, p := range s.Paths("") {
		src, _ := s.Get(p)
		list, err := readdressed(p, src, in.URL, url)
		if err != nil {
			return set, err
		}
		if at := s.Info(p); at != nil {
			list = append(list, relative(src, at.URL, in.URL, url)...)
		}
		if after := patch.Apply(src, list); p == path {
			own = after
		} else if len(list) > 0 {
			set.Changes = append(set.Changes, site.Change{Path: p, Before: s.Hash(p), After: after})
		}
	}
	left := site.Change{Path: path, Before: s.Hash(path), Delete: true}
	if redirect {
		name, at := html.EscapeString(in.Page.Title), html.EscapeString(url)
		text := fmt.Sprintf("<!doctype html><meta charset=\"utf-8\"><title>%s</title><meta http-equiv=\"refresh\" content=\"0; url=%s\"><link rel=\"canonical\" href=\"%s\"><a href=\"%s\">%s</a>\n", name, at, at, at, name)
		left.Delete, left.After = false, []byte("---\ntitle: "+site.PlainYAML(in.Page.Title)+"\nredirect: "+
			site.PlainYAML(url)+"\n---\n"+strings.ReplaceAll(text, "@{", "@@{"))
	}
	set.Changes = append(set.Changes, left, site.Change{Path: to, After: own})
	return set, nil
}

// relative finds the references of a page's own text that are written relative to
// its address, and that a move from old to url would lead astray: those to old, and
// all of the page that stands there. They are written from the site's root.
func relative(src []byte, address, old, url string) []patch.Replacement {
	split, bad := site.Cut(src)
	if bad != "" {
		return nil
	}
	text := outline.Masked(src)[split.TextAt:]
	var out []patch.Replacement
	for _, r := range refer.Scan(text, address).Refs {
		if r.Kind == refer.ToElement || strings.HasPrefix(r.Written, "/") || address != old && r.To != old {
			continue
		}
		to := r.To
		if to == old {
			to = url
		}
		if i := strings.IndexAny(r.Written, "?#"); i >= 0 {
			to += r.Written[i:]
		}
		tag := src[split.TextAt+r.At:]
		if i := bytes.Index(tag, []byte(r.Written)); i > 0 &&
			isQuoted(string(tag[:i]), string(tag[i+len(r.Written):])) {
			from := split.TextAt + r.At + i
			out = append(out, patch.Put(from, from+len(r.Written), to))
		}
	}
	return out
}

// readdressed finds where a document names an address: in quotes, as attributes and
// arguments have it, and as values of its YAML.
func readdressed(path string, src []byte, old, url string) ([]patch.Replacement, error) {
	class, _, _ := site.Classify(path)
	if class == site.HistoryDoc || site.FileURL(path) != "" || class == site.StyleDoc ||
		class == site.BehaviourDoc || class == site.ShortcodeDoc || !bytes.Contains(src, []byte(old)) {
		return nil, nil
	}
	if class == site.RuleDoc || class == site.MenuDoc || class == site.ConfigDoc {
		list, err := yamlAddresses(src, old, url)
		return list, err
	}
	split, _ := site.Cut(src)
	list := patch.Each(src, split.TextAt, len(src), old, url, func(before, after string) bool {
		// of a meta element that leads on
		return isQuoted(before, after) || strings.HasSuffix(before, "; url=") && strings.HasPrefix(after, `"`)
	})
	if !split.HasHead {
		return list, nil
	}
	head, err := yamlAddresses(split.Head, old, url)
	shift := bytes.Index(src, split.Head)
	return append(list, patch.Shift(head, shift)...), err
}

func yamlAddresses(src []byte, old, url string) ([]patch.Replacement, error) {
	t, err := patch.Read(src)
	if err != nil {
		return nil, err
	}
	var out []patch.Replacement
	var walk func(*site.YAML)
	walk = func(n *site.YAML) {
		for _, p := range n.Pairs {
			walk(p.Value)
		}
		for _, it := range n.Items {
			walk(it)
		}
		if n.Kind != site.Text || !strings.Contains(n.Text, old) {
			return
		}
		from, to := t.Extent(n.Line, n.Col)
		bare := strings.TrimPrefix(n.Text, "page:")
		if rest, ok := strings.CutPrefix(bare, old); ok && (rest == "" || rest[0] == '#' || rest[0] == '?') {
			if i := bytes.Index(src[from:to], []byte(old)); i >= 0 {
				out = append(out, patch.Put(from+i, from+i+len(old), url))
			}
			return
		}
		out = append(out, patch.Each(src, from, to, old, url, isQuoted)...)
	}
	walk(t.Root)
	return out, nil
}

// isQuoted reports whether an address stands in quotes, up to its query or
// fragment.
func isQuoted(before, behind string) bool {
	if before == "" || behind == "" {
		return false
	}
	q := before[len(before)-1]
	return (q == '"' || q == '\'') && strings.IndexByte("\"'#?\\", behind[0]) >= 0
}
