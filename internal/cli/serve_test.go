package cli

import (
	"bufio"
	"bytes"
	"encoding/json"
	"fmt"
	"io"
	"net"
	"net/http"
	"os"
	"path/filepath"
	"regexp"
	"strings"
	"syscall"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"brickshelf/internal/core/site"
	"brickshelf/internal/store"
)

// served runs a command that serves until it is told to end, and gives the addresses
// that it prints and what ends it.
func served(t *testing.T, args ...string) (tool, site string, end func() int) {
	r, w := io.Pipe()
	var errs bytes.Buffer
	ended := make(chan int, 1)
	go func() {
		ended <- Run(append(args, "--addr", "127.0.0.1:0", "--site-addr", "127.0.0.1:0"), w, &errs)
		_ = w.Close()
	}()
	address := regexp.MustCompile(`http://\S+`)
	var found []string
	lines := bufio.NewScanner(r)
	for len(found) < 2 && lines.Scan() {
		found = append(found, address.FindAllString(lines.Text(), -1)...)
	}
	require.Len(t, found, 2, "it prints both addresses; %s", errs.String())
	return found[0], found[1], func() int {
		require.NoError(t, syscall.Kill(os.Getpid(), syscall.SIGTERM))
		select {
		case code := <-ended:
			return code
		case <-time.After(20 * time.Second):
			require.Fail(t, "it does not end when it is told to")
			return -1
		}
	}
}

func get(t *testing.T, url string) (int, string) {
	resp, err := http.Get(url)
	require.NoError(t, err)
	defer resp.Body.Close()
	body, err := io.ReadAll(resp.Body)
	require.NoError(t, err)
	return resp.StatusCode, string(body)
}

func post(t *testing.T, url string, body any) string {
	sent, err := json.Marshal(body)
	require.NoError(t, err)
	req, err := http.NewRequest(http.MethodPost, url, bytes.NewReader(sent))
	require.NoError(t, err)
	req.Header.Set("X-Brick-Shelf", "1")
	req.Header.Set("Content-Type", "application/json")
	resp, err := http.DefaultClient.Do(req)
	require.NoError(t, err)
	defer resp.Body.Close()
	got, err := io.ReadAll(resp.Body)
	require.NoError(t, err)
	require.Less(t, resp.StatusCode, 300, string(got))
	return string(got)
}

func TestServeWritesWhatIsPublishedAndEndsInOrder(t *testing.T) {
	data, out := t.TempDir(), filepath.Join(t.TempDir(), "www")
	files := small()
	code, _, stderr := run("import", "--data", data, "--site", "small", write(t, files))
	require.Equal(t, ExitDone, code, stderr)
	tool, siteAt, end := served(t, "serve", "--data", data, "--out", out)

	status, page := get(t, siteAt+"/p/")
	require.Equal(t, http.StatusNotFound, status, "nothing is published yet: %s", page)
	status, page = get(t, siteAt+"/_draft/p/")
	require.Equal(t, http.StatusOK, status)
	require.True(t, strings.HasPrefix(page, "a"), page)

	at := tool + "/api/v1/sites/small"
	post(t, at+"/change-sets", map[string]any{"title": "Edit a",
		"changes": []any{map[string]any{"path": "blocks/a.html", "before": site.HashOf([]byte("a")),
			"text": "b"}}})
	post(t, at+"/releases", map[string]any{"title": "First"})
	_, page = get(t, siteAt+"/p/")
	require.Equal(t, "b", page)
	require.Eventually(t, func() bool {
		written, err := os.ReadFile(filepath.Join(out, "p", "index.html"))
		return err == nil && string(written) == "b"
	}, 20*time.Second, 10*time.Millisecond, "what is published is in the folder too")
	require.Equal(t, ExitDone, end())

	_, siteAt, end = served(t, "serve", "--data", data, "--site", "small")
	_, page = get(t, siteAt+"/p/")
	require.Equal(t, "b", page, "it is all there after a restart")
	require.Equal(t, ExitDone, end())
}

func TestWhatCannotBeWrittenIsToldAndTriedAgain(t *testing.T) {
	data, out := t.TempDir(), t.TempDir()
	code, _, stderr := run("import", "--data", data, "--site", "small", write(t, small()))
	require.Equal(t, ExitDone, code, stderr)
	mine := filepath.Join(out, "sitemap.xml")
	require.NoError(t, os.WriteFile(mine, []byte("mine"), 0o644))
	tool, _, end := served(t, "serve", "--data", data, "--out", out)
	at := tool + "/api/v1/sites/small"
	type writing struct {
		Folder, Problem string
		Release         int
	}
	events, err := http.Get(at + "/events")
	require.NoError(t, err)
	defer events.Body.Close()
	lines := bufio.NewScanner(events.Body)
	require.True(t, lines.Scan())
	var published struct{ Writing writing }
	require.NoError(t, json.Unmarshal([]byte(post(t, at+"/releases", map[string]any{"title": "First"})),
		&published))
	for lines.Scan() && lines.Text() != "event:progress" { // all are told how far that is
	}
	require.True(t, lines.Scan())
	pages := 0
	for p := range small() {
		if strings.HasPrefix(p, "pages/") {
			pages++
		}
	}
	require.Equal(t, fmt.Sprintf(`data:{"done":1,"total":%d,"what":"Rendering pages"}`, pages), lines.Text())
	require.Equal(t, 1, published.Writing.Release)
	require.Equal(t, out, published.Writing.Folder)
	require.Contains(t, published.Writing.Problem, "sitemap.xml would be overwritten")
	_, review := get(t, at+"/review")
	require.Contains(t, review, "sitemap.xml would be overwritten")
	b, err := os.ReadFile(mine)
	require.NoError(t, err)
	require.Equal(t, "mine", string(b))

	require.NoError(t, os.Remove(mine))
	var again writing
	require.NoError(t, json.Unmarshal([]byte(post(t, at+"/writing", nil)), &again))
	require.Empty(t, again.Problem)
	_, err = os.Stat(filepath.Join(out, "p", "index.html"))
	require.NoError(t, err)
	require.Equal(t, ExitDone, end())

	// What a run did not write the next one writes when it starts.
	require.NoError(t, os.Remove(filepath.Join(out, "p", "index.html")))
	_, _, end = served(t, "serve", "--data", data, "--out", out)
	require.Eventually(t, func() bool {
		_, err := os.Stat(filepath.Join(out, "p", "index.html"))
		return err == nil
	}, 20*time.Second, 10*time.Millisecond)
	require.Equal(t, ExitDone, end())
}

// One process has a data folder; others are told where, hand what they bring to it, and
// read beside it.
func TestAFolderThatIsServed(t *testing.T) {
	data := t.TempDir()
	files := small()
	code, _, stderr := run("import", "--data", data, "--site", "small", write(t, files))
	require.Equal(t, ExitDone, code, stderr)
	tool, siteAt, end := served(t, "serve", "--data", data, "--site", "small")

	code, _, stderr = run("serve", "--data", data, "--addr", "127.0.0.1:0", "--site-addr", "127.0.0.1:0")
	require.Equal(t, ExitBad, code)
	require.Contains(t, stderr, "is served already, at "+tool)

	events, err := http.Get(tool + "/api/v1/sites/small/events")
	require.NoError(t, err)
	defer events.Body.Close()
	lines := bufio.NewScanner(events.Body)
	files["blocks/a.html"], files["pages/new.html"] = []byte("handed over"), []byte("@{a /}")
	code, out, stderr := run("import", "--data", data, "--site", "small", "--dry-run", write(t, files))
	require.Equal(t, ExitDone, code, stderr)
	require.Contains(t, out, "would add 1, would change 1, would remove 0 documents")
	code, out, stderr = run("import", "--data", data, "--site", "small", write(t, files))
	require.Equal(t, ExitDone, code, stderr)
	require.Contains(t, out, "adds 1, changes 1, removes 0 documents")
	for lines.Scan() && !strings.Contains(lines.Text(), "Import ") { // every open tab is told
	}
	require.Contains(t, lines.Text(), "Import ")
	_, page := get(t, siteAt+"/_draft/new/")
	require.True(t, strings.HasPrefix(page, "handed over"), page)

	delete(files, "pages/new.html")
	code, _, stderr = run("import", "--data", data, "--site", "small", write(t, files))
	require.Equal(t, ExitBad, code)
	require.Contains(t, stderr, "pages/new.html would be removed")
	require.Contains(t, stderr, "--merge")
	code, _, stderr = run("import", "--data", data, "--site", "small", "--merge",
		write(t, site.Files{"blocks/a.html": []byte("@{when x}")}))
	require.Equal(t, ExitBad, code)
	require.Contains(t, stderr, "blocks/a.html:1:1: @{when …} is opened here")
	code, _, stderr = run("import", "--data", data, "--site", "other", write(t, small()))
	require.Equal(t, ExitDone, code, stderr)
	status, _ := get(t, tool+"/api/v1/sites/other")
	require.Equal(t, http.StatusOK, status, "a new site is there at once")

	to := filepath.Join(t.TempDir(), "out")
	code, _, stderr = run("export", "--data", data, "--site", "small", to)
	require.Equal(t, ExitDone, code, stderr)
	b, err := os.ReadFile(filepath.Join(to, "blocks", "a.html"))
	require.NoError(t, err)
	require.Equal(t, "handed over", string(b))
	post(t, tool+"/api/v1/sites/small/releases", map[string]any{"title": "First"})
	code, _, stderr = run("publish", "--data", data, "--site", "small", "--out", filepath.Join(t.TempDir(),
		"www"))
	require.Equal(t, ExitDone, code, stderr)
	_ = events.Body.Close()
	require.Equal(t, ExitDone, end())

	_, _, end = served(t, "serve", "--data", data, "--site", "small")
	require.Equal(t, ExitDone, end(), "a folder that is no longer served can be")
}

func TestServeRefuses(t *testing.T) {
	data := t.TempDir()
	for _, name := range []string{"one", "two"} {
		code, _, stderr := run("import", "--data", data, "--site", name, write(t, small()))
		require.Equal(t, ExitDone, code, stderr)
	}
	taken, err := net.Listen("tcp", "127.0.0.1:0")
	require.NoError(t, err)
	defer taken.Close()
	for _, c := range []struct {
		args []string
		says string
	}{
		{[]string{"serve", "--data", data, "--out", t.TempDir()}, "name one with --site: one two"},
		{[]string{"serve", "--data", data, "--site", "three"}, "three"},
		{[]string{"serve", "--data", data, "--site", "one", "--addr", "0.0.0.0:0"}, "has no sign-in"},
		{[]string{"serve", "--data", data, "--site", "one", "--addr", ":0"}, "127.0.0.1:7420 with --addr"},
		{[]string{"serve", "--data", data, "--site", "one", "--addr", "[::]:0"}, "this machine alone"},
		{[]string{"serve", "--data", data, "--site", "one", "--addr", taken.Addr().String()},
			"name a free address with --addr"},
		{[]string{"serve", "--data", data, "--site", "one", "--addr", "127.0.0.1:0", "--site-addr",
			taken.Addr().String()}, "name a free address with --site-addr"},
		{[]string{"serve"}, "data"},
		{[]string{"demo", "--data", data}, "holds a database already"},
	} {
		code, stdout, stderr := run(c.args...)
		require.Equal(t, ExitBad, code, c.args)
		require.Contains(t, stderr, c.says)
		require.NotContains(t, stdout, "http://", "it does not say that it serves")
	}
}

func TestTheDemoIsServedAndKeptWhereOneWants(t *testing.T) {
	data := filepath.Join(t.TempDir(), "kept")
	tool, siteAt, end := served(t, "demo", "--data", data)
	status, home := get(t, siteAt+"/")
	require.Equal(t, http.StatusOK, status)
	require.Contains(t, home, "Ternholm Ferries")
	_, overview := get(t, tool+"/api/v1/sites/ternholm")
	var told struct {
		Pages []struct{ Path string } `json:"pages"`
	}
	require.NoError(t, json.Unmarshal([]byte(overview), &told))
	for _, p := range told.Pages {
		status, _ := get(t, siteAt+p.Path)
		require.Equal(t, http.StatusOK, status, p.Path)
	}
	require.Equal(t, ExitDone, end())
	st, err := store.Open(data)
	require.NoError(t, err)
	defer st.Close()
	s, err := st.Site("ternholm")
	require.NoError(t, err)
	published, err := st.Files(s.ID, store.Published)
	require.NoError(t, err)
	demo, err := demoFiles()
	require.NoError(t, err)
	require.Equal(t, fmt.Sprint(demo.Paths()), fmt.Sprint(published.Paths()))
}

// What the generator makes is a site like another: valid, of as many pages as asked for,
// and the same every time, so that figures of one run can be held against another's.
func TestGenerate(t *testing.T) {
	var trees []string
	for range 2 {
		dir := filepath.Join(t.TempDir(), "site")
		code, _, stderr := run("generate", "--pages", "40", dir)
		require.Equal(t, ExitDone, code, stderr)
		code, stdout, stderr := run("check", dir)
		require.Equal(t, ExitDone, code, stdout+stderr)
		pages, all := 0, ""
		require.NoError(t, filepath.WalkDir(dir, func(path string, d os.DirEntry, err error) error {
			if err != nil || d.IsDir() {
				return err
			}
			name, _ := filepath.Rel(dir, path)
			if strings.HasPrefix(name, "pages"+string(filepath.Separator)) {
				pages++
			}
			text, err := os.ReadFile(path)
			all += fmt.Sprintf("%s %s\n", name, site.HashOf(text))
			return err
		}))
		require.Equal(t, 40, pages)
		trees = append(trees, all)
	}
	require.Equal(t, trees[0], trees[1])
}

// The site may be reached from elsewhere, and it is said what that means.
func TestASiteThatOthersCanReachIsSaid(t *testing.T) {
	data := t.TempDir()
	code, _, stderr := run("import", "--data", data, "--site", "small", write(t, small()))
	require.Equal(t, ExitDone, code, stderr)
	r, w := io.Pipe()
	var errs bytes.Buffer
	ended := make(chan int, 1)
	go func() {
		ended <- Run([]string{"serve", "--data", data, "--addr", "127.0.0.1:0", "--site-addr", "0.0.0.0:0"},
			w, &errs)
		_ = w.Close()
	}()
	lines := bufio.NewScanner(r)
	for lines.Scan() && !strings.Contains(lines.Text(), "The site") {
	}
	require.NoError(t, syscall.Kill(os.Getpid(), syscall.SIGTERM))
	require.Equal(t, ExitDone, <-ended)
	require.Contains(t, errs.String(), "can be reached from other machines, and with it the draft")
}

func TestSitesAreMadeAndListed(t *testing.T) {
	data := t.TempDir()
	code, out, stderr := run("new", "--data", data, "Hill Farm")
	require.Equal(t, ExitDone, code, stderr)
	require.Equal(t, "Made the site hill-farm.\n", out)
	code, _, stderr = run("new", "--data", data, "--site", "hill-farm", "Hill Farm")
	require.Equal(t, ExitBad, code)
	require.Contains(t, stderr, "there is a site of this name already")

	// What is made beside a server is there at once, and each site is shown under its own name.
	tool, siteAt, end := served(t, "serve", "--data", data)
	for args, want := range map[string]string{"Bakery": "bakery", "Hill Farm": "hill-farm-2"} {
		code, out, stderr = run("new", "--data", data, args)
		require.Equal(t, ExitDone, code, stderr)
		require.Equal(t, "Made the site "+want+".\n", out)
	}
	code, _, stderr = run("new", "--data", data, "--copy-of", "none", "x")
	require.Equal(t, ExitBad, code)
	require.Contains(t, stderr, "there is no such site")
	status, _ := get(t, tool+"/api/v1/sites/bakery")
	require.Equal(t, http.StatusOK, status)
	_, page := get(t, siteAt+"/_draft/")
	require.Contains(t, page, "Hill Farm")

	code, out, stderr = run("sites", "--data", data)
	require.Equal(t, ExitDone, code, stderr)
	require.Regexp(t, `(?m)^hill-farm +1 pages +not published +0 edits wait `, out)
	code, out, stderr = run("sites", "--data", data, "--json")
	require.Equal(t, ExitDone, code, stderr)
	var list []struct{ Name string }
	require.NoError(t, json.Unmarshal([]byte(out), &list))
	require.Equal(t, []struct{ Name string }{{"bakery"}, {"hill-farm"}, {"hill-farm-2"}}, list)
	require.Equal(t, ExitDone, end())

	// Several are served without one that the plain address shows.
	_, siteAt, end = served(t, "serve", "--data", data)
	status, page = get(t, siteAt+"/")
	require.Equal(t, http.StatusNotFound, status)
	require.Contains(t, page, "http://bakery.localhost:")
	require.Equal(t, ExitDone, end())
}
