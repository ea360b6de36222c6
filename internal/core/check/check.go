// Package check finds what is wrong in a site, beyond what each document says
// of itself: names that nothing has, blocks that call themselves, pages that
// stand in each other's way, overrides that have lost their placement.
package check

import (
	"slices"
	"strings"
	"sync"

	"brickshelf/internal/core/assets"
	"brickshelf/internal/core/block"
	"brickshelf/internal/core/markup"
	"brickshelf/internal/core/place"
	"brickshelf/internal/core/shelf"
	"brickshelf/internal/core/site"
)

// Validity lists what makes the tree invalid.
func Validity(s *shelf.Shelf) site.Problems {
	out := s.Problems(func(string) bool { return true }).Invalid()
	if _, ok := s.Get("site.yaml"); !ok {
		out = append(out, site.Problem{Code: "missing-site", Severity: site.Invalid, Path: "site.yaml",
			Line: 1, Column: 1, Message: "a site needs this file; begin it with format: " + place.Format})
	}
	for _, p := range s.Paths("") {
		out = append(out, unwritable(s, p)...)
	}
	out = append(out, Cycles(s)...)
	urls := map[string]string{}
	for _, p := range s.PagePaths() {
		out = append(out, pageValidity(s, p)...)
		u := s.Info(p).Page.URL
		if other, twice := urls[u]; twice {
			out = append(out, site.Problem{Code: "same-address", Severity: site.Invalid, Path: p, Line: 1,
				Column: 1, Message: "has the address " + u + ", which " + other +
					" has too; move one of them"})
		}
		urls[u] = p
	}
	out.Sort()
	return out
}

// Changed lists what would make the tree invalid in an overlay whose base is
// valid. It looks only at what the changes reach.
func Changed(o *shelf.Shelf) site.Problems {
	docs := map[string]bool{}
	for _, p := range o.Changed() {
		docs[p] = true
	}
	var out site.Problems
	blocks, gone := false, false
	for p := range docs {
		class, _, _ := site.Classify(p)
		_, there := o.Get(p)
		blocks = blocks || class == site.BlockDoc || class == site.MenuDoc
		gone = gone || class == site.LayoutDoc && !there
		if there {
			bad := o.DocProblems(p).Invalid()
			if out = append(out, bad...); class != "" { // else its path says why already
				out = append(out, unwritable(o, p)...)
			}
		}
		if class == site.PageDoc && there {
			out = append(out, pageValidity(o, p)...)
			out = append(out, sameAddress(o, p)...)
		}
		if class == site.ConfigDoc && !there {
			out = append(out, site.Problem{Code: "missing-site", Severity: site.Invalid, Path: p, Line: 1,
				Column: 1, Message: "a site needs this file"})
		}
	}
	if blocks {
		out = append(out, Cycles(o)...)
	}
	if gone {
		for _, r := range o.Reached() {
			if !docs[r.Path] && r.After != nil {
				out = append(out, pageValidity(o, r.Path)...)
			}
		}
	}
	out.Sort()
	return out
}

func sameAddress(s *shelf.Shelf, path string) site.Problems {
	g := s.Info(path).Page
	for _, other := range shelf.PathsOf(g.URL) {
		if in := s.Info(other); in != nil && other != path && in.Page.URL == g.URL {
			return site.Problems{{Code: "same-address", Severity: site.Invalid, Path: path, Line: 1,
				Column: 1, Message: "has the address " + g.URL + ", which " + other +
					" has too; move one of them"}}
		}
	}
	return nil
}

func pageValidity(s *shelf.Shelf, path string) site.Problems {
	g := s.Info(path).Page
	if g.Layout == "" || s.Layout(g.Layout) != nil {
		return nil
	}
	return site.Problems{{Code: "unknown-layout", Severity: site.Invalid, Path: path, Line: g.LayoutAt[0],
		Column: g.LayoutAt[1], Message: "there is no layout " + g.Layout + block.Nearest(g.Layout,
			layoutNames(s))}}
}

func layoutNames(s *shelf.Shelf) []string {
	var out []string
	for _, p := range s.Paths("layouts/") {
		out = append(out, strings.TrimSuffix(strings.TrimPrefix(p, "layouts/"), ".html"))
	}
	return out
}

// Site lists everything worth telling about a site, invalid things included.
func Site(s *shelf.Shelf) site.Problems {
	out := Validity(s)
	if len(out) > 0 {
		return out
	}
	c := New(s)
	return Merge(append(c.Pages(s.PagePaths()), c.Documents())...)
}

// Checker finds what is wrong in a valid site. It may be used from several
// goroutines at once.
type Checker struct {
	s      *shelf.Shelf
	reader func() *block.Reader // made when first needed: that takes a while
	menus  []string             // their documents
}

// New makes a checker of a site.
func New(s *shelf.Shelf) *Checker {
	return &Checker{s: s, reader: sync.OnceValue(block.NewReader), menus: s.Paths("menus/")}
}

// Pages lists what is wrong on each of some pages; see Page.
func (c *Checker) Pages(paths []string) []site.Problems {
	out := make([]site.Problems, len(paths))
	shelf.Parallel(len(paths), func(i int) { out[i] = c.Page(paths[i]) })
	return out
}

// Merge joins lists of problems, one of each page, in order. Each problem is told once, with
// the number of pages on which it shows.
func Merge(lists ...site.Problems) site.Problems {
	var out site.Problems
	seen := map[site.Problem]int{}
	for _, l := range lists {
		for _, p := range l {
			pages := p.Pages
			p.Pages = 0
			if i, known := seen[p]; known {
				out[i].Pages += pages
				continue
			}
			seen[p] = len(out)
			p.Pages = pages
			out = append(out, p)
		}
	}
	out.Sort()
	return out
}

// once tells each problem of one page once, in order.
func once(list site.Problems) site.Problems {
	var out site.Problems
	seen := map[site.Problem]bool{}
	for _, p := range list {
		if !seen[p] {
			seen[p] = true
			out = append(out, p)
		}
	}
	out.Sort()
	return out
}

// Documents lists what is wrong with the documents that are not pages.
func (k *Checker) Documents() site.Problems {
	var out site.Problems
	for _, folder := range []string{"site.yaml", "blocks/", "layouts/", "menus/", "rules/", "shortcodes/"} {
		out = append(out, k.In(k.s.Paths(folder), true)...)
	}
	return append(append(out, alike(k.s)...), unfit(k.s)...)
}

// In lists what is wrong with some documents that are not pages, each by itself. Where pages
// is not set, rules are not held against the pages that they take.
func (k *Checker) In(paths []string, pages bool) site.Problems {
	s, c := k.s, &list{Checker: k}
	for _, p := range paths {
		class, name, _ := site.Classify(p)
		switch class {
		case site.BlockDoc:
			b := s.Block(name)
			if b == nil { // nothing can have that name
				continue
			}
			c.text(b.Split, b.Path, b.Text)
			c.unshownDefaults(b.Path, b.Fields)
			c.behaviour(s.Shelved(name))
			c.overlay(b)
			if b.Sample != "" {
				c.apart(b.Path, b.SampleAt[0], b.SampleAt[1], "in the sample: ",
					markup.Parse([]byte(b.Sample)))
			}
			if !s.Used(name) {
				c.add(site.Problem{Code: "unused-block", Severity: site.Note, Path: p, Line: 1, Column: 1,
					Message: "stands on no page"})
			}
		case site.LayoutDoc:
			if l := s.Layout(name); l != nil {
				c.text(l.Split, l.Path, l.Text)
				c.unshownDefaults(l.Path, l.PageFields)
				for region, at := range l.StartsAt {
					c.apart(l.Path, at[0], at[1], "in what "+region+" starts with: ",
						markup.Parse([]byte(l.StartsWith[region])))
				}
			}
		case site.StyleDoc, site.BehaviourDoc:
			src, _ := s.Get(p)
			c.out = append(c.out, assets.Syntax(p, src)...)
		case site.RuleDoc:
			if r := s.Rule(name); r != nil {
				c.rule(r, pages)
			}
		case site.MenuDoc:
			if m := s.Menu(name); m != nil {
				c.panels(p, m.Items)
			}
		case site.ConfigDoc:
			c.unshownDefaults(p, s.Config().Fields)
		case site.IgnoredDoc:
			c.add(site.Problem{Code: "ignored", Severity: site.Note, Path: p, Line: 1, Column: 1,
				Message: "is ignored: scripted shortcodes stand in shortcodes itself, not in folders below it"})
		case site.ShortcodeDoc:
			if s.Script(name) != nil && (s.Block(name) != nil || shelf.BuiltinOf(name) != nil) {
				c.add(site.Problem{Code: "name-taken", Severity: site.Error, Path: p, Line: 1, Column: 1,
					Message: "cannot be called: another block or shortcode is named " + name +
						"; give this one another name"})
			}
		}
	}
	return c.out
}

// list gathers problems.
type list struct {
	*Checker
	out site.Problems
}

func (c *list) add(p site.Problem) { c.out = append(c.out, p) }

// maxFound is about how many problems are told of one text.
const maxFound = 1000

// text checks the calls of a text against what they call.
func (c *list) text(split site.Split, path string, t *markup.Text) {
	before := len(c.out)
	markup.Walk(t.Nodes, func(n *markup.Node) bool {
		if len(c.out)-before > maxFound {
			return false
		}
		if n.Kind != markup.Call {
			return true
		}
		fields, known := c.s.Signature(n.Name)
		if !known {
			c.add(site.At(split, path, n.Span.From, site.Error, "unresolved-call", "%s",
				c.s.Unresolved(n.Name)))
			return true
		}
		for _, a := range n.Args {
			f := fieldOf(fields, a.Name)
			switch {
			case a.Name == "key":
			case f == nil:
				c.add(site.At(split, path, a.At, site.Warning, "unknown-argument", "%s has no field %s%s",
					n.Name, a.Name, block.Nearest(a.Name, fieldNames(fields))))
			case a.Value.Kind != markup.ArgExpr:
				if _, err := c.reader().Read(f, block.RawArgument(a.Value)); err != nil {
					c.add(site.At(split, path, a.Value.Span.From, site.Error, "wrong-type", "%v", err))
				} else if a.Value.Written == "" { // that is shown as it is written
					p := site.At(split, path, a.Value.Span.From, site.Warning, "", "")
					c.unshown(p.Path, p.Line, p.Column, f, block.RawArgument(a.Value))
				}
			}
		}
		return true
	})
}

func fieldOf(fields []*block.Field, name string) *block.Field {
	for _, f := range fields {
		if f.Name == name {
			return f
		}
	}
	return nil
}

func fieldNames(fields []*block.Field) []string {
	out := make([]string, len(fields))
	for i, f := range fields {
		out[i] = f.Name
	}
	return out
}

// nearest suggests what a target that names no page was likely meant to name.
func (c *list) nearest(t place.Target) string {
	var names []string
	switch t.Kind {
	case place.ByLayout:
		for _, l := range c.s.Layouts() {
			names = append(names, l.Name)
		}
	case place.OnePage:
		for _, p := range c.s.PagePaths() {
			names = append(names, c.s.Info(p).URL)
		}
	}
	return block.Nearest(t.Arg, names)
}

func (c *list) regions() []string {
	var names []string
	for _, l := range c.s.Layouts() {
		for _, r := range l.Regions {
			if !slices.Contains(names, r.Name) {
				names = append(names, r.Name)
			}
		}
	}
	return names
}

func (c *list) rule(r *place.Rule, pages bool) {
	at := func(pos [2]int, sev site.Severity, code, msg string) {
		c.add(site.Problem{Code: code, Severity: sev, Path: r.Path, Line: pos[0], Column: pos[1],
			Message: msg})
	}
	b := c.s.Block(r.Block)
	if b == nil {
		at(r.BlockAt, site.Error, "unresolved-call", c.s.Unresolved(r.Block))
	} else {
		for _, set := range r.Set {
			i := b.Field(set.Field)
			if i < 0 {
				at([2]int{set.Line, set.Col}, site.Warning, "unknown-argument", r.Block+" has no field "+
					set.Field+block.Nearest(set.Field, b.FieldNames()))
			} else if _, err := c.reader().Read(b.Fields[i], set.Raw); err != nil {
				at([2]int{set.Line, set.Col}, site.Error, "wrong-type", err.Error())
			} else {
				c.unshown(r.Path, set.Line, set.Col, b.Fields[i], set.Raw)
			}
		}
	}
	if !pages {
		return
	}
	targets, where := slices.Concat(r.On, r.Except), slices.Concat(r.OnAt, r.ExceptAt)
	named := make([]bool, len(targets))
	taken, region := false, false
	for _, p := range c.s.PagePaths() {
		in := c.s.Info(p)
		facts := c.s.Facts(in.Page)
		for i, t := range targets {
			named[i] = named[i] || t.Takes(facts)
		}
		if _, ok := r.Takes(facts); ok {
			taken = true
			region = region || in.Layout != nil && in.Layout.Region(r.Region) != nil
		}
	}
	for i, t := range targets {
		if !named[i] {
			at(where[i], site.Warning, "empty-target", t.String()+" names no page"+c.nearest(t))
		}
	}
	switch {
	case !taken:
		at([2]int{1, 1}, site.Warning, "empty-rule", "takes no page; widen its targets or delete it")
	case !region:
		at(r.RegionAt, site.Error, "unknown-region", "none of the pages that it takes has a region "+
			r.Region+block.Nearest(r.Region, c.regions()))
	}
}
