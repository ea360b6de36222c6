package check

import (
	"strings"

	"brickshelf/internal/core/refer"
	"brickshelf/internal/core/render"
	"brickshelf/internal/core/shelf"
	"brickshelf/internal/core/site"
)

// Dangling is the fault that a reference to what is not there makes.
func Dangling(r refer.Ref, address string) render.Fault {
	switch r.Kind {
	case refer.ToElement:
		return render.Fault{Code: "missing-target", Address: address, Message: "leads to #" + r.To +
			", and nothing on this page has that id; show the block that has it, or take this away"}
	case refer.ToFile:
		return render.Fault{Code: "missing-file", Address: address, Message: "shows " + r.To +
			", and there is no such file; put it into assets or files, or name another"}
	}
	return render.Fault{Code: "missing-page", Address: address, Message: "leads to " + r.To +
		", where there is no page; make one there, or lead elsewhere"}
}

// AddFault appends a fault unless it is in the list.
func AddFault(list []render.Fault, f render.Fault) []render.Fault {
	for _, o := range list {
		if o == f {
			return list
		}
	}
	return append(list, f)
}

// Leads reports whether something is published at an address of the site: a page
// under its address or its file's name, a file, the sitemap.
func Leads(s *shelf.Shelf, address string) bool {
	shows := func(url string) bool {
		in := s.Page(url)
		return in != nil && !in.Draft
	}
	if shows(address) || shows(address+"/") || address == "/sitemap.xml" ||
		strings.HasPrefix(address, "/_shelf/") {
		return true
	}
	if dir, ok := strings.CutSuffix(address, "/index.html"); ok && shows(dir+"/") {
		return true
	}
	for _, doc := range site.FilesAt(address) {
		if _, there := s.Get(doc); there {
			return true
		}
	}
	return false
}
