package adopting

import (
	"bytes"

	"brickshelf/internal/core/block"
	"brickshelf/internal/core/markup"
	"brickshelf/internal/core/repeat"
	"brickshelf/internal/core/site"
)

// listOf works out how a list is declared and what the calls say of it. bad are places of which a row holds
// what cannot stand in a list.
func (a *adoption) listOf(p *repeat.Piece, f *repeat.Field, bad []bool) field {
	out := field{declared: declared(f, "", false), args: make([]string, len(p.Places))}
	for i, found := range f.Rows {
		// JSON is UTF-8; a page of another encoding has no way to write more than ASCII in it.
		if a.pages[p.Places[i].Page].Encoded != nil && !ascii(f.Values[i]) {
			bad[i] = true
			continue
		}
		items, ok := a.items(f, found)
		bad[i] = bad[i] || !ok
		if len(items) > 0 {
			out.args[i] = " " + f.Name + "=" + markup.QuoteList(items)
		}
	}
	return out
}

// items are rows as a list has them: groups of values by the names of the fields of a row.
func (a *adoption) items(f *repeat.Field, found []repeat.Row) ([]any, bool) {
	items, all := make([]any, len(found)), true
	for r, row := range found {
		item := map[string]any{}
		for k, raw := range row {
			if raw == nil {
				continue
			}
			in := &f.Fields[k]
			v, ok := a.cell(&block.Field{Name: in.Name, Type: block.Type(in.Type)}, in, bytes.ReplaceAll(raw, []byte("@@{"), []byte("@{")))
			item[in.Name], all = v, all && ok
		}
		items[r] = item
	}
	return items, all
}

// cell is a value of a row as a list has it: as it is read, where that gives its bytes back, else as it is
// spelled.
func (a *adoption) cell(b *block.Field, f *repeat.Field, v []byte) (any, bool) {
	if f.Type == repeat.Switch {
		return true, true
	}
	arg, exact, ok := a.spelled(b, f, v)
	if !ok {
		return nil, false
	}
	if !exact {
		return markup.SpelledAs(string(v)), true
	}
	text, ok := argumentText(arg)
	return text, ok
}

func ascii(b []byte) bool {
	return bytes.IndexFunc(b, func(r rune) bool { return r >= 0x80 }) < 0
}

// inline is a field as a list declares it.
func inline(f *repeat.Field) string {
	out := "{type: " + string(f.Type) + ", label: " + site.PlainYAML(label(f.Name)) + choicesOf(f)
	if len(f.Fields) > 0 {
		out += ", fields: {"
		for k := range f.Fields {
			if k > 0 {
				out += ", "
			}
			out += f.Fields[k].Name + ": " + inline(&f.Fields[k]) + "}"
		}
		out += "}"
	}
	return out
}
