package impact

import (
	"bytes"
	"slices"

	"brickshelf/internal/core/place"
	"brickshelf/internal/core/render"
	"brickshelf/internal/core/shelf"
)

// Later is what an edit changes on a day ahead on which rules begin or end.
type Later struct {
	Day   string `json:"day"` // as 2026-12-24
	Pages int    `json:"pages"`
}

// maxDays is how many days ahead are looked at.
const maxDays = 4

// Ahead tells on which days ahead an overlay of a base changes pages through entries of menus, or rules with
// dates that were edited, or place what was: the first few.
func Ahead(base, overlay *shelf.Shelf) []Later {
	if !overlay.Overlay() {
		return nil
	}
	e := newEdit(overlay.Changed())
	var names []string
	for _, s := range []*shelf.Shelf{base, overlay} {
		for _, r := range s.Rules() {
			if (r.From != "" || r.Until != "") && (e.rules[r.Name] || overlay.Touched(r.Block)) &&
				!slices.Contains(names, r.Name) {
				names = append(names, r.Name)
			}
		}
	}
	menus := overlay.Touched("menu")
	in := func(list []string) bool {
		return slices.ContainsFunc(list, func(n string) bool { return slices.Contains(names, n) })
	}
	var days []string
	for _, s := range []*shelf.Shelf{base, overlay} {
		for _, t := range s.Ahead() {
			if (in(t.Begins) || in(t.Ends) || menus && len(t.Menus) > 0) && !slices.Contains(days, t.Day) {
				days = append(days, t.Day)
			}
		}
	}
	if len(days) == 0 {
		return nil
	}
	slices.Sort(days)
	pages := takenBy(names, menus, base, overlay)
	var out []Later
	for _, day := range days[:min(maxDays, len(days))] {
		was, is := base.OnDay(day), overlay.OnDay(day)
		differ := make([]bool, len(pages))
		shelf.Parallel(len(pages), func(i int) { differ[i] = !sameOn(was, is, pages[i]) })
		n := 0
		for _, d := range differ {
			if d {
				n++
			}
		}
		if n > 0 {
			out = append(out, Later{day, n})
		}
	}
	return out
}

// takenBy lists the published pages that some rules take, before or after; or all, since any can show a
// menu.
func takenBy(names []string, all bool, base, overlay *shelf.Shelf) []string {
	takes := func(c place.Candidate) bool { return slices.Contains(names, c.Rule.Name) }
	var out []string
	for _, p := range overlay.PagePaths() {
		is, was := overlay.Info(p), base.Info(p)
		if shown(is) && shown(was) && (all || slices.ContainsFunc(is.Candidates, takes) ||
			slices.ContainsFunc(was.Candidates, takes)) {
			out = append(out, p)
		}
	}
	return out
}

// sameOn reports whether a page is the same for both audiences.
func sameOn(was, is *shelf.Shelf, path string) bool {
	for _, signedIn := range []bool{false, true} {
		o := render.Options{SignedIn: signedIn}
		if signedIn && was.Info(path).SignedIn() == nil && is.Info(path).SignedIn() == nil {
			break
		}
		if !bytes.Equal(render.Page(was, path, o).HTML, render.Page(is, path, o).HTML) {
			return false
		}
	}
	return true
}
