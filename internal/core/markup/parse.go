package markup

import (
	"bytes"
	"fmt"
	"strconv"
	"strings"
)

// MaxDepth is how deep calls, conditions and loops may stand in one another.
const MaxDepth = 100

// Reserved are the names that no block, shortcode or field can have.
var Reserved = []string{"when", "else", "each", "region", "fill", "copy", "assets", "key", "inner", "page",
	"site"}

// IsReserved reports whether name is part of the language.
func IsReserved(name string) bool {
	for _, r := range Reserved {
		if r == name {
			return true
		}
	}
	return false
}

// ValidName reports whether name may name a block, field, rule, layout or menu:
// a lower-case letter, then lower-case letters, digits and hyphens.
func ValidName(name string) bool {
	if name == "" || name[0] < 'a' || name[0] > 'z' {
		return false
	}
	for i := 1; i < len(name); i++ {
		if c := name[i]; !(c >= 'a' && c <= 'z' || c >= '0' && c <= '9' || c == '-') {
			return false
		}
	}
	return true
}

// Parse reads a text. It always returns a Text whose nodes cover src; faults
// are in its Errors.
func Parse(src []byte) *Text {
	p := &parser{src: src, text: &Text{Src: src}}
	// The nodes of a text lie side by side in memory: rendering walks them in order.
	p.slab = make([]Node, 0, 2*bytes.Count(src, []byte("@{"))+1)
	p.run()
	p.text.Nodes = p.root.Body
	number(p.text, 0)
	return p.text
}

type parser struct {
	src   []byte
	text  *Text
	root  Node
	stack []*Node
	slab  []Node
	told  int // how many faults were found
	more  int // where the first of those is that are not told
}

// keep puts a node among the others of the text.
func (p *parser) keep() *Node {
	if len(p.slab) == cap(p.slab) {
		p.slab = make([]Node, 0, 16)
	}
	p.slab = p.slab[:len(p.slab)+1]
	return &p.slab[len(p.slab)-1]
}

func (p *parser) leaf(kind Kind, from, to int) {
	n := p.keep()
	n.Kind, n.Span, n.Head = kind, Span{from, to}, Span{from, to}
	p.add(n)
}

// maxErrors is how many faults of a text are told; of more just their number.
const maxErrors = 100

func (p *parser) fail(at int, code, format string, args ...any) {
	if p.told++; p.told == maxErrors+1 {
		p.more = at
	}
	if p.told <= maxErrors {
		p.text.Errors = append(p.text.Errors, Error{At: at, Code: code, Message: fmt.Sprintf(format,
			args...)})
	}
}

func (p *parser) add(n *Node) {
	top := &p.root
	if len(p.stack) > 0 {
		top = p.stack[len(p.stack)-1]
	}
	if top.HasElse {
		top.Else = append(top.Else, n)
	} else {
		top.Body = append(top.Body, n)
	}
}

func (p *parser) literal(from, to int) {
	if from < to {
		p.leaf(Literal, from, to)
	}
}

func (p *parser) run() {
	pos, search := 0, 0
	brace := bytes.LastIndexByte(p.src, '}')
	for {
		i := bytes.Index(p.src[search:], []byte("@{"))
		if i < 0 {
			break
		}
		at := search + i
		if at > pos && p.src[at-1] == '@' {
			p.literal(pos, at-1)
			p.leaf(Escape, at-1, at+2)
			pos, search = at+2, at+2
			continue
		}
		s := &scanner{src: p.src, pos: at + 2, new: p.keep, brace: brace}
		n, closes, err := s.tag(at)
		if err != nil {
			p.fail(err.At, err.Code, "%s", err.Message)
			search = at + 2
			continue
		}
		if !p.place(n, closes, pos, at, s.pos) {
			search = at + 2
			continue
		}
		pos, search = s.pos, s.pos
	}
	p.literal(pos, len(p.src))
	for _, open := range p.stack {
		p.fail(open.Span.From, "unclosed", "%s is opened here and never closed; write %s where it ends",
			open.title(), open.closer())
		p.widen(open, len(p.src))
	}
	if more := p.told - maxErrors; more > 0 {
		p.text.Errors = append(p.text.Errors, Error{At: p.more, Code: "more",
			Message: fmt.Sprintf("%d more faults begin here", more)})
	}
}

func (p *parser) widen(n *Node, to int) { n.Span.To = to }

// place puts a scanned tag into the tree. It reports false where the tag cannot
// stand here, and its bytes then stay literal.
func (p *parser) place(n *Node, closes string, pos, at, end int) bool {
	if closes != "" {
		if len(p.stack) == 0 {
			p.fail(at, "unopened", "@{/%s} closes nothing; take it away or open @{%s …} before it", closes,
				closes)
			return false
		}
		top := p.stack[len(p.stack)-1]
		if top.word() != closes {
			p.fail(at, "mismatch", "@{/%s} stands where %s should close; write %s first", closes, top.title(),
				top.closer())
			return false
		}
		p.literal(pos, at)
		top.Tail = Span{at, end}
		top.Span.To = end
		p.stack = p.stack[:len(p.stack)-1]
		return true
	}
	if n == nil { // else
		if len(p.stack) == 0 || p.stack[len(p.stack)-1].Kind != When || p.stack[len(p.stack)-1].HasElse {
			p.fail(at, "stray-else", "@{else} stands outside @{when …} or for a second time")
			return false
		}
		p.literal(pos, at)
		top := p.stack[len(p.stack)-1]
		top.ElseTag, top.HasElse = Span{at, end}, true
		return true
	}
	if n.Closed && len(p.stack) >= MaxDepth {
		p.fail(at, "too-deep", "more than %d calls stand in one another here", MaxDepth)
		return false
	}
	p.literal(pos, at)
	n.Span, n.Head = Span{at, end}, Span{at, end}
	p.add(n)
	if n.Closed {
		p.stack = append(p.stack, n)
	}
	return true
}

func (n *Node) word() string {
	switch n.Kind {
	case When:
		return "when"
	case Each:
		return "each"
	case Region:
		return "region"
	case Fill:
		return "fill"
	case Copy:
		return "copy"
	case Inner:
		return "inner"
	}
	return n.Name
}

func (n *Node) title() string  { return "@{" + n.word() + " …}" }
func (n *Node) closer() string { return "@{/" + n.word() + "}" }

// frame is what calls are counted within: a region of a page, a block, a copy.
// outer is where the content enclosed in a copy was written.
type frame struct {
	address string
	loops   int
	outer   *frame
}

// number gives every call and copy its step and its container, and counts the
// loops around it. The first outermost nodes, so many as known says, have all that.
func number(t *Text, known int) {
	var counts tally
	for _, n := range t.Nodes[:known] {
		counts.count(n)
	}
	var walk func(nodes []*Node, in *frame)
	walk = func(nodes []*Node, in *frame) {
		for _, n := range nodes {
			n.Loops, n.Full = in.loops, n.full(t.Src)
			n.Plain = n.Kind == Call && in.loops == 0 && n.plain()
			if n.Kind == Call || n.Kind == Copy {
				step, count := n.ArgString("key"), counts.next(in.address, n.Name)
				switch {
				case step != "":
				case isStep(n.Step, n.Name, count):
					step = n.Step
				default:
					step = n.Name + "~" + strconv.Itoa(count)
				}
				if n.Container != in.address || n.Step != step {
					n.Container, n.Step = in.address, step
					n.Memo.Store(nil) // what is remembered may name the old address
				}
			}
			switch n.Kind {
			case Copy:
				walk(n.Body, &frame{address: in.address + "/" + n.Step, outer: in})
			case Inner:
				outer := in.outer
				if outer == nil {
					outer = &frame{address: "\x00outside"} // of a copy kept apart from the text around it
				}
				walk(n.Body, outer)
			case Fill:
				walk(n.Body, &frame{address: n.Name})
			case Each:
				turns := *in
				turns.loops++
				walk(n.Body, &turns)
			default:
				walk(n.Body, in)
				walk(n.Else, in)
			}
		}
	}
	walk(t.Nodes[known:], &frame{address: "main"})
}

// tally counts the calls of each name within a container. Texts have few, and going
// through them is faster than a map.
type tally struct {
	few  []counted
	many map[[2]string]int // where they are more than a few
}

type counted struct {
	container, name string
	count           int
}

// count counts a node that has its step, and what stands in it.
func (t *tally) count(n *Node) {
	if n.Kind == Call || n.Kind == Copy {
		t.next(n.Container, n.Name)
	}
	for _, b := range n.Body {
		t.count(b)
	}
	for _, b := range n.Else {
		t.count(b)
	}
}

func (t *tally) next(container, name string) int {
	if t.many != nil {
		t.many[[2]string{container, name}]++
		return t.many[[2]string{container, name}]
	}
	for i := range t.few {
		if c := &t.few[i]; c.name == name && c.container == container {
			c.count++
			return c.count
		}
	}
	if t.few = append(t.few, counted{container, name, 1}); len(t.few) > 64 {
		t.many = map[[2]string]int{}
		for _, c := range t.few {
			t.many[[2]string{c.container, c.name}] = c.count
		}
	}
	return 1
}

func (n *Node) plain() bool {
	for i := range n.Args {
		if n.Args[i].Value.Kind == ArgExpr {
			return false
		}
	}
	for _, b := range n.Body {
		if b.Kind != Literal && b.Kind != Escape && b.Kind != Comment {
			return false
		}
	}
	return true
}

// Quote writes s as an argument value in double quotes.
func Quote(s string) string { return quote(s, '"') }

// QuoteWritten writes HTML as an argument value that is shown as it is spelled.
func QuoteWritten(s string) string { return quote(s, '`') }

// Unquote is what a quoted text says, escapes read; the text itself where it is none.
func Unquote(quoted string) string {
	s := &scanner{src: []byte(quoted)}
	if quoted == "" || strings.IndexByte("\"'`", quoted[0]) < 0 {
		return quoted
	}
	if out, err := s.quoted(); err == nil {
		return out
	}
	return quoted
}

func quote(s string, q byte) string {
	var b strings.Builder
	b.WriteByte(q)
	for i := 0; i < len(s); i++ {
		switch s[i] {
		case q, '\\':
			b.WriteByte('\\')
			b.WriteByte(s[i])
		case '\n':
			b.WriteString(`\n`)
		case '\r':
			b.WriteString(`\r`)
		case '\t':
			b.WriteString(`\t`)
		default:
			b.WriteByte(s[i])
		}
	}
	b.WriteByte(q)
	return b.String()
}
