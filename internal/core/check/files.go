package check

import (
	"bytes"
	"path"
	"slices"
	"strings"

	"golang.org/x/net/html"

	"brickshelf/internal/core/shelf"
	"brickshelf/internal/core/site"
)

// kept are the names that a published site, or the server of one, uses itself.
var kept = []string{"_shelf", "_for", "_draft", "_edit", "_live"}

const sitemap = "sitemap.xml"

// unwritable tells why a document could not be written beside the others: as a file of the
// shelf folder, or as what it is published as.
func unwritable(s *shelf.Shelf, doc string) site.Problems {
	problem := func(message string) site.Problems {
		return site.Problems{{Code: "no-file", Severity: site.Invalid, Path: doc, Line: 1, Column: 1,
			Message: message}}
	}
	for dir := range site.Folders(doc) {
		if _, there := s.Get(dir); there {
			return problem("cannot be a file in the folder " + dir +
				", since that is a file itself; rename one of them")
		}
	}
	if below := s.Paths(doc + "/"); len(below) > 0 {
		return problem("cannot be a file, since " + below[0] +
			" needs a folder of its name; rename one of them")
	}
	file := published(s, doc)
	if file == "" {
		return nil
	}
	if first, _, deep := strings.Cut(file, "/"); deep && slices.Contains(kept, first) {
		return problem("cannot be published: " + first +
			" is the name of a folder that every published site has for itself; choose another")
	}
	if other := publishedAs(s, file, doc); other != "" {
		return problem("would be published as the file " + file + ", and so is " + other +
			"; move one of them")
	}
	for at := range site.Folders(file) {
		if other := publishedAs(s, at, doc); other != "" {
			return problem("would be published as " + file + ", and " + other + " as the file " + at +
				", which cannot be a folder too; move one of them")
		}
	}
	for _, other := range slices.Concat(s.Paths("pages/"+file+"/"), s.Paths("pages/"+file+".html"),
		s.Paths(file+"/"), s.Paths("files/"+file+"/")) {
		if strings.HasPrefix(published(s, other), file+"/") {
			return problem("would be published as the file " + file + ", which " + other +
				" needs as a folder; move one of them")
		}
	}
	return nil
}

// published is the file that a document is published as, "" where it is part of others.
func published(s *shelf.Shelf, doc string) string {
	if in := s.Info(doc); in != nil {
		return site.FileOf(in.URL)
	}
	return strings.TrimPrefix(site.FileURL(doc), "/")
}

// publishedAs is what is published as a file, but for one document; "" where nothing is.
// Pages of the same address are told elsewhere.
func publishedAs(s *shelf.Shelf, file, but string) string {
	for _, doc := range site.FilesAt("/" + file) {
		if _, there := s.Get(doc); there && doc != but {
			return doc
		}
	}
	if file == sitemap && but != "files/"+sitemap { // one of the site's own takes the place of the made one
		return "the sitemap"
	}
	urls := []string{"/" + file}
	if dir, ok := strings.CutSuffix(urls[0], "/index.html"); ok {
		urls = append(urls, dir+"/")
	}
	own := s.Info(but)
	for _, url := range urls {
		if in := s.Page(url); in != nil && in.URL == url && in.Page.Path != but &&
			(own == nil || own.URL != url) && site.FileOf(url) == file {
			return in.Page.Path
		}
	}
	return ""
}

// unfit lists files that are not what their names say, or that run something where they are opened.
func unfit(s *shelf.Shelf) site.Problems {
	var out site.Problems
	for _, p := range slices.Concat(s.Paths("assets/"), s.Paths("files/")) {
		src, _ := s.Get(p)
		switch strings.ToLower(path.Ext(p)) {
		case ".png", ".jpg", ".jpeg", ".gif":
			if !begins(src) {
				out = append(out, site.Problem{Code: "no-picture", Severity: site.Warning, Path: p, Line: 1, Column: 1,
					Message: "is no picture, though its name says so; put another file there, or give it another name"})
			}
		case ".svg":
			if runs(src) {
				out = append(out, site.Problem{Code: "scripted-svg", Severity: site.Warning, Path: p, Line: 1, Column: 1,
					Message: "holds a script, which runs in the site's name where somebody opens the file by its address; take the script out"})
			}
		}
	}
	return out
}

// begins reports whether a file begins as a PNG, JPEG or GIF does.
func begins(src []byte) bool {
	for _, as := range []string{"\x89PNG\r\n\x1a\n", "\xff\xd8\xff", "GIF87a", "GIF89a"} {
		if bytes.HasPrefix(src, []byte(as)) {
			return true
		}
	}
	return false
}

// runs reports whether an SVG has a script, an attribute for events, or a link that runs one.
func runs(src []byte) bool {
	z := html.NewTokenizer(bytes.NewReader(src))
	for {
		switch z.Next() {
		case html.ErrorToken:
			return false
		case html.StartTagToken, html.SelfClosingTagToken:
			name, more := z.TagName()
			if string(name) == "script" {
				return true
			}
			for more {
				var k, v []byte
				k, v, more = z.TagAttr()
				key := strings.ToLower(string(k))
				if strings.HasPrefix(key, "on") || strings.HasSuffix(key, "href") &&
					strings.HasPrefix(strings.ToLower(strings.TrimSpace(string(v))), "javascript:") {
					return true
				}
			}
		}
	}
}

// alike lists documents whose names some disks take for the same.
func alike(s *shelf.Shelf) site.Problems {
	var out site.Problems
	for _, t := range site.Twins(s.Paths("")) {
		out = append(out, site.Problem{Code: "similar-names", Severity: site.Warning, Path: t[1], Line: 1,
			Column: 1, Message: "differs from " + t[0] +
				" in nothing but case or the form of its letters, and some disks take both for one file; rename one of them"})
	}
	return out
}
