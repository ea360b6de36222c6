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

	"brickshelf/internal/core/place"
	"brickshelf/internal/core/render"
	"brickshelf/internal/core/shelf"
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

// letters stand for effects where many pages are told of at once.
var letters = map[Effect]byte{Added: 'c', Removed: 'r', Changes: 'c', Held: 'h', Copied: 'p', Hidden: 'i',
	Same: 's', Untouched: '-'}

// Letter stands for the effect where many pages are told of at once. A page that comes
// changes, among those of the site after the edit.
func (e Effect) Letter() byte { return letters[e] }

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
	Path   string `json:"path"`
	Doc    string `json:"-"`
	Effect Effect `json:"effect"`
	// the address that it had before, where that is another one
	From       string      `json:"from,omitempty"`
	Placements []Placement `json:"placements"`
	Breaks     []Break     `json:"breaks"`
}

// Impact is the effect on the whole site. Pages lists those that are touched, by
// address.
type Impact struct {
	Total  int            `json:"total"`
	Counts map[Effect]int `json:"counts"`
	Pages  []Page         `json:"pages"`
	// Documents are the errors that the edit brings about in documents which are not pages;
	// the address of each is its place, as path:line:column.
	Documents []Break `json:"documents,omitempty"`

	// Later is what the edit changes on days ahead, where somebody has asked for that; see
	// Ahead.
	Later []Later `json:"later,omitempty"`

	unread bool // nobody looked for what breaks
	moved  int  // pages that get another address
}

// First is the effect of publishing a site of which nothing is published yet:
// every page is added. What does not work in it is for package check to say.
func First(s *shelf.Shelf) *Impact {
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
	n := len(im.Documents)
	for _, p := range im.Pages {
		n += len(p.Breaks)
	}
	return n
}

// Of compares a base with an overlay of it (render.Shelf.With). Placements are
// left out; Detail gives them for one page.
func Of(base, overlay *shelf.Shelf) *Impact { return compare(base, overlay, false) }

// Turned is Of the other way round: it compares an overlay, as what was before,
// with its base, as what is now.
func Turned(base, overlay *shelf.Shelf) *Impact { return compare(base, overlay, true) }

func compare(base, overlay *shelf.Shelf, reversed bool) *Impact {
	before, after := base, overlay
	if reversed {
		before, after = overlay, base
	}
	e := newEdit(overlay.Changed())
	e.reversed = reversed
	e.site = e.site && !place.OnlySets(base.Config(), overlay.Config())
	e.renames(before, after, overlay.Changed())
	im := e.sum(before, after, e.loose(base, overlay, e.evaluateAll(base, overlay, overlay.Reached())))
	if !e.inert {
		docs, resolved := overlay.Around()
		e.documents(im, before, after, docs, resolved)
	}
	return im
}

// Whole compares two sites that need have nothing in common, by way of the
// second's differences from the first.
func Whole(before *shelf.Shelf, after site.Files) (*Impact, *shelf.Shelf) {
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
func Every(before, after *shelf.Shelf, docs []string) *Impact {
	seen := map[string]bool{}
	var pages []shelf.Reach
	for _, s := range []*shelf.Shelf{before, after} {
		for _, p := range s.PagePaths() {
			if !seen[p] {
				seen[p] = true
				pages = append(pages, shelf.Reach{Path: p, Before: before.Info(p), After: after.Info(p)})
			}
		}
	}
	pages = shelf.Paired(pages)
	e := newEdit(docs)
	e.every = true
	e.site = e.site && !place.OnlySets(before.Config(), after.Config())
	e.renames(before, after, docs)
	evaluated := e.evaluateAll(before, after, pages)
	byAddress(evaluated)
	im := e.sum(before, after, evaluated)
	var all []string
	for _, folder := range []string{"blocks/", "layouts/", "rules/", "shortcodes/"} {
		all = append(all, before.Paths(folder)...)
		for _, p := range after.Paths(folder) {
			if _, there := before.Get(p); !there {
				all = append(all, p)
			}
		}
	}
	e.documents(im, before, after, all, true)
	return im
}

// sum counts the effects and lists the pages that are touched. pages are in order
// of their addresses.
func (e *edit) sum(before, after *shelf.Shelf, pages []Page) *Impact {
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
	for _, p := range im.Pages {
		if p.From != "" {
			im.moved++
		}
	}
	im.Total = published(before) + im.Counts[Added]
	im.Counts[Untouched] = im.Total - len(im.Pages)
	return im
}

func byAddress(pages []Page) {
	slices.SortStableFunc(pages, func(a, b Page) int { return strings.Compare(a.Path, b.Path) })
}

func published(s *shelf.Shelf) int { return len(s.PagePaths()) - s.Drafts() }
