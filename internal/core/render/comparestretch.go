package render

import (
	"bytes"
	"slices"
	"strings"

	"brickshelf/internal/core/markup"
	"brickshelf/internal/core/place"
	"brickshelf/internal/core/shelf"
)

// spliced compares two versions of a page of which nothing but the text differs that
// it puts into one region, on a site that is the same else: only that stretch of the
// text is rendered. It reports false in ok where there is more to compare.
func (c *Comparer) spliced(in, out *shelf.Info) (same, ok bool, before, after Look) {
	o := c.After
	if in == nil || out == nil || o.Base() != c.Before || o.All() || o.Resolved() ||
		len(o.TouchedNames()) > 0 ||
		in.Plan != out.Plan || in.Layout == nil || in.Layout != out.Layout || !in.Layout.Fixed {
		return false, false, before, after
	}
	g, h := in.Page, out.Page
	if !g.SameHead(h) {
		return false, false, before, after
	}
	g.Text.Contexts()
	h.Text.Contexts()
	var cut *stretch
	for i := range in.Layout.Regions {
		name := in.Layout.Regions[i].Name
		if !slices.ContainsFunc(in.Slots[i], func(s place.Slot) bool { return s.Rule == nil }) {
			continue // what the page puts there is not shown
		}
		if d := differing(g, h, name); d != nil {
			if cut != nil {
				return false, false, before, after
			}
			cut = d
		}
	}
	if len(in.Lost)+len(out.Lost) > 0 {
		return false, false, before, after
	}
	if cut != nil && slices.ContainsFunc(in.Says,
		func(e shelf.Saying) bool { return strings.HasPrefix(e.Address, cut.region+"/") }) {
		return false, false, before, after // what the page says there could be lost, or found
	}
	if cut == nil {
		return true, true, before, after
	}
	c.a.stretch(c.Before, in, cut.region, cut.was, cut.apart)
	c.b.stretch(c.After, out, cut.region, cut.is, cut.apart)
	c.pieced = true
	if !slices.Equal(c.a.assets, c.b.assets) {
		return false, false, before, after
	}
	return bytes.Equal(c.a.buf, c.b.buf), true, c.a.look(), c.b.look()
}

// stretch is where two versions of what a page puts into a region differ. apart is set
// where both begin and end between tags.
type stretch struct {
	region  string
	was, is []markup.Segment
	apart   bool
}

func differing(g, h *place.Page, region string) *stretch {
	var was, is []markup.Segment
	if f := g.Fills.Of(region); f != nil {
		was = f.Segments
	}
	if f := h.Fills.Of(region); f != nil {
		is = f.Segments
	}
	from, most := 0, min(len(was), len(is))
	for from < most && alike(&was[from], g.Text.Src, &is[from], h.Text.Src) {
		from++
	}
	if from == len(was) && from == len(is) {
		return nil
	}
	behind := 0
	for behind < most-from && alike(&was[len(was)-1-behind], g.Text.Src, &is[len(is)-1-behind], h.Text.Src) {
		behind++
	}
	d := &stretch{region: region, was: was[from : len(was)-behind], is: is[from : len(is)-behind]}
	ends := func(t *markup.Text, segs []markup.Segment) bool {
		if len(segs) == 0 || behind > 0 && segs[len(segs)-1].Node == nil {
			return len(segs) == 0
		}
		n := segs[len(segs)-1].Node
		return n == nil && t.Tidy() || n != nil && between(n)
	}
	d.apart = (from == 0 || was[from-1].Node != nil && between(was[from-1].Node)) && ends(g.Text, d.was) &&
		ends(h.Text, d.is)
	return d
}

// between reports whether a node surely stands between tags, and what follows it begins
// there.
func between(n *markup.Node) bool {
	return (n.Kind == markup.Call || n.Kind == markup.Copy) && n.Context == markup.InText
}

// alike reports whether two segments say the same, and of calls under the same
// addresses.
func alike(a *markup.Segment, src []byte, b *markup.Segment, other []byte) bool {
	if a.Node != nil && a.Node == b.Node {
		return true // texts share nodes only where all before them is the same
	}
	return bytes.Equal(src[a.Span.From:a.Span.To], other[b.Span.From:b.Span.To]) &&
		(a.Node == nil) == (b.Node == nil) && (a.Node == nil || alikeNodes(a.Node, src, b.Node, other))
}

func alikeNodes(m *markup.Node, src []byte, n *markup.Node, other []byte) bool {
	return m.Context == n.Context && bytes.Equal(src[m.Span.From:m.Span.To], other[n.Span.From:n.Span.To]) &&
		sameSteps(m, n)
}

// sameSteps compares the addresses in two nodes of the same words.
func sameSteps(m, n *markup.Node) bool {
	return m.Step == n.Step && m.Container == n.Container && slices.EqualFunc(m.Body, n.Body, sameSteps) &&
		slices.EqualFunc(m.Else, n.Else, sameSteps)
}

// stretch renders a stretch of what the page puts into a region, as the one piece of a
// comparison.
func (r *renderer) stretch(s *shelf.Shelf, in *shelf.Info, region string, segs []markup.Segment, apart bool) {
	r.ready(s, in, r.buf[:0])
	r.listing = true
	own := r.push()
	*own = scope{src: in.Page.Text.Src, own: true, pageText: true, address: region}
	r.within = region
	r.segments(segs, own)
	r.within = ""
	r.pop()
	r.pieces = append(r.pieces, piece{apart: apart, to: len(r.buf)})
}
