// Package impact tells what an edit does: which pages change, which stay as
// they are and why, and what breaks.
//
// A page changes if and only if its published bytes differ; the styles and
// behaviours that it loads are named in them by their content. The work follows
// what the edit reaches, not the size of the site, and the answer is that of
// rendering both sites whole and comparing.
package impact

import (
	"sort"
	"sync"

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
func Of(before, after *render.Shelf) *Impact {
	e := newEdit(after.Changed())
	return e.judgeAll(before, after, after.Reached())
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

// Every compares two sites page by page, rendering both whole. docs are the
// documents in which they differ.
func Every(before, after *render.Shelf, docs []string) *Impact {
	seen := map[string]bool{}
	var paths []string
	for _, s := range []*render.Shelf{before, after} {
		for _, p := range s.PagePaths() {
			if !seen[p] {
				seen[p] = true
				paths = append(paths, p)
			}
		}
	}
	return newEdit(docs).judgeAll(before, after, pair(before, after, paths))
}

// pair looks up pages in both sites and sorts them by address.
func pair(before, after *render.Shelf, paths []string) []render.Reach {
	out := make([]render.Reach, len(paths))
	for i, p := range paths {
		out[i] = render.Reach{Path: p, Before: before.Info(p), After: after.Info(p)}
	}
	sort.Slice(out, func(i, j int) bool { return out[i].URL() < out[j].URL() })
	return out
}

// edit is what was edited, by the names under which pages speak of it.
type edit struct {
	blocks  map[string]bool
	menus   map[string]bool
	rules   map[string]bool
	layouts map[string]bool
	pages   map[string]bool // by path
	site    bool
}

func newEdit(docs []string) *edit {
	e := &edit{map[string]bool{}, map[string]bool{}, map[string]bool{}, map[string]bool{}, map[string]bool{}, false}
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

func (e *edit) judgeAll(before, after *render.Shelf, pages []render.Reach) *Impact {
	results := make([]Page, len(pages))
	work := func(from, to int) {
		c := &render.Comparer{Before: before, After: after}
		alike := map[*render.Plan]Page{}
		for i := from; i < to; i++ {
			r := pages[i]
			if r.MayBeAlike() {
				if p, known := alike[r.Before.Plan]; known && !r.Before.Draft {
					p.Doc, p.Path = r.Path, r.Before.URL
					results[i] = p
					continue
				}
			}
			results[i] = e.judge(c, r)
			if c.Alike() && r.MayBeAlike() {
				alike[r.Before.Plan] = results[i]
			}
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
	im := &Impact{Counts: map[Effect]int{}}
	for _, f := range Effects {
		im.Counts[f] = 0
	}
	drafts := 0
	kept := results[:0]
	for _, r := range results {
		switch r.Effect {
		case "":
			drafts++
		case Untouched:
		default:
			im.Counts[r.Effect]++
			kept = append(kept, r)
		}
	}
	im.Pages = kept
	im.Total = published(before) + im.Counts[Added]
	im.Counts[Untouched] = im.Total - len(kept)
	return im
}

func published(s *render.Shelf) int { return len(s.PagePaths()) - s.Drafts() }

// judge gives the effect on one page, or an Effect of "" where it is published
// neither before nor after.
func (e *edit) judge(c *render.Comparer, r render.Reach) Page {
	in, out, path := r.Before, r.After, r.Path
	was, is := in != nil && !in.Page.Draft, out != nil && !out.Page.Draft
	p := Page{Doc: path}
	switch {
	case !was && !is:
		return p
	case !was:
		p.Path, p.Effect = out.Page.URL, Added
		p.Breaks = breaks(nil, c.After.Faults(path))
		return p
	case !is:
		p.Path, p.Effect = in.Page.URL, Removed
		return p
	}
	p.Path = out.Page.URL
	same, a, b := c.Same(in, out, false)
	p.Breaks = breaks(a.Faults, b.Faults)
	used, copied := e.uses(in, out, a, b)
	switch {
	case !same:
		p.Effect = Changes
	case used && !e.pages[path] && e.held(c, in, out):
		p.Effect = Held
	case used:
		p.Effect = Same
	case copied:
		p.Effect = Copied
	case e.idle(in) || e.idle(out):
		p.Effect = Hidden
	default:
		p.Effect = Untouched
	}
	return p
}

func (e *edit) held(c *render.Comparer, in, out *render.Info) bool {
	same, _, _ := c.Same(in, out, true)
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

func breaks(before, after []render.Fault) []Break {
	var out []Break
	for _, f := range after {
		old := false
		for _, g := range before {
			old = old || f == g
		}
		if !old {
			out = append(out, Break(f))
		}
	}
	return out
}

// Turned is Of the other way round: it compares an overlay, as what was before,
// with its base, as what is now.
func Turned(base, overlay *render.Shelf) *Impact {
	im := newEdit(overlay.Changed()).judgeTurned(base, overlay, overlay.Reached())
	return im
}

func (e *edit) judgeTurned(base, overlay *render.Shelf, pages []render.Reach) *Impact {
	im := e.judgeAll(base, overlay, pages)
	added := im.Counts[Added]
	im.Counts[Added], im.Counts[Removed] = im.Counts[Removed], added
	for i := range im.Pages {
		p := &im.Pages[i]
		switch p.Effect {
		case Added:
			p.Effect = Removed
		case Removed:
			p.Effect = Added
		}
		p.Breaks = nil
		if in := base.Info(p.Doc); in != nil {
			p.Path = in.Page.URL
			p.Breaks = breaks(overlay.Faults(p.Doc), base.Faults(p.Doc))
		}
	}
	return im
}
