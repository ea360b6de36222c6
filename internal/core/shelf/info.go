package shelf

import (
	"fmt"
	"sort"

	"brickshelf/internal/core/block"
	"brickshelf/internal/core/place"
)

// Info is a page with what the site decides for it.
type Info struct {
	Page   *place.Page
	Layout *place.Layout // nil for a page that is its text alone
	*Plan
	URL    string // the page's, at hand without a look at the page
	Draft  bool   // it is not published
	Listed bool   // it is published, and no mere way on to another page
	Local  bool   // the page names addresses of its own
	Fields map[string]block.Value
	Lost   []string // regions that the page fills and the layout lacks
	Says   []Saying
}

// Plan is what the site decides alike for many pages: which rules take them, and
// what stands in each region of their layout, nil where the default does.
type Plan struct {
	Candidates []place.Candidate
	Slots      [][]place.Slot

	signedIn *Plan // for those who are signed in, nil where it is the same
	member   bool  // it is one for those who are signed in
}

// Member reports whether the page is as those who are signed in see it.
func (p *Plan) Member() bool { return p.member }

// RegionWidth is how wide the page's layout says that a region is, in CSS pixels; 0 where it does not.
func (in *Info) RegionWidth(name string) int {
	if in.Layout == nil {
		return 0
	}
	if r := in.Layout.Region(name); r != nil {
		return r.Width
	}
	return 0
}

// inform decides for a page: its layout, who takes it, what stands in which
// region, and the values of its fields.
func (s *Shelf) inform(g *place.Page, plans map[string]*Plan) *Info {
	in := &Info{Page: g, Plan: s.bare(), URL: g.URL, Draft: g.Draft, Listed: !g.Draft && g.Redirect == "",
		Local: g.Local, Says: localEntries(g)}
	if g.Layout != "" {
		in.Layout = s.Layout(g.Layout)
	}
	if in.Layout != nil {
		in.Plan = s.plan(in, plans)
		in.Lost = in.Homeless(in.Layout)
	}
	if len(g.Fields) > 0 {
		in.Fields = map[string]block.Value{}
		for _, p := range g.Fields {
			f := s.pageField(in, p.Key)
			if v, err := s.reader.Read(f, block.Raw(p.Value)); err == nil {
				in.Fields[p.Key] = v
			}
		}
	}
	return in
}

// bare is the plan of a page without a layout.
func (s *Shelf) bare() *Plan {
	if s.limits().audience {
		return &Plan{signedIn: &Plan{member: true}}
	}
	return &Plan{}
}

// Homeless lists the regions that the page fills and a layout lacks, in order.
func (in *Info) Homeless(l *place.Layout) []string {
	var out []string
	for _, f := range in.Page.Fills {
		if l.Region(f.Region) == nil && in.Page.Filled(f.Region) {
			out = append(out, f.Region)
		}
	}
	sort.Strings(out)
	return out
}

// plan decides what stands where on a page. Pages for which the same rules run
// and that fill the same regions share one plan.
func (s *Shelf) plan(in *Info, plans map[string]*Plan) *Plan {
	p := &Plan{Candidates: place.Candidates(s.rules, s.Facts(in.Page))}
	key := fmt.Append([]byte(in.Layout.Name), s.limits().audience)
	for _, c := range p.Candidates {
		key = fmt.Appendf(key, "|%s %d", c.Rule.Name, c.Rank)
	}
	filled := make([]bool, len(in.Layout.Regions))
	for i := range in.Layout.Regions {
		filled[i] = in.Page.Filled(in.Layout.Regions[i].Name)
		key = fmt.Append(key, filled[i])
	}
	if known := plans[string(key)]; known != nil {
		return known
	}
	if s.base != nil && !s.resolved {
		if known := s.base.index.plans[string(key)]; known != nil {
			plans[string(key)] = known
			return known
		}
	}
	p.fill(in.Layout, filled, s.now, s.limits().audience)
	plans[string(key)] = p
	return p
}

// pageField describes a page field: as the layout declares it, else as the site
// declares one of that name, else a text.
func (s *Shelf) pageField(in *Info, name string) *block.Field {
	if in.Layout != nil {
		if f := in.Layout.PageField(name); f != nil {
			return f
		}
	}
	for _, f := range s.config.Fields {
		if f.Name == name {
			return f
		}
	}
	return &block.Field{Name: name, Type: block.Text}
}

// Facts are what a rule's targets ask about a page.
func (s *Shelf) Facts(g *place.Page) place.Facts {
	return place.Facts{URL: g.URL, Layout: g.Layout, Tags: g.Tags, IsHome: g.URL == s.config.Home}
}

// Info returns the page at a path, or nil.
func (s *Shelf) Info(path string) *Info {
	if s.base == nil {
		return s.index.at(path)
	}
	e, changed := s.docs[path]
	if !changed && !s.resolved {
		return s.base.index.at(path)
	}
	if changed && e == nil {
		return nil
	}
	s.mu.Lock()
	defer s.mu.Unlock()
	if in, ok := s.infos[path]; ok {
		return in
	}
	var in *Info
	if e = s.entry(path); e != nil {
		if g, ok := e.parsed.(*place.Page); ok {
			if in = s.informLike(s.base.index.at(path), g); in == nil {
				in = s.inform(g, s.plans)
			}
		}
	}
	s.infos[path] = in
	return in
}

// informLike is inform for a page of which only the text differs from what it is in
// the base, and fills the same regions; nil where it is not that.
func (s *Shelf) informLike(old *Info, g *place.Page) *Info {
	if old == nil || s.resolved || old.URL != g.URL || old.Layout == nil || len(old.Lost) > 0 ||
		!old.Page.SameHead(g) {
		return nil
	}
	for _, f := range g.Fills {
		if old.Layout.Region(f.Region) == nil {
			return nil
		}
	}
	for i := range old.Layout.Regions {
		if r := old.Layout.Regions[i].Name; old.Page.Filled(r) != g.Filled(r) {
			return nil
		}
	}
	return &Info{Page: g, Layout: old.Layout, Plan: old.Plan, URL: old.URL, Draft: old.Draft,
		Listed: old.Listed, Local: old.Local, Fields: old.Fields, Says: old.Says}
}

// Rules lists the rules that stand on a page, and those that take it without
// being shown there.
func (in *Info) Rules() (shown, idle []string) {
	seen := map[string]bool{}
	for _, slots := range in.Slots {
		for _, sl := range slots {
			if sl.Rule != nil && !in.Page.Hidden[sl.Address] {
				seen[sl.Rule.Name] = true
			}
		}
	}
	for _, c := range in.Candidates {
		switch {
		case seen[c.Rule.Name]:
			shown = append(shown, c.Rule.Name)
		case c.Rule.Enabled:
			idle = append(idle, c.Rule.Name)
		}
	}
	return shown, idle
}
