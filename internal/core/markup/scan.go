package markup

import (
	"bytes"
	"encoding/json"
	"fmt"
	"strings"
)

// scanner reads one tag, from behind its "@{" to behind its "}".
type scanner struct {
	src []byte
	pos int
	new func() *Node // where the tag's node comes from

	brace int // where the last "}" of the text stands
}

func (s *scanner) node(kind Kind) *Node {
	n := s.new()
	n.Kind = kind
	return n
}

func (s *scanner) err(at int, code, format string, args ...any) *Error {
	return &Error{At: at, Code: code, Message: fmt.Sprintf(format, args...)}
}

func (s *scanner) peek() byte {
	if s.pos < len(s.src) {
		return s.src[s.pos]
	}
	return 0
}

func (s *scanner) space() {
	for s.pos < len(s.src) && strings.IndexByte(" \t\r\n", s.src[s.pos]) >= 0 {
		s.pos++
	}
}

func (s *scanner) name() string {
	from := s.pos
	for s.pos < len(s.src) {
		c := s.src[s.pos]
		if c >= 'a' && c <= 'z' || s.pos > from && (c >= '0' && c <= '9' || c == '-' || c == '_') {
			s.pos++
			continue
		}
		break
	}
	return string(s.src[from:s.pos])
}

func (s *scanner) end(what string) *Error {
	s.space()
	if s.peek() != '}' {
		return s.err(s.pos, "syntax", "%s should end with } here", what)
	}
	s.pos++
	return nil
}

// tag reads the tag that begins at at. It returns a node, or the name that a
// closing tag closes, or neither for @{else}.
func (s *scanner) tag(at int) (*Node, string, *Error) {
	switch c := s.peek(); {
	case c == '#':
		if s.brace < s.pos {
			return nil, "", s.err(at, "unclosed", "the comment @{# is never closed; write } where it ends")
		}
		s.pos += bytes.IndexByte(s.src[s.pos:], '}') + 1
		return s.node(Comment), "", nil
	case c == '/':
		s.pos++
		name := s.name()
		if name == "" {
			return nil, "", s.err(at, "syntax", "@{/ should name what it closes, as in @{/when}")
		}
		return nil, name, s.end("@{/" + name)
	case c == '=':
		s.pos++
		e, err := s.expr()
		if err != nil {
			return nil, "", err
		}
		if e.Not || e.Is != nil {
			return nil, "", s.err(e.Span.From, "syntax",
				"a condition has no text to show; use @{when …} for it")
		}
		n := s.node(Value)
		n.Expr = e
		return n, "", s.end("the value")
	case c >= 'a' && c <= 'z':
		return s.named(at)
	}
	return nil, "", s.err(at, "syntax",
		"@{ should be followed by a name, =, # or /; write @@{ for a literal @{")
}

func (s *scanner) named(at int) (*Node, string, *Error) {
	nameAt := s.pos
	name := s.name()
	if name == "else" {
		return nil, "", s.end("@{else")
	}
	n := s.node(Call)
	n.Name, n.NameAt = name, nameAt
	switch name {
	case "when":
		e, err := s.expr()
		if err != nil {
			return nil, "", err
		}
		n.Kind, n.Name, n.Expr, n.Closed = When, "", e, true
		return n, "", s.end("@{when …")
	case "each":
		return s.each(n)
	case "region", "fill":
		return s.place(n, name)
	case "page", "site", "key":
		return nil, "", s.err(nameAt, "reserved-name",
			"%q is part of the language and cannot be called; to show a value write @{=%s.…}", name, name)
	case "copy":
		n.Kind = Copy
	case "inner":
		n.Kind = Inner
	case "assets":
		n.Kind = Assets
	}
	if err := s.args(n); err != nil {
		return nil, "", err
	}
	switch n.Kind {
	case Copy:
		n.Name = n.ArgString("of")
		if !ValidName(n.Name) {
			return nil, "", s.err(at, "syntax",
				`@{copy} should say what it is a copy of, as in @{copy of="hours" base="…"}`)
		}
		if !n.Closed {
			return nil, "", s.err(at, "syntax", "@{copy …} should hold the copied text and end with @{/copy}")
		}
	case Inner:
		if !n.Closed {
			return nil, "", s.err(at, "syntax",
				"@{inner} should hold text and end with @{/inner}; to show enclosed content write @{=inner}")
		}
	case Assets:
		if n.Closed || len(n.Args) > 0 {
			return nil, "", s.err(at, "syntax", "@{assets /} takes no arguments and holds nothing")
		}
	}
	return n, "", nil
}

func (s *scanner) each(n *Node) (*Node, string, *Error) {
	e, err := s.expr()
	if err != nil {
		return nil, "", err
	}
	s.space()
	wordAt := s.pos
	if w := s.name(); w != "as" {
		return nil, "", s.err(wordAt, "syntax", "@{each LIST should go on with: as NAME}")
	}
	s.space()
	nameAt := s.pos
	as := s.name()
	if !ValidName(as) {
		return nil, "", s.err(nameAt, "syntax",
			"the loop variable should be a name of lower-case letters, digits and hyphens")
	}
	if IsReserved(as) {
		return nil, "", s.err(nameAt, "reserved-name",
			"%q is part of the language and cannot name a loop variable", as)
	}
	n.Kind, n.Name, n.Expr, n.As, n.Closed = Each, "", e, as, true
	return n, "", s.end("@{each …")
}

func (s *scanner) place(n *Node, word string) (*Node, string, *Error) {
	s.space()
	n.Kind, n.NameAt = Region, s.pos
	n.Name = s.name()
	if !ValidName(n.Name) {
		return nil, "", s.err(n.NameAt, "syntax", "@{%s should name a region, as in @{%s main …", word, word)
	}
	s.space()
	if word == "region" && s.peek() == '/' {
		s.pos++
		return n, "", s.end("@{region " + n.Name + " /")
	}
	n.Closed = true
	if word == "fill" {
		n.Kind = Fill
	}
	return n, "", s.end("@{" + word + " " + n.Name)
}

// maxArgs is how many arguments a call may have.
const maxArgs = 500

func (s *scanner) args(n *Node) *Error {
	for {
		before := s.pos
		s.space()
		switch c := s.peek(); {
		case c == '}':
			s.pos++
			n.Closed = true
			return nil
		case c == '/':
			s.pos++
			return s.end("/")
		case c == 0 && s.pos >= len(s.src):
			return s.err(n.NameAt, "unclosed", "@{%s is never closed; write /} or } where it ends", n.Name)
		case before == s.pos:
			return s.err(s.pos, "syntax", "a space should stand before this, or @{%s should end with /} or }",
				n.Name)
		}
		at := s.pos
		name := s.name()
		if name == "" {
			return s.err(at, "syntax", "an argument should be written name=value")
		}
		if s.peek() != '=' {
			return s.err(s.pos, "syntax", "the argument %s should go on with = and a value", name)
		}
		s.pos++
		if len(n.Args) == maxArgs {
			return s.err(at, "syntax", "a call may have %d arguments; put what they say into a list", maxArgs)
		}
		if _, twice := n.Arg(name); twice {
			return s.err(at, "duplicate-argument", "the argument %s is given twice", name)
		}
		v, err := s.value(name)
		if err != nil {
			return err
		}
		if name == "key" && (v.Kind == ArgExpr || v.Kind == ArgJSON || v.Text == "" ||
			strings.ContainsAny(v.Text, "/\x00 ")) {
			return s.err(at, "syntax", "a key should be a plain text without blanks and slashes")
		}
		n.Args = append(n.Args, Arg{Name: name, At: at, Value: v})
	}
}

func (s *scanner) value(name string) (ArgValue, *Error) {
	at := s.pos
	switch c := s.peek(); {
	case c == '"' || c == '\'':
		t, err := s.quoted()
		return ArgValue{Kind: ArgText, Text: t, Span: Span{at, s.pos}}, err
	case c == '`':
		t, err := s.quoted()
		return ArgValue{Kind: ArgText, Text: SpelledAs(t).Text, Written: t, Span: Span{at, s.pos}}, err
	case c == '(':
		s.pos++
		e, err := s.expr()
		if err != nil {
			return ArgValue{}, err
		}
		s.space()
		if s.peek() != ')' {
			return ArgValue{}, s.err(s.pos, "syntax", "the expression should end with ) here")
		}
		s.pos++
		return ArgValue{Kind: ArgExpr, Expr: e, Span: Span{at, s.pos}}, nil
	case c == '[' || c == '{':
		v, err := s.list()
		if err != nil {
			return ArgValue{}, s.err(at, "syntax", "the value of %s should be a JSON list or object: %v",
				name, err)
		}
		return ArgValue{Kind: ArgJSON, JSON: v, Span: Span{at, s.pos}}, nil
	}
	for s.pos < len(s.src) && !strings.ContainsRune(" \t\r\n}\"'()[]{=", rune(s.src[s.pos])) {
		if s.src[s.pos] == '/' && s.pos+1 < len(s.src) && s.src[s.pos+1] == '}' {
			break
		}
		s.pos++
	}
	w := string(s.src[at:s.pos])
	v := ArgValue{Kind: ArgText, Text: w, Span: Span{at, s.pos}}
	switch {
	case w == "":
		return v, s.err(at, "syntax", "the argument %s needs a value; quote a text", name)
	case w == "true" || w == "false":
		v.Kind = ArgBool
	case isNumber(w):
		v.Kind = ArgNumber
	}
	return v, nil
}

// isNumber reports whether w is a number as JSON writes it.
func isNumber(w string) bool {
	var n json.Number
	return w != "" && (w[0] == '-' || w[0] >= '0' && w[0] <= '9') && json.Unmarshal([]byte(w), &n) == nil
}

func (s *scanner) quoted() (string, *Error) {
	at, q := s.pos, s.peek()
	var out []byte
	for s.pos++; s.pos < len(s.src); s.pos++ {
		switch c := s.src[s.pos]; {
		case c == q:
			s.pos++
			return string(out), nil
		case c == '\\' && s.pos+1 < len(s.src):
			s.pos++
			switch e := s.src[s.pos]; e {
			case 'n':
				out = append(out, '\n')
			case 'r':
				out = append(out, '\r')
			case 't':
				out = append(out, '\t')
			default:
				out = append(out, e)
			}
		default:
			out = append(out, c)
		}
	}
	return "", s.err(at, "unclosed", "the quoted text that begins here is never closed")
}

// expr reads EXPR: [not] TERM {or TERM} [is LITERAL].
func (s *scanner) expr() (*Expr, *Error) {
	s.space()
	e := &Expr{Span: Span{From: s.pos}}
	first := true
	for {
		s.space()
		t, err := s.term()
		if err != nil {
			return nil, err
		}
		if first && len(t.Path) == 1 && t.Path[0] == "not" {
			e.Not, first = true, false
			continue
		}
		first = false
		e.Terms = append(e.Terms, t)
		e.Span.To = s.pos
		s.space()
		save := s.pos
		switch s.name() {
		case "or":
			continue
		case "is":
			s.space()
			bare := s.peek() != '"' && s.peek() != '\''
			v, err := s.value("is")
			if err != nil && !bare {
				return nil, err
			}
			if err != nil || v.Kind == ArgExpr || v.Kind == ArgJSON {
				return nil, s.err(s.pos, "syntax",
					`the word is should be followed by a literal, as in: tone is "calm"`)
			}
			e.Is, e.Span.To = &v.Text, s.pos
			return e, nil
		}
		s.pos = save
		return e, nil
	}
}

func (s *scanner) term() (Term, *Error) {
	t := Term{At: s.pos}
	if c := s.peek(); c == '"' || c == '\'' {
		text, err := s.quoted()
		t.Literal = &text
		return t, err
	}
	for {
		at := s.pos
		w := s.name()
		if w == "" {
			return t,
				s.err(at, "syntax",
					"a name should stand here: a field, page.X, site.X, a loop variable or inner")
		}
		t.Path = append(t.Path, w)
		if s.peek() != '.' {
			return t, nil
		}
		s.pos++
	}
}
