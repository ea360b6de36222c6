package api

import (
	"net/http"

	"github.com/gin-gonic/gin"
)

// Operate answers with the change set of an operation and its impact.
func (h *handlers) Operate(c *gin.Context, name SiteName) {
	w := h.open(c, name)
	var in Operation
	if w == nil || !h.body(c, &in) {
		return
	}
	chosen, err := in.ValueByDiscriminator()
	if err != nil {
		problem(c, http.StatusBadRequest, "The request does not fit the contract", err.Error())
		return
	}
	out, err := chosen.(operation).changes(desk{w, w.State().Draft, h.Server, c.Request.Context()})
	if err != nil {
		h.fail(c, err)
		return
	}
	changes, proposal := contractChanges(out.set), h.propose(w, out.set.Changes)
	leftOut(&changes, out.set, proposal.Id)
	switch {
	case out.rolled != nil:
		list := make([]Rolled, len(out.rolled))
		for i, r := range out.rolled {
			list[i] = Rolled{Doc: r.Doc, Page: r.URL, Outcome: RolledOutcome(r.Outcome), Why: r.Why}
		}
		c.JSON(http.StatusOK, RolledOut{Answer: RolledOutAnswerRolled, ChangeSet: changes, Proposal: proposal,
			Rolled: list})
	case out.pairs != nil:
		c.JSON(http.StatusOK, Replaced{Answer: ReplacedAnswerReplaced, ChangeSet: changes, Proposal: proposal,
			Fields: out.pairs, Without: mentions(out.without)})
	case out.made != nil:
		c.JSON(http.StatusOK, MadeBlocks{Answer: Made, ChangeSet: changes, Proposal: proposal,
			Made: out.made})
	case out.fields != nil:
		c.JSON(http.StatusOK, Merged{Answer: MergedAnswerMerged, ChangeSet: changes, Proposal: proposal,
			Fields: out.fields})
	case out.without != nil:
		c.JSON(http.StatusOK, FieldChanged{Answer: Without, ChangeSet: changes, Proposal: proposal,
			Without: mentions(out.without)})
	case out.linked != nil:
		list := make([]LinkedCopy, len(out.linked))
		for i, l := range out.linked {
			list[i] = LinkedCopy{Doc: l.Doc, Address: l.Address, Page: l.URL, Fits: fitting(l.Fits),
				Made: append([]string{}, l.Made...), Left: l.Left, Lost: append([]string{}, l.Lost...)}
			if len(out.linked) == 1 {
				list[i].Now = l.Now
			}
		}
		c.JSON(http.StatusOK, LinkedAgain{Answer: LinkedAgainAnswerLinked, ChangeSet: changes,
			Proposal: proposal, Linked: list})
	case out.arrivals != nil:
		c.JSON(http.StatusOK, Arrived{Answer: ArrivedAnswerArrived, ChangeSet: changes, Proposal: proposal,
			Arrivals: arrivals(out.arrivals)})
	case out.left != nil:
		list := make([]LeftCopy, len(out.left))
		for i, l := range out.left {
			list[i] = LeftCopy{Doc: l.Doc, Address: l.Address, Page: l.URL, Why: l.Why,
				Conflicts: l.Conflicts}
		}
		c.JSON(http.StatusOK, Updated{Answer: UpdatedAnswerUpdated, ChangeSet: changes, Proposal: proposal,
			Left: list})
	default:
		c.JSON(http.StatusOK, Changed{Answer: ChangedAnswerChanged, ChangeSet: changes, Proposal: proposal})
	}
}
