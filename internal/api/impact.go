package api

import (
	"bytes"
	"net/http"
	"net/url"

	"github.com/gin-gonic/gin"

	"brickshelf/internal/core/assets"
	"brickshelf/internal/core/impact"
	"brickshelf/internal/core/render"
	"brickshelf/internal/core/shelf"
	"brickshelf/internal/core/site"
	"brickshelf/internal/workspace"
)

// contractImpact writes an impact for the wall: a letter for each page of the
// draft, in the order in which GetSite lists them.
func contractImpact(d *shelf.Shelf, im *impact.Impact) Impact {
	out := Impact{Total: im.Total, Counts: map[string]int{}, Added: []string{}, Breaks: []Break{},
		Sentence: im.Sentence()}
	for e, n := range im.Counts {
		out.Counts[string(e)] = n
	}
	at := make(map[string]byte, len(im.Pages))
	for _, p := range im.Pages {
		letter := p.Effect.Letter()
		if p.Effect == impact.Added {
			out.Added = append(out.Added, p.Path)
		}
		if len(p.Breaks) > 0 {
			letter -= 'a' - 'A'
		}
		at[p.Path] = letter
		for _, b := range p.Breaks {
			out.Breaks = append(out.Breaks, Break{Page: p.Path, Code: b.Code, Address: b.Address,
				Message: b.Message})
		}
	}
	for _, b := range im.Documents {
		out.Breaks = append(out.Breaks, Break{Code: b.Code, Address: b.Address, Message: b.Message})
	}
	urls := d.Published()
	row := bytes.Repeat([]byte{'-'}, len(urls))
	for i, u := range urls {
		if len(at) == 0 {
			break
		}
		if l, ok := at[u]; ok {
			row[i] = l
		}
	}
	out.Effects = string(row)
	return out
}

// Propose answers with what an edit would change.
func (h *handlers) Propose(c *gin.Context, name SiteName) {
	w, set := h.sent(c, name)
	if w == nil {
		return
	}
	c.JSON(http.StatusOK, h.propose(w, set.Changes))
}

func (h *handlers) propose(w *workspace.Workspace, changes []site.Change) Proposal {
	pr, seen := w.Propose(changes)
	out := Proposal{Id: pr.ID, Problems: findings(seen.Problems)}
	var faults site.Problems
	for _, c := range changes {
		faults = append(faults, assets.Syntax(c.Path, c.After)...)
	}
	if len(faults) > 0 {
		list := findings(faults)
		out.Faults = &list
	}
	if seen.Impact != nil {
		im := contractImpact(seen.State.Draft, seen.Impact)
		out.Impact = &im
	}
	return out
}

// ComparePage answers with one page before and after.
func (h *handlers) ComparePage(c *gin.Context, name SiteName, against string, params ComparePageParams) {
	w := h.open(c, name)
	if w == nil {
		return
	}
	if against == "live" {
		st := w.State()
		im, docs := st.FromLive()
		h.comparePage(c, params, compared{st.Live, st.Draft, docs, im, "/_live", "/_draft"})
		return
	}
	pr, seen, err := w.Proposal(against)
	if err == nil {
		err = seen.Err()
	}
	if err != nil {
		h.fail(c, err)
		return
	}
	h.comparePage(c, params, compared{seen.State.Draft, seen.Shelf, pr.Docs, seen.Impact, "/_draft",
		"/_edit/" + url.PathEscape(pr.ID)})
}

// compared are two states of a site, the documents in which they differ, what that does, and
// where each is shown on the site's origin.
type compared struct {
	before, after  *shelf.Shelf
	docs           []string
	impact         *impact.Impact
	showsA, showsB string
}

// comparePage answers with one page in both states.
func (h *handlers) comparePage(c *gin.Context, params ComparePageParams, of compared) {
	before, options, err := looked(of.before, string(given(params.Audience)), given(params.On))
	after := of.after
	if err == nil {
		after, _, err = looked(after, "", given(params.On))
	}
	if err != nil {
		problem(c, http.StatusBadRequest, "No such day", err.Error())
		return
	}
	a, b := before.Page(params.Page), after.Page(params.Page)
	in := b
	if in == nil {
		in = a
	}
	if in == nil {
		problem(c, http.StatusNotFound, "No such page", "There is no page at "+params.Page+".")
		return
	}
	out := Comparison{Page: params.Page, Title: pageTitle(in), Effect: Effect(impact.Untouched),
		Placements: []PlacementEffect{}, Breaks: []Break{}}
	shown := func(s *shelf.Shelf, in *shelf.Info, at string) (html, url string) {
		if in == nil {
			return "", ""
		}
		return string(site.Readable(render.Page(s, in.Page.Path, options).HTML)),
			h.origin(c, c.Param("site")) + at + params.Page + lookQuery(params)
	}
	out.Before, out.BeforeUrl = shown(before, a, of.showsA)
	out.After, out.AfterUrl = shown(after, b, of.showsB)
	page := impact.Page{Doc: in.Page.Path, Path: params.Page}
	for _, p := range of.impact.Pages {
		if p.Doc == in.Page.Path {
			page = p
			out.Effect = Effect(p.Effect)
		}
	}
	impact.Detail(before, after, of.docs, &page)
	for _, p := range page.Placements {
		one := PlacementEffect{Address: p.Address, Block: p.Block, Effect: Effect(p.Effect)}
		if len(p.Holds) > 0 {
			holds := ownValues(p.Holds)
			one.Holds = &holds
		}
		out.Placements = append(out.Placements, one)
	}
	for _, b := range page.Breaks {
		out.Breaks = append(out.Breaks, Break{Page: params.Page, Code: b.Code, Address: b.Address,
			Message: b.Message})
	}
	c.JSON(http.StatusOK, out)
}

// lookQuery is what a preview's address says of how one looks.
func lookQuery(params ComparePageParams) string {
	q := url.Values{}
	if params.Audience != nil && *params.Audience == shelf.SignedIn {
		q.Set(lookAs, shelf.SignedIn)
	}
	if on := given(params.On); on != "" {
		q.Set(lookOn, on)
	}
	if len(q) == 0 {
		return ""
	}
	return "?" + q.Encode()
}
