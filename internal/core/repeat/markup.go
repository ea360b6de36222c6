package repeat

import "strings"

// Markup is the text of a block that shows the piece: what is the same everywhere, with its fields by their
// names. It is written in the shelf language, as the pages are.
func (p *Piece) Markup() []byte { return p.markup(nil, p.parts) }

func (p *Piece) markup(out []byte, parts []part) []byte {
	for i := range parts {
		x := &parts[i]
		switch x.kind {
		case fixed:
			out = append(out, x.bytes...)
		case up:
			out = append(out, "@{=page.to-top}"...)
		case value:
			out = append(out, "@{="+p.Fields[x.hole].Name+"}"...)
		case when:
			out = append(out, "@{when "+p.Fields[x.hole].Name...)
			if x.is != "" {
				out = append(out, ` is "`+x.is+`"`...)
			}
			out = append(out, '}')
			out = append(p.markup(out, x.body), "@{/when}"...)
		}
	}
	return out
}

// Piece is the piece of an id; nil where there is none.
func (f *Found) Piece(id string) *Piece {
	for _, p := range f.Pieces {
		if strings.EqualFold(p.ID, id) {
			return p
		}
	}
	return nil
}

// Quote is the quotation mark around an attribute that the field is the value of; 0 where it is none.
func (f *Field) Quote() byte { return f.quote }
