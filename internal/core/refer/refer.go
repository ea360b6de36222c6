// Package refer reads from a page's HTML what it refers to: elements of the same
// page by their id, pages and files of the site by their address.
package refer

import (
	"bytes"
	"net/url"
	"path"
	"strings"

	"golang.org/x/net/html"
	"golang.org/x/net/html/atom"
)

// Kind says what a reference leads to.
type Kind uint8

// The kinds of references.
const (
	ToElement Kind = iota // of the same page, by id
	ToPage                // of the same site, by address
	ToFile                // an image, style or script of the same site, by address
)

// Ref is a reference. To is the id, or the address from the site's root. At is the
// byte offset of the tag that holds it, Written the value as the tag has it.
type Ref struct {
	Kind    Kind
	To      string
	Written string
	At      int
}

// Found is what a piece of HTML refers to and what can be referred to in it.
type Found struct {
	IDs  map[string]bool
	Refs []Ref
}

// Scan reads HTML that stands between tags, on the page at address.
func Scan(src []byte, address string) Found {
	f := Found{IDs: map[string]bool{}}
	z := html.NewTokenizer(bytes.NewReader(src))
	at := 0
	for {
		t := z.Next()
		if t == html.ErrorToken {
			return f
		}
		start := at
		at += len(z.Raw())
		if t == html.StartTagToken || t == html.SelfClosingTagToken {
			f.tag(z, start, address)
		}
	}
}

// FirstID is the id of the first element of a text that has one; "" where none has.
func FirstID(src []byte) string {
	z := html.NewTokenizer(bytes.NewReader(src))
	for {
		switch z.Next() {
		case html.ErrorToken:
			return ""
		case html.StartTagToken, html.SelfClosingTagToken:
			for _, more := z.TagName(); more; {
				var key, value []byte
				if key, value, more = z.TagAttr(); string(key) == "id" {
					return string(value)
				}
			}
		}
	}
}

// Overlays reports whether the first element of a text opens over a page: a dialog, or a popover.
func Overlays(src []byte) bool {
	z := html.NewTokenizer(bytes.NewReader(src))
	for {
		switch z.Next() {
		case html.ErrorToken:
			return false
		case html.StartTagToken, html.SelfClosingTagToken:
			name, more := z.TagName()
			found := string(name) == "dialog"
			for more {
				var key []byte
				key, _, more = z.TagAttr()
				found = found || string(key) == "popover"
			}
			return found
		}
	}
}

func (f *Found) tag(z *html.Tokenizer, at int, address string) {
	name, more := z.TagName()
	tag := atom.Lookup(name)
	for more {
		var k, v []byte
		k, v, more = z.TagAttr()
		value := string(v)
		switch key := string(k); key {
		case "id":
			f.IDs[value] = true
		case "name":
			if tag == atom.A {
				f.IDs[value] = true
			}
		case "href":
			switch tag {
			case atom.A, atom.Area:
				f.address(ToPage, value, at, address)
			case atom.Link:
				f.address(ToFile, value, at, address)
			}
		case "src", "poster":
			f.address(ToFile, value, at, address)
		case "popovertarget", "commandfor", "for", "list", "form":
			f.element(value, value, at)
		case "aria-controls", "aria-labelledby", "aria-describedby", "aria-owns", "headers":
			for _, id := range strings.Fields(value) {
				f.element(id, value, at)
			}
		}
	}
}

func (f *Found) element(id, written string, at int) {
	if id != "" {
		f.Refs = append(f.Refs, Ref{ToElement, id, written, at})
	}
}

// address adds a reference by address, where it leads into the site. A fragment
// alone names an element; #top and # are the page itself (HTML, "navigating to a
// fragment").
func (f *Found) address(kind Kind, value string, at int, from string) {
	v := strings.TrimSpace(value)
	if id, ok := strings.CutPrefix(v, "#"); ok {
		if id, err := url.PathUnescape(id); err == nil && kind == ToPage && !strings.EqualFold(id, "top") {
			f.element(id, value, at)
		}
		return
	}
	u, err := url.Parse(v)
	if err != nil || v == "" || u.Scheme != "" || u.Host != "" || u.Path == "" ||
		strings.HasPrefix(u.Path, "//") {
		return
	}
	to := u.Path
	if !strings.HasPrefix(to, "/") {
		to = from[:strings.LastIndexByte(from, '/')+1] + to
	}
	slash := strings.HasSuffix(to, "/") || strings.HasSuffix(to, "/.") || strings.HasSuffix(to, "/..")
	if to = path.Clean(to); slash && to != "/" {
		to += "/"
	}
	f.Refs = append(f.Refs, Ref{kind, to, value, at})
}
