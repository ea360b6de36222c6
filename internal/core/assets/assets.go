// Package assets names the styles and behaviours that a page loads, and confines those of a block
// that the page shows in several revisions to the placements of their own.
package assets

import (
	"strings"

	"brickshelf/internal/core/confine"
	"brickshelf/internal/core/site"
)

// File is a style or behaviour that a page loads: a revision of a block's, and what it is
// confined to where the page shows several revisions.
type File struct {
	Hash site.Hash
	Ext  string       // ".css" or ".js"
	Of   string       // the group of revisions, where it is confined; else ""
	Role confine.Role // what it is confined to
	Each bool         // a behaviour that is started for each placement of its block
}

// Revisions give the bytes of styles and behaviours, present and past.
type Revisions interface {
	ByHash(h site.Hash) ([]byte, bool)
	ByHashPrefix(prefix, ext string) ([]byte, bool)
}

// URL is the address at which a file is published: named by its content, and what that is
// confined to.
func (f File) URL() string { return "/_shelf/" + f.Name() }

// Name is the name of its file.
func (f File) Name() string {
	name := string(f.Hash[:min(len(f.Hash), hashed)])
	if f.Of != "" {
		name += "~" + f.Of + "~" + string(f.Role)
	}
	return name + f.Ext
}

// hashed is how much of a hash names a file.
const hashed = 32

// Bytes gives a file as it is loaded. It reports false where the site has no such revision.
func (f File) Bytes(s Revisions) ([]byte, bool) {
	if f == Starter() {
		return starter, true
	}
	b, ok := s.ByHash(f.Hash)
	return f.confined(b), ok
}

func (f File) confined(b []byte) []byte {
	switch {
	case f.Of == "":
		return b
	case f.Ext == ".css":
		return confine.Style(b, f.Of, string(f.Hash), f.Role)
	}
	return confine.Behaviour(b, f.Of, string(f.Hash), f.Role)
}

// Named gives the file of a name that a File has.
func Named(s Revisions, name string) ([]byte, bool) {
	i := strings.LastIndexByte(name, '.')
	if i < 0 {
		return nil, false
	}
	if name == Starter().Name() {
		return starter, true
	}
	prefix, rest, confined := strings.Cut(name[:i], "~")
	f := File{Hash: site.Hash(prefix), Ext: name[i:]}
	if confined {
		of, role, _ := strings.Cut(rest, "~")
		if f.Of, f.Role = of, confine.Role(role); f.Role != confine.Only && f.Role != confine.Rest {
			return nil, false
		}
	}
	b, ok := s.ByHashPrefix(prefix, f.Ext)
	if !ok {
		return nil, false
	}
	return f.confined(b), true
}
