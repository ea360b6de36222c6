// Package parts takes parts of one site into another: a block, a layout, a page with what it
// needs. A part is a tree of the same format, with part: true in its site.yaml.
package parts

import (
	"path"
	"slices"
	"strings"

	"brickshelf/internal/core/place"
	"brickshelf/internal/core/shelf"
	"brickshelf/internal/core/site"
)

// Kind says what a unit is.
type Kind string

// The kinds of units. A block has its style and behaviour with it. A site value and a page
// field are what site.yaml and layouts declare under a name.
const (
	Block     Kind = "block"
	Script    Kind = "script"
	Layout    Kind = "layout"
	Menu      Kind = "menu"
	Rule      Kind = "rule"
	Page      Kind = "page"
	File      Kind = "file"
	SiteValue Kind = "site-value"
	PageField Kind = "page-field"
)

// Unit is what is taken or left as one. ID is the path of its main document, or
// site.yaml#NAME and page_fields#NAME of what is none.
type Unit struct {
	ID    string
	Kind  Kind
	Name  string // by which others speak of it: of a page or file, its address
	Title string
	Paths []string // of its documents
}

const (
	valuesIn = "site.yaml#"
	fieldsIn = "page_fields#"
)

// siteValue and pageField are the units of what is declared under a name.
func siteValue(name string) Unit {
	return Unit{ID: valuesIn + name, Kind: SiteValue, Name: name, Title: name}
}

func pageField(name string) Unit {
	return Unit{ID: fieldsIn + name, Kind: PageField, Name: name, Title: name}
}

// unitOf is the unit that a document belongs to; false for site.yaml, history and what is no
// document of a unit.
func unitOf(s *shelf.Shelf, p string) (Unit, bool) {
	class, name, _ := site.Classify(p)
	u := Unit{ID: p, Name: name, Title: name, Paths: []string{p}}
	switch class {
	case site.BlockDoc, site.StyleDoc, site.BehaviourDoc:
		u.Kind, u.ID, u.Paths = Block, "blocks/"+name+".html", nil
		for _, ext := range []string{".html", ".css", ".js"} {
			if s.Hash("blocks/"+name+ext) != "" {
				u.Paths = append(u.Paths, "blocks/"+name+ext)
			}
		}
		if b := s.Block(name); b != nil {
			u.Title = b.Title
		}
	case site.ShortcodeDoc:
		u.Kind = Script
		if c := s.Script(name); c != nil {
			u.Title = c.Title
		}
	case site.LayoutDoc:
		u.Kind = Layout
		if l := s.Layout(name); l != nil {
			u.Title = l.Title
		}
	case site.MenuDoc:
		u.Kind = Menu
		if m := s.Menu(name); m != nil {
			u.Title = m.Title
		}
	case site.RuleDoc:
		u.Kind = Rule
	case site.PageDoc:
		u.Kind = Page
		if in := s.Info(p); in != nil {
			u.Name, u.Title = in.URL, in.Page.Title
		}
	case site.AssetDoc, site.FileDoc:
		u.Kind, u.Name, u.Title = File, site.FileURL(p), path.Base(p)
	default:
		return u, false
	}
	return u, true
}

// Units lists what can be chosen of a site: all its units but for what blocks and others bring
// along by themselves.
func Units(s *shelf.Shelf) []Unit {
	var out []Unit
	for _, p := range s.Paths("") {
		if u, ok := unitOf(s, p); ok && u.ID == p {
			out = append(out, u)
		}
	}
	return out
}

// All lists the units of a part: those of its documents, and at their end what it declares in
// site.yaml.
func All(p *shelf.Shelf) []Unit {
	out := Units(p)
	for _, f := range p.Config().Fields {
		out = append(out, siteValue(f.Name))
	}
	for _, f := range p.Config().PageFields {
		out = append(out, pageField(f.Name))
	}
	return out
}

// find gives the unit of an ID; false where the site has none.
func find(s *shelf.Shelf, id string) (Unit, bool) {
	if name, ok := strings.CutPrefix(id, valuesIn); ok {
		return siteValue(name), fieldNamed(s.Config().Fields, name) != nil
	}
	if name, ok := strings.CutPrefix(id, fieldsIn); ok {
		return pageField(name), len(declaring(s, name)) > 0 || fieldNamed(s.Config().PageFields, name) != nil
	}
	if s.Hash(id) == "" {
		return Unit{}, false
	}
	return unitOf(s, id)
}

// declaring lists the layouts that declare a field of their pages.
func declaring(s *shelf.Shelf, name string) []*place.Layout {
	return slices.DeleteFunc(slices.Clone(s.Layouts()), func(l *place.Layout) bool {
		return l.PageField(name) == nil
	})
}
