package explain

import (
	"slices"
	"time"

	"brickshelf/internal/core/place"
	"brickshelf/internal/core/shelf"
)

// What a rule would do on a page; see RuleReach.
const (
	Takes      = 't' // it stands there
	Displaces  = 'd' // it stands there in the place of something else
	LosesTo    = 'l' // another rule stands there
	FilledBy   = 'f' // the page fills the region itself
	Regionless = 'm' // the page has no such region
	LeftOut    = 'x' // it is excepted
	TakenOff   = 'h' // the page hides it
	NotNamed   = '-'
)

// RuleReach is what a rule would do on each published page if it were switched on, in
// the order of their addresses, whoever looks and on whatever day.
type RuleReach struct {
	Pages     []byte
	Displaced []Rival
	Outranked []Rival
}

// Rival is a rule that another one meets: the one in whose place it stands, or that
// stands in its. Rule is nil for what the layout has there.
type Rival struct {
	Rule    *place.Rule
	Decides string
	Pages   int
}

// RuleReach tells what a rule would do in place of the one that has its name, if there
// is one. Whom it meets is told for the present day, or the day on which it begins where
// that is yet to come.
func RuleOn(s *shelf.Shelf, r *place.Rule) *RuleReach {
	w := &reaching{out: &RuleReach{}, on: *r, day: s.Now(), audience: shelf.SignedOut}
	w.on.Enabled, w.on.Audience, w.on.From, w.on.Until = true, "everyone", "", ""
	if r.Audience == shelf.SignedIn {
		w.audience = shelf.SignedIn
	}
	if from, err := time.Parse(time.DateOnly, r.From); err == nil && from.After(w.day) {
		w.day = from
	}
	for _, p := range s.PagePaths() {
		if in := s.Info(p); in.Listed {
			w.out.Pages = append(w.out.Pages, w.page(in, s.Facts(in.Page)))
		}
	}
	return w.out
}

// reaching works out the reach of a rule, page by page.
type reaching struct {
	out      *RuleReach
	on       place.Rule // as it would be, switched on
	day      time.Time
	audience string
}

// page is what the rule would do on a page.
func (w *reaching) page(in *shelf.Info, facts place.Facts) byte {
	rank, takes := w.on.Takes(facts)
	var region *place.Region
	if in.Layout != nil {
		region = in.Layout.Region(w.on.Region)
	}
	switch {
	case !takes && slices.ContainsFunc(w.on.On, func(t place.Target) bool { return t.Takes(facts) }):
		return LeftOut
	case !takes:
		return NotNamed
	case region == nil:
		return Regionless
	case in.Page.Hidden[region.Name+"/rule:"+w.on.Name]:
		return TakenOff
	case region.Mode == place.One && in.Page.Filled(region.Name):
		return FilledBy
	}
	return w.among(in, region, rank)
}

// among holds the rule against those that stand in the region already.
func (w *reaching) among(in *shelf.Info, region *place.Region, rank place.Specificity) byte {
	best, others := best(in, region, &w.on, w.day, w.audience)
	mine := place.Candidate{Rule: &w.on, Rank: rank}
	switch {
	case region.Mode == place.Stack:
		if others > 0 || !region.Default || in.Page.Filled(region.Name) {
			return Takes
		}
		meet(&w.out.Displaced, nil, "")
	case best.Rule == nil && !region.Default:
		return Takes
	case best.Rule == nil:
		meet(&w.out.Displaced, nil, "")
	case !place.Outranks(mine, best):
		meet(&w.out.Outranked, best.Rule, place.Decides(best, mine))
		return LosesTo
	default:
		meet(&w.out.Displaced, best.Rule, place.Decides(mine, best))
	}
	return Displaces
}

// meet counts a page on which a rule is met.
func meet(list *[]Rival, rule *place.Rule, decides string) {
	i := slices.IndexFunc(*list, func(v Rival) bool { return v.Rule == rule && v.Decides == decides })
	if i < 0 {
		i = len(*list)
		*list = append(*list, Rival{Rule: rule, Decides: decides})
	}
	(*list)[i].Pages++
}

// best is the rule that stands in a region of a page on a day but for one, and how many do.
func best(in *shelf.Info, region *place.Region, but *place.Rule, day time.Time,
	audience string) (best place.Candidate, n int) {
	for _, c := range in.Candidates {
		if c.Rule.Region != region.Name || c.Rule.Name == but.Name || !c.Rule.Running(day, audience) {
			continue
		}
		n++
		if best.Rule == nil || place.Outranks(c, best) {
			best = c
		}
	}
	return best, n
}
