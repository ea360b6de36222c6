// Package folder reads and writes shelf folders and zips: a site as files.
package folder

import (
	"archive/zip"
	"bytes"
	"errors"
	"fmt"
	"io"
	"io/fs"
	"maps"
	"os"
	"path"
	"path/filepath"
	"strings"
	"time"

	"brickshelf/internal/core/site"
)

// Limits of what is read. They stop archives that unpack without end.
const (
	MaxFile  = 64 << 20
	MaxTotal = 2 << 30
	MaxFiles = 500_000
)

// Progress is told how many files are done, out of how many where that is known.
type Progress func(done, total int)

// Read reads a shelf folder or zip.
func Read(name string, progress Progress) (site.Files, error) {
	info, err := os.Stat(name)
	if err != nil {
		return nil, fmt.Errorf("reading %s: %w", name, err)
	}
	if info.IsDir() {
		return FromFS(os.DirFS(name), progress)
	}
	f, err := os.Open(name)
	if err != nil {
		return nil, err
	}
	defer f.Close()
	files, err := FromZip(f, info.Size(), progress)
	if err != nil {
		return nil, fmt.Errorf("reading %s: %w", name, err)
	}
	return files, nil
}

// FromFS reads a folder. Files whose names begin with a dot are not part of a
// site and are left out, and so is what stands beside site.yaml and is none of the site, as a
// README.md; links are refused.
func FromFS(fsys fs.FS, progress Progress) (site.Files, error) {
	out := site.Files{}
	total := int64(0)
	_, err := fs.Stat(fsys, "site.yaml")
	whole := err == nil
	err = fs.WalkDir(fsys, ".", func(p string, d fs.DirEntry, err error) error {
		if err != nil {
			return err
		}
		if whole && p != "." && site.Foreign(asDir(p, d)) {
			if d.IsDir() {
				return fs.SkipDir
			}
			return nil
		}
		if p != "." && strings.HasPrefix(d.Name(), ".") && !site.Hidden(p) {
			if d.IsDir() {
				return fs.SkipDir
			}
			return nil
		}
		if d.IsDir() {
			return nil
		}
		if !d.Type().IsRegular() {
			return fmt.Errorf("%s is a link or device; put the file itself there", p)
		}
		info, err := d.Info()
		if err != nil {
			return err
		}
		total += info.Size()
		if err := limits(p, info.Size(), total, len(out)+1); err != nil {
			return err
		}
		b, err := fs.ReadFile(fsys, p)
		if err != nil {
			return err
		}
		out[p] = b
		if progress != nil {
			progress(len(out), 0)
		}
		return nil
	})
	return out, err
}

// asDir is a path, with a slash behind that of a folder.
func asDir(p string, d fs.DirEntry) string {
	if d.IsDir() {
		return p + "/"
	}
	return p
}

func limits(p string, size, total int64, files int) error {
	switch {
	case size > MaxFile:
		return fmt.Errorf("%s is larger than %d MB; keep it outside the site and link to it", p, MaxFile>>20)
	case total > MaxTotal:
		return fmt.Errorf("the site is larger than %d GB", MaxTotal>>30)
	case files > MaxFiles:
		return fmt.Errorf("the site has more than %d files", MaxFiles)
	}
	return nil
}

// FromZip reads a zip of a shelf folder. Where everything in it stands in one folder, that folder
// is the site. Paths that lead outside, links and absurd sizes are refused.
func FromZip(r io.ReaderAt, size int64, progress Progress) (site.Files, error) {
	files, err := Unzip(r, size, progress)
	if err != nil {
		return nil, err
	}
	return Own(files), nil
}

// Own are those of the files of a zip that are the site's, at their paths in it.
func Own(files site.Files) site.Files { return visible(own(unwrap(files))) }

// Unzip reads all files of a zip. Paths that lead outside, links and absurd sizes are refused.
func Unzip(r io.ReaderAt, size int64, progress Progress) (site.Files, error) {
	z, err := zip.NewReader(r, size)
	if err != nil {
		return nil, fmt.Errorf("this is no zip that can be read: %w", err)
	}
	if err := declared(z); err != nil {
		return nil, err
	}
	out := site.Files{}
	for i, f := range z.File {
		name := f.Name
		if strings.HasSuffix(name, "/") {
			continue
		}
		if strings.Contains(name, "\\") || strings.HasPrefix(name, "/") || path.Clean(name) != name ||
			!fs.ValidPath(name) {
			return nil, fmt.Errorf("%q leads outside the site; pack it again without such a path", name)
		}
		if !f.Mode().IsRegular() {
			return nil, fmt.Errorf("%s is a link or device; pack the file itself", name)
		}
		if _, twice := out[name]; twice {
			return nil, fmt.Errorf("%s stands in the zip twice", name)
		}
		b, err := unpack(f)
		if err != nil {
			return nil, fmt.Errorf("unpacking %s: %w", name, err)
		}
		out[name] = b
		if progress != nil {
			progress(i+1, len(z.File))
		}
	}
	return out, nil
}

// declared holds what the headers of a zip say against the limits, before anything of it is
// unpacked.
func declared(z *zip.Reader) error {
	total := int64(0)
	for i, f := range z.File {
		size := int64(min(f.UncompressedSize64, MaxFile+1))
		total += size
		if err := limits(f.Name, size, total, i+1); err != nil {
			return err
		}
	}
	return nil
}

// unpack reads no more of a file than its header says.
func unpack(f *zip.File) ([]byte, error) {
	r, err := f.Open()
	if err != nil {
		return nil, err
	}
	defer r.Close()
	b := make([]byte, f.UncompressedSize64)
	if _, err := io.ReadFull(r, b); err != nil {
		return nil, err
	}
	if _, err := io.ReadFull(r, make([]byte, 1)); err == nil {
		return nil, errors.New("it holds more than it says; pack it again")
	} else if !errors.Is(err, io.EOF) {
		return nil, err
	}
	return b, nil
}

func unwrap(files site.Files) site.Files {
	if _, ok := files["site.yaml"]; ok {
		return files
	}
	root := ""
	for p := range files {
		dir, _, ok := strings.Cut(p, "/")
		if !ok || root != "" && dir != root {
			return files
		}
		root = dir
	}
	if _, ok := files[root+"/site.yaml"]; !ok {
		return files
	}
	out := site.Files{}
	for p, b := range files {
		out[strings.TrimPrefix(p, root+"/")] = b
	}
	return out
}

// own leaves out what is none of a site, where there is one.
func own(files site.Files) site.Files {
	if _, whole := files["site.yaml"]; whole {
		maps.DeleteFunc(files, func(p string, _ []byte) bool { return site.Foreign(p) })
	}
	return files
}

// Beside lists what stands beside site.yaml in a shelf folder and is none of the site: files, and
// folders with a slash behind them, but for those that begin with a dot.
func Beside(name string) []string {
	var out []string
	entries, err := os.ReadDir(name)
	if err != nil {
		return nil
	}
	for _, e := range entries {
		p := e.Name()
		if e.IsDir() {
			p += "/"
		}
		if site.Foreign(p) && p[0] != '.' {
			out = append(out, p)
		}
	}
	return out
}

func visible(files site.Files) site.Files {
	for p := range files {
		for _, part := range strings.Split(p, "/") {
			if strings.HasPrefix(part, ".") && !site.Hidden(p) {
				delete(files, p)
			}
		}
	}
	return files
}

// Write writes a site as a folder, or as a zip where the name ends with .zip.
// What is there already is not overwritten.
func Write(name string, files site.Files, progress Progress) error {
	if strings.HasSuffix(strings.ToLower(name), ".zip") {
		return writeZip(name, files, progress)
	}
	if entries, err := os.ReadDir(name); err == nil && len(entries) > 0 {
		return fmt.Errorf("%s is not empty; name a new folder, or empty this one", name)
	} else if err != nil && !errors.Is(err, fs.ErrNotExist) {
		return err
	}
	tmp, err := os.MkdirTemp(filepath.Dir(filepath.Clean(name)), ".export-*")
	if err != nil {
		return err
	}
	defer os.RemoveAll(tmp)
	if err := Tree(tmp, files, progress); err != nil {
		return err
	}
	if err := os.Chmod(tmp, 0o755); err != nil {
		return err
	}
	_ = os.Remove(name) // an empty folder
	return os.Rename(tmp, name)
}

// Tree writes files below a folder.
func Tree(dir string, files site.Files, progress Progress) error {
	paths := files.Paths()
	if err := MakeFor(dir, paths); err != nil {
		return err
	}
	for i, p := range paths {
		if err := os.WriteFile(filepath.Join(dir, filepath.FromSlash(p)), files[p], 0o644); err != nil {
			return err
		}
		if progress != nil {
			progress(i+1, len(files))
		}
	}
	return nil
}

// Change gives documents of a folder other bytes. All are written beside the old ones first, so that
// what goes wrong while writing leaves the folder as it was; then each takes its place, in the order of
// the paths.
func Change(dir string, after site.Files) (err error) {
	paths := after.Paths()
	if err := MakeFor(dir, paths); err != nil {
		return err
	}
	var staged []string
	defer func() {
		for _, s := range staged {
			_ = os.Remove(s) // gone where it took its place
		}
	}()
	for _, p := range paths {
		at := filepath.Join(dir, filepath.FromSlash(p))
		tmp, err := os.CreateTemp(filepath.Dir(at), ".change-*")
		if err != nil {
			return err
		}
		staged = append(staged, tmp.Name())
		_, err = tmp.Write(after[p])
		if err = errors.Join(err, tmp.Chmod(0o644), tmp.Sync(), tmp.Close()); err != nil {
			return fmt.Errorf("writing %s: %w", p, err)
		}
	}
	for i, p := range paths {
		if err := os.Rename(staged[i], filepath.Join(dir, filepath.FromSlash(p))); err != nil {
			return err
		}
	}
	return nil
}

// MakeFor makes the folders that files of some paths below a folder need.
func MakeFor(dir string, paths []string) error {
	made := map[string]bool{}
	for _, p := range paths {
		if d := filepath.Dir(filepath.Join(dir, filepath.FromSlash(p))); !made[d] {
			if err := os.MkdirAll(d, 0o755); err != nil {
				return err
			}
			made[d] = true
		}
	}
	return nil
}

func writeZip(name string, files site.Files, progress Progress) error {
	if _, err := os.Stat(name); err == nil {
		return fmt.Errorf("%s is there already; name a new file", name)
	}
	tmp, err := os.CreateTemp(filepath.Dir(name), ".export-*")
	if err != nil {
		return err
	}
	defer os.Remove(tmp.Name())
	defer tmp.Close()
	if err := Zip(tmp, files, progress); err != nil {
		return err
	}
	if err := tmp.Chmod(0o644); err != nil {
		return err
	}
	if err := tmp.Close(); err != nil {
		return err
	}
	return os.Rename(tmp.Name(), name)
}

// Zip writes a site as a zip; the same site gives the same bytes.
func Zip(w io.Writer, files site.Files, progress Progress) error {
	z := zip.NewWriter(w)
	for i, p := range files.Paths() {
		h := &zip.FileHeader{Name: p, Method: zip.Deflate, Modified: time.Date(1980, 1, 1, 0, 0, 0, 0,
			time.UTC)}
		h.SetMode(0o644)
		f, err := z.CreateHeader(h)
		if err != nil {
			return err
		}
		if _, err := io.Copy(f, bytes.NewReader(files[p])); err != nil {
			return err
		}
		if progress != nil {
			progress(i+1, len(files))
		}
	}
	return z.Close()
}
