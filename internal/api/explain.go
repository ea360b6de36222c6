package api

import (
	"net/http"
	"slices"

	"github.com/gin-gonic/gin"

	"brickshelf/internal/core/block"
	"brickshelf/internal/core/edit/outline"
	"brickshelf/internal/core/edit/values"
	"brickshelf/internal/core/explain"
	"brickshelf/internal/core/place"
	"brickshelf/internal/core/shelf"
	"brickshelf/internal/core/site"
)

func audienceOf(a *Audience) string {
	if a != nil && *a == shelf.SignedIn {
		return shelf.SignedIn
	}
	return shelf.SignedOut
}

// Explain answers with what stands in the regions of a page.
func (h *handlers) Explain(c *gin.Context, name SiteName, params ExplainParams) {
	h.onPage(c, name, params.Page, params.Proposal, params.On, func(s *shelf.Shelf, in *shelf.Info) {
		c.JSON(http.StatusOK, explanation(s, explain.Page(s, in.Page.Path, audienceOf(params.Audience),
			s.Now()), audienceOf(params.Audience)))
	})
}

// ListLoading answers with the pages that load the style or behaviour of a block.
func (h *handlers) ListLoading(c *gin.Context, name SiteName, block string, params ListLoadingParams) {
	h.read(c, name, func(d *shelf.Shelf) {
		if d.Block(block) == nil {
			problem(c, http.StatusNotFound, "No such block", "There is no block "+block+".")
			return
		}
		class := site.StyleDoc
		if params.What == "behaviour" {
			class = site.BehaviourDoc
		}
		c.JSON(http.StatusOK, explain.Loading(d, block, class))
	})
}

// ListOverlays answers with the overlays of the site.
func (h *handlers) ListOverlays(c *gin.Context, name SiteName) {
	h.read(c, name, func(d *shelf.Shelf) {
		out := []Overlay{}
		for _, o := range explain.Overlays(d) {
			hosts := map[string]bool{}
			for _, p := range o.Hosts {
				hosts[p] = true
			}
			row := []byte{}
			for _, p := range d.PagePaths() {
				letter := byte('-')
				if hosts[p] {
					letter = 'h'
				}
				row = append(row, letter)
			}
			out = append(out, Overlay{Block: o.Block,
				Title: d.Block(o.Block).Title, Id: o.ID, Hosts: string(row),
				Pages: len(o.Hosts)})
		}
		c.JSON(http.StatusOK, out)
	})
}

// onPage answers about a page of the draft, or of a proposed edit, on a day.
func (h *handlers) onPage(c *gin.Context, name SiteName, page string, proposal, on *string,
	do func(*shelf.Shelf, *shelf.Info)) {
	w := h.open(c, name)
	if w == nil {
		return
	}
	answer := func(s *shelf.Shelf) {
		s, _, err := looked(s, "", given(on))
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
		answer(w.State().Draft)
		return
	}
	_, seen, err := w.Proposal(*proposal)
	if err == nil {
		err = seen.Err()
	}
	if err != nil {
		h.fail(c, err)
		return
	}
	answer(seen.Shelf)
}

func explanation(s *shelf.Shelf, e *explain.Explanation, audience string) Explanation {
	g := e.Info.Page
	out := Explanation{Page: g.URL, Doc: g.Path, Title: g.Title, Layout: g.Layout,
		Tags: append([]string{}, g.Tags...), Draft: g.Draft, Hidden: []string{},
		Fields: pageFields(e.Info), Parts: []PagePart{}, Regions: []RegionStory{},
		Homeless: candidates(e.Homeless), Lost: []string{}, Orphans: orphans(values.OrphansOn(s, g.Path)),
		Loads: []Load{}}
	for _, l := range explain.Loads(s, g.Path, audience) {
		kind := Style
		if l.File.Ext == ".js" {
			kind = Behaviour
		}
		out.Loads = append(out.Loads, Load{Kind: kind, Block: l.Block, Url: l.File.URL(), Present: l.Now,
			Each:    l.File.Each,
			Through: append([]string{}, l.Through...), Needed: append([]string{}, l.Needed...)})
	}
	for a := range g.Hidden {
		out.Hidden = append(out.Hidden, a)
	}
	slices.Sort(out.Hidden)
	if e.Info.Layout != nil {
		out.Lost = append(out.Lost, e.Info.Homeless(e.Info.Layout)...)
	}
	src, _ := s.Get(g.Path)
	for _, p := range outline.Of(site.Readable(src)) {
		out.Parts = append(out.Parts, PagePart{Region: p.Region, Name: p.Name, Copy: p.Copy, Within: p.Within,
			Address: p.Address, From: p.From, To: p.To, Excerpt: p.Excerpt,
			Called: p.Called})
	}
	for i := range e.Regions {
		r := &e.Regions[i]
		out.Regions = append(out.Regions, RegionStory{Region: r.Name, Mode: RegionStoryMode(r.Mode),
			Width: r.Width, Shows: RegionStoryShows(r.Shows()), Filled: r.Filled,
			Candidates: candidates(r.Verdicts)})
	}
	return out
}

func candidates(list []place.Verdict) []Candidate {
	out := []Candidate{}
	for _, v := range list {
		c := Candidate{Rule: v.Rule.Name, Block: v.Rule.Block, Why: CandidateWhy(v.Why), Decides: v.Decides,
			Words: v.Words()}
		if v.By != nil {
			c.By = v.By.Name
		}
		out = append(out, c)
	}
	return out
}

// pageFields are the fields that the page's layout declares for it, and others that it
// sets.
func pageFields(in *shelf.Info) []PageField {
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
			out = append(out, PageField{Field: contractFields([]*block.Field{{Name: p.Key, Label: p.Key,
				Type: block.Text}})[0]})
		}
		out[i].Set, out[i].Text = true, valueText(block.Raw(p.Value))
	}
	return out
}
