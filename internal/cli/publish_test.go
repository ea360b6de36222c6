package cli

import (
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"brickshelf/internal/core/site"
	"brickshelf/internal/store"
)

func TestPublish(t *testing.T) {
	out := filepath.Join(t.TempDir(), "www")
	code, _, stderr := run("publish", write(t, small()), "--out", out)
	require.Equal(t, ExitDone, code, stderr)
	b, err := os.ReadFile(filepath.Join(out, "p", "index.html"))
	require.NoError(t, err)
	require.Equal(t, "a", string(b))

	files := small()
	files["pages/p.html"] = []byte("x@{b /}y")
	code, _, stderr = run("publish", write(t, files), "--out", out)
	require.Equal(t, ExitBreaks, code)
	require.Contains(t, stderr, "/p/: main/b~1: there is no block or shortcode b")
	b, err = os.ReadFile(filepath.Join(out, "p", "index.html"))
	require.NoError(t, err)
	require.Equal(t, "xy", string(b), "an unresolved call shows nothing")

	files["blocks/a.html"] = []byte("@{a /}")
	code, _, _ = run("publish", write(t, files), "--out", out)
	require.Equal(t, ExitBad, code)
	again, err := os.ReadFile(filepath.Join(out, "p", "index.html"))
	require.NoError(t, err)
	require.Equal(t, b, again, "an invalid tree writes nothing")
}

func TestPublishingWhatIsStored(t *testing.T) {
	data, out := t.TempDir(), filepath.Join(t.TempDir(), "www")
	run("import", "--data", data, write(t, small()))
	code, _, stderr := run("publish", "--data", data, "--out", out)
	require.NotEqual(t, ExitDone, code)
	require.Contains(t, stderr, "nothing of this site is published yet")
	require.NoDirExists(t, out)
	for _, args := range [][]string{{"publish", "--out", out}, {"publish", "--data", data, write(t, small()),
		"--out", out}} {
		code, _, stderr = run(args...)
		require.NotEqual(t, ExitDone, code)
		require.Contains(t, stderr, "name either a shelf folder or --data")
	}
	st, err := store.Open(data)
	require.NoError(t, err)
	s, err := st.Site("main")
	require.NoError(t, err)
	_, err = st.Publish(s.ID, "first")
	require.NoError(t, err)
	_, err = st.Save(s.ID, site.ChangeSet{Title: "Later",
		Changes: []site.Change{{Path: "blocks/a.html", Before: site.HashOf([]byte("a")),
			After: []byte("later")}}})
	require.NoError(t, err)
	require.NoError(t, st.Close())
	code, told, stderr := run("publish", "--data", data, "--out", out)
	require.Equal(t, ExitDone, code, stderr)
	require.Contains(t, told, "Wrote ")
	b, err := os.ReadFile(filepath.Join(out, "p", "index.html"))
	require.NoError(t, err)
	require.Equal(t, "a", string(b), "what is published, not the draft")
	code, told, _ = run("publish", "--data", data, "--out", out)
	require.Equal(t, ExitDone, code)
	require.Contains(t, told, "Wrote 0 of ", "what is there already is not written again")
}

// The demo is what it says: every page renders, and what is broken in it is
// broken on purpose.
func TestTheDemo(t *testing.T) {
	files, err := demoFiles()
	require.NoError(t, err)
	code, out, _ := run("check", write(t, files))
	require.Equal(t, ExitBreaks, code)
	var codes []string
	for _, line := range strings.Split(strings.TrimSpace(out), "\n") {
		codes = append(codes, line[:strings.Index(line, ":")])
	}
	require.ElementsMatch(t, []string{"blocks/winter-banner.html", "pages/freight/sign-in.html",
		"pages/ports/eastholm.html", "pages/routes/round-trip.html", "pages/timetables/winter.html"}, codes)
	pages := 0
	for p := range files {
		if strings.HasPrefix(p, "pages/") {
			pages++
		}
	}
	require.GreaterOrEqual(t, pages, 36)
}
