package follow

import (
	"errors"
	"fmt"
	"io/fs"
	"os"
	"path"
	"strings"

	"brickshelf/internal/core/site"
	"brickshelf/internal/folder"
)

// seen is what the files of a folder hold, read again only where their size or time is another one.
type seen map[string]glimpse

// staging is how the names begin of files that are being written.
const staging = ".shelf-"

type glimpse struct {
	size int64
	time int64 // in nanoseconds
	hash site.Hash
}

// read gives the hashes of all files of a site in a folder. A folder without site.yaml is none: it
// may have been moved, or not be mounted.
func (s seen) read(dir string) (map[string]site.Hash, error) {
	if _, err := os.Stat(path.Join(dir, "site.yaml")); errors.Is(err, fs.ErrNotExist) {
		return nil, fmt.Errorf("there is no site.yaml in %s any more: the folder was moved or emptied. The draft stays as it is; put the folder back and it is followed again", dir)
	}
	out := map[string]site.Hash{}
	fsys := os.DirFS(dir)
	err := fs.WalkDir(fsys, ".", func(p string, d fs.DirEntry, err error) error {
		if err != nil {
			if errors.Is(err, fs.ErrNotExist) {
				return nil // it has gone while the folder was being read
			}
			return err
		}
		if p == "." {
			return nil
		}
		if Outside(p, d.IsDir()) {
			if d.IsDir() {
				return fs.SkipDir
			}
			return nil
		}
		if d.IsDir() {
			return nil
		}
		info, err := d.Info()
		if errors.Is(err, fs.ErrNotExist) {
			return nil
		}
		if err != nil {
			return err
		}
		if !info.Mode().IsRegular() {
			return fmt.Errorf("%s is a link or device; put the file itself there", p)
		}
		if info.Size() > folder.MaxFile {
			return fmt.Errorf("%s is larger than %d MB; keep it outside the site and link to it", p, folder.MaxFile>>20)
		}
		g, known := s[p]
		if !known || g.size != info.Size() || g.time != info.ModTime().UnixNano() {
			b, err := fs.ReadFile(fsys, p)
			if errors.Is(err, fs.ErrNotExist) {
				return nil
			}
			if err != nil {
				return err
			}
			g = glimpse{info.Size(), info.ModTime().UnixNano(), site.HashOf(b)}
			s[p] = g
		}
		out[p] = g.hash
		return nil
	})
	if err != nil {
		return nil, err
	}
	for p := range s {
		if _, there := out[p]; !there {
			delete(s, p)
		}
	}
	return out, nil
}

// Outside reports whether a file or folder is none of the site: what stands beside it, and what is
// hidden.
func Outside(p string, dir bool) bool {
	if dir {
		p += "/"
	}
	if site.Foreign(p) || strings.HasPrefix(path.Base(p), staging) {
		return true
	}
	return !site.Hidden(p) && (strings.HasPrefix(p, ".") || strings.Contains(p, "/."))
}
