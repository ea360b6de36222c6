package outline

import (
	"bytes"
	"slices"

	nethtml "golang.org/x/net/html"
	"golang.org/x/net/html/atom"

	"brickshelf/internal/core/markup"
)

// element is a range of a text: an element, or an HTML comment.
type element struct {
	from, to int
	block    bool // it stands on lines of its own
}

// elements are those of a stretch of text that stand in no other.
type elements []element

// elementsIn finds the elements of a row of neighbours. One without an end ends with
// the row.
func elementsIn(t *markup.Text, nodes []*markup.Node) elements {
	at, end := nodes[0].Span.From, nodes[len(nodes)-1].Span.To
	plain := bytes.Clone(t.Src[at:end])
	blank := func(s markup.Span) {
		for i := s.From; i < s.To; i++ {
			plain[i-at] = ' '
		}
	}
	markup.Walk(nodes, func(n *markup.Node) bool {
		switch n.Kind {
		case markup.Literal:
		case markup.Call, markup.Copy, markup.Comment:
			blank(n.Span)
			return false
		default:
			for _, tag := range []markup.Span{n.Head, n.ElseTag, n.Tail} {
				blank(tag)
			}
		}
		return true
	})
	var out elements
	z := nethtml.NewTokenizer(bytes.NewReader(plain))
	deep, name := 0, ""
	for {
		kind := z.Next()
		from := at
		at += len(z.Raw())
		if kind == nethtml.ErrorToken {
			break
		}
		raw, _ := z.TagName()
		tag := string(raw)
		which := atom.Lookup(raw)
		switch {
		case kind == nethtml.CommentToken && deep == 0:
			out = append(out, element{from, at, false})
		case kind == nethtml.StartTagToken && deep == 0, kind == nethtml.SelfClosingTagToken && deep == 0:
			out = append(out, element{from, at, blocks[which]})
			if kind == nethtml.StartTagToken && !Void[which] {
				deep, name = 1, tag
			}
		case kind == nethtml.StartTagToken && tag == name:
			deep++
		case kind == nethtml.EndTagToken && tag == name && deep > 0:
			if deep--; deep == 0 {
				out[len(out)-1].to = at
			}
		}
	}
	if deep > 0 {
		out[len(out)-1].to = end
	}
	return out
}

// hold tells whether a place stands inside one of them.
func (list elements) hold(at int) bool {
	return slices.ContainsFunc(list, func(e element) bool { return e.from < at && at < e.to })
}

// cut tells whether a part that is open since a place ends before another: no element
// is cut by that, and one that stands on lines of its own begins or has ended.
func (list elements) cut(open, at int) bool {
	if list.hold(at) {
		return false
	}
	i := slices.IndexFunc(list, func(e element) bool { return e.from >= at })
	if i < 0 {
		i = len(list)
	}
	return i < len(list) && list[i].from == at && list[i].block ||
		i > 0 && list[i-1].block && list[i-1].to > open
}

// pieces are what the beginnings and ends of elements on lines of their own make of a
// literal text.
func (list elements) pieces(s markup.Span) []markup.Span {
	out := []markup.Span{s}
	for _, e := range list {
		for _, at := range []int{e.from, e.to} {
			if last := out[len(out)-1]; e.block && at > last.From && at < last.To {
				out[len(out)-1].To = at
				out = append(out, markup.Span{From: at, To: last.To})
			}
		}
	}
	return out
}

// blocks are the elements that stand on lines of their own.
var blocks = map[atom.Atom]bool{
	atom.Address: true, atom.Article: true, atom.Aside: true, atom.Blockquote: true, atom.Details: true,
	atom.Dialog: true, atom.Div: true, atom.Dl: true,
	atom.Fieldset: true, atom.Figure: true, atom.Footer: true, atom.Form: true, atom.H1: true, atom.H2: true,
	atom.H3: true, atom.H4: true, atom.H5: true,
	atom.H6: true, atom.Header: true, atom.Hgroup: true, atom.Hr: true, atom.Main: true, atom.Menu: true,
	atom.Nav: true, atom.Ol: true, atom.P: true,
	atom.Pre: true, atom.Script: true, atom.Section: true, atom.Style: true, atom.Table: true, atom.Ul: true,
	atom.Video: true,
}

var Void = map[atom.Atom]bool{atom.Area: true, atom.Base: true, atom.Br: true, atom.Col: true,
	atom.Embed: true, atom.Hr: true, atom.Img: true, atom.Input: true, atom.Link: true, atom.Meta: true,
	atom.Source: true, atom.Track: true, atom.Wbr: true}
