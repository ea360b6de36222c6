package cli

import (
	"bufio"
	"bytes"
	"encoding/json"
	"fmt"
	"io"
	"net/http"
	"os"
	"os/exec"
	"path/filepath"
	"regexp"
	"slices"
	"strings"
	"syscall"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"brickshelf/internal/core/site"
)

// serveIn names, for the test binary, the folder that holds what it is to serve.
const serveIn = "BRICKSHELF_SERVE_IN"

// serveOf is what the test binary does where serveIn is set.
func serveOf(dir string) int {
	return Run([]string{"serve", "--data", filepath.Join(dir, "data"), "--out", filepath.Join(dir, "www"),
		"--addr", "127.0.0.1:0", "--site-addr", "127.0.0.1:0"}, os.Stdout, io.Discard)
}

// state is what a client knows of a site of which each edit writes one number into two
// pages: the numbers that were saved one on the other, how many of those stand, and the one
// that is published.
type state struct {
	saved     []int
	stand     int
	published int
}

func (s state) draft() int {
	if s.stand == 0 {
		return 0
	}
	return s.saved[s.stand-1]
}

// after is the state after an operation; the number is that of an edit.
func (s state) after(op string, number int) state {
	switch op {
	case "change-sets":
		s.saved = append(slices.Clone(s.saved[:s.stand]), number)
		s.stand++
	case "undo":
		s.stand--
	case "redo":
		s.stand++
	case "releases":
		s.published = s.draft()
	}
	return s
}

// can reports whether an operation can be carried out.
func (s state) can(op string) bool {
	switch op {
	case "undo":
		return s.stand > 0
	case "redo":
		return s.stand < len(s.saved)
	case "releases":
		return s.draft() != s.published
	}
	return true
}

func soaked(number int) string {
	return fmt.Sprintf("number %d %s", number, strings.Repeat("sea ", 500))
}

// A server that is killed again and again while it saves, undoes, publishes and writes
// loses nothing that it has answered, keeps nothing by halves, and once it is started again
// its folder holds what is published.
func TestAServerIsKilledAtAnyMoment(t *testing.T) {
	dir := t.TempDir()
	files := small()
	files["pages/left.html"], files["pages/right.html"] = []byte(soaked(0)), []byte(soaked(0))
	code, _, stderr := run("import", "--data", filepath.Join(dir, "data"), "--site", "small", write(t, files))
	require.Equal(t, ExitDone, code, stderr)
	known, number, answered := state{published: -1}, 0, 0
	ops := []string{"change-sets", "change-sets", "releases", "undo", "change-sets", "releases", "redo",
		"undo", "undo"}
	for round := range 10 {
		cmd := exec.Command(os.Args[0])
		cmd.Env = append(os.Environ(), serveIn+"="+dir)
		out, err := cmd.StdoutPipe()
		require.NoError(t, err)
		require.NoError(t, cmd.Start())
		tool := toolOf(t, out)
		at := tool + "/api/v1/sites/small"
		killed := make(chan struct{})
		go func() {
			time.Sleep(time.Duration(40+31*round) * time.Millisecond)
			_ = cmd.Process.Signal(syscall.SIGKILL)
			_ = cmd.Wait()
			close(killed)
		}()
		var wanted state // with what is under way when the server is killed
		for i := round; ; i++ {
			op := ops[i%len(ops)]
			if !known.can(op) {
				op = "change-sets"
			}
			number++
			if wanted = known.after(op, number); !ask(t, at, op, known.draft(), number) {
				break
			}
			known = wanted
			answered++
		}
		<-killed

		_, siteAt, end := served(t, "serve", "--data", filepath.Join(dir, "data"), "--out",
			filepath.Join(dir, "www"))
		_, left := get(t, siteAt+"/_draft/left/")
		_, right := get(t, siteAt+"/_draft/right/")
		require.Equal(t, left, right, "both documents of an edit or neither")
		status, live := get(t, siteAt+"/left/")
		shows := func(s state) bool {
			if s.published < 0 {
				return strings.HasPrefix(left, soaked(s.draft())) && status == http.StatusNotFound
			}
			return strings.HasPrefix(left, soaked(s.draft())) && live == soaked(s.published)
		}
		if !shows(known) {
			require.True(t, shows(wanted),
				"what was answered stands, or what was under way: %.20s, %.20s, %+v", left, live, known)
			known = wanted
		}
		if known.published >= 0 {
			require.Eventually(t, func() bool {
				a, _ := os.ReadFile(filepath.Join(dir, "www", "left", "index.html"))
				b, _ := os.ReadFile(filepath.Join(dir, "www", "right", "index.html"))
				return string(a) == live && string(b) == live
			}, 20*time.Second, 5*time.Millisecond, "the folder holds what is published")
		}
		require.Equal(t, ExitDone, end())
	}
	require.Positive(t, answered)
}

// toolOf reads where a server that is a process of its own serves the tool.
func toolOf(t *testing.T, out io.Reader) (tool string) {
	var found []string
	for lines := bufio.NewScanner(out); len(found) < 2 && lines.Scan(); {
		found = append(found, regexp.MustCompile(`http://\S+`).FindAllString(lines.Text(), -1)...)
	}
	require.Len(t, found, 2)
	go func() { _, _ = io.Copy(io.Discard, out) }()
	return found[0]
}

// ask carries out one operation; it reports false where no answer came.
func ask(t *testing.T, at, op string, from, number int) bool {
	body := map[string]any{}
	switch op {
	case "change-sets":
		var changes []any
		for _, p := range []string{"pages/left.html", "pages/right.html"} {
			changes = append(changes, map[string]any{"path": p, "before": site.HashOf([]byte(soaked(from))),
				"text": soaked(number)})
		}
		body = map[string]any{"title": "Edit", "changes": changes}
	case "releases":
		body["title"] = "Release"
	}
	sent, err := json.Marshal(body)
	require.NoError(t, err)
	var of io.Reader
	if len(body) > 0 {
		of = bytes.NewReader(sent)
	}
	req, err := http.NewRequest(http.MethodPost, at+"/"+op, of)
	require.NoError(t, err)
	req.Header.Set("X-Brick-Shelf", "1")
	if of != nil {
		req.Header.Set("Content-Type", "application/json")
	}
	resp, err := http.DefaultClient.Do(req)
	if err != nil {
		return false
	}
	defer resp.Body.Close()
	got, err := io.ReadAll(resp.Body)
	if err != nil {
		return false
	}
	require.Less(t, resp.StatusCode, 300, "%s: %s", op, got)
	return true
}
