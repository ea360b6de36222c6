package explain

import (
	"cmp"
	"slices"
	"time"

	"brickshelf/internal/core/place"
	"brickshelf/internal/core/shelf"
)

// Explanation tells for each region of a page what stands there and why.
type Explanation struct {
	Info    *shelf.Info
	Regions []RegionStory
	// Homeless are rules that take the page and have no region on it.
	Homeless []place.Verdict
}

// RegionStory is one region of a page: whether the page fills it itself, whether
// the layout has content for it where nothing else does, and every rule that names
// the page, those that show first.
type RegionStory struct {
	place.Region
	Filled   bool
	Verdicts []place.Verdict
}

// Shows says what stands in the region: rule, page, both, default or nothing.
func (r *RegionStory) Shows() string {
	rule := false
	for _, v := range r.Verdicts {
		rule = rule || v.Why == place.Shown || v.Why == place.Copied
	}
	switch {
	case rule && r.Filled:
		return "both"
	case rule:
		return "rule"
	case r.Filled:
		return "page"
	case r.Default && !r.hides():
		return "default"
	}
	return "nothing"
}

// hides reports whether a rule stands there that the page takes off: the layout's
// own content does not come back by that.
func (r *RegionStory) hides() bool {
	for _, v := range r.Verdicts {
		if v.Why == place.Hidden {
			return true
		}
	}
	return false
}

// Explain tells what stands in the regions of a page for an audience, signed-in or
// signed-out, on a day. It returns nil where there is no such page.
func Page(s *shelf.Shelf, path, audience string, day time.Time) *Explanation {
	in := s.Info(path)
	if in == nil {
		return nil
	}
	e := &Explanation{Info: in}
	facts := s.Facts(in.Page)
	has := func(string) bool { return false }
	if in.Layout != nil {
		has = func(name string) bool { return in.Layout.Region(name) != nil }
		for i := range in.Layout.Regions {
			region := &in.Layout.Regions[i]
			story := RegionStory{Region: *region, Filled: in.Page.Filled(region.Name)}
			story.Verdicts = place.Explain(region, s.Rules(), facts, story.Filled, day, audience, has)
			for j := range story.Verdicts {
				v := &story.Verdicts[j]
				if address := region.Name + "/rule:" + v.Rule.Name; v.Why == place.Shown &&
					in.Page.Hidden[address] {
					v.Why = place.Hidden
				} else if v.Why == place.Shown && in.Page.Copies[address] != nil {
					v.Why = place.Copied
				}
			}
			e.Regions = append(e.Regions, story)
		}
	}
	e.Homeless = place.Explain(nil, s.Rules(), facts, false, day, audience, has)
	return e
}

// Winners tells for one region what each page of a site shows there.
type Winners struct {
	Region string
	Groups []Group
	// Of has the place in Groups for each published page by address, -1 where its
	// layout has no such region.
	Of   []int
	Ties []Tie
}

// Group is what some pages show alike in a region.
type Group struct {
	Parts []Part // in order; none where nothing stands there
	Pages int
}

// Part is one thing in a region. Kind is rule, page (the page's own text), copy or
// default.
type Part struct {
	Kind  string
	Rule  string
	Block string
}

// Tie is two rules for one place that are equally specific, and what decides for the
// first: order or name.
type Tie struct {
	Winner, Loser, Decides string
	Pages                  int
}

// Winners tells what stands where on every published page, region by region, in the
// order in which layouts first name them.
func Regions(s *shelf.Shelf) []*Winners {
	var out []*Winners
	byName := map[string]*Winners{}
	total := len(s.Published())
	for _, l := range s.Layouts() {
		for i := range l.Regions {
			name := l.Regions[i].Name
			if byName[name] == nil {
				byName[name] = &Winners{Region: name, Of: nowhere(total)}
				out = append(out, byName[name])
			}
		}
	}
	known := map[*Winners]map[string]int{}
	ties := map[*Winners]map[Tie]int{}
	n := 0
	for _, path := range s.PagePaths() {
		in := s.Info(path)
		if in.Draft {
			continue
		}
		for i := 0; in.Layout != nil && i < len(in.Layout.Regions); i++ {
			w := byName[in.Layout.Regions[i].Name]
			parts, key := parts(in, i)
			at, seen := known[w][key]
			if !seen {
				at = len(w.Groups)
				if known[w] == nil {
					known[w], ties[w] = map[string]int{}, map[Tie]int{}
				}
				known[w][key] = at
				w.Groups = append(w.Groups, Group{Parts: parts})
			}
			w.Groups[at].Pages++
			w.Of[n] = at
			if t, tied := tie(in, i, s.Now()); tied {
				ties[w][t]++
			}
		}
		n++
	}
	for _, w := range out {
		for t, pages := range ties[w] {
			t.Pages = pages
			w.Ties = append(w.Ties, t)
		}
		slices.SortFunc(w.Ties, func(a, b Tie) int {
			return cmp.Or(b.Pages-a.Pages, cmp.Compare(a.Winner+a.Loser, b.Winner+b.Loser))
		})
	}
	return out
}

// parts lists what stands in a region of the page, and a key that tells it from what
// else could.
func parts(in *shelf.Info, region int) ([]Part, string) {
	slots := in.Slots[region]
	r := &in.Layout.Regions[region]
	var out []Part
	key := ""
	put := func(p Part) {
		out = append(out, p)
		key += p.Kind + " " + p.Rule + "|"
	}
	if slots == nil && r.Default {
		put(Part{Kind: "default"})
	}
	for _, sl := range slots {
		switch {
		case sl.Rule == nil:
			if in.Page.Filled(r.Name) {
				put(Part{Kind: "page"})
			}
		case in.Page.Hidden[sl.Address]:
		case in.Page.Copies[sl.Address] != nil:
			put(Part{"copy", sl.Rule.Name, in.Page.Copies[sl.Address].Of})
		default:
			put(Part{"rule", sl.Rule.Name, sl.Rule.Block})
		}
	}
	return out, key
}

// tie finds a rule that is as specific as the one that stands in a region for one
// thing.
func tie(in *shelf.Info, region int, now time.Time) (Tie, bool) {
	r := &in.Layout.Regions[region]
	slots := in.Slots[region]
	if r.Mode != place.One || len(slots) != 1 || slots[0].Rule == nil {
		return Tie{}, false
	}
	var first, second place.Candidate
	for _, c := range in.Candidates {
		switch {
		case c.Rule == slots[0].Rule:
			first = c
		case c.Rule.Region == r.Name && c.Rule.Running(now, shelf.SignedOut) && (second.Rule == nil ||
			place.Outranks(c, second)):
			second = c
		}
	}
	if second.Rule == nil || first.Rank != second.Rank {
		return Tie{}, false
	}
	return Tie{Winner: first.Rule.Name, Loser: second.Rule.Name, Decides: place.Decides(first, second)}, true
}

// nowhere is a list of n pages that lack a region.
func nowhere(n int) []int {
	out := make([]int, n)
	for i := range out {
		out[i] = -1
	}
	return out
}
