package api

import (
	"net/http"

	"github.com/gin-gonic/gin"

	"brickshelf/internal/core/site"
)

// ListRevisions tells what a document became by its last changes.
func (h *handlers) ListRevisions(c *gin.Context, name SiteName, params ListRevisionsParams) {
	w := h.open(c, name)
	if w == nil {
		return
	}
	list, err := w.Revisions(params.Path)
	if err != nil {
		h.fail(c, err)
		return
	}
	out := []Revision{}
	for _, r := range list {
		out = append(out, Revision{Id: r.ID, Title: r.Title, Author: r.Author, Kind: r.Kind, Undone: r.Undone,
			At: r.At, Hash: string(r.Hash)})
	}
	c.JSON(http.StatusOK, out)
}

// GetRevision answers with the text of a revision, in UTF-8 as the document is read.
func (h *handlers) GetRevision(c *gin.Context, name SiteName, params GetRevisionParams) {
	w := h.open(c, name)
	if w == nil {
		return
	}
	text, err := w.Revision(params.Path, site.Hash(params.Hash))
	h.text(c, site.Readable(text), err)
}

// GetRevisionImpact answers with the pages that an edit changed.
func (h *handlers) GetRevisionImpact(c *gin.Context, name SiteName, params GetRevisionImpactParams) {
	w := h.open(c, name)
	if w == nil {
		return
	}
	im, err := w.Changed(params.Edit)
	if err != nil {
		h.fail(c, err)
		return
	}
	c.JSON(http.StatusOK, contractImpact(w.State().Draft, im))
}
