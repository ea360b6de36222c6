package markup

import (
	"bytes"
	"sync/atomic"
	"unicode/utf8"
)

// Kind says what a Node is.
type Kind uint8

// The kinds of node, one for each form of the language.
const (
	Literal Kind = iota // bytes emitted as they stand
	Escape              // @@{ , a literal @{
	Comment             // @{# … }
	Value               // @{=EXPR}
	Call                // @{name … /} or @{name …} … @{/name}
	When                // @{when EXPR} … @{else} … @{/when}
	Each                // @{each EXPR as name} … @{/each}
	Region              // @{region name /} or with default content
	Fill                // @{fill name} … @{/fill}
	Copy                // @{copy of="name" …} … @{/copy}
	Inner               // @{inner} … @{/inner}, the enclosed content of a copy
	Assets              // @{assets /}
)

// Span is a half-open range of byte offsets.
type Span struct{ From, To int }

// Len is the number of bytes in the span.
func (s Span) Len() int { return s.To - s.From }

// Node is one piece of a text. Head and Tail are the spans of the opening and
// the closing tag; a node that has no closing tag has an empty Tail. Body (and
// Else, of a When) hold what stands between.
//
// What a renderer asks of every node stands first, so that it lies together in
// memory: a site has a hundred thousand of them.
type Node struct {
	Kind Kind
	// Context is where in HTML the node stands; set by Text.Contexts.
	Context Context
	// Inside is what a value must not end; set with Context.
	Inside Inside
	// Plain is set where a call shows the same whenever its block does: literal
	// arguments, nothing but text enclosed, no loop around it.
	Plain bool
	// Full is set where the node encloses more than white space and comments.
	Full    bool
	Closed  bool // written with a closing tag rather than "/}"
	HasElse bool
	Span    Span
	// Memo is for whoever renders the node: what it showed last, and when that holds.
	Memo atomic.Pointer[Memo]
	Name string // of a call, region or fill; of a copy, the block it came from
	// Loops is the number of Each nodes around this node within its container.
	Loops int
	Expr  *Expr
	Body  []*Node
	Else  []*Node
	Args  []Arg
	// Step names the placement within its container: the key, or name~N.
	Step string
	// Container is the address that a call or copy of a page's own text counts
	// within: its region, or the copy that it stands in.
	Container string
	As        string // the loop variable of an Each
	// Index is the position of a Region among those of its layout.
	Index   int
	NameAt  int
	Head    Span
	Tail    Span
	ElseTag Span
}

// Memo is something remembered of a node. It holds for whoever finds the same Life in its
// slot of the site that he reads: nodes are shared by the states of a site, and an old one
// may still be read while the next one is.
type Memo struct {
	Life  *Life
	Value any
}

// Life is that of what was remembered. Over is set where there is a state of the site in
// which that shows something else; older states then remember nothing more.
type Life struct {
	Slot int
	Over atomic.Bool
}

// Segment is a stretch of literal bytes with the node that follows it; nil at the
// end of a text. Rendering a page goes over segments, since they lie in one piece.
type Segment struct {
	Span Span
	Node *Node
	// Memo is as that of a Node, for calls that stand in a page's text.
	Memo atomic.Pointer[Memo]
}

// Segments joins each literal with what follows it.
func Segments(nodes []*Node) []Segment {
	out := make([]Segment, 0, len(nodes)/2+1)
	open := false // the last segment has no node yet
	for _, n := range nodes {
		switch {
		case n.Kind == Literal && !open:
			out = append(out, Segment{Span: n.Span})
			open = true
		case n.Kind == Literal || !open:
			out = append(out, Segment{Node: n})
		default:
			out[len(out)-1].Node = n
			open = false
		}
	}
	return out
}

// Arg is one argument of a call.
type Arg struct {
	Name  string
	At    int
	Value ArgValue
}

// ArgKind says how an argument's value is written.
type ArgKind uint8

// The ways to write an argument's value.
const (
	ArgText ArgKind = iota // "…", '…', a bare word, or HTML in backquotes
	ArgNumber
	ArgBool
	ArgJSON // a JSON list or object, in which texts may be Spelled
	ArgExpr // (EXPR)
)

// ArgValue is the value of an argument: Text for text, number ("12.5") and
// bool ("true"), JSON for a decoded list or object, Expr for an expression.
type ArgValue struct {
	Kind ArgKind
	Text string
	// Written is how HTML spells a text that is written in backquotes, and is shown so: with its references
	// and quotes, and with its tags, if it has any.
	Written string
	JSON    any
	Expr    *Expr
	Span    Span
}

// Expr is an expression: terms joined by "or", perhaps negated, perhaps
// compared with a literal.
type Expr struct {
	Terms []Term
	Not   bool
	Is    *string
	Span  Span
}

// Term is a dotted path such as page.logo, or a literal text.
type Term struct {
	Path    []string
	Literal *string
	At      int
	// Slot is the position of the block's field that the path begins with, from
	// 1; 0 where it begins with something else. The package block sets it.
	Slot int
}

// Arg returns the argument of the given name.
func (n *Node) Arg(name string) (ArgValue, bool) {
	for i := range n.Args {
		if n.Args[i].Name == name {
			return n.Args[i].Value, true
		}
	}
	return ArgValue{}, false
}

// ArgString returns the text of the argument of the given name, or "".
func (n *Node) ArgString(name string) string {
	v, _ := n.Arg(name)
	return v.Text
}

// full reports whether the node encloses anything but white space.
func (n *Node) full(src []byte) bool {
	for _, b := range n.Body {
		if b.Kind != Comment && (b.Kind != Literal || len(bytes.TrimSpace(src[b.Span.From:b.Span.To])) > 0) {
			return true
		}
	}
	return false
}

// Text is a parsed text.
type Text struct {
	Src    []byte
	Nodes  []*Node
	Errors []Error

	contexts contexts
}

// Tidy reports whether the text and what it fills regions with end between tags.
func (t *Text) Tidy() bool {
	t.Contexts()
	return !t.contexts.open
}

// Error is a fault in a text, at a byte offset.
type Error struct {
	At      int
	Code    string
	Message string
}

// Walk visits the nodes depth first, in the order in which they stand. Where
// visit returns false, the node's content is left out.
func Walk(nodes []*Node, visit func(*Node) bool) {
	for _, n := range nodes {
		if visit(n) {
			Walk(n.Body, visit)
			Walk(n.Else, visit)
		}
	}
}

// Print gives a text back from its nodes, byte for byte.
func Print(t *Text) []byte {
	out := make([]byte, 0, len(t.Src))
	return printNodes(out, t.Src, t.Nodes)
}

func printNodes(out, src []byte, nodes []*Node) []byte {
	for _, n := range nodes {
		out = append(out, src[n.Head.From:n.Head.To]...)
		out = printNodes(out, src, n.Body)
		out = append(out, src[n.ElseTag.From:n.ElseTag.To]...)
		out = printNodes(out, src, n.Else)
		out = append(out, src[n.Tail.From:n.Tail.To]...)
	}
	return out
}

// Position turns a byte offset into a line and a column, both from 1. Columns
// count characters; a byte that is not UTF-8 counts as one.
func Position(src []byte, at int) (line, column int) {
	at = min(at, len(src))
	before := src[:at]
	return bytes.Count(before, []byte{'\n'}) + 1,
		utf8.RuneCount(before[bytes.LastIndexByte(before, '\n')+1:]) + 1
}

// Cursor is Position for a text of which many places are asked for, in their order: it
// goes on from the last one.
type Cursor struct{ at, line, column int }

// Position is as the function of that name.
func (c *Cursor) Position(src []byte, at int) (line, column int) {
	at = min(at, len(src))
	if c.line == 0 || at < c.at {
		c.at, c.line, c.column = 0, 1, 1
	}
	passed := src[c.at:at]
	if n := bytes.Count(passed, []byte{'\n'}); n > 0 {
		c.line += n
		c.column = 1
		passed = passed[bytes.LastIndexByte(passed, '\n')+1:]
	}
	c.at, c.column = at, c.column+utf8.RuneCount(passed)
	return c.line, c.column
}
