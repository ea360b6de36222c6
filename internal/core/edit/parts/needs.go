package parts

import (
	"bytes"
	"path"
	"regexp"
	"slices"
	"strings"

	"brickshelf/internal/core/block"
	"brickshelf/internal/core/edit"
	"brickshelf/internal/core/edit/documents"
	"brickshelf/internal/core/markup"
	"brickshelf/internal/core/patch"
	"brickshelf/internal/core/render"
	"brickshelf/internal/core/shelf"
	"brickshelf/internal/core/site"
)

// Needed is a unit of a part: one that was asked for, or that others need.
type Needed struct {
	Unit
	For []string // the IDs of what needs it; none of what was asked for
}

// Needs lists units of a site with all that they need, what was asked for first: blocks and
// shortcodes that they call, menus, layouts, files, values of the site and fields of pages that
// they read. What a page links to, and rules that take it, are none of it.
func Needs(s *shelf.Shelf, asked []string) ([]Needed, error) {
	var out []Needed
	at := map[string]int{}
	for _, id := range asked {
		u, ok := find(s, id)
		if !ok {
			return nil, site.Missing("there is no %s here that could be taken", id)
		}
		if _, twice := at[u.ID]; !twice {
			at[u.ID] = len(out)
			out = append(out, Needed{Unit: u})
		}
	}
	if len(out) == 0 {
		return nil, site.Refuse("choose what is to be taken")
	}
	n := newNeeds(s)
	for i, first := 0, len(out); i < len(out); i++ {
		for _, id := range n.of(out[i].Unit) {
			j, known := at[id]
			if !known {
				u, ok := find(s, id)
				if !ok {
					continue
				}
				j = len(out)
				at[id] = j
				out = append(out, Needed{Unit: u})
			}
			if j >= first && j != i {
				out[j].For = append(out[j].For, out[i].ID)
			}
		}
	}
	return out, nil
}

// needs finds what units need.
type needs struct {
	s *shelf.Shelf
	// files are those of the site by the last part of their names.
	files map[string][]string
}

func newNeeds(s *shelf.Shelf) *needs {
	n := &needs{s: s, files: map[string][]string{}}
	for _, p := range slices.Concat(s.Paths("assets/"), s.Paths("files/")) {
		n.files[path.Base(p)] = append(n.files[path.Base(p)], p)
	}
	return n
}

// of lists the IDs of what a unit needs by itself, in order; some may not be there.
func (n *needs) of(u Unit) []string {
	f := finding{n: n, found: map[string]bool{}}
	switch u.Kind {
	case SiteValue, PageField:
		f.declared(fieldOf(n.s, u))
	case Block:
		if b := n.s.Block(u.Name); b != nil {
			f.text(b.Text)
			f.text(markup.Parse([]byte(b.Sample)))
			for _, d := range b.Fields {
				f.declared(d)
			}
			for _, name := range b.Behaviour.Needs {
				f.called(name)
			}
		}
	case Script:
		if c := n.s.Script(u.Name); c != nil {
			f.text(markup.Parse([]byte(c.Sample)))
			for _, d := range c.Params {
				f.declared(d)
			}
			for _, d := range n.s.Config().Fields { // as site.fields.phone or site.fields["phone"]
				if regexp.MustCompile(`fields\b.*\b` + regexp.QuoteMeta(d.Name) + `\b`).Match(c.Source) {
					f.reads("site", d.Name)
				}
			}
		}
	case Layout:
		if l := n.s.Layout(u.Name); l != nil {
			f.text(l.Text)
			for _, region := range edit.SortedKeys(l.StartsWith) {
				f.text(markup.Parse([]byte(l.StartsWith[region])))
			}
			for _, d := range l.PageFields {
				f.declared(d)
			}
		}
	case Menu:
		for _, t := range n.s.Panels(u.Name) {
			f.text(t)
		}
	case Rule:
		if r := n.s.Rule(u.Name); r != nil {
			f.called(r.Block)
			f.set(r.Block, headOf(n.s, u.ID).Get("set"))
		}
	case Page:
		if in := n.s.Info(u.ID); in != nil {
			f.text(in.Page.Text)
			for _, a := range edit.SortedKeys(in.Page.Copies) {
				f.called(in.Page.Copies[a].Of)
				f.text(in.Page.Copies[a].Text)
			}
			if in.Page.Layout != "" {
				f.found["layouts/"+in.Page.Layout+".html"] = true
			}
		}
		f.said(u.ID, headOf(n.s, u.ID).Get("overrides"))
	}
	for _, p := range u.Paths {
		f.named(p)
	}
	return edit.SortedKeys(f.found)
}

// finding gathers what one unit needs.
type finding struct {
	n     *needs
	found map[string]bool
}

// called notes a block or scripted shortcode by the name by which it is called.
func (f finding) called(name string) {
	if f.n.s.Block(name) != nil {
		f.found["blocks/"+name+".html"] = true
	} else if f.n.s.Script(name) != nil {
		f.found["shortcodes/"+name+".js"] = true
	}
}

// text notes what a text calls and reads.
func (f finding) text(t *markup.Text) {
	markup.Walk(t.Nodes, func(n *markup.Node) bool {
		f.expr(n.Expr)
		switch n.Kind {
		case markup.Call:
			f.called(n.Name)
			for _, a := range n.Args {
				f.expr(a.Value.Expr)
				f.value(fieldNamed(f.n.s.Parameters(n.Name), a.Name), block.RawArgument(a.Value))
			}
		case markup.Copy:
			f.called(n.ArgString("of"))
		}
		return true
	})
}

func (f finding) expr(e *markup.Expr) {
	if e == nil {
		return
	}
	for _, t := range e.Terms {
		if t.Literal == nil && len(t.Path) > 1 {
			f.reads(t.Path[0], t.Path[1])
		}
	}
}

// reads notes a value of the site or a field of pages.
func (f finding) reads(of, name string) {
	switch of {
	case "site":
		f.found[valuesIn+name] = true
	case "page":
		f.found[fieldsIn+name] = true
	}
}

// declared notes what a field takes by itself.
func (f finding) declared(d *block.Field) {
	if d == nil {
		return
	}
	if len(d.From) == 2 {
		f.reads(d.From[0], d.From[1])
	}
	if d.Written.IsSet() {
		f.value(d, d.Written.Plain())
	}
	for _, inner := range d.Fields {
		f.declared(inner)
	}
}

// value notes the menus in a value that is given to a field, and in the groups of a list.
func (f finding) value(d *block.Field, v any) {
	if d == nil {
		return
	}
	switch t := v.(type) {
	case string:
		if d.Type == block.Menu && markup.ValidName(t) {
			f.found["menus/"+t+".yaml"] = true
		}
	case []any:
		for _, it := range t {
			group, _ := it.(map[string]any)
			for _, k := range edit.SortedKeys(group) {
				f.value(d.Field(k), group[k])
			}
		}
	}
}

// set notes the menus among values that a rule or a page gives to a block.
func (f finding) set(name string, y *site.YAML) {
	if y == nil {
		return
	}
	for _, p := range y.Pairs {
		f.value(fieldNamed(f.n.s.Parameters(name), p.Key), block.Raw(p.Value))
	}
}

// said notes the menus that a page gives to blocks at their addresses, whoever they are shown to.
func (f finding) said(page string, overrides *site.YAML) {
	if overrides == nil || len(overrides.Pairs) == 0 {
		return
	}
	stands := map[string]string{}
	for _, p := range render.Placements(f.n.s, page) {
		stands[p.Address] = p.Block
	}
	for _, p := range overrides.Pairs {
		f.set(stands[p.Key], p.Value)
	}
}

var (
	hashes = regexp.MustCompile(`[0-9a-f]{64}`)
	// fileName is what may be the last part of an address of a file.
	fileName = regexp.MustCompile(`[^/"'()\s?#\\<>]+\.[A-Za-z0-9]+`)
)

// named notes the files that a document names.
func (f finding) named(p string) {
	src, _ := f.n.s.Get(p)
	class, _, _ := site.Classify(p)
	published := class == site.AssetDoc || class == site.FileDoc
	if published && !slices.Contains([]string{".css", ".js", ".mjs", ".html", ".svg"}, strings.ToLower(path.Ext(p))) {
		return
	}
	for _, name := range fileName.FindAll(src, -1) {
		for _, file := range f.n.files[string(name)] {
			switch {
			case f.found[file] || file == p:
			case published:
				f.found[file] = bytes.Contains(src, []byte(site.FileURL(file)))
			default:
				f.found[file] = documents.Names(f.n.s, p, file)
			}
			if !f.found[file] {
				delete(f.found, file)
			}
		}
	}
}

// revisions lists the documents of history that some documents speak of.
func revisions(s *shelf.Shelf, paths []string) []string {
	var out []string
	for _, p := range paths {
		src, _ := s.Get(p)
		for _, h := range hashes.FindAll(src, -1) {
			if old := "history/" + string(h); s.Hash(old) != "" && !slices.Contains(out, old) {
				out = append(out, old)
			}
		}
	}
	return out
}

func fieldNamed(fields []*block.Field, name string) *block.Field {
	for _, f := range fields {
		if f.Name == name {
			return f
		}
	}
	return nil
}

// fieldOf is the field that a unit declares.
func fieldOf(s *shelf.Shelf, u Unit) *block.Field {
	list := s.Config().Fields
	if u.Kind == PageField {
		list = s.Config().PageFields
		for _, l := range declaring(s, u.Name) {
			list = slices.Concat(list, l.PageFields)
		}
	}
	return fieldNamed(list, u.Name)
}

// headOf is the YAML of a document, or of its front matter; nil where that cannot be read.
func headOf(s *shelf.Shelf, p string) *site.YAML {
	src, _ := s.Get(p)
	switch class, _, _ := site.Classify(p); class {
	case site.PageDoc, site.BlockDoc, site.LayoutDoc:
		split, _ := site.Cut(src)
		src = split.Head
	}
	y, problem := site.ParseYAML(src, p, 1)
	if problem != nil {
		return nil
	}
	return y
}

// declaration is what a site says of a value or field, as patch.Set takes it; nil where it says
// nothing.
func declaration(s *shelf.Shelf, u Unit) any {
	if u.Kind == SiteValue {
		return declared(s, "site.yaml", "fields", u.Name)
	}
	if v := declared(s, "site.yaml", "page_fields", u.Name); v != nil {
		return v
	}
	for _, l := range declaring(s, u.Name) {
		if v := declared(s, l.Path, "page_fields", u.Name); v != nil {
			return v
		}
	}
	return nil
}

func declared(s *shelf.Shelf, p, key, name string) any {
	if y := headOf(s, p).Get(key).Get(name); y != nil {
		return patch.Of(y)
	}
	return nil
}
