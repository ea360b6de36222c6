package place

import (
	"bytes"

	"brickshelf/internal/core/block"
	"brickshelf/internal/core/markup"
	"brickshelf/internal/core/site"
)

// ReparsePage is ParsePage for another text of a page that has been read: of it, only
// what differs is read again.
func ReparsePage(old *Page, url string, src []byte) (*Page, site.Problems) {
	split, bad := site.Cut(src)
	if bad != "" || old.headless || old.URL != url || !old.SameHead(&Page{Split: split}) {
		return ParsePage(old.Name, old.Path, url, src)
	}
	g := &Page{Name: old.Name, Path: old.Path, URL: url, Title: old.Title, Layout: old.Layout,
		LayoutAt: old.LayoutAt, Fields: old.Fields,
		Overrides: old.Overrides, Copies: old.Copies, Hidden: old.Hidden, Tags: old.Tags, Draft: old.Draft,
		Redirect: old.Redirect, Local: old.Local, Split: split, untitled: old.untitled}
	problems := g.read(&block.Head{Path: g.Path}, markup.Reparse(old.Text, split.Text))
	g.Text.Contexts() // of calls that are remembered as they look in one of them
	for _, f := range g.Fills {
		if was := old.Fills.Of(f.Region); was != nil {
			recall(was.Segments, old.Text.Src, f.Segments, g.Text.Src)
		}
	}
	return g, problems
}

// SameHead reports whether the front matter of two pages is the same, byte for byte.
func (g *Page) SameHead(h *Page) bool {
	return g.Split.HasHead == h.Split.HasHead && g.Split.Marked == h.Split.Marked &&
		bytes.Equal(g.Split.Head, h.Split.Head)
}

// recall takes over what is remembered of calls that stand under the same address in
// the same words, as far as they stand in the same order from either end.
func recall(was []markup.Segment, old []byte, is []markup.Segment, src []byte) {
	take := func(a, b *markup.Segment) bool {
		if (a.Node == nil) != (b.Node == nil) {
			return false
		}
		if a.Node == nil {
			return true
		}
		m, n := a.Node, b.Node
		if m.Kind != n.Kind || m.Context != n.Context || m.Step != n.Step || m.Container != n.Container ||
			m.Span.Len() != n.Span.Len() || !bytes.Equal(old[m.Span.From:m.Span.To],
			src[n.Span.From:n.Span.To]) {
			return false
		}
		b.Memo.Store(a.Memo.Load())
		return true
	}
	i, most := 0, min(len(was), len(is))
	for i < most && take(&was[i], &is[i]) {
		i++
	}
	for k := 1; k <= most-i && take(&was[len(was)-k], &is[len(is)-k]); k++ {
	}
}
