package plain

import (
	"io"
	"os"
	"path"
	"path/filepath"
	"slices"
	"strings"

	"brickshelf/internal/core/site"
	"brickshelf/internal/folder"
)

// Take reads a folder or zip: a shelf folder as it is, and then the report is nil; any other web site as
// the shelf folder that it makes.
func Take(name string, follow bool, progress folder.Progress) (site.Files, *Report, error) {
	info, err := os.Stat(name)
	if err != nil {
		return nil, nil, err
	}
	if !info.IsDir() {
		f, err := os.Open(name)
		if err != nil {
			return nil, nil, err
		}
		defer f.Close()
		return FromZip(f, info.Size(), filepath.Base(name), progress)
	}
	if _, err := os.Stat(filepath.Join(name, "site.yaml")); err == nil {
		files, err := folder.Read(name, progress)
		return files, nil, err
	}
	files, notes, err := Read(name, follow, progress)
	if err != nil {
		return nil, nil, err
	}
	if !Is(files) {
		files, err := folder.Read(name, progress)
		return files, nil, err
	}
	if whole, err := filepath.Abs(name); err == nil {
		name = whole
	}
	out, report := Convert(files, filepath.Base(name), notes)
	return out, report, nil
}

// FromZip is Take for a zip. Where everything in it stands in one folder, that folder is the site.
func FromZip(r io.ReaderAt, size int64, name string, progress folder.Progress) (site.Files, *Report, error) {
	files, err := folder.Unzip(r, size, progress)
	if err != nil {
		return nil, nil, err
	}
	bare, root := unwrapped(files)
	if !Is(files) || !Is(bare) {
		return folder.Own(files), nil, nil
	}
	if root == "" {
		root = strings.TrimSuffix(name, path.Ext(name))
	}
	out, report := Convert(bare, root, nil)
	return out, report, nil
}

// unwrapped are files without the one folder in which all of them stand, and without what other programs
// put beside them.
func unwrapped(files site.Files) (site.Files, string) {
	root, one := "", true
	own := site.Files{}
	for p, b := range files {
		parts := strings.Split(p, "/")
		if slices.ContainsFunc(parts, func(part string) bool {
			return slices.Contains(versions, part) || part == ".DS_Store"
		}) {
			continue
		}
		own[p] = b
		if len(parts) == 1 || root != "" && parts[0] != root {
			one = false
		}
		root = parts[0]
	}
	if !one || root == "" {
		return own, ""
	}
	out := site.Files{}
	for p, b := range own {
		out[strings.TrimPrefix(p, root+"/")] = b
	}
	return out, root
}
