package api_test

import (
	"bytes"
	"context"
	"encoding/json"
	"io"
	"log/slog"
	"net"
	"net/http"
	"os"
	"strings"
	"testing"
	"testing/fstest"
	"time"

	"github.com/getkin/kin-openapi/openapi3"
	"github.com/getkin/kin-openapi/openapi3filter"
	"github.com/getkin/kin-openapi/routers"
	"github.com/getkin/kin-openapi/routers/gorillamux"
	"github.com/stretchr/testify/require"

	"brickshelf/internal/api"
	"brickshelf/internal/core/site"
	"brickshelf/internal/core/sitetest"
	"brickshelf/internal/store"
	"brickshelf/internal/workspace"
)

// bench is a running server of a small site, and what its answers must fit.
type bench struct {
	t          *testing.T
	tool, site string
	router     routers.Router
}

var files = site.Files{
	"site.yaml":        []byte("format: brickshelf/1\nname: Small\n"),
	"layouts/l.html":   []byte("<head></head>@{region main /}@{region foot /}"),
	"blocks/foot.html": []byte("---\ntitle: Foot\nfields: {word: {type: text, default: hello}}\n---\n<footer>@{=word}</footer>"), "blocks/foot.css": []byte("footer{}"),
	"rules/foot.yaml":  []byte("block: foot\nregion: foot\non: [all]\n"),
	"pages/index.html": []byte("---\ntitle: Home\nlayout: l\n---\nhome"),
	"pages/a.html":     []byte("---\ntitle: A\nlayout: l\noverrides: {\"foot/rule:foot\": {word: own}}\n---\na"),
}

func start(t *testing.T) *bench {
	st, err := store.Open(t.TempDir())
	require.NoError(t, err)
	s, err := st.Create("small", files, nil)
	require.NoError(t, err)
	_, err = st.Publish(s.ID, "first")
	require.NoError(t, err)
	srv := api.NewServer(st, fstest.MapFS{"index.html": {Data: []byte("<p>interface")}},
		slog.New(slog.NewTextHandler(io.Discard, nil)), time.Now, sitetest.Runner{})
	tool, err := net.Listen("tcp", "127.0.0.1:0")
	require.NoError(t, err)
	siteListener, err := net.Listen("tcp", "127.0.0.1:0")
	require.NoError(t, err)
	stop, ended := make(chan struct{}), make(chan error, 1)
	go func() { ended <- srv.Serve(tool, siteListener, "small", stop) }()
	t.Cleanup(func() {
		close(stop)
		require.NoError(t, <-ended, "the server shuts down")
		require.NoError(t, st.Close())
	})
	text, err := os.ReadFile("openapi.yaml")
	require.NoError(t, err)
	doc, err := openapi3.NewLoader().LoadFromData(text)
	require.NoError(t, err)
	require.NoError(t, doc.Validate(context.Background()))
	doc.Servers = openapi3.Servers{{URL: "http://" + tool.Addr().String() + "/api/v1"}}
	router, err := gorillamux.NewRouter(doc)
	require.NoError(t, err)
	return &bench{t, "http://" + tool.Addr().String(), "http://" + siteListener.Addr().String(), router}
}

// send makes a request as the interface would, holds request and answer against
// the contract, and decodes the answer into into.
func (b *bench) send(method, path string, body, into any, headers ...string) *http.Response {
	var payload []byte
	if raw, ok := body.([]byte); ok {
		payload = raw
	} else if body != nil {
		payload, _ = json.Marshal(body)
	}
	req, err := http.NewRequest(method, b.tool+"/api/v1"+path, bytes.NewReader(payload))
	require.NoError(b.t, err)
	req.Header.Set("X-Brick-Shelf", "1")
	if body != nil {
		req.Header.Set("Content-Type", "application/json")
		if _, ok := body.([]byte); ok {
			req.Header.Set("Content-Type", "application/octet-stream")
		}
	}
	route, params, err := b.router.FindRoute(req)
	require.NoError(b.t, err)
	for i := 0; i < len(headers); i += 2 {
		if headers[i] == "Host" {
			req.Host = headers[i+1]
			continue
		}
		req.Header.Set(headers[i], headers[i+1])
	}
	answer, err := http.DefaultClient.Do(req)
	require.NoError(b.t, err)
	defer answer.Body.Close()
	got, err := io.ReadAll(answer.Body)
	require.NoError(b.t, err)
	if answer.StatusCode != http.StatusNotModified {
		err = openapi3filter.ValidateResponse(context.Background(), &openapi3filter.ResponseValidationInput{
			RequestValidationInput: &openapi3filter.RequestValidationInput{Request: req, PathParams: params,
				Route: route},
			Status: answer.StatusCode, Header: answer.Header, Body: io.NopCloser(bytes.NewReader(got)),
		})
		require.NoError(b.t, err, "%s %s: %s", method, path, got)
	}
	switch v := into.(type) {
	case nil:
	case *string:
		*v = string(got)
	default:
		require.NoError(b.t, json.Unmarshal(got, into), "%s", got)
	}
	return answer
}

func change(path, before, after string) api.ChangeSet {
	c := api.Change{Path: path, Text: &after}
	if before != "" {
		c.Before = string(site.HashOf([]byte(before)))
	}
	return api.ChangeSet{Title: "Edit " + path, Changes: []api.Change{c}}
}

var foot = strings.Replace(string(files["blocks/foot.html"]), "hello", "good day", 1)

func (b *bench) page(path string) string {
	answer, err := http.Get(b.site + path)
	require.NoError(b.t, err)
	defer answer.Body.Close()
	got, err := io.ReadAll(answer.Body)
	require.NoError(b.t, err)
	return string(got)
}

func TestProposeSavePublish(t *testing.T) {
	b := start(t)
	var o api.Overview
	b.send("GET", "/sites/small", nil, &o)
	require.Equal(t, "lo", footRow(o), "home is linked, the other page has a value of its own")

	set := change("blocks/foot.html", string(files["blocks/foot.html"]), foot)
	var p api.Proposal
	b.send("POST", "/sites/small/proposals", set, &p)
	require.Equal(t, "ch", p.Impact.Effects)
	require.Equal(t, "Changes 1 page. 1 keeps its own value. No new errors.", p.Impact.Sentence)
	require.Contains(t, b.page("/_edit/"+p.Id+"/"), "good day")
	require.NotContains(t, b.page("/_draft/"), "good day", "nothing is saved")

	var c api.Comparison
	b.send("GET", "/sites/small/comparisons/"+p.Id+"?page=/a/", nil, &c)
	require.Equal(t, api.Effect("held"), c.Effect)
	require.Equal(t, []api.PlacementEffect{{Address: "foot/rule:foot", Block: "foot", Effect: "held",
		Holds: &[]api.OwnValue{{Field: "word", Text: "own", Source: "override"}}}}, c.Placements)
	require.Equal(t, c.Before, c.After)

	var saved api.Saved
	b.send("POST", "/sites/small/change-sets", set, &saved)
	require.Contains(t, b.page("/_draft/"), "good day")
	require.NotContains(t, b.page("/"), "good day", "nothing is published")
	var rev api.Review
	b.send("GET", "/sites/small/review", nil, &rev)
	require.Len(t, rev.Pages, 1)
	var rel api.Release
	b.send("POST", "/sites/small/releases", api.PublishRequest{Title: "second"}, &rel)
	require.Equal(t, 2, rel.Number)
	require.Contains(t, b.page("/"), "good day")

	b.send("POST", "/sites/small/undo", nil, &saved)
	require.Contains(t, b.page("/_draft/"), "hello")
	b.send("POST", "/sites/small/redo", nil, &saved)
	b.send("POST", "/sites/small/releases/1/restore", nil, &saved)
	require.Contains(t, b.page("/_draft/"), "hello")
	require.Equal(t, 409, b.send("POST", "/sites/small/releases/1/restore", nil, nil).StatusCode,
		"it is the same already")
}

func footRow(o api.Overview) string {
	for _, s := range o.Blocks {
		if s.Name == "foot" {
			return s.States
		}
	}
	return ""
}

func TestDocumentsCarryETags(t *testing.T) {
	b := start(t)
	var got string
	answer := b.send("GET", "/sites/small/documents?path=pages/a.html", nil, &got)
	require.Equal(t, string(files["pages/a.html"]), got)
	tag := answer.Header.Get("ETag")
	require.Equal(t, 304, b.send("GET", "/sites/small/documents?path=pages/a.html", nil, nil, "If-None-Match",
		tag).StatusCode)
	put := "/sites/small/documents?path=pages/a.html"
	require.Equal(t, 428, b.send("PUT", put, []byte("x"), nil).StatusCode)
	require.Equal(t, 200, b.send("PUT", put, []byte("x"), nil, "If-Match", tag).StatusCode)
	var p api.Problem
	require.Equal(t, 409, b.send("PUT", put, []byte("y"), &p, "If-Match", tag).StatusCode)
	require.Equal(t, "x", p.Conflict.Current)
	require.Equal(t, "y", p.Conflict.Offered)
	require.Equal(t, 409, b.send("PUT", put, []byte("y"), nil, "If-None-Match", "*").StatusCode)
	require.Equal(t, 200, b.send("PUT", "/sites/small/documents?path=pages/new.html", []byte("n\xff"), nil,
		"If-None-Match", "*").StatusCode)
}

func TestWhatIsInvalidCannotBeSaved(t *testing.T) {
	b := start(t)
	set := change("blocks/foot.html", string(files["blocks/foot.html"]), "a\n  @{when x}")
	var p api.Proposal
	b.send("POST", "/sites/small/proposals", set, &p)
	require.Nil(t, p.Impact)
	require.Equal(t, [2]int{2, 3}, [2]int{p.Problems[0].Line, p.Problems[0].Column})
	var problem api.Problem
	require.Equal(t, 422, b.send("POST", "/sites/small/change-sets", set, &problem).StatusCode)
	require.Contains(t, problem.Detail, "blocks/foot.html:2:")
	require.Contains(t, b.page("/_draft/"), "hello")
}

func TestOnlyTheToolItselfMayDriveIt(t *testing.T) {
	b := start(t)
	set := change("pages/new.html", "", "n")
	for _, c := range []struct {
		header, value string
		want          int
	}{
		{"Host", "evil.example", 421}, {"Host", "evil.example:80", 421}, {"Origin", "http://evil.example",
			403}, {"Origin", "null", 403}, {"Origin", b.site, 403}, {"X-Brick-Shelf", "", 403},
	} {
		require.Equal(t, c.want, b.send("POST", "/sites/small/change-sets", set, nil, c.header,
			c.value).StatusCode, c)
	}
	require.Equal(t, 200, b.send("POST", "/sites/small/change-sets", set, nil, "Origin", b.tool).StatusCode)
	answer, err := http.Post(b.site+"/", "text/plain", strings.NewReader("x"))
	require.NoError(t, err)
	require.Equal(t, 405, answer.StatusCode)
	require.NoError(t, answer.Body.Close())
}

func TestPreviewsAreSandboxed(t *testing.T) {
	b := start(t)
	answer, err := http.Get(b.site + "/_draft/a/")
	require.NoError(t, err)
	defer answer.Body.Close()
	require.Contains(t, answer.Header.Get("Content-Security-Policy"), "sandbox allow-scripts;")
	got, err := io.ReadAll(answer.Body)
	require.NoError(t, err)
	require.Contains(t, string(got),
		`<footer data-shelf-at="foot/rule:foot" data-shelf-block="foot:linked">own</footer>`)
	style := got[bytes.Index(got, []byte("/_shelf/")):]
	require.Equal(t, "footer{}", b.page(string(style[:bytes.IndexByte(style, '"')])))
	require.NotContains(t, b.page("/a/"), "data-shelf", "the published page has no marks")
}

func TestProblems(t *testing.T) {
	b := start(t)
	for path, want := range map[string]int{"/sites/none": 404, "/sites/small/blocks/none": 404,
		"/sites/small/documents?path=pages/none.html": 404, "/sites/small/comparisons/99?page=/": 410,
		"/sites/small/comparisons/live?page=/none/": 404} {
		var p api.Problem
		answer := b.send("GET", path, nil, &p)
		require.Equal(t, want, answer.StatusCode, path)
		require.Equal(t, "application/problem+json", answer.Header.Get("Content-Type"))
		require.NotEmpty(t, p.Detail)
	}
	require.Equal(t, 400, b.send("POST", "/sites/small/change-sets", []byte("{"), nil, "Content-Type",
		"application/json").StatusCode)
	var list api.Findings
	b.send("GET", "/sites/small/findings", nil, &list)
	require.Equal(t, api.Findings{Checked: true, List: []api.Finding{}}, list)
	var sites []api.Site
	b.send("GET", "/sites", nil, &sites)
	require.Equal(t, "Small", sites[0].Title)
}

func TestEveryAddressOfTheInterfaceLeadsToIt(t *testing.T) {
	b := start(t)
	for _, path := range []string{"/", "/small/blocks/foot", "/small/review"} {
		answer, err := http.Get(b.tool + path)
		require.NoError(t, err)
		got, err := io.ReadAll(answer.Body)
		require.NoError(t, err)
		require.NoError(t, answer.Body.Close())
		require.Equal(t, "<p>interface", string(got))
	}
}

func TestASiteIsOpenedOnceForAllWhoAsk(t *testing.T) {
	st, err := store.Open(t.TempDir())
	require.NoError(t, err)
	_, err = st.Create("small", files, nil)
	require.NoError(t, err)
	srv := api.NewServer(st, fstest.MapFS{}, slog.New(slog.NewTextHandler(io.Discard, nil)), time.Now,
		sitetest.Runner{})
	_, err = srv.Workspace("other")
	require.ErrorIs(t, err, store.ErrNoSite)
	opened := make(chan *workspace.Workspace)
	for range 8 {
		go func() {
			w, _ := srv.Workspace("small")
			opened <- w
		}()
	}
	first := <-opened
	require.NotNil(t, first)
	for range 7 {
		require.Same(t, first, <-opened)
	}
	require.NoError(t, st.Close())
	_, err = api.NewServer(st, fstest.MapFS{}, slog.New(slog.NewTextHandler(io.Discard, nil)), time.Now,
		nil).Workspace("small")
	require.Error(t, err, "a site that cannot be read is not taken for an empty one")
}

// A block is counted on each page that shows it, with its own values or without.
func TestPagesOfABlockAreCounted(t *testing.T) {
	b := start(t)
	var o api.Overview
	b.send("GET", "/sites/small", nil, &o)
	require.Len(t, o.Blocks, 1)
	linked := strings.Count(o.Blocks[0].States, "l") + strings.Count(o.Blocks[0].States, "o")
	require.Contains(t, o.Blocks[0].States, "l")
	require.Contains(t, o.Blocks[0].States, "o")
	require.Equal(t, linked, o.Blocks[0].Pages)
}
