package copies

import (
	"slices"
	"strings"

	"brickshelf/internal/core/block"
	"brickshelf/internal/core/edit/readback"
	"brickshelf/internal/core/edit/values"
	"brickshelf/internal/core/merge"
)

// marked is a value that a marker stands for: of a field, or of one of an item of a list.
type marked struct {
	of   *block.Field
	item int
	sub  *block.Field // nil where the field is no list
}

// groups finds what may be values: each is given a marker, and where that comes to stand, the
// copy holds the value. Those that the copy shows between what it has in common with the
// template are one group, and those of one line; all where it is made like the whole.
func (r *relinker) groups(sh shape) [][]Fit {
	var marks []marked
	var put []Fit
	mark := func(m marked, f *block.Field) string {
		text := readback.Marker(f, len(marks))
		if text != "" {
			marks = append(marks, m)
		}
		return text
	}
	for _, f := range r.b.Fields {
		n, isList := sh.items[f.Name]
		count := len(marks)
		one := Fit{Field: f.Name}
		if isList {
			items := make([]map[string]string, n)
			for i := range items {
				items[i] = map[string]string{}
				for _, sub := range f.Fields {
					if text := mark(marked{f, i, sub}, sub); text != "" {
						items[i][sub.Name] = text
					}
				}
			}
			one.Text = entries(items)
		} else if one.Text = mark(marked{of: f}, f); one.Text == "" {
			continue
		}
		if settled(sh.fits, f.Name) {
			marks = marks[:count]
		} else if r.takes(one, marks[count:]) {
			put = append(put, one)
		} else {
			marks = marks[:count]
		}
	}
	if len(put) == 0 {
		return nil
	}
	template, ok := r.with(merged(sh.fits, put))
	if !ok {
		return nil
	}
	if found := readback.Collect(template.after, r.text); found != nil {
		return [][]Fit{r.values(marks, found)}
	}
	var out [][]Fit
	for _, d := range merge.Lines(template.after, r.text) {
		shown, own := template.after[d.A.From:d.A.To], r.text[d.B.From:d.B.To]
		if !readback.Marked(shown) {
			continue
		}
		if found := readback.Collect(shown, own); found != nil {
			out = append(out, r.values(marks, found))
			continue
		}
		for t := range strings.SplitSeq(shown, "\n") {
			if !readback.Marked(t) {
				continue
			}
			for l := range strings.SplitSeq(own, "\n") {
				if found := readback.Collect(t, l); found != nil {
					out = append(out, r.values(marks, found))
				}
			}
		}
	}
	return out
}

// takes reports whether a field takes its markers, which its limits can forbid.
func (r *relinker) takes(f Fit, marks []marked) bool {
	of := r.b.Fields[r.b.Field(f.Field)]
	if _, err := values.Typed(block.Verbatim, of, f.Text); err != nil {
		return false
	}
	return len(marks) > 0
}

func settled(fits []Fit, field string) bool {
	for _, f := range fits {
		if f.Field == field {
			return true
		}
	}
	return false
}

// values reads back what stands in the holes. A list has a value where each of its items has
// something there.
func (r *relinker) values(marks []marked, found map[int][]string) []Fit {
	var out []Fit
	var items []map[string]string
	for n, m := range marks {
		of := m.of
		if m.sub != nil {
			of = m.sub
		}
		text, ok := readback.Value(found[n], of)
		switch {
		case m.sub == nil && ok:
			out = append(out, Fit{Field: m.of.Name, Text: text})
		case m.sub != nil:
			for len(items) <= m.item {
				items = append(items, map[string]string{})
			}
			if ok {
				items[m.item][m.sub.Name] = text
			}
			if n+1 == len(marks) || marks[n+1].of != m.of {
				if !slices.ContainsFunc(items, func(it map[string]string) bool { return len(it) == 0 }) {
					out = append(out, Fit{Field: m.of.Name, Text: entries(items)})
				}
				items = nil
			}
		}
	}
	return out
}
