package publish

import (
	"errors"
	"fmt"
	"io/fs"
	"os"
	"path/filepath"

	"brickshelf/internal/core/site"
	"brickshelf/internal/folder"
)

// Write puts the output into a folder and returns how many files it wrote. Where
// little differs from what was published there before, only that is written, each
// file whole at any moment, and what a crash interrupts the next call completes.
// Otherwise the folder is written whole beside the old one and swapped in, so that
// a crash leaves the old site as it was.
func Write(dir string, files site.Files, progress folder.Progress) (int, error) {
	t := target(filepath.Clean(dir))
	if err := os.MkdirAll(t.parent(), 0o755); err != nil {
		return 0, err
	}
	if err := t.recover(); err != nil {
		return 0, fmt.Errorf("completing what was interrupted: %w", err)
	}
	if entries, err := os.ReadDir(string(t)); err == nil && len(entries) > 0 {
		if _, err := os.Stat(filepath.Join(string(t), "sitemap.xml")); err != nil {
			return 0, fmt.Errorf("%s holds something else than a published site; name a new or empty folder", dir)
		}
	}
	known := t.readManifest()
	up := known.compare(string(t), files)
	if known != nil && len(up.write)+len(up.drop) <= len(files)/4 {
		if err := t.update(up, files, known); err != nil {
			return 0, fmt.Errorf("publishing: %w", err)
		}
		return len(up.write), nil
	}
	if err := t.replace(files, progress); err != nil {
		return 0, fmt.Errorf("publishing: %w", err)
	}
	return len(files), t.writeManifest(describe(string(t), files))
}

// target is the folder that is published to. Beside it stand hidden files of the
// same name.
type target string

func (t target) parent() string { return filepath.Dir(string(t)) }

func (t target) beside(what string) string {
	return filepath.Join(t.parent(), "."+filepath.Base(string(t))+"."+what)
}

// replace writes the whole site beside the old one and swaps it in.
func (t target) replace(files site.Files, progress folder.Progress) error {
	fresh, err := os.MkdirTemp(t.parent(), "."+filepath.Base(string(t))+".new-*")
	if err != nil {
		return err
	}
	defer os.RemoveAll(fresh)
	if err := os.Chmod(fresh, 0o755); err != nil {
		return err
	}
	if err := folder.Tree(fresh, files, progress); err != nil {
		return err
	}
	old := t.beside("old")
	if err := os.Rename(string(t), old); err != nil && !errors.Is(err, fs.ErrNotExist) {
		return err
	}
	if err := os.Rename(fresh, string(t)); err != nil {
		_ = os.Rename(old, string(t))
		return err
	}
	return os.RemoveAll(old)
}

// recover completes an update that a crash interrupted, and puts an old site back
// that a crash between two renames left aside.
func (t target) recover() error {
	if err := t.resume(); err != nil {
		return err
	}
	old := t.beside("old")
	if _, err := os.Stat(old); err != nil {
		return nil
	}
	if _, err := os.Stat(string(t)); errors.Is(err, fs.ErrNotExist) {
		return os.Rename(old, string(t))
	}
	return os.RemoveAll(old)
}
