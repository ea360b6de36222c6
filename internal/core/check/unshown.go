package check

import (
	"slices"
	"strings"

	"brickshelf/internal/core/block"
	"brickshelf/internal/core/markup"
	"brickshelf/internal/core/place"
	"brickshelf/internal/core/render"
	"brickshelf/internal/core/shelf"
	"brickshelf/internal/core/site"
)

// unshown tells of a value that shows less than it says; see block.Reader.Lost.
func (c *list) unshown(path string, line, column int, f *block.Field, raw any) {
	if lost := c.reader().Lost(f, raw); lost != "" {
		c.cleaned(path, line, column, lost)
	}
}

func (c *list) cleaned(path string, line, column int, message string) {
	c.add(site.Problem{Code: "cleaned-value", Severity: site.Warning, Path: path, Line: line, Column: column,
		Message: message})
}

// unshownDefaults tells of the defaults of fields, and of those of their groups.
func (c *list) unshownDefaults(path string, fields []*block.Field) {
	for _, f := range fields {
		if f.Unshown != "" {
			c.cleaned(path, f.DefaultAt[0], f.DefaultAt[1], f.Unshown)
		}
		c.unshownDefaults(path, f.Fields)
	}
}

// panels looks at the texts in the panels of a menu.
func (c *list) panels(path string, items []place.MenuItem) {
	for _, it := range items {
		if it.Panel != nil {
			c.apart(path, it.PanelAt[0], it.PanelAt[1], "in this panel: ", it.Panel)
		}
		c.panels(path, it.Items)
	}
}

// apart looks at a text that stands in YAML at a line and column: where it ends within
// something, and what its calls are given that is not shown.
func (c *list) apart(path string, line, column int, where string, t *markup.Text) {
	if e, open := t.Unended(); open {
		c.add(site.Problem{Code: e.Code, Severity: site.Warning, Path: path, Line: line, Column: column,
			Message: where + e.Message})
	}
	markup.Walk(t.Nodes, func(n *markup.Node) bool {
		if n.Kind != markup.Call {
			return true
		}
		fields, known := c.s.Signature(n.Name)
		if !known {
			c.add(site.Problem{Code: "unresolved-call", Severity: site.Error, Path: path, Line: line, Column: column,
				Message: where + c.s.Unresolved(n.Name)})
		}
		for _, a := range n.Args {
			if f := fieldOf(fields, a.Name); f != nil && a.Value.Kind != markup.ArgExpr && a.Value.Written == "" {
				if lost := c.reader().Lost(f, block.RawArgument(a.Value)); lost != "" {
					c.cleaned(path, line, column, where+lost)
				}
			}
		}
		return true
	})
}

// unshownOn tells of what a page's front matter says: its fields, its overrides, and what
// its copies call.
func (c *list) unshownOn(in *shelf.Info) {
	g, placed := in.Page, []render.Placement(nil)
	placements := func() []render.Placement {
		if placed == nil {
			placed = render.Placements(c.s, g.Path)
		}
		return placed
	}
	for _, p := range g.Fields {
		if p.Value.Kind == site.Text && !strings.ContainsRune(p.Value.Text, '<') {
			continue
		}
		for _, f := range c.takers(in, p.Key, placements) {
			c.unshown(g.Path, p.Value.Line, p.Value.Col, f, block.Raw(p.Value))
		}
	}
	for address, pairs := range g.Overrides {
		for _, p := range pairs {
			if p.Value.Kind == site.Text && !strings.ContainsRune(p.Value.Text, '<') {
				continue
			}
			i := slices.IndexFunc(placements(), func(pl render.Placement) bool {
				return pl.Address == address
			})
			if i < 0 || c.s.Block(placed[i].Block) == nil {
				continue
			}
			if f := fieldOf(c.s.Block(placed[i].Block).Fields, p.Key); f != nil {
				if lost := c.reader().Lost(f, block.Raw(p.Value)); lost != "" {
					c.cleaned(g.Path, p.Value.Line, p.Value.Col, "at "+address+": "+lost)
				}
			}
		}
	}
	for address, cp := range g.Copies {
		c.apart(g.Path, cp.Line, cp.Col, "in the copy at "+address+": ", cp.Text)
	}
}

// takers are the rich fields that show a field of a page: the layout's, or those of blocks
// on the page that take it from there.
func (c *list) takers(in *shelf.Info, name string, placements func() []render.Placement) []*block.Field {
	var out []*block.Field
	if in.Layout != nil {
		if f := fieldOf(in.Layout.PageFields, name); f != nil {
			out = append(out, f)
		}
	}
	for _, p := range placements() {
		b := c.s.Block(p.Block)
		if b == nil {
			continue
		}
		for _, f := range b.Fields {
			if slices.Equal(f.From, []string{"page", name}) {
				out = append(out, f)
			}
		}
	}
	return out
}
