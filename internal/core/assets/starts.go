package assets

import (
	_ "embed"
	"regexp"

	"github.com/tdewolff/parse/v2"
	"github.com/tdewolff/parse/v2/js"

	"brickshelf/internal/core/site"
)

// maybe finds modules that can have a default export, so that others need not be read.
var maybe = regexp.MustCompile(`\bdefault\b`)

// Starts reports whether a behaviour is started for each placement of its block: whether it is a
// module with a default export. One without runs once for the page.
func Starts(module []byte) bool {
	if !maybe.Match(module) {
		return false
	}
	tree, err := parsed(module)
	if err != nil { // it may be in the middle of being written
		return regexp.MustCompile(`(?m)^\s*export\s+default\b`).Match(module)
	}
	for _, s := range tree.List {
		e, ok := s.(*js.ExportStmt)
		if !ok {
			continue
		}
		if e.Default {
			return true
		}
		for _, a := range e.List {
			if string(a.Binding) == "default" || string(a.Name) == "default" && a.Binding == nil {
				return true
			}
		}
	}
	return false
}

// parsed reads a module, as far as it goes.
func parsed(module []byte) (*js.AST, error) {
	return js.Parse(parse.NewInputBytes(known(module)), js.Options{})
}

// Attribute marks the element for which a behaviour is started; its value is what the behaviour is
// given, as JSON. It is told by the behaviour's content, so that renaming a block changes no page.
func Attribute(code site.Hash) string { return "data-shelf-run-" + run(code) }

func run(code site.Hash) string { return string(code[:min(len(code), 8)]) }

// starter starts the behaviours of a page.
//
//go:embed start.js
var starter []byte

var starterHash = site.HashOf(starter)

// Starter is the script that starts the behaviours of a page. It is published beside them.
func Starter() File { return File{Hash: starterHash, Ext: ".js"} }
