package api

import (
	"encoding/base64"
	"io"
	"maps"
	"net/http"
	"strings"
	"unicode/utf8"

	"github.com/gin-gonic/gin"

	"brickshelf/internal/core/edit/values"
	"brickshelf/internal/core/shelf"
	"brickshelf/internal/core/site"
	"brickshelf/internal/store"
	"brickshelf/internal/workspace"
)

// GetDocument answers with a document's bytes.
func (h *handlers) GetDocument(c *gin.Context, name SiteName, params GetDocumentParams) {
	h.read(c, name, func(d *shelf.Shelf) {
		b, ok := d.Get(params.Path)
		if !ok {
			problem(c, http.StatusNotFound, "No such document", "There is no document "+params.Path+".")
			return
		}
		tag := `"` + string(d.Hash(params.Path)) + `"`
		c.Header("ETag", tag)
		if c.GetHeader("If-None-Match") == tag {
			c.Status(http.StatusNotModified)
			return
		}
		if given(params.Readable) {
			b = site.Readable(b)
		}
		c.Data(http.StatusOK, "application/octet-stream", b)
	})
}

// PutDocument saves one document.
func (h *handlers) PutDocument(c *gin.Context, name SiteName, params PutDocumentParams) {
	w := h.open(c, name)
	if w == nil {
		return
	}
	change := site.Change{Path: params.Path}
	switch {
	case params.IfMatch != nil:
		change.Before = site.Hash(strings.Trim(*params.IfMatch, `"`))
	case params.IfNoneMatch == nil || *params.IfNoneMatch != "*":
		problem(c, http.StatusPreconditionRequired, "If-Match missing",
			"Say with If-Match which version the edit began from, or make a new document with If-None-Match: *.")
		return
	}
	b, err := io.ReadAll(c.Request.Body)
	if err != nil {
		h.fail(c, err)
		return
	}
	change.After = b
	h.save(c, w, site.ChangeSet{Title: "Edit " + params.Path, Changes: []site.Change{change}})
}

func (h *handlers) save(c *gin.Context, w *workspace.Workspace, set site.ChangeSet) {
	if len(set.Changes) == 0 {
		h.fail(c, site.Refuse("there is nothing to save: the change set has no change"))
		return
	}
	set.Author = author(c)
	rec, err := w.Save(set, client(c))
	if err != nil {
		h.fail(c, err)
		return
	}
	h.log.Info("saved", "site", w.Site.Name, "title", rec.Title)
	out := Saved{Id: rec.ID, Title: rec.Title, Version: w.State().Version}
	if len(set.Changes) <= manyHashes {
		hashes := map[string]string{}
		for _, ch := range set.Changes {
			hashes[ch.Path] = ""
			if !ch.Delete {
				hashes[ch.Path] = string(site.HashOf(ch.After))
			}
		}
		out.Hashes = &hashes
	}
	c.JSON(http.StatusOK, out)
}

// manyHashes is up to how many documents a save answers with their hashes.
const manyHashes = 200

func (h *handlers) saved(c *gin.Context, w *workspace.Workspace, rec store.Record, err error) {
	if err != nil {
		h.fail(c, err)
		return
	}
	h.log.Info("saved", "site", w.Site.Name, "title", rec.Title)
	c.JSON(http.StatusOK, Saved{Id: rec.ID, Title: rec.Title, Version: w.State().Version})
}

// changes turns a change set of the contract into one of the core. The texts of documents in other
// encodings are written in those.
func changes(in ChangeSet, draft *shelf.Shelf) (site.ChangeSet, error) {
	out := site.ChangeSet{Title: in.Title}
	for _, ch := range in.Changes {
		d := site.Change{Path: ch.Path, Before: site.Hash(ch.Before)}
		switch {
		case (ch.Base64 != nil && ch.Text != nil) || given(ch.Delete) && (ch.Base64 != nil || ch.Text != nil):
			return out, &site.Refusal{Message: ch.Path + ": text, base64 and delete exclude one another"}
		case ch.Base64 != nil:
			b, err := base64.StdEncoding.DecodeString(*ch.Base64)
			if err != nil {
				return out, &site.Refusal{Message: ch.Path + ": base64: " + err.Error()}
			}
			d.After = b
		case ch.Text != nil:
			d.After = []byte(*ch.Text)
			class, _, _ := site.Classify(ch.Path)
			was, there := draft.Get(ch.Path)
			if there && class == site.PageDoc && draft.Hash(ch.Path) == d.Before {
				// What its encoding lacks is told as a problem of the edit.
				d.After, _ = site.Written(d.After, was)
			}
		case given(ch.Delete):
			d.Delete = true
		default:
			return out, &site.Refusal{Message: ch.Path +
				": say what it is to hold, in text or base64, or that it is to go, with delete: true"}
		}
		out.Changes = append(out.Changes, d)
	}
	return out, nil
}

func contractChanges(set site.ChangeSet) ChangeSet {
	out := ChangeSet{Title: set.Title, Changes: []Change{}}
	for _, ch := range set.Changes {
		d := Change{Path: ch.Path, Before: string(ch.Before)}
		if ch.Delete {
			yes := true
			d.Delete = &yes
		} else {
			if utf8.Valid(ch.After) {
				t := string(ch.After)
				d.Text = &t
			} else {
				t := base64.StdEncoding.EncodeToString(ch.After)
				d.Base64 = &t
			}
		}
		out.Changes = append(out.Changes, d)
	}
	return out
}

// Save saves a change set to the draft.
func (h *handlers) Save(c *gin.Context, name SiteName) {
	w := h.open(c, name)
	var in ChangeSet
	if w == nil || !h.body(c, &in) {
		return
	}
	var set site.ChangeSet
	var err error
	if in.Proposal != nil {
		set.Title = in.Title
		var pr *workspace.Proposal
		if pr, _, err = w.Proposal(*in.Proposal); err == nil {
			set.Changes = pr.Changes
		}
	} else {
		set, err = changes(in, w.State().Draft)
	}
	if err != nil {
		h.fail(c, err)
		return
	}
	h.save(c, w, set)
}

// sent is the site of a request and the change set in its body; nil where that is answered
// already, with what is wrong.
func (h *handlers) sent(c *gin.Context, name SiteName) (*workspace.Workspace, site.ChangeSet) {
	w := h.open(c, name)
	var in ChangeSet
	if w == nil || !h.body(c, &in) {
		return nil, site.ChangeSet{}
	}
	set, err := changes(in, w.State().Draft)
	if err != nil {
		h.fail(c, err)
		return nil, site.ChangeSet{}
	}
	return w, set
}

// KeyChanges gives the calls keys of which a change set makes pages say something.
func (h *handlers) KeyChanges(c *gin.Context, name SiteName) {
	w, set := h.sent(c, name)
	if w == nil {
		return
	}
	out := KeyedChanges{Called: map[string]string{}}
	keyed, called := values.WithStableKeys(w.State().Draft, set)
	out.ChangeSet = contractChanges(keyed)
	maps.Copy(out.Called, called)
	c.JSON(http.StatusOK, out)
}

// manyTexts is how many bytes of texts an operation answers with; of more it leaves them
// with its proposal.
const manyTexts = 1 << 20

func leftOut(out *ChangeSet, set site.ChangeSet, proposal string) {
	total := 0
	for _, c := range set.Changes {
		total += len(c.After)
	}
	if total <= manyTexts {
		return
	}
	none := ""
	for i := range out.Changes {
		if c := &out.Changes[i]; c.Text != nil || c.Base64 != nil {
			c.Text, c.Base64 = &none, nil
		}
	}
	out.Proposal = &proposal
}

// Undo takes back the newest edit.
func (h *handlers) Undo(c *gin.Context, name SiteName) {
	if w := h.open(c, name); w != nil {
		rec, err := w.Undo(client(c))
		h.saved(c, w, rec, err)
	}
}

// Redo does again what was taken back last.
func (h *handlers) Redo(c *gin.Context, name SiteName) {
	if w := h.open(c, name); w != nil {
		rec, err := w.Redo(client(c))
		h.saved(c, w, rec, err)
	}
}

// SetDefault edits a block's text.
func (h *handlers) SetDefault(c *gin.Context, _ SiteName) {
	var in DefaultEdit
	if !h.body(c, &in) {
		return
	}
	if given(in.Path) == "site.yaml" {
		text, err := values.SetSiteValue([]byte(in.Text), in.Field, in.Value)
		h.text(c, text, err)
		return
	}
	value := in.Value
	if f := values.FieldAt(nil, "blocks/block.html", in.Text, []string{"fields", in.Field,
		"default"}); f != nil {
		value = values.Entered(f, value)
	}
	text, err := values.SetDefault([]byte(in.Text), in.Field, value)
	if err != nil {
		h.fail(c, err)
		return
	}
	c.JSON(http.StatusOK, BlockText{Text: string(text)})
}
