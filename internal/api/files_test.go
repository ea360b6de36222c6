package api_test

import (
	"bytes"
	"encoding/base64"
	"image"
	"image/png"
	"regexp"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"brickshelf/internal/api"
)

func TestFilesAreListedWithSizeAndUses(t *testing.T) {
	b := start(t)
	var picture bytes.Buffer
	require.NoError(t, png.Encode(&picture, image.NewGray(image.Rect(0, 0, 30, 20))))
	packed := base64.StdEncoding.EncodeToString(picture.Bytes())
	text, svg := "User-agent: *\n", "<svg xmlns='http://www.w3.org/2000/svg'><script>1</script></svg>"
	page := "<img src=\"/assets/p.png\"><a href=\"../robots.txt\">"
	require.Equal(t, 200, b.send("POST", "/sites/small/change-sets", api.ChangeSet{Title: "Upload", Changes: []api.Change{
		{Path: "assets/p.png", Base64: &packed}, {Path: "files/robots.txt", Text: &text}, {Path: "files/s.svg", Text: &svg},
		{Path: "pages/x.html", Text: &page}}}, nil).StatusCode)

	var list []api.SiteFile
	b.send("GET", "/sites/small/files", nil, &list)
	require.Len(t, list, 3)
	for i := range list {
		require.Len(t, list[i].Hash, 64)
		list[i].Hash = ""
	}
	require.Equal(t, []api.SiteFile{{Path: "assets/p.png", Url: "/assets/p.png", Size: int64(picture.Len()), Width: 30, Height: 20},
		{Path: "files/robots.txt", Url: "/robots.txt", Size: 14, Text: true},
		{Path: "files/s.svg", Url: "/s.svg", Size: int64(len(svg)), Text: true}}, list)

	var uses api.FileUses
	b.send("GET", "/sites/small/files/uses?path=assets/p.png", nil, &uses)
	require.Equal(t, api.FileUses{States: "--l", Pages: 1, Docs: []string{"pages/x.html"}}, uses)
	require.Equal(t, 404, b.send("GET", "/sites/small/files/uses?path=blocks/foot.css", nil, nil).StatusCode)

	var moved api.Changed
	b.send("POST", "/sites/small/operations", map[string]any{"operation": "move-file", "path": "assets/p.png",
		"to": "files/q.png"}, &moved)
	require.Len(t, moved.ChangeSet.Changes, 3)
	var gone api.Changed
	b.send("POST", "/sites/small/operations", map[string]any{"operation": "delete-file", "path": "files/robots.txt"}, &gone)
	require.Equal(t, "missing-page", gone.Proposal.Impact.Breaks[0].Code)

	shown := "@{image src=\"/assets/p.png\" width=10 /}"
	b.send("POST", "/sites/small/change-sets", api.ChangeSet{Title: "Show", Changes: []api.Change{{Path: "pages/y.html", Text: &shown}}}, nil)
	small := regexp.MustCompile(`/_shelf/[0-9a-f]{32}-10\.png`).FindString(b.page("/_draft/y/"))
	require.NotEmpty(t, small)
	got := b.visit(small)
	config, err := png.DecodeConfig(got.Body)
	require.NoError(t, err)
	require.Equal(t, 10, config.Width)
	require.Contains(t, got.Header.Get("Cache-Control"), "immutable")
	require.Equal(t, 404, b.visit(strings.Replace(small, "-10.", "-31.", 1)).StatusCode, "none is made larger")

	require.Equal(t, text, b.page("/robots.txt"), "a preview of the draft needs it before it is published")
	at := b.visit("/s.svg")
	require.Equal(t, "image/svg+xml", at.Header.Get("Content-Type"))
	require.Contains(t, at.Header.Get("Content-Security-Policy"), "sandbox;", "opened by its address it runs no script")
}
