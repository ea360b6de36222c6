package check

import (
	"bytes"
	"strings"

	"brickshelf/internal/core/confine"
	"brickshelf/internal/core/explain"
	"brickshelf/internal/core/markup"
	"brickshelf/internal/core/place"
	"brickshelf/internal/core/refer"
	"brickshelf/internal/core/render"
	"brickshelf/internal/core/shelf"
	"brickshelf/internal/core/site"
)

// Page lists what is wrong on one page. What stands in a document that other
// pages share is told as that document's.
func (k *Checker) Page(path string) site.Problems {
	s, c := k.s, &list{Checker: k}
	in := s.Info(path)
	if in == nil {
		return nil
	}
	c.text(in.Page.Split, path, in.Page.Text)
	if e, open := in.Page.Text.Unended(); open && in.Layout != nil {
		c.add(site.At(in.Page.Split, path, e.At, site.Warning, e.Code, "%s", e.Message))
	}
	byKey, placed := explain.KeysOn(s, path), &placements{s: s, path: path}
	for _, f := range faults(s, path) {
		sev := site.Error
		if strings.HasPrefix(f.Code, "lost-") {
			sev = site.Warning
		}
		if to := meant(byKey, in, f); to != "" {
			f.Message += to
		}
		if f.Code != "unresolved-call" && !c.told(f) { // told where the call stands
			line, col := localPosition(in.Page, f)
			p := site.Problem{Code: f.Code, Severity: sev, Path: path, Line: line, Column: col,
				Message: "at " + f.Address + ": " + f.Message}
			if at, shared := k.shared(in, placed, f); shared {
				p.Path, p.Line, p.Column, p.Message, p.Pages = at.Path, at.Line, at.Column, f.Message, 1
			}
			c.add(p)
		}
	}
	c.unshownOn(in)
	if !in.Draft {
		for _, v := range s.Views(path) {
			res := render.PageAs(v, path, render.Options{Placements: true})
			for _, l := range lost(v.Shelf, in, res) {
				c.add(c.problem(l, in))
			}
			c.pageWide(v.Shelf, path, res)
		}
	}
	return once(c.out)
}

// pageWide tells of rules for the page itself in the styles of older revisions that copies have:
// beside another revision of their block these do not count.
func (c *list) pageWide(s *shelf.Shelf, path string, res *render.Result) {
	for _, f := range res.Styles {
		if f.Role != confine.Only {
			continue
		}
		b, _ := s.ByHash(f.Hash)
		if wide := confine.PageWide(b); len(wide) > 0 {
			c.add(site.Problem{Code: "page-wide-style", Severity: site.Warning, Path: path, Line: 1, Column: 1,
				Message: "the style of an older revision has rules for " + strings.Join(wide, ", ") +
					", which do not count beside another revision of its block"})
		}
	}
}

// faults lists what does not work on a page, for either audience, now or on a day ahead.
func faults(s *shelf.Shelf, path string) []render.Fault {
	out := explain.Faults(s, path)
	return append(out, explain.FaultsAhead(s, path, out)...)
}

// meant tells of something that a page says of nothing what it means by its position.
func meant(byKey func(string) string, in *shelf.Info, f render.Fault) string {
	if !strings.HasPrefix(f.Code, "lost-") {
		return ""
	}
	to := byKey(f.Address)
	if to == "" {
		return ""
	}
	out := ". The call that it means has a key: its address is " + to
	if len(in.Page.Overrides[to]) > 0 || in.Page.Copies[to] != nil || in.Page.Hidden[to] {
		out += ", of which the page says something too, and that is what counts"
	}
	return out
}

// told reports whether the text of a call has been found at fault for the same.
func (c *list) told(f render.Fault) bool {
	for _, p := range c.out {
		if p.Code == f.Code && p.Message == f.Message && p.Pages == 0 {
			return true
		}
	}
	return false
}

// localPosition is where a page says what a fault is about: its entry for the
// address, or the call in its text that leads there.
func localPosition(g *place.Page, f render.Fault) (line, col int) {
	for _, p := range g.Overrides[f.Address] {
		if p.Key == f.Field {
			return p.Line, p.Col
		}
	}
	if c := g.Copies[f.Address]; c != nil {
		return c.Line, c.Col
	}
	if i := bytes.Index(g.Split.Head, []byte(f.Address)); g.Hidden[f.Address] && i >= 0 {
		line, col = markup.Position(g.Split.Head, i)
		return line + g.Split.HeadLine - 1, col
	}
	return callPosition(g, f.Address)
}

// callPosition is where the call stands in a page's own text that brings about
// what is at an address; the beginning of the page where there is none.
func callPosition(g *place.Page, address string) (line, col int) {
	at := -1
	markup.Walk(g.Text.Nodes, func(n *markup.Node) bool {
		if a := n.Container + "/" + n.Step; (n.Kind == markup.Call || n.Kind == markup.Copy) &&
			(address == a || strings.HasPrefix(address, a+"/")) {
			at = n.Span.From
		}
		return true
	})
	if at < 0 {
		return 1, 1
	}
	p := site.At(g.Split, g.Path, at, site.Error, "", "")
	return p.Line, p.Column
}

// lostRef is a reference that leads nowhere, with the placements around it from
// the outermost to the innermost.
type lostRef struct {
	refer.Ref
	around []render.Placement
}

func lost(s *shelf.Shelf, in *shelf.Info, res *render.Result) []lostRef {
	found := refer.Scan(res.HTML, in.URL)
	var out []lostRef
	for _, r := range found.Refs {
		if r.Kind == refer.ToElement && found.IDs[r.To] || r.Kind != refer.ToElement && Leads(s, r.To) {
			continue
		}
		l := lostRef{Ref: r}
		for _, p := range res.Placements {
			if p.From <= r.At && r.At < p.To {
				l.around = append(l.around, p)
			}
		}
		out = append(out, l)
	}
	return out
}

// Broken lists what the page at a path refers to and what is not there: elements
// of the page itself, pages and files of the site. The address of each is that of
// the outermost placement which shows it, "" in the page's and layout's own text.
func Broken(s *shelf.Shelf, path string) []render.Fault {
	in := s.Info(path)
	if in == nil {
		return nil
	}
	var out []render.Fault
	for _, signedIn := range []bool{false, true} {
		if signedIn && in.SignedIn() == nil {
			continue
		}
		for _, l := range lost(s, in, render.Page(s, path, render.Options{Placements: true,
			SignedIn: signedIn})) {
			out = AddFault(out, l.fault())
		}
	}
	return out
}

func (l lostRef) fault() render.Fault {
	if len(l.around) == 0 {
		return Dangling(l.Ref, "")
	}
	return Dangling(l.Ref, l.around[0].Address)
}

// problem tells a lost reference where it is written: an address in the document
// that holds it, a missing element on the page that lacks it.
func (k *Checker) problem(l lostRef, in *shelf.Info) site.Problem {
	f := l.fault()
	p := site.Problem{Code: f.Code, Severity: site.Error, Path: in.Page.Path, Line: 1, Column: 1,
		Message: f.Message}
	if l.Kind == refer.ToElement {
		for _, doc := range l.documents(in) {
			if l.called() { // where the page itself shows what leads there
				break
			}
			src, _ := k.s.Get(doc)
			if i := bytes.Index(src, []byte(l.Written)); i >= 0 && strings.HasPrefix(doc, "blocks/") {
				p.Path, p.Pages = doc, 1
				p.Line, p.Column = markup.Position(src, i)
				return p
			}
		}
		if len(l.around) > 0 {
			inner := l.around[len(l.around)-1].Address
			p.Line, p.Column = callPosition(in.Page, inner)
			p.Message = "at " + inner + ": " + f.Message
		}
		return p
	}
	for _, doc := range append(l.documents(in), k.menus...) {
		src, _ := k.s.Get(doc)
		if i := bytes.Index(src, []byte(l.Written)); i >= 0 {
			if p.Path = doc; doc != in.Page.Path {
				p.Pages = 1
			}
			p.Line, p.Column = markup.Position(src, i)
			return p
		}
	}
	return p
}

// called reports whether the page's own text calls the innermost block that refers.
func (l lostRef) called() bool {
	return len(l.around) == 0 || l.around[len(l.around)-1].InText
}

// documents lists where a reference may be written, the likeliest first.
func (l lostRef) documents(in *shelf.Info) []string {
	var out []string
	for i := len(l.around) - 1; i >= 0; i-- {
		if p := l.around[i]; p.Kind == render.Linked {
			out = append(out, "blocks/"+p.Block+".html", p.Via)
		}
	}
	out = append(out, in.Page.Path)
	if in.Layout != nil {
		out = append(out, in.Layout.Path)
	}
	return append(out, "site.yaml")
}
