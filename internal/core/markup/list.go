package markup

import (
	"bytes"
	"encoding/json"
	"html"
	"maps"
	"slices"
	"strings"
)

// Spelled is a text within a list or object that is written in backquotes: what it says, and how HTML
// spells that, which is shown.
type Spelled struct{ Text, Written string }

// SpelledAs is what HTML says: its text, or HTML itself where it has tags.
func SpelledAs(written string) Spelled {
	s := Spelled{written, written}
	if strings.IndexByte(written, '<') < 0 {
		s.Text = html.UnescapeString(written)
	}
	return s
}

// spelledKey is the key of an object that stands for a text in backquotes while JSON is read.
const spelledKey = "\x00spelled"

// list reads a JSON list or object in which texts may stand in backquotes as well.
func (s *scanner) list() (any, error) {
	d := json.NewDecoder(bytes.NewReader(s.src[s.pos:]))
	d.UseNumber()
	var v any
	err := d.Decode(&v)
	if err == nil {
		s.pos += int(d.InputOffset())
		return v, nil
	}
	plain, end := s.unspelled()
	if plain == nil {
		return nil, err
	}
	d = json.NewDecoder(bytes.NewReader(plain))
	d.UseNumber()
	if d.Decode(&v) != nil {
		return nil, err
	}
	s.pos = end
	return respelled(v), nil
}

// unspelled is a list or object without its backquotes, and where it ends; nil where it has none, or holds
// what no JSON does.
func (s *scanner) unspelled() (plain []byte, end int) {
	t := &scanner{src: s.src, pos: s.pos}
	last, depth := t.pos, 0
	for t.pos < len(t.src) {
		switch c := t.src[t.pos]; {
		case c == '[' || c == '{':
			depth++
		case c == ']' || c == '}':
			if depth--; depth == 0 {
				t.pos++
				if plain == nil {
					return nil, 0
				}
				return append(plain, t.src[last:t.pos]...), t.pos
			}
		case c == '"' || c == '`':
			from := t.pos
			written, err := t.quoted()
			if err != nil {
				return nil, 0
			}
			if c == '`' {
				b, _ := json.Marshal(map[string]string{spelledKey: written}) // texts can always be written
				plain = append(append(plain, t.src[last:from]...), b...)
				last = t.pos
			}
			continue
		case strings.IndexByte(" \t\r\n,:+-.", c) < 0 && (c|0x20 < 'a' || c|0x20 > 'z') && (c < '0' || c > '9'):
			return nil, 0
		}
		t.pos++
	}
	return nil, 0
}

// respelled puts the texts in backquotes where they were.
func respelled(v any) any {
	switch t := v.(type) {
	case []any:
		for i := range t {
			t[i] = respelled(t[i])
		}
	case map[string]any:
		if w, ok := t[spelledKey].(string); ok && len(t) == 1 {
			return SpelledAs(w)
		}
		for k := range t {
			t[k] = respelled(t[k])
		}
	}
	return v
}

// Unspelled is a list or object with what its texts in backquotes say in their place.
func Unspelled(v any) any {
	switch t := v.(type) {
	case Spelled:
		return t.Text
	case []any:
		out := make([]any, len(t))
		for i := range t {
			out[i] = Unspelled(t[i])
		}
		return out
	case map[string]any:
		out := make(map[string]any, len(t))
		for k := range t {
			out[k] = Unspelled(t[k])
		}
		return out
	}
	return v
}

// Respell is a list or object in which what an old one says, too, is spelled as it is there: items that are
// the same wherever they stand now, and of others what they say still at their place.
func Respell(v, old any) any {
	switch t := v.(type) {
	case string:
		if s, ok := old.(Spelled); ok && s.Text == t {
			return s
		}
	case []any:
		was, _ := old.([]any)
		kept := map[string][]any{} // by what they say
		for _, item := range was {
			says := QuoteList(Unspelled(item))
			kept[says] = append(kept[says], item)
		}
		for i, item := range t {
			says := QuoteList(item)
			if same := kept[says]; len(same) > 0 {
				t[i], kept[says] = same[0], same[1:]
			} else if i < len(was) {
				t[i] = Respell(item, was[i])
			}
		}
	case map[string]any:
		was, _ := old.(map[string]any)
		for k := range t {
			t[k] = Respell(t[k], was[k])
		}
	}
	return v
}

// QuoteList writes a list or object as an argument value.
func QuoteList(v any) string {
	switch t := v.(type) {
	case Spelled:
		return QuoteWritten(t.Written)
	case []any:
		parts := make([]string, len(t))
		for i := range t {
			parts[i] = QuoteList(t[i])
		}
		return "[" + strings.Join(parts, ",") + "]"
	case map[string]any:
		var parts []string
		for _, k := range slices.Sorted(maps.Keys(t)) {
			parts = append(parts, QuoteList(k)+":"+QuoteList(t[k]))
		}
		return "{" + strings.Join(parts, ",") + "}"
	}
	var out strings.Builder
	e := json.NewEncoder(&out)
	e.SetEscapeHTML(false) // it is to be read by people
	if e.Encode(v) != nil {
		return `""`
	}
	return strings.TrimSuffix(out.String(), "\n")
}
