package impact

import (
	"slices"
	"strings"
	"sync"

	"brickshelf/internal/core/check"
	"brickshelf/internal/core/explain"
	"brickshelf/internal/core/refer"
	"brickshelf/internal/core/render"
	"brickshelf/internal/core/shelf"
	"brickshelf/internal/core/site"
)

// edit is what was edited, by the names under which pages speak of it.
type edit struct {
	blocks  map[string]bool
	menus   map[string]bool
	rules   map[string]bool
	layouts map[string]bool
	pages   map[string]bool // by path
	site    bool

	renamed map[string]string // names that documents had before

	reversed bool // the overlay is what was before, the base what is now
	every    bool // all pages are evaluated, and each is read whole
	inert    bool // what pages refer to stays as it is
}

func newEdit(docs []string) *edit {
	e := &edit{blocks: map[string]bool{}, menus: map[string]bool{}, rules: map[string]bool{},
		layouts: map[string]bool{}, pages: map[string]bool{}}
	for _, p := range docs {
		class, name, _ := site.Classify(p)
		switch class {
		case site.BlockDoc, site.StyleDoc, site.BehaviourDoc, site.ShortcodeDoc:
			e.blocks[name] = true
		case site.MenuDoc:
			e.menus[name] = true
		case site.RuleDoc:
			e.rules[name] = true
		case site.LayoutDoc:
			e.layouts[name] = true
		case site.PageDoc:
			e.pages[p] = true
		case site.ConfigDoc:
			e.site = true
		}
	}
	return e
}

// evaluator gives the effects on pages, one after the other.
type evaluator struct {
	*edit
	render.Comparer
	refer.Differ
	html  []byte
	known []known
}

// known is the effect on all pages of a class.
type known struct {
	*render.Class
	effect Effect
	breaks []Break
}

// So many classes are remembered; an edit that meets more of them depends on each
// page.
const maxKnown = 32

// alike gives the effect on a page, that on one of its class where it is known.
func (v *evaluator) alike(r shelf.Reach) Page {
	rank := !r.InText && r.Before == r.After && !r.Before.Draft
	for i := range v.known {
		if k := &v.known[i]; rank && k.Has(r.Before) {
			return Page{Doc: r.Path, Path: r.Before.URL, Effect: k.effect, Breaks: k.breaks}
		}
	}
	p, class := v.page(r)
	if rank && class != nil && len(v.known) < maxKnown {
		v.known = append(v.known, known{class, p.Effect, p.Breaks})
	}
	return p
}

// evaluateAll gives the effect on each page, on two goroutines where there are many.
func (e *edit) evaluateAll(base, overlay *shelf.Shelf, pages []shelf.Reach) []Page {
	results := make([]Page, len(pages))
	e.inert = !e.every && inert(base, overlay, overlay.Changed())
	work := func(from, to int) {
		v := &evaluator{edit: e, Comparer: render.Comparer{Before: base, After: overlay}}
		for i := from; i < to; i++ {
			results[i] = v.alike(pages[i])
		}
	}
	if len(pages) < 100 {
		work(0, len(pages))
	} else {
		var wg sync.WaitGroup
		wg.Go(func() { work(0, len(pages)/2) })
		work(len(pages)/2, len(pages))
		wg.Wait()
	}
	return results
}

// page gives the effect on one page, or an Effect of "" where it is published
// neither before nor after. class, where it is not nil, has the pages on which the
// effect is the same, of those that the edit does not reach by their own text.
func (v *evaluator) page(r shelf.Reach) (p Page, class *render.Class) {
	was, is := r.Before, r.After
	now := v.After
	if v.reversed {
		was, is, now = is, was, v.Before
	}
	p = Page{Doc: r.Path}
	if is != nil {
		p.Doc = is.Page.Path
	}
	switch {
	case !shown(was) && !shown(is):
		return p, nil
	case !shown(was):
		p.Path, p.Effect = is.URL, Added
		p.Breaks = v.breaks(nil, append(explain.Faults(now, r.Path), check.Broken(now, r.Path)...))
		return p, nil
	case !shown(is):
		p.Path, p.Effect = was.URL, Removed
		return p, nil
	}
	if p.Path = is.URL; was.URL != is.URL {
		p.From = was.URL
	}
	return v.stays(r, p)
}

// stays works out the effect on a page that is there before and after.
func (v *evaluator) stays(r shelf.Reach, p Page) (_ Page, class *render.Class) {
	same, a, b := v.Same(r, false)
	class, _ = v.Class()
	looks := []render.Look{a, b}
	old, fresh := a.Faults, b.Faults
	other, two := signedIn(r)
	if two { // what was seen first is in buffers that the second look uses
		a, b = a.Clone(), b.Clone()
		alike, c, d := v.Same(other, false)
		same, class, looks = same && alike, nil, []render.Look{a, b, c, d}
		old, fresh = explain.Both(a.Faults, c.Faults), explain.Both(b.Faults, d.Faults)
	}
	if v.reversed {
		old, fresh = fresh, old
	}
	p.Breaks = v.breaks(old, fresh)
	if v.every {
		p.Breaks = append(p.Breaks, v.brokenAnew(r)...)
	} else if two && !same && !v.inert {
		p.Breaks = append(p.Breaks, v.brokenAnew(r)...)
	} else if !same && !v.inert {
		more, everywhere := v.references(r)
		p.Breaks = append(p.Breaks, more...)
		if !everywhere {
			class = nil
		}
	}
	if !same || p.From != "" {
		p.Effect = Changes
		return p, class
	}
	ways := []shelf.Reach{r}
	if two {
		ways = append(ways, other)
	}
	p.Effect = v.unchanged(r, ways, looks, &class, len(p.Breaks) > 0)
	return p, class
}

// unchanged is the effect on a page of which no byte differs, in either of the ways in which
// it is shown.
func (v *evaluator) unchanged(r shelf.Reach, ways []shelf.Reach, looks []render.Look, class **render.Class,
	breaks bool) Effect {
	used, copied := v.uses(r.Before, r.After, looks...)
	held := func(r shelf.Reach) bool { return v.held(r, class) }
	switch {
	case used && !v.pages[r.Path] && slices.ContainsFunc(ways, held):
		return Held
	case used:
		return Same
	case copied:
		return Copied
	case v.idle(r.Before) || v.idle(r.After):
		return Hidden
	case breaks:
		return Same // not a byte differs, but what it leads to is gone
	}
	return Untouched
}

// signedIn is the page as those who are signed in see it. It reports false where they
// see what all do, before and after.
func signedIn(r shelf.Reach) (shelf.Reach, bool) {
	a, b := r.Before.SignedIn(), r.After.SignedIn()
	if a == nil && b == nil {
		return r, false
	}
	if r.Before == r.After {
		b = a
	}
	if a != nil {
		r.Before = a
	}
	if b != nil {
		r.After = b
	}
	return r, true
}

func shown(in *shelf.Info) bool { return in != nil && !in.Draft }

// held reports whether the page would change without values of its own, and
// narrows the class to pages on which that is so.
func (v *evaluator) held(r shelf.Reach, class **render.Class) bool {
	same, _, _ := v.Same(r, true)
	if k, ok := v.Class(); ok && *class != nil {
		(*class).Join(k)
	} else {
		*class = nil
	}
	return !same
}

// uses reports whether something that was edited is rendered on the page, and
// whether the page has a copy of it.
func (e *edit) uses(in, out *shelf.Info, looks ...render.Look) (used, copied bool) {
	used = e.pages[in.Page.Path] || e.layouts[in.Page.Layout] || e.layouts[out.Page.Layout]
	for _, l := range looks {
		for _, n := range l.Names {
			used = used || e.blocks[n]
			if of, ok := strings.CutPrefix(n, "copy of "); ok {
				copied = copied || e.blocks[of]
			}
		}
		for _, m := range l.Menus {
			used = used || e.menus[m]
		}
		used = used || e.site && l.ReadSite
	}
	if len(e.rules) > 0 {
		for _, i := range []*shelf.Info{in, out} {
			shown, _ := i.Rules()
			for _, r := range shown {
				used = used || e.rules[r]
			}
		}
	}
	for _, i := range []*shelf.Info{in, out} {
		for _, n := range i.Page.Copied {
			copied = copied || e.blocks[n]
		}
	}
	return used, copied
}

// idle reports whether a rule that was edited, or one that places what was
// edited, takes the page without showing there.
func (e *edit) idle(in *shelf.Info) bool {
	for _, c := range in.Candidates {
		if e.blocks[c.Rule.Block] || e.rules[c.Rule.Name] {
			_, idle := in.Rules()
			for _, r := range idle {
				if r == c.Rule.Name {
					return true
				}
			}
		}
	}
	return false
}
