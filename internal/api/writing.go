package api

import (
	"net/http"
	"sync/atomic"
	"time"

	"github.com/gin-gonic/gin"

	"brickshelf/internal/workspace"
)

// toldEvery is how many milliseconds at least are between two messages of how far something is.
const toldEvery = 250

// Outcome tells how writing what is published into a folder ended.
type Outcome struct {
	Folder  string
	Release int
	Aside   []string // files that somebody had edited there; what they held was kept
	Err     error    // nil where it is written
}

// write brings what is published to where the server writes it, and remembers how that
// ended.
func (s *Server) write(w *workspace.Workspace) *Outcome {
	if s.Write == nil || w.Site.Name != s.written() {
		return nil
	}
	s.writing.Lock()
	defer s.writing.Unlock()
	select {
	case <-s.done: // whoever serves the site next writes it
		return nil
	default:
	}
	st := w.State()
	if st.Release == 0 {
		return nil
	}
	var last atomic.Int64
	out := s.Write(st.Live, func(what string, done, total int) {
		now := time.Now().UnixMilli()
		if before := last.Load(); now-before >= toldEvery && last.CompareAndSwap(before, now) {
			w.Progress(what, done, total)
		}
	})
	out.Release = st.Release
	if out.Err != nil {
		s.log.Error("what is published is not written", "site", w.Site.Name, "folder", out.Folder, "error",
			out.Err)
	}
	for _, p := range out.Aside {
		s.log.Warn("this file was edited since it was published; it was put right and what it held kept",
			"folder", out.Folder, "file", p)
	}
	s.outcomes.Store(w.Site.Name, out)
	return out
}

// written is the name of the site that the server writes into a folder.
func (s *Server) written() string {
	s.mu.Lock()
	name := s.Written
	s.mu.Unlock()
	if name == "" {
		name = s.plain()
	}
	return name
}

func (s *Server) outcome(name string) *Writing {
	if o, ok := s.outcomes.Load(name); ok {
		return contractWriting(o.(*Outcome))
	}
	return nil
}

func contractWriting(o *Outcome) *Writing {
	if o == nil {
		return nil
	}
	out := &Writing{Folder: o.Folder, Release: o.Release, Aside: append([]string{}, o.Aside...)}
	if o.Err != nil {
		out.Problem = o.Err.Error()
	}
	return out
}

// WriteAgain writes what is published once more.
func (h *handlers) WriteAgain(c *gin.Context, name SiteName) {
	w := h.open(c, name)
	if w == nil {
		return
	}
	out := h.write(w)
	if out == nil {
		problem(c, http.StatusConflict, "Nothing to write",
			"This server writes nothing of this site into a folder, or nothing of it is published. Start it with --out DIR.")
		return
	}
	c.JSON(http.StatusOK, contractWriting(out))
}
