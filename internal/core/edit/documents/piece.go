package documents

import (
	"bytes"
	"fmt"
	"html"
	"strings"

	nethtml "golang.org/x/net/html"
	"golang.org/x/net/html/atom"

	"brickshelf/internal/core/block"
	"brickshelf/internal/core/edit"
	"brickshelf/internal/core/edit/copies"
	"brickshelf/internal/core/edit/outline"
	"brickshelf/internal/core/explain"
	"brickshelf/internal/core/markup"
	"brickshelf/internal/core/patch"
	"brickshelf/internal/core/render"
	"brickshelf/internal/core/shelf"
	"brickshelf/internal/core/site"
)

// Part is something in a piece of a page that can become a field of a block made
// of it: a text, a link or an image.
type Part struct {
	Field string
	Type  block.Type
	Value string

	from, to int // byte offsets in the document
}

// Piece is a stretch of a page's text that can become a block: whole elements and
// whole calls.
type Piece struct {
	From, To int // byte offsets in the document, white space at the ends left out
	Parts    []Part
}

// CutPiece looks at a stretch of a page's document. It refuses what begins or ends
// inside a call or an element.
func CutPiece(s *shelf.Shelf, path string, from, to int) (*Piece, error) {
	in := s.Info(path)
	if in == nil {
		return nil, site.Missing("there is no page %s", path)
	}
	src, _ := s.Get(path)
	at := in.Page.Split.TextAt
	if from < at || to > len(src) || from >= to {
		return nil, site.Refuse("select a piece of the page's text, below its front matter")
	}
	piece := src[from:to]
	from += len(piece) - len(bytes.TrimLeft(piece, " \t\r\n"))
	to = from + len(bytes.TrimSpace(piece))
	if from >= to {
		return nil, site.Refuse("select whole elements; there is nothing here but white space")
	}
	tags, err := tagsIn(in.Page.Text, at, from, to)
	if err != nil {
		return nil, err
	}
	p := &Piece{From: from, To: to}
	return p, p.read(src, tags)
}

// tagsIn lists the tags of the shelf language in a stretch, none of which it may
// cut.
func tagsIn(t *markup.Text, at, from, to int) ([]markup.Span, error) {
	var tags []markup.Span
	cut := false
	markup.Walk(t.Nodes, func(n *markup.Node) bool {
		if n.Kind == markup.Literal {
			return true
		}
		whole := markup.Span{From: at + n.Span.From, To: at + n.Span.To}
		for _, s := range []markup.Span{n.Head, n.ElseTag, n.Tail} {
			tag := markup.Span{From: at + s.From, To: at + s.To}
			if s.Len() == 0 || tag.To <= from || tag.From >= to {
				continue
			}
			cut = cut || whole.From < from || whole.To > to || n.Kind == markup.Fill
			tags = append(tags, tag)
		}
		return true
	})
	if cut {
		return nil, site.Refuse("the piece begins or ends inside a call; select it whole")
	}
	return tags, nil
}

// read makes sure that the piece holds whole elements, and lists its parts. Tags of
// the shelf language are read as so many letters.
func (p *Piece) read(src []byte, tags []markup.Span) error {
	plain := append([]byte{}, src[p.From:p.To]...)
	for _, s := range tags {
		for i := s.From; i < s.To; i++ {
			plain[i-p.From] = 'x'
		}
	}
	z := nethtml.NewTokenizer(bytes.NewReader(plain))
	var open []atom.Atom
	at := 0
	for {
		t := z.Next()
		if t == nethtml.ErrorToken {
			break
		}
		raw := plain[at : at+len(z.Raw())]
		name, more := z.TagName()
		tag := atom.Lookup(name)
		switch t {
		case nethtml.TextToken:
			p.text(src, tags, at, raw, open)
		case nethtml.StartTagToken:
			for more {
				var k, v []byte
				k, v, more = z.TagAttr()
				p.attribute(src, tags, at, raw, tag, string(k), v)
			}
			if !outline.Void[tag] {
				open = append(open, tag)
			}
		case nethtml.EndTagToken:
			if len(open) == 0 || open[len(open)-1] != tag {
				return site.Refuse("the piece holds the end of an element whose beginning it does not hold; select whole elements")
			}
			open = open[:len(open)-1]
		}
		at += len(raw)
	}
	if len(open) > 0 || at < len(plain) {
		return site.Refuse("the piece holds the beginning of an element whose end it does not hold; select whole elements")
	}
	return nil
}

var headings = map[atom.Atom]bool{atom.H1: true, atom.H2: true, atom.H3: true, atom.H4: true, atom.H5: true,
	atom.H6: true}

func (p *Piece) text(src []byte, tags []markup.Span, at int, raw []byte, open []atom.Atom) {
	from := p.From + at + len(raw) - len(bytes.TrimLeft(raw, " \t\r\n"))
	to := from + len(bytes.TrimSpace(raw))
	name := "text"
	for _, o := range open {
		if o == atom.Script || o == atom.Style {
			return
		}
		if headings[o] {
			name = "title"
		}
	}
	p.offer(src, tags, from, to, name, block.Text, markup.InText)
}

func (p *Piece) attribute(src []byte, tags []markup.Span, at int, raw []byte, tag atom.Atom, key string,
	value []byte) {
	name, kind, ctx := "", block.Text, markup.InAttr
	switch {
	case key == "href" && tag == atom.A:
		name, kind, ctx = "link", block.Link, markup.InURL
	case key == "src" && tag == atom.Img:
		name, kind, ctx = "image", block.Image, markup.InURL
	case key == "alt" && tag == atom.Img:
		name = "alt"
	default:
		return
	}
	for _, quote := range []string{`"`, `'`} {
		written := key + "=" + quote + html.EscapeString(string(value)) + quote
		if i := bytes.Index(raw, []byte(written)); i >= 0 {
			from := p.From + at + i + len(key) + 2
			p.offer(src, tags, from, from+len(written)-len(key)-3, name, kind, ctx)
			return
		}
	}
}

// offer lists a part, where a field with its value gives back the same bytes.
func (p *Piece) offer(src []byte, tags []markup.Span, from, to int, name string, kind block.Type,
	ctx markup.Context) {
	if from >= to {
		return
	}
	for _, t := range tags {
		if from < t.To && t.From < to {
			return
		}
	}
	value := html.UnescapeString(string(src[from:to]))
	v, err := block.NewReader().Read(&block.Field{Name: name, Type: kind}, value)
	if err != nil || strings.Contains(value, "\n") ||
		string(block.Append(nil, v, ctx)) != string(src[from:to]) {
		return
	}
	field := name
	for n := 2; p.has(field); n++ {
		field = fmt.Sprintf("%s-%d", name, n)
	}
	p.Parts = append(p.Parts, Part{field, kind, value, from, to})
}

func (p *Piece) has(field string) bool {
	for _, o := range p.Parts {
		if o.Field == field {
			return true
		}
	}
	return false
}

// Wanted says what to make of a piece: a block's name, title and category, the
// fields that it has, and whether a call takes the place of the piece, or a copy.
type Wanted struct {
	Name, Title, Category string
	Fields                []string
	Link                  bool
}

// FromPiece makes a block of a piece of a page, which is its first placement, or a copy of it.
// The bytes of the page stay the same. Where the page has values of its own for calls in the
// piece, which a copy would lose, it stays as it is.
func FromPiece(s *shelf.Shelf, path string, from, to int, w Wanted) (site.ChangeSet, error) {
	set := site.ChangeSet{Title: "New block " + w.Title + " from " + path}
	if err := edit.FreeBlock(s, w.Name); err != nil {
		return set, err
	}
	p, err := CutPiece(s, path, from, to)
	if err != nil {
		return set, err
	}
	src, _ := s.Get(path)
	set.Changes = []site.Change{{Path: "blocks/" + w.Name + ".html", After: p.block(src, w)}}
	made := set.Changes
	after := patch.Apply(src, []patch.Replacement{patch.Put(p.From, p.To, "@{"+w.Name+" /}")})
	set.Changes = append(set.Changes, site.Change{Path: path, Before: s.Hash(path), After: after})
	o := s.With(set.Changes)
	if problems := o.DocProblems("blocks/" + w.Name + ".html"); len(problems) > 0 {
		return set, site.Refuse("this piece cannot stand in a block: %s", problems[0].Message)
	}
	same := bytes.Equal(render.AppendPage(s, nil, s.Info(path)), render.AppendPage(o, nil, o.Info(path))) &&
		len(explain.Faults(o, path)) <= len(explain.Faults(s, path))
	switch {
	case !w.Link && !same:
		set.Changes = made
	case !w.Link:
		return p.asCopy(o, s, set, w.Name)
	case !same:
		return set,
			site.Refuse("the page has values of its own for calls in or behind this piece, which would lose them; choose another piece, or let the spot stay as it is")
	}
	return set, nil
}

// asCopy makes a copy of the call of a new block that stands in the place of the piece in o.
func (p *Piece) asCopy(o, s *shelf.Shelf, set site.ChangeSet, name string) (site.ChangeSet, error) {
	path := set.Changes[1].Path
	nodes, at := outline.Steps(set.Changes[1].After)
	for _, n := range nodes {
		if at+n.Span.From != p.From {
			continue
		}
		copied, err := copies.Detach(o, path, n.Container+"/"+n.Step)
		if err != nil {
			return set, err
		}
		for _, c := range copied.Changes {
			if c.Path == path {
				set.Changes[1].After = c.After
			} else {
				set.Changes = append(set.Changes, c)
			}
		}
		return set, edit.Unchanged(s, set.Changes, "the piece cannot become a copy")
	}
	return set, site.Refuse("%s does not stand where the piece stood", name)
}

func (p *Piece) block(src []byte, w Wanted) []byte {
	head := "---\ntitle: " + site.PlainYAML(w.Title) + "\n"
	if w.Category != "" {
		head += "category: " + site.PlainYAML(w.Category) + "\n"
	}
	var list []patch.Replacement
	fields := ""
	for _, part := range p.Parts {
		for _, f := range w.Fields {
			if f == part.Field {
				fields += fmt.Sprintf("  %s: {type: %s, default: %s}\n", f, part.Type,
					site.QuoteYAML(part.Value))
				list = append(list, patch.Put(part.from-p.From, part.to-p.From, "@{="+f+"}"))
			}
		}
	}
	if fields != "" {
		head += "fields:\n" + fields
	}
	return append([]byte(head+"---\n"), patch.Apply(src[p.From:p.To], list)...)
}
