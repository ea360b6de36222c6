package cli

import (
	"encoding/json"
	"net/http"
	"os"
	"path/filepath"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"brickshelf/internal/api"
	"brickshelf/internal/folder"
)

// A site that is kept in a folder: an editor's save is in the draft a moment later, and what is saved in
// the tool is in the folder; what is not valid there is told with its line, and waits.
func TestASiteIsKeptInAFolder(t *testing.T) {
	kept := write(t, small())
	put(t, kept, "README.md", "read me")
	put(t, kept, ".git/HEAD", "ref")
	t.Setenv("XDG_DATA_HOME", t.TempDir())
	tool, siteAt, end := served(t, "serve", "--folder", kept)
	status := func() (out api.KeptFolder) {
		_, body := get(t, tool+"/api/v1/sites/site/folder")
		require.NoError(t, json.Unmarshal([]byte(body), &out))
		return out
	}
	soon := func(is func() bool, why string) {
		t.Helper()
		require.Eventually(t, is, 10*time.Second, 20*time.Millisecond, why)
	}
	soon(func() bool { return status().Dir == kept }, "it is followed")

	start := time.Now()
	put(t, kept, "blocks/a.html", "edited outside")
	soon(func() bool {
		_, page := get(t, siteAt+"/_draft/p/")
		return page == "edited outside" || len(page) > 0 && page[:14] == "edited outside"
	},
		"an edit in the folder is one of the draft")
	t.Logf("it took %s", time.Since(start))
	post(t, tool+"/api/v1/sites/site/undo", nil)
	soon(func() bool { return has(t, kept, "blocks/a.html") == "a" }, "and undone in the tool it is undone in the folder")

	put(t, kept, "rules/r.yaml", "block: a\nregion: [\n")
	soon(func() bool { return len(status().Problems) > 0 }, "what is not valid is told")
	bad := status().Problems[0]
	require.Equal(t, "rules/r.yaml", bad.Path)
	require.Greater(t, bad.Line, 1)
	code, _ := get(t, siteAt+"/_draft/p/")
	require.Equal(t, http.StatusOK, code, "the last valid state stays")
	require.NoError(t, os.Remove(filepath.Join(kept, "rules/r.yaml")))
	soon(func() bool { return len(status().Problems) == 0 }, "and is mended")
	require.Equal(t, ExitDone, end())
	require.FileExists(t, filepath.Join(kept, ".git/HEAD"))
	require.NoDirExists(t, filepath.Join(kept, ".shelf"), "there is no database in it")

	// What was changed meanwhile comes in when it is served again.
	put(t, kept, "pages/new.html", "new")
	_, siteAt, end = served(t, "serve", "--folder", kept)
	soon(func() bool { code, _ := get(t, siteAt+"/_draft/new/"); return code == http.StatusOK }, "a new page")
	require.Equal(t, ExitDone, end())
}

func TestAnEmptyFolderBecomesASite(t *testing.T) {
	dir, data := filepath.Join(t.TempDir(), "Corner Bakery"), t.TempDir()
	_, siteAt, end := served(t, "serve", "--folder", dir, "--data", data)
	_, page := get(t, siteAt+"/_draft/")
	require.Contains(t, page, "Corner Bakery")
	require.Equal(t, ExitDone, end())
	got, err := folder.Read(dir, nil)
	require.NoError(t, err)
	require.Contains(t, got, "layouts/page.html")

	code, _, stderr := run("serve", "--folder", write(t, map[string][]byte{"pages/index.html": []byte("x")}), "--data", t.TempDir())
	require.Equal(t, ExitBad, code)
	require.Contains(t, stderr, "holds pages/index.html and no site.yaml")
	code, _, stderr = run("serve", "--folder", write(t, map[string][]byte{"site.yaml": []byte("x: [")}), "--data", t.TempDir())
	require.Equal(t, ExitBad, code)
	require.Contains(t, stderr, "site.yaml:1:")
}
