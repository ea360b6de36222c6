package render

import (
	"slices"
	"time"

	"brickshelf/internal/core/place"
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
func (s *Shelf) RuleReach(r *place.Rule) *RuleReach {
	on := *r
	on.Enabled, on.Audience, on.From, on.Until = true, "everyone", "", ""
	out := &RuleReach{}
	meet := func(list *[]Rival, rule *place.Rule, decides string) {
		i := slices.IndexFunc(*list, func(v Rival) bool { return v.Rule == rule && v.Decides == decides })
		if i < 0 {
			i = len(*list)
			*list = append(*list, Rival{Rule: rule, Decides: decides})
		}
		(*list)[i].Pages++
	}
	audience := SignedOut
	if r.Audience == SignedIn {
		audience = SignedIn
	}
	day := s.now
	if from, err := time.Parse(time.DateOnly, r.From); err == nil && from.After(day) {
		day = from
	}
	for _, p := range s.PagePaths() {
		in := s.Info(p)
		if !in.Listed {
			continue
		}
		facts := s.Facts(in.Page)
		rank, takes := on.Takes(facts)
		var region *place.Region
		if in.Layout != nil {
			region = in.Layout.Region(on.Region)
		}
		letter := byte(NotNamed)
		switch {
		case !takes && slices.ContainsFunc(on.On, func(t place.Target) bool { return t.Takes(facts) }):
			letter = LeftOut
		case !takes:
		case region == nil:
			letter = Regionless
		case in.Page.Hidden[region.Name+"/rule:"+on.Name]:
			letter = TakenOff
		case region.Mode == place.One && in.Page.Filled(region.Name):
			letter = FilledBy
		default:
			letter = Takes
			best, others := best(in, region, &on, day, audience)
			mine := place.Candidate{Rule: &on, Rank: rank}
			switch {
			case region.Mode == place.Stack:
				if others == 0 && region.Default && !in.Page.Filled(region.Name) {
					letter = Displaces
					meet(&out.Displaced, nil, "")
				}
			case best.Rule == nil && region.Default:
				letter = Displaces
				meet(&out.Displaced, nil, "")
			case best.Rule == nil:
			case place.Outranks(mine, best):
				letter = Displaces
				meet(&out.Displaced, best.Rule, place.Decides(mine, best))
			default:
				letter = LosesTo
				meet(&out.Outranked, best.Rule, place.Decides(best, mine))
			}
		}
		out.Pages = append(out.Pages, letter)
	}
	return out
}

// best is the rule that stands in a region of a page on a day but for one, and how many do.
func best(in *Info, region *place.Region, but *place.Rule, day time.Time, audience string) (best place.Candidate, n int) {
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
