package api_test

import (
	"encoding/json"
	"net/http"
	"net/url"
	"os"
	"slices"
	"strings"
	"testing"

	"github.com/getkin/kin-openapi/openapi3"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"brickshelf/internal/core/block"
	"brickshelf/internal/core/impact"
	"brickshelf/internal/core/site"
)

// words are what a text of a request may be: what the small site has, what it has not,
// and what is nowhere meant.
var words = []string{
	"", "foot", "word", "hello", "l", "main", "home", "all", "page:/a/", "under:/", "/", "/a/", "/new/",
	"foot/rule:foot", "main/foot~1", "pages/a.html", "pages/index.html", "pages/new.html",
	"blocks/foot.html", "blocks/new.html", "blocks/foot.css", "layouts/l.html", "rules/foot.yaml",
	"menus/m.yaml", "site.yaml", "../x", "assets/x", "text", "number", "list", "1", "true", "2026-01-01",
	"@{foot /}", "@{when x}", "@{foot word=\"x\" /}", "---\ntitle: T\n---\nx",
	"block: foot\nregion: main\non: [home]\n", "items: []\n", "é & <b>", "\x00", "live", "signed-in",
	string(site.HashOf(files["blocks/foot.html"])), string(site.HashOf(files["pages/a.html"])),
	string(site.HashOf(files["rules/foot.yaml"])),
}

// value draws something of a schema: what the contract allows, sensible or not.
func value(t *rapid.T, s *openapi3.Schema, depth int) any {
	switch {
	case len(s.OneOf) > 0:
		return value(t, rapid.SampledFrom(s.OneOf).Draw(t, "one of").Value, depth)
	case len(s.Enum) > 0:
		return rapid.SampledFrom(s.Enum).Draw(t, "enum")
	case s.Type.Is("string"):
		return rapid.SampledFrom(words).Draw(t, "text")
	case s.Type.Is("integer"):
		return rapid.SampledFrom([]int{-1, 0, 1, 2, 40, 1 << 40}).Draw(t, "number")
	case s.Type.Is("boolean"):
		return rapid.Bool().Draw(t, "switch")
	case s.Type.Is("array"):
		list := []any{}
		for range rapid.IntRange(0, 2).Draw(t, "items") {
			list = append(list, value(t, s.Items.Value, depth+1))
		}
		return list
	case s.Type.Is("object"):
		out := map[string]any{}
		for _, name := range sorted(s.Properties) {
			if slices.Contains(s.Required, name) || depth < 4 && rapid.IntRange(0, 2).Draw(t, name+"?") == 0 {
				out[name] = value(t, s.Properties[name].Value, depth+1)
			}
		}
		if more := s.AdditionalProperties.Schema; more != nil && depth < 4 {
			for range rapid.IntRange(0, 2).Draw(t, "keys") {
				out[rapid.SampledFrom(words).Draw(t, "key")] = value(t, more.Value, depth+1)
			}
		}
		return out
	}
	return rapid.SampledFrom([]any{nil, "x", 1, 2.5, false, []any{"a"}, map[string]any{"word": "b"}}).Draw(t,
		"anything")
}

func sorted(m openapi3.Schemas) []string {
	var names []string
	for name := range m {
		names = append(names, name)
	}
	slices.Sort(names)
	return names
}

type operation struct {
	method, path string
	of           *openapi3.Operation
	params       openapi3.Parameters
}

// operations are all that the contract has, but for the stream that never ends.
func operations(t *testing.T) []operation {
	text, err := os.ReadFile("openapi.yaml")
	require.NoError(t, err)
	doc, err := openapi3.NewLoader().LoadFromData(text)
	require.NoError(t, err)
	var out []operation
	for _, path := range doc.Paths.InMatchingOrder() {
		item := doc.Paths.Value(path)
		for method, op := range item.Operations() {
			if !strings.HasSuffix(path, "/events") {
				out = append(out, operation{method, path, op, append(slices.Clone(item.Parameters),
					op.Parameters...)})
			}
		}
	}
	slices.SortFunc(out, func(a, b operation) int {
		return strings.Compare(a.path+a.method, b.path+b.method)
	})
	return out
}

// request draws one of an operation.
func (o operation) request(t *rapid.T) (path string, body any, headers []string) {
	path = o.path
	query := url.Values{}
	for _, p := range o.params {
		switch p := p.Value; p.In {
		case "path":
			v := "small"
			if p.Name != "site" {
				v = rapid.SampledFrom([]string{"foot", "none", "1", "99", "live", "é"}).Draw(t, p.Name)
			}
			path = strings.Replace(path, "{"+p.Name+"}", url.PathEscape(v), 1)
		case "query":
			if v := value(t, p.Schema.Value, 0); p.Required || rapid.Bool().Draw(t, p.Name+"?") {
				query.Set(p.Name, strings.Trim(asText(v), `"`))
			}
		case "header":
			headers = append(headers, p.Name, `"`+rapid.SampledFrom(words[len(words)-3:]).Draw(t, p.Name)+`"`)
		}
	}
	if len(query) > 0 {
		path += "?" + query.Encode()
	}
	if o.of.RequestBody == nil {
		return path, nil, headers
	}
	schema := o.of.RequestBody.Value.Content.Get("application/json")
	if schema == nil {
		return path, []byte(rapid.SampledFrom(words).Draw(t, "bytes")), headers
	}
	if rapid.IntRange(0, 9).Draw(t, "broken") == 0 {
		return path, json.RawMessage(rapid.SampledFrom([]string{`{}`, `[]`, `null`, `"x"`,
			`{"title":1,"changes":{}}`}).Draw(t, "body")), headers
	}
	return path, value(t, schema.Schema.Value, 0), headers
}

func asText(v any) string {
	b, _ := json.Marshal(v)
	return string(b)
}

// Whatever is sent, the answer is one that the contract has, never a failure of the
// server; and whatever that has done to the draft can be undone, to the byte.
func TestNothingThatIsSentBreaksTheServerOrTheDraft(t *testing.T) {
	b := start(t)
	all := operations(t)
	answered := map[string]map[int]bool{}
	rapid.Check(t, func(r *rapid.T) {
		for range 12 {
			o := rapid.SampledFrom(all).Draw(r, "operation")
			path, body, headers := o.request(r)
			if before, _, _ := strings.Cut(path, "?"); before == "/sites/small" && o.method != "GET" {
				continue // what is under it goes on
			}
			var said string
			answer := b.send(o.method, path, body, &said, headers...)
			require.Less(r, answer.StatusCode, 500, "%s %s %s: %s", o.method, path, asText(body), said)
			name := o.method + " " + o.path
			if answered[name] == nil {
				answered[name] = map[int]bool{}
			}
			answered[name][answer.StatusCode] = true
		}
	})
	for steps := 0; b.send("POST", "/sites/small/undo", nil, nil).StatusCode == http.StatusOK; steps++ {
		require.Less(t, steps, 10_000)
	}
	for path, want := range files {
		var got string
		answer := b.send("GET", "/sites/small/documents?path="+url.QueryEscape(path), nil, &got)
		require.Equal(t, http.StatusOK, answer.StatusCode, path)
		require.Equal(t, string(want), got, path)
	}
	require.Contains(t, b.page("/_draft/"), "hello", "and the site is shown as before")
	done := 0
	for _, statuses := range answered {
		if statuses[http.StatusOK] {
			done++
		}
	}
	t.Logf("%d of %d operations were asked, %d of them did something", len(answered), len(all), done)
	require.Greater(t, done, len(all)/3, "it is not all refused")
}

// Each operation of the contract is there: it says what it would do, or why not.
func TestEveryOperationOfTheContractAnswers(t *testing.T) {
	b := start(t)
	text, err := os.ReadFile("openapi.yaml")
	require.NoError(t, err)
	doc, err := openapi3.NewLoader().LoadFromData(text)
	require.NoError(t, err)
	all := doc.Components.Schemas["Operation"].Value
	require.Len(t, all.Discriminator.Mapping, len(all.OneOf))
	for _, one := range all.OneOf {
		body := map[string]any{}
		for _, name := range one.Value.Required {
			body[name] = least(one.Value.Properties[name].Value)
		}
		answer := b.send("POST", "/sites/small/operations", body, nil)
		require.Contains(t, []int{http.StatusOK, http.StatusNotFound, http.StatusUnprocessableEntity},
			answer.StatusCode, "%v", body)
	}
}

// least is the least that fits a schema.
func least(s *openapi3.Schema) any {
	switch {
	case len(s.Enum) > 0:
		return s.Enum[0]
	case s.Type.Is("integer"):
		return 0
	case s.Type.Is("boolean"):
		return false
	case s.Type.Is("array"):
		out := []any{}
		for range s.MinItems {
			out = append(out, least(s.Items.Value))
		}
		return out
	case s.Type.Is("object"):
		out := map[string]any{}
		for _, name := range s.Required {
			out[name] = least(s.Properties[name].Value)
		}
		return out
	}
	return "x"
}

// The contract and the schemas of the documentation have the types of fields that there
// are.
func TestTypesOfFieldsAreOneList(t *testing.T) {
	var types []any
	for _, f := range block.Types {
		types = append(types, string(f))
	}
	text, err := os.ReadFile("openapi.yaml")
	require.NoError(t, err)
	doc, err := openapi3.NewLoader().LoadFromData(text)
	require.NoError(t, err)
	require.Equal(t, types, doc.Components.Schemas["FieldType"].Value.Enum)
	for _, name := range []string{"block", "layout", "site"} {
		text, err := os.ReadFile("../../docs/schema/" + name + ".json")
		require.NoError(t, err)
		list, err := json.Marshal(types)
		require.NoError(t, err)
		bare := strings.Join(strings.Fields(string(text)), "")
		require.Contains(t, bare, `"enum":`+string(list), name)
	}
}

// The effects of the contract are those that there are, and it tells the letter of each.
func TestTheContractHasEveryEffect(t *testing.T) {
	doc, err := openapi3.NewLoader().LoadFromFile("openapi.yaml")
	require.NoError(t, err)
	var want []any
	letters := doc.Components.Schemas["Impact"].Value.Properties["effects"].Value.Description
	for _, e := range impact.Effects {
		want = append(want, string(e))
		require.Contains(t, letters, string(e.Letter())+" ", e)
	}
	require.Equal(t, want, doc.Components.Schemas["Effect"].Value.Enum)
}
