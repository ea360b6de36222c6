package render

import (
	"brickshelf/internal/core/assets"
	"brickshelf/internal/core/block"
	"brickshelf/internal/core/markup"
	"brickshelf/internal/core/place"
	"brickshelf/internal/core/shelf"
	"brickshelf/internal/core/site"
)

// Limits of one page. They stop blocks that call one another without end.
const (
	maxDepth      = 100
	maxPlacements = 200_000
	maxBytes      = 64 << 20
)

// PlacementKind says how a placement stands on its page.
type PlacementKind string

// A linked placement follows its block, a copy does not, a hidden one is taken
// off this page.
const (
	Linked PlacementKind = "linked"
	Copied PlacementKind = "copy"
	Hidden PlacementKind = "hidden"
)

// Placement is a spot where a block is rendered on a page.
type Placement struct {
	Address string
	Block   string
	Kind    PlacementKind
	Via     string // the document that brought it: a page, layout, block, rule or menu
	InText  bool   // it is a call or copy in the page's own text, outside loops
	Own     []OwnValue
	From    int // byte offsets in the page's HTML
	To      int
	Sight   Sight // who sees it; told by Placements alone

	style, code site.Hash // of its revision
}

// Loads are the style and behaviour that the placement belongs to, "" where it has none.
func (p Placement) Loads() (style, code site.Hash) { return p.style, p.code }

// Fault is something that does not work at a placement. Field is the field that
// it is about, "" where it is about none.
type Fault struct {
	Code    string
	Address string
	Field   string
	Message string
}

// Result is a rendered page.
type Result struct {
	HTML       []byte
	Styles     []assets.File
	Behaviours []assets.File
	Placements []Placement // in the order in which they begin; only where asked for
	Literals   []Literal   // in order; only where placements are asked for
	Faults     []Fault
}

// Literal is a stretch of a page's HTML that stands so in the page's own text. From
// and To are byte offsets in the HTML, At is the offset in the page's document.
type Literal struct{ From, To, At int }

// Options say how to render.
type Options struct {
	Placements bool // tell the placements
	Strip      bool // leave out the page's own values
	SignedIn   bool // as those who are signed in see it
}

// Render renders the page at a path. It returns nil where there is none.
func Page(s *shelf.Shelf, path string, o Options) *Result {
	in := s.Info(path)
	if in == nil {
		return nil
	}
	if o.SignedIn {
		in = in.Seen(shelf.SignedIn)
	}
	r := newRenderer(s, in, make([]byte, 0, 2*len(in.Page.Text.Src)+2048))
	r.strip = o.Strip
	if o.Placements {
		r.trace = &[]Placement{}
	}
	r.page()
	return r.finish()
}

// LookAtPlacements hands over the placements that stand on a page now, for those who are
// signed out and where it differs for those who are signed in. The list is used again for
// another page as soon as look is done.
func LookAtPlacements(s *shelf.Shelf, path string, look func([]Placement)) {
	for _, v := range s.ViewsOn(nil, path, "") {
		lookAt(v, look)
	}
}

func lookAt(v shelf.View, look func([]Placement)) {
	r := reused(v.Shelf, v.Info, nil)
	r.trace = &r.traced
	r.page()
	look(r.traced)
	clear(r.traced) // so that a renderer that waits keeps no site in memory
	renderers.Put(r)
}

// AppendPage renders a page of the shelf behind out, for callers that need nothing
// but the bytes.
func AppendPage(s *shelf.Shelf, out []byte, in *shelf.Info) []byte {
	r := reused(s, in, out)
	r.addressed = in.Page.Local // nothing else here asks for addresses
	r.page()
	if len(r.assets) > 0 {
		r.finish()
	}
	out, r.buf = r.buf, nil
	renderers.Put(r)
	return out
}

func (r *renderer) fault(f Fault) {
	if !r.strip {
		r.faults = append(r.faults, f)
	}
}

func (r *renderer) page() {
	g, l := r.info.Page, r.info.Layout
	g.Text.Contexts()
	if g.Local && !r.strip {
		defer r.lost()
	}
	sc := r.push()
	if l == nil {
		*sc = scope{src: g.Text.Src, own: true, pageText: true, address: "main"}
		if g.Split.Marked && r.only == nil { // it tells browsers of the encoding
			r.buf = append(r.buf, site.ByteOrderMark...)
		}
		show := func() { r.nodes(g.Text.Nodes, sc) }
		if g.Encoding == nil && r.only == nil && len(g.Text.Nodes) > 1 && ascii(g.Text.Src) {
			r.asDeclared(show)
		} else {
			show()
		}
	} else {
		for _, name := range r.info.Lost {
			r.fault(Fault{Code: "missing-region", Address: name, Message: "this page fills the region " +
				name + ", which its layout " + l.Name + " does not have"})
		}
		*sc = scope{src: l.Text.Src, address: "layout"}
		r.nodes(l.Text.Nodes, sc)
	}
	r.pop()
}

func (r *renderer) nodes(nodes []*markup.Node, sc *scope) {
	for _, n := range nodes {
		r.node(n, sc)
	}
}

// fill renders what a page's own text puts into a region.
func (r *renderer) fill(f *place.Fill, sc *scope) {
	if r.only != nil {
		r.nodes(f.Nodes, sc)
		return
	}
	r.segments(f.Segments, sc)
}

func (r *renderer) segments(segs []markup.Segment, sc *scope) {
	for i := range segs {
		seg := &segs[i]
		if r.trace != nil {
			r.literal(seg.Span, sc)
		}
		r.buf = append(r.buf, sc.src[seg.Span.From:seg.Span.To]...)
		switch n := seg.Node; {
		case n == nil || r.recall(&seg.Memo, n, sc):
		case n.Kind == markup.Call && n.Plain && n.Context == markup.InText && r.remember(&seg.Memo, n, sc):
		default:
			r.node(n, sc)
		}
	}
}

func (r *renderer) node(n *markup.Node, sc *scope) {
	switch n.Kind {
	case markup.Literal:
		if r.only == nil {
			if r.trace != nil {
				r.literal(n.Span, sc)
			}
			r.buf = append(r.buf, sc.src[n.Span.From:n.Span.To]...)
		}
	case markup.Escape:
		if r.only == nil {
			r.buf = append(r.buf, "@{"...)
		}
	case markup.Value:
		if r.foreign(sc) {
			r.inEncoding(func() { r.value(n, sc) })
			return
		}
		r.value(n, sc)
	case markup.Call:
		switch {
		case r.only != nil:
			r.sparseCall(n, sc)
		case r.foreign(sc):
			r.inEncoding(func() { r.call(n, sc) })
		default:
			r.call(n, sc)
		}
	case markup.When:
		if r.holds(n.Expr, sc) {
			r.nodes(n.Body, sc)
		} else {
			r.nodes(n.Else, sc)
		}
	case markup.Each:
		for i, v := range r.eval(n.Expr, sc).Items() {
			r.nodes(n.Body, sc.turn(n.As, i, v))
		}
	case markup.Region:
		r.region(n, sc)
	case markup.Copy:
		r.textCopy(n, sc)
	case markup.Inner:
		if v, _ := n.Arg("hidden"); v.Text != "true" && sc.outer != nil {
			r.enclosed(n.Body, sc.outer, n.Context)
		}
	case markup.Assets:
		if r.only == nil && r.assetsAt < 0 {
			r.assetsAt = len(r.buf)
		}
	}
}

// literal notes what is about to be written as it stands in the page's own text.
func (r *renderer) literal(at markup.Span, sc *scope) {
	if sc.pageText && at.Len() > 0 {
		r.literals = append(r.literals, Literal{len(r.buf), len(r.buf) + at.Len(),
			r.info.Page.Split.TextAt + at.From})
	}
}

func (r *renderer) value(n *markup.Node, sc *scope) {
	for i := range n.Expr.Terms {
		t := &n.Expr.Terms[i]
		if len(t.Path) == 1 && t.Path[0] == "inner" {
			if sc.enclosed.scope != nil && (sc.enclosed.full || i == len(n.Expr.Terms)-1) {
				r.enclosed(sc.enclosed.nodes, sc.enclosed.scope, n.Context)
				return
			}
			continue
		}
		if r.only != nil && len(n.Expr.Terms) == 1 {
			return // it shows no call
		}
		if v := r.term(t, sc); !v.Empty() || i == len(n.Expr.Terms)-1 {
			if r.only == nil {
				r.buf = block.Append(r.buf, Within(v, n), n.Context)
			}
			return
		}
	}
}

// Within is a value that does not end what it stands in.
func Within(v block.Value, n *markup.Node) block.Value {
	if v.Type == block.Rich && n.Inside != 0 && n.Context == markup.InText {
		v.Text = block.Contained(v.Text, n.Inside)
	}
	return v
}

// enclosed shows enclosed content at a place: its text, where that holds no tags.
func (r *renderer) enclosed(nodes []*markup.Node, sc *scope, ctx markup.Context) {
	show := func() { r.nodes(nodes, sc) }
	if r.foreign(sc) {
		show = func() { r.fromEncoding(func() { r.nodes(nodes, sc) }) }
	}
	if ctx == markup.InText || r.only != nil {
		show()
		return
	}
	from, traced, literals := len(r.buf), 0, len(r.literals)
	if r.trace != nil {
		traced = len(*r.trace)
	}
	r.unmarked++
	show()
	r.unmarked--
	out := append([]byte(nil), r.buf[from:]...)
	r.buf = block.AppendOutput(r.buf[:from], block.TextOf(out), ctx)
	r.literals = r.literals[:literals]
	if r.trace != nil {
		for i := range (*r.trace)[traced:] {
			p := &(*r.trace)[traced+i]
			p.From, p.To = from, len(r.buf)
		}
	}
}

func (r *renderer) region(n *markup.Node, sc *scope) {
	if sc.address != "layout" || n.Index >= len(r.info.Slots) {
		return // it stands where it means nothing, and is told as a problem
	}
	outer := r.within
	r.within = n.Name
	defer func() { r.within = outer }()
	slots := r.info.Slots[n.Index]
	if slots == nil {
		r.nodes(n.Body, sc)
		return
	}
	for i := range slots {
		slot := &slots[i]
		if slot.Rule == nil {
			g := r.info.Page
			if r.textless {
				continue
			}
			own := r.push()
			*own = scope{src: g.Text.Src, own: true, pageText: true, address: n.Name}
			if f := g.Fills.Of(n.Name); f != nil {
				r.fill(f, own)
			}
			r.pop()
			continue
		}
		if r.only != nil && !r.only[slot.Rule.Block] {
			continue
		}
		o := r.enter(slot.Address, true)
		r.shared(slot.Memo, slot.Rule.Block, slot.Address, nil, slot.Rule, sc)
		r.leave(o)
	}
}
