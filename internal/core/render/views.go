package render

import (
	"slices"
	"time"
)

// Sight tells who sees a placement, and when; each is "" where that is no limit.
type Sight struct {
	Audience string // SignedIn or SignedOut
	From     string // the first day, as 2026-12-24, of one that is not there yet
	Until    string // the last day
}

// View is a page as some visitors see it on some day.
type View struct {
	Shelf    *Shelf // the site on that day
	Day      string // "" for the shelf's own
	SignedIn bool
	info     *Info
}

// Views lists the ways in which a page is shown: to those who are signed out and, where
// they see something else, to those who are signed in; on the shelf's own day and on each
// day ahead on which a rule that takes the page begins or ends.
func (s *Shelf) Views(path string) []View {
	out := s.viewsOn(nil, path, "")
	in := s.Info(path)
	if in == nil {
		return out
	}
	var turning []string
	for _, c := range in.Candidates {
		if c.Rule.From != "" || c.Rule.Until != "" {
			turning = append(turning, c.Rule.Name)
		}
	}
	if len(turning) == 0 {
		return out
	}
	for _, t := range s.Ahead() {
		if slices.ContainsFunc(turning, func(r string) bool {
			return slices.Contains(t.Begins, r) ||
				slices.Contains(t.Ends, r)
		}) {
			out = s.OnDay(t.Day).viewsOn(out, path, t.Day)
		}
	}
	return out
}

func (s *Shelf) viewsOn(out []View, path, day string) []View {
	in := s.Info(path)
	if in == nil {
		return out
	}
	out = append(out, View{s, day, false, in})
	if other := in.SignedIn(); other != nil {
		out = append(out, View{s, day, true, other})
	}
	return out
}

// OnDay is the site on a day that Ahead gives, made once.
func (s *Shelf) OnDay(day string) *Shelf {
	s.daysMu.Lock()
	defer s.daysMu.Unlock()
	if d := s.days[day]; d != nil {
		return d
	}
	at, err := time.Parse(time.DateOnly, day)
	if err != nil {
		return s
	}
	if s.days == nil {
		s.days = map[string]*Shelf{}
	}
	s.days[day] = s.At(at)
	return s.days[day]
}

// Render renders the page as the view has it.
func (v View) Render(path string, o Options) *Result {
	o.SignedIn = v.SignedIn
	return v.Shelf.Render(path, o)
}

// Placements lists the placements on the page at a path, whoever sees them and when: those
// that stand there now for visitors who are signed out first, in the order in which they
// begin. Their offsets mean nothing.
func (s *Shelf) Placements(path string) []Placement {
	views := s.Views(path)
	var out []Placement
	at := map[string]int{}
	seen := [][]bool{} // by placement and view
	for v := range views {
		views[v].lookAtPlacements(func(list []Placement) {
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
func sight(views []View, in []bool) Sight {
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
		out.Audience = SignedIn
	case has[false] && !has[true] && lacks[true]:
		out.Audience = SignedOut
	}
	return out
}
