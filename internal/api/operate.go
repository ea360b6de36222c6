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
	out, err := chosen.(operation).changes(desk{w, w.State().Draft})
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
	case out.without != nil:
		c.JSON(http.StatusOK, FieldChanged{Answer: Without, ChangeSet: changes, Proposal: proposal,
			Without: mentions(out.without)})
	default:
		c.JSON(http.StatusOK, Changed{Answer: ChangedAnswerChanged, ChangeSet: changes, Proposal: proposal})
	}
}
