package outline

import (
	"bytes"

	nethtml "golang.org/x/net/html"
	"golang.org/x/net/html/atom"

	"brickshelf/internal/core/markup"
	"brickshelf/internal/core/site"
)

// Element finds the element that begins at a byte offset of a page's document: the
// range from its tag to its end. It refuses where its end does not stand in the
// page's own text.
func Element(src []byte, at int) (from, to int, err error) {
	if at < 0 || at >= len(src) || src[at] != '<' {
		return 0, 0, site.Refuse("no element begins here any more")
	}
	z := nethtml.NewTokenizer(bytes.NewReader(Masked(src)[at:]))
	deep, to := 0, at
	var name string
	for {
		kind := z.Next()
		if kind == nethtml.ErrorToken {
			return 0, 0,
				site.Refuse("the element ends nowhere in the page's own text; select it in the source")
		}
		to += len(z.Raw())
		tag, _ := z.TagName()
		if name == "" {
			name = string(tag)
		}
		if string(tag) != name {
			continue
		}
		switch {
		case kind == nethtml.StartTagToken && Void[atom.Lookup([]byte(name))],
			kind == nethtml.SelfClosingTagToken:
		case kind == nethtml.StartTagToken:
			deep++
		case kind == nethtml.EndTagToken:
			deep--
		}
		if deep == 0 {
			return at, to, nil
		}
	}
}

// Masked is a document with blanks in place of the tags of the shelf language.
func Masked(src []byte) []byte {
	split, bad := site.Cut(src)
	if bad != "" {
		return src
	}
	out := bytes.Clone(src)
	markup.Walk(markup.Parse(split.Text).Nodes, func(n *markup.Node) bool {
		if n.Kind != markup.Literal {
			for _, tag := range []markup.Span{n.Head, n.ElseTag, n.Tail} {
				for i := tag.From; i < tag.To; i++ {
					out[split.TextAt+i] = ' '
				}
			}
		}
		return true
	})
	return out
}
