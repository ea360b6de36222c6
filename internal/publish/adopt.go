package publish

import (
	"errors"
	"io/fs"
	"os"

	"github.com/cespare/xxhash/v2"

	"brickshelf/internal/core/site"
)

// Adopt has Write put right files of a folder that it did not write: those that some output has too,
// and that hold something else. What they held is kept, as of any file that somebody has edited.
func Adopt(dir string, files site.Files) error {
	t, err := open(dir)
	if err != nil {
		return err
	}
	known := t.readManifest()
	adopted := false
	for _, p := range files.Paths() {
		if _, ours := known[p]; ours || lookAt(t.file(p)).kind != file {
			continue
		}
		b, err := os.ReadFile(t.file(p))
		if err != nil && !errors.Is(err, fs.ErrNotExist) {
			return err
		}
		if h := xxhash.Sum64(b); h != xxhash.Sum64(files[p]) {
			known[p] = entry{hash: ^h} // as something else than what stands there: it was edited
			adopted = true
		}
	}
	if !adopted {
		return nil
	}
	return t.writeManifest(known)
}
