package place

import (
	"sort"
	"sync/atomic"

	"brickshelf/internal/core/markup"
)

// Slot is one thing that stands in a region: a rule's block, or the page's own
// text where Rule is nil.
type Slot struct {
	Rule    *Rule
	Address string
	// Memo is for whoever renders the slot: what it showed last, and when that holds.
	Memo *atomic.Pointer[markup.Memo]
}

// Candidate is a rule that takes a page, and how specifically.
type Candidate struct {
	Rule *Rule
	Rank Specificity
}

// Candidates returns the rules that take a page, whatever region they are for.
func Candidates(rules []*Rule, f Facts) []Candidate {
	var out []Candidate
	for _, r := range rules {
		if rank, ok := r.Takes(f); ok {
			out = append(out, Candidate{r, rank})
		}
	}
	return out
}

// Resolve decides what stands in a region: in a One region the page's own fill
// or the best rule, in a Stack all rules around the page's own text. An empty
// result leaves the layout's default content.
func Resolve(region *Region, running []Candidate, filled bool) []Slot {
	var rules []Candidate
	for _, c := range running {
		if c.Rule.Region == region.Name {
			rules = append(rules, c)
		}
	}
	slot := func(r *Rule) Slot {
		return Slot{r, region.Name + "/rule:" + r.Name, new(atomic.Pointer[markup.Memo])}
	}
	if region.Mode == One {
		if filled {
			return []Slot{{}}
		}
		if len(rules) == 0 {
			return nil
		}
		sort.SliceStable(rules, func(i, j int) bool { return Outranks(rules[i], rules[j]) })
		return []Slot{slot(rules[0].Rule)}
	}
	if len(rules) == 0 {
		if filled {
			return []Slot{{}}
		}
		return nil
	}
	sort.SliceStable(rules, func(i, j int) bool {
		a, b := rules[i].Rule, rules[j].Rule
		if a.Order != b.Order {
			return a.Order < b.Order
		}
		return a.Name < b.Name
	})
	var out []Slot
	for _, c := range rules {
		if c.Rule.AtStart {
			out = append(out, slot(c.Rule))
		}
	}
	out = append(out, Slot{})
	for _, c := range rules {
		if !c.Rule.AtStart {
			out = append(out, slot(c.Rule))
		}
	}
	return out
}

// Outranks reports whether a wins over b where one thing can stand: the more
// specific, then the higher order, then the earlier name.
func Outranks(a, b Candidate) bool {
	if a.Rank != b.Rank {
		return a.Rank > b.Rank
	}
	if a.Rule.Order != b.Rule.Order {
		return a.Rule.Order > b.Rule.Order
	}
	return a.Rule.Name < b.Rule.Name
}
