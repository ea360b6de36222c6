package api

import (
	"net/http"

	"github.com/gin-gonic/gin"

	"brickshelf/internal/core/block"
	"brickshelf/internal/core/edit"
	"brickshelf/internal/core/render"
	"brickshelf/internal/core/site"
)

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
	d := w.State().Draft
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
			return site.ChangeSet{}, &site.Refusal{Message: "say which piece of the text"}
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
			return site.ChangeSet{}, &site.Refusal{Message: "say which piece of the page"}
		}
		return edit.FromPiece(d, said(in.Doc), in.Piece.From, in.Piece.To, w)
	case "delete-block":
		with := edit.WithNothing
		if in.With != nil {
			with = edit.Replacement(*in.With)
		}
		return edit.DeleteBlock(d, block, with, to)
	}
	return site.ChangeSet{}, &site.Refusal{Message: "there is no operation " + string(in.Operation)}
}
