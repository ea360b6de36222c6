package api

import (
	"fmt"
	"net/http"

	"github.com/gin-gonic/gin"

	"brickshelf/internal/core/block"
	"brickshelf/internal/core/edit/copies"
	"brickshelf/internal/core/edit/outline"
	"brickshelf/internal/core/edit/placing"
	"brickshelf/internal/core/edit/values"
	"brickshelf/internal/core/patch"
	"brickshelf/internal/core/shelf"
	"brickshelf/internal/core/site"
)

// SetKey edits one key of a document's text.
func (h *handlers) SetKey(c *gin.Context, name SiteName) {
	w := h.open(c, name)
	var in KeyEdit
	if w == nil || !h.body(c, &in) {
		return
	}
	if in.Before != nil {
		text, err := patch.Move(in.Path, []byte(in.Text), in.Keys, *in.Before)
		h.text(c, text, err)
		return
	}
	value := in.Value
	if f := values.FieldAt(w.State().Draft, in.Path, in.Text, in.Keys); f != nil {
		value = block.InOrder(f, value)
	}
	text, err := patch.Set(in.Path, []byte(in.Text), in.Keys, value)
	h.text(c, text, err)
}

// EnterRichText answers with what becomes of a rich text.
func (h *handlers) EnterRichText(c *gin.Context, name SiteName) {
	var in RichText
	if h.open(c, name) == nil || !h.body(c, &in) {
		return
	}
	f := &block.Field{Type: block.Rich}
	c.JSON(http.StatusOK, EnteredRichText{Written: values.Entered(f, in.Text),
		Unshown: block.NewReader().Lost(f, in.Text)})
}

func (h *handlers) text(c *gin.Context, text []byte, err error) {
	if err != nil {
		h.fail(c, err)
		return
	}
	c.JSON(http.StatusOK, BlockText{Text: string(text)})
}

// EditPage edits what a page's own text puts where.
func (h *handlers) EditPage(c *gin.Context, name SiteName) {
	var in PageEdit
	if !h.body(c, &in) {
		return
	}
	if class, _, _ := site.Classify(in.Path); class != site.PageDoc {
		h.fail(c, &site.Refusal{Message: fmt.Sprintf("%q is no page", in.Path)})
		return
	}
	src := []byte(in.Text)
	var text []byte
	var err error
	switch before := given(in.Before); in.Edit {
	case "put":
		var from int
		text, from, err = outline.PutAt(in.Path, src, given(in.Region), before, given(in.Call))
		if err == nil && given(in.AsCopy) {
			h.asCopy(c, name, in.Path, text, from)
			return
		}
		h.pageText(c, text, from, err)
		return
	case "copy":
		h.asCopy(c, name, in.Path, src, given(in.From))
		return
	case "take":
		text, err = outline.Take(in.Path, src, given(in.From))
	case "move":
		text, err = outline.Move(in.Path, src, given(in.From), given(in.Region), before)
	case "own":
		h.read(c, name, func(d *shelf.Shelf) {
			text, at, err := placing.Own(d, in.Path, src, given(in.Address), given(in.Region), before)
			h.pageText(c, text, at, err)
		})
		return
	case "hide":
		text, err = outline.Hide(in.Path, src, given(in.Address))
	case "show":
		text, err = outline.Show(in.Path, src, given(in.Address))
	default:
		err = &site.Refusal{Message: "there is no edit " + string(in.Edit)}
	}
	h.text(c, text, err)
}

// pageText answers with a page's text and where in it something was put.
func (h *handlers) pageText(c *gin.Context, text []byte, at int, err error) {
	if err != nil {
		h.fail(c, err)
		return
	}
	c.JSON(http.StatusOK, PageText{Text: string(text), At: &at})
}

// asCopy answers with a page's text in which the call that begins at a byte is a copy.
func (h *handlers) asCopy(c *gin.Context, name SiteName, path string, text []byte, from int) {
	h.read(c, name, func(d *shelf.Shelf) {
		changes, err := copies.AsCopies(d, path, text, from, from+1)
		if err == nil && string(changes[0].After) == string(text) {
			err = site.Refuse("only a block can be put there as a copy")
		}
		if err != nil {
			h.fail(c, err)
			return
		}
		h.text(c, changes[0].After, nil)
	})
}
