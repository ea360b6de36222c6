package api

import (
	"net/http"

	"github.com/gin-gonic/gin"

	"brickshelf/internal/core/edit/copies"
	"brickshelf/internal/core/shelf"
	"brickshelf/internal/core/site"
)

// ListCopies tells of every copy of the draft how it stands.
func (h *handlers) ListCopies(c *gin.Context, name SiteName) {
	h.read(c, name, func(d *shelf.Shelf) {
		out := []Copy{}
		for _, k := range copies.All(d) {
			out = append(out, Copy{Page: k.URL, Title: pageTitle(d.Info(k.Page)), Doc: k.Page,
				Address: k.Address, Of: k.Of, Standing: Standing(k.Standing), Why: k.Why})
		}
		c.JSON(http.StatusOK, out)
	})
}

// GetCopyTexts answers with a copy, what it came from and its block now.
func (h *handlers) GetCopyTexts(c *gin.Context, name SiteName, params GetCopyTextsParams) {
	h.read(c, name, func(d *shelf.Shelf) {
		k, err := copies.At(d, params.Doc, params.Address)
		if err != nil {
			h.fail(c, err)
			return
		}
		merged := []MergedPiece{}
		pieces, seen, _ := copies.Merged(d, params.Doc, params.Address) // where it cannot be, nothing
		for _, p := range pieces {
			merged = append(merged, MergedPiece{Text: p.Text, Conflict: p.Conflict, Base: p.Base,
				Copy:  p.Ours,
				Block: p.Theirs})
		}
		c.JSON(http.StatusOK, CopyTexts{Standing: Standing(k.Standing), Why: k.Why, Text: k.Text,
			Base: k.Base, Now: k.Now, Merged: merged,
			Seen: string(seen), Head: k.Head, NowHead: k.NowHead, Gone: k.Gone, Restyled: k.Restyled})
	})
}

func fitting(list []copies.Fit) []Fit {
	out := []Fit{}
	for _, f := range list {
		out = append(out, Fit{Field: f.Field, Label: f.Label, Text: f.Text, Words: f.Words})
	}
	return out
}

// ListLikenesses tells of pieces of pages that look like a block.
func (h *handlers) ListLikenesses(c *gin.Context, name SiteName, blockName string) {
	h.read(c, name, func(d *shelf.Shelf) {
		list, err := copies.Alike(d, blockName)
		if err != nil {
			h.fail(c, err)
			return
		}
		out := []Likeness{}
		for _, l := range list {
			title := ""
			if in := d.Info(l.Doc); in != nil {
				title = pageTitle(in)
			} else if class, of, _ := site.Classify(l.Doc); class == site.BlockDoc {
				title = d.Block(of).Title
			}
			out = append(out, Likeness{Doc: l.Doc, Page: l.URL, Title: title, From: l.From, To: l.To,
				Text: l.Text, Linked: l.Linked, Fits: fitting(l.Fits), Lost: append([]string{}, l.Lost...)})
		}
		c.JSON(http.StatusOK, out)
	})
}
