package api_test

import (
	"bytes"
	"io"
	"net/http"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"brickshelf/internal/api"
	"brickshelf/internal/core/site"
	"brickshelf/internal/folder"
)

// zipOf packs files.
func zipOf(t *testing.T, files site.Files) []byte {
	var b bytes.Buffer
	require.NoError(t, folder.Zip(&b, files, nil))
	return b.Bytes()
}

// unit finds a unit by its ID.
func unit(t *testing.T, list []api.Unit, id string) api.Unit {
	for _, u := range list {
		if u.Id == id {
			return u
		}
	}
	require.Fail(t, "no unit "+id)
	return api.Unit{}
}

func TestAPartGoesIntoAnotherSiteAndIsOfferedWhatItBecomes(t *testing.T) {
	b := start(t)
	require.Equal(t, 201, b.send("POST", "/sites", api.NewSite{Title: "Mine", Name: ptr("mine")}, nil).StatusCode)
	put := func(site string, set api.ChangeSet) {
		require.Equal(t, 200, b.send("POST", "/sites/"+site+"/change-sets", set, nil).StatusCode)
	}
	put("mine", change("blocks/foot.html", "", "<p>mine</p>"))

	var list []api.Unit
	b.send("GET", "/sites/small/units", nil, &list)
	require.Equal(t, api.Unit{Id: "blocks/foot.html", Kind: "block", Name: "foot", Title: "Foot", For: []string{},
		Size: len(files["blocks/foot.html"]) + len(files["blocks/foot.css"])}, unit(t, list, "blocks/foot.html"))
	b.send("GET", "/sites/small/units?of=rules/foot.yaml", nil, &list)
	require.Len(t, list, 2)
	require.Equal(t, []string{"rules/foot.yaml"}, unit(t, list, "blocks/foot.html").For)
	require.Equal(t, 404, b.send("GET", "/sites/small/units?of=blocks/none.html", nil, nil).StatusCode)

	arrive := func(more map[string]any) (out api.Arrived) {
		in := map[string]any{"operation": "arrive", "from": "small", "of": []string{"blocks/foot.html"}}
		for k, v := range more {
			in[k] = v
		}
		require.Equal(t, 200, b.send("POST", "/sites/mine/operations", in, &out).StatusCode)
		return out
	}
	out := arrive(nil)
	require.Empty(t, out.ChangeSet.Changes)
	require.Len(t, out.Arrivals, 1)
	require.True(t, out.Arrivals[0].Open)
	require.Equal(t, "foot-2", out.Arrivals[0].Free)
	require.Equal(t, api.ArrivingDoc{Path: "blocks/foot.html", Mine: "<p>mine</p>", Theirs: string(files["blocks/foot.html"]),
		MineSize: 11, TheirsSize: len(files["blocks/foot.html"]), Pieces: []api.SidedPiece{}}, out.Arrivals[0].Docs[1])
	require.Equal(t, -1, out.Arrivals[0].Docs[0].MineSize)
	out = arrive(map[string]any{"decisions": []map[string]any{{"id": "blocks/foot.html", "take": "name", "name": "base"}}})
	require.Equal(t, "blocks/base.html", out.Arrivals[0].As)
	put("mine", out.ChangeSet)

	var libraries []api.Library
	b.send("GET", "/sites/mine/libraries", nil, &libraries)
	came := api.LibraryUnit{Id: "blocks/base.html", Of: "blocks/foot.html", State: "equal", Title: "Foot"}
	require.Equal(t, []api.Library{{Site: "small", Title: "Small", There: true, Units: []api.LibraryUnit{came}}}, libraries)
	b.send("GET", "/sites/mine/units", nil, &list)
	require.Equal(t, "small", *unit(t, list, "blocks/base.html").Library)

	put("small", change("blocks/foot.html", string(files["blocks/foot.html"]), foot))
	b.send("GET", "/sites/mine/libraries", nil, &libraries)
	require.Equal(t, api.LibraryUnitState("newer"), libraries[0].Units[0].State)
	out = arrive(nil)
	require.Equal(t, api.TakeOf("theirs"), out.Arrivals[0].Take)
	require.NotEmpty(t, out.Arrivals[0].Docs[0].Pieces)
	put("mine", out.ChangeSet)
	b.send("GET", "/sites/mine/libraries", nil, &libraries)
	require.Equal(t, api.LibraryUnitState("equal"), libraries[0].Units[0].State)

	require.Equal(t, 200, b.send("PATCH", "/sites/small", api.SiteNamed{Name: "little"}, nil).StatusCode)
	b.send("GET", "/sites/mine/libraries", nil, &libraries)
	require.Equal(t, api.LibraryUnitState("gone"), libraries[0].Units[0].State)
	require.False(t, libraries[0].There)

	for want, in := range map[int]map[string]any{
		404: {"operation": "arrive", "from": "none", "of": []string{"x"}},
		422: {"operation": "arrive"},
		400: {"operation": "arrive", "part": "x", "what": "y"},
	} {
		require.Equal(t, want, b.send("POST", "/sites/mine/operations", in, nil).StatusCode)
	}
	require.Equal(t, 404, b.send("POST", "/sites/mine/operations", map[string]any{"operation": "arrive", "part": "x"}, nil).StatusCode)
}

func TestAPartIsHandedIn(t *testing.T) {
	b := start(t)
	packed, err := http.Get(b.tool + "/api/v1/sites/small/part?of=blocks/foot.html&of=pages/a.html")
	require.NoError(t, err)
	defer packed.Body.Close()
	body, err := io.ReadAll(packed.Body)
	require.NoError(t, err)
	require.Contains(t, packed.Header.Get("Content-Disposition"), "small-part.zip")
	got, err := folder.FromZip(bytes.NewReader(body), int64(len(body)), nil)
	require.NoError(t, err)
	require.Equal(t, "format: brickshelf/1\npart: true\nname: Small\n", string(got["site.yaml"]))

	require.Equal(t, 201, b.send("POST", "/sites", api.NewSite{Title: "Mine", Name: ptr("mine")}, nil).StatusCode)
	hand := func(body []byte, into any) int {
		return b.send("POST", "/sites/mine/parts", body, into, "Content-Type", "application/zip").StatusCode
	}
	var part api.BroughtPart
	require.Equal(t, 200, hand(body, &part))
	require.Equal(t, "Small", part.Name)
	require.Len(t, part.Units, 3)
	var out api.Arrived
	b.send("POST", "/sites/mine/operations", map[string]any{"operation": "arrive", "part": part.Part}, &out)
	require.Len(t, out.Arrivals, 3)
	require.Len(t, out.ChangeSet.Changes, 4)
	for _, c := range out.ChangeSet.Changes {
		require.Equal(t, string(files[c.Path]), *c.Text, "what comes as a zip says nothing of a library")
	}
	b.send("POST", "/sites/mine/operations", map[string]any{"operation": "arrive", "part": part.Part, "of": []string{"layouts/l.html"}}, &out)
	require.Len(t, out.ChangeSet.Changes, 1)

	// What cannot be is told with its place, and nothing is kept of it.
	require.Equal(t, 422, hand([]byte("no zip"), nil))
	var bad api.Problem
	require.Equal(t, 422, hand(zipOf(t, site.Files{"site.yaml": []byte("format: brickshelf/9\npart: true\n")}), &bad))
	require.Contains(t, bad.Detail, "site.yaml:1:9: the format is \"brickshelf/9\"")
	require.Equal(t, 422, hand(zipOf(t, site.Files{"site.yaml": []byte("format: brickshelf/1\npart: true\n"),
		"blocks/a.html": []byte("@{b /}"), "blocks/b.html": []byte("@{a /}")}), &bad))
	require.Contains(t, bad.Detail, "blocks/")
	require.Equal(t, 422, hand(zipOf(t, site.Files{"site.yaml": []byte("format: brickshelf/1\npage_fields: {a: {}}\n")}), &bad))
	require.Contains(t, bad.Detail, "declared in layouts")
}

func TestAPartIsImported(t *testing.T) {
	b := start(t)
	part := site.Files{"site.yaml": []byte("format: brickshelf/1\npart: true\nname: Other\nfields: {phone: {type: text}}\n"),
		"blocks/foot.html": []byte("<i>@{=site.phone}</i>"), "blocks/new.html": []byte("@{foot /}")}
	take := func(site, how string, into any) int {
		return b.send("POST", "/sites/"+site+"/imports?"+how, zipOf(t, part), into, "Content-Type", "application/zip").StatusCode
	}
	var refused api.Problem
	require.Equal(t, 409, take("small", "", &refused))
	require.Equal(t, api.Clash, refused.Title)
	require.Contains(t, refused.Detail, "blocks/foot.html")

	var out api.Imported
	require.Equal(t, 200, take("small", "dry_run=true", &out))
	require.False(t, out.Saved)
	require.Equal(t, 200, take("small", "dry_run=true&merge=true", &out))
	require.Equal(t, []string{"blocks/foot.css"}, out.Removed)
	require.Equal(t, 200, take("small", "as=blocks/foot.html=base&title=Two+blocks", &out))
	require.Equal(t, []string{"blocks/base.html", "blocks/new.html"}, out.Added)
	require.Equal(t, []string{"site.yaml"}, out.Changed)
	var text string
	b.send("GET", "/sites/small/documents?path=blocks/new.html", nil, &text)
	require.Equal(t, "@{base /}", text)
	require.Equal(t, 200, take("small", "keep=true", &out))
	require.Equal(t, []string{}, out.Added, "the same block comes in once")

	require.Equal(t, 200, take("fresh", "", &out))
	require.True(t, out.Created)
	b.send("GET", "/sites/fresh/documents?path=site.yaml", nil, &text)
	require.False(t, strings.Contains(text, "part"))
	require.Contains(t, text, "phone")
}
