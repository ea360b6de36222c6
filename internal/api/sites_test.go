package api_test

import (
	"archive/zip"
	"bytes"
	"io"
	"net/http"
	"net/url"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"brickshelf/internal/api"
	"brickshelf/internal/folder"
)

// elsewhere asks the origin of a site other than the one that the plain address shows.
func (b *bench) elsewhere(origin, path string) string {
	at, err := url.Parse(origin)
	require.NoError(b.t, err)
	answer := b.visitAs(at.Host, path)
	text, err := io.ReadAll(answer.Body)
	require.NoError(b.t, err)
	return string(text)
}

func (b *bench) visitAs(host, path string) *http.Response {
	req, err := http.NewRequest("GET", b.site+path, nil)
	require.NoError(b.t, err)
	req.Host = host
	answer, err := http.DefaultTransport.RoundTrip(req)
	require.NoError(b.t, err)
	b.t.Cleanup(func() { answer.Body.Close() })
	return answer
}

func TestSitesAreMadeRenamedCopiedAndDeleted(t *testing.T) {
	b := start(t)
	var made, copied api.Site
	require.Equal(t, 201, b.send("POST", "/sites", api.NewSite{Title: "Die Wäscherei: frisch!"}, &made).StatusCode)
	require.Equal(t, "die-w-scherei-frisch", made.Name)
	require.Equal(t, "Die Wäscherei: frisch!", made.Title)
	require.Equal(t, 1, made.Pages)
	require.Equal(t, 201, b.send("POST", "/sites", api.NewSite{Title: "Die Wäscherei: frisch!"}, &copied).StatusCode)
	require.Equal(t, "die-w-scherei-frisch-2", copied.Name, "the name is free again only with another end")
	require.Equal(t, 201, b.send("POST", "/sites", api.NewSite{Title: "Small two", CopyOf: ptr("small"), Name: ptr("two")},
		&copied).StatusCode)
	require.Equal(t, 2, copied.Pages)
	for want, in := range map[int]api.NewSite{422: {Title: " "}, 409: {Title: "x", Name: ptr("two")}, 404: {CopyOf: ptr("none")}} {
		require.Equal(t, want, b.send("POST", "/sites", in, nil).StatusCode)
	}

	// Each is previewed on an origin of its own, whatever the plain address shows.
	var o api.Overview
	b.send("GET", "/sites/"+made.Name, nil, &o)
	require.Equal(t, made.SiteOrigin, o.SiteOrigin)
	require.Contains(t, b.elsewhere(o.SiteOrigin, "/_draft/"), "© "+time.Now().Format("2006")+" Die Wäscherei: frisch!.")
	require.Contains(t, b.elsewhere(copied.SiteOrigin, "/_draft/"), "home")
	require.Contains(t, b.page("/"), "home")
	require.Equal(t, 404, b.visitAs("none.localhost", "/").StatusCode)
	require.Equal(t, 421, b.visitAs("evil.example", "/").StatusCode)

	var sites []api.Site
	require.Equal(t, 200, b.send("PATCH", "/sites/small", api.SiteNamed{Name: "little"}, &made).StatusCode)
	require.Equal(t, 404, b.send("GET", "/sites/small", nil, nil).StatusCode)
	require.Contains(t, b.page("/"), "home", "the plain address shows it still")
	require.Equal(t, 422, b.send("DELETE", "/sites/two?confirm=tow", nil, nil).StatusCode)
	require.Equal(t, 204, b.send("DELETE", "/sites/two?confirm=two", nil, nil).StatusCode)
	require.Equal(t, 404, b.send("GET", "/sites/two", nil, nil).StatusCode)
	b.send("GET", "/sites", nil, &sites)
	require.Equal(t, "two", sites[len(sites)-1].Name)
	require.NotEmpty(t, sites[len(sites)-1].Deleted)
	require.Equal(t, 200, b.send("POST", "/sites/two/recovery", api.SiteNamed{Name: "three"}, &made).StatusCode)
	require.Equal(t, "Small two", made.Title)
	require.Equal(t, 404, b.send("POST", "/sites/two/recovery", api.SiteNamed{Name: "two"}, nil).StatusCode)

	zipped := b.send("GET", "/sites/three/export", nil, nil)
	require.Contains(t, zipped.Header.Get("Content-Disposition"), "three.zip")
}

func TestAnExportIsWhatAnImportTakes(t *testing.T) {
	b := start(t)
	answer, err := http.Get(b.tool + "/api/v1/sites/small/export")
	require.NoError(t, err)
	defer answer.Body.Close()
	packed, err := io.ReadAll(answer.Body)
	require.NoError(t, err)
	_, err = zip.NewReader(bytes.NewReader(packed), int64(len(packed)))
	require.NoError(t, err)
	got, err := folder.FromZip(bytes.NewReader(packed), int64(len(packed)), nil)
	require.NoError(t, err)
	require.Equal(t, files, got)
}
