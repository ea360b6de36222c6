package render

import (
	"strings"
	"sync/atomic"

	"brickshelf/internal/core/block"
	"brickshelf/internal/core/markup"
	"brickshelf/internal/core/place"
	"brickshelf/internal/core/shelf"
	"brickshelf/internal/core/site"
)

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
	if !r.only[n.Name] && !holdsAny(n.Body, r.only) {
		return
	}
	o := r.enter(sc.step(n), n.Context == markup.InText && r.s.Shelved(n.Name) != nil)
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
	if m == nil || !r.s.Has(m.Life) || !r.canRecall(n, sc) {
		return false
	}
	r.take(m.Value.(*fragment))
	return true
}

func (r *renderer) canRecall(n *markup.Node, sc *scope) bool {
	if r.trace != nil || r.visit != nil || r.strip || r.info.Local && r.localUnderStep(sc, n.Step) {
		return false
	}
	return r.s.Base() == nil || !r.s.All() && !r.s.Resolved() && !r.s.TouchedNames()[n.Name]
}

// remember renders a plain call of a page's text and keeps what it shows.
func (r *renderer) remember(memo *atomic.Pointer[markup.Memo], n *markup.Node, sc *scope) bool {
	s := r.s
	if s.Base() != nil {
		s = s.Base()
	}
	of := s.Shelved(n.Name)
	if of == nil || of.Life.Over.Load() || !r.canRecall(n, sc) || !s.SameOnAllPages(n.Name) {
		return false
	}
	f, _ := r.capture(n.Name, sc.step(n), n, nil, sc)
	memo.Store(&markup.Memo{Life: of.Life, Value: f})
	r.take(f)
	return true
}

func (r *renderer) take(f *fragment) {
	if r.whole != nil {
		*r.whole = f // the comparison knows it by its pointer
	} else {
		r.buf = append(r.buf, f.html...)
	}
	r.count += f.count
	if f.bare && !r.listing && !r.asking {
		return
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
}

// localUnder reports whether the page says something of an address, or of one under
// it or beside it that begins alike.
func (r *renderer) localUnder(address string) bool {
	for i := range r.info.Says {
		if strings.HasPrefix(r.info.Says[i].Address, address) {
			return true
		}
	}
	return false
}

// localUnderStep is localUnder for what stands at a step of a scope.
func (r *renderer) localUnderStep(sc *scope, step string) bool {
	for i := range r.info.Says {
		rest, ok := strings.CutPrefix(r.info.Says[i].Address, sc.address)
		if ok && strings.HasPrefix(rest, "/") && strings.HasPrefix(rest[1:], step) {
			return true
		}
	}
	return false
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
		from, traced, literals := len(r.buf), 0, len(r.literals)
		if r.trace != nil {
			traced = len(*r.trace)
		}
		r.unmarked++
		r.placement(n.Name, address, n, nil, sc)
		r.unmarked--
		out := append([]byte(nil), r.buf[from:]...)
		r.buf = block.AppendOutput(r.buf[:from], out, n.Context)
		r.literals = r.literals[:literals] // what is written for an attribute stands so in no text
		if r.trace != nil {
			r.escapePlacements((*r.trace)[traced:], from, out, n.Context)
		}
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

// escapePlacements moves placements to where they stand in what they show, as it was
// written from a spot of the page on for a context.
func (r *renderer) escapePlacements(inside []Placement, from int, shown []byte, context markup.Context) {
	spot := func(at int) int {
		return min(from+len(block.AppendOutput(nil, shown[:at-from], context)), len(r.buf))
	}
	for i := range inside {
		p := &inside[i]
		p.From, p.To = spot(p.From), spot(p.To)
		p.To = max(p.From, p.To)
	}
}

// placement renders what stands at an address: the block, the copy that the
// page has there, or nothing where the page hides it.
func (r *renderer) placement(name, address string, n *markup.Node, rule *place.Rule, sc *scope) {
	if r.depth >= maxDepth || r.count >= maxPlacements || len(r.buf)-r.start > maxBytes {
		r.fault(Fault{Code: "too-large", Address: address,
			Message: "this page nests or repeats blocks without end; look for a block that calls itself"})
		return
	}
	r.count++
	r.whole = nil // what stands inside is a part of the piece, never the whole
	if r.info.Page.Local && r.instead(name, address, n, rule, sc) {
		return
	}
	shelved := r.s.Shelved(name)
	if shelved == nil {
		if rule == nil && r.shortcode(name, n, sc, address) {
			return
		}
		r.fault(Fault{Code: "unresolved-call", Address: address, Message: r.s.Missing(name)})
		return
	}
	if r.listing {
		r.list(name)
	}
	b := shelved.Block
	r.loads(shelved)
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
		at = r.begin(Placement{Address: address, Block: name, Kind: Linked, Via: r.via(n, rule, sc),
			InText: n != nil && sc.own && sc.loops == nil && n.Context == markup.InText && sc.pageText,
			Own:    own, style: shelved.Style, code: shelved.Code})
	}
	if r.visit != nil {
		r.visit(&Spot{Page: r.info, Block: b, Address: address, Node: n, Rule: rule, r: r, outer: sc,
			inner: inner})
	}
	r.depth++
	from := r.here()
	r.nodes(b.Text.Nodes, inner)
	r.depth--
	if shelved.Each && r.only == nil {
		r.starts(from, shelved.Code, b.Start(inner.values))
	}
	r.end(at)
	r.pop()
	r.values = r.values[:min(mark, len(r.values))]
}

// instead shows what the page has at an address in place of what would stand there: a copy of
// its own, or nothing. It reports false where that is neither.
func (r *renderer) instead(name, address string, n *markup.Node, rule *place.Rule, sc *scope) bool {
	g := r.info.Page
	if g.Hidden[address] {
		r.meet("hidden", address, "")
		r.record(Placement{Address: address, Block: name, Kind: Hidden, Via: r.via(n, rule, sc),
			From: len(r.buf), To: len(r.buf)})
		return true
	}
	if c := g.Copies[address]; c != nil {
		r.meet("copies", address, "")
		r.covered(address)
		at := r.begin(Placement{Address: address, Block: c.Of, Kind: Copied, Via: g.Path,
			style: site.Hash(c.Style),
			code:  site.Hash(c.Behaviour)})
		from := r.here()
		r.copyLoads(c.Of, c.Style, c.Behaviour, c.Starts, c.Needs)
		r.copyText(c.Text.Src, c.Text.Nodes, address, around(address, c.Text.Src))
		r.starts(from, site.Hash(c.Behaviour), c.Starts)
		r.end(at)
		return true
	}
	return false
}

// shortcode shows a built-in or scripted shortcode. It reports false where there
// is none of that name, or its set is switched off.
func (r *renderer) shortcode(name string, n *markup.Node, sc *scope, address string) bool {
	bi := shelf.BuiltinOf(name)
	if bi == nil && r.s.Script(name) == nil || r.s.SetOff(name) != "" {
		return false
	}
	r.depth++
	if bi != nil {
		r.builtin(bi, n, sc, address)
	} else {
		r.runScript(r.s.Script(name), n, sc, address)
	}
	r.depth--
	return true
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
	case sc.menu != "":
		return sc.menu
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
	if r.only != nil {
		if holdsAny(n.Body, r.only) {
			o := r.enter(sc.step(n), false)
			r.textCopy(n, sc)
			r.leave(o)
		}
		return
	}
	address := sc.step(n)
	if sc.pageText {
		r.covered(address)
	}
	style, code := site.Hash(n.ArgString("style")), site.Hash(n.ArgString("behaviour"))
	at := r.begin(Placement{Address: address, Block: n.Name, Kind: Copied, Via: r.via(n, nil, sc),
		InText: sc.pageText && sc.loops == nil, style: style, code: code})
	from := r.here()
	starts := n.ArgString("starts")
	r.copyLoads(n.Name, string(style), string(code), starts, n.ArgString("needs"))
	r.copyText(sc.src, n.Body, address, sc)
	r.starts(from, code, starts)
	r.end(at)
}

func (r *renderer) copyText(src []byte, nodes []*markup.Node, address string, outer *scope) {
	o := *outer
	o.src = src
	sc := &scope{src: src, own: outer.own, menu: outer.menu, pageText: outer.pageText, address: address,
		outer: &o, loops: outer.loops, round: outer.round, block: outer.block, values: outer.values}
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
