package check

import (
	"slices"
	"strings"

	"brickshelf/internal/core/markup"
	"brickshelf/internal/core/shelf"
	"brickshelf/internal/core/site"
)

// Cycles lists blocks and menus that show themselves, however far around.
func Cycles(s *shelf.Shelf) site.Problems {
	c := &cycles{s: s, state: map[string]int{}}
	for _, p := range s.Paths("blocks/") {
		if n, ok := strings.CutSuffix(strings.TrimPrefix(p, "blocks/"), ".html"); ok && c.state[n] == 0 {
			c.visit(n)
		}
	}
	for _, n := range s.MenuNames() {
		if c.state[menuNode+n] == 0 {
			c.visit(menuNode + n)
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

type cycles struct {
	s     *shelf.Shelf
	state map[string]int // 1 on the way, 2 done
	way   []string
	out   site.Problems
}

// visit follows what a block or menu shows.
func (c *cycles) visit(name string) {
	c.state[name] = 1
	c.way = append(c.way, name)
	if menu, ok := strings.CutPrefix(name, menuNode); ok {
		for _, panel := range c.s.Panels(menu) {
			c.text(panel, func(*markup.Node) site.Problem {
				return site.Problem{Severity: site.Invalid, Code: "cycle", Path: "menus/" + menu + ".yaml",
					Line: 1, Column: 1, Message: "shows itself through the panel of a menu"}
			})
		}
	} else if b := c.s.Block(name); b != nil {
		c.text(b.Text, func(n *markup.Node) site.Problem {
			return site.At(b.Split, b.Path, n.Span.From, site.Invalid, "cycle", "calls itself")
		})
	}
	c.way = c.way[:len(c.way)-1]
	c.state[name] = 2
}

// text follows the calls of a text; problem is what one of them that leads back is.
func (c *cycles) text(t *markup.Text, problem func(n *markup.Node) site.Problem) {
	markup.Walk(t.Nodes, func(n *markup.Node) bool {
		if n.Kind != markup.Call {
			return true
		}
		for _, to := range c.shows(n) {
			switch c.state[to] {
			case 0:
				c.visit(to)
			case 1:
				i := len(c.way) - 1
				for c.way[i] != to {
					i--
				}
				p := problem(n)
				p.Message += ": " + strings.Join(append(append([]string{}, c.way[i:]...), to), " → ") +
					"; take one of these calls away"
				c.out = append(c.out, p)
			}
		}
		return true
	})
}

// shows lists the blocks and menus that a call shows. Which menu is not known before it is
// shown where that is no literal.
func (c *cycles) shows(n *markup.Node) []string {
	if !c.s.ShowsMenus(n.Name) {
		return []string{n.Name}
	}
	if v, ok := n.Arg("name"); ok && v.Kind != markup.ArgExpr {
		return []string{menuNode + v.Text}
	}
	var out []string
	for _, m := range c.s.MenuNames() {
		out = append(out, menuNode+m)
	}
	return out
}
