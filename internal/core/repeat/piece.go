package repeat

import (
	"bytes"
	"cmp"
	"fmt"
	"regexp"
	"slices"
	"strconv"
	"strings"
	"unicode/utf8"
)

// Kind tells what a piece is for.
type Kind string

// The kinds of piece.
const (
	Frame   Kind = "frame"   // around the content of pages: header, navigation, footer
	Content Kind = "content" // in it: notes, tables, cards
)

// Place is where a piece stands: a stretch of a page's document.
type Place struct {
	Page     int // its number among those that were looked through
	Path     string
	From, To int // byte offsets in the document
	// Differs is where an odd place begins to be something else, as a byte offset in the document.
	Differs int
}

// FieldType is the type of a field, as fields of blocks have them.
type FieldType string

// The types of fields that are found.
const (
	Text   FieldType = "text"
	Rich   FieldType = "rich"
	Link   FieldType = "link"
	Image  FieldType = "image"
	Switch FieldType = "switch"
	Choice FieldType = "choice"
	List   FieldType = "list"
)

// Field is something in which the places of a piece differ.
type Field struct {
	Name string
	Type FieldType
	// Values are those of the places, in their order, as they are written there; nil where a place has
	// none.
	Values [][]byte
	// Spacing is set where the places differ in white space alone.
	Spacing bool
	// Fields are those of a row of a list; their values are those of all rows. Rows are the rows of each
	// place.
	Fields []Field
	Rows   [][]Row

	quote byte
}

// RowsText is what the rows of a list say at a place, by its number, as one reads it: of each row its first
// text that is no attribute, else its first value.
func (f *Field) RowsText(place int) []string {
	best := max(slices.IndexFunc(f.Fields, func(k Field) bool {
		return k.quote == 0 && (k.Type == Text || k.Type == Rich)
	}), 0)
	var out []string
	for _, row := range f.Rows[place] {
		out = append(out, string(bytes.TrimSpace(anyTag.ReplaceAll(row[best], nil))))
	}
	return out
}

var anyTag = regexp.MustCompile(`<[^>]*>`)

// Different is how many values there are, each counted once.
func (f *Field) Different() int {
	seen := map[string]bool{}
	for _, v := range f.Values {
		if v != nil {
			seen[string(v)] = true
		}
	}
	return len(seen)
}

// Optional reports whether some places have no value.
func (f *Field) Optional() bool {
	return slices.ContainsFunc(f.Values, func(v []byte) bool { return v == nil })
}

// Piece is what is repeated: a template with fields, and its places.
type Piece struct {
	ID     string
	Title  string
	Kind   Kind
	Pages  int
	Places []Place
	Bytes  int // that would be saved
	Fields []Field
	// Odd are places that the template cannot give: what differs there is no value, such as a call.
	Odd []Place
	// Within names the piece in which this one stands, where most of it does.
	Within string

	parts  []part
	spots  []spot
	share  float64 // of its bytes that are the same everywhere
	score  float64
	layout bool // it is most of its pages
}

// classes are spots of which no two have the same bytes on pages that stand equally deep.
func (f *finder) classes(spots []spot) []spot {
	seen := map[string]bool{}
	var out []spot
	for _, s := range spots {
		p := &f.pages[s.page]
		if key := string(p.bytes(s)) + "\x00" + p.Up; !seen[key] {
			seen[key] = true
			out = append(out, s)
		}
	}
	return out
}

// bytes are those of a spot.
func (p *page) bytes(s spot) []byte { return p.Text[p.tokens[s.first].from:p.tokens[s.last].to] }

// readable reports whether what all places share is UTF-8.
func readable(parts []part) bool {
	ok := true
	deep(parts, func(p *part) { ok = ok && utf8.Valid(p.bytes) })
	return ok
}

// mostFields is how many fields a piece has, where fewer can hold what differs.
const mostFields = 12

// lay lays some spots of a proposal over one another and makes a piece of all of them; nil where nothing that
// is worth it is the same.
func (f *finder) lay(p *proposal) *Piece {
	classes := f.classes(thinned(p.spots))
	lists := f.lists(classes)
	var a *aligner
	var parts []part
	for _, price := range []int{16, 40, 120} {
		a = &aligner{n: len(classes), price: price}
		cols, ok := a.columns(lists, a.all())
		if !ok {
			return nil
		}
		if parts, ok = a.rows(cols, lists, a.all(), nil); !ok {
			return nil
		}
		a.rooted(parts, func(c int) string { return f.pages[classes[c].page].Up })
		if parts = a.merged(parts); len(a.holes) <= mostFields {
			break
		}
	}
	if !readable(parts) {
		return nil // a block is UTF-8, whatever its pages are
	}
	out := &Piece{parts: parts, spots: p.spots}
	f.fill(out, a)
	out.weigh(f, p)
	return out
}

// rooted makes page.up of what leads to the top of the site everywhere.
func (a *aligner) rooted(parts []part, ups func(place int) string) {
	for i := range parts {
		p := &parts[i]
		switch p.kind {
		case when:
			a.rooted(p.body, ups)
		case each:
			r := a.holes[p.hole].rows
			r.rooted(p.row, func(row int) string { return r.ups[row] })
			p.row = r.merged(p.row)
			r.parts = p.row
		default:
		}
		if p.kind != value || a.holes[p.hole].place != inAddress || a.holes[p.hole].attr != "" {
			continue
		}
		all := true
		for c, v := range a.holes[p.hole].values {
			all = all && (v == nil || string(v) == ups(c))
		}
		if all {
			p.kind = up
		}
	}
}

// merged are the parts with each field once: holes that nothing stands for any more are left out, those
// with equal values are one, and marks of which each place has one at most are one as well.
func (a *aligner) merged(parts []part) []part {
	used := make([]bool, len(a.holes))
	visit(parts, func(p *part) {
		if p.holds() {
			used[p.hole] = true
		}
	})
	to, is := make([]int, len(a.holes)), make([]string, len(a.holes))
	var kept []hole
	marks := map[string][]int{}
	var order []string
	for h := range a.holes {
		o := &a.holes[h]
		to[h] = -1
		switch {
		case !used[h]:
		case o.place == isFlag && o.mark != "":
			if marks[o.mark] == nil {
				order = append(order, o.mark)
			}
			marks[o.mark] = append(marks[o.mark], h)
		default:
			to[h] = slices.IndexFunc(kept, func(k hole) bool { return k.equals(o) })
			if to[h] < 0 {
				to[h] = len(kept)
				kept = append(kept, *o)
			} else if k := &kept[to[h]]; k.quote == 0 && o.quote != 0 {
				k.quote = o.quote
			}
		}
	}
	for _, m := range order {
		for _, group := range a.exclusive(marks[m]) {
			choice := a.holes[group[0]]
			if len(group) > 1 {
				choice = a.choice(group, is)
			}
			at := slices.IndexFunc(kept, func(k hole) bool { return k.equals(&choice) })
			if at < 0 {
				at = len(kept)
				kept = append(kept, choice)
			}
			for _, h := range group {
				to[h] = at
			}
		}
	}
	visit(parts, func(p *part) {
		if p.holds() {
			p.is = is[p.hole]
			p.hole = to[p.hole]
		}
	})
	a.holes = kept
	return parts
}

// exclusive puts flags together of which no place has two.
func (a *aligner) exclusive(flags []int) [][]int {
	var out [][]int
	for _, h := range flags {
		at := slices.IndexFunc(out, func(group []int) bool {
			for _, g := range group {
				for i, v := range a.holes[g].values {
					if v != nil && a.holes[h].values[i] != nil {
						return false
					}
				}
			}
			return true
		})
		if at < 0 {
			out = append(out, []int{h})
		} else {
			out[at] = append(out[at], h)
		}
	}
	return out
}

// choice makes one hole of flags: its value says which of them is set.
func (a *aligner) choice(group []int, is []string) hole {
	out := hole{place: isFlag, mark: a.holes[group[0]].mark, hints: a.holes[group[0]].hints,
		values: make([][]byte, a.n)}
	taken := map[string]bool{}
	for n, h := range group {
		word := NameOf(a.holes[h].tag)
		if word == "" || taken[word] {
			word = strings.Trim(word+"-"+strconv.Itoa(n+1), "-")
		}
		taken[word], is[h] = true, word
		for i, v := range a.holes[h].values {
			if v != nil {
				out.values[i] = []byte(word)
			}
		}
	}
	return out
}

// equals reports whether two holes always have the same value, and can be one field.
func (h *hole) equals(o *hole) bool {
	words := h.place != o.place && max(h.place, o.place) == inAttr && min(h.place, o.place) == inText
	if h.place != o.place && !words || h.quote != 0 && o.quote != 0 && h.quote != o.quote {
		return false
	}
	if h.rows != nil && !sameTemplate(h.rows.parts, o.rows.parts) {
		return false
	}
	for i, v := range h.values {
		if (v == nil) != (o.values[i] == nil) || !bytes.Equal(v, o.values[i]) {
			return false
		}
	}
	return true
}

func visit(parts []part, do func(*part)) {
	for i := range parts {
		do(&parts[i])
		visit(parts[i].body, do)
	}
}

// deep is visit, of what the rows of lists share as well.
func deep(parts []part, do func(*part)) {
	visit(parts, func(p *part) {
		do(p)
		deep(p.row, do)
	})
}

// fill gives a piece its fields and places: the values of each are read off its bytes.
func (f *finder) fill(out *Piece, a *aligner) {
	taken := map[string]bool{}
	for h := range a.holes {
		o := &a.holes[h]
		out.Fields = append(out.Fields, o.field(taken))
	}
	type read struct {
		reading
		far int
		ok  bool
	}
	known := map[string]read{}
	for _, s := range out.spots {
		p := &f.pages[s.page]
		text := p.bytes(s)
		from, to := int(p.tokens[s.first].from), int(p.tokens[s.last].to)
		place := Place{Page: int(s.page), Path: p.Path, From: p.Offset(from), To: p.Offset(to)}
		r, ok := known[string(text)+"\x00"+p.Up]
		if !ok {
			r.reading, r.far, r.ok = a.match(out.parts, text, p.Up)
			if r.ok && calls(r.values) {
				r.far, r.ok = firstCall(text), false
			}
			known[string(text)+"\x00"+p.Up] = r
		}
		if !r.ok {
			place.Differs = p.Offset(from + r.far)
			out.Odd = append(out.Odd, place)
			continue
		}
		if len(out.Places) == 0 || out.Places[len(out.Places)-1].Page != place.Page {
			out.Pages++
		}
		out.Places = append(out.Places, place)
		for h, v := range r.values {
			out.Fields[h].take(v, r.rows[h])
		}
	}
}

// field is a hole as a field, of which no value is known yet.
func (h *hole) field(taken map[string]bool) Field {
	out := Field{Name: name(h, taken), Type: h.typeOf(), Spacing: h.blank(), quote: h.quote}
	if h.rows != nil {
		taken := map[string]bool{rowName: true}
		for _, in := range h.rows.holes {
			// Of what a row is, its values need not speak.
			in.hints = slices.DeleteFunc(slices.Clone(in.hints), func(w string) bool { return rowWords[w] })
			out.Fields = append(out.Fields, in.field(taken))
		}
	}
	return out
}

var rowWords = setOf("entry row item")

// take adds what a place says.
func (f *Field) take(v []byte, found []Row) {
	f.Values = append(f.Values, v)
	if f.Type != List {
		return
	}
	f.Rows = append(f.Rows, found)
	for _, row := range found {
		for i := range f.Fields {
			f.Fields[i].Values = append(f.Fields[i].Values, row[i])
		}
	}
}

// calls reports whether values hold tags of the shelf language, which no value can.
func calls(values [][]byte) bool {
	return slices.ContainsFunc(values, func(v []byte) bool {
		return bytes.Count(v, []byte("@{")) != bytes.Count(v, []byte("@@{"))
	})
}

// firstCall is where the first tag of the shelf language stands in a text.
func firstCall(text []byte) int {
	for at := 0; ; {
		n := bytes.Index(text[at:], []byte("@{"))
		if n < 0 {
			return 0
		}
		if at += n; at == 0 || text[at-1] != '@' {
			return at
		}
		at += 2
	}
}

// blank reports whether a hole holds nothing but white space.
func (h *hole) blank() bool {
	return h.place < isFlag && !slices.ContainsFunc(h.values, func(v []byte) bool {
		return len(bytes.Trim(v, blanks)) > 0
	})
}

func (h *hole) typeOf() FieldType {
	switch {
	case h.place == isFlag && slices.ContainsFunc(h.values, func(v []byte) bool {
		return v != nil && string(v) != string(yes)
	}):
		return Choice
	case h.place == isFlag:
		return Switch
	case h.place == isList:
		return List
	case h.place == inMarkup, h.blank():
		return Rich
	case h.place == inAddress && (h.attr == "src" || h.attr == "poster" || h.attr == "background"):
		return Image
	case h.place == inAddress:
		return Link
	}
	return Text
}

// weigh works out what a piece would save, how much of it is the same everywhere, and what it is.
func (p *Piece) weigh(f *finder, from *proposal) {
	total, calls, values := 0, 0, 0
	for _, at := range p.Places {
		total += at.To - at.From
	}
	for i := range p.Fields {
		for _, v := range p.Fields[i].Values {
			if v != nil {
				said, names := p.Fields[i].said(v)
				values += said
				calls += said + names + len(p.Fields[i].Name) + 4
			}
		}
	}
	if total == 0 {
		return
	}
	kept, _ := weigh(p.parts)
	p.Title, p.Kind = f.called(p), f.kindOf(p)
	calls += len(p.Places) * (len(p.Title) + 6)
	p.Bytes = total - calls - kept
	p.share = 1 - float64(values)/float64(total)
	p.ID = fmt.Sprintf("%s-%04x", cmp.Or(NameOf(p.Title), "piece"), uint16(p.hash()))
	p.score = f.score(p, from, total)
}

// said is how many bytes a value has, and how many more it takes to write it; of a list, in the mean of all
// places, those of its rows and of their names.
func (f *Field) said(v []byte) (values, names int) {
	if f.Type != List {
		return len(v), 0
	}
	for i := range f.Fields {
		for _, v := range f.Fields[i].Values {
			if v != nil {
				values += len(v)
				names += len(f.Fields[i].Name) + 6
			}
		}
	}
	return values / len(f.Values), names / len(f.Values)
}

// hash is of what the places share.
func (p *Piece) hash() uint32 {
	h := uint32(7)
	deep(p.parts, func(x *part) { h = mix(mix(h, uint32(x.kind)), hash(x.bytes)) })
	return mix(h, uint32(len(p.Fields)))
}
