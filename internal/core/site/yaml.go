package site

import (
	"bytes"
	"errors"
	"fmt"
	"strings"

	"github.com/goccy/go-yaml"
	"github.com/goccy/go-yaml/ast"
	"github.com/goccy/go-yaml/parser"

	"brickshelf/internal/core/markup"
)

// YAMLKind is the kind of a YAML node.
type YAMLKind uint8

// The kinds of YAML nodes.
const (
	Null YAMLKind = iota
	Text
	Number
	Bool
	Sequence
	Mapping
)

// YAML is a node of a YAML document with its place in the file. Text holds a
// scalar as it was written, so that 0900 stays 0900.
type YAML struct {
	Kind  YAMLKind
	Text  string
	Pairs []Pair
	Items []*YAML
	Line  int
	Col   int

	at map[string]int // where the pairs are many: which has a key
}

// has reports whether a mapping has a key.
func (y *YAML) has(key string) bool {
	if y.at == nil && len(y.Pairs) > 32 {
		y.at = make(map[string]int, 2*len(y.Pairs))
		for i := range y.Pairs {
			y.at[y.Pairs[i].Key] = i
		}
	}
	return y.Get(key) != nil
}

// Pair is an entry of a mapping.
type Pair struct {
	Key   string
	Line  int
	Col   int
	Value *YAML
}

// Get returns the value under key, or nil.
func (y *YAML) Get(key string) *YAML {
	if y == nil {
		return nil
	}
	if y.at != nil {
		if i, ok := y.at[key]; ok {
			return y.Pairs[i].Value
		}
		return nil
	}
	for i := range y.Pairs {
		if y.Pairs[i].Key == key {
			return y.Pairs[i].Value
		}
	}
	return nil
}

type yamlFault struct {
	line, col int
	msg       string
}

// ParseYAML reads one YAML document. Lines count from firstLine. Anchors,
// aliases, tags and merge keys are refused: a text should say what it says. Line ends may
// be those of any system, and a byte order mark before the first line is no part of it.
func ParseYAML(src []byte, path string, firstLine int) (y *YAML, problem *Problem) {
	src, marked := bytes.CutPrefix(src, ByteOrderMark)
	// The parser of the package counts some line ends of two bytes as two lines.
	src = bytes.ReplaceAll(src, []byte("\r\n"), []byte("\n"))
	if len(bytes.TrimSpace(src)) == 0 {
		return &YAML{Kind: Mapping, Line: firstLine, Col: 1}, nil
	}
	fail := func(line, col int, format string, args ...any) {
		if marked && line == 1 {
			col++ // a byte order mark is a character of its line
		}
		y, problem = nil, &Problem{Code: "yaml", Severity: Invalid, Path: path, Line: line + firstLine - 1,
			Column: col, Message: fmt.Sprintf(format, args...)}
	}
	defer func() {
		if r := recover(); r != nil { // the parser of the package stumbles over some malformed texts
			fail(1, 1, "this is not readable as YAML")
		}
	}()
	if i := bytes.IndexByte(src, '\r'); i >= 0 {
		line, col := markup.Position(src, i)
		fail(line, col,
			"a carriage return stands here by itself; let lines end with a line feed, or with both")
		return
	}
	if line, col := tooDeep(src); line > 0 {
		fail(line, col, "this is nested too deep")
		return
	}
	if bytes.Count(src, []byte{':'}) > maxKeys && tooMany(src) {
		fail(1, 1, "this has more than %d keys; make several documents of it", maxKeys)
		return
	}
	f, err := parser.ParseBytes(src, 0, parser.AllowDuplicateMapKey())
	if err != nil {
		line, col, msg := 1, 1, err.Error()
		var ye yaml.Error
		if errors.As(err, &ye) {
			msg = ye.GetMessage()
			if t := ye.GetToken(); t != nil && t.Position != nil {
				line, col = t.Position.Line, t.Position.Column
			}
		}
		fail(line, col, "%s", yamlWord(msg))
		return
	}
	if len(f.Docs) != 1 || f.Docs[0].Body == nil {
		if len(f.Docs) > 1 {
			fail(1, 1, "only one YAML document can stand here")
			return
		}
		return &YAML{Kind: Mapping, Line: firstLine, Col: 1}, nil
	}
	c := converter{shift: firstLine - 1, marked: marked}
	y = c.node(f.Docs[0].Body, 0)
	if c.fault != nil {
		fail(c.fault.line, c.fault.col, "%s", c.fault.msg)
	}
	return
}

// maxBrackets is how many brackets may stand open in one another, those in texts counted:
// the parser of the package takes time without end for more.
const maxBrackets = 200

// maxKeys is how many lines with a key a text may have: the time that the parser of the
// package takes grows with the square of their number.
const maxKeys = 10_000

func tooMany(src []byte) bool {
	n := 0
	for line := range bytes.Lines(src) {
		if i := bytes.IndexByte(line, ':'); i > 0 && (i+1 == len(line) || line[i+1] == ' ' ||
			line[i+1] == '\n' || line[i+1] == '\r') {
			n++
		}
	}
	return n > maxKeys
}

// tooDeep is where more brackets than that stand open, 0 where they never do.
func tooDeep(src []byte) (line, col int) {
	open := 0
	for i, c := range src {
		switch c {
		case '[', '{':
			if open++; open > maxBrackets {
				return markup.Position(src, i)
			}
		case ']', '}':
			open = max(0, open-1)
		case '\n':
			if open > 0 && i+1 < len(src) && src[i+1] != ' ' && src[i+1] != '\t' && src[i+1] != ']' &&
				src[i+1] != '}' {
				open = 0 // a key at the beginning of a line is in no bracket
			}
		}
	}
	return 0, 0
}

type converter struct {
	shift  int
	marked bool // the first line begins with a byte order mark
	fault  *yamlFault
}

// place is where a token stands in the file.
func (c *converter) place(n ast.Node) (line, col int) {
	p := n.GetToken().Position
	if c.marked && p.Line == 1 {
		return 1 + c.shift, p.Column + 1
	}
	return p.Line + c.shift, p.Column
}

func (c *converter) fail(n ast.Node, format string, args ...any) *YAML {
	if c.fault == nil {
		p := n.GetToken().Position
		c.fault = &yamlFault{p.Line, p.Column, fmt.Sprintf(format, args...)}
	}
	return &YAML{}
}

func (c *converter) node(n ast.Node, depth int) *YAML {
	y := &YAML{}
	y.Line, y.Col = c.place(n)
	if depth > 50 {
		return c.fail(n, "this is nested too deep")
	}
	switch n := n.(type) {
	case *ast.NullNode:
	case *ast.StringNode:
		y.Kind, y.Text = Text, n.Value
	case *ast.LiteralNode:
		y.Kind, y.Text = Text, n.Value.Value
	case *ast.BoolNode:
		y.Kind, y.Text = Bool, fmt.Sprint(n.Value)
	case *ast.IntegerNode, *ast.FloatNode, *ast.InfinityNode, *ast.NanNode:
		y.Kind, y.Text = Number, strings.TrimSpace(n.GetToken().Value)
	case *ast.MappingNode:
		y.Kind = Mapping
		for _, v := range n.Values {
			c.pair(y, v, depth)
		}
	case *ast.MappingValueNode:
		y.Kind = Mapping
		c.pair(y, n, depth)
	case *ast.SequenceNode:
		y.Kind = Sequence
		for _, v := range n.Values {
			y.Items = append(y.Items, c.node(v, depth+1))
		}
	default:
		return c.fail(n, "anchors, aliases, tags and merge keys are not read here; write the value out")
	}
	if y.Kind == Mapping && len(y.Pairs) > 0 {
		y.Line, y.Col = y.Pairs[0].Line, y.Pairs[0].Col
	}
	return y
}

func (c *converter) pair(y *YAML, v *ast.MappingValueNode, depth int) {
	key, ok := v.Key.(ast.ScalarNode)
	if !ok || v.Key.Type() == ast.MergeKeyType || v.Key.Type() == ast.TagType ||
		v.Key.Type() == ast.AnchorType || v.Key.Type() == ast.AliasType {
		c.fail(v.Key, "a key should be a plain text")
		return
	}
	name := key.GetToken().Value
	if y.has(name) {
		c.fail(v.Key, "the key %s stands here for a second time", name)
		return
	}
	if y.at != nil {
		y.at[name] = len(y.Pairs)
	}
	p := Pair{Key: name, Value: c.node(v.Value, depth+1)}
	p.Line, p.Col = c.place(key)
	y.Pairs = append(y.Pairs, p)
}

// PlainYAML writes s as a YAML scalar on one line: as it is where that reads back
// as the same text, else in quotes.
func PlainYAML(s string) string {
	y, problem := ParseYAML([]byte("k: "+s+"\n"), "", 1)
	if s == "" || problem != nil || len(y.Pairs) != 1 || y.Pairs[0].Value.Kind != Text ||
		y.Pairs[0].Value.Text != s || strings.ContainsAny(s, "{}[],#\n\"'") {
		return QuoteYAML(s)
	}
	return s
}

// QuoteYAML writes s as a double-quoted YAML scalar on one line.
func QuoteYAML(s string) string {
	var b strings.Builder
	b.WriteByte('"')
	for _, r := range s {
		switch {
		case r == '"' || r == '\\':
			b.WriteByte('\\')
			b.WriteRune(r)
		case r == '\n':
			b.WriteString(`\n`)
		case r == '\t':
			b.WriteString(`\t`)
		case r == '\r':
			b.WriteString(`\r`)
		case r < 0x20 || r == 0x7f || r >= 0x80 && r < 0xa0 || r == 0x2028 || r == 0x2029 || r == 0xfeff:
			fmt.Fprintf(&b, `\u%04x`, r)
		default:
			b.WriteRune(r)
		}
	}
	b.WriteByte('"')
	return b.String()
}
