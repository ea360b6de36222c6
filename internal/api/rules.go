package api

import (
	"net/http"
	"slices"

	"github.com/gin-gonic/gin"

	"brickshelf/internal/core/edit/placing"
	"brickshelf/internal/core/explain"
	"brickshelf/internal/core/place"
	"brickshelf/internal/core/shelf"
)

// ListWinners answers, region by region, with what each page shows.
func (h *handlers) ListWinners(c *gin.Context, name SiteName) {
	h.read(c, name, func(d *shelf.Shelf) {
		out := []Winners{}
		for _, v := range explain.Regions(d) {
			item := Winners{Region: v.Region, Mode: WinnersMode(modeOf(d, v.Region)),
				Groups: []WinningGroup{}, Of: v.Of, Ties: []Tie{}}
			for _, g := range v.Groups {
				group := WinningGroup{Pages: g.Pages, Parts: []WinningPart{}}
				for _, p := range g.Parts {
					group.Parts = append(group.Parts, WinningPart{Kind: WinningPartKind(p.Kind), Rule: p.Rule,
						Block: p.Block})
				}
				item.Groups = append(item.Groups, group)
			}
			for _, t := range v.Ties {
				item.Ties = append(item.Ties, Tie{Winner: t.Winner, Loser: t.Loser,
					Decides: TieDecides(t.Decides), Pages: t.Pages})
			}
			out = append(out, item)
		}
		c.JSON(http.StatusOK, out)
	})
}

// modeOf is the mode of a region in the first layout that has it.
func modeOf(d *shelf.Shelf, region string) place.Mode {
	for _, l := range d.Layouts() {
		if r := l.Region(region); r != nil {
			return r.Mode
		}
	}
	return place.Stack
}

// ListRules answers with the rules, region by region as they come.
func (h *handlers) ListRules(c *gin.Context, name SiteName) {
	h.read(c, name, func(d *shelf.Shelf) {
		takes, shows := map[string]int{}, map[string]int{}
		for _, p := range d.PagePaths() {
			in := d.Info(p)
			if in.Draft {
				continue
			}
			for _, cand := range in.Candidates {
				takes[cand.Rule.Name]++
			}
			shown, _ := in.Rules()
			for _, r := range shown {
				shows[r]++
			}
		}
		out := []RuleSummary{}
		rules := slices.Clone(d.Rules())
		slices.SortStableFunc(rules, func(a, b *place.Rule) int {
			return placing.Before(a, b, modeOf(d, a.Region))
		})
		for _, r := range rules {
			sum := ruleSummary(r)
			sum.Takes, sum.Shows = takes[r.Name], shows[r.Name]
			out = append(out, sum)
		}
		c.JSON(http.StatusOK, out)
	})
}

func ruleSummary(r *place.Rule) RuleSummary {
	out := RuleSummary{Name: r.Name, Title: r.Title, Path: r.Path, Block: r.Block, Region: r.Region,
		On:     targets(r.On),
		Except: targets(r.Except), Set: map[string]string{},
		At: RuleSummaryAtEnd, Order: r.Order, Audience: RuleSummaryAudience(r.Audience), From: r.From,
		Until: r.Until, Enabled: r.Enabled}
	if r.AtStart {
		out.At = RuleSummaryAtStart
	}
	for _, s := range r.Set {
		out.Set[s.Field] = valueText(s.Raw)
	}
	return out
}

func targets(list []place.Target) []string {
	out := []string{}
	for _, t := range list {
		out = append(out, t.String())
	}
	return out
}

// ReadRule answers with what a rule's text says and what it would do.
func (h *handlers) ReadRule(c *gin.Context, name SiteName) {
	w := h.open(c, name)
	var in RuleText
	if w == nil || !h.body(c, &in) {
		return
	}
	r, problems := place.ParseRule(in.Name, "rules/"+in.Name+".yaml", []byte(in.Text))
	d := w.State().Draft
	out := RuleReading{Rule: ruleSummary(r), Problems: findings(problems), Displaced: []Rival{},
		Outranked: []Rival{}}
	reach := explain.RuleOn(d, r)
	out.Reach = string(reach.Pages)
	out.Displaced, out.Outranked = rivals(reach.Displaced), rivals(reach.Outranked)
	c.JSON(http.StatusOK, out)
}

func rivals(list []explain.Rival) []Rival {
	out := []Rival{}
	for _, v := range list {
		r := Rival{Pages: v.Pages, Decides: v.Decides}
		if v.Rule != nil {
			r.Rule, r.Block, r.Order = v.Rule.Name, v.Rule.Block, v.Rule.Order
		}
		out = append(out, r)
	}
	return out
}
