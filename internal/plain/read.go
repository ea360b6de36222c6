package plain

import (
	"errors"
	"fmt"
	"io/fs"
	"os"
	"path"
	"path/filepath"
	"slices"
	"strings"
	"unicode/utf8"

	"brickshelf/internal/core/site"
	"brickshelf/internal/folder"
)

// versions are folders in which other programs keep what is none of a site.
var versions = []string{".git", ".hg", ".svn", ".bzr", "CVS", ".shelf", "__MACOSX"}

// Read reads all files of a folder, at most folder.MaxFiles and folder.MaxTotal. Links to files within the
// folder are followed where follow is set, and taken as files of their own. What cannot be taken in is
// told in the notes and stops nothing; an error is that of a folder that cannot be read at all, or of
// too much in it.
func Read(root string, follow bool, progress folder.Progress) (site.Files, []Note, error) {
	whole, err := filepath.EvalSymlinks(root)
	if err != nil {
		return nil, nil, fmt.Errorf("reading %s: %w", root, err)
	}
	r := &reader{root: whole, follow: follow, progress: progress, files: site.Files{}}
	if err := r.dir("", whole, nil); err != nil {
		return nil, nil, err
	}
	return r.files, r.notes, nil
}

type reader struct {
	root     string
	follow   bool
	progress folder.Progress
	files    site.Files
	notes    []Note
	total    int64
}

func (r *reader) left(p, format string, args ...any) {
	r.notes = append(r.notes, Note{strings.ToValidUTF8(p, "\uFFFD"), Left, fmt.Sprintf(format, args...)})
}

// dir reads a folder that stands at a path of the site. within are the folders around it, links among
// them resolved.
func (r *reader) dir(p, at string, within []string) error {
	list, err := os.ReadDir(at)
	if err != nil {
		if p == "" {
			return err
		}
		r.left(p+"/", "the folder cannot be read: %s", reason(err))
		return nil
	}
	within = append(slices.Clone(within), at)
	for _, d := range list {
		if slices.Contains(versions, d.Name()) || d.Name() == ".DS_Store" {
			continue
		}
		if err := r.entry(path.Join(p, d.Name()), filepath.Join(at, d.Name()), within); err != nil {
			return err
		}
	}
	return nil
}

func (r *reader) entry(p, at string, within []string) error {
	info, err := os.Lstat(at)
	if err != nil {
		r.left(p, "cannot be read: %s", reason(err))
		return nil
	}
	if !utf8.ValidString(p) {
		r.left(p, "its name is not UTF-8; give it another one, and what leads to it")
		return nil
	}
	if info.Mode()&fs.ModeSymlink != 0 {
		to, err := filepath.EvalSymlinks(at)
		switch {
		case err != nil:
			r.left(p, "is a link that leads nowhere")
			return nil
		case to != r.root && !strings.HasPrefix(to, r.root+string(filepath.Separator)):
			r.left(p, "is a link out of the folder")
			return nil
		case !r.follow:
			r.left(p, "is a link")
			return nil
		case slices.Contains(within, to):
			r.left(p, "is a link to a folder around it, which would never end")
			return nil
		}
		if info, err = os.Stat(to); err != nil {
			r.left(p, "cannot be read: %s", reason(err))
			return nil
		}
		at = to
		if !info.IsDir() {
			rel, _ := filepath.Rel(r.root, to)
			r.notes = append(r.notes, Note{p, File, "was a link to " + filepath.ToSlash(rel) + ", and is a file of its own"})
		}
	}
	switch {
	case info.IsDir():
		return r.dir(p, at, within)
	case !info.Mode().IsRegular():
		r.left(p, "is a device or socket, and no file")
		return nil
	}
	return r.file(p, at, info.Size())
}

func (r *reader) file(p, at string, size int64) error {
	if size > folder.MaxFile {
		r.left(p, "is larger than %d MB; keep it outside the site and link to it", folder.MaxFile>>20)
		return nil
	}
	r.total += size
	if r.total > folder.MaxTotal {
		return fmt.Errorf("the folder holds more than %d GB", folder.MaxTotal>>30)
	}
	if len(r.files) >= folder.MaxFiles {
		return fmt.Errorf("the folder has more than %d files; bring a part of it", folder.MaxFiles)
	}
	b, err := os.ReadFile(at)
	if err != nil {
		r.left(p, "cannot be read: %s", reason(err))
		return nil
	}
	r.files[p] = b
	if r.progress != nil {
		r.progress(len(r.files), 0)
	}
	return nil
}

// reason is what an error of the disk says, without the path, which is told beside it.
func reason(err error) string {
	var of *fs.PathError
	if errors.As(err, &of) {
		return of.Err.Error()
	}
	return err.Error()
}
