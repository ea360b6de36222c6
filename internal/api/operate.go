package api

import (
	"net/http"

	"github.com/gin-gonic/gin"

	"brickshelf/internal/core/block"
	"brickshelf/internal/core/edit/copies"
	"brickshelf/internal/core/edit/documents"
	"brickshelf/internal/core/edit/outline"
	"brickshelf/internal/core/edit/placing"
	"brickshelf/internal/core/edit/values"
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
	var rolled []placing.Rolled
	var without []values.Mention
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
		set, err = values.BringBack(d, said(in.Block), said(in.Field), earlier)
	case RollOut, TakeOff:
		set, rolled, err = rollOut(d, in)
	case RetypeField:
		set, without, err = values.RetypeField(d, said(in.Block), said(in.Field), fieldType(in))
	case RemoveField:
		set, without, err = values.RemoveField(d, said(in.Block), said(in.Field))
	default:
		if set, err = operate(d, in); in.Operation == Detach {
			set, _ = values.WithStableKeys(d, set)
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

func rollOut(d *render.Shelf, in Operation) (site.ChangeSet, []placing.Rolled, error) {
	if in.Operation == TakeOff {
		return placing.TakeOff(d, said(in.Pages), said(in.Region), said(in.Block))
	}
	set, rolled, err := placing.RollOut(d, said(in.Pages), said(in.Region), said(in.Calls), said(in.At) == OperationAtStart)
	if err != nil || len(said(in.Layouts)) == 0 {
		return set, rolled, err
	}
	begin, err := placing.BeginWith(d, said(in.Layouts), said(in.Region), said(in.Calls))
	set.Changes = append(set.Changes, begin...)
	return set, rolled, err
}

func operate(d *render.Shelf, in Operation) (site.ChangeSet, error) {
	block, to := said(in.Block), said(in.To)
	switch in.Operation {
	case "detach":
		return copies.Detach(d, said(in.Doc), said(in.Address))
	case "link":
		return copies.Link(d, said(in.Doc), said(in.Address))
	case "new-block":
		return documents.NewBlock(d, block, said(in.Title), said(in.Category))
	case "duplicate-block":
		return documents.DuplicateBlock(d, block, to)
	case "switch-set":
		return documents.SwitchSet(d, said(in.Set), in.On != nil && *in.On)
	case "rename-block":
		return documents.RenameBlock(d, block, to)
	case "move-page":
		return documents.MovePage(d, said(in.Doc), to, in.Redirect != nil && *in.Redirect)
	case "new-page":
		return documents.NewPage(d, to, said(in.Title), said(in.Layout))
	case "duplicate-page":
		return documents.DuplicatePage(d, said(in.Doc), to, said(in.Title))
	case "delete-page":
		return documents.DeletePage(d, said(in.Doc))
	case "set-layout":
		return documents.SetLayout(d, said(in.Doc), said(in.Layout), said(in.Regions))
	case "send-part":
		return outline.Send(d, said(in.Doc), said(in.From), to, said(in.Region))
	case "new-layout":
		return documents.NewLayout(d, said(in.Name), said(in.Title), said(in.Layout))
	case "delete-layout":
		return documents.DeleteLayout(d, said(in.Name), to)
	case "new-rule":
		return placing.NewRule(d, said(in.Name), block, said(in.Region))
	case "delete-rule":
		return placing.DeleteRule(d, said(in.Name))
	case "order-rules":
		return placing.OrderRules(d, said(in.Region), modeOf(d, said(in.Region)), said(in.Rules))
	case "new-menu":
		return documents.NewMenu(d, said(in.Name), said(in.Title))
	case "set-values":
		var edits []values.Edit
		for _, v := range said(in.Values) {
			edits = append(edits, values.Edit{Doc: v.Doc, Address: v.Address, Field: v.Field, Text: v.Text})
		}
		return values.Set(d, block, edits)
	case "rename-field":
		return values.RenameField(d, block, said(in.Field), to)
	case "add-field":
		return values.AddField(d, block, said(in.Field), fieldType(in), said(in.Value))
	case "drop-orphans":
		return values.DropOrphans(d, block, said(in.Field))
	case "field-from-text":
		if in.Piece == nil {
			return site.ChangeSet{}, site.Refuse("say which piece of the text")
		}
		return values.FieldFromText(d, block, in.Piece.From, in.Piece.To, said(in.Field))
	case "make-default":
		return values.MakeDefault(d, block, said(in.Field), said(in.Value), said(in.Keep))
	case "raise-to-rule":
		return values.RaiseToRule(d, said(in.Rule), said(in.Field), said(in.Value))
	case "raise-to-page":
		return values.RaiseToPage(d, block, said(in.Field), said(in.Value), to)
	case "re-aim":
		return values.ReAim(d, said(in.Doc), said(in.Address), to)
	case "delete-menu":
		return documents.DeleteMenu(d, said(in.Name))
	case "block-from-piece":
		w := documents.Wanted{Name: block, Title: said(in.Title), Category: said(in.Category), Link: in.Stays == nil || !*in.Stays}
		if in.Fields != nil {
			w.Fields = *in.Fields
		}
		if in.Piece == nil {
			return site.ChangeSet{}, site.Refuse("say which piece of the page")
		}
		return documents.FromPiece(d, said(in.Doc), in.Piece.From, in.Piece.To, w)
	case "delete-block":
		with := documents.WithNothing
		if in.With != nil {
			with = documents.Replacement(*in.With)
		}
		return documents.DeleteBlock(d, block, with, to)
	}
	return site.ChangeSet{}, &site.Refusal{Message: "there is no operation " + string(in.Operation)}
}
