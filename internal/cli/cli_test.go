package cli

import (
	"bytes"
	"database/sql"
	"encoding/json"
	"fmt"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"brickshelf/internal/core/site"
	"brickshelf/internal/folder"
	"brickshelf/internal/store"
)

// The test binary runs scripts for itself, and serves in a process that can be killed.
func TestMain(m *testing.M) {
	if len(os.Args) == 2 && os.Args[1] == workerCommand {
		os.Exit(Run(os.Args[1:], os.Stdout, os.Stderr))
	}
	if dir := os.Getenv(serveIn); dir != "" {
		os.Exit(serveOf(dir))
	}
	os.Exit(m.Run())
}

func run(args ...string) (code int, stdout, stderr string) {
	var out, err bytes.Buffer
	code = Run(args, &out, &err)
	return code, out.String(), err.String()
}

func write(t *testing.T, files site.Files) string {
	dir := filepath.Join(t.TempDir(), "site")
	require.NoError(t, folder.Write(dir, files, nil))
	return dir
}

func small() site.Files {
	return site.Files{
		"site.yaml":      []byte("format: brickshelf/1\r\n# a comment\r\n"),
		"layouts/l.html": []byte("@{region main /}"), "blocks/a.html": []byte("a"),
		"pages/p.html": []byte("---\nlayout: l\n---\n@{a /}"), "pages/q.html": []byte("\xe9"),
		"assets/x.bin": {0, 1, 2}, "rules/r.yaml": []byte("block: a\nregion: main\non: [home]\n"),
	}
}

func TestExportOfAnImportIsTheSameFileForFile(t *testing.T) {
	demo, err := demoFiles()
	require.NoError(t, err)
	for _, files := range []site.Files{small(), demo} {
		from, data, to := write(t, files), t.TempDir(), filepath.Join(t.TempDir(), "out")
		code, _, stderr := run("import", "--data", data, from)
		require.Equal(t, ExitDone, code, stderr)
		for _, name := range []string{to, to + ".zip"} {
			code, _, stderr = run("export", "--data", data, name)
			require.Equal(t, ExitDone, code, stderr)
			got, err := folder.Read(name, nil)
			require.NoError(t, err)
			require.Equal(t, files, got)
		}
	}
}

func TestImportRefusesBadInputAndLeavesNothing(t *testing.T) {
	files := small()
	files["blocks/a.html"] = []byte("---\ntitle: A\n---\n<p>\n  @{when x}")
	data := filepath.Join(t.TempDir(), "data")
	code, _, stderr := run("import", "--data", data, write(t, files))
	require.Equal(t, ExitBad, code)
	require.Contains(t, stderr, "blocks/a.html:5:3: @{when …} is opened here and never closed")
	_, err := os.Stat(data)
	require.ErrorIs(t, err, os.ErrNotExist)
}

func TestImportingAgainIsAnEdit(t *testing.T) {
	data := t.TempDir()
	files := small()
	run("import", "--data", data, write(t, files))
	files["blocks/a.html"] = []byte("other")
	code, out, stderr := run("import", "--data", data, write(t, files))
	require.Equal(t, ExitDone, code, stderr)
	require.Contains(t, out, "Import into main: adds 0, changes 1, removes 0 documents.\nChanges 1 page.")
	to := filepath.Join(t.TempDir(), "out")
	run("export", "--data", data, "--site", "main", to)
	got, err := folder.Read(to, nil)
	require.NoError(t, err)
	require.Equal(t, "other", string(got["blocks/a.html"]))
	code, out, _ = run("import", "--data", data, write(t, files))
	require.Equal(t, ExitDone, code)
	require.Contains(t, out, "The draft of main is the same already.")
	files["blocks/a.html"], files["blocks/b.html"] = []byte("more"), []byte("b")
	_, out, _ = run("import", "--data", data, write(t, files))
	require.Contains(t, out, "adds 1, changes 1, removes 0 documents")
}

// Damage in the database is told with the document, everything else can be exported, and
// a folder that holds the document mends it.
func TestADamagedDatabase(t *testing.T) {
	data := t.TempDir()
	files := small()
	run("import", "--data", data, write(t, files))
	db, err := sql.Open("sqlite", filepath.Join(data, store.FileName))
	require.NoError(t, err)
	_, err = db.Exec("UPDATE blobs SET bytes = x'0011' WHERE hash = ?",
		string(site.HashOf(files["blocks/a.html"])))
	require.NoError(t, err)
	require.NoError(t, db.Close())

	code, _, stderr := run("serve", "--data", data, "--addr", "127.0.0.1:0", "--site-addr", "127.0.0.1:0")
	require.Equal(t, ExitBad, code, "what would use it does not start")
	require.Contains(t, stderr, "blocks/a.html is damaged in the database")
	to := filepath.Join(t.TempDir(), "out")
	code, _, stderr = run("export", "--data", data, to)
	require.Equal(t, ExitBreaks, code)
	require.Contains(t, stderr, "blocks/a.html is damaged in the database and was not written")
	got, err := folder.Read(to, nil)
	require.NoError(t, err)
	require.Len(t, got, len(files)-1)

	files["blocks/a.html"] = append(files["blocks/a.html"], "!"...) // another text will do
	code, out, stderr := run("import", "--data", data, write(t, files))
	require.Equal(t, ExitDone, code, stderr)
	require.Contains(t, out, "Mended what was damaged in the database: blocks/a.html.")
	code, _, stderr = run("export", "--data", data, filepath.Join(t.TempDir(), "whole"))
	require.Equal(t, ExitDone, code, stderr)
}

// What an import would remove goes only where one says so.
func TestImportRemovesOnlyWhatItIsTold(t *testing.T) {
	data := t.TempDir()
	files := small()
	for i := range 5 {
		files[fmt.Sprintf("pages/more%d.html", i)] = []byte("more")
	}
	run("import", "--data", data, write(t, files))
	kept := func() site.Files {
		to := filepath.Join(t.TempDir(), "out")
		code, _, stderr := run("export", "--data", data, to)
		require.Equal(t, ExitDone, code, stderr)
		got, err := folder.Read(to, nil)
		require.NoError(t, err)
		return got
	}
	part := small()
	part["pages/new.html"] = []byte("new")
	code, out, stderr := run("import", "--data", data, write(t, part))
	require.Equal(t, ExitBad, code)
	require.Empty(t, out)
	require.Contains(t, stderr,
		"pages/more0.html, pages/more1.html, pages/more2.html and 2 more would be removed")
	require.Contains(t, stderr, "--merge to keep them, or --replace")
	require.Equal(t, files, kept())

	for _, mode := range []string{"--merge", "--replace"} {
		code, out, stderr = run("import", "--data", data, mode, "--dry-run", write(t, part))
		require.Equal(t, ExitDone, code, stderr)
		removes := map[string]int{"--merge": 0, "--replace": 5}[mode]
		require.Contains(t, out, fmt.Sprintf("would add 1, would change 0, would remove %d documents",
			removes))
		require.Equal(t, removes, strings.Count(out, "would remove pages/more"))
		require.Contains(t, out, "1 page is added", "and what it does to the pages")
		require.Equal(t, files, kept(), "nothing was done")
	}
	code, _, stderr = run("import", "--data", data, "--merge",
		write(t, site.Files{"pages/new.html": []byte("new")}))
	require.Equal(t, ExitDone, code, stderr, "a part of a site can be merged")
	files["pages/new.html"] = []byte("new")
	require.Equal(t, files, kept())
	code, _, stderr = run("import", "--data", data, "--replace", write(t, part))
	require.Equal(t, ExitDone, code, stderr)
	require.Equal(t, part, kept())
	code, _, stderr = run("import", "--data", data, "--replace", "--merge", write(t, part))
	require.Equal(t, ExitBad, code)
	require.Contains(t, stderr, "name one of them")
	code, _, stderr = run("import", "--data", data, "--site", "No/Name", write(t, part))
	require.Equal(t, ExitBad, code)
	require.Contains(t, stderr, "lower-case letters")
}

func TestSeveralSitesInOnePlace(t *testing.T) {
	data, out := t.TempDir(), filepath.Join(t.TempDir(), "out")
	for _, name := range []string{"one", "two"} {
		files := small()
		files["blocks/a.html"] = []byte(name)
		code, _, stderr := run("import", "--data", data, "--site", name, write(t, files))
		require.Equal(t, ExitDone, code, stderr)
	}
	code, _, stderr := run("export", "--data", data, out)
	require.NotEqual(t, ExitDone, code)
	require.Contains(t, stderr, "there are 2 sites here; name one with --site: one two")
	code, _, stderr = run("export", "--data", data, "--site", "three", out)
	require.NotEqual(t, ExitDone, code)
	require.Contains(t, stderr, "three")
	code, _, stderr = run("export", "--data", data, "--site", "two", out)
	require.Equal(t, ExitDone, code, stderr)
	got, err := folder.Read(out, nil)
	require.NoError(t, err)
	require.Equal(t, "two", string(got["blocks/a.html"]))
	code, _, stderr = run("export", "--data", filepath.Join(data, "none"), out)
	require.NotEqual(t, ExitDone, code)
	require.Contains(t, stderr, "there is no data folder")
}

func TestImpactIsToldInWords(t *testing.T) {
	before, after := small(), small()
	after["pages/new.html"] = []byte("new")
	delete(after, "blocks/a.html")
	delete(after, "pages/q.html")
	code, out, _ := run("impact", write(t, before), write(t, after))
	require.Equal(t, ExitBreaks, code)
	require.Equal(t,
		"added     /new/\nchanges   /p/\n          breaks at main/a~1: there is no block or shortcode a\nremoved   /q/\nChanges 1 page. 1 page is added. 1 page is removed. 1 thing breaks: there is no block or shortcode a (/p/).\n", out)
	code, out, _ = run("impact", write(t, before), write(t, before))
	require.Equal(t, ExitDone, code)
	require.Equal(t, "No page changes. No new errors.\n", out)
	after["site.yaml"] = []byte("format: brickshelf/1\nexact_urls: true\n")
	code, out, _ = run("impact", write(t, before), write(t, after), "--json")
	require.Equal(t, ExitBreaks, code)
	require.Contains(t, out, `"path":"/p.html"`, "a site whose addresses are others is compared page by page")
}

func TestImpactPrintsOneObject(t *testing.T) {
	before, after := small(), small()
	after["blocks/a.html"] = []byte("b")
	code, out, stderr := run("impact", write(t, before), write(t, after), "--json")
	require.Equal(t, ExitDone, code, stderr)
	require.JSONEq(t,
		`{"total":2,"counts":{"added":0,"removed":0,"changes":1,"held":0,"copied":0,"hidden":0,"same":0,"untouched":1},
		"pages":[{"path":"/p/","effect":"changes","placements":[{"address":"main/a~1","block":"a","effect":"changes"}],"breaks":[]}]}`, out)

	delete(after, "blocks/a.html")
	code, out, _ = run("impact", write(t, before), write(t, after), "--json")
	require.Equal(t, ExitBreaks, code)
	var im struct {
		Pages []struct{ Breaks []map[string]string }
	}
	require.NoError(t, json.Unmarshal([]byte(out), &im))
	require.Equal(t, "unresolved-call", im.Pages[0].Breaks[0]["code"])

	after["site.yaml"] = []byte("x: y")
	code, out, stderr = run("impact", write(t, before), write(t, after))
	require.Equal(t, ExitBad, code)
	require.Empty(t, out)
	require.Contains(t, stderr, "site.yaml:1:1:")
}

func TestCheck(t *testing.T) {
	code, out, _ := run("check", write(t, small()), "--json")
	require.Equal(t, ExitDone, code)
	require.Contains(t, out,
		`{"findings":[{"code":"empty-rule","severity":"warning","path":"rules/r.yaml","line":1,"column":1,`)
	files := small()
	files["pages/p.html"] = []byte("@{b /}")
	code, _, _ = run("check", write(t, files))
	require.Equal(t, ExitBreaks, code)
	files["pages/p.html"] = []byte("@{b")
	code, out, _ = run("check", write(t, files), "--json")
	require.Equal(t, ExitBad, code)
	require.Contains(t, out, `"severity":"error","path":"pages/p.html","line":1`)
}

func TestCopies(t *testing.T) {
	files := small()
	dir := write(t, files)
	code, out, _ := run("copies", dir)
	require.Equal(t, ExitDone, code)
	require.Equal(t, "No page holds a copy.\n", out)
	files["pages/p.html"] = []byte(`@{copy of="a" base="` + string(site.HashOf(files["blocks/a.html"])) +
		`" call="@{a /}"}` + string(files["blocks/a.html"]) + `@{/copy}@{copy of="a" base="x"}@{/copy}`)
	dir = write(t, files)
	code, out, _ = run("copies", dir)
	require.Equal(t, ExitDone, code)
	require.Equal(t, "unchanged a at main/a~1 of /p/\n"+
		"unknown   a at main/a~2 of /p/: the revision of a that it came from is not in history\n", out)
	code, out, _ = run("copies", dir, "--json")
	require.Equal(t, ExitDone, code)
	require.Equal(t, `{"copies":[{"page":"/p/","address":"main/a~1","of":"a","standing":"unchanged"},`+
		`{"page":"/p/","address":"main/a~2","of":"a","standing":"unknown"}]}`+"\n", out)
}

func TestExplain(t *testing.T) {
	files := small()
	files["rules/more.yaml"] = []byte("block: a\nregion: main\non: [all]\naudience: signed-in\nfrom: 2031-01-01\n")
	dir := write(t, files)
	code, out, stderr := run("explain", dir, "/p/")
	require.Equal(t, ExitDone, code, stderr)
	require.Contains(t, out, "main (stack)")
	require.Contains(t, out, "by the rule more: ")
	var told struct {
		Page    string
		Regions []struct {
			Region     string
			Candidates []struct{ Rule, Why string }
		}
	}
	for _, c := range []struct{ audience, on, why string }{{"signed-out", "2031-01-01", "audience"},
		{"signed-in", "2030-12-31", "dates"}, {"signed-in", "2031-01-01", "shown"}} {
		code, out, stderr = run("explain", "--json", "--audience", c.audience, "--on", c.on, dir, "/p/")
		require.Equal(t, ExitDone, code, stderr)
		require.NoError(t, json.Unmarshal([]byte(out), &told))
		require.Equal(t, "/p/", told.Page)
		require.Equal(t, c.why, told.Regions[0].Candidates[0].Why, c.on)
	}
	for want, args := range map[string][]string{"no page /gone/": {dir, "/gone/"},
		"is no day": {"--on", "soon", dir, "/p/"}, "signed-in or signed-out": {"--audience", "all", dir,
			"/p/"}} {
		code, _, stderr = run(append([]string{"explain"}, args...)...)
		require.NotEqual(t, ExitDone, code)
		require.Contains(t, stderr, want)
	}
	files["layouts/l.html"] = []byte("---\nregions: {side: {mode: one}}\n---\n@{region main /}@{region side}mine@{/region}")
	files["rules/side.yaml"] = []byte("block: a\nregion: side\non: [\"under:/p/\"]\n")
	files["rules/far.yaml"] = []byte("block: a\nregion: nowhere\non: [all]\n")
	files["rules/near.yaml"] = []byte("block: a\nregion: side\non: [\"page:/p/\"]\n")
	code, out, stderr = run("explain", write(t, files), "/p/")
	require.Equal(t, ExitDone, code, stderr)
	require.Contains(t, out, "side (one)\n  shown     a by the rule near: ")
	require.Contains(t, out, "a by the rule side: ")
	require.Contains(t, out, "not on this page\n")
	require.Contains(t, out, "a by the rule far: ")
	code, out, _ = run("explain", "--json", write(t, files), "/p/")
	require.Equal(t, ExitDone, code)
	require.Contains(t, out, `"by":"near"`)
	values := write(t, site.Files{"site.yaml": []byte("format: brickshelf/1\n"),
		"blocks/a.html": []byte("---\nfields: {w: {type: text, default: usual}}\n---\n@{=w}"),
		"pages/p.html":  []byte("@{a w=own /}")})
	code, out, stderr = run("explain", values, "/p/", "main/a~1")
	require.Equal(t, ExitDone, code, stderr)
	require.Equal(t,
		"a at main/a~1, by pages/p.html\nw\n   override  not said (pages/p.html)\n * argument  own (pages/p.html:1)\n   default   usual (blocks/a.html:2)\n", out)
	code, out, _ = run("explain", "--json", values, "/p/", "main/a~1")
	require.Equal(t, ExitDone, code)
	require.Contains(t, out,
		`{"source":"argument","value":"own","document":"pages/p.html","line":1,"wins":true}`)
	code, _, stderr = run("explain", values, "/p/", "main/gone~1")
	require.NotEqual(t, ExitDone, code)
	require.Contains(t, stderr, "no block stands at main/gone~1")
}
