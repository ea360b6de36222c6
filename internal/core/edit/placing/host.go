package placing

import (
	"fmt"
	"strings"

	"brickshelf/internal/core/block"
	"brickshelf/internal/core/edit"
	"brickshelf/internal/core/markup"
	"brickshelf/internal/core/place"
	"brickshelf/internal/core/shelf"
	"brickshelf/internal/core/site"
)

// Host puts an overlay with an id on pages, so that what leads to it there finds it: a call behind
// each page's own text, or rules for just these pages.
func Host(s *shelf.Shelf, name, id string, paths []string, byRule bool) (site.ChangeSet, error) {
	set := site.ChangeSet{Title: fmt.Sprintf("Host #%s on %d pages", id, len(paths))}
	b := s.Block(name)
	switch {
	case b == nil:
		return set, site.Missing("there is no block %q%s", name, block.Nearest(name, s.Names()))
	case !b.Overlay || b.Field("id") < 0:
		return set, site.Refuse("%s is no overlay; say so with overlay: true and a field id", name)
	case len(paths) == 0:
		return set, site.Refuse("no page leads to #%s without hosting it", id)
	}
	own := b.Fields[b.Field("id")].Default.Text != id
	if byRule {
		return hostByRules(s, set, b, id, own, paths)
	}
	call := "@{" + name
	if own {
		call += " id=" + markup.Quote(id)
	}
	for _, path := range paths {
		in := s.Info(path)
		if in == nil {
			return set, site.Missing("there is no page %s", path)
		}
		src, _ := s.Get(path)
		at := len(src)
		if m := in.Page.Fills.Of("main"); m != nil && len(m.Nodes) > 0 {
			at = in.Page.Split.TextAt + m.Nodes[len(m.Nodes)-1].Span.To
		}
		text := strings.TrimRight(string(src[:at]), "\n") + "\n" + call + " /}\n" + strings.TrimLeft(string(src[at:]), "\n")
		set.Changes = append(set.Changes, site.Change{Path: path, Before: s.Hash(path), After: []byte(text)})
	}
	if len(paths) == 1 {
		set.Title = fmt.Sprintf("Host #%s on %s", id, s.Info(paths[0]).URL)
	}
	return set, nil
}

// hostByRules writes a rule for each region in which the overlay has to stand.
func hostByRules(s *shelf.Shelf, set site.ChangeSet, b *block.Block, id string, own bool,
	paths []string) (site.ChangeSet, error) {
	in := map[string][]string{}
	var regions []string
	for _, path := range paths {
		info := s.Info(path)
		if info == nil {
			return set, site.Missing("there is no page %s", path)
		}
		region := stackOf(info.Layout)
		if region == "" {
			return set, site.Refuse("%s has no region that takes several things; host it in its own text", info.URL)
		}
		if in[region] == nil {
			regions = append(regions, region)
		}
		in[region] = append(in[region], info.URL)
	}
	for _, region := range regions {
		path := ""
		for n := 1; path == "" || s.Hash(path) != "" || edit.FreeName(s, "rule", path, ruleName(path)) != nil; n++ {
			path = fmt.Sprintf("rules/host-%s.yaml", strings.Trim(id+"-"+region, "-"))
			if n > 1 {
				path = strings.TrimSuffix(path, ".yaml") + fmt.Sprintf("-%d.yaml", n)
			}
			if n > 99 {
				return set, site.Refuse("%q cannot name a rule; host it in the pages' own texts", id)
			}
		}
		text := "block: " + b.Name + "\nregion: " + region + "\non: ["
		for i, url := range in[region] {
			if i > 0 {
				text += ", "
			}
			text += site.QuoteYAML("page:" + url)
		}
		text += "]\nat: end\n"
		if own {
			text += "set: {id: " + site.PlainYAML(id) + "}\n"
		}
		set.Changes = append(set.Changes, site.Change{Path: path, After: []byte(text)})
	}
	return set, nil
}

func ruleName(path string) string {
	return strings.TrimSuffix(strings.TrimPrefix(path, "rules/"), ".yaml")
}

// stackOf is the last region of a layout that takes several things, "" where there is none.
func stackOf(l *place.Layout) string {
	name := ""
	if l == nil {
		return ""
	}
	for _, r := range l.Regions {
		if r.Mode == place.Stack {
			name = r.Name
		}
	}
	return name
}
