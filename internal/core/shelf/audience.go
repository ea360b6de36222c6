package shelf

import (
	"maps"
	"slices"
	"time"

	"brickshelf/internal/core/place"
	"brickshelf/internal/core/script"
)

// The audiences of a published site. Pages show to visitors who are signed out what
// Render gives; where a rule speaks of an audience they may show another thing to
// those who are signed in.
const (
	SignedOut = "signed-out"
	SignedIn  = "signed-in"
)

// SignedIn is the page as those who are signed in see it, or nil where no rule makes
// a difference for them.
func (in *Info) SignedIn() *Info {
	if in == nil || in.Plan.signedIn == nil {
		return nil
	}
	out := *in
	out.Plan = in.Plan.signedIn
	return &out
}

// Seen is the page as an audience sees it.
func (in *Info) Seen(audience string) *Info {
	if audience == SignedIn {
		if other := in.SignedIn(); other != nil {
			return other
		}
	}
	return in
}

// fill decides what stands in the regions of a layout for both audiences.
func (p *Plan) fill(l *place.Layout, filled []bool, now time.Time, menus bool) {
	slots := func(audience string) [][]place.Slot {
		var running []place.Candidate
		for _, c := range p.Candidates {
			if c.Rule.Running(now, audience) {
				running = append(running, c)
			}
		}
		out := make([][]place.Slot, len(l.Regions))
		for i := range l.Regions {
			out[i] = place.Resolve(&l.Regions[i], running, filled[i])
		}
		return out
	}
	p.Slots = slots(SignedOut)
	if menus || slices.ContainsFunc(p.Candidates,
		func(c place.Candidate) bool { return c.Rule.Audience != "everyone" }) {
		p.signedIn = &Plan{Candidates: p.Candidates, Slots: slots(SignedIn), member: true}
	}
}

// At is the site as it is at another moment, on which rules with dates and
// shortcodes that ask for the date can depend: an overlay as With gives it.
func (s *Shelf) At(now time.Time) *Shelf {
	o := s.overlay()
	if s.base != nil {
		maps.Copy(o.docs, s.docs)
	}
	o.config, o.now = s.config, now
	o.settle()
	return o
}

// dayReach notes which rules begin or end between the day of an overlay's base and its
// own, and gives the shortcodes that show another thing.
func (o *Shelf) dayReach() []string {
	if o.now.Equal(o.base.now) {
		return nil
	}
	for _, r := range o.rules {
		if r.Running(o.now, r.Audience) != r.Running(o.base.now, r.Audience) {
			o.turned[r.Name], o.resolved = true, true
		}
	}
	var out []string
	for _, m := range o.Menus() {
		if turns(m.Items, o.base.now, o.now) {
			out = append(out, builtinsReading(script.Menus)...)
			break
		}
	}
	if o.now.Year() != o.base.now.Year() {
		out = append(out, builtinsReading(Year)...)
	}
	if o.now.UTC().Format(time.DateOnly) != o.base.now.UTC().Format(time.DateOnly) {
		for name := range o.base.index.scripts {
			out = append(out, name)
		}
	}
	return out
}

// Turn is a day on which rules begin to stand or stop to.
type Turn struct {
	Day    string // as 2026-03-01: the first on which it is so
	Begins []string
	Ends   []string
	Menus  []string // of which entries begin or end
}

// Ahead lists the days after the shelf's own on which rules that are switched on
// begin or end, in order.
func (s *Shelf) Ahead() []Turn {
	today := s.now.Format(time.DateOnly)
	days := map[string]*Turn{}
	on := func(day string) *Turn {
		if days[day] == nil {
			days[day] = &Turn{Day: day}
		}
		return days[day]
	}
	for _, r := range s.rules {
		if !r.Enabled {
			continue
		}
		if r.From > today {
			on(r.From).Begins = append(on(r.From).Begins, r.Name)
		}
		if next := dayAfter(r.Until); r.Until >= today && next != "" {
			on(next).Ends = append(on(next).Ends, r.Name)
		}
	}
	for _, m := range s.Menus() {
		for _, day := range daysOf(m.Items, nil) {
			if day > today && !slices.Contains(on(day).Menus, m.Name) {
				on(day).Menus = append(on(day).Menus, m.Name)
			}
		}
	}
	var out []Turn
	for _, t := range days {
		out = append(out, *t)
	}
	slices.SortFunc(out, func(a, b Turn) int {
		if a.Day < b.Day {
			return -1
		}
		return 1
	})
	return out
}
