package render

import (
	"slices"
	"time"

	"brickshelf/internal/core/shelf"
)

// Sight tells who sees a placement, and when; each is "" where that is no limit.
type Sight struct {
	Audience string // SignedIn or SignedOut
	From     string // the first day, as 2026-12-24, of one that is not there yet
	Until    string // the last day
}

// Render renders the page as the view has it.
func PageAs(v shelf.View, path string, o Options) *Result {
	o.SignedIn = v.SignedIn
	return Page(v.Shelf, path, o)
}

// Placements lists the placements on the page at a path, whoever sees them and when: those
// that stand there now for visitors who are signed out first, in the order in which they
// begin. Their offsets mean nothing.
func Placements(s *shelf.Shelf, path string) []Placement {
	views := s.Views(path)
	var out []Placement
	at := map[string]int{}
	seen := [][]bool{} // by placement and view
	for v := range views {
		lookAt(views[v], func(list []Placement) {
			for _, p := range list {
				i, known := at[p.Address]
				if !known {
					i = len(out)
					at[p.Address] = i
					out, seen = append(out, p), append(seen, make([]bool, len(views)))
				}
				seen[i][v] = true
			}
		})
	}
	if len(views) > 1 {
		for i := range out {
			out[i].Sight = sight(views, seen[i])
		}
	}
	return out
}

// sight tells who sees what stands in some of the views of a page.
func sight(views []shelf.View, in []bool) Sight {
	var out Sight
	lacks := map[bool]bool{} // by whether one is signed in: a view of a day that has the placement lacks it
	has := map[bool]bool{}
	began, ended := false, false
	for from := 0; from < len(views); {
		to := from + 1
		for to < len(views) && views[to].Day == views[from].Day {
			to++
		}
		there := slices.Contains(in[from:to], true)
		for v := from; v < to && there; v++ {
			if in[v] {
				has[views[v].SignedIn] = true
			} else {
				lacks[views[v].SignedIn] = true
			}
		}
		switch day := views[from].Day; {
		case there && !began:
			began, out.From = true, day
		case !there && began && !ended:
			if at, err := time.Parse(time.DateOnly, day); err == nil {
				ended, out.Until = true, at.AddDate(0, 0, -1).Format(time.DateOnly)
			}
		}
		from = to
	}
	switch {
	case has[true] && !has[false] && lacks[false]:
		out.Audience = shelf.SignedIn
	case has[false] && !has[true] && lacks[true]:
		out.Audience = shelf.SignedOut
	}
	return out
}
