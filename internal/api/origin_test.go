package api_test

import (
	"net/http"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"brickshelf/internal/api"
)

// visit asks the site's own origin, without following where it leads.
func (b *bench) visit(path string, headers ...string) *http.Response {
	req, err := http.NewRequest("GET", b.site+path, nil)
	require.NoError(b.t, err)
	for i := 0; i < len(headers); i += 2 {
		req.Header.Set(headers[i], headers[i+1])
	}
	answer, err := http.DefaultTransport.RoundTrip(req)
	require.NoError(b.t, err)
	b.t.Cleanup(func() { answer.Body.Close() })
	return answer
}

func TestTheSitesOwnOrigin(t *testing.T) {
	b := start(t)
	home := b.visit("/")
	require.Equal(t, 200, home.StatusCode)
	require.Equal(t, 304, b.visit("/", "If-None-Match", home.Header.Get("ETag")).StatusCode)
	require.Equal(t, "text/html; charset=utf-8", home.Header.Get("Content-Type"))
	require.Empty(t, home.Header.Values("Vary"), "all see the same")

	moved := b.visit("/a")
	require.Equal(t, 301, moved.StatusCode)
	require.Equal(t, "/a/", moved.Header.Get("Location"))
	require.Equal(t, 404, b.visit("//evil.example").StatusCode)
	require.Equal(t, 404, b.visit("/none/").StatusCode)
	require.Equal(t, 404, b.visit("/assets/none.svg").StatusCode)
	require.Equal(t, 404, b.visit("/_shelf/0123456789abcdef0123456789abcdef.css").StatusCode)
	require.Contains(t, b.page("/sitemap.xml"), "/a/")

	var style string
	for _, part := range strings.Split(b.page("/"), `"`) {
		if strings.HasPrefix(part, "/_shelf/") {
			style = part
		}
	}
	sheet := b.visit(style)
	require.Equal(t, 200, sheet.StatusCode)
	require.Contains(t, sheet.Header.Get("Cache-Control"), "immutable", "its name is that of its content")
	require.Equal(t, "footer{}", b.page(style))
}

func TestPreviewsOfTheDraftAndOfEdits(t *testing.T) {
	b := start(t)
	b.send("POST", "/sites/small/change-sets", change("rules/foot.yaml", string(files["rules/foot.yaml"]),
		"block: foot\nregion: foot\non: [all]\nfrom: 2030-01-01\n"), &api.Saved{})
	require.NotContains(t, b.page("/_draft/?shelf-on=2029-12-31"), "<footer")
	require.Contains(t, b.page("/_draft/?shelf-on=2030-01-01"), "<footer")
	require.Equal(t, 400, b.visit("/_draft/?shelf-on=tomorrow").StatusCode)
	require.Equal(t, 404, b.visit("/_draft/none/").StatusCode)
	require.Contains(t, b.page("/_live/"), "<footer", "what is published has the rule as it was")
	framed := b.visit("/_draft/")
	require.Contains(t, framed.Header.Get("Content-Security-Policy"), "sandbox")
	require.Equal(t, "no-store", framed.Header.Get("Cache-Control"))

	var p api.Proposal
	b.send("POST", "/sites/small/proposals", change("pages/a.html", string(files["pages/a.html"]),
		"---\ntitle: A\nlayout: l\n---\nproposed"), &p)
	require.Contains(t, b.page("/_edit/"+p.Id+"/a/"), "proposed")
	require.NotContains(t, b.page("/_draft/a/"), "proposed")
	require.Equal(t, 410, b.visit("/_edit/none/a/").StatusCode)

	var r api.RuleReading
	b.send("POST", "/sites/small/rule-readings", api.RuleText{Name: "mine",
		Text: "block: foot\nregion: foot\non: [\"page:/a/\"]\n"}, &r)
	require.Equal(t, 2, len(r.Reach))
	require.Equal(t, 1, strings.Count(r.Reach, "t"), "it would take one page")
}

func TestMenusElementsAndPageFields(t *testing.T) {
	b := start(t)
	save := func(path, before, after string) {
		b.send("POST", "/sites/small/change-sets", change(path, before, after), &api.Saved{})
	}
	save("menus/main.yaml", "", "title: Main\nitems: [{label: A, to: /a/}]\n")
	save("menus/idle.yaml", "", "items: []\n")
	layout := string(files["layouts/l.html"])
	save("layouts/l.html", layout,
		"---\nregions: {main: {mode: stack}, foot: {mode: stack}}\npage_fields: {phone: {type: text, label: Phone}}\n---\n"+layout)
	page := "---\ntitle: Home\nlayout: l\nfields: {phone: 0900, motto: far}\n---\n<p>one</p>@{menu name=main /}"
	save("pages/index.html", string(files["pages/index.html"]), page)

	var menus []api.MenuSummary
	b.send("GET", "/sites/small/menus", nil, &menus)
	require.Len(t, menus, 2)
	require.Equal(t, api.MenuSummary{Name: "main", Title: "Main", Path: "menus/main.yaml", Pages: 1,
		States: "l-"}, menus[1])
	require.Equal(t, "--", menus[0].States)

	var found api.PlaceOfPiece
	at := strings.Index(page, "<p>")
	b.send("POST", "/sites/small/elements", api.ElementQuestion{Doc: "pages/index.html", At: at}, &found)
	require.Equal(t, "<p>one</p>", page[found.From:found.To])
	var problem api.Problem
	require.Equal(t, 422, b.send("POST", "/sites/small/elements", api.ElementQuestion{Doc: "pages/index.html",
		At: 2}, &problem).StatusCode)
	require.NotEmpty(t, problem.Detail)

	var e api.Explanation
	b.send("GET", "/sites/small/explanations?page=/", nil, &e)
	require.Len(t, e.Fields, 2, "what the layout declares, and what the page sets besides")
	require.Equal(t, []any{"Phone", true, "0900"}, []any{e.Fields[0].Field.Label, e.Fields[0].Set,
		e.Fields[0].Text})
	require.Equal(t, []any{"motto", true, "far"}, []any{e.Fields[1].Field.Name, e.Fields[1].Set,
		e.Fields[1].Text})
	b.send("GET", "/sites/small/explanations?page=/a/", nil, &e)
	require.Equal(t, []any{"phone", false, ""}, []any{e.Fields[0].Field.Name, e.Fields[0].Set,
		e.Fields[0].Text})
}
