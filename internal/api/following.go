package api

import (
	"encoding/base64"
	"net/http"
	"unicode/utf8"

	"github.com/gin-gonic/gin"

	"brickshelf/internal/core/shelf"
	"brickshelf/internal/core/site"
	"brickshelf/internal/follow"
	"brickshelf/internal/workspace"
)

// following is a site that is kept in a folder.
type following struct {
	site   int64
	folder *follow.Follower
}

// keptDesk is a workspace as what follows a folder sees it.
type keptDesk struct{ w *workspace.Workspace }

func (d keptDesk) Draft() *shelf.Shelf { return d.w.State().Draft }

func (d keptDesk) Save(set site.ChangeSet) error {
	_, err := d.w.Save(set, "")
	return err
}

// Follow keeps a site and a folder one, until stop is closed. What was the same on both sides last
// is remembered in a file.
func (s *Server) Follow(name, dir, memory string, stop <-chan struct{}) error {
	w, err := s.Workspace(name)
	if err != nil {
		return err
	}
	events, end := w.Listen()
	saved := make(chan struct{}, 1)
	f := follow.New(dir, memory, keptDesk{w}, w.FolderChanged)
	s.mu.Lock()
	s.followed = &following{w.Site.ID, f}
	s.mu.Unlock()
	s.following.Add(1)
	go func() {
		defer s.following.Done()
		f.Run(saved, stop)
	}()
	go func() {
		defer end()
		for {
			select {
			case <-stop:
				return
			case e := <-events:
				if e.Kind != "draft" {
					continue
				}
				select {
				case saved <- struct{}{}:
				default:
				}
			}
		}
	}()
	return nil
}

// followedAs is what keeps a site in a folder; nil where nothing does.
func (s *Server) followedAs(w *workspace.Workspace) *follow.Follower {
	s.mu.Lock()
	defer s.mu.Unlock()
	if s.followed == nil || s.followed.site != w.Site.ID {
		return nil
	}
	return s.followed.folder
}

// GetFolder answers with how a site and the folder that it is kept in stand to one another.
func (h *handlers) GetFolder(c *gin.Context, name SiteName) {
	w := h.open(c, name)
	if w == nil {
		return
	}
	out := KeptFolder{Problems: []Finding{}, Conflicts: []string{}}
	if f := h.followedAs(w); f != nil {
		st := f.State()
		out.Dir, out.Broken = st.Dir, st.Broken
		out.Problems = findings(st.Problems)
		out.Conflicts = append(out.Conflicts, st.Conflicts...)
	}
	c.JSON(http.StatusOK, out)
}

// ChooseSide settles a document that was changed in the folder and in the tool.
func (h *handlers) ChooseSide(c *gin.Context, name SiteName) {
	w := h.open(c, name)
	var in SideChosen
	if w == nil || !h.body(c, &in) {
		return
	}
	f := h.followedAs(w)
	if f == nil {
		h.fail(c, site.Missing("this site is kept in no folder"))
		return
	}
	if err := f.Choose(in.Path, in.Side == Folder); err != nil {
		h.fail(c, err)
		return
	}
	h.GetFolder(c, name)
}

// GetFolderText answers with what a document is in the folder.
func (h *handlers) GetFolderText(c *gin.Context, name SiteName, params GetFolderTextParams) {
	w := h.open(c, name)
	if w == nil {
		return
	}
	f := h.followedAs(w)
	if f == nil {
		h.fail(c, site.Missing("this site is kept in no folder"))
		return
	}
	b, err := f.Text(params.Path)
	if err != nil {
		h.fail(c, err)
		return
	}
	out := FolderText{Size: len(b)}
	if utf8.Valid(b) {
		out.Text = string(b)
	} else {
		encoded := base64.StdEncoding.EncodeToString(b)
		out.Base64 = &encoded
	}
	c.JSON(http.StatusOK, out)
}
