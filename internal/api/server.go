// Package api serves the tool: the API of openapi.yaml, the user interface, and,
// on an origin of its own, the site with its previews.
package api

//go:generate go tool -modfile=../../tools/go.mod oapi-codegen -config generate.yaml -o contract.gen.go openapi.yaml

import (
	"context"
	"embed"
	"errors"
	"fmt"
	"io/fs"
	"log/slog"
	"maps"
	"net"
	"net/http"
	"runtime/debug"
	"slices"
	"strings"
	"sync"
	"sync/atomic"
	"time"

	"github.com/gin-gonic/gin"

	"brickshelf/internal/core/block"
	"brickshelf/internal/core/place"
	"brickshelf/internal/core/script"
	"brickshelf/internal/core/shelf"
	"brickshelf/internal/core/site"
	"brickshelf/internal/store"
	"brickshelf/internal/workspace"
)

//go:embed openapi.yaml
var contract embed.FS

// maxBody is how large a request may be, in bytes.
const maxBody = 80 << 20

// Server holds the open sites.
type Server struct {
	store *store.Store
	now   func() time.Time
	ui    fs.FS
	log   *slog.Logger
	runs  script.Runner // nil where scripts are not run

	// Write, where it is not nil, brings what is published of the site Written ("" for the one that
	// the plain address shows) into a folder. It is called whenever that is another site than
	// before: after a release, and when rules begin or end. It tells told how far it is, with what it
	// does.
	Write   func(live *shelf.Shelf, told func(what string, done, total int)) *Outcome
	Written string

	// Demo gives the demo site, for whoever wants a site of it; nil where there is none.
	Demo func() (site.Files, error)

	// SiteAddr is the address that the site is served on, as host:port.
	SiteAddr string

	asked  atomic.Int64 // when a request came last, in nanoseconds
	tidied atomic.Int64 // after which request it was tidied up last

	writing  sync.Mutex // one site at a time is written
	outcomes sync.Map   // by name of site: how writing it ended last, an *Outcome

	handed handed   // parts that were handed in
	looked sync.Map // by name of site: what is repeated on its pages, a *lookedThrough

	mu        sync.Mutex
	done      chan struct{}
	following sync.WaitGroup // what follows folders

	// With mu: the site that is kept in a folder, nil where none is; the one that the plain address
	// shows; and for each site what opens it when it is first asked for.
	followed *following
	shown    string
	spaces   map[string]func() (*workspace.Workspace, error)
}

// NewServer serves the sites of a store. ui holds the built user interface; runner
// runs scripted shortcodes, nil for nobody.
func NewServer(st *store.Store, ui fs.FS, log *slog.Logger, now func() time.Time,
	runner script.Runner) *Server {
	return &Server{store: st, ui: ui, log: log, now: now, runs: runner,
		spaces: map[string]func() (*workspace.Workspace, error){}, done: make(chan struct{})}
}

// Close ends the streams of events, so that the server can shut down.
func (s *Server) Close() { close(s.done) }

// Workspace opens a site, once: whoever asks while it is being opened waits.
func (s *Server) Workspace(name string) (*workspace.Workspace, error) {
	open, err := s.space(name)
	if err != nil {
		return nil, err
	}
	w, err := open()
	if err != nil {
		s.mu.Lock()
		delete(s.spaces, name) // to be tried again
		s.mu.Unlock()
	}
	return w, err
}

func (s *Server) space(name string) (func() (*workspace.Workspace, error), error) {
	s.mu.Lock()
	defer s.mu.Unlock()
	if open := s.spaces[name]; open != nil {
		return open, nil
	}
	st, err := s.store.Site(name)
	if err != nil {
		return nil, err
	}
	open := sync.OnceValues(func() (*workspace.Workspace, error) {
		w, err := workspace.Open(s.store, st, s.now, s.runs)
		if err == nil {
			go func() {
				w.Ahead()
				s.write(w) // what a run that was killed did not complete
			}()
		}
		return w, err
	})
	s.spaces[name] = open
	return open, nil
}

// Frugal makes the collector of the process run earlier than it would by itself: the texts of
// a large site are most of what is live, and as much again would be kept as headroom.
func Frugal() { debug.SetGCPercent(50) }

// idleFor is how long nobody must have asked for anything before the server tidies up.
const idleFor = 30 * time.Second

// tidy drops what is no longer needed from the database and gives memory back, once after
// each time of work.
func (s *Server) tidy(ctx context.Context) {
	last := s.asked.Load()
	if last == s.tidied.Load() || time.Since(time.Unix(0, last)) < idleFor {
		return
	}
	s.tidied.Store(last)
	if err := s.store.Tidy(ctx, s.undoSteps); err != nil && ctx.Err() == nil {
		s.log.Error("tidying up the database", "error", err)
	}
	s.mu.Lock()
	open := slices.Collect(maps.Values(s.spaces))
	s.mu.Unlock()
	for _, space := range open {
		if w, err := space(); err == nil {
			w.Rest()
		}
	}
	debug.FreeOSMemory()
}

// undoSteps is how far back undo reaches in a site.
func (s *Server) undoSteps(id int64) int {
	src, err := s.store.Document(id, "site.yaml")
	if err != nil {
		return place.UndoSteps
	}
	config, _ := place.ParseConfig(src, block.NewReader())
	return config.Undo
}

// watchDays brings the open sites to the present day, once a minute, and tidies up.
func (s *Server) watchDays(stop <-chan struct{}) {
	ctx, cancel := context.WithCancel(context.Background())
	defer cancel()
	go func() {
		<-stop
		cancel()
	}()
	tick := time.NewTicker(time.Minute)
	defer tick.Stop()
	for {
		select {
		case <-tick.C:
			s.newDay()
			s.tidy(ctx)
		case <-stop:
			return
		}
	}
}

func (s *Server) newDay() {
	s.mu.Lock()
	spaces := slices.Collect(maps.Values(s.spaces))
	s.mu.Unlock()
	for _, open := range spaces {
		if w, err := open(); err == nil && w.NewDay() {
			s.log.Info("published again for a new day", "site", w.Site.Name)
			s.write(w)
		}
	}
}

// Tool is the handler of the tool's origin.
func (s *Server) Tool() http.Handler {
	gin.SetMode(gin.ReleaseMode)
	r := gin.New()
	r.UseRawPath = true
	r.Use(s.recovery, s.logging, sameHost, s.guard)
	g := r.Group("/api/v1", s.strict)
	RegisterHandlersWithOptions(g, &handlers{s}, GinServerOptions{ErrorHandler: func(c *gin.Context,
		err error, status int) {
		problem(c, status, "The request does not fit the contract", err.Error())
	}})
	r.GET("/api/openapi.yaml", func(c *gin.Context) {
		b, _ := contract.ReadFile("openapi.yaml")
		c.Data(http.StatusOK, "application/yaml", b)
	})
	r.NoRoute(s.interfaceFile)
	return r
}

func (s *Server) recovery(c *gin.Context) {
	defer func() {
		if r := recover(); r != nil {
			s.log.Error("request failed", "path", c.Request.URL.Path, "panic", fmt.Sprint(r), "stack",
				string(debug.Stack()))
			problem(c, http.StatusInternalServerError, "This went wrong on our side",
				"Nothing was saved. The server's log says more.")
		}
	}()
	c.Next()
}

func (s *Server) logging(c *gin.Context) {
	start := time.Now()
	s.asked.Store(start.UnixNano())
	c.Next()
	s.log.Debug("request", "method", c.Request.Method, "path", c.Request.URL.Path, "status",
		c.Writer.Status(), "took", time.Since(start))
}

// sameHost refuses requests that reached this server under a name that is not
// its own, as a web page elsewhere could arrange.
func sameHost(c *gin.Context) {
	if _, ok := ownHost(c.Request); !ok {
		problem(c, http.StatusMisdirectedRequest, "Unknown host",
			"Open the tool under the address that it printed when it started.")
	}
}

// ownHost reports whether a request asks for an address of this machine, and gives its host.
func ownHost(r *http.Request) (string, bool) {
	host, _, err := net.SplitHostPort(r.Host)
	if err != nil {
		host = r.Host
	}
	host = strings.Trim(host, "[]")
	if host == "localhost" {
		return host, true
	}
	ip := net.ParseIP(host)
	if ip == nil {
		return host, false
	}
	if ip.IsLoopback() {
		return host, true
	}
	local, ok := r.Context().Value(http.LocalAddrContextKey).(net.Addr)
	if !ok {
		return host, false
	}
	own, _, _ := net.SplitHostPort(local.String())
	return host, ip.Equal(net.ParseIP(own))
}

// guard refuses writes that do not come from the tool itself.
func (s *Server) guard(c *gin.Context) {
	h := c.Writer.Header()
	h.Set("X-Content-Type-Options", "nosniff")
	h.Set("Referrer-Policy", "same-origin")
	h.Set("Cross-Origin-Opener-Policy", "same-origin")
	h.Set("Content-Security-Policy",
		"default-src 'self'; style-src 'self' 'unsafe-inline'; img-src 'self' data: "+
			s.siteHosts(c.Request)+"; font-src 'self' data:; frame-src "+s.siteHosts(c.Request)+
			"; frame-ancestors 'none'; base-uri 'none'; form-action 'none'")
	if origin := c.GetHeader("Origin"); origin != "" && origin != "http://"+c.Request.Host {
		problem(c, http.StatusForbidden, "Foreign origin", "Requests from "+origin+" are not answered.")
		return
	}
	if c.Request.Method != http.MethodGet && c.Request.Method != http.MethodHead {
		if c.GetHeader("X-Brick-Shelf") == "" {
			problem(c, http.StatusForbidden, "Header missing", "Writes need the header X-Brick-Shelf.")
			return
		}
		if !strings.HasSuffix(c.Request.URL.Path, "/imports") { // which has a limit of its own
			c.Request.Body = http.MaxBytesReader(c.Writer, c.Request.Body, maxBody)
		}
	}
	c.Next()
}

// interfaceFile serves the user interface; every address that is no file is a
// place in it.
func (s *Server) interfaceFile(c *gin.Context) {
	if strings.HasPrefix(c.Request.URL.Path, "/api/") {
		problem(c, http.StatusNotFound, "Not found", "There is nothing at "+c.Request.URL.Path+".")
		return
	}
	name := strings.TrimPrefix(c.Request.URL.Path, "/")
	if info, err := fs.Stat(s.ui, name); err != nil || info.IsDir() {
		name = "index.html"
	}
	if strings.HasPrefix(name, "assets/") {
		c.Header("Cache-Control", "public, max-age=31536000, immutable")
	} else {
		c.Header("Cache-Control", "no-cache")
	}
	if _, err := fs.Stat(s.ui, name); err != nil {
		problem(c, http.StatusNotFound, "No interface",
			"This program was built without its interface; build it with make build.")
		return
	}
	http.ServeFileFS(c.Writer, c.Request, s.ui, name)
}

// problem answers with problem details (RFC 9457) and ends the request.
func problem(c *gin.Context, status int, title, detail string) {
	send(c, Problem{Type: "about:blank", Title: title, Status: status, Detail: detail})
}

func send(c *gin.Context, p Problem) {
	c.Header("Content-Type", "application/problem+json")
	c.AbortWithStatusJSON(p.Status, p)
}

// Serve runs the tool and the site until stop is closed, then lets running
// requests end.
func (s *Server) Serve(tool, site net.Listener, siteName string, stop <-chan struct{}) error {
	s.SiteAddr = site.Addr().String()
	servers := []*http.Server{
		{Handler: s.Tool(), ReadHeaderTimeout: 5 * time.Second, ReadTimeout: 60 * time.Second,
			WriteTimeout: 120 * time.Second, IdleTimeout: 120 * time.Second},
		{Handler: s.SiteHandler(siteName), ReadHeaderTimeout: 5 * time.Second, ReadTimeout: 30 * time.Second,
			WriteTimeout: 60 * time.Second, IdleTimeout: 120 * time.Second},
	}
	go s.watchDays(stop)
	errs := make(chan error, 2)
	for i, l := range []net.Listener{tool, site} {
		go func() { errs <- servers[i].Serve(l) }()
	}
	var err error
	select {
	case <-stop:
	case err = <-errs:
	}
	s.Close()
	ctx, cancel := timeout(10 * time.Second)
	defer cancel()
	for _, srv := range servers {
		err = errors.Join(err, srv.Shutdown(ctx))
	}
	s.awaitWriting()
	select {
	case <-stop:
		s.following.Wait()
	default:
	}
	return err
}

// awaitWriting returns once nothing is being written into a folder.
func (s *Server) awaitWriting() {
	s.writing.Lock()
	defer s.writing.Unlock()
}
