package place

import (
	"fmt"
	"sort"
	"time"
)

// Why says what became of a rule on a page.
type Why string

// What can become of a rule that names a page, from what shows to what does not.
const (
	Shown        Why = "shown"
	Copied       Why = "copied"    // the page has a one-off copy in its place
	Hidden       Why = "hidden"    // the page takes it off
	Filled       Why = "filled"    // the page fills the region itself
	Outranked    Why = "outranked" // another rule stands there
	Excepted     Why = "excepted"
	OtherPeople  Why = "audience" // it is for another audience
	OutsideDates Why = "dates"
	Off          Why = "off"
	NoRegion     Why = "no-region" // the page's layout lacks the region
)

// Verdict is a rule that names a page, and what became of it there.
type Verdict struct {
	Rule *Rule
	Why  Why
	// Target is the most specific target that takes the page, or the exception
	// that leaves it out.
	Target Target
	// By is the rule that stands there instead, where Why is Outranked, and
	// Decides what put it first: specificity, order or name.
	By      *Rule
	Decides string

	rank Specificity
	now  string
}

// Explain tells what becomes of every rule that names a page and is for a region of
// it: those that show in the order in which they stand, then the others, the more
// specific first. Where region is nil it tells of the rules for regions that the
// page lacks, as has tells.
func Explain(region *Region, rules []*Rule, f Facts, filled bool, now time.Time, audience string,
	has func(region string) bool) []Verdict {
	var out []Verdict
	var running []Candidate
	for _, r := range rules {
		if region != nil && r.Region != region.Name || region == nil && has(r.Region) {
			continue
		}
		v, named := verdict(r, f, now, audience)
		switch {
		case !named:
			continue
		case v.Why == Shown && region == nil:
			v.Why = NoRegion
		case v.Why == Shown:
			running = append(running, Candidate{r, v.rank})
		}
		out = append(out, v)
	}
	if region == nil {
		return out
	}
	place := map[*Rule]int{}
	for i, s := range Resolve(region, running, filled) {
		if s.Rule != nil {
			place[s.Rule] = i + 1
		}
	}
	for i := range out {
		v := &out[i]
		if v.Why != Shown || place[v.Rule] > 0 {
			continue
		}
		if v.Why = Filled; !filled {
			v.lose(running)
		}
	}
	sort.SliceStable(out, func(i, j int) bool {
		a, b := place[out[i].Rule], place[out[j].Rule]
		switch {
		case a > 0 && b > 0:
			return a < b
		case a > 0 || b > 0:
			return a > 0
		}
		return Outranks(Candidate{out[i].Rule, out[i].rank}, Candidate{out[j].Rule, out[j].rank})
	})
	return out
}

// verdict looks at a rule alone. It reports false where the rule does not name the
// page.
func verdict(r *Rule, f Facts, now time.Time, audience string) (Verdict, bool) {
	v := Verdict{Rule: r, Why: Shown, rank: -1, now: now.Format(time.DateOnly)}
	for _, t := range r.On {
		if t.Takes(f) && t.specificity() > v.rank {
			v.rank, v.Target = t.specificity(), t
		}
	}
	if v.rank < 0 {
		return v, false
	}
	for _, t := range r.Except {
		if t.Takes(f) {
			v.Why, v.Target = Excepted, t
			return v, true
		}
	}
	switch {
	case !r.Enabled:
		v.Why = Off
	case r.From != "" && v.now < r.From || r.Until != "" && v.now > r.Until:
		v.Why = OutsideDates
	case !r.For(audience):
		v.Why = OtherPeople
	}
	return v, true
}

func (v *Verdict) lose(running []Candidate) {
	v.Why = Outranked
	best := Candidate{v.Rule, v.rank}
	for _, c := range running {
		if Outranks(c, best) {
			best = c
		}
	}
	v.By, v.Decides = best.Rule, Decides(best, Candidate{v.Rule, v.rank})
}

// Decides says by what one rule comes before another: specificity, order or name.
func Decides(a, b Candidate) string {
	switch {
	case a.Rank != b.Rank:
		return "specificity"
	case a.Rule.Order != b.Rule.Order:
		return "order"
	}
	return "name"
}

// Words says in words what became of the rule.
func (v Verdict) Words() string {
	switch v.Why {
	case Shown:
		return "placed for " + v.Target.Words()
	case Copied:
		return "the page has a one-off copy in its place"
	case Hidden:
		return "the page takes it off"
	case Filled:
		return "the page fills the region itself"
	case Excepted:
		return "leaves out " + v.Target.Words()
	case OtherPeople:
		return "is for " + v.Rule.Audience + " visitors"
	case Off:
		return "is switched off"
	case NoRegion:
		return "the layout of the page has no region " + v.Rule.Region
	case OutsideDates:
		if v.now < v.Rule.From {
			return "begins on " + v.Rule.From
		}
		return "ended on " + v.Rule.Until
	}
	switch v.Decides {
	case "specificity":
		return fmt.Sprintf("%s is more specific than one for %s", v.By.Called(), v.Target.Words())
	case "order":
		return fmt.Sprintf("%s has the higher order, %d before %d", v.By.Called(), v.By.Order, v.Rule.Order)
	}
	return v.By.Called() + " is as specific and comes first by name"
}
