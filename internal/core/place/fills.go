package place

import (
	"slices"

	"brickshelf/internal/core/markup"
)

// fill puts what the page's text holds into its regions; what stands in no fill is main's.
func (g *Page) fill() {
	var at map[string]int // of the fills, where they are many
	in := func(region string) *Fill {
		i, there := at[region]
		if at == nil {
			i = slices.IndexFunc(g.Fills, func(f Fill) bool { return f.Region == region })
			there = i >= 0
		}
		if there {
			return &g.Fills[i]
		}
		g.Fills = append(g.Fills, Fill{Region: region})
		if last := len(g.Fills) - 1; at != nil {
			at[region] = last
		} else if last == short {
			at = map[string]int{}
			for i := range g.Fills {
				at[g.Fills[i].Region] = i
			}
		}
		return &g.Fills[len(g.Fills)-1]
	}
	own := false // what stands in no fill has begun
	for _, n := range g.Text.Nodes {
		if n.Kind == markup.Fill {
			f := in(n.Name)
			f.Nodes = append(f.Nodes, n.Body...)
			continue
		}
		f := in("main")
		if !own {
			own = true
			f.Nodes = append(make([]*markup.Node, 0, len(f.Nodes)+len(g.Text.Nodes)), f.Nodes...)
		}
		f.Nodes = append(f.Nodes, n)
	}
	for i := range g.Fills {
		g.Fills[i].Segments = markup.Segments(g.Fills[i].Nodes)
	}
}
