package copies

import (
	"fmt"
	"strings"

	"brickshelf/internal/core/edit"
	"brickshelf/internal/core/markup"
	"brickshelf/internal/core/render"
	"brickshelf/internal/core/shelf"
	"brickshelf/internal/core/site"
)

// inBlock is a copy, or a call, that stands in a block's text, and shows on a page where the block
// stands.
type inBlock struct {
	doc    string // the block's document
	name   string // and its name
	text   *markup.Text
	textAt int
	node   *markup.Node
}

// heldBy finds what stands at an address of a page in the text of a block; nil where nothing does.
func heldBy(s *shelf.Shelf, path, address string, kind render.PlacementKind, is markup.Kind) *inBlock {
	for _, p := range render.Placements(s, path) {
		if p.Address != address || p.Kind != kind {
			continue
		}
		class, name, _ := site.Classify(p.Via)
		b := s.Block(name)
		if class != site.BlockDoc || b == nil {
			return nil
		}
		var found *markup.Node
		markup.Walk(b.Text.Nodes, func(n *markup.Node) bool {
			at := strings.TrimPrefix(n.Container, "main") + "/" + n.Step
			if n.Kind == is && n.Name == p.Block && strings.HasSuffix(address, at) {
				found = n
			}
			return true
		})
		if found == nil {
			return nil
		}
		return &inBlock{p.Via, name, b.Text, b.Split.TextAt, found}
	}
	return nil
}

// inBlocks lists the copies in the texts of blocks, each on the first page that shows it.
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

// on are the copies in the text of a block that a page shows.
func on(s *shelf.Shelf, path, doc, of string) []Copy {
	var out []Copy
	seen := map[*markup.Node]bool{}
	for _, p := range render.Placements(s, path) {
		if p.Kind != render.Copied || p.Via != doc || of != "" && p.Block != of {
			continue
		}
		if in := heldBy(s, path, p.Address, render.Copied, markup.Copy); in != nil && !seen[in.node] {
			seen[in.node] = true
			out = append(out, in.origin(p.Address).standing(s, path))
		}
	}
	return out
}

func (in *inBlock) origin(address string) origin {
	n := in.node
	o := origin{address: address, of: n.Name, base: site.Hash(n.ArgString("base")),
		style: site.Hash(n.ArgString("style")), behaviour: site.Hash(n.ArgString("behaviour")),
		text: string(in.text.Src[n.Head.To:n.Tail.From]), loop: n.Loops > 0, holder: in.doc}
	markup.Walk(n.Body, func(m *markup.Node) bool {
		o.values = o.values || m.Kind == markup.Value || m.Kind == markup.When || m.Kind == markup.Each
		return true
	})
	return o
}

// put writes the block's document with another text in the place of the node.
func (in *inBlock) put(s *shelf.Shelf, with string) site.Change {
	src, _ := s.Get(in.doc)
	return site.Change{Path: in.doc, Before: s.Hash(in.doc), After: splice(src, in.textAt,
		in.node.Span, with)}
}

// DetachInBlock makes a copy of a call that stands in a block, in the block's own text: on every page
// that shows the block. It is refused where the call shows something else on another page.
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
		return set, site.Refuse("%s does not stand in a block; detach it on its page", spot.Address)
	}
	if in.node.Context != markup.InText {
		return set, site.Refuse("%s stands in an attribute of %s, where no copy can", p.Block, in.name)
	}
	x := expanded(s, spot.Doc, spot.Address, false)
	if x == nil || in.node.Loops > 0 {
		return set,
			site.Refuse("%s stands in a loop of %s and is another thing in each round; detach it on its page",
				p.Block, in.name)
	}
	head := opening(x.Block, x.Base, x.Style, x.Behaviour)
	if k := in.node.ArgString("key"); k != "" {
		head += " key=" + markup.Quote(k)
	}
	head += " call=" + markup.Quote(string(in.text.Src[in.node.Head.From:in.node.Head.To])) + "}"
	set.Title = fmt.Sprintf("Detach %s in %s", p.Block, in.name)
	set.Changes = append([]site.Change{in.put(s, head+string(x.body(in.text.Src, in.node))+"@{/copy}")},
		kept(s, x)...)
	return set, edit.Unchanged(s, set.Changes,
		fmt.Sprintf("%s shows values of the page; detach it there alone", p.Block))
}
