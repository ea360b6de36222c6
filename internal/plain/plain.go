// Package plain makes shelf folders of web sites that are none: of any folder or zip of pages and files,
// whatever wrote them. What is made is published again byte for byte, each file at its own path.
package plain

import (
	"bytes"
	"cmp"
	"maps"
	"path"
	"slices"
	"strings"

	"brickshelf/internal/core/place"
	"brickshelf/internal/core/site"
)

// Kind is what a file of a web site is taken as.
type Kind string

// What files are taken as. Left ones are not taken in.
const (
	Page Kind = "page"
	File Kind = "file"
	Left Kind = "left"
)

// Note tells of a file of which one should know how it was taken in, or why it was not.
type Note struct {
	Path string `json:"path"` // within the folder
	As   Kind   `json:"as"`
	Says string `json:"says"`
}

// Report is what a web site was taken as: how many of each, and the notes in the order of their paths.
type Report struct {
	Pages int    `json:"pages"`
	Files int    `json:"files"`
	Notes []Note `json:"notes"`
}

// Refusal are the files that were not taken in, as problems; nil where all were.
func (r *Report) Refusal() site.Problems {
	var out site.Problems
	for _, n := range r.Notes {
		if n.As == Left {
			out = append(out, site.Problem{Code: "left-out", Severity: site.Invalid, Path: n.Path, Line: 1, Column: 1,
				Message: n.Says})
		}
	}
	return out
}

// Is reports whether a tree is no shelf folder, nor a part of one: where a page stands elsewhere than in
// the folders of a site.
func Is(files site.Files) bool {
	if _, shelf := files["site.yaml"]; shelf {
		return false
	}
	for p := range files {
		if site.PageName(p) && site.Foreign(p) {
			return true
		}
	}
	return false
}

// Convert makes a shelf folder of the files of a web site by their paths. Notes are those of how the
// files were read, to which its own are added. The site is called name where no first page has a title.
func Convert(files site.Files, name string, notes []Note) (site.Files, *Report) {
	out := site.Files{}
	r := &Report{Notes: slices.Clone(notes)}
	note := func(p string, as Kind, says string) { r.Notes = append(r.Notes, Note{p, as, says}) }
	for _, p := range files.Paths() {
		b := files[p]
		as, to, why := take(p, b)
		switch as {
		case Left:
			note(p, Left, why)
			continue
		case Page:
			r.Pages++
			var said []string
			if b, said = kept(b); len(said) > 0 {
				note(p, Page, strings.Join(said, "; "))
			}
		case File:
			r.Files++
			if why != "" {
				note(p, File, why)
			}
		}
		out[to] = b
	}
	out["site.yaml"] = config(out, name)
	slices.SortStableFunc(r.Notes, func(a, b Note) int { return cmp.Compare(a.Path, b.Path) })
	return out, r
}

// take tells what a file is taken as, its path in the shelf folder, and why it is not what its name says.
func take(p string, b []byte) (as Kind, to, why string) {
	file := "files/" + p
	if _, _, bad := site.Classify(file); bad != "" {
		return Left, "", "its name cannot be published: " + bad
	}
	if !site.PageName(p) {
		return File, file, ""
	}
	if bytes.IndexByte(b, 0) >= 0 && !site.Wide(b) {
		return File, file, "has zero bytes, and is no page"
	}
	if _, _, bad := site.Classify("pages/" + p); bad != "" {
		return File, file, "is no page here: " + bad
	}
	return Page, "pages/" + p, ""
}

// kept is a page's document, which is published as the bytes that it was, and what was done to have it so.
func kept(b []byte) (doc []byte, said []string) {
	doc = b
	if bytes.Contains(b, []byte("@{")) {
		doc = escape(b)
		said = append(said, "@{ is written @@{")
	}
	if split, bad := site.Cut(doc); split.HasHead || bad != "" {
		doc = append([]byte("---\n---\n"), doc...)
		said = append(said, "its beginning --- is text, and has an empty front matter before it")
	}
	return doc, said
}

// escape writes @{ so that it is the two characters, whatever stands before it.
func escape(b []byte) []byte { return bytes.ReplaceAll(b, []byte("@{"), []byte("@@{")) }

// config is the site.yaml of a site that has these documents.
func config(files site.Files, name string) []byte {
	for _, p := range slices.Sorted(maps.Keys(files)) {
		if base := strings.ToLower(path.Base(p)); path.Dir(p) == "pages" && strings.HasPrefix(base, "index.") {
			page, _ := place.ParsePage(base, p, "/", files[p])
			name = cmp.Or(page.Title, name)
			break
		}
	}
	return []byte("format: brickshelf/1\nname: " + site.PlainYAML(name) + "\nexact_urls: true\nsitemap: false\n")
}
