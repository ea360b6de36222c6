package edit

import (
	"bytes"
	"fmt"
	"strings"

	"brickshelf/internal/core/block"
	"brickshelf/internal/core/markup"
	"brickshelf/internal/core/render"
	"brickshelf/internal/core/site"
)

// NewBlock puts a block on the shelf: its front matter and an element to begin
// with.
func NewBlock(s *render.Shelf, name, title, category string) (site.ChangeSet, error) {
	if err := free(s, name); err != nil {
		return site.ChangeSet{}, err
	}
	if title = strings.TrimSpace(title); title == "" {
		title = titled(name)
	}
	head := "---\ntitle: " + site.PlainYAML(title) + "\n"
	if category = strings.TrimSpace(category); category != "" {
		head += "category: " + site.PlainYAML(category) + "\n"
	}
	text := head + "fields:\n  text: {type: text, label: Text, default: " + site.PlainYAML(title) + "}\n---\n<div class=\"" + name + "\">@{=text}</div>\n"
	return site.ChangeSet{Title: "New block " + title, Changes: []site.Change{{Path: "blocks/" + name + ".html", After: []byte(text)}}}, nil
}

// titled makes a title of a name: port-card gives Port card.
func titled(name string) string {
	t := strings.ReplaceAll(name, "-", " ")
	return strings.ToUpper(t[:1]) + t[1:]
}

// free reports why a block cannot have a name.
func free(s *render.Shelf, name string) error {
	switch {
	case markup.IsReserved(name):
		return refuse("%s is part of the language; choose another name", name)
	case !markup.ValidName(name):
		return refuse("%q cannot name a block; use lower-case letters, digits and hyphens, a letter first", name)
	}
	if _, taken := s.Signature(name); taken {
		return refuse("there is a block or shortcode %s already; choose another name", name)
	}
	return nil
}

var blockFiles = []string{".html", ".css", ".js"}

// DuplicateBlock puts a copy of a block on the shelf under another name, with its
// style and behaviour.
func DuplicateBlock(s *render.Shelf, name, to string) (site.ChangeSet, error) {
	b := s.Block(name)
	if b == nil {
		return site.ChangeSet{}, refuse("there is no block %s", name)
	}
	if err := free(s, to); err != nil {
		return site.ChangeSet{}, err
	}
	set := site.ChangeSet{Title: fmt.Sprintf("Duplicate %s as %s", name, to)}
	for _, ext := range blockFiles {
		if src, ok := s.Get("blocks/" + name + ext); ok {
			set.Changes = append(set.Changes, site.Change{Path: "blocks/" + to + ext, After: src})
		}
	}
	if y := titleOf(b); y != nil {
		t, _, err := readYAML(b.Split.Head)
		if err != nil {
			return set, err
		}
		src := set.Changes[0].After
		shift := bytes.Index(src, b.Split.Head)
		from, _ := t.extent(y.Line, y.Col)
		if end := scalarEnd(string(b.Split.Head), from, false); end > from && shift >= 0 {
			set.Changes[0].After = patched(src, []patch{{shift + from, shift + end, site.PlainYAML(titled(to))}})
		}
	}
	return set, nil
}

func titleOf(b *block.Block) *site.YAML {
	y, problem := site.ParseYAML(b.Split.Head, "", 1)
	if problem != nil {
		return nil
	}
	return y.Get("title")
}

// RenameBlock gives a block another name. Every call, rule, override, copy and
// sample follows; not one page changes.
func RenameBlock(s *render.Shelf, name, to string) (site.ChangeSet, error) {
	set := site.ChangeSet{Title: fmt.Sprintf("Rename %s to %s", name, to)}
	if s.Block(name) == nil {
		return set, refuse("there is no block %s", name)
	}
	if err := free(s, to); err != nil {
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
		set.Changes = append(set.Changes, site.Change{Path: old, Before: s.Hash(old), Delete: true}, site.Change{Path: path, After: src})
	}
	o := s.With(set.Changes)
	for _, r := range o.Reached() {
		if r.Before == nil || r.After == nil || !bytes.Equal(s.AppendPage(nil, r.Before), o.AppendPage(nil, r.After)) {
			return set, refuse("%s cannot be renamed here: %s would change by it", name, r.URL())
		}
	}
	return set, nil
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

// DeleteBlock takes a block off the shelf.
func DeleteBlock(s *render.Shelf, name string, with Replacement, another string) (site.ChangeSet, error) {
	set := site.ChangeSet{Title: "Delete " + name}
	if s.Block(name) == nil {
		return set, refuse("there is no block %s", name)
	}
	var err error
	switch with {
	case WithNothing:
		if s.Used(name) {
			err = refuse("%s is used on %d pages; leave a copy in every spot, or put another block there", name, len(s.Users(name)))
		}
	case WithCopies:
		set.Title += ", leaving copies"
		err = copies(s, &set, name)
	case WithContent:
		set.Title += ", leaving its content"
		if err = copies(s, &set, name); err == nil {
			plain(s, &set, name)
		}
	case WithAnother:
		if another == name || s.Block(another) == nil {
			return set, refuse("name the block to put there; there is no other block %q%s", another, block.Nearest(another, s.Names()))
		}
		if leads(s, another, name, map[string]bool{}) {
			return set, refuse("%s calls %s itself and cannot take its place; take that call out of it first", another, name)
		}
		set.Title += ", putting " + another + " there"
		err = recall(s, &set, name, another)
	default:
		err = refuse("%q is no way to delete a block", with)
	}
	if err != nil {
		return set, err
	}
	for _, ext := range blockFiles {
		path := "blocks/" + name + ext
		if h := s.Hash(path); h != "" {
			set.Changes = append(without(set.Changes, path), site.Change{Path: path, Before: h, Delete: true})
		}
	}
	return set, nil
}

// leads reports whether showing one block shows another.
func leads(s *render.Shelf, from, to string, seen map[string]bool) bool {
	b := s.Block(from)
	if b == nil || seen[from] {
		return false
	}
	seen[from] = true
	found := false
	markup.Walk(b.Text.Nodes, func(n *markup.Node) bool {
		if n.Kind == markup.Call {
			called := []string{n.Name}
			if n.Name == "menu" { // shows what the panels of menus call
				called = s.PanelCalls()
			}
			for _, name := range called {
				found = found || name == to || leads(s, name, to, seen)
			}
		}
		return !found
	})
	return found
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

// copies detaches a block wherever it stands.
func copies(s *render.Shelf, set *site.ChangeSet, name string) error {
	kept := map[string]bool{}
	for _, path := range s.Users(name) {
		var page *site.Change
		for now := s; ; now = s.With([]site.Change{*page}) {
			at := ""
			for _, p := range now.Placements(path) {
				if p.Block == name && p.Kind == render.Linked {
					at = p.Address
					break
				}
			}
			if at == "" {
				break
			}
			one, err := Detach(now, path, at)
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

// recall makes every document that speaks of a block speak of another.
func recall(s *render.Shelf, set *site.ChangeSet, name, to string) error {
	for _, path := range s.Paths("") {
		src, _ := s.Get(path)
		class, _, _ := site.Classify(path)
		if class == site.HistoryDoc || class == site.AssetDoc || !bytes.Contains(src, []byte(name)) {
			continue
		}
		list, err := renames(s, path, src, name, to)
		if err != nil {
			return refuse("%s: %v", path, err)
		}
		if len(list) > 0 {
			set.Changes = append(set.Changes, site.Change{Path: path, Before: s.Hash(path), After: patched(src, list)})
		}
	}
	return nil
}

func renames(s *render.Shelf, path string, src []byte, name, to string) ([]patch, error) {
	class, doc, _ := site.Classify(path)
	switch class {
	case site.PageDoc:
		g := s.Info(path).Page
		list, err := headRenames(src, g.Split, name, to)
		return append(list, textRenames(g.Text, g.Split.TextAt, name, to)...), err
	case site.BlockDoc:
		b := s.Block(doc)
		list, err := headRenames(src, b.Split, name, to)
		return append(list, textRenames(b.Text, b.Split.TextAt, name, to)...), err
	case site.LayoutDoc:
		l := s.Layout(doc)
		list, err := headRenames(src, l.Split, name, to)
		return append(list, textRenames(l.Text, l.Split.TextAt, name, to)...), err
	case site.RuleDoc, site.MenuDoc:
		return headRenames(src, site.Split{Head: src}, name, to)
	}
	return nil, nil
}

// textRenames finds the names of calls and copies in a text.
func textRenames(t *markup.Text, at int, name, to string) []patch {
	var out []patch
	put := func(from int) { out = append(out, patch{at + from, at + from + len(name), to}) }
	markup.Walk(t.Nodes, func(n *markup.Node) bool {
		switch {
		case n.Name != name:
		case n.Kind == markup.Call:
			put(n.NameAt)
			if n.Tail.Len() > 0 {
				put(n.Tail.From + len("@{/"))
			}
		case n.Kind == markup.Copy:
			for _, arg := range []string{"of", "call"} {
				if v, ok := n.Arg(arg); ok {
					if i := bytes.Index(t.Src[v.Span.From:v.Span.To], []byte(name)); i >= 0 {
						put(v.Span.From + i)
					}
				}
			}
		}
		return true
	})
	return out
}

// headRenames finds a block's name in YAML: in samples, panels and the texts of
// copies, in addresses, and where a rule or copy names its block.
func headRenames(src []byte, split site.Split, name, to string) ([]patch, error) {
	shift := 0
	if split.HasHead {
		shift = bytes.Index(src, split.Head)
	}
	t, y, err := readYAML(split.Head)
	if err != nil || shift < 0 {
		return nil, err
	}
	var out []patch
	tags := func(v *site.YAML) {
		if v != nil {
			from, end := t.extent(v.Line, v.Col)
			out = append(out, within(t.src, from, end, name, to, isTag)...)
		}
	}
	whole := func(v *site.YAML) {
		if v != nil && v.Text == name {
			from, end := t.extent(v.Line, v.Col)
			if i := bytes.Index(t.src[from:end], []byte(name)); i >= 0 {
				out = append(out, patch{from + i, from + i + len(name), to})
			}
		}
	}
	address := func(line, col, length int) {
		from, end := t.extent(line, col)
		out = append(out, within(t.src, from, min(end, from+length+2), name, to, isStep)...)
	}
	tags(y.Get("sample"))
	whole(y.Get("block"))
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
	for i := range out {
		out[i].from += shift
		out[i].to += shift
	}
	return out, nil
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
	return (before == "" || strings.HasSuffix(before, "/") || strings.HasSuffix(before, `"`) || strings.HasSuffix(before, "'")) && strings.HasPrefix(behind, "~")
}
