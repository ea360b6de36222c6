package check

import (
	"maps"
	"slices"
	"strings"

	"brickshelf/internal/core/block"
	"brickshelf/internal/core/markup"
	"brickshelf/internal/core/shelf"
	"brickshelf/internal/core/site"
)

// Cycles lists blocks and menus that show themselves, however far around.
func Cycles(s *shelf.Shelf) site.Problems {
	c := &cycles{s: s, state: map[string]int{}}
	for _, p := range s.Paths("blocks/") {
		if n, ok := strings.CutSuffix(strings.TrimPrefix(p, "blocks/"), ".html"); ok && c.state[n] == 0 {
			c.visit(n, nil)
		}
	}
	for _, n := range s.MenuNames() {
		if c.state[menuNode+n] == 0 {
			c.visit(menuNode+n, nil)
		}
	}
	return append(c.out, needCycles(s)...)
}

// needCycles lists blocks whose behaviours need themselves, through others.
func needCycles(s *shelf.Shelf) site.Problems {
	var out site.Problems
	state := map[string]int{}
	var way []string
	var visit func(name string)
	visit = func(name string) {
		b := s.Block(name)
		if b == nil {
			return
		}
		state[name] = 1
		way = append(way, name)
		for _, to := range b.Behaviour.Needs {
			switch state[to] {
			case 0:
				visit(to)
			case 1:
				round := append(slices.Clone(way[slices.Index(way, to):]), to)
				out = append(out, site.Problem{Severity: site.Invalid, Code: "cycle", Path: b.Path,
					Line: b.Behaviour.NeedsAt[0], Column: b.Behaviour.NeedsAt[1],
					Message: "its behaviour needs itself: " + strings.Join(round, " → ") +
						"; take one of these out of needs"})
			}
		}
		way = way[:len(way)-1]
		state[name] = 2
	}
	for _, p := range s.Paths("blocks/") {
		if n, ok := strings.CutSuffix(strings.TrimPrefix(p, "blocks/"), ".html"); ok && state[n] == 0 {
			visit(n)
		}
	}
	return out
}

// menuNode begins the name of a menu among those of blocks.
const menuNode = "menu "

// cycles follows blocks and menus. A block is another one for each menu that it is given: only a
// menu that holds itself is one that shows itself.
type cycles struct {
	s     *shelf.Shelf
	state map[string]int // by node; 1 on the way, 2 done
	way   []string
	out   site.Problems
}

// given are the menus that fields of a block have where it is called, by the field.
type given map[string]string

// node names a block with what it is given.
func node(name string, in given) string {
	for _, field := range slices.Sorted(maps.Keys(in)) {
		name += " " + field + "=" + in[field]
	}
	return name
}

// visit follows what a block or menu shows.
func (c *cycles) visit(name string, in given) {
	at := node(name, in)
	c.state[at] = 1
	c.way = append(c.way, at)
	if menu, ok := strings.CutPrefix(name, menuNode); ok {
		for _, panel := range c.s.Panels(menu) {
			c.text(panel, nil, func(*markup.Node) site.Problem {
				return site.Problem{Severity: site.Invalid, Code: "cycle", Path: "menus/" + menu + ".yaml",
					Line: 1, Column: 1, Message: "shows itself through the panel of a menu"}
			})
		}
	} else if b := c.s.Block(name); b != nil {
		c.text(b.Text, in, func(n *markup.Node) site.Problem {
			return site.At(b.Split, b.Path, n.Span.From, site.Invalid, "cycle", "calls itself")
		})
	}
	c.way = c.way[:len(c.way)-1]
	c.state[at] = 2
}

// text follows the calls of a text; problem is what one of them that leads back is.
func (c *cycles) text(t *markup.Text, in given, problem func(n *markup.Node) site.Problem) {
	markup.Walk(t.Nodes, func(n *markup.Node) bool {
		if n.Kind != markup.Call {
			return true
		}
		to, with := c.shows(n, in)
		if to == "" {
			return true
		}
		switch at := node(to, with); c.state[at] {
		case 0:
			c.visit(to, with)
		case 1:
			var round []string
			for _, w := range append(slices.Clone(c.way[slices.Index(c.way, at):]), at) {
				round = append(round, bareName(w))
			}
			p := problem(n)
			p.Message += ": " + strings.Join(round, " → ") + "; take one of these calls away"
			c.out = append(c.out, p)
		}
		return true
	})
}

// bareName is the name of a node without what it is given.
func bareName(at string) string {
	menu, ok := strings.CutPrefix(at, menuNode)
	name, _, _ := strings.Cut(menu, " ")
	if ok {
		return menuNode + name
	}
	return name
}

// shows gives the block or menu that a call shows, "" where that is not known before it is shown, and what
// that is given. What a page gives is not known; that a page of it comes to no end is told there.
func (c *cycles) shows(n *markup.Node, in given) (string, given) {
	if c.s.ShowsMenus(n.Name) {
		v, ok := n.Arg("name")
		if menu := menuOf(v, in); ok && menu != "" {
			return menuNode + menu, nil
		}
		return "", nil
	}
	b := c.s.Block(n.Name)
	if b == nil {
		return n.Name, nil
	}
	var with given
	for _, f := range b.Fields {
		if f.Type != block.Menu && f.Type != block.Text {
			continue
		}
		menu := f.Default.Text
		if v, ok := n.Arg(f.Name); ok {
			menu = menuOf(v, in)
		}
		if c.s.Menu(menu) == nil {
			continue
		}
		if with == nil {
			with = given{}
		}
		with[f.Name] = menu
	}
	return n.Name, with
}

// menuOf is the menu that an argument names, where that is known.
func menuOf(v markup.ArgValue, in given) string {
	if v.Kind != markup.ArgExpr {
		return v.Text
	}
	for _, t := range v.Expr.Terms {
		if t.Literal == nil && len(t.Path) == 1 && in[t.Path[0]] != "" {
			return in[t.Path[0]]
		}
	}
	return ""
}
