package block

import (
	"unicode/utf8"

	"brickshelf/internal/core/markup"
	"brickshelf/internal/core/site"
)

// Block is a reusable piece of a site: front matter that describes it and its
// fields, and markup.
type Block struct {
	Name      string
	Path      string
	Title     string
	Category  string
	About     string
	Sample    string
	SampleAt  [2]int // line and column
	Behaviour Behaviour
	Overlay   bool     // it shows something over the page, under the id in its field id
	Library   *Library // where it came from; nil where it is the site's own
	Fields    []*Field
	Split     site.Split
	Text      *markup.Text

	index map[string]int
}

// Field returns the position of a field in Fields, or -1.
func (b *Block) Field(name string) int {
	if len(b.Fields) <= 8 { // faster than a map
		for i, f := range b.Fields {
			if f.Name == name {
				return i
			}
		}
		return -1
	}
	if i, ok := b.index[name]; ok {
		return i
	}
	return -1
}

// FieldNames are the names of the fields, in order.
func (b *Block) FieldNames() []string {
	out := make([]string, len(b.Fields))
	for i, f := range b.Fields {
		out[i] = f.Name
	}
	return out
}

// Of is a thing with fields that is called like a block and has no markup.
func Of(name, path string, fields []*Field) *Block {
	b := &Block{Name: name, Path: path, Title: name, Fields: fields, Text: markup.Parse(nil),
		index: map[string]int{}}
	for i, f := range fields {
		b.index[f.Name] = i
	}
	return b
}

// Parse reads a block. The problems say what is wrong with it by itself; names
// that it calls are not looked up here.
func Parse(name, path string, src []byte, r *Reader) (*Block, site.Problems) {
	b := &Block{Name: name, Path: path, Title: name, index: map[string]int{}}
	h := &Head{Path: path, Reader: r}
	if !utf8.Valid(src) {
		h.Fail(1, 1, "encoding", "a block should be UTF-8; save the file in that encoding")
		b.Text = markup.Parse(nil)
		return b, h.Problems
	}
	split, y := h.Document(src)
	b.Split = split
	h.Keys(y, "a block", []string{"title", "category", "about", "sample", "behaviour", "overlay", "library", "fields"}, func(p site.Pair) {
		switch p.Key {
		case "title":
			b.Title = h.String(p)
		case "category":
			b.Category = h.String(p)
		case "about":
			b.About = h.String(p)
		case "sample":
			b.Sample, b.SampleAt = h.String(p), [2]int{p.Value.Line, p.Value.Col}
		case "behaviour":
			b.behaviour(h, p.Value)
		case "overlay":
			if b.Overlay = p.Value.Text == "true"; p.Value.Kind != site.Bool {
				h.Fail(p.Value.Line, p.Value.Col, "wrong-type", "overlay should be true or false")
			}
		case "library":
			b.Library = h.Library(p.Value)
		case "fields":
			b.Fields = h.Fields(p.Value)
		}
	})
	for i, f := range b.Fields {
		b.index[f.Name] = i
	}
	b.given(h)
	if i := b.Field("id"); b.Overlay && (i < 0 || b.Fields[i].Type != Text) {
		h.Fail(1, 1, "missing-key",
			"an overlay is opened by its id; give it a field for that, as in id: {type: text, default: %s}", name)
	}
	b.Text = h.Markup(split)
	if e, open := b.Text.Unended(); open {
		h.Problems = append(h.Problems, site.At(split, h.Path, e.At, site.Invalid, e.Code, "%s", e.Message))
	}
	b.names(h, split)
	return b, h.Problems
}

// Document cuts a document and reads its front matter.
func (h *Head) Document(src []byte) (site.Split, *site.YAML) {
	empty := &site.YAML{Kind: site.Mapping, Line: 1, Col: 1}
	split, bad := site.Cut(src)
	if bad != "" {
		h.Fail(1, 1, "yaml", "%s", bad)
		return split, empty
	}
	if !split.HasHead {
		return split, empty
	}
	y, problem := site.ParseYAML(split.Head, h.Path, split.HeadLine)
	if problem != nil {
		h.Problems = append(h.Problems, *problem)
		return split, empty
	}
	return split, y
}

// Markup parses a document's text and notes its syntax errors and misplaced values.
func (h *Head) Markup(split site.Split) *markup.Text {
	t := markup.Parse(split.Text)
	h.Texts(split, t)
	return t
}

// Texts notes the faults of a parsed text.
func (h *Head) Texts(split site.Split, t *markup.Text) {
	for _, e := range t.Errors {
		h.Problems = append(h.Problems, site.At(split, h.Path, e.At, site.Invalid, e.Code, "%s", e.Message))
	}
	for _, e := range t.Contexts() {
		h.Problems = append(h.Problems, site.At(split, h.Path, e.At, site.Invalid, e.Code, "%s", e.Message))
	}
}

// Apart notes the faults of a text that stands in YAML, at a line and column, and that
// is neither a layout nor a page. what is a word for it, as in "this panel".
func (h *Head) Apart(t *markup.Text, line, col int, what string) {
	note := func(at int, code, message string) {
		l, c := markup.Position(t.Src, at)
		h.Fail(line, col, code, "in %s, line %d, column %d: %s", what, l, c, message)
	}
	for _, e := range append(append([]markup.Error{}, t.Errors...), t.Contexts()...) {
		note(e.At, e.Code, e.Message)
	}
	markup.Walk(t.Nodes, func(n *markup.Node) bool {
		switch n.Kind {
		case markup.Region, markup.Fill, markup.Assets:
			note(n.Span.From, "bad-place", "@{"+kindWord(n)+"} belongs into a layout or page")
		}
		return true
	})
}

// names checks that values in the markup are fields, loop variables or known
// roots, and that nothing stands here that belongs into layouts and pages.
func (b *Block) names(h *Head, split site.Split) {
	CheckNames(h, split, b.Text, b, func(n *markup.Node) {
		switch n.Kind {
		case markup.Region, markup.Fill, markup.Assets:
			h.Problems = append(h.Problems, site.At(split, h.Path, n.Span.From, site.Invalid, "bad-place",
				"@{%s} belongs into a layout or page, not into a block", kindWord(n)))
		}
	})
}

func kindWord(n *markup.Node) string {
	switch n.Kind {
	case markup.Region:
		return "region " + n.Name
	case markup.Fill:
		return "fill " + n.Name
	}
	return "assets"
}

// CheckNames notes every value in a text that nothing defines. b is nil for
// pages and layouts, which have no fields of their own.
func CheckNames(h *Head, split site.Split, t *markup.Text, b *Block, visit func(*markup.Node)) {
	var walk func(nodes []*markup.Node, vars []string)
	expr := func(e *markup.Expr, vars []string) {
		if e == nil {
			return
		}
		for i := range e.Terms {
			term := &e.Terms[i]
			if b != nil && term.Literal == nil && !contains(vars, term.Path[0]) {
				term.Slot = b.Field(term.Path[0]) + 1
			}
			if term.Literal != nil || knownRoot(term.Path, b, vars) {
				continue
			}
			names := append([]string{"page", "site"}, vars...)
			if b != nil {
				names = append(append(names, "inner"), b.FieldNames()...)
			}
			h.Problems = append(h.Problems, site.At(split, h.Path, term.At, site.Invalid, "unknown-name",
				"nothing here is called %s%s", term.Path[0], Nearest(term.Path[0], names)))
		}
	}
	walk = func(nodes []*markup.Node, vars []string) {
		for _, n := range nodes {
			visit(n)
			expr(n.Expr, vars)
			for _, a := range n.Args {
				expr(a.Value.Expr, vars)
			}
			inner := vars
			if n.Kind == markup.Each {
				inner = append(append([]string{}, vars...), n.As)
			}
			walk(n.Body, inner)
			walk(n.Else, vars)
		}
	}
	walk(t.Nodes, nil)
}

func contains(list []string, s string) bool {
	for _, l := range list {
		if l == s {
			return true
		}
	}
	return false
}

func knownRoot(path []string, b *Block, vars []string) bool {
	switch path[0] {
	case "page", "site":
		return len(path) >= 2
	case "inner":
		return b != nil || len(path) == 1
	}
	return contains(vars, path[0]) || b != nil && b.Field(path[0]) >= 0
}
