package markup

import (
	"bytes"
	"strings"
)

// Reparse is Parse for a text that is another one with something edited. What
// stands before and behind the edit is taken over from there, with what is
// remembered of it; the rest is read. The two share nodes; old stays as it is.
func Reparse(old *Text, src []byte) *Text {
	ahead, behind := outside(old, src)
	if ahead < 0 {
		return Parse(src)
	}
	from, to := 0, len(src)
	if ahead > 0 {
		from = old.Nodes[ahead-1].Span.To
	}
	by := len(src) - len(old.Src)
	if behind < len(old.Nodes) {
		n := old.Nodes[behind]
		to = n.Span.From + by
		if n.Kind != Escape && to > from && src[to-1] == '@' {
			return Parse(src) // the tag would be one no more
		}
	}
	middle := &parser{src: src[from:to], text: &Text{}}
	middle.slab = make([]Node, 0, 2*bytes.Count(middle.src, []byte("@{"))+1)
	middle.run()
	if len(middle.text.Errors) > 0 {
		return Parse(src)
	}
	t := &Text{Src: src}
	if n := ahead + len(middle.root.Body) + len(old.Nodes) - behind; n > 0 {
		t.Nodes = make([]*Node, 0, n)
	}
	t.Nodes = append(t.Nodes, old.Nodes[:ahead]...)
	for _, n := range middle.root.Body {
		n.shift(from)
		t.Nodes = append(t.Nodes, n)
	}
	kept, shared := t.keepContexts(old, ahead, behind), ahead
	if !kept {
		shared = 0 // contexts are worked out later, and stand in the nodes
	}
	c := cloner{memos: kept, slab: make([]Node, 0, size(old.Nodes[shared:ahead])+size(old.Nodes[behind:]))}
	for i, n := range t.Nodes[shared:ahead] {
		t.Nodes[shared+i] = c.clone(n)
	}
	c.by = by
	for _, n := range old.Nodes[behind:] {
		t.Nodes = append(t.Nodes, c.clone(n))
	}
	number(t, shared)
	return t
}

// outside tells how many of the outermost nodes of a text stand whole before what
// differs in src, and which is the first that stands whole behind it. Both end at
// tags, since literals can grow into what is beside them. ahead is -1 where the text
// has to be read anew.
func outside(old *Text, src []byte) (ahead, behind int) {
	if len(old.Errors) > 0 {
		return -1, 0
	}
	// The two can overlap, as where one of two equal calls in a row is new.
	head, tail := common(old.Src, src), commonEnd(old.Src, src)
	behind = len(old.Nodes)
	end := min(len(old.Src), len(src))
	for i := len(old.Nodes) - 1; i >= 0 && old.Nodes[i].Span.From >= len(old.Src)-tail; i-- {
		if n := old.Nodes[i]; n.Kind != Literal {
			behind, end = i, min(n.Span.From, n.Span.From+len(src)-len(old.Src))
		}
	}
	for i, n := range old.Nodes[:behind] {
		if n.Span.To > min(head, end) {
			break
		}
		if n.Kind != Literal {
			ahead = i + 1
		}
	}
	return ahead, behind
}

// stretch is how much of two texts is compared at once.
const stretch = 1024

func common(a, b []byte) int {
	n, most := 0, min(len(a), len(b))
	for n+stretch <= most && bytes.Equal(a[n:n+stretch], b[n:n+stretch]) {
		n += stretch
	}
	for n < most && a[n] == b[n] {
		n++
	}
	return n
}

func commonEnd(a, b []byte) int {
	n, most := 0, min(len(a), len(b))
	for n+stretch <= most && bytes.Equal(a[len(a)-n-stretch:len(a)-n], b[len(b)-n-stretch:len(b)-n]) {
		n += stretch
	}
	for n < most && a[len(a)-1-n] == b[len(b)-1-n] {
		n++
	}
	return n
}

// keepContexts works out the contexts of what was read, where those around it surely
// stay as they are: it stands between tags, and so does what follows. It reports false
// where all must be worked out.
func (t *Text) keepContexts(old *Text, ahead, behind int) bool {
	between := func(n *Node) bool { return (n.Kind == Call || n.Kind == Copy) && n.Context == InText }
	if len(old.Contexts()) > 0 || !old.Tidy() || old.contexts.foreign ||
		ahead > 0 && !between(old.Nodes[ahead-1]) || behind < len(old.Nodes) && !between(old.Nodes[behind]) {
		return false
	}
	a := analysis{src: t.Src}
	end := a.nodes(t.Nodes[ahead:], htmlState{})
	if len(a.errors) > 0 || a.open || a.foreign || end.place != pText {
		return false
	}
	t.contexts.once.Do(func() {})
	return true
}

func size(nodes []*Node) int {
	n := len(nodes)
	for _, m := range nodes {
		n += size(m.Body) + size(m.Else)
	}
	return n
}

// cloner copies nodes to places that lie by so many bytes further on.
type cloner struct {
	slab  []Node
	by    int
	memos bool // and with them goes what is remembered
}

func (c *cloner) clone(n *Node) *Node {
	c.slab = c.slab[:len(c.slab)+1]
	m := &c.slab[len(c.slab)-1]
	m.Kind, m.Context, m.Inside, m.Plain, m.Full, m.Closed, m.HasElse = n.Kind, n.Context, n.Inside, n.Plain,
		n.Full, n.Closed, n.HasElse
	m.Span, m.Name, m.Loops, m.Expr, m.Args, m.Step, m.Container = n.Span, n.Name, n.Loops, n.Expr, n.Args,
		n.Step, n.Container
	m.As, m.Index, m.NameAt, m.Head, m.Tail, m.ElseTag = n.As, n.Index, n.NameAt, n.Head, n.Tail, n.ElseTag
	if c.memos {
		m.Memo.Store(n.Memo.Load())
	}
	m.Body, m.Else = c.all(n.Body), c.all(n.Else)
	if c.by != 0 {
		m.move(c.by)
	}
	return m
}

func (c *cloner) all(nodes []*Node) []*Node {
	if len(nodes) == 0 {
		return nil
	}
	out := make([]*Node, len(nodes))
	for i, n := range nodes {
		out[i] = c.clone(n)
	}
	return out
}

// shift moves a node with all that stands in it.
func (n *Node) shift(by int) {
	n.move(by)
	for _, b := range n.Body {
		b.shift(by)
	}
	for _, b := range n.Else {
		b.shift(by)
	}
}

// move moves what a node's own tags name, in lists and expressions of its own.
func (n *Node) move(by int) {
	for _, s := range []*Span{&n.Span, &n.Head, &n.Tail, &n.ElseTag} {
		if *s != (Span{}) {
			s.From, s.To = s.From+by, s.To+by
		}
	}
	if n.NameAt > 0 {
		n.NameAt += by
	}
	n.Expr = n.Expr.moved(by)
	if len(n.Args) > 0 {
		args := make([]Arg, len(n.Args))
		for i, a := range n.Args {
			a.At += by
			a.Value.Span = Span{a.Value.Span.From + by, a.Value.Span.To + by}
			a.Value.Expr = a.Value.Expr.moved(by)
			args[i] = a
		}
		n.Args = args
	}
}

func (e *Expr) moved(by int) *Expr {
	if e == nil {
		return nil
	}
	f := *e
	f.Span = Span{e.Span.From + by, e.Span.To + by}
	f.Terms = make([]Term, len(e.Terms))
	for i, t := range e.Terms {
		t.At += by
		f.Terms[i] = t
	}
	return &f
}

// isStep reports whether step is the one that number gives to the n-th call of a name.
func isStep(step, name string, n int) bool {
	count, ok := strings.CutPrefix(step, name)
	if !ok || len(count) < 2 || count[0] != '~' {
		return false
	}
	v := 0
	for _, c := range []byte(count[1:]) {
		if c < '0' || c > '9' || v > 1<<30 {
			return false
		}
		v = v*10 + int(c-'0')
	}
	return v == n && count[1] != '0'
}
