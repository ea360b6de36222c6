package site

import (
	"fmt"
	"iter"
	"path"
	"slices"
	"strings"
	"unicode/utf8"

	"brickshelf/internal/core/markup"
)

// Class is the kind of document that a path holds.
type Class string

// The classes of documents, by the folder they stand in.
const (
	ConfigDoc    Class = "site"
	LayoutDoc    Class = "layout"
	BlockDoc     Class = "block"
	StyleDoc     Class = "style"
	BehaviourDoc Class = "behaviour"
	ShortcodeDoc Class = "shortcode"
	IgnoredDoc   Class = "ignored" // a file in a folder below shortcodes
	RuleDoc      Class = "rule"
	MenuDoc      Class = "menu"
	PageDoc      Class = "page"
	HistoryDoc   Class = "history"
	AssetDoc     Class = "asset" // published as it is, under its path
	FileDoc      Class = "file"  // published as it is, at the root of the site
)

// Classify tells what a path holds, and the name by which other documents
// speak of it. The problem text is "" where the path is a good one.
func Classify(p string) (class Class, name, problem string) {
	if bad := badPath(p); bad != "" {
		return "", "", bad
	}
	if p == "site.yaml" {
		return ConfigDoc, "", ""
	}
	if !Hidden(p) && (p[0] == '.' || strings.Contains(p, "/.")) {
		return "", "",
			"no part of its path should begin with a dot: such files are hidden, and left out where a folder is read"
	}
	dir, rest, deep := strings.Cut(p, "/")
	if !deep {
		return "", "",
			"only site.yaml stands at the top of a site; put this into layouts, blocks, shortcodes, rules, menus, pages, history, assets or files"
	}
	named := func(c Class, ext string) (Class, string, string) {
		name := strings.TrimSuffix(rest, ext)
		if name == rest || !markup.ValidName(name) {
			return "", "", "should be named " + dir + "/NAME" + ext +
				", with a name of lower-case letters, digits and hyphens"
		}
		return c, name, ""
	}
	switch dir {
	case "layouts":
		return named(LayoutDoc, ".html")
	case "blocks":
		switch path.Ext(rest) {
		case ".css":
			return named(StyleDoc, ".css")
		case ".js":
			return named(BehaviourDoc, ".js")
		}
		c, name, bad := named(BlockDoc, ".html")
		if bad == "" && markup.IsReserved(name) {
			bad = "the name " + name + " is part of the language; give the block another one"
		}
		return c, name, bad
	case "shortcodes":
		if strings.Contains(rest, "/") {
			return IgnoredDoc, rest, ""
		}
		return named(ShortcodeDoc, ".js")
	case "rules":
		return named(RuleDoc, ".yaml")
	case "menus":
		return named(MenuDoc, ".yaml")
	case "pages":
		if !PageName(rest) {
			return "", "", "a page should be named pages/PATH.html; .htm and .xhtml are taken too"
		}
		if strings.ContainsAny(rest, "#%") {
			return "", "", "the path of a page is its address and should have no # or %"
		}
		if bare, plain := strings.CutSuffix(rest, ".html"); plain && !PageName(bare) {
			return PageDoc, bare, ""
		}
		return PageDoc, rest, ""
	case "history":
		if len(rest) != 64 || strings.Trim(rest, "0123456789abcdef") != "" {
			return "", "", "a revision in history should be named by its SHA-256"
		}
		return HistoryDoc, rest, ""
	case "assets":
		return AssetDoc, rest, ""
	case "files":
		return FileDoc, rest, ""
	}
	return "", "",
		"stands in no folder of a site; the folders are layouts, blocks, shortcodes, rules, menus, pages, history, assets and files"
}

// Hidden reports whether a document may have a name that begins with a dot: those that are published
// as they are, such as files/.well-known/security.txt.
func Hidden(p string) bool {
	return strings.HasPrefix(p, "assets/") || strings.HasPrefix(p, "files/")
}

// FileURL is the address at which a document is published that is published as it is: /assets/x
// for assets/x, /x for files/x; "" for any other.
func FileURL(p string) string {
	switch {
	case strings.HasPrefix(p, "assets/"):
		return "/" + p
	case strings.HasPrefix(p, "files/"):
		return strings.TrimPrefix(p, "files")
	}
	return ""
}

// FilesAt are the documents that could be published as they are at an address, the likelier first.
func FilesAt(url string) []string {
	if strings.HasPrefix(url, "/assets/") {
		return []string{url[1:], "files" + url}
	}
	return []string{"files" + url}
}

// roots are the folders of a site.
var roots = []string{"layouts", "blocks", "shortcodes", "rules", "menus", "pages", "history", "assets", "files"}

// Foreign reports whether a path is no document of a site by where it stands: a README.md beside
// site.yaml, a folder of another name.
func Foreign(p string) bool {
	dir, _, deep := strings.Cut(p, "/")
	return !deep && p != "site.yaml" || deep && !slices.Contains(roots, dir)
}

// ordinary reports whether a path has nothing in it that could be wrong, as nearly all.
func ordinary(p string) bool {
	start := true // of a part
	for i := 0; i < len(p); i++ {
		switch c := p[i]; {
		case 'a' <= c && c <= 'z', '0' <= c && c <= '9', c == '-', c == '_':
			start = false
		case c == '.' && !start:
		case c == '/' && !start:
			start = true
		default:
			return false
		}
	}
	return !start && len(p) <= maxName
}

// maxName is how many bytes a part of a path may have: no usual disk takes more.
const maxName = 255

func badPath(p string) string {
	if ordinary(p) {
		return ""
	}
	return wrongWith(p)
}

func wrongWith(p string) string {
	switch {
	case p == "" || len(p) > 400:
		return "a path should have 1 to 400 bytes"
	case !utf8.ValidString(p):
		return "a path should be UTF-8"
	case strings.ContainsAny(p, "\\:*?\"<>|\x00"):
		return `a path should have none of \ : * ? " < > |`
	case path.Clean("/"+p) != "/"+p:
		return "a path should have no empty, . or .. parts"
	}
	for part := range strings.SplitSeq(p, "/") {
		if len(part) > maxName {
			return fmt.Sprintf("a name should have at most %d bytes, and this one has %d; no disk could hold it", maxName, len(part))
		}
	}
	for _, r := range p {
		if r < 0x20 || r == 0x7f {
			return "a path should have no control characters"
		}
	}
	return ""
}

// PageName reports whether a file of a web site is one of its pages by its name.
func PageName(p string) bool {
	base := path.Base(p)
	ext := path.Ext(base)
	return ext != base && slices.Contains(pageEnds, strings.ToLower(ext))
}

// pageEnds are the ends of the names of pages.
var pageEnds = []string{".html", ".htm", ".xhtml"}

// URLOf returns the address of a page by its name (the path without "pages/"
// and ".html"; with any other end that pages have). Where exact is set, pages keep their file names, as
// those with another end always do.
func URLOf(name string, exact bool) string {
	if bare, twice := strings.CutSuffix(name, ".html"); twice { // of two ends
		name = bare
	} else if PageName(name) {
		return "/" + name
	}
	dir, base := path.Split(name)
	if base == "index" {
		return "/" + dir
	}
	if exact {
		return "/" + name + ".html"
	}
	return "/" + name + "/"
}

// FileOf returns the file that a page's address is published as.
func FileOf(url string) string {
	if strings.HasSuffix(url, "/") {
		return strings.TrimPrefix(url, "/") + "index.html"
	}
	return strings.TrimPrefix(url, "/")
}

// RootOf returns the relative path from an address to the site's root: "./"
// for the home page, "../" for each folder above.
func RootOf(url string) string {
	n := strings.Count(url, "/") - 1
	if n <= 0 {
		return "./"
	}
	return strings.Repeat("../", n)
}

// UpOf is RootOf for what goes on behind it: "" for a page at the top of the site.
func UpOf(url string) string { return strings.TrimPrefix(RootOf(url), "./") }

// Folders yields the folders in which a path stands, from the nearest on, whatever the path
// is like: a, for a/b/ and a/b.
func Folders(p string) iter.Seq[string] {
	return func(yield func(string) bool) {
		for i := strings.LastIndexByte(p, '/'); i > 0; i = strings.LastIndexByte(p[:i], '/') {
			if !yield(p[:i]) {
				return
			}
		}
	}
}
