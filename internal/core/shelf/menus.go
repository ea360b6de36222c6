package shelf

import (
	"slices"
	"time"

	"brickshelf/internal/core/place"
)

// Menus lists the menus of the site, by path.
func (s *Shelf) Menus() []*place.Menu {
	var out []*place.Menu
	for _, p := range s.Paths("menus/") {
		if m, ok := s.entry(p).parsed.(*place.Menu); ok {
			out = append(out, m)
		}
	}
	return out
}

// limits tell whether entries of menus are for some visitors only, so that any page can show another
// thing to those who are signed in, or for some days.
type limits struct{ audience, days bool }

func (s *Shelf) limits() limits {
	s.limitsOnce.Do(func() {
		var look func(items []place.MenuItem)
		look = func(items []place.MenuItem) {
			for _, it := range items {
				s.limited.audience = s.limited.audience || it.Audience != "everyone"
				s.limited.days = s.limited.days || it.From != "" || it.Until != ""
				look(it.Items)
			}
		}
		for _, m := range s.Menus() {
			look(m.Items)
		}
	})
	return s.limited
}

// turns reports whether one of some entries begins or ends between two moments.
func turns(items []place.MenuItem, a, b time.Time) bool {
	return slices.ContainsFunc(items, func(it place.MenuItem) bool {
		return it.Running(a, it.Audience) != it.Running(b, it.Audience) || turns(it.Items, a, b)
	})
}

// daysOf lists the days on which some entries begin to stand, or stop to.
func daysOf(items []place.MenuItem, out []string) []string {
	for _, it := range items {
		for _, day := range []string{it.From, dayAfter(it.Until)} {
			if day != "" {
				out = append(out, day)
			}
		}
		out = daysOf(it.Items, out)
	}
	return out
}

// dayAfter is the day after one, "" where that is none.
func dayAfter(day string) string {
	last, err := time.Parse(time.DateOnly, day)
	if err != nil {
		return ""
	}
	return last.AddDate(0, 0, 1).Format(time.DateOnly)
}
