package api

import (
	"bytes"
	_ "embed"
	"encoding/json"
	"fmt"
	"html"
	"mime"
	"net"
	"net/http"
	"path"
	"sort"
	"strconv"
	"strings"
	"sync"
	"time"
	"unicode/utf8"

	"github.com/gin-gonic/gin"
	nethtml "golang.org/x/net/html"

	"brickshelf/internal/core/assets"
	"brickshelf/internal/core/render"
	"brickshelf/internal/core/shelf"
	"brickshelf/internal/core/site"
	"brickshelf/internal/pictures"
	"brickshelf/internal/publish"
	"brickshelf/internal/workspace"
)

// SiteHandler serves sites on an origin of their own: published at /, single blocks and
// pages of that for use from elsewhere under /render/, the draft under
// /_draft/, proposed edits under /_edit/ID/, and what is published, as a preview,
// under /_live/. Previews are sandboxed; nothing here can be written to. name is the site that
// the plain address shows, "" for the first one there is; any other has its name before it, as
// NAME.localhost.
func (s *Server) SiteHandler(name string) http.Handler {
	s.show("", name)
	return http.HandlerFunc(func(rw http.ResponseWriter, r *http.Request) {
		rw.Header().Set("X-Content-Type-Options", "nosniff")
		host, own := ownHost(r)
		name, named := strings.CutSuffix(host, ".localhost")
		if !own && !named {
			http.Error(rw, "Open the site under the address that was printed when the server started.",
				http.StatusMisdirectedRequest)
			return
		}
		if r.Method != http.MethodGet && r.Method != http.MethodHead {
			rw.Header().Set("Allow", "GET, HEAD")
			http.Error(rw, "This origin only shows the site.", http.StatusMethodNotAllowed)
			return
		}
		if !named {
			name = s.plain()
		}
		if name == "" {
			s.severalSites(rw)
			return
		}
		w, err := s.Workspace(name)
		if err != nil {
			http.Error(rw, err.Error(), http.StatusNotFound)
			return
		}
		s.serveSite(rw, r, w)
	})
}

// severalSites tells where each of several sites is shown.
func (s *Server) severalSites(rw http.ResponseWriter) {
	_, port, _ := net.SplitHostPort(s.SiteAddr)
	said := "There is no site here yet. Make one in the tool, or import one: brickshelf import --data DIR FOLDER"
	if sites, err := s.store.Sites(); err == nil && len(sites) > 0 {
		said = "There are several sites here:"
		for _, one := range sites {
			said += "\nhttp://" + one.Name + ".localhost:" + port + "/"
		}
	}
	http.Error(rw, said, http.StatusNotFound)
}

// plain is the name of the site that the plain address shows: the one that was asked for when the
// server started, or else the first one that it had. "" where there is none, or no first.
func (s *Server) plain() string {
	s.mu.Lock()
	defer s.mu.Unlock()
	if s.shown == "" {
		if sites, err := s.store.Sites(); err == nil && len(sites) == 1 {
			s.shown = sites[0].Name
		}
	}
	return s.shown
}

// show has the plain address show a site where it showed another one.
func (s *Server) show(was, is string) {
	s.mu.Lock()
	defer s.mu.Unlock()
	if s.shown == was {
		s.shown = is
	}
}

// origin is where a site is shown, under the name by which a request reached the tool.
func (s *Server) origin(c *gin.Context, name string) string {
	_, port, _ := net.SplitHostPort(s.SiteAddr)
	host, _ := ownHost(c.Request)
	if name != s.plain() {
		host = name + ".localhost"
	}
	return "http://" + net.JoinHostPort(host, port)
}

// siteHosts are the origins of all sites, as a policy lists them.
func (s *Server) siteHosts(r *http.Request) string {
	_, port, _ := net.SplitHostPort(s.SiteAddr)
	host, _ := ownHost(r)
	return "http://" + net.JoinHostPort(host, port) + " http://*.localhost:" + port
}

func (s *Server) serveSite(rw http.ResponseWriter, r *http.Request, w *workspace.Workspace) {
	p, st := r.URL.Path, w.State()
	switch {
	case strings.HasPrefix(p, "/_shelf/"):
		hash := strings.TrimPrefix(p, "/_shelf/")
		serveHashed(rw, hash, w, st.Draft, st.Live)
	case strings.HasPrefix(p, "/render/"):
		if !renderPart(rw, r, st.Live) {
			servePublished(rw, r, st)
		}
	case strings.HasPrefix(p, "/_draft/"):
		s.preview(rw, r, st.Draft, strings.TrimPrefix(p, "/_draft"))
	case strings.HasPrefix(p, "/_live/"):
		s.preview(rw, r, st.Live, strings.TrimPrefix(p, "/_live"))
	case strings.HasPrefix(p, "/_edit/"):
		id, rest, _ := strings.Cut(strings.TrimPrefix(p, "/_edit/"), "/")
		switch _, seen, err := w.Proposal(id); {
		case err != nil:
			http.Error(rw, "This preview is out of date; the tool shows the present one.", http.StatusGone)
		case len(seen.Problems) > 0: // what is not valid may not even come to an end
			http.Error(rw, "This edit cannot be shown: "+seen.Problems[0].Error(),
				http.StatusUnprocessableEntity)
		default:
			s.preview(rw, r, seen.Shelf, "/"+rest)
		}
	default:
		servePublished(rw, r, st)
	}
}

func servePublished(rw http.ResponseWriter, r *http.Request, st *workspace.State) {
	p, live := r.URL.Path, st.Live
	switch {
	case fileAt(p, live, st.Draft) != nil: // a preview of the draft may need what is not published
		content(rw, r, p, *fileAt(p, live, st.Draft))
		return
	case p == "/sitemap.xml" && !live.Config().NoSitemap:
		var urls []string
		for _, pp := range live.PagePaths() {
			if in := live.Info(pp); in.Listed {
				urls = append(urls, in.URL)
			}
		}
		content(rw, r, p, publish.Sitemap(live.Config().BaseURL, urls))
		return
	default:
		if in := live.Page(p); in != nil && !in.Page.Draft {
			if in.SignedIn() != nil { // the same address shows different things
				rw.Header().Add("Vary", "Cookie")
			}
			content(rw, r, "x.html", render.Page(live, in.Page.Path,
				render.Options{SignedIn: signedIn(r, live)}).HTML)
			return
		}
		if in := live.Page(p + "/"); in != nil && !in.Page.Draft {
			http.Redirect(rw, r, (&urlPath{p + "/"}).String(), http.StatusMovedPermanently)
			return
		}
	}
	http.Error(rw, "There is no page here.", http.StatusNotFound)
}

// fileAt is what the first of some sites publishes as it is at an address; nil where none does.
func fileAt(url string, sites ...*shelf.Shelf) *[]byte {
	for _, s := range sites {
		for _, doc := range site.FilesAt(url) {
			if b, ok := s.Get(doc); ok {
				return &b
			}
		}
	}
	return nil
}

// signedIn reports whether a visitor sends the cookie by which the site tells that.
func signedIn(r *http.Request, s *shelf.Shelf) bool {
	_, err := r.Cookie(s.Config().Cookie)
	return err == nil
}

// urlPath keeps a redirect on this host, whatever the path begins with.
type urlPath struct{ p string }

func (u *urlPath) String() string { return "/" + strings.TrimLeft(u.p, "/") }

// content answers with bytes, their type by the name's extension and an ETag.
func content(rw http.ResponseWriter, r *http.Request, name string, b []byte) {
	tag := `"` + string(site.HashOf(b))[:32] + `"`
	rw.Header().Set("ETag", tag)
	rw.Header().Set("Cache-Control", "no-cache")
	if r.Header.Get("If-None-Match") == tag {
		rw.WriteHeader(http.StatusNotModified)
		return
	}
	rw.Header().Set("Access-Control-Allow-Origin", "*")
	t := mime.TypeByExtension(path.Ext(name))
	switch {
	case strings.EqualFold(path.Ext(name), ".xhtml"):
		t = "application/xhtml+xml"
	case site.PageName(name):
		t = "text/html" // the page itself says in which encoding it is
		head := b[:min(len(b), 1024)]
		if utf8.Valid(b) && (bytes.Contains(head, []byte("utf-8")) || !bytes.Contains(head, []byte("charset"))) {
			t = "text/html; charset=utf-8"
		}
	}
	if t != "" {
		rw.Header().Set("Content-Type", t)
	}
	if strings.HasPrefix(t, "image/svg") { // opened by its address, it runs nothing in the site's name
		rw.Header().Set("Content-Security-Policy",
			"sandbox; default-src 'none'; style-src 'unsafe-inline'; img-src data:; font-src data:")
	}
	_, _ = rw.Write(b)
}

// made makes the smaller pictures that pages show.
var made = sync.OnceValue(pictures.Kept)

func serveHashed(rw http.ResponseWriter, name string, w *workspace.Workspace, shelves ...*shelf.Shelf) {
	shelves = append(shelves, w.Proposals()...)
	if b := made().Named(name, shelves...); b != nil {
		rw.Header().Set("Cache-Control", "public, max-age=31536000, immutable")
		rw.Header().Set("Content-Type", mime.TypeByExtension(path.Ext(name)))
		_, _ = rw.Write(b)
		return
	}
	for _, s := range shelves {
		if b, ok := assets.Named(s, name); ok {
			rw.Header().Set("Cache-Control", "public, max-age=31536000, immutable")
			rw.Header().Set("Access-Control-Allow-Origin", "*")
			rw.Header().Set("Content-Type", mime.TypeByExtension(path.Ext(name)))
			_, _ = rw.Write(b)
			return
		}
	}
	http.Error(rw, "There is no such style or behaviour.", http.StatusNotFound)
}

// preview shows a page in a frame of the tool: sandboxed, its placements marked,
// with a small script that lights them and reports where links lead.
func (s *Server) preview(rw http.ResponseWriter, r *http.Request, stock *shelf.Shelf, url string) {
	stock, options, err := looked(stock, r.URL.Query().Get(lookAs), r.URL.Query().Get(lookOn))
	if err != nil {
		http.Error(rw, err.Error(), http.StatusBadRequest)
		return
	}
	in := stock.Page(url)
	if in == nil {
		http.Error(rw, "There is no page here.", http.StatusNotFound)
		return
	}
	options.Placements = true
	res := render.Page(stock, in.Page.Path, options)
	h := rw.Header()
	h.Set("Content-Security-Policy", "sandbox allow-scripts; connect-src 'none'; form-action 'none'")
	h.Set("Cache-Control", "no-store")
	h.Set("Content-Type", "text/html; charset=utf-8")
	_, _ = rw.Write(site.Readable(marked(res)))
	_, _ = rw.Write(behaviours(stock, res))
	_, _ = rw.Write([]byte(bridge))
}

// behaviours tells the preview's script to which block each behaviour belongs that the page loads; one of
// a revision that only copies have belongs to none that there is.
func behaviours(s *shelf.Shelf, res *render.Result) []byte {
	of := map[string]string{}
	for _, f := range res.Behaviours {
		for _, name := range s.Names() {
			if b := s.Shelved(name); b != nil && b.Code == f.Hash {
				of[strings.TrimSuffix(f.Name(), f.Ext)] = name
			}
		}
	}
	text, _ := json.Marshal(of)
	return []byte(`<script type="application/json" id="shelf-behaviours">` + string(text) + "</script>")
}

// A preview can be looked at as an audience sees it, and on another day: ?shelf-as=
// signed-in, ?shelf-on=2026-12-24.
const (
	lookAs = "shelf-as"
	lookOn = "shelf-on"
)

// looked is a site as one looks at it: as an audience, "" for those who are signed
// out, and on a day, "" for the shelf's own.
func looked(s *shelf.Shelf, as, on string) (*shelf.Shelf, render.Options, error) {
	if on != "" {
		day, err := time.Parse(time.DateOnly, on)
		if err != nil {
			return nil, render.Options{}, fmt.Errorf("%q is no day; write it as 2026-12-24", on)
		}
		s = s.At(day)
	}
	return s, render.Options{SignedIn: as == shelf.SignedIn}, nil
}

// marked adds to the first element of each placement which ones begin there.
func marked(res *render.Result) []byte {
	type mark struct{ addresses, blocks []string }
	at := map[int]*mark{}
	for _, p := range res.Placements {
		i := firstTag(res.HTML[p.From:p.To])
		if i < 0 {
			continue
		}
		m := at[p.From+i]
		if m == nil {
			m = &mark{}
			at[p.From+i] = m
		}
		m.addresses = append(m.addresses, p.Address)
		m.blocks = append(m.blocks, p.Block+":"+string(p.Kind))
	}
	written := own(res)
	order := make([]int, 0, len(at)+len(written))
	for i := range at {
		order = append(order, i)
	}
	for i := range written {
		if at[i] == nil {
			order = append(order, i)
		}
	}
	sort.Ints(order)
	var out bytes.Buffer
	last := 0
	for _, i := range order {
		out.Write(res.HTML[last:i])
		last = i
		if w, ok := written[i]; ok {
			out.WriteString(` data-shelf-own="` + strconv.Itoa(w) + `"`)
		}
		m := at[i]
		if m == nil {
			continue
		}
		out.WriteString(` data-shelf-at="` + html.EscapeString(strings.Join(m.addresses, " ")) +
			`" data-shelf-block="` + html.EscapeString(strings.Join(m.blocks, " ")) + `"`)
	}
	out.Write(res.HTML[last:])
	return out.Bytes()
}

// own finds the elements that stand in the page's own text: from behind the name in
// its tag to where the tag begins in the page's document.
func own(res *render.Result) map[int]int {
	out := map[int]int{}
	z := nethtml.NewTokenizer(bytes.NewReader(res.HTML))
	at, l := 0, 0
	for {
		kind := z.Next()
		if kind == nethtml.ErrorToken {
			return out
		}
		start := at
		at += len(z.Raw())
		if kind != nethtml.StartTagToken && kind != nethtml.SelfClosingTagToken {
			continue
		}
		for l < len(res.Literals) && res.Literals[l].To <= start {
			l++
		}
		if l < len(res.Literals) && res.Literals[l].From <= start {
			name, _ := z.TagName()
			out[start+1+len(name)] = res.Literals[l].At + start - res.Literals[l].From
		}
	}
}

// firstTag is the offset behind the name of the first element, or -1.
func firstTag(b []byte) int {
	for i := 0; i+1 < len(b); i++ {
		if c := b[i+1] | 0x20; b[i] == '<' && c >= 'a' && c <= 'z' {
			for j := i + 1; j < len(b); j++ {
				if c := b[j]; c == ' ' || c == '>' || c == '/' || c == '\n' || c == '\t' || c == '\r' {
					return j
				}
			}
		}
	}
	return -1
}

// bridgeScript lets the tool light up placements and follow links. It runs in the
// sandbox of the preview and can reach nothing but its own document.
//
//go:embed bridge.js
var bridgeScript string

// faultsScript tells of behaviours that fail, holdScript holds a state of what is looked at.
//
//go:embed faults.js
var faultsScript string

//go:embed hold.js
var holdScript string

const litStyle = "[data-shelf-lit]{outline:2px solid #B2512B!important;outline-offset:-2px!important}"

var bridge = "<style>[data-shelf-alone] [hidden]{display:none!important}" + litStyle + "</style><script>" + faultsScript + holdScript + bridgeScript + "</script>"
