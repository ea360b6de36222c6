package render

import (
	"bytes"
	"strings"
	"sync"
	"sync/atomic"

	"brickshelf/internal/core/block"
	"brickshelf/internal/core/markup"
	"brickshelf/internal/core/place"
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
}

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
	Styles     []site.Hash
	Behaviours []site.Hash
	Placements []Placement // in the order in which they begin; only where asked for
	Faults     []Fault
}

// Options say how to render.
type Options struct {
	Placements bool // tell the placements
	Strip      bool // leave out the page's own values
}

// Render renders the page at a path. It returns nil where there is none.
func (s *Shelf) Render(path string, o Options) *Result {
	in := s.Info(path)
	if in == nil {
		return nil
	}
	r := &renderer{s: s, info: in, strip: o.Strip, assetsAt: -1, buf: make([]byte, 0, 2*len(in.Page.Text.Src)+2048)}
	if o.Placements {
		r.trace = &[]Placement{}
	}
	r.addressed = true // faults name addresses
	r.page()
	return r.finish()
}

// Placements lists the placements on the page at a path, in the order in which
// they begin. Their offsets mean nothing.
func (s *Shelf) Placements(path string) []Placement {
	in := s.Info(path)
	if in == nil {
		return nil
	}
	r := reused(s, in, nil)
	r.addressed, r.trace = true, &[]Placement{}
	r.page()
	out := *r.trace
	renderers.Put(r)
	return out
}

// AppendPage renders a page of the shelf behind out, for callers that need nothing
// but the bytes.
func (s *Shelf) AppendPage(out []byte, in *Info) []byte {
	r := reused(s, in, out)
	r.page()
	if len(r.assets) > 0 {
		r.finish()
	}
	out, r.buf = r.buf, nil
	renderers.Put(r)
	return out
}

// reused takes a renderer that writes behind out, or into a buffer of its own.
func reused(s *Shelf, in *Info, out []byte) *renderer {
	r, _ := renderers.Get().(*renderer)
	if out == nil {
		out = r.buf[:0]
	}
	*r = renderer{s: s, info: in, assetsAt: -1, buf: out, start: len(out), scopes: r.scopes[:0], values: r.values[:0], assets: r.assets[:0], addressed: in.Page.Local}
	return r
}

// renderers keeps the stacks of finished renderers for the next ones.
var renderers = sync.Pool{New: func() any { return &renderer{} }}

type renderer struct {
	s     *Shelf
	info  *Info
	buf   []byte
	start int

	trace     *[]Placement
	addressed bool
	strip     bool
	faults    []Fault
	assets    []asset
	assetsAt  int
	depth     int
	count     int
	menus     []string

	// names lists the blocks rendered, once each, where listing is set.
	listing  bool
	names    []string
	readSite bool

	// asks is what was asked of the page, gathered where asking is set. alone is set
	// where something was that hardly another page answers alike; see kept.
	asking bool
	asks   []ask
	alone  bool

	// sparse, where set, renders only the outermost calls of these names, each
	// a piece. whole, where set, takes a stored fragment instead of its bytes.
	sparse map[string]bool
	pieces []piece
	whole  **frag

	scopes []*scope
	values []block.Value

	// met lists what the page says of addresses and what was met there; see lost.
	met []localEntry

	// hook is called with the bound scope of the placement at hookAt.
	hookAt string
	hook   func(b *block.Block, sc *scope)
}

// asset is a block whose style and behaviour a page loads: a block's present
// ones, or those that a copy was made with.
type asset struct {
	name  string
	style site.Hash
	code  site.Hash
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
		r.nodes(g.Text.Nodes, sc)
	} else {
		for _, name := range r.info.lost {
			r.fault(Fault{Code: "missing-region", Address: name, Message: "this page fills the region " + name + ", which its layout " + l.Name + " does not have"})
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
	if r.sparse != nil {
		r.nodes(f.Nodes, sc)
		return
	}
	for i := range f.Segments {
		seg := &f.Segments[i]
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
		if r.sparse == nil {
			r.buf = append(r.buf, sc.src[n.Span.From:n.Span.To]...)
		}
	case markup.Escape:
		if r.sparse == nil {
			r.buf = append(r.buf, "@{"...)
		}
	case markup.Value:
		r.value(n, sc)
	case markup.Call:
		if r.sparse != nil {
			r.sparseCall(n, sc)
		} else {
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
			r.nodes(n.Body, sc.outer)
		}
	case markup.Assets:
		if r.sparse == nil && r.assetsAt < 0 {
			r.assetsAt = len(r.buf)
		}
	}
}

func (r *renderer) value(n *markup.Node, sc *scope) {
	for i := range n.Expr.Terms {
		t := &n.Expr.Terms[i]
		if len(t.Path) == 1 && t.Path[0] == "inner" {
			if sc.enclosed.scope != nil && (sc.enclosed.full || i == len(n.Expr.Terms)-1) {
				r.nodes(sc.enclosed.nodes, sc.enclosed.scope)
				return
			}
			continue
		}
		if r.sparse != nil && len(n.Expr.Terms) == 1 {
			return // it shows no call
		}
		if v := r.term(t, sc); !v.Empty() || i == len(n.Expr.Terms)-1 {
			if r.sparse == nil {
				r.buf = block.Append(r.buf, v, n.Context)
			}
			return
		}
	}
}

func (r *renderer) region(n *markup.Node, sc *scope) {
	slots := r.info.Slots[n.Index]
	if slots == nil {
		r.nodes(n.Body, sc)
		return
	}
	for i := range slots {
		slot := &slots[i]
		if slot.Rule == nil {
			g := r.info.Page
			if r.sparse != nil && !anyIn(r.sparse, g.Calls) {
				continue
			}
			own := r.push()
			*own = scope{src: g.Text.Src, own: true, pageText: true, address: n.Name}
			if f := g.Fills[n.Name]; f != nil {
				r.fill(f, own)
			}
			r.pop()
			continue
		}
		if r.sparse != nil && !r.sparse[slot.Rule.Block] {
			continue
		}
		o := r.enter(slot.Address, true)
		r.shared(slot.Memo, slot.Rule.Block, slot.Address, nil, slot.Rule, sc)
		r.leave(o)
	}
}

func anyIn(set map[string]bool, names []string) bool {
	for _, n := range names {
		if set[n] {
			return true
		}
	}
	return false
}

// sparseCall renders a call where it is one of those asked for, else looks for
// such calls in what it encloses. Only where a call is sure to show its
// enclosed content unconditionally could it be passed over; since that cannot
// be known cheaply, a call whose content holds one is rendered as a whole.
func (r *renderer) sparseCall(n *markup.Node, sc *scope) {
	if !r.sparse[n.Name] && !holdsAny(n.Body, r.sparse) {
		return
	}
	o := r.enter(sc.step(n), n.Context == markup.InText && r.s.shelved(n.Name) != nil)
	r.call(n, sc)
	r.leave(o)
}

func holdsAny(nodes []*markup.Node, set map[string]bool) bool {
	found := false
	markup.Walk(nodes, func(n *markup.Node) bool {
		found = found || n.Kind == markup.Call && set[n.Name]
		return !found
	})
	return found
}

// recall shows what a plain call of a page's text showed last, where that is kept
// and still holds: as long as the block and what it calls stay as they are.
func (r *renderer) recall(memo *atomic.Pointer[markup.Memo], n *markup.Node, sc *scope) bool {
	m := memo.Load()
	if m == nil || m.Gone.Load() || !r.canRecall(n, sc) {
		return false
	}
	r.take(m.Value.(*frag))
	return true
}

func (r *renderer) canRecall(n *markup.Node, sc *scope) bool {
	if r.trace != nil || r.hook != nil || r.strip || r.info.local && r.localUnder(sc.step(n)) {
		return false
	}
	return r.s.base == nil || !r.s.all && !r.s.resolved && !r.s.touched[n.Name]
}

// remember renders a plain call of a page's text and keeps what it shows.
func (r *renderer) remember(memo *atomic.Pointer[markup.Memo], n *markup.Node, sc *scope) bool {
	s := r.s
	if s.base != nil {
		s = s.base
	}
	of := s.blocks[n.Name]
	if of == nil || !r.canRecall(n, sc) || !s.isPageFree(n.Name) {
		return false
	}
	f, _ := r.capture(n.Name, sc.step(n), n, nil, sc)
	memo.Store(&markup.Memo{Gone: &of.gone, Value: f})
	r.take(f)
	return true
}

func (r *renderer) take(f *frag) {
	if r.whole != nil {
		*r.whole = f // the comparison knows it by its pointer
	} else {
		r.buf = append(r.buf, f.html...)
	}
	for _, a := range f.assets {
		r.asset(a)
	}
	if !r.strip {
		r.faults = append(r.faults, f.faults...)
	}
	if r.listing {
		for _, n := range f.names {
			r.list(n)
		}
	}
	r.menus = append(r.menus, f.menus...)
	if r.asking {
		r.asks = append(r.asks, f.asks...)
	}
	r.readSite = r.readSite || f.site
	r.count += f.count
}

func (r *renderer) localUnder(address string) bool {
	under := func(a string) bool { return strings.HasPrefix(a, address) }
	g := r.info.Page
	for a := range g.Overrides {
		if under(a) {
			return true
		}
	}
	for a := range g.Copies {
		if under(a) {
			return true
		}
	}
	for a := range g.Hidden {
		if under(a) {
			return true
		}
	}
	return false
}

func (r *renderer) asset(a asset) {
	for i := range r.assets {
		if r.assets[i] == a {
			return
		}
	}
	r.assets = append(r.assets, a)
}

func (r *renderer) list(name string) {
	for _, n := range r.names {
		if n == name {
			return
		}
	}
	r.names = append(r.names, name)
}

func (r *renderer) call(n *markup.Node, sc *scope) {
	address := ""
	if r.addressed {
		address = sc.step(n)
	}
	if n.Context != markup.InText {
		from := len(r.buf)
		trace := r.trace
		r.placement(n.Name, address, n, nil, sc)
		out := append([]byte(nil), r.buf[from:]...)
		r.buf = block.AppendOutput(r.buf[:from], out, n.Context)
		r.trace = trace
		return
	}
	if sc.address == "layout" && len(n.Body) == 0 && n.Plain {
		if address == "" && r.info.Page.Local {
			address = sc.step(n)
		}
		r.shared(&n.Memo, n.Name, address, n, nil, sc)
		return
	}
	if n.Plain && sc.pageText && (r.recall(&n.Memo, n, sc) || r.remember(&n.Memo, n, sc)) {
		return
	}
	r.placement(n.Name, address, n, nil, sc)
}

// placement renders what stands at an address: the block, the copy that the
// page has there, or nothing where the page hides it.
func (r *renderer) placement(name, address string, n *markup.Node, rule *place.Rule, sc *scope) {
	if r.depth >= maxDepth || r.count >= maxPlacements || len(r.buf)-r.start > maxBytes {
		r.fault(Fault{Code: "too-large", Address: address, Message: "this page nests or repeats blocks without end; look for a block that calls itself"})
		return
	}
	r.count++
	r.whole = nil // what stands inside is a part of the piece, never the whole
	g := r.info.Page
	if g.Local {
		if g.Hidden[address] {
			r.meet("hidden", address, "")
			r.record(Placement{Address: address, Block: name, Kind: Hidden, Via: r.via(n, rule, sc), From: len(r.buf), To: len(r.buf)})
			return
		}
		if c := g.Copies[address]; c != nil {
			r.meet("copies", address, "")
			at := r.begin(Placement{Address: address, Block: c.Of, Kind: Copied, Via: g.Path})
			r.asset(asset{c.Of, site.Hash(c.Style), site.Hash(c.Behaviour)})
			r.copyText(c.Text.Src, c.Text.Nodes, address, around(address, c.Text.Src))
			r.end(at)
			return
		}
	}
	shelved := r.s.shelved(name)
	if shelved == nil {
		if bi := r.s.builtins[name]; bi != nil && rule == nil {
			r.depth++
			bi.render(r, n, sc, address)
			r.depth--
			return
		}
		r.fault(Fault{Code: "unresolved-call", Address: address, Message: "there is no block or shortcode " + name})
		return
	}
	if r.listing {
		r.list(name)
	}
	b := shelved.block
	if shelved.style != "" || shelved.code != "" {
		r.asset(asset{name, shelved.style, shelved.code})
	}
	mark := len(r.values)
	inner := r.push()
	*inner = scope{src: b.Text.Src, block: b, address: address}
	var own []OwnValue
	inner.values, own = r.bind(b, address, n, rule, sc)
	if n != nil && n.Closed {
		inner.enclosed = enclosed{nodes: n.Body, scope: sc, full: n.Full}
	}
	at := -1
	if r.trace != nil {
		at = r.begin(Placement{Address: address, Block: name, Kind: Linked, Via: r.via(n, rule, sc), InText: n != nil && sc.own && sc.loops == nil && n.Context == markup.InText && sc.pageText, Own: own})
	}
	if r.hook != nil && r.hookAt == address {
		r.hook(b, inner)
	}
	r.depth++
	r.nodes(b.Text.Nodes, inner)
	r.depth--
	r.end(at)
	r.pop()
	r.values = r.values[:min(mark, len(r.values))]
}

// push takes a scope from the renderer's stack of them, which placement gives
// back when it is done.
func (r *renderer) push() *scope {
	n := len(r.scopes)
	if n < cap(r.scopes) && r.scopes[:n+1][n] != nil {
		r.scopes = r.scopes[:n+1]
	} else {
		r.scopes = append(r.scopes, new(scope))
	}
	return r.scopes[n]
}

func (r *renderer) pop() { r.scopes = r.scopes[:len(r.scopes)-1] }

// take values for the fields of a block from the renderer's stack of them.
func (r *renderer) slots(n int) []block.Value {
	from := len(r.values)
	if from+n > cap(r.values) {
		// What was handed out before stays where it is.
		r.values = make([]block.Value, 0, max(64, 2*(from+n)))
		from = 0
	}
	r.values = r.values[:from+n]
	out := r.values[from : from+n : from+n]
	clear(out)
	return out
}

func (r *renderer) via(n *markup.Node, rule *place.Rule, sc *scope) string {
	switch {
	case rule != nil:
		return rule.Path
	case sc.own:
		return r.info.Page.Path
	case sc.block != nil:
		return sc.block.Path
	case r.info.Layout != nil:
		return r.info.Layout.Path
	}
	return r.info.Page.Path
}

func (r *renderer) begin(p Placement) int {
	if r.listing && p.Kind == Copied {
		r.list("copy of " + p.Block)
	}
	if r.trace == nil {
		return -1
	}
	p.From = len(r.buf)
	*r.trace = append(*r.trace, p)
	return len(*r.trace) - 1
}

func (r *renderer) end(at int) {
	if at >= 0 {
		(*r.trace)[at].To = len(r.buf)
	}
}

func (r *renderer) record(p Placement) {
	if r.trace != nil {
		*r.trace = append(*r.trace, p)
	}
}

// textCopy renders a copy that stands in a page's text or in a block.
func (r *renderer) textCopy(n *markup.Node, sc *scope) {
	if r.sparse != nil {
		if holdsAny(n.Body, r.sparse) {
			o := r.enter(sc.step(n), false)
			r.textCopy(n, sc)
			r.leave(o)
		}
		return
	}
	address := sc.step(n)
	at := r.begin(Placement{Address: address, Block: n.Name, Kind: Copied, Via: r.via(n, nil, sc), InText: sc.pageText && sc.loops == nil})
	r.asset(asset{n.Name, site.Hash(n.ArgString("style")), site.Hash(n.ArgString("behaviour"))})
	r.copyText(sc.src, n.Body, address, sc)
	r.end(at)
}

func (r *renderer) copyText(src []byte, nodes []*markup.Node, address string, outer *scope) {
	o := *outer
	o.src = src
	sc := &scope{src: src, own: outer.own, pageText: outer.pageText, address: address, outer: &o, loops: outer.loops, round: outer.round, block: outer.block, values: outer.values}
	markup.Walk(nodes, func(n *markup.Node) bool {
		if n.Kind == markup.Inner && sc.enclosed.scope == nil {
			sc.enclosed = enclosed{nodes: n.Body, scope: &o, full: n.Full}
		}
		return n.Kind != markup.Copy
	})
	r.depth++
	r.nodes(nodes, sc)
	r.depth--
}

// around is the scope in which the content enclosed at an address was written,
// within the scopes in which the content around that was. What is handed to a
// call counts with the text that the call stands in.
func around(address string, src []byte) *scope {
	i := strings.LastIndexByte(address, '/')
	if i < 0 {
		return nil
	}
	return &scope{own: true, address: address[:i], src: src, outer: around(address[:i], src)}
}

// finish puts the links to styles and behaviours into their place.
func (r *renderer) finish() *Result {
	res := &Result{Faults: r.faults}
	if r.trace != nil {
		res.Placements = *r.trace
	}
	if len(r.assets) == 0 {
		res.HTML = r.buf
		return res
	}
	var head []byte
	seen := map[site.Hash]bool{}
	for _, a := range r.assets {
		if a.style != "" && !seen[a.style] {
			seen[a.style] = true
			res.Styles = append(res.Styles, a.style)
			head = append(head, `<link rel="stylesheet" href="`+AssetURL(a.style, ".css")+"\">\n"...)
		}
	}
	for _, a := range r.assets {
		if a.code != "" && !seen[a.code] {
			seen[a.code] = true
			res.Behaviours = append(res.Behaviours, a.code)
			head = append(head, `<script type="module" src="`+AssetURL(a.code, ".js")+"\"></script>\n"...)
		}
	}
	res.HTML = r.buf
	if len(head) == 0 {
		return res
	}
	at := r.assetsAt
	if at < 0 {
		at = headEnd(r.buf[r.start:]) + r.start
	}
	n := len(r.buf)
	r.buf = append(r.buf, head...)
	copy(r.buf[at+len(head):], r.buf[at:n])
	copy(r.buf[at:], head)
	res.HTML = r.buf
	for i := range res.Placements {
		p := &res.Placements[i]
		if p.From >= at {
			p.From += len(head)
		}
		if p.To > at {
			p.To += len(head)
		}
	}
	return res
}

// headEnd is where </head> stands, or the beginning of a text without one.
func headEnd(b []byte) int {
	if i := bytes.Index(b, []byte("</head>")); i >= 0 {
		return i
	}
	if i := bytes.Index(b, []byte("</HEAD>")); i >= 0 {
		return i
	}
	return 0
}

// AssetURL is the address at which a style or behaviour is published: named by
// its content alone.
func AssetURL(h site.Hash, ext string) string {
	return "/_shelf/" + string(h[:min(len(h), 32)]) + ext
}

func rootOf(url string) string { return site.RootOf(url) }
