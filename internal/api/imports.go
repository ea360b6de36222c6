package api

import (
	"errors"
	"io"
	"net/http"
	"os"

	"github.com/gin-gonic/gin"

	"brickshelf/internal/core/check"
	"brickshelf/internal/core/shelf"
	"brickshelf/internal/core/site"
	"brickshelf/internal/folder"
	"brickshelf/internal/store"
	"brickshelf/internal/workspace"
)

// maxImport is how large the zip of an import may be, in bytes.
const maxImport = folder.MaxTotal

// ImportTree takes a zipped shelf folder in.
func (h *handlers) ImportTree(c *gin.Context, name SiteName, params ImportTreeParams) {
	mode := workspace.Add
	switch merge, replace := given(params.Merge), given(params.Replace); {
	case merge && replace:
		problem(c, http.StatusBadRequest, "The request does not fit the contract",
			"merge and replace exclude each other")
		return
	case merge:
		mode = workspace.Merge
	case replace:
		mode = workspace.Replace
	}
	files, err := zipped(http.MaxBytesReader(c.Writer, c.Request.Body, maxImport))
	if err != nil {
		var large *http.MaxBytesError
		if errors.As(err, &large) {
			h.fail(c, err)
		} else {
			problem(c, http.StatusUnprocessableEntity, "This cannot be imported", err.Error())
		}
		return
	}
	title := given(params.Title)
	if title == "" {
		title = "Import"
	}
	out, err := h.Import(name, files, mode, title, author(c), given(params.DryRun))
	if err != nil {
		h.fail(c, err)
		return
	}
	h.log.Info("imported", "site", name, "created", out.Created, "added", len(out.Added), "changed",
		len(out.Changed), "removed", len(out.Removed))
	c.JSON(http.StatusOK, out)
}

// zipped reads a zip, by way of a file: it is read from its end.
func zipped(r io.Reader) (site.Files, error) {
	tmp, err := os.CreateTemp("", "brickshelf-import-*")
	if err != nil {
		return nil, err
	}
	defer os.Remove(tmp.Name())
	defer tmp.Close()
	size, err := io.Copy(tmp, r)
	if err != nil {
		return nil, err
	}
	return folder.FromZip(tmp, size, nil)
}

// WouldRemove is the title of the problem that an import would remove documents and was
// not told that it may.
const WouldRemove = "This would remove documents"

// Import takes a tree in, as a new site or as an edit of the one that is there. Where dry is
// set it only tells what that would do.
func (h *Server) Import(name string, files site.Files, mode workspace.Mode, title, author string,
	dry bool) (*Imported, error) {
	w, err := h.Workspace(name)
	mended := []string{}
	var damaged *store.Damaged
	if errors.As(err, &damaged) && !dry {
		st, e := h.store.Site(name)
		if e == nil {
			e = h.store.Mend(st.ID, files)
		}
		if e != nil {
			return nil, e
		}
		mended = damaged.Paths
		w, err = h.Workspace(name)
	}
	if errors.Is(err, store.ErrNoSite) {
		if problems := check.Validity(shelf.NewScripted(files, h.now(), h.runs)); len(problems) > 0 {
			return nil, &workspace.InvalidError{Problems: problems}
		}
		out := &Imported{Created: true, Saved: !dry, Added: files.Paths(), Changed: []string{},
			Removed: []string{}, Mended: mended}
		if !dry {
			_, err = h.store.Create(name, files, nil)
		} else {
			err = store.CheckName(name)
		}
		return out, err
	}
	if err != nil {
		return nil, err
	}
	im, err := w.Import(files, mode, title, author, dry)
	if err != nil {
		return nil, err
	}
	return &Imported{Saved: im.Saved, Added: im.Added, Changed: im.Changed, Removed: im.Removed,
		Mended: mended, Sentence: im.Impact.Sentence(), Breaks: im.Impact.Breaks()}, nil
}
