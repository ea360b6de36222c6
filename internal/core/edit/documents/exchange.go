package documents

import (
	"strings"

	"brickshelf/internal/core/edit"
	"brickshelf/internal/core/edit/outline"
	"brickshelf/internal/core/markup"
	"brickshelf/internal/core/patch"
	"brickshelf/internal/core/place"
	"brickshelf/internal/core/site"
)

// rename makes a document call the other block. What is said of the addresses in it goes on
// being said of what stands there: calls are given their steps as keys for that.
func (r *replacer) rename(d *edit.Texts, path string) error {
	src := d.Get(path)
	class, _, _ := site.Classify(path)
	c := called{name: r.From, to: r.To}
	switch {
	case r.sources == nil:
	case class == site.RuleDoc:
		if !r.sources[source{path: path}] {
			return nil
		}
		after, err := patch.Set(path, src, []string{"block"}, r.To)
		if err == nil {
			d.Put(path, after)
		}
		return err
	case class == site.PageDoc, class == site.BlockDoc, class == site.LayoutDoc:
		c.only = func(n *markup.Node) bool { return r.takes(path, n) }
	case class == site.MenuDoc:
		return r.renameInPanels(d, path)
	default:
		return nil
	}
	after, err := c.in(r.s, path, src)
	if err == nil && r.sources != nil && class == site.PageDoc {
		after, err = r.renameInCopies(path, after)
	}
	if err != nil {
		return site.Refuse("%s: %v", path, err)
	}
	if string(after) == string(src) {
		return nil
	}
	speaks := outline.Speaks(r.s, path, src)
	switch class {
	case site.PageDoc:
		after = keyed(speaks, src, after)
		if c.only == nil {
			after, err = r.keyedCopies(path, src, after)
		}
	case site.BlockDoc, site.LayoutDoc:
		after = keyed(speaks, src, after)
	case site.MenuDoc:
		after, err = keyedPanels(speaks, src, after)
	}
	if err != nil {
		return site.Refuse("%s: %v", path, err)
	}
	d.Put(path, after)
	return nil
}

// renameInPanels makes the chosen calls in the panels of a menu call the other block.
func (r *replacer) renameInPanels(d *edit.Texts, path string) error {
	src := d.Get(path)
	was, _ := r.s.Get(path)
	before, err := patch.MenuItems(was)
	if err != nil {
		return site.Refuse("%s: %v", path, err)
	}
	items, err := patch.MenuItems(src) // in which values may have been carried
	if err != nil {
		return site.Refuse("%s: %v", path, err)
	}
	changed := false
	var walk func(was, is []patch.MenuItem)
	walk = func(was, is []patch.MenuItem) {
		for i := range is {
			text := r.renamed(is[i].Panel, func(step string) bool {
				return r.sources[source{path: path, step: step, panel: was[i].Panel}]
			}, outline.Speaks(r.s, path, src))
			changed = changed || text != is[i].Panel
			is[i].Panel = text
			walk(was[i].Items, is[i].Items)
		}
	}
	if walk(before, items); !changed {
		return nil
	}
	after, err := patch.SetMenu(src, items)
	if err == nil {
		d.Put(path, after)
	}
	return err
}

// renameInCopies does the same in the copies in a page's front matter.
func (r *replacer) renameInCopies(path string, src []byte) ([]byte, error) {
	name := strings.TrimSuffix(strings.TrimPrefix(path, "pages/"), ".html")
	g, _ := place.ParsePage(name, path, "", src)
	for _, address := range edit.SortedKeys(g.Copies) {
		was := string(g.Copies[address].Text.Src)
		is := r.renamed(was, func(step string) bool {
			return r.sources[source{path: path, step: address + "/" + step}]
		}, func(_, step string) bool { return strings.Contains(string(src), address+"/"+step) })
		if is == was {
			continue
		}
		var err error
		if src, err = patch.Set(path, src, []string{"copies", address, "text"}, is); err != nil {
			return nil, err
		}
	}
	return src, nil
}

// renamed is a text in which the calls with some steps are of the other block, with their steps as
// keys where something is said of them.
func (r *replacer) renamed(text string, takes func(step string) bool,
	speaks func(container, step string) bool) string {
	src := []byte(text)
	c := called{name: r.From, to: r.To, only: func(n *markup.Node) bool {
		return n.Kind == markup.Call && takes(n.Step)
	}}
	list := c.inText(markup.Parse(src), 0)
	if len(list) == 0 {
		return text
	}
	return string(keyed(speaks, src, patch.Apply(src, list)))
}

// keyed gives calls of a text their steps in another as keys, where something is said of them.
// The calls of both are the same, in the same order.
func keyed(speaks func(container, step string) bool, src, after []byte) []byte {
	was, wasAt := outline.Steps(src)
	is, isAt := outline.Steps(after)
	moved := map[int]int{}
	for i, n := range was {
		moved[wasAt+n.Span.From] = isAt + is[i].Span.From
	}
	out, _ := outline.StableKeys(speaks, src, after, func(at int) int {
		if to, ok := moved[at]; ok {
			return to
		}
		return -1
	})
	return out
}

// keyedPanels is keyed for the panels of a menu.
func keyedPanels(speaks func(container, step string) bool, src, after []byte) ([]byte, error) {
	was, err := patch.MenuItems(src)
	if err != nil {
		return nil, err
	}
	is, err := patch.MenuItems(after)
	if err != nil {
		return nil, err
	}
	changed := false
	var walk func(was, is []patch.MenuItem)
	walk = func(was, is []patch.MenuItem) {
		for i := range is {
			if text := string(keyed(speaks, []byte(was[i].Panel), []byte(is[i].Panel))); text != is[i].Panel {
				is[i].Panel, changed = text, true
			}
			walk(was[i].Items, is[i].Items)
		}
	}
	if walk(was, is); !changed {
		return after, nil
	}
	return patch.SetMenu(after, is)
}

// keyedCopies is keyed for the texts of the copies in a page's front matter.
func (r *replacer) keyedCopies(path string, src, after []byte) ([]byte, error) {
	g := r.s.Info(path).Page
	for _, address := range edit.SortedKeys(g.Copies) {
		was := g.Copies[address].Text.Src
		is := called{name: r.From, to: r.To}.inText(markup.Parse(was), 0)
		renamed := patch.Apply(was, is)
		speaks := func(_, step string) bool {
			return strings.Contains(string(src), address+"/"+step)
		}
		text := keyed(speaks, was, renamed)
		if string(text) == string(renamed) {
			continue
		}
		var err error
		if after, err = patch.Set(path, after, []string{"copies", address, "text"}, string(text)); err != nil {
			return nil, err
		}
	}
	return after, nil
}
