package cli

import (
	"fmt"
	"os"
	"path/filepath"
	"runtime"
	"strings"

	"brickshelf/internal/api"
	"brickshelf/internal/core/check"
	"brickshelf/internal/core/edit/documents"
	"brickshelf/internal/core/shelf"
	"brickshelf/internal/core/site"
	"brickshelf/internal/folder"
	"brickshelf/internal/store"
)

// serveFolder serves a site that is kept in a shelf folder.
func (a *app) serveFolder(dir, data, name, out string, at addresses) error {
	full, err := filepath.Abs(dir)
	if err != nil {
		return err
	}
	if data == "" {
		if data, err = ownData(full); err != nil {
			return err
		}
	}
	st, err := store.Open(data)
	if err != nil {
		return err
	}
	defer st.Close()
	if name == "" {
		name = documents.SiteName(filepath.Base(full), func(string) bool { return false })
	}
	memory := filepath.Join(data, "folder-"+name+".json")
	if _, err := st.Site(name); err != nil {
		if err := a.beginFolder(st, name, full); err != nil {
			return err
		}
		_ = os.Remove(memory) // of a site that is there no more
	}
	if beside := folder.Beside(full); len(beside) > 0 {
		fmt.Fprintf(a.err, "Left alone, since it is none of the site: %s.\n", strings.Join(beside, ", "))
	}
	return a.listen(st, name, out, at, func(srv *api.Server, stop <-chan struct{}) error {
		return srv.Follow(name, full, memory, stop)
	})
}

// beginFolder makes a site of what a folder holds; a new one where it holds nothing of a site.
func (a *app) beginFolder(st *store.Store, name, dir string) error {
	var files site.Files
	if _, err := os.Stat(filepath.Join(dir, "site.yaml")); err == nil {
		if files, err = folder.Read(dir, a.progress("Reading")); err != nil {
			return err
		}
		if bad := check.Validity(shelf.NewScripted(files, a.now(), a.scripts())); len(bad) > 0 {
			return bad
		}
	} else {
		if files, err = documents.NewSite(filepath.Base(dir)); err != nil {
			return err
		}
		for _, p := range files.Paths() {
			if _, err := os.Stat(filepath.Join(dir, filepath.FromSlash(p))); err == nil {
				return fmt.Errorf("%s holds %s and no site.yaml; name a shelf folder, or an empty one for a new site", dir, p)
			}
		}
		if err := folder.Tree(dir, files, nil); err != nil {
			return err
		}
		fmt.Fprintf(a.out, "Began a new site in %s.\n", dir)
	}
	_, err := st.Create(name, files, nil)
	return err
}

// ownData is the data folder of a shelf folder, among those that the system keeps for the user.
func ownData(dir string) (string, error) {
	base := os.Getenv("XDG_DATA_HOME")
	if base == "" {
		home, err := os.UserHomeDir()
		if err != nil {
			return "", fmt.Errorf("where this system keeps data is not known; name a folder with --data: %w", err)
		}
		switch runtime.GOOS {
		case "windows", "darwin":
			if base, err = os.UserConfigDir(); err != nil {
				return "", err
			}
		default:
			base = filepath.Join(home, ".local", "share")
		}
	}
	return filepath.Join(base, "brickshelf", string(site.HashOf([]byte(dir)))[:16]), nil
}
