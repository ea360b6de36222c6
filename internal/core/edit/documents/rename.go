package documents

import (
	"bytes"
	"fmt"
	"slices"
	"strings"

	"brickshelf/internal/core/edit"
	"brickshelf/internal/core/markup"
	"brickshelf/internal/core/patch"
	"brickshelf/internal/core/render"
	"brickshelf/internal/core/shelf"
	"brickshelf/internal/core/site"
)

// RenameBlock gives a block another name. Every call, rule, override, copy and
// sample follows; not one page changes.
func RenameBlock(s *shelf.Shelf, name, to string) (site.ChangeSet, error) {
	set := site.ChangeSet{Title: fmt.Sprintf("Rename %s to %s", name, to)}
	if s.Block(name) == nil {
		return set, site.Missing("there is no block %s", name)
	}
	if err := edit.FreeBlock(s, to); err != nil {
		return set, err
	}
	if err := recall(s, &set, name, to); err != nil {
		return set, err
	}
	for _, ext := range blockFiles {
		old, path := "blocks/"+name+ext, "blocks/"+to+ext
		src, ok := s.Get(old)
		if !ok {
			continue
		}
		for i := range set.Changes { // its own text may have changed with the rest
			if set.Changes[i].Path == old {
				src = set.Changes[i].After
				set.Changes = append(set.Changes[:i], set.Changes[i+1:]...)
				break
			}
		}
		set.Changes = append(set.Changes, site.Change{Path: old, Before: s.Hash(old), Delete: true},
			site.Change{Path: path, After: src})
	}
	o := s.With(set.Changes)
	for _, r := range o.Reached() {
		if r.Before == nil || r.After == nil ||
			!bytes.Equal(render.AppendPage(s, nil, r.Before), render.AppendPage(o, nil, r.After)) {
			return set, site.Refuse("%s cannot be renamed here: %s would change by it", name, r.URL())
		}
	}
	return set, nil
}

// recall makes every document that speaks of a block speak of another.
func recall(s *shelf.Shelf, set *site.ChangeSet, name, to string) error {
	for _, path := range s.Paths("") {
		src, _ := s.Get(path)
		after, err := called{name: name, to: to, addresses: true}.in(s, path, src)
		if err != nil {
			return site.Refuse("%s: %v", path, err)
		}
		if !bytes.Equal(src, after) {
			set.Changes = append(set.Changes, site.Change{Path: path, Before: s.Hash(path), After: after})
		}
	}
	return nil
}

// called gives a block another name where documents speak of it.
type called struct {
	name, to  string
	addresses bool // also the steps of addresses
	// the calls in the text; nil for all, and copies and what the head says too
	only func(*markup.Node) bool
}

func (c called) in(s *shelf.Shelf, path string, src []byte) ([]byte, error) {
	class, name, _ := site.Classify(path)
	if class == site.HistoryDoc || site.FileURL(path) != "" || !bytes.Contains(src, []byte(c.name)) {
		return src, nil
	}
	if c.only == nil && class == site.BlockDoc && needsBack(s, c.to, name) {
		var err error
		if src, err = patch.Drop(path, src, []string{"behaviour", "needs"}, c.name); err != nil {
			return nil, err
		}
	}
	var list []patch.Replacement
	split := site.Split{Head: src}
	if class == site.PageDoc || class == site.BlockDoc || class == site.LayoutDoc {
		var bad string
		if split, bad = site.Cut(src); bad != "" {
			return src, nil // nothing of it can be read
		}
		list = c.inText(markup.Parse(split.Text), split.TextAt)
	} else if class != site.RuleDoc && class != site.MenuDoc {
		return src, nil
	}
	if c.only == nil {
		head, err := c.inHead(src, split)
		if err != nil {
			return nil, err
		}
		list = append(head, list...)
	}
	return patch.Apply(src, list), nil
}

// needsBack reports whether the behaviour of a block is, or needs, that of another, which can therefore not
// need it.
func needsBack(s *shelf.Shelf, name, other string) bool {
	b := s.Block(name)
	return b != nil && (name == other || slices.ContainsFunc(s.Needed(b), func(o *shelf.Shelved) bool {
		return o.Block.Name == other
	}))
}

// inText finds the names of calls and copies in a text.
func (c called) inText(t *markup.Text, at int) []patch.Replacement {
	var out []patch.Replacement
	put := func(from int) { out = append(out, patch.Put(at+from, at+from+len(c.name), c.to)) }
	markup.Walk(t.Nodes, func(n *markup.Node) bool {
		switch {
		case n.Name != c.name || c.only != nil && !c.only(n):
		case n.Kind == markup.Call:
			put(n.NameAt)
			if n.Tail.Len() > 0 {
				put(n.Tail.From + len("@{/"))
			}
		case n.Kind == markup.Copy:
			for _, arg := range []string{"of", "call"} {
				if v, ok := n.Arg(arg); ok {
					if i := bytes.Index(t.Src[v.Span.From:v.Span.To], []byte(c.name)); i >= 0 {
						put(v.Span.From + i)
					}
				}
			}
		}
		return true
	})
	return out
}

// inHead finds a block's name in YAML: in samples, panels and the texts of
// copies, in addresses, and where a rule or copy names its block.
func (c called) inHead(src []byte, split site.Split) ([]patch.Replacement, error) {
	name, to := c.name, c.to
	shift := 0
	if split.HasHead {
		shift = bytes.Index(src, split.Head)
	}
	t, err := patch.Read(split.Head)
	if err != nil || shift < 0 {
		return nil, err
	}
	y := t.Root
	var out []patch.Replacement
	tags := func(v *site.YAML) {
		if v != nil {
			from, end := t.Extent(v.Line, v.Col)
			out = append(out, patch.Each(t.Src, from, end, name, to, isTag)...)
		}
	}
	whole := func(v *site.YAML) {
		if v != nil && v.Text == name {
			from, end := t.Extent(v.Line, v.Col)
			if i := bytes.Index(t.Src[from:end], []byte(name)); i >= 0 {
				out = append(out, patch.Put(from+i, from+i+len(name), to))
			}
		}
	}
	address := func(line, col, length int) {
		if !c.addresses {
			return
		}
		from, end := t.Extent(line, col)
		out = append(out, patch.Each(t.Src, from, min(end, from+length+2), name, to, isStep)...)
	}
	tags(y.Get("sample"))
	whole(y.Get("block"))
	if needs := y.Get("behaviour").Get("needs"); needs != nil {
		whole(needs)
		for _, it := range needs.Items {
			whole(it)
		}
	}
	for _, p := range pairs(y.Get("starts_with")) {
		tags(p.Value)
	}
	for _, p := range pairs(y.Get("overrides")) {
		address(p.Line, p.Col, len(p.Key))
	}
	for _, p := range pairs(y.Get("copies")) {
		address(p.Line, p.Col, len(p.Key))
		whole(p.Value.Get("of"))
		tags(p.Value.Get("text"))
	}
	if h := y.Get("hidden"); h != nil {
		for _, it := range append(h.Items, h) {
			if it.Kind == site.Text {
				address(it.Line, it.Col, len(it.Text))
			}
		}
	}
	var panels func(items *site.YAML)
	panels = func(items *site.YAML) {
		if items == nil {
			return
		}
		for _, it := range items.Items {
			tags(it.Get("panel"))
			panels(it.Get("items"))
		}
	}
	panels(y.Get("items"))
	return patch.Shift(out, shift), nil
}

func pairs(y *site.YAML) []site.Pair {
	if y == nil {
		return nil
	}
	return y.Pairs
}

// isTag reports whether a name stands as that of a call or of what closes it.
func isTag(before, behind string) bool {
	before, closing := strings.CutSuffix(before, "/")
	tag, ok := strings.CutSuffix(before, "@{")
	if !ok || strings.HasSuffix(tag, "@") || behind == "" {
		return false
	}
	if closing {
		return behind[0] == '}'
	}
	return strings.IndexByte(" \t\r\n/}\\", behind[0]) >= 0
}

// isStep reports whether a name stands as that of a step of an address.
func isStep(before, behind string) bool {
	return (before == "" || strings.HasSuffix(before, "/") || strings.HasSuffix(before, `"`) ||
		strings.HasSuffix(before, "'")) && strings.HasPrefix(behind, "~")
}
