package render

import (
	"sync"

	"brickshelf/internal/core/block"
	"brickshelf/internal/core/shelf"
)

// reused takes a renderer that writes behind out, or into a buffer of its own.
func reused(s *shelf.Shelf, in *shelf.Info, out []byte) *renderer {
	r, _ := renderers.Get().(*renderer)
	if out == nil {
		out = r.buf[:0]
	}
	r.ready(s, in, out)
	return r
}

// newRenderer makes a renderer of a page that writes behind buf.
func newRenderer(s *shelf.Shelf, in *shelf.Info, buf []byte) *renderer {
	r := &renderer{}
	r.ready(s, in, buf)
	return r
}

// ready makes a renderer ready for another page, behind buf. What it gathered is forgotten,
// and the room for it stays. It knows the addresses of placements, and renders everything.
func (r *renderer) ready(s *shelf.Shelf, in *shelf.Info, buf []byte) {
	*r = renderer{
		s: s, info: in, buf: buf, start: len(buf), assetsAt: -1, addressed: true,
		traced: r.traced[:0], literals: r.literals[:0], assets: r.assets[:0], menus: r.menus[:0],
		names: r.names[:0], pieces: r.pieces[:0],
		scopes: r.scopes[:0], values: r.values[:0],
	}
}

// renderers keeps the stacks of finished renderers for the next ones.
var renderers = sync.Pool{New: func() any { return &renderer{} }}

type renderer struct {
	s     *shelf.Shelf
	info  *shelf.Info
	buf   []byte
	start int

	trace     *[]Placement
	traced    []Placement // room for them
	literals  []Literal   // gathered where trace is set
	addressed bool
	strip     bool
	faults    []Fault
	assets    []asset
	assetsAt  int

	manyAssets map[asset]bool // where they are many, those there are
	depth      int
	unmarked   int // above 0 where what is rendered is shown as text, and starts nothing
	count      int
	within     string // the region that is being shown, "" outside of all
	menus      []string

	// names lists the blocks rendered, once each, where listing is set.
	listing  bool
	names    []string
	readSite bool

	// asks is what was asked of the page, gathered where asking is set. alone is set
	// where something was that hardly another page answers alike; see fragmentCache.
	asking bool
	asks   []ask
	alone  bool

	// only, where set, renders only the outermost calls of these names, each
	// a piece. textless is set where the page's own text has none. whole, where set,
	// takes a stored fragment instead of its bytes.
	only     map[string]bool
	textless bool
	pieces   []piece
	whole    **fragment

	scopes []*scope
	values []block.Value

	// met lists what the page says of addresses and what was met there; see lost.
	met []shelf.Saying

	// visit, where set, is called at each linked placement of a block.
	visit func(*Spot)
}
