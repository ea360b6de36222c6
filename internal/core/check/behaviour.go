package check

import (
	"brickshelf/internal/core/block"
	"brickshelf/internal/core/refer"
	"brickshelf/internal/core/shelf"
	"brickshelf/internal/core/site"
)

// behaviour tells where what a block says of its behaviour does not fit that.
func (c *list) behaviour(b *shelf.Shelved) {
	says := b.Block.Behaviour
	for _, name := range says.Needs {
		why := ""
		switch o := c.s.Shelved(name); {
		case o == nil:
			why = ", and there is no such block" + block.Nearest(name, c.s.Names())
		case o.Code == "":
			why = ", which has none; give it one, or take it out of needs"
		default:
			continue
		}
		c.add(site.Problem{Code: "missing-need", Severity: site.Error, Path: b.Block.Path, Line: says.NeedsAt[0],
			Column: says.NeedsAt[1], Message: "its behaviour needs that of " + name + why})
	}
	if b.Each || len(says.Gives) == 0 && says.When == "" && says.Media == "" {
		return
	}
	message := "says how its behaviour is started, and that exports no default function that could be; " +
		"begin it with export default function (root, { values, page }) {"
	if b.Code == "" {
		message = "says how its behaviour is started, and has none; add blocks/" + b.Block.Name + ".js"
	}
	c.add(site.Problem{Code: "never-started", Severity: site.Warning, Path: b.Block.Path, Line: says.At[0],
		Column: says.At[1], Message: message})
}

// overlay tells where a block that should be an overlay is none that a browser knows.
func (c *list) overlay(b *block.Block) {
	if !b.Overlay || refer.Overlays(b.Text.Src) {
		return
	}
	c.add(site.Problem{Code: "no-overlay", Severity: site.Warning, Path: b.Path, Line: b.Split.TextLine, Column: 1,
		Message: "says that it is an overlay, and begins with nothing that opens over a page; " +
			"let it begin with <dialog id=\"@{=id}\">, or an element with popover"})
}
