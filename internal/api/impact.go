package api

import (
	"bytes"
	"encoding/json"
	"net/http"
	"net/url"
	"strings"

	"github.com/gin-gonic/gin"

	"brickshelf/internal/core/block"
	"brickshelf/internal/core/edit"
	"brickshelf/internal/core/impact"
	"brickshelf/internal/core/render"
	"brickshelf/internal/core/site"
	"brickshelf/internal/workspace"
)

var effectLetter = map[impact.Effect]byte{impact.Changes: 'c', impact.Removed: 'r', impact.Held: 'h', impact.Copied: 'p', impact.Hidden: 'i', impact.Same: 's', impact.Untouched: '-'}

// contractImpact writes an impact for the wall: a letter for each page of the
// draft, in the order in which GetSite lists them.
func contractImpact(d *render.Shelf, im *impact.Impact) Impact {
	out := Impact{Total: im.Total, Counts: map[string]int{}, Added: []string{}, Breaks: []Break{}, Sentence: im.Sentence()}
	for e, n := range im.Counts {
		out.Counts[string(e)] = n
	}
	at := make(map[string]byte, len(im.Pages))
	for _, p := range im.Pages {
		letter := effectLetter[p.Effect]
		if p.Effect == impact.Added {
			out.Added = append(out.Added, p.Path)
			letter = 'c'
		}
		if len(p.Breaks) > 0 {
			letter -= 'a' - 'A'
		}
		at[p.Path] = letter
		for _, b := range p.Breaks {
			out.Breaks = append(out.Breaks, Break{Page: p.Path, Code: b.Code, Address: b.Address, Message: b.Message})
		}
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
	w := h.open(c, name)
	var in ChangeSet
	if w == nil || !h.body(c, &in) {
		return
	}
	set, err := changes(in)
	if err != nil {
		h.fail(c, err)
		return
	}
	c.JSON(http.StatusOK, h.propose(w, set.Changes))
}

func (h *handlers) propose(w *workspace.Workspace, changes []site.Change) Proposal {
	pr := w.Propose(changes)
	out := Proposal{Id: pr.ID, Problems: findings(pr.Problems)}
	if pr.Impact != nil {
		w.Read(func(d *render.Shelf) {
			im := contractImpact(d, pr.Impact)
			out.Impact = &im
		})
	}
	return out
}

// Operate answers with the change set of an operation and its impact.
func (h *handlers) Operate(c *gin.Context, name SiteName) {
	w := h.open(c, name)
	var in Operation
	if w == nil || !h.body(c, &in) {
		return
	}
	var set site.ChangeSet
	var rolled []edit.Rolled
	var without []edit.Mention
	var earlier [][]byte
	var err error
	if in.Operation == BringBackField {
		if earlier, err = w.Earlier("blocks/" + said(in.Block) + ".html"); err != nil {
			h.fail(c, err)
			return
		}
	}
	w.Read(func(d *render.Shelf) {
		switch in.Operation {
		case BringBackField:
			set, err = edit.BringBack(d, said(in.Block), said(in.Field), earlier)
		case RollOut, TakeOff:
			set, rolled, err = rollOut(d, in)
		case RetypeField:
			set, without, err = edit.RetypeField(d, said(in.Block), said(in.Field), fieldType(in))
		case RemoveField:
			set, without, err = edit.RemoveField(d, said(in.Block), said(in.Field))
		default:
			if set, err = operate(d, in); in.Operation == Detach {
				set, _ = edit.Keyed(d, set)
			}
		}
	})
	if err != nil {
		h.fail(c, err)
		return
	}
	out := Operated{ChangeSet: contractChanges(set), Proposal: h.propose(w, set.Changes)}
	leftOut(&out.ChangeSet, set, out.Proposal.Id)
	if rolled != nil {
		list := make([]Rolled, len(rolled))
		for i, r := range rolled {
			list[i] = Rolled{Doc: r.Doc, Page: r.URL, Outcome: RolledOutcome(r.Outcome), Why: r.Why}
		}
		out.Rolled = &list
	}
	if without != nil {
		list := mentions(without)
		out.Without = &list
	}
	c.JSON(http.StatusOK, out)
}

func fieldType(in Operation) block.Type { return block.Type(said(in.Type)) }

func rollOut(d *render.Shelf, in Operation) (site.ChangeSet, []edit.Rolled, error) {
	if in.Operation == TakeOff {
		return edit.TakeOff(d, said(in.Pages), said(in.Region), said(in.Block))
	}
	set, rolled, err := edit.RollOut(d, said(in.Pages), said(in.Region), said(in.Calls), said(in.At) == OperationAtStart)
	if err != nil || len(said(in.Layouts)) == 0 {
		return set, rolled, err
	}
	begin, err := edit.BeginWith(d, said(in.Layouts), said(in.Region), said(in.Calls))
	set.Changes = append(set.Changes, begin...)
	return set, rolled, err
}

func operate(d *render.Shelf, in Operation) (site.ChangeSet, error) {
	block, to := said(in.Block), said(in.To)
	switch in.Operation {
	case "detach":
		return edit.Detach(d, said(in.Doc), said(in.Address))
	case "link":
		return edit.Link(d, said(in.Doc), said(in.Address))
	case "new-block":
		return edit.NewBlock(d, block, said(in.Title), said(in.Category))
	case "duplicate-block":
		return edit.DuplicateBlock(d, block, to)
	case "switch-set":
		return edit.SwitchSet(d, said(in.Set), in.On != nil && *in.On)
	case "rename-block":
		return edit.RenameBlock(d, block, to)
	case "move-page":
		return edit.MovePage(d, said(in.Doc), to, in.Redirect != nil && *in.Redirect)
	case "new-page":
		return edit.NewPage(d, to, said(in.Title), said(in.Layout))
	case "duplicate-page":
		return edit.DuplicatePage(d, said(in.Doc), to, said(in.Title))
	case "delete-page":
		return edit.DeletePage(d, said(in.Doc))
	case "set-layout":
		return edit.SetLayout(d, said(in.Doc), said(in.Layout), said(in.Regions))
	case "send-part":
		return edit.SendPart(d, said(in.Doc), said(in.From), to, said(in.Region))
	case "new-layout":
		return edit.NewLayout(d, said(in.Name), said(in.Title), said(in.Layout))
	case "delete-layout":
		return edit.DeleteLayout(d, said(in.Name), to)
	case "new-rule":
		return edit.NewRule(d, said(in.Name), block, said(in.Region))
	case "delete-rule":
		return edit.DeleteRule(d, said(in.Name))
	case "order-rules":
		return edit.OrderRules(d, said(in.Region), modeOf(d, said(in.Region)), said(in.Rules))
	case "new-menu":
		return edit.NewMenu(d, said(in.Name), said(in.Title))
	case "set-values":
		var edits []edit.ValueEdit
		for _, v := range said(in.Values) {
			edits = append(edits, edit.ValueEdit{Doc: v.Doc, Address: v.Address, Field: v.Field, Text: v.Text})
		}
		return edit.SetValues(d, block, edits)
	case "rename-field":
		return edit.RenameField(d, block, said(in.Field), to)
	case "add-field":
		return edit.AddField(d, block, said(in.Field), fieldType(in), said(in.Value))
	case "drop-orphans":
		return edit.DropOrphans(d, block, said(in.Field))
	case "field-from-text":
		if in.Piece == nil {
			return site.ChangeSet{}, &edit.Refusal{Message: "say which piece of the text"}
		}
		return edit.FieldFromText(d, block, in.Piece.From, in.Piece.To, said(in.Field))
	case "make-default":
		return edit.MakeDefault(d, block, said(in.Field), said(in.Value), said(in.Keep))
	case "raise-to-rule":
		return edit.RaiseToRule(d, said(in.Rule), said(in.Field), said(in.Value))
	case "raise-to-page":
		return edit.RaiseToPage(d, block, said(in.Field), said(in.Value), to)
	case "re-aim":
		return edit.ReAim(d, said(in.Doc), said(in.Address), to)
	case "delete-menu":
		return edit.DeleteMenu(d, said(in.Name))
	case "block-from-piece":
		w := edit.Wanted{Name: block, Title: said(in.Title), Category: said(in.Category), Link: in.Stays == nil || !*in.Stays}
		if in.Fields != nil {
			w.Fields = *in.Fields
		}
		if in.Piece == nil {
			return site.ChangeSet{}, &edit.Refusal{Message: "say which piece of the page"}
		}
		return edit.FromPiece(d, said(in.Doc), in.Piece.From, in.Piece.To, w)
	case "delete-block":
		with := edit.WithNothing
		if in.With != nil {
			with = edit.Replacement(*in.With)
		}
		return edit.DeleteBlock(d, block, with, to)
	}
	return site.ChangeSet{}, &edit.Refusal{Message: "there is no operation " + string(in.Operation)}
}

// ComparePage answers with one page before and after.
func (h *handlers) ComparePage(c *gin.Context, name SiteName, against string, params ComparePageParams) {
	w := h.open(c, name)
	if w == nil {
		return
	}
	origin := "http://" + h.siteHost(c.Request)
	out := Comparison{Page: params.Page, Effect: string(impact.Untouched), Placements: []PlacementEffect{}, Breaks: []Break{}}
	fill := func(before, after *render.Shelf, docs []string, im *impact.Impact, beforePath, afterPath string) {
		before, options, err := looked(before, string(said(params.Audience)), said(params.On))
		if err == nil {
			after, _, err = looked(after, "", said(params.On))
		}
		if err != nil {
			problem(c, http.StatusBadRequest, "No such day", err.Error())
			return
		}
		look := lookQuery(params)
		a, b := before.Page(params.Page), after.Page(params.Page)
		in := b
		if in == nil {
			in = a
		}
		if in == nil {
			problem(c, http.StatusNotFound, "No such page", "There is no page at "+params.Page+".")
			return
		}
		out.Title = pageTitle(in)
		if a != nil {
			out.Before, out.BeforeUrl = string(before.Render(a.Page.Path, options).HTML), origin+beforePath+params.Page+look
		}
		if b != nil {
			out.After, out.AfterUrl = string(after.Render(b.Page.Path, options).HTML), origin+afterPath+params.Page+look
		}
		page := impact.Page{Doc: in.Page.Path, Path: params.Page}
		for _, p := range im.Pages {
			if p.Doc == in.Page.Path {
				page = p
				out.Effect = string(p.Effect)
			}
		}
		impact.Detail(before, after, docs, &page)
		for _, p := range page.Placements {
			one := PlacementEffect{Address: p.Address, Block: p.Block, Effect: string(p.Effect)}
			if len(p.Holds) > 0 {
				holds := ownValues(p.Holds)
				one.Holds = &holds
			}
			out.Placements = append(out.Placements, one)
		}
		for _, b := range page.Breaks {
			out.Breaks = append(out.Breaks, Break{Page: params.Page, Code: b.Code, Address: b.Address, Message: b.Message})
		}
		c.JSON(http.StatusOK, out)
	}
	if against == "live" {
		w.ReadLive(func(d, live *render.Shelf) {
			im, docs := w.FromLive(d, live)
			fill(live, d, docs, im, "/_live", "/_draft")
		})
		return
	}
	err := w.ReadProposal(against, func(d *render.Shelf, pr *workspace.Proposal) {
		im := pr.Impact
		if im == nil {
			im = &impact.Impact{}
		}
		fill(d, pr.Shelf, pr.Docs, im, "/_draft", "/_edit/"+url.PathEscape(pr.ID))
	})
	if err != nil {
		h.fail(c, err)
	}
}

// lookQuery is what a preview's address says of how one looks.
func lookQuery(params ComparePageParams) string {
	q := url.Values{}
	if params.Audience != nil && *params.Audience == render.SignedIn {
		q.Set(lookAs, render.SignedIn)
	}
	if on := said(params.On); on != "" {
		q.Set(lookOn, on)
	}
	if len(q) == 0 {
		return ""
	}
	return "?" + q.Encode()
}

// GetBlock answers with a block.
func (h *handlers) GetBlock(c *gin.Context, name SiteName, blockName string) {
	w := h.open(c, name)
	if w == nil {
		return
	}
	w.Read(func(d *render.Shelf) {
		b := d.Block(blockName)
		if b == nil {
			problem(c, http.StatusNotFound, "No such block", "There is no block "+blockName+" on the shelf.")
			return
		}
		out := Block{Name: b.Name, Title: b.Title, Category: b.Category, About: b.About, Call: call(b.Name, b.Fields, encloses(b)), Path: b.Path, Fields: contractFields(b.Fields)}
		if d.Hash("blocks/"+b.Name+".css") != "" {
			out.Style = "blocks/" + b.Name + ".css"
		}
		if d.Hash("blocks/"+b.Name+".js") != "" {
			out.Behaviour = "blocks/" + b.Name + ".js"
		}
		c.JSON(http.StatusOK, out)
	})
}

// ListPlacements answers with every spot where a block stands.
func (h *handlers) ListPlacements(c *gin.Context, name SiteName, blockName string) {
	w := h.open(c, name)
	if w == nil {
		return
	}
	w.Read(func(d *render.Shelf) {
		users := d.Users(blockName)
		lists := make([][]Placement, len(users))
		render.Parallel(len(users), func(i int) { lists[i] = placementsOn(d, users[i], blockName) })
		out := []Placement{}
		for _, l := range lists {
			out = append(out, l...)
		}
		c.JSON(http.StatusOK, out)
	})
}

func placementsOn(d *render.Shelf, path, blockName string) []Placement {
	var out []Placement
	in := d.Info(path)
	if in == nil || in.Page.Draft {
		return nil
	}
	for _, p := range d.Placements(path) {
		if p.Block != blockName {
			continue
		}
		region, _, _ := strings.Cut(p.Address, "/")
		out = append(out, Placement{Page: in.Page.URL, Title: pageTitle(in), Doc: path, Address: p.Address, Region: region, Kind: PlacementKind(p.Kind), Via: p.Via, Own: ownValues(p.Own)})
	}
	return out
}

func ownValues(list []render.OwnValue) []OwnValue {
	out := []OwnValue{}
	for _, o := range list {
		out = append(out, OwnValue{Field: o.Field, Text: valueText(o.Value.Plain()), Rung: string(o.Rung)})
	}
	return out
}

// valueText shows a value as a person would type it: plain texts as they are,
// the rest as JSON.
func valueText(v any) string {
	switch t := v.(type) {
	case nil:
		return ""
	case string:
		return t
	}
	b, err := json.Marshal(v)
	if err != nil {
		return ""
	}
	return string(b)
}
