// Package impact tells what an edit does: which pages change, which stay as
// they are and why, and what breaks.
//
// A page changes if and only if its published bytes differ; the styles and
// behaviours that it loads are named in them by their content. The work follows
// what the edit reaches, not the size of the site, and the answer is that of
// rendering both sites whole and comparing.
package impact

import (
	"slices"
	"strings"
	"sync"

	"brickshelf/internal/core/check"
	"brickshelf/internal/core/refer"
	"brickshelf/internal/core/render"
	"brickshelf/internal/core/site"
)

// Effect is what an edit does to a page or placement.
type Effect string

// The effects, in the order in which they are tried.
const (
	Added     Effect = "added"
	Removed   Effect = "removed"
	Changes   Effect = "changes"
	Held      Effect = "held"      // not one byte differs, but without the page's own values it would
	Copied    Effect = "copied"    // has only a one-off copy of what is edited
	Hidden    Effect = "hidden"    // placed by a rule that does not show here
	Same      Effect = "same"      // uses it, and nothing differs
	Untouched Effect = "untouched" // has nothing to do with it
)

// Effects are all effects in order.
var Effects = []Effect{Added, Removed, Changes, Held, Copied, Hidden, Same, Untouched}

// Break is a problem that an edit brings about.
type Break struct {
	Code    string `json:"code"`
	Address string `json:"address"`
	Message string `json:"message"`
}

// Placement is the effect on one placement.
type Placement struct {
	Address string `json:"address"`
	Block   string `json:"block"`
	Effect  Effect `json:"effect"`
	// Holds are the page's own values there, of a placement that is held by them.
	Holds []render.OwnValue `json:"holds,omitempty"`
}

// Page is the effect on one page. Path is its address.
type Page struct {
	Path       string      `json:"path"`
	Doc        string      `json:"-"`
	Effect     Effect      `json:"effect"`
	Placements []Placement `json:"placements"`
	Breaks     []Break     `json:"breaks"`
}

// Impact is the effect on the whole site. Pages lists those that are touched, by
// address.
type Impact struct {
	Total  int            `json:"total"`
	Counts map[Effect]int `json:"counts"`
	Pages  []Page         `json:"pages"`

	unread bool // nobody looked for what breaks
}

// First is the effect of publishing a site of which nothing is published yet:
// every page is added. What does not work in it is for package check to say.
func First(s *render.Shelf) *Impact {
	var pages []Page
	for _, p := range s.PagePaths() {
		if in := s.Info(p); shown(in) {
			pages = append(pages, Page{Doc: p, Path: in.URL, Effect: Added})
		}
	}
	im := newEdit(nil).sum(s, s, pages)
	im.Total, im.Counts[Untouched], im.unread = len(pages), 0, true
	return im
}

// Breaks counts the problems that the edit brings about.
func (im *Impact) Breaks() int {
	n := 0
	for _, p := range im.Pages {
		n += len(p.Breaks)
	}
	return n
}

// Of compares a base with an overlay of it (render.Shelf.With). Placements are
// left out; Detail gives them for one page.
func Of(base, overlay *render.Shelf) *Impact {
	e := newEdit(overlay.Changed())
	e.site = e.site && !render.OnlySets(base.Config(), overlay.Config())
	return e.sum(base, overlay, e.loose(base, overlay, e.judgeAll(base, overlay, overlay.Reached())))
}

// Turned is Of the other way round: it compares an overlay, as what was before,
// with its base, as what is now.
func Turned(base, overlay *render.Shelf) *Impact {
	e := newEdit(overlay.Changed())
	e.turned = true
	e.site = e.site && !render.OnlySets(base.Config(), overlay.Config())
	return e.sum(overlay, base, e.loose(base, overlay, e.judgeAll(base, overlay, overlay.Reached())))
}

// Whole compares two sites that need have nothing in common, by way of the
// second's differences from the first.
func Whole(before *render.Shelf, after site.Files) (*Impact, *render.Shelf) {
	set := site.Diff(before.Files(), after)
	o := before.With(set.Changes)
	if o.Overlay() {
		return Of(before, o), o
	}
	var docs []string
	for _, c := range set.Changes {
		docs = append(docs, c.Path)
	}
	return Every(before, o, docs), o
}

// Every compares two sites page by page, reading both whole. docs are the
// documents in which they differ.
func Every(before, after *render.Shelf, docs []string) *Impact {
	seen := map[string]bool{}
	var pages []render.Reach
	for _, s := range []*render.Shelf{before, after} {
		for _, p := range s.PagePaths() {
			if !seen[p] {
				seen[p] = true
				pages = append(pages, render.Reach{Path: p, Before: before.Info(p), After: after.Info(p)})
			}
		}
	}
	e := newEdit(docs)
	e.every = true
	e.site = e.site && !render.OnlySets(before.Config(), after.Config())
	judged := e.judgeAll(before, after, pages)
	byAddress(judged)
	return e.sum(before, after, judged)
}

// edit is what was edited, by the names under which pages speak of it.
type edit struct {
	blocks  map[string]bool
	menus   map[string]bool
	rules   map[string]bool
	layouts map[string]bool
	pages   map[string]bool // by path
	site    bool

	turned bool // the overlay is what was before, the base what is now
	every  bool // all pages are judged, and each is read whole
	inert  bool // what pages refer to stays as it is
}

func newEdit(docs []string) *edit {
	e := &edit{blocks: map[string]bool{}, menus: map[string]bool{}, rules: map[string]bool{}, layouts: map[string]bool{}, pages: map[string]bool{}}
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

// judge gives the effects on pages, one after the other.
type judge struct {
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
func (j *judge) alike(r render.Reach) Page {
	rank := !r.InText && r.Before == r.After && !r.Before.Draft
	for i := range j.known {
		if k := &j.known[i]; rank && k.Has(r.Before) {
			return Page{Doc: r.Path, Path: r.Before.URL, Effect: k.effect, Breaks: k.breaks}
		}
	}
	p, class := j.page(r)
	if rank && class != nil && len(j.known) < maxKnown {
		j.known = append(j.known, known{class, p.Effect, p.Breaks})
	}
	return p
}

// judgeAll gives the effect on each page, on two goroutines where there are many.
func (e *edit) judgeAll(base, overlay *render.Shelf, pages []render.Reach) []Page {
	results := make([]Page, len(pages))
	e.inert = !e.every && inert(base, overlay, overlay.Changed())
	work := func(from, to int) {
		j := &judge{edit: e, Comparer: render.Comparer{Before: base, After: overlay}}
		for i := from; i < to; i++ {
			results[i] = j.alike(pages[i])
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

// sum counts the effects and lists the pages that are touched. pages are in order
// of their addresses.
func (e *edit) sum(before, after *render.Shelf, pages []Page) *Impact {
	im := &Impact{Counts: map[Effect]int{}}
	for _, f := range Effects {
		im.Counts[f] = 0
	}
	im.Pages = pages[:0]
	run, n := Untouched, 0
	for _, p := range pages {
		if p.Effect == "" || p.Effect == Untouched {
			continue
		}
		if p.Effect != run {
			im.Counts[run] += n
			run, n = p.Effect, 0
		}
		n++
		if len(p.Breaks) > 1 {
			slices.SortFunc(p.Breaks, Break.compare)
		}
		im.Pages = append(im.Pages, p)
	}
	im.Counts[run] += n
	im.Total = published(before) + im.Counts[Added]
	im.Counts[Untouched] = im.Total - len(im.Pages)
	return im
}

func byAddress(pages []Page) {
	slices.SortStableFunc(pages, func(a, b Page) int { return strings.Compare(a.Path, b.Path) })
}

func published(s *render.Shelf) int { return len(s.PagePaths()) - s.Drafts() }

// page gives the effect on one page, or an Effect of "" where it is published
// neither before nor after. class, where it is not nil, has the pages on which the
// effect is the same, of those that the edit does not reach by their own text.
func (j *judge) page(r render.Reach) (p Page, class *render.Class) {
	was, is := r.Before, r.After
	now := j.After
	if j.turned {
		was, is, now = is, was, j.Before
	}
	p = Page{Doc: r.Path}
	switch {
	case !shown(was) && !shown(is):
		return p, nil
	case !shown(was):
		p.Path, p.Effect = is.URL, Added
		p.Breaks = breaks(nil, append(now.Faults(r.Path), check.Broken(now, r.Path)...))
		return p, nil
	case !shown(is):
		p.Path, p.Effect = was.URL, Removed
		return p, nil
	}
	p.Path = is.URL
	same, a, b := j.Same(r, false)
	class, _ = j.Class()
	looks := []render.Look{a, b}
	old, fresh := a.Faults, b.Faults
	other, two := signedIn(r)
	if two { // what was seen first is in buffers that the second look uses
		a, b = a.Clone(), b.Clone()
		alike, c, d := j.Same(other, false)
		same, class, looks = same && alike, nil, []render.Look{a, b, c, d}
		old, fresh = render.Both(a.Faults, c.Faults), render.Both(b.Faults, d.Faults)
	}
	if j.turned {
		old, fresh = fresh, old
	}
	p.Breaks = breaks(old, fresh)
	if j.every {
		p.Breaks = append(p.Breaks, j.brokenAnew(r.Path)...)
	} else if two && !same && !j.inert {
		p.Breaks = append(p.Breaks, j.brokenAnew(r.Path)...)
	} else if !same && !j.inert {
		more, everywhere := j.references(r)
		p.Breaks = append(p.Breaks, more...)
		if !everywhere {
			class = nil
		}
	}
	used, copied := j.uses(r.Before, r.After, looks...)
	switch {
	case !same:
		p.Effect = Changes
	case used && !j.pages[r.Path] && (j.held(r, &class) || two && j.held(other, &class)):
		p.Effect = Held
	case used:
		p.Effect = Same
	case copied:
		p.Effect = Copied
	case j.idle(r.Before) || j.idle(r.After):
		p.Effect = Hidden
	case len(p.Breaks) > 0:
		p.Effect = Same // not a byte differs, but what it leads to is gone
	default:
		p.Effect = Untouched
	}
	return p, class
}

// signedIn is the page as those who are signed in see it. It reports false where they
// see what all do, before and after.
func signedIn(r render.Reach) (render.Reach, bool) {
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

func shown(in *render.Info) bool { return in != nil && !in.Draft }

// held reports whether the page would change without values of its own, and
// narrows the class to pages on which that is so.
func (j *judge) held(r render.Reach, class **render.Class) bool {
	same, _, _ := j.Same(r, true)
	if k, ok := j.Class(); ok && *class != nil {
		(*class).Join(k)
	} else {
		*class = nil
	}
	return !same
}

// uses reports whether something that was edited is rendered on the page, and
// whether the page has a copy of it.
func (e *edit) uses(in, out *render.Info, looks ...render.Look) (used, copied bool) {
	used = e.pages[in.Page.Path] || e.layouts[in.Page.Layout] || e.layouts[out.Page.Layout]
	for _, l := range looks {
		for _, n := range l.Names {
			used = used || e.blocks[n]
		}
		for _, m := range l.Menus {
			used = used || e.menus[m]
		}
		used = used || e.site && l.ReadSite
	}
	if len(e.rules) > 0 {
		for _, i := range []*render.Info{in, out} {
			shown, _ := i.Rules()
			for _, r := range shown {
				used = used || e.rules[r]
			}
		}
	}
	for _, i := range []*render.Info{in, out} {
		for _, n := range i.Page.Copied {
			copied = copied || e.blocks[n]
		}
	}
	return used, copied
}

// idle reports whether a rule that was edited, or one that places what was
// edited, takes the page without showing there.
func (e *edit) idle(in *render.Info) bool {
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
