package render

import (
	"strings"

	"brickshelf/internal/core/confine"
	"brickshelf/internal/core/shelf"
	"brickshelf/internal/core/site"
)

// File is a style or behaviour that a page loads: a revision of a block's, and what it is
// confined to where the page shows several revisions.
type File struct {
	Hash site.Hash
	Ext  string       // ".css" or ".js"
	Of   string       // the group of revisions, where it is confined; else ""
	Role confine.Role // what it is confined to
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
func (f File) Bytes(s *shelf.Shelf) ([]byte, bool) {
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

// FileNamed gives the file of a name that a File has.
func FileNamed(s *shelf.Shelf, name string) ([]byte, bool) {
	i := strings.LastIndexByte(name, '.')
	if i < 0 {
		return nil, false
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

// revision is one of those in which a page shows a block.
type revision struct{ style, code site.Hash }

// several are the blocks that a page shows in several revisions.
type several map[string]group

// group are the revisions of a block that a page shows: their name, and the one that counts also
// for all that is no placement of the block. Both hang on what is shown alone, and not on what
// is linked and what the block is: so detaching changes no page, and no later edit of the block
// a page that has only copies of it.
type group struct {
	name string
	rest revision
}

// file is a style or behaviour of a block as the page loads it.
func (s several) file(name string, h site.Hash, ext string) File {
	f := File{Hash: h, Ext: ext}
	if g, apart := s[name]; apart && h != "" {
		f.Of, f.Role = g.name, confine.Only
		if h == g.rest.style || h == g.rest.code {
			f.Role = confine.Rest
		}
	}
	return f
}

// several finds the blocks that the page shows in several revisions, and marks their placements
// in what was rendered. Where there is none, which is so on almost every page, nothing is done.
func (r *renderer) several(res *Result) several {
	asked := map[string]bool{}
	for _, a := range r.assets {
		if !a.copy {
			continue
		}
		now := r.s.Shelved(a.name)
		if now != nil && (now.Style != a.style || now.Code != a.code) || now == nil && a.style+a.code != "" {
			asked[a.name] = true
		}
	}
	for _, a := range r.assets { // copies of two revisions, of neither of which the block is now
		for _, b := range r.assets {
			if a.copy && a.name == b.name && (a.style != b.style || a.code != b.code) {
				asked[a.name] = true
			}
		}
	}
	if len(asked) == 0 {
		return nil
	}
	list := res.Placements
	if r.trace == nil {
		again := newRenderer(r.s, r.info, nil)
		again.strip, again.trace = r.strip, &[]Placement{}
		again.page()
		list = *again.trace
	}
	out := several{}
	var marked []confine.Stretch
	for name := range asked {
		g, several := grouped(list, name)
		if !several {
			continue
		}
		out[name] = g
		for _, p := range list {
			if p.Block == name && p.Kind != Hidden && p.From < p.To {
				marked = append(marked, confine.Stretch{From: p.From, To: p.To,
					Name:  confine.Attribute(g.name),
					Value: confine.Mark(string(p.style), string(p.code))})
			}
		}
	}
	if len(out) == 0 {
		return nil
	}
	r.mark(res, marked)
	return out
}

// grouped groups the revisions in which a block is shown. The one of which there are most
// placements counts for the rest, of several the first. It reports false where there is only one.
func grouped(list []Placement, name string) (group, bool) {
	count := map[revision]int{}
	var shown []revision
	var names []string
	for _, p := range list {
		if p.Block != name || p.Kind == Hidden {
			continue
		}
		v := revision{p.style, p.code}
		if count[v]++; count[v] == 1 {
			shown, names = append(shown, v), append(names, string(p.style)+" "+string(p.code))
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

// mark marks stretches of the page, and moves along what stands behind.
func (r *renderer) mark(res *Result, marked []confine.Stretch) {
	insertions := confine.Marks(r.buf[r.start:], marked)
	text, moved := confine.Insert(r.buf[r.start:], insertions)
	r.buf = append(r.buf[:r.start:r.start], text...)
	if r.assetsAt >= 0 {
		r.assetsAt = r.start + moved(r.assetsAt-r.start)
	}
	for i := range res.Placements {
		p := &res.Placements[i]
		p.From, p.To = moved(p.From), moved(p.To)
	}
	var literals []Literal
	for _, l := range res.Literals {
		for _, in := range insertions { // what is put into the middle of one cuts it in two
			if l.From < in.At && in.At < l.To {
				literals = append(literals, Literal{moved(l.From), moved(in.At) - len(in.Text), l.At})
				l.At += in.At - l.From
				l.From = in.At
			}
		}
		literals = append(literals, Literal{moved(l.From), moved(l.To), l.At})
	}
	res.Literals = literals
}
