package shelf

import (
	"slices"
	"time"
)

// View is a page as some visitors see it on some day.
type View struct {
	Shelf    *Shelf // the site on that day
	Day      string // "" for the shelf's own
	SignedIn bool
	Info     *Info
}

// Views lists the ways in which a page is shown: to those who are signed out and, where
// they see something else, to those who are signed in; on the shelf's own day and on each
// day ahead on which a rule that takes the page begins or ends.
func (s *Shelf) Views(path string) []View {
	out := s.ViewsOn(nil, path, "")
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
	if len(turning) == 0 && !s.limits().days {
		return out
	}
	for _, t := range s.Ahead() {
		if len(t.Menus) > 0 || slices.ContainsFunc(turning, func(r string) bool {
			return slices.Contains(t.Begins, r) ||
				slices.Contains(t.Ends, r)
		}) {
			out = s.OnDay(t.Day).ViewsOn(out, path, t.Day)
		}
	}
	return out
}

func (s *Shelf) ViewsOn(out []View, path, day string) []View {
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
