package api

import (
	"fmt"
	"net/http"
	"slices"

	"github.com/gin-gonic/gin"

	"brickshelf/internal/core/block"
	"brickshelf/internal/core/edit"
	"brickshelf/internal/core/place"
	"brickshelf/internal/core/render"
	"brickshelf/internal/core/site"
	"brickshelf/internal/workspace"
)

func audienceOf(a *Audience) string {
	if a != nil && *a == render.SignedIn {
		return render.SignedIn
	}
	return render.SignedOut
}

func said[T any](p *T) T {
	var none T
	if p == nil {
		return none
	}
	return *p
}

// Explain answers with what stands in the regions of a page.
func (h *handlers) Explain(c *gin.Context, name SiteName, params ExplainParams) {
	h.onPage(c, name, params.Page, params.Proposal, params.On, func(s *render.Shelf, in *render.Info) {
		c.JSON(http.StatusOK, explanation(s, s.Explain(in.Page.Path, audienceOf(params.Audience), s.Now())))
	})
}

// ExplainValues answers with where the values of a placement come from.
func (h *handlers) ExplainValues(c *gin.Context, name SiteName, params ExplainValuesParams) {
	h.onPage(c, name, params.Page, params.Proposal, params.On, func(s *render.Shelf, in *render.Info) {
		l := s.Ladder(in.Page.Path, params.Address, render.Options{SignedIn: audienceOf(params.Audience) == render.SignedIn})
		if l == nil {
			problem(c, http.StatusNotFound, "No such placement", "No block stands at "+params.Address+" on "+params.Page+".")
			return
		}
		c.JSON(http.StatusOK, contractLadder(l))
	})
}

func contractLadder(l *render.Ladder) Ladder {
	out := Ladder{Address: l.Address, Block: l.Block, Via: l.Via, InText: l.InText, Fields: []FieldLadder{}}
	for _, f := range l.Fields {
		one := FieldLadder{Field: contractFields([]*block.Field{f.Field})[0], Wins: f.Wins, Rungs: []Rung{}}
		for _, r := range f.Rungs {
			one.Rungs = append(one.Rungs, Rung{Rung: RungRung(r.Rung), Set: r.Set, Text: valueText(r.Value.Plain()), Doc: r.Doc, Line: r.Line, Column: r.Column, Bad: r.Bad})
		}
		out.Fields = append(out.Fields, one)
	}
	return out
}

// ListValues answers with the values of a block at its placements on published pages.
func (h *handlers) ListValues(c *gin.Context, name SiteName, blockName string) {
	w := h.open(c, name)
	if w == nil {
		return
	}
	w.Read(func(d *render.Shelf) {
		b := d.Block(blockName)
		if b == nil {
			problem(c, http.StatusNotFound, "No such block", d.Unresolved(blockName)+".")
			return
		}
		out := ValueTable{Fields: contractFields(b.Fields), Rows: []ValueRow{}, Orphans: mentions(edit.Orphans(d, blockName))}
		for _, v := range d.Values(blockName) {
			row := ValueRow{Page: v.Page.URL, Title: pageTitle(v.Page), Doc: v.Page.Page.Path, Address: v.Address, Cells: []ValueCell{}}
			for _, f := range v.Fields {
				cell := ValueCell{Rung: ValueCellRungNone}
				if f.Wins >= 0 {
					r := f.Rungs[f.Wins]
					cell = ValueCell{Text: valueText(r.Value.Plain()), Rung: ValueCellRung(r.Rung), Doc: r.Doc}
				}
				for _, r := range f.Rungs {
					if r.Set && r.Rung != render.FromOverride && r.Rung != render.FromArgument {
						cell.Otherwise = valueText(r.Value.Plain())
						break
					}
				}
				row.Cells = append(row.Cells, cell)
			}
			out.Rows = append(out.Rows, row)
		}
		c.JSON(http.StatusOK, out)
	})
}

func mentions(list []edit.Mention) []Mention {
	out := []Mention{}
	for _, m := range list {
		out = append(out, Mention{Doc: m.Path, Page: m.Page, Address: m.Address, Field: m.Field, Text: m.Text})
	}
	return out
}

func orphans(list []edit.Orphan) []Orphan {
	out := []Orphan{}
	for _, o := range list {
		out = append(out, Orphan{Address: o.Address, Said: o.Said, Message: o.Message, Could: append([]string{}, o.Could...), Meant: o.Meant, Doubled: o.Doubled})
	}
	return out
}

// onPage answers about a page of the draft, or of a proposed edit, on a day.
func (h *handlers) onPage(c *gin.Context, name SiteName, page string, proposal, on *string, do func(*render.Shelf, *render.Info)) {
	w := h.open(c, name)
	if w == nil {
		return
	}
	answer := func(s *render.Shelf) {
		s, _, err := looked(s, "", said(on))
		if err != nil {
			problem(c, http.StatusBadRequest, "No such day", err.Error())
			return
		}
		in := s.Page(page)
		if in == nil {
			problem(c, http.StatusNotFound, "No such page", "There is no page at "+page+".")
			return
		}
		do(s, in)
	}
	if proposal == nil {
		w.Read(answer)
		return
	}
	if err := w.ReadProposal(*proposal, func(_ *render.Shelf, pr *workspace.Proposal) { answer(pr.Shelf) }); err != nil {
		h.fail(c, err)
	}
}

func explanation(s *render.Shelf, e *render.Explanation) Explanation {
	g := e.Info.Page
	out := Explanation{Page: g.URL, Doc: g.Path, Title: g.Title, Layout: g.Layout, Tags: append([]string{}, g.Tags...), Draft: g.Draft, Hidden: []string{},
		Fields: pageFields(e.Info), Parts: []PagePart{}, Regions: []RegionStory{}, Homeless: candidates(e.Homeless), Lost: []string{}, Orphans: orphans(edit.OrphansOn(s, g.Path))}
	for a := range g.Hidden {
		out.Hidden = append(out.Hidden, a)
	}
	slices.Sort(out.Hidden)
	if e.Info.Layout != nil {
		out.Lost = append(out.Lost, e.Info.Homeless(e.Info.Layout)...)
	}
	src, _ := s.Get(g.Path)
	for _, p := range edit.MakeUp(src) {
		out.Parts = append(out.Parts, PagePart{Region: p.Region, Name: p.Name, Copy: p.Copy, Within: p.Within, Address: p.Address, From: p.From, To: p.To, Excerpt: p.Excerpt})
	}
	for i := range e.Regions {
		r := &e.Regions[i]
		out.Regions = append(out.Regions, RegionStory{Region: r.Name, Mode: RegionStoryMode(r.Mode), Width: r.Width, Shows: RegionStoryShows(r.Shows()), Filled: r.Filled, Candidates: candidates(r.Verdicts)})
	}
	return out
}

func candidates(list []place.Verdict) []Candidate {
	out := []Candidate{}
	for _, v := range list {
		c := Candidate{Rule: v.Rule.Name, Block: v.Rule.Block, Why: CandidateWhy(v.Why), Decides: v.Decides, Words: v.Words()}
		if v.By != nil {
			c.By = v.By.Name
		}
		out = append(out, c)
	}
	return out
}

// pageFields are the fields that the page's layout declares for it, and others that it
// sets.
func pageFields(in *render.Info) []PageField {
	out := []PageField{}
	at := map[string]int{}
	var declared []*block.Field
	if in.Layout != nil {
		declared = in.Layout.PageFields
	}
	for _, f := range declared {
		at[f.Name] = len(out)
		out = append(out, PageField{Field: contractFields([]*block.Field{f})[0]})
	}
	for _, p := range in.Page.Fields {
		i, known := at[p.Key]
		if !known {
			i = len(out)
			out = append(out, PageField{Field: contractFields([]*block.Field{{Name: p.Key, Label: p.Key, Type: block.Text}})[0]})
		}
		out[i].Set, out[i].Text = true, valueText(block.Raw(p.Value))
	}
	return out
}

// ListWinners answers, region by region, with what each page shows.
func (h *handlers) ListWinners(c *gin.Context, name SiteName) {
	w := h.open(c, name)
	if w == nil {
		return
	}
	w.Read(func(d *render.Shelf) {
		out := []Winners{}
		for _, v := range d.Winners() {
			item := Winners{Region: v.Region, Mode: WinnersMode(modeOf(d, v.Region)), Groups: []WinningGroup{}, Of: v.Of, Ties: []Tie{}}
			for _, g := range v.Groups {
				group := WinningGroup{Pages: g.Pages, Parts: []WinningPart{}}
				for _, p := range g.Parts {
					group.Parts = append(group.Parts, WinningPart{Kind: WinningPartKind(p.Kind), Rule: p.Rule, Block: p.Block})
				}
				item.Groups = append(item.Groups, group)
			}
			for _, t := range v.Ties {
				item.Ties = append(item.Ties, Tie{Winner: t.Winner, Loser: t.Loser, Decides: TieDecides(t.Decides), Pages: t.Pages})
			}
			out = append(out, item)
		}
		c.JSON(http.StatusOK, out)
	})
}

// modeOf is the mode of a region in the first layout that has it.
func modeOf(d *render.Shelf, region string) place.Mode {
	for _, l := range d.Layouts() {
		if r := l.Region(region); r != nil {
			return r.Mode
		}
	}
	return place.Stack
}

// ListRules answers with the rules, region by region as they come.
func (h *handlers) ListRules(c *gin.Context, name SiteName) {
	w := h.open(c, name)
	if w == nil {
		return
	}
	w.Read(func(d *render.Shelf) {
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
		slices.SortStableFunc(rules, func(a, b *place.Rule) int { return edit.Before(a, b, modeOf(d, a.Region)) })
		for _, r := range rules {
			sum := ruleSummary(r)
			sum.Takes, sum.Shows = takes[r.Name], shows[r.Name]
			out = append(out, sum)
		}
		c.JSON(http.StatusOK, out)
	})
}

func ruleSummary(r *place.Rule) RuleSummary {
	out := RuleSummary{Name: r.Name, Path: r.Path, Block: r.Block, Region: r.Region, On: targets(r.On), Except: targets(r.Except), Set: map[string]string{},
		At: RuleSummaryAtEnd, Order: r.Order, Audience: RuleSummaryAudience(r.Audience), From: r.From, Until: r.Until, Enabled: r.Enabled}
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
	w.Read(func(d *render.Shelf) {
		out := RuleReading{Rule: ruleSummary(r), Problems: findings(problems), Displaced: []Rival{}, Outranked: []Rival{}}
		reach := d.RuleReach(r)
		out.Reach = string(reach.Pages)
		out.Displaced, out.Outranked = rivals(reach.Displaced), rivals(reach.Outranked)
		c.JSON(http.StatusOK, out)
	})
}

func rivals(list []render.Rival) []Rival {
	out := []Rival{}
	for _, v := range list {
		r := Rival{Pages: v.Pages, Decides: v.Decides}
		if v.Rule != nil {
			r.Rule, r.Block = v.Rule.Name, v.Rule.Block
		}
		out = append(out, r)
	}
	return out
}

// SetKey edits one key of a document's text.
func (h *handlers) SetKey(c *gin.Context, _ SiteName) {
	var in KeyEdit
	if !h.body(c, &in) {
		return
	}
	text, err := edit.SetKey(in.Path, []byte(in.Text), in.Keys, in.Value)
	h.text(c, text, err)
}

func (h *handlers) text(c *gin.Context, text []byte, err error) {
	if err != nil {
		h.fail(c, err)
		return
	}
	c.JSON(http.StatusOK, BlockText{Text: string(text)})
}

// EditPage edits what a page's own text puts where.
func (h *handlers) EditPage(c *gin.Context, _ SiteName) {
	var in PageEdit
	if !h.body(c, &in) {
		return
	}
	if class, _, _ := site.Classify(in.Path); class != site.PageDoc {
		h.fail(c, &edit.Refusal{Message: fmt.Sprintf("%q is no page", in.Path)})
		return
	}
	src := []byte(in.Text)
	var text []byte
	var err error
	switch before := said(in.Before); in.Edit {
	case "put":
		text, err = edit.PutCall(in.Path, src, said(in.Region), before, said(in.Call))
	case "take":
		text, err = edit.TakePart(in.Path, src, said(in.From))
	case "move":
		text, err = edit.MovePart(in.Path, src, said(in.From), said(in.Region), before)
	case "hide":
		text, err = edit.Hide(in.Path, src, said(in.Address))
	case "show":
		text, err = edit.Show(in.Path, src, said(in.Address))
	default:
		err = &edit.Refusal{Message: "there is no edit " + string(in.Edit)}
	}
	h.text(c, text, err)
}

// ListLayouts answers with the layouts.
func (h *handlers) ListLayouts(c *gin.Context, name SiteName) {
	w := h.open(c, name)
	if w == nil {
		return
	}
	w.Read(func(d *render.Shelf) {
		pages := map[string]int{}
		for _, p := range d.PagePaths() {
			pages[d.Info(p).Page.Layout]++
		}
		out := []Layout{}
		for _, l := range d.Layouts() {
			item := contractLayout(l)
			item.Pages = pages[l.Name]
			out = append(out, item)
		}
		c.JSON(http.StatusOK, out)
	})
}

func contractLayout(l *place.Layout) Layout {
	out := Layout{Name: l.Name, Title: l.Title, Path: l.Path, Regions: []Region{}, PageFields: contractFields(l.PageFields), StartsWith: l.StartsWith}
	if out.StartsWith == nil {
		out.StartsWith = map[string]string{}
	}
	for _, r := range l.Regions {
		out.Regions = append(out.Regions, Region{Name: r.Name, Mode: RegionMode(r.Mode), Width: r.Width})
	}
	return out
}

// ReadLayout answers with what a layout's text says.
func (h *handlers) ReadLayout(c *gin.Context, _ SiteName) {
	var in BlockText
	if h.body(c, &in) {
		l, _ := place.ParseLayout("layout", "layouts/layout.html", []byte(in.Text), block.NewReader())
		c.JSON(http.StatusOK, contractLayout(l))
	}
}

// EditLayout gives a layout's text a region more, or takes one out.
func (h *handlers) EditLayout(c *gin.Context, _ SiteName) {
	var in LayoutEdit
	if !h.body(c, &in) {
		return
	}
	if in.Edit == Drop {
		text, err := edit.DropRegion([]byte(in.Text), in.Region)
		h.text(c, text, err)
		return
	}
	text, err := edit.AddRegion([]byte(in.Text), in.Region, said(in.After))
	h.text(c, text, err)
}
