package api_test

import (
	"net/http"
	"regexp"
	"strconv"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"brickshelf/internal/api"
	"brickshelf/internal/core/site"
)

// save saves one document as it should be.
func (b *bench) save(path, text string) {
	b.t.Helper()
	before := ""
	if answer := b.send("GET", "/sites/small/documents?path="+path, nil,
		&before); answer.StatusCode == http.StatusNotFound {
		before = ""
	}
	require.Equal(b.t, 200, b.send("POST", "/sites/small/change-sets", change(path, before, text),
		&api.Saved{}).StatusCode, path)
}

// documents reads the draft's documents at some paths; those that are not there are
// left out.
func (b *bench) documents(paths ...string) site.Files {
	out := site.Files{}
	for _, p := range paths {
		var text string
		if b.send("GET", "/sites/small/documents?path="+p, nil, &text).StatusCode == 200 {
			out[p] = []byte(text)
		}
	}
	return out
}

// marks are what a preview tells its frame by.
var marks = regexp.MustCompile(` data-shelf-[a-z]+="[^"]*"`)

// A day's work with pages, layouts, menus and blocks, each step seen on the site, and
// all of it undone to the byte.
func TestADaysWorkIsSeenAndUndone(t *testing.T) {
	b := start(t)
	var paths []string
	for p := range files {
		paths = append(paths, p)
	}
	draft := func(path string) string { return marks.ReplaceAllString(b.page("/_draft"+path), "") }

	b.operate(api.DuplicatePageOperation{Operation: "duplicate-page", Doc: "pages/a.html",
		To: "pages/more/b.html", Title: ptr("B")})
	require.Equal(t, draft("/a/"), draft("/more/b/"), "what the page says of its placements comes along")

	b.save("pages/index.html", "---\ntitle: Home\nlayout: l\n---\n<a href=\"/a/\">to A</a>")
	b.operate(api.MovePageOperation{Operation: "move-page", Doc: "pages/a.html", To: "pages/more/c.html",
		Redirect: ptr(true)})
	require.Contains(t, draft("/"), `<a href="/more/c/">to A</a>`)
	require.Contains(t, draft("/more/c/"), "<footer>own</footer>")
	require.Contains(t, draft("/a/"), "/more/c/", "who comes to the old address is led on")

	b.operate(api.NewLayoutOperation{Operation: "new-layout", Name: "wide", Title: ptr("Wide"),
		Layout: ptr("l")})
	b.operate(api.SetLayoutOperation{Operation: "set-layout", Doc: "pages/more/b.html", Layout: ptr("wide")})
	b.save("layouts/wide.html", "<head></head><hr>@{region main /}@{region foot /}")
	require.Contains(t, draft("/more/b/"), "<hr>")
	require.NotContains(t, draft("/more/c/"), "<hr>")
	require.Contains(t, b.refused(api.DeleteLayoutOperation{Operation: "delete-layout", Name: "wide"}),
		"wide")
	b.operate(api.DeleteLayoutOperation{Operation: "delete-layout", Name: "wide", To: ptr("l")})
	require.NotContains(t, draft("/more/b/"), "<hr>")

	b.operate(api.NewMenuOperation{Operation: "new-menu", Name: "main", Title: ptr("Main menu")})
	b.save("menus/main.yaml", "items:\n  - {label: Home, to: /}\n  - {label: C, to: /more/c/}\n")
	b.save("blocks/foot.html",
		"---\ntitle: Foot\nfields: {word: {type: text, default: hello}}\n---\n<footer>@{=word} @{menu name=main /} since ever</footer>")
	require.Contains(t, draft("/"), "/more/c/")
	b.operate(api.DeleteMenuOperation{Operation: "delete-menu", Name: "main"})
	require.NotContains(t, draft("/"), "<ul")

	var text string
	b.send("GET", "/sites/small/documents?path=blocks/foot.html", nil, &text)
	piece := strings.Index(text, "ever")
	b.operate(api.FieldFromTextOperation{Operation: "field-from-text", Block: "foot", Field: "age",
		Piece: api.PlaceOfPiece{From: piece, To: piece + len("ever")}})
	require.Contains(t, draft("/"), "since ever", "no page changes")
	b.operate(api.MakeDefaultOperation{Operation: "make-default", Block: "foot", Field: "age", Value: "1900"})
	require.Contains(t, draft("/"), "since 1900")

	b.operate(api.NewRuleOperation{Operation: "new-rule", Name: "second", Block: "foot", Region: "main"})
	b.save("rules/second.yaml", "block: foot\nregion: main\non: [home]\nset: {word: twice}\n")
	require.Equal(t, 2, strings.Count(draft("/"), "<footer>"))
	b.operate(api.DeleteRuleOperation{Operation: "delete-rule", Name: "second"})
	b.operate(api.DuplicateBlockOperation{Operation: "duplicate-block", Block: "foot", To: "base"})
	b.operate(api.DeletePageOperation{Operation: "delete-page", Doc: "pages/more/b.html"})
	require.Equal(t, 404, b.visit("/_draft/more/b/").StatusCode)

	steps := 0
	for b.send("POST", "/sites/small/undo", nil, nil).StatusCode == 200 {
		steps++
	}
	require.Greater(t, steps, 15)
	require.Equal(t, files, b.documents(paths...))
	var o api.Overview
	b.send("GET", "/sites/small", nil, &o)
	require.Zero(t, o.Differ)
	require.Len(t, o.Pages, 2)
	require.Len(t, o.Blocks, 1)
	for range steps {
		require.Equal(t, 200, b.send("POST", "/sites/small/redo", nil, nil).StatusCode)
	}
	require.Equal(t, 200, b.visit("/_draft/more/c/").StatusCode)
	require.NotEqual(t, 200, b.send("POST", "/sites/small/redo", nil, nil).StatusCode,
		"there is nothing more to do again")
}

func TestOperationsThatSayTooLittle(t *testing.T) {
	b := start(t)
	for want, o := range map[string]any{
		`property "piece" is missing`: map[string]any{"operation": "field-from-text",
			"block": "foot", "field": "x"},
		`operation: "fly" is none`:          map[string]any{"operation": "fly", "block": "foot"},
		`property "operation" is missing`:   map[string]any{"block": "foot"},
		`operation: value must be a string`: map[string]any{"operation": 7},
		`property "address" is unsupported`: map[string]any{"operation": "rename-block", "block": "foot",
			"to": "y", "address": "z"},
		`block: Value is not nullable`: map[string]any{"operation": "rename-block", "block": nil,
			"to": "y"},
		`piece/from: value must be an integer`: map[string]any{"operation": "field-from-text",
			"block": "foot", "field": "x", "piece": map[string]any{"from": "a", "to": 1}},
		"there is no block": api.RenameFieldOperation{Operation: "rename-field", Block: "none",
			Field: "x", To: "y"},
		"with: value is not one of": api.DeleteBlockOperation{Operation: "delete-block", Block: "foot",
			With: ptr(api.DeleteBlockOperationWith("prayers"))},
	} {
		require.Contains(t, b.refused(o), want)
	}
}

// What a rule would take from another is told before it is saved, and after it who
// wins by what.
func TestRulesThatMeet(t *testing.T) {
	b := start(t)
	b.save("layouts/l.html",
		"---\nregions: {foot: {mode: one}}\n---\n<head></head>@{region main /}@{region foot /}")
	b.save("blocks/bar.html", "bar")
	read := func(text string) (r api.RuleReading) {
		b.send("POST", "/sites/small/rule-readings", api.RuleText{Name: "bar", Text: text}, &r)
		return r
	}
	r := read("block: bar\nregion: foot\non: [home]\n")
	require.Equal(t, []api.Rival{{Rule: "foot", Block: "foot", Pages: 1, Decides: "specificity"}},
		r.Displaced, "the page's own target is the closer one")
	require.Empty(t, r.Outranked)
	require.Equal(t, "d-", r.Reach)

	b.save("rules/foot.yaml", "block: foot\nregion: foot\non: [\"page:/\", \"page:/a/\"]\n")
	r = read("block: bar\nregion: foot\non: [all]\nat: start\n")
	require.Equal(t, api.RuleSummaryAtStart, r.Rule.At)
	require.Empty(t, r.Displaced)
	require.Equal(t, []api.Rival{{Rule: "foot", Block: "foot", Pages: 2, Decides: "specificity"}},
		r.Outranked)
	require.Equal(t, "ll", r.Reach)

	b.save("rules/bar.yaml", "block: bar\nregion: foot\non: [\"page:/\"]\n")
	var winners []api.Winners
	b.send("GET", "/sites/small/winners", nil, &winners)
	for _, w := range winners {
		if w.Region != "foot" {
			continue
		}
		require.Equal(t, api.WinnersMode("one"), w.Mode)
		require.Len(t, w.Ties, 1)
		require.Equal(t, 1, w.Ties[0].Pages, "they meet on one page, by the same target")
		require.ElementsMatch(t, []string{"foot", "bar"}, []string{w.Ties[0].Winner, w.Ties[0].Loser})
	}
	var e api.Explanation
	b.send("GET", "/sites/small/explanations?page=/", nil, &e)
	by := map[string]string{}
	for _, region := range e.Regions {
		for _, c := range region.Candidates {
			by[c.Rule] = c.By
		}
	}
	require.Equal(t, map[string]string{"foot": "bar", "bar": ""}, by, "who is passed over is told by whom")
}

func TestDraftPagesAreOnTheShelfAndNotOnTheSite(t *testing.T) {
	b := start(t)
	b.save("pages/later.html", "---\ntitle: Later\nlayout: l\ndraft: true\n---\nnot yet")
	var o api.Overview
	b.send("GET", "/sites/small", nil, &o)
	require.Len(t, o.Drafts, 1)
	require.Equal(t, "/later/", o.Drafts[0].Path)
	require.Len(t, o.Pages, 2)
	require.Contains(t, b.page("/_draft/later/"), "not yet")
	var rel api.Release
	b.send("POST", "/sites/small/releases", map[string]string{"title": "with a draft"}, &rel)
	require.Equal(t, 404, b.visit("/later/").StatusCode)
	require.NotContains(t, b.page("/sitemap.xml"), "/later/")
}

func TestABreakIsToldWithItsPlaceInTheComparison(t *testing.T) {
	b := start(t)
	set := api.ChangeSet{Title: "Delete foot", Changes: []api.Change{{Path: "blocks/foot.html",
		Before: string(site.HashOf(files["blocks/foot.html"])), Delete: ptr(true)}}}
	var p api.Proposal
	b.send("POST", "/sites/small/proposals", set, &p)
	require.NotNil(t, p.Impact)
	require.Len(t, p.Impact.Breaks, 3)
	var c api.Comparison
	b.send("GET", "/sites/small/comparisons/"+p.Id+"?page=/a/", nil, &c)
	require.Equal(t, api.Effect("changes"), c.Effect)
	told := map[string]string{}
	for _, br := range c.Breaks {
		require.Equal(t, "/a/", br.Page)
		require.Equal(t, "foot/rule:foot", br.Address)
		told[br.Code] = br.Message
	}
	require.Len(t, told, 2)
	require.Contains(t, told["unresolved-call"], "there is no block or shortcode foot")
	require.Contains(t, told["lost-override"], "sets word, and nothing stands there",
		"what the page says of it has no effect any more")
	require.Contains(t, c.Before, "<footer>own</footer>")
	require.NotContains(t, c.After, "<footer")
	require.Equal(t, []api.PlacementEffect{{Address: "foot/rule:foot", Block: "foot", Effect: "removed"}},
		c.Placements)
}

func TestPartsSayWhatTheyNeed(t *testing.T) {
	b := start(t)
	b.save("blocks/clock.html",
		"---\nfields: {zone: {type: text, required: true}, size: {type: number}}\n---\n<time>@{=zone}</time>")
	b.save("blocks/clock.js", "export {}\n")
	b.send("POST", "/sites/small/releases", map[string]string{"title": "clocks"}, &api.Release{})
	bad := b.visit("/render/blocks/clock")
	require.Equal(t, 400, bad.StatusCode)
	require.Contains(t, b.page("/render/blocks/clock"), "clock needs the field zone, as in ?zone=")
	require.Contains(t, b.page("/render/blocks/clock?zone=x&size=big"), "size is a number")
	good := b.visit("/render/blocks/clock?zone=sea")
	require.Contains(t, strings.Join(good.Header.Values("Link"), "\n"), "rel=modulepreload")
	require.Equal(t, "<time>sea</time>", b.page("/render/blocks/clock?zone=sea"))
}

func TestWhatIsNotThereAndWhatIsTooMuch(t *testing.T) {
	b := start(t)
	ask := func(method, path string, body string) (int, string) {
		req, err := http.NewRequest(method, b.tool+path, strings.NewReader(body))
		require.NoError(t, err)
		req.Header.Set("X-Brick-Shelf", "1")
		req.Header.Set("Content-Type", "application/json")
		answer, err := http.DefaultClient.Do(req)
		require.NoError(t, err)
		require.NoError(t, answer.Body.Close())
		return answer.StatusCode, answer.Header.Get("Content-Type")
	}
	status, kind := ask("GET", "/api/v1/nothing", "")
	require.Equal(t, 404, status)
	require.Equal(t, "application/problem+json", kind, "not the interface, which answers every other address")
	status, kind = ask("GET", "/api/openapi.yaml", "")
	require.Equal(t, 200, status)
	require.Equal(t, "application/yaml", kind)
	for _, path := range []string{"/sites/small/proposals", "/sites/small/change-sets",
		"/sites/small/operations"} {
		status, kind = ask("POST", "/api/v1"+path, `{"title":"`+strings.Repeat("x", 80<<20)+`"}`)
		require.Equal(t, 413, status, path)
		require.Equal(t, "application/problem+json", kind)
	}
	foreign, err := http.NewRequest("GET", b.site+"/", nil)
	require.NoError(t, err)
	foreign.Host = "evil.example"
	answer, err := http.DefaultClient.Do(foreign)
	require.NoError(t, err)
	require.NoError(t, answer.Body.Close())
	require.Equal(t, http.StatusMisdirectedRequest, answer.StatusCode)
	foreign.Host = "localhost"
	answer, err = http.DefaultClient.Do(foreign)
	require.NoError(t, err)
	require.NoError(t, answer.Body.Close())
	require.Equal(t, 200, answer.StatusCode)
}

// Who signs is named in the history, and what an edit changed is told also when more has been done.
func TestAnEditTellsWhoMadeItAndWhatItChanged(t *testing.T) {
	b := start(t)
	var text string
	b.send("GET", "/sites/small/documents?path=pages/a.html", nil, &text)
	var first, second api.Saved
	save := func(was, is, author string, into *api.Saved) {
		require.Equal(t, 200, b.send("POST", "/sites/small/change-sets", change("pages/a.html", was, is), into,
			"X-Brick-Shelf-Author", author).StatusCode)
	}
	save(text, text+"more", "%C3%89va%20%20Ott", &first)
	save(text+"more", text+"more yet", "%zz", &second)

	var list []api.Revision
	b.send("GET", "/sites/small/revisions?path=pages/a.html", nil, &list)
	require.Equal(t, "Éva Ott", list[1].Author)
	require.Empty(t, list[0].Author, "it cannot be read")
	var review api.Review
	b.send("GET", "/sites/small/review", nil, &review)
	require.Equal(t, "Éva Ott", review.Records[1].Author)

	var im api.Impact
	b.send("GET", "/sites/small/revisions/impact?edit="+strconv.FormatInt(first.Id, 10), nil, &im)
	require.Equal(t, map[string]int{"changes": 1}, im.Counts)
	require.Equal(t, 1, strings.Count(im.Effects, "c"))
	require.Equal(t, 404, b.send("GET", "/sites/small/revisions/impact?edit=99999", nil, nil).StatusCode)
}
