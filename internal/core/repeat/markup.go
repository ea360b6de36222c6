package repeat

import "strings"

// Markup is the text of a block that shows the piece: what is the same everywhere, with its fields by their
// names. It is written in the shelf language, as the pages are.
func (p *Piece) Markup() []byte { return markupOf(nil, p.parts, p.Fields, "") }

// rowName is what a row is called within its loop.
const rowName = "entry"

func markupOf(out []byte, parts []part, fields []Field, of string) []byte {
	for i := range parts {
		x := &parts[i]
		switch x.kind {
		case fixed:
			out = append(out, x.bytes...)
		case up:
			out = append(out, "@{=page.to-top}"...)
		case value:
			out = append(out, "@{="+of+fields[x.hole].Name+"}"...)
		case when:
			out = append(out, "@{when "+of+fields[x.hole].Name...)
			if x.is != "" {
				out = append(out, ` is "`+x.is+`"`...)
			}
			out = append(out, '}')
			out = append(markupOf(out, x.body, fields, of), "@{/when}"...)
		case each:
			f := &fields[x.hole]
			out = append(out, "@{each "+of+f.Name+" as "+rowName+"}"...)
			out = append(markupOf(out, x.row, f.Fields, rowName+"."), "@{/each}"...)
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
