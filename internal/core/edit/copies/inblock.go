package copies

import (
	"bytes"
	"fmt"
	"strings"

	"brickshelf/internal/core/edit"
	"brickshelf/internal/core/edit/expansion"
	"brickshelf/internal/core/markup"
	"brickshelf/internal/core/patch"
	"brickshelf/internal/core/render"
	"brickshelf/internal/core/shelf"
	"brickshelf/internal/core/site"
)

// inBlock is a copy, or a call, that stands in a block's text, or in the panel of a menu, and shows
// on a page where that stands.
type inBlock struct {
	doc    string // the document of the block or menu
	name   string // and its name
	panel  string // what the panel says; "" in a block
	text   *markup.Text
	textAt int
	node   *markup.Node
}

// heldBy finds what stands at an address of a page in the text of a block or the panel of a menu;
// nil where nothing does.
func heldBy(s *shelf.Shelf, path, address string, kind render.PlacementKind, is markup.Kind) *inBlock {
	for _, p := range render.Placements(s, path) {
		if p.Address != address || p.Kind != kind {
			continue
		}
		in := inBlock{doc: p.Via}
		var class site.Class
		class, in.name, _ = site.Classify(p.Via)
		switch b := s.Block(in.name); {
		case class == site.BlockDoc && b != nil:
			in.text, in.textAt = b.Text, b.Split.TextAt
		case class == site.MenuDoc:
			src, _ := s.Get(p.Via)
			in.panel = patch.PanelAt(src, address)
			in.text = markup.Parse([]byte(in.panel))
		default:
			return nil
		}
		markup.Walk(in.text.Nodes, func(n *markup.Node) bool {
			at := strings.TrimPrefix(n.Container, "main") + "/" + n.Step
			if n.Kind == is && n.Name == p.Block && strings.HasSuffix(address, at) {
				in.node = n
			}
			return true
		})
		if in.node == nil {
			return nil
		}
		return &in
	}
	return nil
}

// inBlocks lists the copies in the texts of blocks and the panels of menus, each on the first page
// that shows it.
func inBlocks(s *shelf.Shelf, of string) []Copy {
	var out []Copy
	for _, name := range s.Names() {
		b := s.Block(name)
		if b == nil || !holdsCopy(b.Text, of) {
			continue
		}
		for _, path := range s.Users(name) {
			list := on(s, path, b.Path, of)
			if out = append(out, list...); len(list) > 0 {
				break
			}
		}
	}
	for _, path := range s.Paths("menus/") {
		if src, _ := s.Get(path); !bytes.Contains(src, []byte("@{copy")) {
			continue
		}
		for _, page := range s.PagePaths() {
			list := on(s, page, path, of)
			if out = append(out, list...); len(list) > 0 {
				break
			}
		}
	}
	return out
}

func holdsCopy(t *markup.Text, of string) bool {
	found := false
	markup.Walk(t.Nodes, func(n *markup.Node) bool {
		found = found || n.Kind == markup.Copy && (of == "" || n.Name == of)
		return !found
	})
	return found
}

// on are the copies in the text of a block, or the panels of a menu, that a page shows.
func on(s *shelf.Shelf, path, doc, of string) []Copy {
	var out []Copy
	type spot struct {
		panel string
		at    markup.Span
	}
	seen := map[spot]bool{}
	for _, p := range render.Placements(s, path) {
		if p.Kind != render.Copied || p.Via != doc || of != "" && p.Block != of {
			continue
		}
		in := heldBy(s, path, p.Address, render.Copied, markup.Copy)
		if in == nil || seen[spot{in.panel, in.node.Span}] {
			continue
		}
		seen[spot{in.panel, in.node.Span}] = true
		out = append(out, in.origin(p.Address).standing(s, path))
	}
	return out
}

func (in *inBlock) origin(address string) origin {
	n := in.node
	o := origin{address: address, of: n.Name, base: site.Hash(n.ArgString("base")),
		style: site.Hash(n.ArgString("style")), behaviour: site.Hash(n.ArgString("behaviour")),
		starts: n.ArgString("starts"), needs: n.ArgString("needs"),
		text: string(in.text.Src[n.Head.To:n.Tail.From]), loop: n.Loops > 0, holder: in.doc}
	markup.Walk(n.Body, func(m *markup.Node) bool {
		o.values = o.values || m.Kind == markup.Value || m.Kind == markup.When || m.Kind == markup.Each
		return true
	})
	return o
}

// put writes the document with another text in the place of the node. In a menu, panels that say
// the same are one.
func (in *inBlock) put(s *shelf.Shelf, with string) site.Change {
	src, _ := s.Get(in.doc)
	if in.panel != "" {
		text := splice([]byte(in.panel), 0, in.node.Span, with)
		if after, err := patch.SetPanel(src, in.panel, string(text)); err == nil { // it could be read
			src = after
		}
		return site.Change{Path: in.doc, Before: s.Hash(in.doc), After: src}
	}
	return site.Change{Path: in.doc, Before: s.Hash(in.doc), After: splice(src, in.textAt,
		in.node.Span, with)}
}

// DetachInBlock makes a copy of a call that stands in a block, or in the panel of a menu, in the text
// there: on every page that shows it. It is refused where the call shows something else on another page.
func DetachInBlock(s *shelf.Shelf, spot Spot) (site.ChangeSet, error) {
	set := site.ChangeSet{}
	if s.Info(spot.Doc) == nil {
		return set, site.Missing("there is no page %s", spot.Doc)
	}
	p, err := linked(s, spot.Doc, spot.Address)
	if err != nil {
		return set, err
	}
	in := heldBy(s, spot.Doc, spot.Address, render.Linked, markup.Call)
	if in == nil || s.Block(p.Block) == nil {
		return set, site.Refuse("%s stands neither in a block nor in a menu; detach it on its page", spot.Address)
	}
	if in.node.Context != markup.InText {
		return set, site.Refuse("%s stands in an attribute of %s, where no copy can", p.Block, in.name)
	}
	x := expansion.Of(s, spot.Doc, spot.Address, false)
	if x == nil || in.node.Loops > 0 {
		return set,
			site.Refuse("%s stands in a loop of %s and is another thing in each round; detach it on its page",
				p.Block, in.name)
	}
	head := x.Opening()
	if k := in.node.ArgString("key"); k != "" {
		head += " key=" + markup.Quote(k)
	}
	head += " call=" + markup.Quote(string(in.text.Src[in.node.Head.From:in.node.Head.To])) + "}"
	set.Title = fmt.Sprintf("Detach %s in %s", p.Block, in.name)
	set.Changes = append([]site.Change{in.put(s, head+string(body(x, in.text.Src, in.node))+"@{/copy}")},
		kept(s, x)...)
	return set, edit.Unchanged(s, set.Changes,
		fmt.Sprintf("%s shows values of the page; detach it there alone", p.Block))
}
