package placing

import (
	"bytes"
	"fmt"
	"slices"
	"strings"

	"brickshelf/internal/core/edit/outline"
	"brickshelf/internal/core/markup"
	"brickshelf/internal/core/patch"
	"brickshelf/internal/core/place"
	"brickshelf/internal/core/render"
	"brickshelf/internal/core/shelf"
	"brickshelf/internal/core/site"
)

// Outcome is what a roll-out does to a page.
type Outcome string

// A page gets calls, or loses them; or it is passed over: it has them already, has
// nothing that could be taken away, or lacks the region.
const (
	Gets     Outcome = "added"
	Loses    Outcome = "removed"
	HasIt    Outcome = "there"
	HasNone  Outcome = "not-there"
	NoRegion Outcome = "no-region"
)

// Rolled is what a roll-out does to one page, and why.
type Rolled struct {
	Doc, URL string
	Outcome  Outcome
	Why      string
	From, To int // between which bytes of the page's document the calls stand that it gets
}

// RollOut writes calls into a region of many pages, at its start or end. A call of a
// block that a page shows already, whatever brings it there, is passed over on that
// page.
func RollOut(s *shelf.Shelf, paths []string, region, calls string, atStart bool) (site.ChangeSet, []Rolled,
	error) {
	names, texts, err := callsOf(s, calls)
	if err != nil {
		return site.ChangeSet{}, nil, err
	}
	shows := map[string]map[string]bool{}
	for _, n := range names {
		shows[n] = map[string]bool{}
		for _, p := range s.Users(n) {
			shows[n][p] = true
		}
	}
	changes, rolled := make([]site.Change, len(paths)), make([]Rolled, len(paths))
	errs := make([]error, len(paths))
	shelf.Parallel(len(paths), func(i int) {
		changes[i], rolled[i], errs[i] = rollOnto(s, paths[i], region, names, texts, shows, atStart)
	})
	set, err := gathered(changes, errs)
	set.Title = fmt.Sprintf("Put %s on %d pages", strings.Join(names, ", "), len(set.Changes))
	return set, rolled, err
}

// callsOf splits a row of calls.
func callsOf(s *shelf.Shelf, calls string) (names, texts []string, err error) {
	t := markup.Parse([]byte(calls))
	if len(t.Errors) > 0 {
		return nil, nil, site.Refuse("%s", t.Errors[0].Message)
	}
	for _, n := range t.Nodes {
		switch {
		case n.Kind == markup.Call:
			if _, known := s.Signature(n.Name); !known {
				return nil, nil, site.Refuse("%s", s.Unresolved(n.Name))
			}
			names, texts = append(names, n.Name), append(texts, string(t.Src[n.Span.From:n.Span.To]))
		case n.Kind != markup.Literal || strings.TrimSpace(string(t.Src[n.Span.From:n.Span.To])) != "":
			return nil, nil, site.Refuse("a roll-out puts calls on pages, and nothing else")
		}
	}
	if len(names) == 0 {
		return nil, nil, site.Refuse("name a block to put on the pages")
	}
	return names, texts, nil
}

// BeginWith makes new pages of some layouts begin with calls in a region, but for those
// with which they begin already. Pages that exist stay as they are.
func BeginWith(s *shelf.Shelf, layouts []string, region, calls string) ([]site.Change, error) {
	names, texts, err := callsOf(s, calls)
	if err != nil {
		return nil, err
	}
	var out []site.Change
	for _, name := range layouts {
		l := s.Layout(name)
		if l == nil {
			return nil, site.Missing("there is no layout %s", name)
		}
		if l.Region(region) == nil {
			continue
		}
		text := l.StartsWith[region]
		begins := map[string]bool{}
		markup.Walk(markup.Parse([]byte(text)).Nodes, func(n *markup.Node) bool {
			if n.Kind == markup.Call {
				begins[n.Name] = true
			}
			return true
		})
		for i, n := range names {
			if begins[n] {
				continue
			}
			if text = strings.TrimRight(text, "\n"); text != "" {
				text += "\n"
			}
			text += texts[i]
		}
		if text == l.StartsWith[region] {
			continue
		}
		src, _ := s.Get(l.Path)
		after, err := patch.Set(l.Path, src, []string{"starts_with", region}, text)
		if err != nil {
			return nil, err
		}
		out = append(out, site.Change{Path: l.Path, Before: s.Hash(l.Path), After: after})
	}
	return out, nil
}

func gathered(changes []site.Change, errs []error) (site.ChangeSet, error) {
	set := site.ChangeSet{}
	for i, c := range changes {
		if errs[i] != nil {
			return set, errs[i]
		}
		if c.Path != "" {
			set.Changes = append(set.Changes, c)
		}
	}
	return set, nil
}

func rollOnto(s *shelf.Shelf, path, region string, names, texts []string, shows map[string]map[string]bool,
	atStart bool) (site.Change, Rolled, error) {
	in := s.Info(path)
	if in == nil {
		return site.Change{}, Rolled{}, site.Missing("there is no page %s", path)
	}
	r := Rolled{Doc: path, URL: in.URL}
	if outline.HasRegion(in, region) != nil {
		r.Outcome, r.Why = NoRegion, "its layout has no region "+region
		return site.Change{}, r, nil
	}
	var missing, why []string
	for i, n := range names {
		if shows[n][path] {
			if through := through(s, in, n); through != "" {
				why = append(why, n+", which "+through)
				continue
			}
		}
		missing = append(missing, texts[i])
	}
	r.Why = strings.Join(why, "; ")
	if len(missing) > 0 && len(why) > 0 {
		r.Why = "not " + strings.Join(why, "; not ")
	}
	if len(missing) == 0 {
		r.Outcome = HasIt
		return site.Change{}, r, nil
	}
	src, _ := s.Get(path)
	g := in.Page
	at, lead, tail := edgeOf(src, g.Split, g.Text, region, atStart)
	put := []byte(lead + strings.Join(missing, patch.Newline(src)) + tail)
	out := bytes.Join([][]byte{src[:at], put, src[at:]}, nil)
	r.From, r.To = at, at+len(put)
	if spoken(g, names) {
		var shift func(int) int
		out, shift = outline.StableKeys(outline.Speaks(s, path, src), src, out, func(was int) int {
			if was < at {
				return was
			}
			return was + len(put)
		})
		r.From, r.To = shift(r.From), shift(r.To)
	}
	r.Outcome = Gets
	if r.Why == "" && g.Layout != "" && in.Layout.Region(region).Mode == place.One {
		if slots := slotsOf(in, region); !g.Filled(region) && len(slots) > 0 && slots[0].Rule != nil {
			r.Why = "takes the place of " + slots[0].Rule.Block
		}
	}
	return site.Change{Path: path, Before: s.Hash(path), After: out}, r, nil
}

// spoken reports whether a page says something of a call of one of some names, so that
// one more of them could take up what is said of another.
func spoken(g *place.Page, names []string) bool {
	of := func(address string) bool {
		return slices.ContainsFunc(names, func(n string) bool { return strings.Contains(address, "/"+n+"~") })
	}
	for a := range g.Overrides {
		if of(a) {
			return true
		}
	}
	for a := range g.Copies {
		if of(a) {
			return true
		}
	}
	for a := range g.Hidden {
		if of(a) {
			return true
		}
	}
	return false
}

// edgeOf is spotIn for what goes before or behind everything in a region, without
// taking apart what stands there.
func edgeOf(src []byte, split site.Split, t *markup.Text, region string, atStart bool) (at int, lead,
	tail string) {
	var in []*markup.Node
	if region == "main" {
		in = t.Nodes
	}
	for _, n := range t.Nodes {
		if n.Kind == markup.Fill && n.Name == region {
			in = append(in[:len(in):len(in)], n.Body...)
		}
	}
	if atStart {
		for _, n := range in {
			if from, _, ok := filled(t.Src, n); ok {
				return split.TextAt + from, "", patch.Newline(src)
			}
		}
	} else {
		for _, n := range slices.Backward(in) {
			if _, to, ok := filled(t.Src, n); ok {
				return split.TextAt + to, patch.Newline(src), ""
			}
		}
	}
	return outline.SpotIn(src, split, t, nil, region, -1)
}

// filled is where a node begins and ends but for white space around it. It reports
// false for what is no part of a region.
func filled(src []byte, n *markup.Node) (from, to int, ok bool) {
	switch n.Kind {
	case markup.Comment, markup.Fill:
		return 0, 0, false
	case markup.Literal:
		raw := src[n.Span.From:n.Span.To]
		left := len(bytes.TrimLeft(raw, blank))
		return n.Span.To - left, n.Span.From + len(bytes.TrimRight(raw, blank)), left > 0
	}
	return n.Span.From, n.Span.To, true
}

// blank is the white space around parts of a text.
const blank = " \t\r\n\f\v\u00a0\u0085"

func slotsOf(in *shelf.Info, region string) []place.Slot {
	for i := range in.Layout.Regions {
		if in.Layout.Regions[i].Name == region {
			return in.Slots[i]
		}
	}
	return nil
}

// through says how a block comes to stand on a page, "" where it does not.
func through(s *shelf.Shelf, in *shelf.Info, name string) string {
	for _, p := range render.Placements(s, in.Page.Path) {
		if p.Block != name || p.Kind == render.Hidden {
			continue
		}
		switch {
		case p.Kind == render.Copied:
			return "stands there as a one-off copy"
		case p.InText:
			return "stands in its text"
		case shelf.RuleOf(p.Address) != "":
			return "is placed by the rule " + s.Rule(shelf.RuleOf(p.Address)).Called()
		}
		return "stands inside another block, at " + p.Address
	}
	return ""
}

// TakeOff takes every call of a block out of the own text of many pages; of one region,
// or of all where region is "". What rules, layouts and other blocks bring stays.
func TakeOff(s *shelf.Shelf, paths []string, region, name string) (site.ChangeSet, []Rolled, error) {
	changes, rolled := make([]site.Change, len(paths)), make([]Rolled, len(paths))
	errs := make([]error, len(paths))
	shelf.Parallel(len(paths), func(i int) {
		changes[i], rolled[i], errs[i] = takeOffOf(s, paths[i], region, name)
	})
	set, err := gathered(changes, errs)
	set.Title = fmt.Sprintf("Take %s off %d pages", name, len(set.Changes))
	return set, rolled, err
}

func takeOffOf(s *shelf.Shelf, path, region, name string) (site.Change, Rolled, error) {
	in := s.Info(path)
	if in == nil {
		return site.Change{}, Rolled{}, site.Missing("there is no page %s", path)
	}
	r := Rolled{Doc: path, URL: in.URL, Outcome: HasNone, Why: "it does not stand there"}
	src, _ := s.Get(path)
	out := src
	wanted := func(p outline.Part) bool { return p.Name == name && (region == "" || p.Region == region) }
	if slices.Contains(in.Page.Calls, name) {
		for {
			parts := outline.Of(out)
			i := slices.IndexFunc(parts, wanted)
			if i < 0 {
				break
			}
			var err error
			if out, err = outline.Take(path, out, parts[i].From); err != nil {
				return site.Change{}, r, err
			}
		}
	}
	if len(out) == len(src) {
		if how := through(s, in, name); how != "" {
			r.Why = name + " " + how
		}
		return site.Change{}, r, nil
	}
	r.Outcome, r.Why = Loses, ""
	return site.Change{Path: path, Before: s.Hash(path), After: out}, r, nil
}
