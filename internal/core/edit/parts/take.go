package parts

import (
	"fmt"
	"slices"
	"strings"

	"brickshelf/internal/core/block"
	"brickshelf/internal/core/merge"
	"brickshelf/internal/core/patch"
	"brickshelf/internal/core/site"
)

// take makes the changes that were decided.
func (a *arriving) take(list []Arrival) error {
	text := map[string][]byte{} // of what is edited in place: site.yaml, layouts
	at := func(p string) []byte {
		if text[p] == nil {
			if theirs, ok := a.p.Get(p); ok && p != "site.yaml" && a.taken(list, p) {
				text[p] = theirs
			} else {
				text[p], _ = a.s.Get(p)
			}
		}
		return text[p]
	}
	for i := range list {
		r := &list[i]
		if r.Take != Theirs && r.Take != Merged || r.State == Equal {
			continue
		}
		var err error
		switch r.Kind {
		case SiteValue:
			text["site.yaml"], err = patch.Set("site.yaml", at("site.yaml"), []string{"fields", r.Name},
				declaration(a.p, r.Unit))
		case PageField:
			for _, l := range a.s.Layouts() {
				lacks := l.PageField(r.Name) == nil || r.State == Different
				if err == nil && lacks && !a.taken(list, l.Path) {
					text[l.Path], err = patch.Set(l.Path, at(l.Path), []string{"page_fields", r.Name},
						declaration(a.p, r.Unit))
				}
			}
		default:
			err = a.takeDocuments(r)
		}
		if err != nil {
			return err
		}
	}
	for p, after := range text {
		a.put(p, after)
	}
	slices.SortFunc(a.changes, func(x, y site.Change) int { return strings.Compare(x.Path, y.Path) })
	var paths []string
	for _, r := range list {
		if r.Take == Theirs || r.Take == Merged {
			paths = append(paths, r.Paths...)
		}
	}
	for _, old := range revisions(a.p, paths) {
		b, _ := a.p.Get(old)
		a.put(old, b)
	}
	return nil
}

// taken reports whether a document of the part takes the place of one here.
func (a *arriving) taken(list []Arrival, p string) bool {
	return slices.ContainsFunc(list, func(r Arrival) bool {
		return r.Take == Theirs && r.State != Equal && slices.Contains(r.Paths, p)
	})
}

// put is a change of a document, unless it is that already.
func (a *arriving) put(p string, after []byte) {
	before := a.s.Hash(p)
	known := slices.ContainsFunc(a.changes, func(c site.Change) bool { return c.Path == p })
	if known || before == site.HashOf(after) {
		return
	}
	a.changes = append(a.changes, site.Change{Path: p, Before: before, After: after})
}

// takeDocuments takes the documents of a unit, or what they and those here are merged to.
func (a *arriving) takeDocuments(r *Arrival) error {
	after := map[string][]byte{}
	for _, p := range r.Paths {
		after[p], _ = a.p.Get(p)
	}
	choices := a.decided[r.ID].Choices
	for _, d := range r.Docs {
		if r.Take == Theirs {
			if d.Theirs == nil {
				after[d.Path] = nil
			}
			continue
		}
		with, err := settled(d, &choices)
		if err != nil {
			return err
		}
		if len(with) < merge.Conflicts(d.Pieces) {
			return site.Refuse("%s: decide what stands in the place of each conflict first", d.Path)
		}
		after[d.Path] = []byte(merge.Resolved(d.Pieces, with))
		if len(after[d.Path]) == 0 {
			after[d.Path] = nil
		}
	}
	if a.library != "" && (r.Kind == Block || r.Kind == Script) {
		if err := a.note(r, after); err != nil {
			return err
		}
	}
	for p, b := range after {
		if b == nil && a.s.Hash(p) == "" {
			continue
		}
		if b == nil {
			a.changes = append(a.changes, site.Change{Path: p, Before: a.s.Hash(p), Delete: true})
			continue
		}
		a.put(p, b)
	}
	return nil
}

// settled is the text for each conflict of a document of which something was decided.
func settled(d Doc, choices *[]Choice) ([]string, error) {
	var out []string
	for _, p := range d.Pieces {
		if !p.Conflict || len(*choices) == 0 {
			continue
		}
		switch c := (*choices)[0]; c {
		case Choice(Mine):
			out = append(out, p.Ours)
		case Choice(Theirs):
			out = append(out, p.Theirs)
		case BothSides:
			out = append(out, p.Ours+p.Theirs)
		default:
			return nil, site.Refuse("%q is no way to settle a conflict", c)
		}
		*choices = (*choices)[1:]
	}
	return out, nil
}

// note writes down where a block or shortcode came from, and keeps what it was like there.
func (a *arriving) note(r *Arrival, after map[string][]byte) error {
	origin, _ := find(a.p, r.As)
	name := strings.TrimSuffix(strings.TrimPrefix(strings.TrimPrefix(r.ID, "blocks/"), "shortcodes/"), ".html")
	l := block.Library{Site: a.library, Name: strings.TrimSuffix(name, ".js")}
	for _, p := range origin.Paths {
		src, _ := a.p.Get(p)
		theirs, err := own(p, src)
		if err != nil {
			return err
		}
		h := site.HashOf(theirs)
		switch class, _, _ := site.Classify(p); class {
		case site.StyleDoc:
			l.Style = h
		case site.BehaviourDoc:
			l.Behaviour = h
		default:
			l.Text = h
		}
		a.put("history/"+string(h), theirs)
	}
	text := after[r.As]
	if text == nil { // what is here of it stays
		text, _ = a.s.Get(r.As)
	}
	text, err := noted(r.As, text, l)
	if err != nil {
		return fmt.Errorf("%s: %w", r.As, err)
	}
	after[r.As] = text
	return nil
}
