package render

import (
	"bytes"
	"slices"

	"brickshelf/internal/core/shelf"
)

// piece is what one of the calls that a comparison asks for shows on a page:
// bytes of the renderer's buffer, or a stored fragment.
type piece struct {
	address  string
	apart    bool // it is a block's placement and stands between tags
	from, to int
	fragment *fragment
}

// enter begins one of the pieces that a comparison asks for, the placement at an
// address; leave ends it. What stands between is rendered in full. Where apart is
// set, the piece stands between tags, and a stored fragment can be the whole of
// it. Outside comparisons both do nothing.
func (r *renderer) enter(address string, apart bool) (outer map[string]bool) {
	if r.only == nil {
		return nil
	}
	outer, r.only = r.only, nil
	r.pieces = append(r.pieces, piece{address: address, apart: apart, from: len(r.buf)})
	if apart {
		r.whole = &r.pieces[len(r.pieces)-1].fragment
	}
	return outer
}

func (r *renderer) leave(outer map[string]bool) {
	if outer == nil {
		return
	}
	r.only, r.whole = outer, nil
	r.pieces[len(r.pieces)-1].to = len(r.buf)
}

// Look is what a comparison learns of one page.
type Look struct {
	Names    []string // blocks rendered; "copy of NAME" for one-off copies
	Menus    []string
	Faults   []Fault
	ReadSite bool
}

// Clone is the look in memory of its own; what Same gives holds until its next call.
func (l Look) Clone() Look {
	l.Names, l.Menus, l.Faults = slices.Clone(l.Names), slices.Clone(l.Menus), slices.Clone(l.Faults)
	return l
}

// Comparer compares pages of a base and an overlay of it. It keeps its buffers
// from page to page, so each goroutine needs one of its own.
type Comparer struct {
	Before, After *shelf.Shelf

	a, b         renderer
	lastA, lastB *fragment
	lastEqual    bool
	pieced       bool // the last comparison had pieces
	pairs        []Pair
	one, two     []byte
}

// Same reports whether a page renders to the same bytes in both shelves,
// and what was seen there. It renders only what the changes touch where that
// is enough. strip leaves out the page's own values.
func (c *Comparer) Same(page shelf.Reach, strip bool) (same bool, before, after Look) {
	in, out := page.Before, page.After
	c.pieced = false
	if in != out && !strip {
		if same, ok, before, after := c.spliced(in, out); ok {
			return same, before, after
		}
		c.pieced = false
	}
	if in != out || c.After.All() || c.After.Base() != c.Before ||
		anyIn(c.After.TouchedNames(), in.Page.InCopies) {
		return c.whole(in, out, strip)
	}
	c.probe(&c.a, c.Before, in, strip, !page.InText)
	c.probe(&c.b, c.After, out, strip, !page.InText)
	c.pieced = true
	before, after = c.a.look(), c.b.look()
	differing := len(c.a.pieces) - len(c.b.pieces)
	if differing != 0 {
		differing = 2
	}
	for i := 0; differing < 2 && i < len(c.a.pieces); i++ {
		if !c.equal(c.a.pieces[i], c.b.pieces[i]) {
			differing++
		}
	}
	assets := len(c.a.assets) == len(c.b.assets)
	for i := 0; assets && i < len(c.a.assets); i++ {
		assets = c.a.assets[i] == c.b.assets[i]
	}
	switch {
	case !assets || differing > 1:
		same, _, _ = c.whole(in, out, strip)
		return same, before, after
	case differing == 1:
		same = false
	default:
		same = true
	}
	return same, before, after
}

// Pair is what stands at an address of a page in the base and in the overlay.
type Pair struct {
	Address       string
	Before, After []byte
}

// Pairs gives the pieces of the page compared last that can differ. It reports
// false where they are not all that differs, or do not stand apart from what is
// around them. The bytes hold until the next comparison.
func (c *Comparer) Pairs() ([]Pair, bool) {
	if !c.pieced || len(c.a.pieces) != len(c.b.pieces) {
		return nil, false
	}
	c.pairs = c.pairs[:0]
	for i, a := range c.a.pieces {
		b := c.b.pieces[i]
		if a.address != b.address || !a.apart || !b.apart {
			return nil, false
		}
		for _, p := range c.pairs {
			if p.Address == a.address {
				return nil, false
			}
		}
		c.pairs = append(c.pairs, Pair{a.address, c.bytes(&c.a, a), c.bytes(&c.b, b)})
	}
	return c.pairs, true
}

// Pages renders the page whole in the base and in the overlay.
func (c *Comparer) Pages(in, out *shelf.Info) (base, overlay []byte) {
	c.one, _ = pageBytes(c.Before, in, false, c.one[:0])
	c.two, _ = pageBytes(c.After, out, false, c.two[:0])
	return c.one, c.two
}

func (c *Comparer) probe(r *renderer, s *shelf.Shelf, in *shelf.Info, strip, textless bool) {
	r.ready(s, in, r.buf[:0])
	r.strip, r.listing, r.only, r.textless = strip, true, c.After.TouchedNames(), textless
	r.page()
}

func (r *renderer) look() Look {
	return Look{Names: r.names, Menus: r.menus, Faults: r.faults, ReadSite: r.readSite}
}

func (c *Comparer) equal(a, b piece) bool {
	if a.fragment != nil && b.fragment != nil {
		if a.fragment != c.lastA || b.fragment != c.lastB {
			c.lastA, c.lastB, c.lastEqual = a.fragment, b.fragment, a.fragment == b.fragment ||
				bytes.Equal(a.fragment.html, b.fragment.html)
		}
		return c.lastEqual
	}
	return bytes.Equal(c.bytes(&c.a, a), c.bytes(&c.b, b))
}

func (c *Comparer) bytes(r *renderer, p piece) []byte {
	if p.fragment != nil {
		return p.fragment.html
	}
	return r.buf[p.from:p.to]
}

// whole compares the pages as they are published.
func (c *Comparer) whole(in, out *shelf.Info, strip bool) (same bool, before, after Look) {
	c.one, before = pageBytes(c.Before, in, strip, c.one[:0])
	c.two, after = pageBytes(c.After, out, strip, c.two[:0])
	return bytes.Equal(c.one, c.two), before, after
}

func pageBytes(s *shelf.Shelf, in *shelf.Info, strip bool, buf []byte) ([]byte, Look) {
	r := newRenderer(s, in, buf)
	r.strip, r.listing = strip, true
	r.page()
	return r.finish().HTML, r.look()
}
