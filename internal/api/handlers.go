package api

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"net/http"
	"strings"
	"time"

	"github.com/gin-gonic/gin"

	"brickshelf/internal/core/block"
	"brickshelf/internal/core/edit/values"
	"brickshelf/internal/core/impact"
	"brickshelf/internal/core/shelf"
	"brickshelf/internal/core/site"
	"brickshelf/internal/store"
	"brickshelf/internal/workspace"
)

// handlers answers the requests of the contract.
type handlers struct{ *Server }

func timeout(d time.Duration) (context.Context, context.CancelFunc) {
	return context.WithTimeout(context.Background(), d)
}

// open returns the site's workspace, or answers with a problem and nil.
func (h *handlers) open(c *gin.Context, name string) *workspace.Workspace {
	w, err := h.Workspace(name)
	if err != nil {
		h.fail(c, err)
		return nil
	}
	return w
}

// read answers about the site's draft.
func (h *handlers) read(c *gin.Context, name string, answer func(d *shelf.Shelf)) {
	if w := h.open(c, name); w != nil {
		answer(w.State().Draft)
	}
}

// onBlock answers about a block of the draft.
func (h *handlers) onBlock(c *gin.Context, name, blockName string, answer func(d *shelf.Shelf,
	b *block.Block)) {
	h.read(c, name, func(d *shelf.Shelf) {
		b := d.Block(blockName)
		if b == nil {
			problem(c, http.StatusNotFound, "No such block", "There is no block "+blockName+" on the shelf.")
			return
		}
		answer(d, b)
	})
}

// fail answers with the problem that an error is.
func (h *handlers) fail(c *gin.Context, err error) {
	var conflict *site.Conflict
	var invalid *workspace.InvalidError
	var damaged *store.Damaged
	var removes *workspace.RemovalError
	var clash *ClashError
	var refusal *site.Refusal
	var misfit *block.TypeError
	var bad values.BadValues
	var large *http.MaxBytesError
	var unread *site.Problem // of a text that cannot be read
	switch {
	case errors.Is(err, context.Canceled):
		c.Abort() // nobody waits for the answer any more
	case errors.As(err, &conflict):
		send(c, Problem{Type: "about:blank", Title: "Changed elsewhere", Status: http.StatusConflict,
			Detail: conflict.Error(),
			Conflict: &Conflict{Path: conflict.Path, Found: string(conflict.Found),
				Current: string(conflict.Current), Offered: string(conflict.Offered)}})
	case errors.As(err, &invalid):
		list := findings(invalid.Problems)
		send(c, Problem{Type: "about:blank", Title: "This cannot be saved",
			Status: http.StatusUnprocessableEntity, Detail: invalid.Problems[0].Error(), Problems: &list})
	case errors.As(err, &removes):
		problem(c, http.StatusConflict, WouldRemove, err.Error()+
			". With merge=true they are kept, with replace=true removed.")
	case errors.As(err, &clash):
		problem(c, http.StatusConflict, Clash, err.Error()+
			". With merge=true the part's is taken, with keep=true what is here stays, with as=ID=NAME it comes under another name.")
	case errors.As(err, &unread):
		list := findings(site.Problems{*unread})
		send(c, Problem{Type: "about:blank", Title: "This cannot be read",
			Status: http.StatusUnprocessableEntity, Detail: unread.Error(), Problems: &list})
	case errors.As(err, &refusal) && refusal.Missing:
		problem(c, http.StatusNotFound, "Not there", err.Error())
	case errors.As(err, &refusal), errors.As(err, &misfit), errors.As(err, &bad):
		problem(c, http.StatusUnprocessableEntity, "This cannot be done", err.Error())
	case errors.As(err, &large):
		problem(c, http.StatusRequestEntityTooLarge, "Too large", fmt.Sprintf("A request may have %d MB.",
			maxBody>>20))
	case errors.Is(err, store.ErrNoSite):
		problem(c, http.StatusNotFound, "No such site", err.Error())
	case errors.As(err, &damaged):
		h.log.Error("the database is damaged", "path", c.Request.URL.Path, "error", err)
		problem(c, http.StatusInternalServerError, "Damaged", err.Error())
	case errors.Is(err, store.ErrNoRelease):
		problem(c, http.StatusNotFound, "No such release", err.Error())
	case errors.Is(err, store.ErrFull):
		problem(c, http.StatusInsufficientStorage, "The disk is full",
			"Nothing was saved. Free some space on the disk of the data folder and try again; what was typed is still there.")
	case errors.Is(err, store.ErrTaken):
		problem(c, http.StatusConflict, "The name is taken", err.Error())
	case errors.Is(err, store.ErrName):
		problem(c, http.StatusUnprocessableEntity, "No such name", err.Error())
	case errors.Is(err, store.ErrNothing):
		problem(c, http.StatusConflict, "Nothing to do", err.Error())
	case errors.Is(err, workspace.ErrStale):
		problem(c, http.StatusGone, "Out of date", err.Error())
	default:
		h.log.Error("request failed", "path", c.Request.URL.Path, "error", err)
		problem(c, http.StatusInternalServerError, "This went wrong on our side",
			"Nothing was saved. The server's log says more.")
	}
}

func (h *handlers) body(c *gin.Context, into any) bool {
	if err := json.NewDecoder(c.Request.Body).Decode(into); err != nil {
		var large *http.MaxBytesError
		if errors.As(err, &large) {
			h.fail(c, err)
		} else {
			problem(c, http.StatusBadRequest, "The request does not fit the contract", err.Error())
		}
		return false
	}
	return true
}

func title(d *shelf.Shelf, name string) string {
	if t := d.Config().Name; t != "" {
		return t
	}
	return name
}

// GetSite answers with the pages, the blocks and the state of the draft.
func (h *handlers) GetSite(c *gin.Context, name SiteName) {
	w := h.open(c, name)
	if w == nil {
		return
	}
	steps, err := w.Steps()
	if err != nil {
		h.fail(c, err)
		return
	}
	st := w.State()
	d := st.Draft
	out := Overview{Name: name, Title: title(d, name), Home: d.Config().Home, Exact: d.Config().ExactURLs,
		SiteOrigin: h.origin(c, name), Version: st.Version,
		Release: st.Release, Undo: steps.Undo, Redo: steps.Redo, Pages: []Page{}, Drafts: []Page{},
		Blocks: []BlockSummary{}, Titles: titles(d)}
	var docs []string
	for _, p := range d.PagePaths() {
		g := d.Info(p).Page
		page := Page{Path: g.URL, Title: pageTitle(d.Info(p)), Doc: p, Layout: g.Layout}
		if !d.Info(p).Listed {
			out.Drafts = append(out.Drafts, page)
			continue
		}
		docs = append(docs, p)
		out.Pages = append(out.Pages, page)
	}
	edited, err := w.LastChanges("blocks/")
	if err != nil {
		h.fail(c, err)
		return
	}
	out.Blocks = summaries(d, w.Standings(d, docs), len(docs), edited)
	list, complete := w.Findings(d)
	out.Checked = complete
	for _, f := range list {
		if f.Severity == site.Error || f.Severity == site.Warning {
			out.Findings++
		}
		if f.Severity == site.Error {
			out.Errors++
		}
	}

	out.Edits = steps.Waiting
	im, _ := st.FromLive()
	out.Differ = differing(im)
	c.JSON(http.StatusOK, out)
}

// titles are what rules, layouts and menus are called, by the paths of their documents.
func titles(d *shelf.Shelf) map[string]string {
	out := map[string]string{}
	for _, r := range d.Rules() {
		if r.Title != "" {
			out[r.Path] = r.Title
		}
	}
	for _, l := range d.Layouts() {
		out[l.Path] = l.Title
	}
	for _, m := range d.Menus() {
		out["menus/"+m.Name+".yaml"] = m.Title
	}
	return out
}

// summaries are the blocks of a site with how each stands on its pages, and when each was edited.
func summaries(d *shelf.Shelf, states map[string][]byte, pages int, edited map[string]int64) []BlockSummary {
	out := []BlockSummary{}
	for _, p := range d.Paths("blocks/") {
		n, ok := strings.CutSuffix(strings.TrimPrefix(p, "blocks/"), ".html")
		if !ok {
			continue
		}
		b := d.Block(n)
		row := states[n]
		if row == nil {
			row = []byte(strings.Repeat("-", pages))
		}
		linked := 0
		for _, s := range row {
			if s == 'l' || s == 'o' {
				linked++
			}
		}
		out = append(out, BlockSummary{Name: n, Title: b.Title, Category: b.Category, About: b.About,
			States: string(row), Pages: linked,
			Changed: max(edited[p], edited["blocks/"+n+".css"], edited["blocks/"+n+".js"])})
	}
	return out
}

func differing(im *impact.Impact) int {
	return im.Counts[impact.Changes] + im.Counts[impact.Added] + im.Counts[impact.Removed]
}

func pageTitle(in *shelf.Info) string {
	return in.Page.Called()
}

// ListFindings lists what is wrong in the draft.
func (h *handlers) ListFindings(c *gin.Context, name SiteName) {
	if w := h.open(c, name); w != nil {
		list, complete := w.Findings(w.State().Draft)
		c.JSON(http.StatusOK, Findings{Checked: complete, List: findings(list)})
	}
}

func findings(ps site.Problems) []Finding {
	out := []Finding{}
	for _, p := range ps {
		one := Finding{Code: p.Code, Severity: string(p.Severity), Path: p.Path, Line: p.Line,
			Column: p.Column, Message: p.Message}
		if p.Pages > 0 {
			one.Pages = &p.Pages
		}
		out = append(out, one)
	}
	return out
}

// ListenToSite streams events until the listener goes away.
func (h *handlers) ListenToSite(c *gin.Context, name SiteName) {
	w := h.open(c, name)
	if w == nil {
		return
	}
	events, end := w.Listen()
	defer end()
	_ = http.NewResponseController(c.Writer).SetWriteDeadline(time.Time{})
	c.Header("Cache-Control", "no-store")
	c.Header("Content-Type", "text/event-stream")
	beat := time.NewTicker(20 * time.Second)
	defer beat.Stop()
	c.SSEvent("hello", gin.H{"version": w.State().Version})
	c.Writer.Flush()
	for {
		select {
		case e := <-events:
			if e.Kind == "progress" {
				c.SSEvent(e.Kind, gin.H{"what": e.Title, "done": e.Done, "total": e.Total})
				break
			}
			c.SSEvent(e.Kind, gin.H{"version": e.Version, "title": e.Title, "by": e.By})
		case <-beat.C:
			_, _ = io.WriteString(c.Writer, ": still here\n\n")
		case <-c.Request.Context().Done():
			return
		case <-h.done:
			return
		}
		c.Writer.Flush()
	}
}

// Review answers with what stands between the draft and the published site.
func (h *handlers) Review(c *gin.Context, name SiteName) {
	w := h.open(c, name)
	if w == nil {
		return
	}
	rev, err := w.Review()
	if err != nil {
		h.fail(c, err)
		return
	}
	out := Review{Edits: rev.Waiting, Records: records(rev.Records), Releases: []Release{},
		Pages: []PageEffect{}, Ahead: []Turn{}, Writing: h.outcome(name)}
	for _, r := range rev.Releases {
		out.Releases = append(out.Releases, release(r))
	}
	d, live := rev.State.Draft, rev.State.Live
	out.Impact = contractImpact(d, rev.Impact)
	for _, p := range rev.Impact.Pages {
		if p.Effect == impact.Changes || p.Effect == impact.Added || p.Effect == impact.Removed {
			in := d.Info(p.Doc)
			if in == nil {
				in = live.Info(p.Doc)
			}
			out.Pages = append(out.Pages, PageEffect{Path: p.Path, Title: pageTitle(in),
				Effect: Effect(p.Effect)})
		}
	}
	for _, t := range d.Ahead() {
		out.Ahead = append(out.Ahead, Turn{Day: t.Day, Begins: append([]string{}, t.Begins...),
			Ends: append([]string{}, t.Ends...), Menus: append([]string{}, t.Menus...)})
	}
	list, complete := w.Findings(d)
	out.Findings = Findings{Checked: complete, List: findings(list)}
	c.JSON(http.StatusOK, out)
}

func records(list []store.Record) []Record {
	out := []Record{}
	for _, r := range list {
		out = append(out, Record{Id: r.ID, Title: r.Title, Author: r.Author, Kind: r.Kind, Undone: r.Undone,
			Waits: r.Waits, At: r.At, Paths: append([]string{}, r.Paths...), Documents: r.Count})
	}
	return out
}

// ListEdits lists edits since the last release, older than a given one.
func (h *handlers) ListEdits(c *gin.Context, name SiteName, params ListEditsParams) {
	w := h.open(c, name)
	if w == nil {
		return
	}
	list, err := w.History(given(params.Before))
	if err != nil {
		h.fail(c, err)
		return
	}
	c.JSON(http.StatusOK, records(list))
}

func release(r store.Release) Release { return Release{Number: r.Number, Title: r.Title, At: r.At} }

// Publish publishes the draft.
func (h *handlers) Publish(c *gin.Context, name SiteName) {
	w := h.open(c, name)
	var in PublishRequest
	if w == nil || !h.body(c, &in) {
		return
	}
	rel, err := w.Publish(in.Title, client(c))
	if err != nil {
		h.fail(c, err)
		return
	}
	h.log.Info("published", "site", name, "release", rel.Number)
	out := release(rel)
	out.Writing = contractWriting(h.write(w))
	c.JSON(http.StatusOK, out)
}

// Restore makes the draft what a release was.
func (h *handlers) Restore(c *gin.Context, name SiteName, number int) {
	if w := h.open(c, name); w != nil {
		rec, err := w.Restore(number, author(c), client(c))
		h.saved(c, w, rec, err)
	}
}

// said is what a request says where it says something, else nothing.
func given[T any](p *T) T {
	var none T
	if p == nil {
		return none
	}
	return *p
}
