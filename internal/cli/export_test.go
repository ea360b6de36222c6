package cli

import (
	"bytes"
	"os"
	"path/filepath"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"brickshelf/internal/folder"
	"brickshelf/internal/publish"
)

func put(t *testing.T, dir, name, text string) {
	require.NoError(t, os.MkdirAll(filepath.Dir(filepath.Join(dir, name)), 0o755))
	require.NoError(t, os.WriteFile(filepath.Join(dir, name), []byte(text), 0o644))
}

func has(t *testing.T, dir, name string) string {
	b, err := os.ReadFile(filepath.Join(dir, name))
	require.NoError(t, err)
	return string(b)
}

// A site that is kept by git beside other files goes in and out, and nothing but what differs
// is written.
func TestASiteIsExportedIntoTheFolderThatItIsKeptIn(t *testing.T) {
	kept, data := write(t, small()), t.TempDir()
	put(t, kept, ".git/HEAD", "ref")
	put(t, kept, "README.md", "read me")
	put(t, kept, "src/main.go", "package main")
	code, _, stderr := run("import", "--data", data, kept)
	require.Equal(t, ExitDone, code, stderr)
	require.Equal(t, "Left alone, since it is none of the site: README.md, src/.\n", stderr)

	code, out, stderr := run("export", "--data", data, kept)
	require.Equal(t, ExitDone, code, stderr)
	require.Equal(t, "Wrote 0 of 7 documents to "+kept+".\n", out, "all of it is there as it is to be")

	// One that changes is written, one that goes is removed, all else stays.
	next := small()
	next["blocks/a.html"] = []byte("changed")
	delete(next, "pages/q.html")
	code, _, stderr = run("import", "--data", data, "--replace", write(t, next))
	require.Equal(t, ExitDone, code, stderr)
	code, out, stderr = run("export", "--data", data, kept)
	require.Equal(t, ExitDone, code, stderr)
	require.Contains(t, out, "Wrote 1 of 6 documents")
	require.Equal(t, "changed", has(t, kept, "blocks/a.html"))
	require.NoFileExists(t, filepath.Join(kept, "pages/q.html"))
	for _, name := range []string{".git/HEAD", "README.md", "src/main.go"} {
		require.FileExists(t, filepath.Join(kept, name))
	}
	require.Equal(t, "*\n", has(t, kept, ".shelf/.gitignore"))

	// What somebody has edited there is kept when it is put right.
	put(t, kept, "blocks/a.html", "mine")
	code, out, stderr = run("export", "--data", data, kept)
	require.Equal(t, ExitDone, code, stderr)
	require.Contains(t, out, "blocks/a.html was another one there; what it held is kept below "+publish.State)
	require.Equal(t, "changed", has(t, kept, "blocks/a.html"))
	found := ""
	_ = filepath.Walk(filepath.Join(kept, publish.State), func(p string, _ os.FileInfo, _ error) error {
		if b, err := os.ReadFile(p); err == nil && string(b) == "mine" {
			found = p
		}
		return nil
	})
	require.NotEmpty(t, found)
}

func TestWhatAnotherProgramWroteIsReplacedOnlyWhenAsked(t *testing.T) {
	data, other := t.TempDir(), t.TempDir()
	code, _, stderr := run("import", "--data", data, write(t, small()))
	require.Equal(t, ExitDone, code, stderr)
	put(t, other, "blocks/a.html", "of another site")
	code, _, stderr = run("export", "--data", data, other)
	require.Equal(t, ExitBad, code)
	require.Contains(t, stderr, "this program did not write it")
	require.NoFileExists(t, filepath.Join(other, "site.yaml"))
	code, out, stderr := run("export", "--data", data, "--replace", other)
	require.Equal(t, ExitDone, code, stderr)
	require.Contains(t, out, "blocks/a.html was another one there")
	got, err := folder.Read(other, nil)
	require.NoError(t, err)
	require.Equal(t, small(), got)
}

func TestAZipGoesThroughAPipe(t *testing.T) {
	data, next := t.TempDir(), t.TempDir()
	code, _, stderr := run("import", "--data", data, write(t, small()))
	require.Equal(t, ExitDone, code, stderr)
	code, zip, stderr := run("export", "--data", data, "-")
	require.Equal(t, ExitDone, code, stderr)
	got, err := folder.FromZip(strings.NewReader(zip), int64(len(zip)), nil)
	require.NoError(t, err)
	require.Equal(t, small(), got)

	var out, said bytes.Buffer
	a := &app{in: strings.NewReader(zip), out: &out, err: &said, now: time.Now}
	root := a.root()
	root.SetArgs([]string{"import", "--data", next, "-"})
	require.NoError(t, root.Execute(), said.String())
	require.Contains(t, out.String(), "Imported 7 documents as the new site main.")
}

func TestTheVersionIsTold(t *testing.T) {
	code, out, _ := run("--version")
	require.Equal(t, ExitDone, code)
	require.Regexp(t, `^brickshelf version .+, go1\.`, out)
}

func TestImpactAsANoteOnAMergeRequest(t *testing.T) {
	next := small()
	next["blocks/a.html"] = []byte("b@{gone /}")
	before, after := write(t, small()), write(t, next)
	code, out, stderr := run("impact", "--markdown", before, after)
	require.Equal(t, ExitBreaks, code, stderr)
	require.Equal(t, "**Changes 1 page. 1 thing breaks: there is no block or shortcode gone (/p/).**\n\nWhat breaks:\n\n- `/p/` at `main/a~1/gone~1`: there is no block or shortcode gone\n\n"+
		"<details><summary>changes: 1</summary>\n\n`/p/`\n\n</details>\n", out)
	code, _, _ = run("impact", "--markdown", "--json", before, after)
	require.Equal(t, ExitBad, code)
}
