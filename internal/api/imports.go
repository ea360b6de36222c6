package api

import (
	"cmp"
	"errors"
	"io"
	"net/http"
	"os"
	"strings"

	"github.com/gin-gonic/gin"

	"brickshelf/internal/core/block"
	"brickshelf/internal/core/check"
	"brickshelf/internal/core/edit/parts"
	"brickshelf/internal/core/place"
	"brickshelf/internal/core/shelf"
	"brickshelf/internal/core/site"
	"brickshelf/internal/folder"
	"brickshelf/internal/plain"
	"brickshelf/internal/store"
	"brickshelf/internal/workspace"
)

// maxImport is how large the zip of an import may be, in bytes.
const maxImport = folder.MaxTotal

// ImportTree takes a zipped shelf folder in.
func (h *handlers) ImportTree(c *gin.Context, name SiteName, params ImportTreeParams) {
	in := Intake{Keep: given(params.Keep), As: given(params.As), From: given(params.From),
		Title: given(params.Title), Author: author(c), Dry: given(params.DryRun)}
	switch merge, replace := given(params.Merge), given(params.Replace); {
	case merge && replace:
		problem(c, http.StatusBadRequest, "The request does not fit the contract",
			"merge and replace exclude each other")
		return
	case merge:
		in.Mode = workspace.Merge
	case replace:
		in.Mode = workspace.Replace
	}
	files, report, ok := h.sentZip(c, "This cannot be imported", name)
	if !ok {
		return
	}
	if report != nil && !given(params.LeaveOut) {
		if left := report.Refusal(); len(left) > 0 {
			h.fail(c, &workspace.InvalidError{Problems: left})
			return
		}
	}
	out, err := h.Import(name, files, in)
	if err != nil {
		h.fail(c, err)
		return
	}
	out.Plain = contractPlain(report)
	h.log.Info("imported", "site", name, "created", out.Created, "added", len(out.Added), "changed",
		len(out.Changed), "removed", len(out.Removed))
	c.JSON(http.StatusOK, out)
}

// sentZip is what the zip that a request brings holds; what is wrong with it is answered under a title.
// The report is that of a web site which is no shelf folder, and was made one.
func (h *handlers) sentZip(c *gin.Context, title, name string) (site.Files, *plain.Report, bool) {
	files, report, err := zipped(http.MaxBytesReader(c.Writer, c.Request.Body, maxImport), name)
	var large *http.MaxBytesError
	switch {
	case errors.As(err, &large):
		h.fail(c, err)
	case err != nil:
		problem(c, http.StatusUnprocessableEntity, title, err.Error())
	}
	return files, report, err == nil
}

// contractPlain is a report in the words of the contract.
func contractPlain(r *plain.Report) *PlainReport {
	if r == nil {
		return nil
	}
	out := &PlainReport{Pages: r.Pages, Files: r.Files, Notes: []PlainNote{}}
	for _, n := range r.Notes {
		out.Notes = append(out.Notes, PlainNote{Path: n.Path, As: PlainNoteAs(n.As), Says: n.Says})
	}
	return out
}

// zipped reads a zip, by way of a file: it is read from its end.
func zipped(r io.Reader, name string) (site.Files, *plain.Report, error) {
	tmp, err := os.CreateTemp("", "brickshelf-import-*")
	if err != nil {
		return nil, nil, err
	}
	defer os.Remove(tmp.Name())
	defer tmp.Close()
	size, err := io.Copy(tmp, r)
	if err != nil {
		return nil, nil, err
	}
	return plain.FromZip(tmp, size, name, nil)
}

// WouldRemove is the title of the problem that an import would remove documents and was
// not told that it may.
const WouldRemove = "This would remove documents"

// Intake says how a tree is taken in.
type Intake struct {
	Mode   workspace.Mode
	Title  string // of the edit; "" for a standard one
	Author string
	Dry    bool // only tell what it would do

	// Of a part: keep what is here under a name that it takes too, which Merge and Replace let go;
	// the names under which units are taken, as ID=NAME; and the site of the store that it comes from.
	Keep bool
	As   []string
	From string
}

// decided are the names under which units are taken.
func (in Intake) decided() []parts.Decision {
	var out []parts.Decision
	for _, as := range in.As {
		id, name, _ := strings.Cut(as, "=")
		out = append(out, parts.Decision{ID: id, Take: parts.Name, Name: name})
	}
	return out
}

// Import takes a tree in, as a new site or as an edit of the one that is there.
func (h *Server) Import(name string, files site.Files, in Intake) (*Imported, error) {
	if config, _ := place.ParseConfig(files["site.yaml"], block.NewReader()); config != nil && config.Part {
		return h.importPart(name, files, in)
	}
	w, err := h.Workspace(name)
	mended := []string{}
	var damaged *store.Damaged
	if errors.As(err, &damaged) && !in.Dry {
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
		return h.importNew(name, files, in.Dry)
	}
	if err != nil {
		return nil, err
	}
	im, err := w.Import(files, in.Mode, cmp.Or(in.Title, "Import"), in.Author, in.Dry)
	if err != nil {
		return nil, err
	}
	return taken(im, mended), nil
}

// taken tells what an edit did that was taken in.
func taken(im *workspace.Imported, mended []string) *Imported {
	return &Imported{Saved: im.Saved, Added: im.Added, Changed: im.Changed, Removed: im.Removed,
		Mended: mended, Sentence: im.Impact.Sentence(), Breaks: im.Impact.Breaks()}
}

// importNew makes a site of a tree.
func (h *Server) importNew(name string, files site.Files, dry bool) (*Imported, error) {
	if problems := check.Validity(shelf.NewScripted(files, h.now(), h.runs)); len(problems) > 0 {
		return nil, &workspace.InvalidError{Problems: problems}
	}
	out := &Imported{Created: true, Saved: !dry, Added: files.Paths(), Changed: []string{},
		Removed: []string{}, Mended: []string{}}
	if dry {
		return out, store.CheckName(name)
	}
	_, err := h.store.Create(name, files, nil)
	return out, err
}
