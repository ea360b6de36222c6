// Package copies detaches placements, so that a copy stands there that no longer follows its
// block, and links copies again.
package copies

import (
	"fmt"
	"slices"
	"strings"
	"unicode/utf8"

	"brickshelf/internal/core/edit/expansion"
	"brickshelf/internal/core/edit/outline"
	"brickshelf/internal/core/markup"
	"brickshelf/internal/core/patch"
	"brickshelf/internal/core/place"
	"brickshelf/internal/core/render"
	"brickshelf/internal/core/shelf"
	"brickshelf/internal/core/site"
)

// Detach turns the linked placement at an address of a page into a one-off copy.
// No byte of any page changes by it; later edits of the block leave it alone. In
// the page's own text the copy takes the place of the call; elsewhere it is kept
// in the page's front matter.
func Detach(s *shelf.Shelf, path, address string) (site.ChangeSet, error) {
	set := site.ChangeSet{}
	in := s.Info(path)
	if in == nil {
		return set, site.Missing("there is no page %s", path)
	}
	placement, err := linked(s, path, address)
	if err != nil {
		return set, err
	}
	if s.Block(placement.Block) == nil {
		return set, site.Refuse("%s is a shortcode; only blocks are detached", placement.Block)
	}
	set.Title = fmt.Sprintf("Detach %s on %s", placement.Block, in.Page.URL)
	x := expansion.Of(s, path, address, !placement.InText)
	if x == nil {
		return set, site.Refuse("%s cannot be detached", address)
	}
	src, _ := s.Get(path)
	var after []byte
	if placement.InText {
		after, err = detachText(in.Page, src, address, x)
	} else {
		if !utf8.Valid(x.Text) {
			return set,
				site.Refuse("the content of %s is not UTF-8 and cannot be kept in the page's front matter",
					address)
		}
		after, err = keepCopy(path, src, address, x)
	}
	if err != nil {
		return set, err
	}
	set.Changes = append(set.Changes, site.Change{Path: path, Before: s.Hash(path), After: after})
	set.Changes = append(set.Changes, kept(s, x)...)
	return set, nil
}

func linked(s *shelf.Shelf, path, address string) (*render.Placement, error) {
	list := render.Placements(s, path)
	for i := range list {
		p := &list[i]
		if p.Address != address {
			continue
		}
		if p.Kind != render.Linked {
			return nil, site.Refuse("%s is a %s already", address, p.Kind)
		}
		return p, nil
	}
	return nil, site.Refuse("nothing stands at %s on this page", address)
}

// keepCopy writes a copy into a page's front matter.
func keepCopy(path string, src []byte, address string, x *expansion.Expansion) ([]byte, error) {
	split, _ := site.Cut(src)
	y, problem := site.ParseYAML(split.Head, path, 1)
	if problem != nil {
		return nil, problem
	}
	entry := patch.Literal(copyEntry(x))
	if y.Get("copies") == nil {
		return patch.Set(path, src, []string{"copies"}, patch.Lines{{Key: address, Value: entry}})
	}
	return patch.Set(path, src, []string{"copies", address}, entry)
}

func copyEntry(x *expansion.Expansion) string {
	var b strings.Builder
	fmt.Fprintf(&b, "{of: %s", x.Block)
	for _, w := range x.Says()[1:] {
		if w[1] != "" || w[0] == "base" {
			b.WriteString(", " + w[0] + ": " + site.QuoteYAML(w[1]))
		}
	}
	b.WriteString(", text: " + site.QuoteYAML(string(x.Text)) + "}")
	return b.String()
}

// detachText puts the copy into the page's text, in place of the call. The
// call's own words are kept in the copy, so that it can be linked again.
func detachText(g *place.Page, src []byte, address string, x *expansion.Expansion) ([]byte, error) {
	n := outline.Find(g, address)
	if n == nil || n.Kind != markup.Call {
		return nil, site.Refuse("the call at %s was not found in the page's text", address)
	}
	head := string(g.Text.Src[n.Head.From:n.Head.To])
	var b strings.Builder
	b.WriteString(x.Opening())
	if k := n.ArgString("key"); k != "" {
		b.WriteString(" key=" + markup.Quote(k))
	}
	b.WriteString(" call=" + markup.Quote(head) + "}")
	b.Write(body(x, g.Text.Src, n))
	b.WriteString("@{/copy}")
	return splice(src, g.Split.TextAt, n.Span, b.String()), nil
}

// body is what a copy holds that takes the place of a call in a page's text: what is shown
// there, and what the call encloses where that is not.
func body(x *expansion.Expansion, src []byte, n *markup.Node) []byte {
	if !n.Closed || x.Shown {
		return x.Text
	}
	return slices.Concat(x.Text, []byte("@{inner hidden=true}"), src[n.Head.To:n.Tail.From],
		[]byte("@{/inner}"))
}

// splice replaces a span of a document's text.
func splice(src []byte, textAt int, s markup.Span, with string) []byte {
	out := make([]byte, 0, len(src)+len(with))
	out = append(out, src[:textAt+s.From]...)
	out = append(out, with...)
	return append(out, src[textAt+s.To:]...)
}

// Link drops the copy at an address of a page, so that the block stands there
// again and follows its edits.
func Link(s *shelf.Shelf, path, address string) (site.ChangeSet, error) {
	set := site.ChangeSet{}
	in := s.Info(path)
	if in == nil {
		return set, site.Missing("there is no page %s", path)
	}
	g := in.Page
	src, _ := s.Get(path)
	var after []byte
	if c := g.Copies[address]; c != nil {
		set.Title = fmt.Sprintf("Link %s again on %s", c.Of, g.URL)
		var err error
		if after, err = patch.Set(path, src, []string{"copies", address}, nil); err != nil {
			return set, err
		}
	} else if n := outline.Find(g, address); n != nil && n.Kind == markup.Copy {
		set.Title = fmt.Sprintf("Link %s again on %s", n.Name, g.URL)
		after = splice(src, g.Split.TextAt, n.Span, relinked(g.Text.Src, n))
	} else if held := heldBy(s, path, address, render.Copied, markup.Copy); held != nil {
		set.Title = fmt.Sprintf("Link %s again in %s", held.node.Name, held.name)
		set.Changes = []site.Change{held.put(s, relinked(held.text.Src, held.node))}
		return set, nil
	} else {
		return set, site.Refuse("there is no copy at %s on this page", address)
	}
	set.Changes = []site.Change{{Path: path, Before: s.Hash(path), After: after}}
	return set, nil
}

// relinked writes the call that a copy in a page's text came from.
func relinked(src []byte, n *markup.Node) string {
	head := n.ArgString("call")
	if t := markup.Parse([]byte(head)); head == "" || len(t.Nodes) != 1 || t.Nodes[0].Kind != markup.Call {
		head = "@{" + n.Name
		if k := n.ArgString("key"); k != "" {
			head += " key=" + markup.Quote(k)
		}
		return head + " /}"
	}
	if strings.HasSuffix(head, "/}") {
		return head
	}
	inner := ""
	if m := enclosed(n.Body, 0); m != nil {
		inner = string(src[m.Head.To:m.Tail.From])
	}
	return head + inner + "@{/" + n.Name + "}"
}

// enclosed finds what a copy encloses, the first time that it stands in it. It can stand in what
// copies within that copy enclose; so many as depth says are around.
func enclosed(nodes []*markup.Node, depth int) *markup.Node {
	for _, n := range nodes {
		within := depth
		switch n.Kind {
		case markup.Inner:
			if depth == 0 {
				return n
			}
			within--
		case markup.Copy:
			within++
		}
		for _, body := range [][]*markup.Node{n.Body, n.Else} {
			if found := enclosed(body, within); found != nil {
				return found
			}
		}
	}
	return nil
}
