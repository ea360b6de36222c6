package api_test

import (
	"fmt"
	"net/http"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"brickshelf/internal/api"
	"brickshelf/internal/core/site"
)

// What a request says is taken at its word, or refused with the name of what is wrong:
// nothing is guessed, and nothing happens.
func TestRequestsAreReadStrictly(t *testing.T) {
	b := start(t)
	of := string(site.HashOf(files["blocks/foot.html"]))
	change := func(rest string) string {
		return fmt.Sprintf(`{"title":"x","changes":[{"path":"blocks/foot.html","before":%q%s}]}`, of, rest)
	}
	for _, c := range []struct {
		path, body, kind string
		status           int
		says             string
	}{
		{"change-sets", change(`,"txt":"new"`), "", 400, `"txt"`},
		{"change-sets", change(`,"text":null`), "", 400, "changes/0/text"},
		{"change-sets", change(""), "", 422, "blocks/foot.html: say what it is to hold"},
		{"change-sets", change(`,"delete":false`), "", 422, "delete: true"},
		{"change-sets", change(`,"delete":true,"text":"x"`), "", 422, "exclude one another"},
		{"change-sets", change(`,"base64":"eA==","text":"x"`), "", 422, "exclude one another"},
		{"change-sets", `{"title":"x"}`, "", 400, `"changes" is missing`},
		{"change-sets", `{"title":"x","changes":[]}{}`, "", 400, "behind the JSON value"},
		{"change-sets", change(`,"text":"x"`), "text/plain", 415, "application/json"},
		{"change-sets", change(`,"text":"x"`), "application/x-www-form-urlencoded", 415, "application/json"},
		{"releases", `null`, "", 400, "the body"},
		{"releases", `{"titel":"x"}`, "", 400, "titel"},
		{"releases", `[]`, "", 400, "the body"},
		{"operations", `{"operation":"delete-block","blok":"foot"}`, "", 400, "blok"},
		{"operations", `{"operation":"vanish"}`, "", 400, "operation"},
		{"documents?path=blocks/foot.html", "new", "application/json", 415, "application/octet-stream"},
		{"imports", "PK", "application/octet-stream", 415, "application/zip"},
	} {
		method := map[bool]string{true: http.MethodPut, false: http.MethodPost}[strings.HasPrefix(c.path,
			"documents")]
		if c.kind == "" {
			c.kind = "application/json"
		}
		var p api.Problem
		answer := b.send(method, "/sites/small/"+c.path, []byte(c.body), &p, "Content-Type", c.kind,
			"If-Match", `"`+of+`"`)
		require.Equal(t, c.status, answer.StatusCode, "%s %s: %s", c.path, c.body, p.Detail)
		require.Contains(t, p.Detail, c.says, "%s %s", c.path, c.body)
	}
	var o api.Overview
	b.send("GET", "/sites/small", nil, &o)
	require.Zero(t, o.Edits)
	require.Equal(t, 1, o.Release)
	require.Equal(t, 200, b.send("POST", "/sites/small/change-sets", []byte(change(`,"delete":true`)), nil,
		"Content-Type", "application/json; charset=utf-8").StatusCode)
}

// What is asked of a site, block, page or release that is not there is not there, whatever
// is asked.
func TestWhatIsNotThereIsNotFound(t *testing.T) {
	b := start(t)
	for _, o := range operations(t) {
		path, asked := o.path, false
		for _, p := range o.params {
			switch {
			case p.Value.In == "path" && p.Value.Name == "site":
				path = strings.Replace(path, "{site}", "none", 1)
				asked = true
			case p.Value.In == "path":
				path = strings.Replace(path, "{"+p.Value.Name+"}", "1", 1)
			}
		}
		if !asked || strings.HasSuffix(path, "/imports") || strings.HasSuffix(path, "/recovery") { // which make one
			continue
		}
		query := ""
		for _, p := range o.params {
			if p.Value.In == "query" && p.Value.Required {
				query += "&" + p.Value.Name + "=x"
			}
		}
		require.Equal(t, http.StatusNotFound, b.send(o.method, path+"?"+strings.TrimPrefix(query, "&"), nil,
			nil).StatusCode, "%s %s", o.method, o.path)
	}
	for _, path := range []string{"/blocks/none", "/blocks/none/placements", "/blocks/none/values",
		"/callers?name=none", "/explanations?page=/none/", "/precedences?page=/none/&address=x",
		"/documents?path=pages/none.html"} {
		require.Equal(t, http.StatusNotFound, b.send("GET", "/sites/small"+path, nil, nil).StatusCode, path)
	}
	require.Equal(t, http.StatusNotFound, b.send("POST", "/sites/small/releases/99/restore", nil,
		nil).StatusCode)
	for op, more := range map[string]map[string]any{
		"rename-block": {"to": "x"}, "delete-block": {"with": "nothing"}, "duplicate-block": {"to": "x"},
		"rename-field": {"field": "x", "to": "y"}, "remove-field": {"field": "x"},
		"retype-field": {"field": "x", "type": "text"},
	} {
		more["operation"], more["block"] = op, "none"
		require.Equal(t, http.StatusNotFound, b.send("POST", "/sites/small/operations", more, nil).StatusCode,
			op)
	}
}
