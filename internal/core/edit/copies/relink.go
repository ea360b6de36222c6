package copies

import (
	"cmp"
	"fmt"
	"html"
	"net/url"
	"regexp"
	"slices"
	"strings"

	"brickshelf/internal/core/block"
	"brickshelf/internal/core/edit/values"
	"brickshelf/internal/core/shelf"
	"brickshelf/internal/core/site"
)

// Fit is a value that a copy holds in the place of a field of its block.
type Fit struct {
	Field string
	Label string
	Text  string // as one types it
}

// Relinked is what linking a copy again comes to.
type Relinked struct {
	Set    site.ChangeSet
	Fits   []Fit  // what becomes values of the placement
	Before string // the copy
	After  string // what would be written there then, in the same way
	base   string // what it came from, which needs no keeping; "" where unknown
}

// Relink links the copy at an address of a page again. Where the copy has been edited, what
// stands in it where the block shows fields becomes the placement's values; what is still
// different then is the difference of Before and After. Where everything fits, they are the
// same, and no byte of the page changes.
func Relink(s *shelf.Shelf, path, address string) (Relinked, error) {
	link, err := Link(s, path, address)
	if err != nil {
		return Relinked{}, err
	}
	c, err := At(s, path, address)
	if err != nil {
		return Relinked{}, err
	}
	out := Relinked{Set: link, Before: c.Text, After: c.Now, base: c.Base}
	b := s.Block(c.Of)
	// What stands in a block's text has no values of one page's own.
	if b == nil || c.Text == c.Now || c.Standing == Behind || c.Holder != "" {
		return out, nil
	}
	r := relinker{s: s, path: path, address: address, b: b, link: link, text: c.Text,
		apart: s.Info(path).Page.Copies[address] != nil}
	for _, group := range r.groups() {
		fits := merged(out.Fits, group)
		changes, after, ok := r.with(fits)
		if ok && len(lost(c.Text, after)) < len(lost(c.Text, out.After)) { // else they were no values
			out.Set.Changes, out.Fits, out.After = changes, fits, after
		}
	}
	for _, f := range out.Fits { // what it shows anyway need not be said
		rest := slices.DeleteFunc(slices.Clone(out.Fits), func(g Fit) bool { return g == f })
		if changes, after, ok := r.with(rest); ok && after == out.After {
			out.Set.Changes, out.Fits = changes, rest
		}
	}
	return out, nil
}

// Lost are the lines that were written into the copy and are nowhere any more.
func (r *Relinked) Lost() []string {
	out := lost(calling(r.Before), calling(r.After)+"\n"+calling(r.base))
	return slices.DeleteFunc(out, func(l string) bool { return strings.TrimSpace(l) == "" })
}

// merged are some values with others, which count where both say something of a field.
func merged(fits, more []Fit) []Fit {
	out := slices.DeleteFunc(slices.Clone(fits), func(f Fit) bool {
		return slices.ContainsFunc(more, func(m Fit) bool { return m.Field == f.Field })
	})
	return append(out, more...)
}

type relinker struct {
	s             *shelf.Shelf
	path, address string
	b             *block.Block
	link          site.ChangeSet
	text          string
	apart         bool // the copy is kept in the front matter
}

// with is the linked placement with values of its own: the changes that bring it about, and
// what it would be written as. It reports false where the values are refused, or where the
// placement gets another address by them, since a call in a block is given a key then.
func (r *relinker) with(fits []Fit) ([]site.Change, string, bool) {
	linked := r.s.With(r.link.Changes)
	edits := make([]values.Edit, len(fits))
	for i := range fits {
		edits[i] = values.Edit{Doc: r.path, Address: r.address, Field: fits[i].Field, Text: &fits[i].Text}
	}
	if len(fits) == 0 {
		text, ok := filled(linked, r.path, r.address, r.apart)
		return r.link.Changes, text, ok
	}
	set, err := values.Set(linked, r.b.Name, edits)
	if err != nil {
		return nil, "", false
	}
	all := slices.Clone(r.link.Changes)
	for _, c := range set.Changes {
		if i := slices.IndexFunc(all, func(a site.Change) bool { return a.Path == c.Path }); i >= 0 {
			all[i].After = c.After
		} else {
			all = append(all, c)
		}
	}
	text, ok := filled(r.s.With(all), r.path, r.address, r.apart)
	return all, text, ok
}

// hole is where a field is shown: its number, and how the marker is written there.
var hole = regexp.MustCompile(`/?Qx(\d+)xQ/?`)

// groups finds what may be values: each field is given a marker, and where that comes to
// stand, the copy holds the value. Those that the copy shows on one line, or all where it is
// made like the block as a whole, are one group. Whether they are values is seen by trying.
func (r *relinker) groups() [][]Fit {
	var marked []Fit
	for i, f := range r.b.Fields {
		mark := fmt.Sprintf("Qx%dxQ", i)
		switch f.Type {
		case block.Link:
			mark = "/" + mark + "/"
		case block.Text, block.Lines:
		default:
			continue
		}
		if one := (Fit{f.Name, "", mark}); r.takes(one) {
			marked = append(marked, one)
		}
	}
	_, template, ok := r.with(marked)
	if len(marked) == 0 || !ok {
		return nil
	}
	if found := collect(template, r.text); found != nil {
		return [][]Fit{r.values(found)}
	}
	var out [][]Fit
	for t := range strings.SplitSeq(template, "\n") {
		if !hole.MatchString(t) {
			continue
		}
		for l := range strings.SplitSeq(r.text, "\n") {
			if found := collect(t, l); found != nil {
				out = append(out, r.values(found))
			}
		}
	}
	return out
}

// values reads back what stands in the holes of fields.
func (r *relinker) values(found map[int][]string) (out []Fit) {
	for i, f := range r.b.Fields {
		if text, ok := value(found[i], f); ok {
			out = append(out, Fit{f.Name, cmp.Or(f.Label, f.Name), text})
		}
	}
	return out
}

func (r *relinker) takes(f Fit) bool {
	_, _, ok := r.with([]Fit{f})
	return ok
}

// collect reads what stands in the holes of a template out of a text, by field; nil if that is
// not made like it.
func collect(template, text string) map[int][]string {
	var pattern strings.Builder
	var fields []int
	at := 0
	for _, m := range hole.FindAllStringSubmatchIndex(template, -1) {
		pattern.WriteString(regexp.QuoteMeta(template[at:m[0]]) + "(.*?)")
		var field int
		_, _ = fmt.Sscan(template[m[2]:m[3]], &field)
		fields, at = append(fields, field), m[1]
	}
	pattern.WriteString(regexp.QuoteMeta(template[at:]))
	re, err := regexp.Compile(`(?s)^` + pattern.String() + `$`)
	if err != nil {
		return nil
	}
	m := re.FindStringSubmatch(text)
	if m == nil {
		return nil
	}
	found := map[int][]string{}
	for i, field := range fields {
		found[field] = append(found[field], m[i+1])
	}
	return found
}

// value reads back what was written where a field is shown, as text, as lines, and as a part of
// an address where it stands elsewhere in plain words; all its holes have to say the same.
func value(holes []string, f *block.Field) (string, bool) {
	var read []string
	for _, h := range holes {
		text := html.UnescapeString(h)
		if f.Type == block.Lines {
			text = strings.ReplaceAll(text, "<br>\n", "\n")
		}
		read = append(read, text)
	}
	for _, text := range read {
		same := true
		for _, other := range read {
			plain, err := url.PathUnescape(other)
			same = same && (other == text || err == nil && plain == text)
		}
		if same {
			return text, true
		}
	}
	return "", false
}
