package copies

import (
	"cmp"
	"encoding/json"
	"fmt"
	"regexp"
	"slices"
	"strings"

	"brickshelf/internal/core/block"
	"brickshelf/internal/core/edit/values"
	"brickshelf/internal/core/merge"
	"brickshelf/internal/core/shelf"
	"brickshelf/internal/core/site"
)

// relinker looks for the values with which a linked placement comes nearest to a copy. What a
// block's text does with a value is known to the renderer alone: values are tried, and seen.
type relinker struct {
	s             *shelf.Shelf
	path, address string
	b             *block.Block
	link          site.ChangeSet
	text          string
	apart         bool // the copy is kept in the front matter
	tries         int  // so many more
}

// trial is the linked placement with values of its own: the changes that bring it about, and what
// it would be written as.
type trial struct {
	fits    []Fit
	changes []site.Change
	after   string
}

// with tries values. It reports false where they are refused, or where the placement gets
// another address by them, since a call in a block is given a key then.
func (r *relinker) with(fits []Fit) (trial, bool) {
	r.tries--
	if len(fits) == 0 {
		text, x := filled(r.s.With(r.link.Changes), r.path, r.address, r.apart)
		return trial{nil, r.link.Changes, text}, x != nil
	}
	edits := make([]values.Edit, len(fits))
	for i := range fits {
		edits[i] = values.Edit{Doc: r.path, Address: r.address, Field: fits[i].Field, Text: &fits[i].Text}
	}
	all, err := r.set(r.link.Changes, r.b.Name, edits)
	if err != nil {
		return trial{}, false
	}
	text, x := filled(r.s.With(all), r.path, r.address, r.apart)
	return trial{fits, all, text}, x != nil
}

// set gives placements values on top of some changes.
func (r *relinker) set(changes []site.Change, block string, edits []values.Edit) ([]site.Change, error) {
	set, err := values.Set(r.s.With(changes), block, edits)
	if err != nil {
		return nil, err
	}
	all := slices.Clone(changes)
	for _, c := range set.Changes {
		if i := slices.IndexFunc(all, func(a site.Change) bool { return a.Path == c.Path }); i >= 0 {
			all[i].After = c.After
		} else {
			c.Before = r.s.Hash(c.Path)
			all = append(all, c)
		}
	}
	return all, nil
}

// nearer reports whether one trial comes nearer to the copy than another: fewer lines differ, or
// else less of what stands in the copy is left to explain. That something goes that only the
// placement shows is not enough, which would so by any value that is empty.
func (r *relinker) nearer(t, than trial) bool {
	mine, gone := lost(r.text, t.after), lost(t.after, r.text)
	itsMine, itsGone := lost(r.text, than.after), lost(than.after, r.text)
	if d := len(mine) + len(gone) - len(itsMine) - len(itsGone); d != 0 {
		return d < 0
	}
	return own(mine, gone) < own(itsMine, itsGone)
}

// own is how many bytes some lines have that others do not.
func own(mine, others []string) (n int) {
	for _, p := range merge.Two(strings.Join(mine, "\n"), strings.Join(others, "\n")) {
		if p.Conflict {
			n += len(p.Ours)
		}
	}
	return n
}

// shape is what is settled before values are read off the copy.
type shape struct {
	fits  []Fit
	items map[string]int // how many items lists have; others are left as they are
}

// search finds values, field by field: what brings the placement nearest is kept, until nothing
// else does.
func (r *relinker) search() (trial, bool) {
	bare, ok := r.with(nil)
	if !ok {
		return bare, false
	}
	plain := r.read(shape{}, bare)
	best, at := plain, shape{}
	for found := true; found; {
		found = false
		for _, f := range r.b.Fields {
			next := at
			for _, sh := range r.shapes(f, at, best) {
				if best.after == r.text || r.tries <= 0 {
					break
				}
				settled, ok := r.with(sh.fits)
				if !ok || settled.after == bare.after && sh.items == nil {
					continue // it is refused, or shown by nothing
				}
				if t := r.read(sh, settled); r.nearer(t, best) {
					best, next, found = t, sh, true
				}
			}
			at = next
		}
	}
	if 2*own(lost(r.text, best.after), lost(best.after, r.text)) > len(r.text) {
		return plain, true // it is another text, which these values do not come from
	}
	return best, true
}

// read reads values off the copy, as far as it comes nearer by them; else they were none.
func (r *relinker) read(sh shape, best trial) trial {
	for _, group := range r.groups(sh) {
		if best.after == r.text || r.tries <= 0 {
			break
		}
		if t, ok := r.with(merged(best.fits, group)); ok && r.nearer(t, best) {
			best = t
		}
	}
	return best
}

// merged are some values with others, which count where both say something of a field.
func merged(fits, more []Fit) []Fit {
	out := slices.DeleteFunc(slices.Clone(fits), func(f Fit) bool {
		return slices.ContainsFunc(more, func(m Fit) bool { return m.Field == f.Field })
	})
	return append(out, more...)
}

// most is how many items a list is tried with, and how many values of a kind are.
const most = 30

// What a value may be that shows as it is, or in an attribute.
var (
	numeral = regexp.MustCompile(`-?\d+(?:\.\d+)?`)
	day     = regexp.MustCompile(`\d{4}-\d{2}-\d{2}`)
	quoted  = regexp.MustCompile(`"([^"<>]+)"`)
)

// shapes are those that differ from one in a field: switched, chosen otherwise, empty,
// with as many items of a list, or with what stands in the copy where it is different.
func (r *relinker) shapes(f *block.Field, at shape, best trial) []shape {
	own := strings.Join(lost(r.text, best.after), "\n")
	var out []shape
	var texts []string
	switch f.Type {
	case block.Switch:
		texts = []string{"true", "false"}
	case block.Choice:
		texts = append(slices.Clone(f.Choices), "")
	case block.Number:
		texts = append(numeral.FindAllString(own, most), "")
	case block.Date:
		texts = append(day.FindAllString(own, most), "")
	case block.List:
		bits := strings.Count(r.text, "<") + strings.Count(r.text, "@{") + strings.Count(r.text, "\n")
		for n := 0; n <= min(most, bits+3); n++ {
			items := map[string]int{f.Name: n}
			for name, m := range at.items {
				if name != f.Name {
					items[name] = m
				}
			}
			out = append(out, shape{at.fits, items})
		}
		texts = []string{"[]"}
	default:
		texts = []string{""}
		if f.Type != block.Text && f.Type != block.Lines {
			for _, m := range quoted.FindAllStringSubmatch(own, most) {
				texts = append(texts, m[1])
			}
		}
	}
	slices.Sort(texts)
	for _, text := range slices.Compact(texts) {
		out = append(out, shape{merged(at.fits, []Fit{{Field: f.Name, Text: text}}), at.items})
	}
	return out
}

// told is a value of a field with what one reads of it.
func told(of *block.Field, f Fit) Fit {
	f.Label, f.Words = cmp.Or(of.Label, of.Name), f.Text
	switch {
	case of.Type == block.Switch:
		f.Words = map[string]string{"true": "on", "false": "off"}[f.Text]
	case of.Type == block.List:
		v, _ := values.Typed(block.Verbatim, of, f.Text)
		var words []string
		for _, it := range v.Items() {
			for _, sub := range of.Fields {
				if text := it.Member(sub.Name).Text; text != "" {
					words = append(words, text)
					break
				}
			}
		}
		f.Words = fmt.Sprintf("%s: %s", counted(len(v.Items()), "an entry", "entries"), strings.Join(words, ", "))
		if len(v.Items()) == 0 {
			f.Words = "no entries"
		}
	case f.Text == "":
		f.Words = "empty"
	}
	return f
}

// entries writes the items of a list as one types them.
func entries(items []map[string]string) string {
	b, _ := json.Marshal(items) // texts by name always can be
	return string(b)
}
