package cli

import (
	"encoding/json"
	"fmt"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"
)

// oldSite is a folder of pages that no shelf folder is, with one footer.
func oldSite(t *testing.T) string {
	dir := t.TempDir()
	for i := range 5 {
		text := fmt.Sprintf("<html><body><h1>%s</h1>\n<div id=\"foot\"><p>Kept by <b>%s</b> of the mill house, which stands at the "+
			"end of the long pond.</p></div></body></html>", strings.Repeat(string(rune('a'+i)), 40),
			[]string{"Ida", "Ole &ndash; Per"}[i%2])
		require.NoError(t, os.WriteFile(filepath.Join(dir, fmt.Sprintf("p%d.html", i)), []byte(text), 0o644))
	}
	return dir
}

type found struct {
	Pages      int `json:"pages"`
	Candidates []struct {
		ID     string `json:"id"`
		Title  string `json:"title"`
		Pages  int    `json:"pages"`
		Fields []struct {
			Name   string `json:"name"`
			Values int    `json:"values"`
		} `json:"fields"`
		At []struct {
			Page     string `json:"page"`
			From, To int
		} `json:"at"`
	} `json:"candidates"`
}

func TestRepeatsAndAdopt(t *testing.T) {
	old := oldSite(t)
	code, out, stderr := run("repeats", old, "--json")
	require.Equal(t, ExitDone, code, stderr)
	var list found
	require.NoError(t, json.Unmarshal([]byte(out), &list))
	require.Equal(t, 5, list.Pages)
	first := list.Candidates[0]
	require.Equal(t, "Foot", first.Title)
	require.Equal(t, 5, first.Pages)
	require.Equal(t, 2, first.Fields[0].Values)
	src, err := os.ReadFile(filepath.Join(old, strings.TrimPrefix(first.At[1].Page, "pages/")))
	require.NoError(t, err)
	require.True(t, strings.HasPrefix(string(src[first.At[1].From:first.At[1].To]), `<div id="foot">`))
	code, out, _ = run("repeats", old)
	require.Equal(t, ExitDone, code)
	require.Contains(t, out, first.ID)

	code, _, stderr = run("adopt", old, first.ID)
	require.Equal(t, ExitBad, code)
	require.Contains(t, stderr, "--out OUT")
	shelf := filepath.Join(t.TempDir(), "shelf")
	code, _, stderr = run("adopt", old, "no-such", "--out", shelf)
	require.Equal(t, ExitBad, code)
	require.Contains(t, stderr, "no repeated piece has the id no-such")
	require.NoDirExists(t, shelf)
	code, _, stderr = run("adopt", old, first.ID, first.ID, "--as", "x", "--out", shelf)
	require.Equal(t, ExitBad, code)
	require.Contains(t, stderr, "--as names one block")
	code, out, stderr = run("adopt", old, first.ID, "--as", "mill-foot", "--out", shelf)
	require.Equal(t, ExitDone, code, stderr)
	require.Equal(t, first.ID+": block mill-foot in 5 places, 0 left as they are\nNo byte of any page changes.\n", out)
	require.FileExists(t, filepath.Join(shelf, "blocks", "mill-foot.html"))

	public := filepath.Join(t.TempDir(), "public")
	code, _, stderr = run("publish", shelf, "--out", public)
	require.Equal(t, ExitDone, code, stderr)
	for i := range 5 {
		name := fmt.Sprintf("p%d.html", i)
		was, err := os.ReadFile(filepath.Join(old, name))
		require.NoError(t, err)
		is, err := os.ReadFile(filepath.Join(public, name))
		require.NoError(t, err)
		require.Equal(t, string(was), string(is))
	}
}

// Two pieces with which pages begin and end become a layout.
func TestAdoptAsALayout(t *testing.T) {
	old := t.TempDir()
	for i := range 6 {
		text := fmt.Sprintf("<!doctype html><html><head><title>Chapter %d</title></head><body><div class=\"head\">The handbook of the mill at the "+
			"pond</div>\n%s<div class=\"foot\">Kept by the keepers of the mill house at the pond</div></body></html>", i,
			strings.Repeat("<p>"+strings.Repeat(string(rune('a'+i)), 60)+"</p>", 20+i))
		require.NoError(t, os.WriteFile(filepath.Join(old, fmt.Sprintf("p%d.html", i)), []byte(text), 0o644))
	}
	code, out, _ := run("repeats", old, "--json")
	require.Equal(t, ExitDone, code)
	var list found
	require.NoError(t, json.Unmarshal([]byte(out), &list))
	var top, bottom string
	for _, c := range list.Candidates {
		switch {
		case c.Pages == 6 && c.At[0].From == 0 && top == "":
			top = c.ID
		case c.Pages == 6 && c.At[0].From > 1000 && bottom == "":
			bottom = c.ID
		}
	}
	shelf := filepath.Join(t.TempDir(), "shelf")
	code, _, stderr := run("adopt", old, top, "--layout", "chapter", "--out", shelf)
	require.Equal(t, ExitBad, code)
	require.Contains(t, stderr, "a layout is made of two pieces")
	code, out, stderr = run("adopt", old, top, bottom, "--layout", "chapter", "--out", shelf)
	require.Equal(t, ExitDone, code, stderr)
	require.Equal(t, "Layout chapter: 6 pages, 0 left as they are\nNo byte of any page changes.\n", out)
	page, err := os.ReadFile(filepath.Join(shelf, "pages", "p1.html"))
	require.NoError(t, err)
	require.NotContains(t, string(page), "handbook")
	require.Contains(t, string(page), "layout: chapter")
}

// A shelf folder is changed where it is, and only what changes.
func TestAdoptInPlace(t *testing.T) {
	dir := filepath.Join(t.TempDir(), "shelf")
	code, _, stderr := run("convert", oldSite(t), dir)
	require.Equal(t, ExitDone, code, stderr)
	require.NoError(t, os.WriteFile(filepath.Join(dir, "NOTES"), []byte("mine"), 0o600))
	code, out, _ := run("repeats", dir, "--json")
	require.Equal(t, ExitDone, code)
	var list found
	require.NoError(t, json.Unmarshal([]byte(out), &list))
	code, out, stderr = run("adopt", dir, list.Candidates[0].ID, "--json")
	require.Equal(t, ExitDone, code, stderr)
	require.Contains(t, out, `"block":"foot","places":5,"left":[]`)
	require.Contains(t, out, `"documents":6`)
	page, err := os.ReadFile(filepath.Join(dir, "pages", "p1.html"))
	require.NoError(t, err)
	require.Contains(t, string(page), "@{foot kept-by=`Ole &ndash; Per` /}")
	notes, err := os.ReadFile(filepath.Join(dir, "NOTES"))
	require.NoError(t, err)
	require.Equal(t, "mine", string(notes))
	entries, err := filepath.Glob(filepath.Join(dir, "*", ".change-*"))
	require.NoError(t, err)
	require.Empty(t, entries)
	code, _, stderr = run("check", dir)
	require.Equal(t, ExitDone, code, stderr)
}
