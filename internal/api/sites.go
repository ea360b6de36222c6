package api

import (
	"net/http"

	"github.com/gin-gonic/gin"

	"brickshelf/internal/core/block"
	"brickshelf/internal/core/check"
	"brickshelf/internal/core/edit/documents"
	"brickshelf/internal/core/place"
	"brickshelf/internal/core/shelf"
	"brickshelf/internal/core/site"
	"brickshelf/internal/folder"
	"brickshelf/internal/store"
	"brickshelf/internal/workspace"
)

// ListSites lists the sites of the store, without opening them, and those that were deleted and
// can be had back.
func (h *handlers) ListSites(c *gin.Context) {
	list, err := h.store.Summaries()
	if err != nil {
		h.fail(c, err)
		return
	}
	out := make([]Site, len(list))
	for i, s := range list {
		out[i] = h.told(c, s)
	}
	c.JSON(http.StatusOK, out)
}

func (h *handlers) told(c *gin.Context, s store.Summary) Site {
	out := Site{Name: s.Name, Title: s.Name, Pages: s.Pages, Waiting: s.Waiting, Release: s.Release,
		Released: s.Released, Last: s.Title, Changed: s.Changed, Deleted: s.Deleted}
	if s.Deleted != "" {
		return out
	}
	out.SiteOrigin = h.origin(c, s.Name)
	if o := h.outcome(s.Name); o != nil {
		out.Folder = o.Folder
	}
	st, err := h.store.Site(s.Name)
	if err != nil {
		return out
	}
	if src, err := h.store.Document(st.ID, "site.yaml"); err == nil {
		if config, _ := place.ParseConfig(src, block.NewReader()); config != nil && config.Name != "" {
			out.Title = config.Name
		}
	}
	return out
}

// tell answers with one site.
func (h *handlers) tell(c *gin.Context, status int, name string) {
	list, err := h.store.Summaries()
	if err != nil {
		h.fail(c, err)
		return
	}
	for _, s := range list {
		if s.Name == name && s.Deleted == "" {
			c.JSON(status, h.told(c, s))
			return
		}
	}
	h.fail(c, store.ErrNoSite)
}

// MakeSite makes a site.
func (h *handlers) MakeSite(c *gin.Context) {
	var in NewSite
	if !h.body(c, &in) {
		return
	}
	name, err := h.Make(in)
	if err != nil {
		h.fail(c, err)
		return
	}
	h.log.Info("made", "site", name)
	h.tell(c, http.StatusCreated, name)
}

// Make makes a site, and gives its name.
func (s *Server) Make(in NewSite) (string, error) {
	name := given(in.Name)
	if name == "" {
		name = documents.SiteName(in.Title, func(name string) bool {
			_, err := s.store.Site(name)
			return err == nil
		})
	}
	files, err := s.beginning(in)
	if err != nil {
		return "", err
	}
	if bad := check.Validity(shelf.NewScripted(files, s.now(), s.runs)); len(bad) > 0 {
		return "", &workspace.InvalidError{Problems: bad}
	}
	_, err = s.store.Create(name, files, nil)
	return name, err
}

// beginning is what a new site holds.
func (s *Server) beginning(in NewSite) (site.Files, error) {
	switch {
	case given(in.CopyOf) != "":
		of, err := s.store.Site(given(in.CopyOf))
		if err != nil {
			return nil, err
		}
		files, err := s.store.Files(of.ID, store.Draft)
		if err != nil {
			return nil, err
		}
		return documents.Titled(files, in.Title)
	case given(in.Demo) && s.Demo != nil:
		return s.Demo()
	}
	return documents.NewSite(in.Title)
}

// RenameSite gives a site another name.
func (h *handlers) RenameSite(c *gin.Context, name SiteName) {
	var in SiteNamed
	if !h.body(c, &in) {
		return
	}
	st, err := h.store.Site(name)
	if err == nil {
		err = h.store.Rename(st.ID, in.Name)
	}
	if err != nil {
		h.fail(c, err)
		return
	}
	h.close(name)
	h.show(name, in.Name)
	h.mu.Lock()
	if h.Written == name {
		h.Written = in.Name
	}
	h.mu.Unlock()
	h.tell(c, http.StatusOK, in.Name)
}

// close lets go of a site that is no longer there under its name.
func (s *Server) close(name string) {
	s.mu.Lock()
	open := s.spaces[name]
	delete(s.spaces, name)
	s.mu.Unlock()
	if open != nil {
		if w, err := open(); err == nil {
			w.Gone()
		}
	}
	s.outcomes.Delete(name)
}

// DeleteSite deletes a site, which can be had back.
func (h *handlers) DeleteSite(c *gin.Context, name SiteName, params DeleteSiteParams) {
	st, err := h.store.Site(name)
	if err == nil && params.Confirm != name {
		err = site.Refuse("a site is deleted when its name is typed; %q is not %s", params.Confirm, name)
	}
	if err == nil {
		err = h.store.Delete(st.ID)
	}
	if err != nil {
		h.fail(c, err)
		return
	}
	h.close(name)
	h.show(name, "")
	h.log.Info("deleted", "site", name)
	c.Status(http.StatusNoContent)
}

// RecoverSite has a deleted site back.
func (h *handlers) RecoverSite(c *gin.Context, name SiteName) {
	var in SiteNamed
	if !h.body(c, &in) {
		return
	}
	if _, err := h.store.Recover(name, in.Name); err != nil {
		h.fail(c, err)
		return
	}
	h.tell(c, http.StatusOK, in.Name)
}

// ExportSite answers with the draft as a zip.
func (h *handlers) ExportSite(c *gin.Context, name SiteName) {
	h.read(c, name, func(d *shelf.Shelf) {
		c.Header("Content-Type", "application/zip")
		c.Header("Content-Disposition", `attachment; filename="`+name+`.zip"`)
		if err := folder.Zip(c.Writer, d.Files().WithoutSpent(), nil); err != nil {
			h.log.Error("an export was not sent", "site", name, "error", err)
			c.Abort()
		}
	})
}
