package parts

import (
	"bytes"
	"regexp"
	"slices"

	"brickshelf/internal/core/block"
	"brickshelf/internal/core/patch"
	"brickshelf/internal/core/shelf"
	"brickshelf/internal/core/site"
)

// LibraryOf is what a block or shortcode says of where it came from; nil where it is the site's own.
func LibraryOf(s *shelf.Shelf, u Unit) *block.Library {
	if u.Kind == Block {
		if b := s.Block(u.Name); b != nil {
			return b.Library
		}
	} else if u.Kind == Script {
		if c := s.Script(u.Name); c != nil {
			return c.Library
		}
	}
	return nil
}

// From lists the blocks and shortcodes of a site that came from another one.
func From(s *shelf.Shelf, library string) []Came {
	var out []Came
	for _, u := range shelved(s) {
		if l := LibraryOf(s, u); l != nil && l.Site == library {
			id := "blocks/" + l.Name + ".html"
			if u.Kind == Script {
				id = "shortcodes/" + l.Name + ".js"
			}
			out = append(out, Came{Unit: u, Of: id})
		}
	}
	return out
}

// Came is a unit that came from a library, where Of is its ID.
type Came struct {
	Unit
	Of string
}

// Libraries lists the sites from which blocks and shortcodes of a site came, in order of their
// names.
func Libraries(s *shelf.Shelf) []string {
	var out []string
	seen := map[string]bool{}
	for _, u := range shelved(s) {
		if l := LibraryOf(s, u); l != nil && !seen[l.Site] {
			seen[l.Site] = true
			out = append(out, l.Site)
		}
	}
	slices.Sort(out)
	return out
}

// shelved are the blocks and scripted shortcodes of a site.
func shelved(s *shelf.Shelf) []Unit {
	var out []Unit
	for _, p := range slices.Concat(s.Paths("blocks/"), s.Paths("shortcodes/")) {
		if u, ok := unitOf(s, p); ok && u.ID == p {
			out = append(out, u)
		}
	}
	return out
}

var libraryLine = regexp.MustCompile(`\r?\nlibrary:[^\r\n]*`)

// noted is the text of a block or shortcode that says where it came from.
func noted(p string, text []byte, l block.Library) ([]byte, error) {
	says := patch.Entries{}.With("site", l.Site).With("name", l.Name).With("text", string(l.Text))
	if l.Style != "" {
		says = says.With("style", string(l.Style))
	}
	if l.Behaviour != "" {
		says = says.With("behaviour", string(l.Behaviour))
	}
	if class, _, _ := site.Classify(p); class == site.BlockDoc {
		return patch.Set(p, text, []string{"library"}, says)
	}
	bare, err := own(p, text)
	end := bytes.Index(bare, []byte("*/"))
	if err != nil || end < 0 {
		return bare, err
	}
	head, nl := bare[:end], patch.Newline(bare)
	if bytes.HasSuffix(head, []byte(nl)) {
		head = head[:len(head)-len(nl)]
	}
	return slices.Concat(head, []byte(nl+"library: "+patch.Flow(says)), bare[len(head):]), nil
}

// own is the text of a document without what it says of where it came from.
func own(p string, text []byte) ([]byte, error) {
	switch class, _, _ := site.Classify(p); class {
	case site.BlockDoc:
		out, err := text, error(nil)
		if split, _ := site.Cut(text); bytes.Contains(split.Head, []byte("library")) {
			out, err = patch.Set(p, text, []string{"library"}, nil)
		}
		if split, _ := site.Cut(out); split.HasHead && len(split.Head) == 0 {
			return split.Text, err // the front matter was made for it
		}
		return out, err
	case site.ShortcodeDoc:
		head, rest, ended := bytes.Cut(text, []byte("*/"))
		if ended {
			return bytes.Join([][]byte{libraryLine.ReplaceAll(head, nil), rest}, []byte("*/")), nil
		}
	}
	return text, nil
}
