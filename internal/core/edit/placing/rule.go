// Package placing puts blocks onto pages: by rules, in many pages' texts at once, in the
// regions of layouts.
package placing

import (
	"cmp"
	"fmt"
	"slices"

	"brickshelf/internal/core/block"
	"brickshelf/internal/core/edit"
	"brickshelf/internal/core/patch"
	"brickshelf/internal/core/place"
	"brickshelf/internal/core/shelf"
	"brickshelf/internal/core/site"
)

// NewRule writes a rule that puts a block into a region of all pages. It is called after its name where
// title is "".
func NewRule(s *shelf.Shelf, name, title, blockName, region string) (site.ChangeSet, error) {
	path := "rules/" + name + ".yaml"
	if err := edit.FreeName(s, "rule", path, name); err != nil {
		return site.ChangeSet{}, err
	}
	if s.Block(blockName) == nil {
		return site.ChangeSet{}, site.Missing("there is no block %q%s", blockName,
			block.Nearest(blockName, s.Names()))
	}
	var text string
	if title != "" {
		text = "title: " + site.PlainYAML(title) + "\n"
	}
	text += "block: " + blockName + "\nregion: " + site.PlainYAML(region) + "\non: [all]\n"
	return site.ChangeSet{Title: "New rule " + cmp.Or(title, name),
		Changes: []site.Change{{Path: path, After: []byte(text)}}}, nil
}

// DeleteRule deletes a rule.
func DeleteRule(s *shelf.Shelf, name string) (site.ChangeSet, error) {
	path := "rules/" + name + ".yaml"
	if _, there := s.Get(path); !there {
		return site.ChangeSet{}, site.Missing("there is no rule %s", name)
	}
	called := name
	if r := s.Rule(name); r != nil { // none where it cannot be read
		called = r.Called()
	}
	return site.ChangeSet{Title: "Delete the rule " + called,
		Changes: []site.Change{{Path: path, Before: s.Hash(path), Delete: true}}}, nil
}

// Before reports whether a rule comes before another one of its region where neither
// is more specific: as it is listed, and so as it wins or stands first.
func Before(a, b *place.Rule, mode place.Mode) int {
	if mode == place.One {
		return cmp.Or(b.Order-a.Order, cmp.Compare(a.Name, b.Name))
	}
	if a.AtStart != b.AtStart {
		if a.AtStart {
			return -1
		}
		return 1
	}
	return cmp.Or(a.Order-b.Order, cmp.Compare(a.Name, b.Name))
}

// OrderRules makes the rules of a region come one after the other as they are named.
// It gives another order to as few as it can, and in a region for many moves a rule
// between those that stand at the start and those at the end.
func OrderRules(s *shelf.Shelf, region string, mode place.Mode, names []string) (site.ChangeSet, error) {
	set := site.ChangeSet{Title: "Order the rules of " + region}
	var rules []*place.Rule
	for _, r := range s.Rules() {
		if r.Region == region {
			rules = append(rules, r)
		}
	}
	wanted := make([]*place.Rule, len(names))
	for i, n := range names {
		at := slices.IndexFunc(rules, func(r *place.Rule) bool { return r.Name == n })
		if at < 0 || slices.Contains(wanted[:i], rules[at]) {
			return set, site.Refuse("the rules of %s are not these any more; look again", region)
		}
		wanted[i] = rules[at]
	}
	if len(names) != len(rules) {
		return set, site.Refuse("the region %s has %d rules; name each of them once", region, len(rules))
	}
	copies := make([]place.Rule, len(wanted))
	for i, r := range wanted {
		copies[i] = *r
	}
	fits := func() bool {
		for i := 1; i < len(copies); i++ {
			if Before(&copies[i-1], &copies[i], mode) >= 0 {
				return false
			}
		}
		return true
	}
	if !fits() && !oneMoves(copies, mode, fits) {
		renumber(copies, mode)
	}
	for i, r := range wanted {
		src, _ := s.Get(r.Path)
		out, err := src, error(nil)
		if copies[i].Order != r.Order {
			out, err = patch.Set(r.Path, out, []string{"order"}, copies[i].Order)
		}
		if err == nil && copies[i].AtStart != r.AtStart {
			out, err = patch.Set(r.Path, out, []string{"at"}, map[bool]string{true: "start",
				false: "end"}[copies[i].AtStart])
		}
		if err != nil {
			return set, fmt.Errorf("%s: %w", r.Path, err)
		}
		if string(out) != string(src) {
			set.Changes = append(set.Changes, site.Change{Path: r.Path, Before: s.Hash(r.Path), After: out})
		}
	}
	if len(set.Changes) == 0 {
		return set, site.Refuse("they stand in that order already")
	}
	return set, nil
}

// oneMoves gives one rule the order and side of a neighbour, or one between two, if
// that is enough.
func oneMoves(list []place.Rule, mode place.Mode, fits func() bool) bool {
	for i := range list {
		old := list[i]
		for _, j := range []int{i - 1, i + 1} {
			for _, by := range []int{0, 1, -1} {
				if j < 0 || j >= len(list) {
					continue
				}
				list[i].Order = list[j].Order + by
				if mode == place.Stack {
					list[i].AtStart = list[j].AtStart
				}
				if fits() {
					return true
				}
				list[i] = old
			}
		}
	}
	return false
}

// renumber gives rules the order in which they are listed.
func renumber(rules []place.Rule, mode place.Mode) {
	for i := range rules {
		rules[i].Order = 10 * (i + 1)
		if mode == place.One {
			rules[i].Order = 10 * (len(rules) - i)
		}
		if mode == place.Stack && i > 0 && rules[i].AtStart {
			rules[i].AtStart = rules[i-1].AtStart
		}
	}
}
