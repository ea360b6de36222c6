package assets

import (
	"brickshelf/internal/core/confine"
	"brickshelf/internal/core/site"
)

// Revision is a style and a behaviour of one block.
type Revision struct{ Style, Code site.Hash }

// Use is a placement as a page shows it: whose, and in which revision.
type Use struct {
	Block string
	Revision
}

// Several are the blocks that a page shows in several revisions.
type Several map[string]group

// group are the revisions of a block that a page shows: their name, and the one that counts also
// for all that is no placement of the block. Both hang on what is shown alone, and not on what
// is linked and what the block is: so detaching changes no page, and no later edit of the block
// a page that has only copies of it.
type group struct {
	name string
	rest Revision
}

// Grouped finds, among the blocks asked for, those that a page shows in several revisions. Of
// each the revision of which there are most uses counts for the rest, of several the first.
func Grouped(asked map[string]bool, uses []Use) Several {
	out := Several{}
	for name := range asked {
		if g, apart := grouped(uses, name); apart {
			out[name] = g
		}
	}
	return out
}

func grouped(uses []Use, name string) (group, bool) {
	count := map[Revision]int{}
	var shown []Revision
	var names []string
	for _, u := range uses {
		if u.Block != name {
			continue
		}
		if count[u.Revision]++; count[u.Revision] == 1 {
			shown, names = append(shown, u.Revision), append(names, string(u.Style)+" "+string(u.Code))
		}
	}
	if len(shown) < 2 {
		return group{}, false
	}
	most := shown[0]
	for _, v := range shown {
		if count[v] > count[most] {
			most = v
		}
	}
	return group{confine.Group(names), most}, true
}

// Mark is the attribute that marks a placement. It reports false where the page shows only one
// revision of the block.
func (s Several) Mark(u Use) (name, value string, apart bool) {
	g, apart := s[u.Block]
	return confine.Attribute(g.name), confine.Mark(string(u.Style), string(u.Code)), apart
}

// File is a style or behaviour of a block as the page loads it.
func (s Several) File(block string, h site.Hash, ext string) File {
	f := File{Hash: h, Ext: ext}
	if g, apart := s[block]; apart && h != "" {
		f.Of, f.Role = g.name, confine.Only
		if h == g.rest.Style || h == g.rest.Code {
			f.Role = confine.Rest
		}
	}
	return f
}
