package render

import (
	"sort"
	"strconv"
	"strings"

	"brickshelf/internal/core/markup"
	"brickshelf/internal/core/place"
)

// localEntry is one thing that a page says of an address of its own: an override
// of a field, a copy, or that what stands there is hidden.
type localEntry struct{ key, address, field string }

// meet notes that what the page says of an address was met there.
func (r *renderer) meet(key, address, field string) {
	if !r.strip {
		r.met = append(r.met, localEntry{key, address, field})
	}
}

// covered notes that what the page sets at an address belongs to the copy there: the copy
// has it in its text, and it counts again when the copy is linked.
func (r *renderer) covered(address string) {
	for _, f := range r.info.Page.Overrides[address] {
		r.meet("overrides", address, f.Key)
	}
}

// lost tells what the page says of addresses at which nothing was met that could
// take it.
func (r *renderer) lost() {
	for _, e := range r.info.says {
		if !r.hasMet(e) && !r.waits(e.address) {
			f := Fault{Code: "lost-override", Address: e.address, Field: e.field, Message: "sets " + e.field +
				", and nothing stands there that has such a field; set it elsewhere or drop it"}
			switch e.key {
			case "copies":
				f.Code, f.Message = "lost-copy",
					"the page has a copy for this address, and nothing stands there any more; drop it or put its text into the page"
			case "hidden":
				f.Code, f.Message = "lost-hidden",
					"the page hides what stands at this address, and nothing does; drop the entry"
			}
			r.fault(f)
		}
	}
}

// waits reports whether an address is that of a rule which takes the page on other
// days, or for another audience.
func (r *renderer) waits(address string) bool {
	for _, c := range r.info.Candidates {
		step := c.Rule.Region + "/rule:" + c.Rule.Name
		if rest, ok := strings.CutPrefix(address, step); ok && (rest == "" || rest[0] == '/' ||
			rest[0] == '~') {
			return c.Rule.Enabled && !(c.Rule.Running(r.s.now, SignedOut) &&
				c.Rule.Running(r.s.now, SignedIn))
		}
	}
	return false
}

func (r *renderer) hasMet(e localEntry) bool {
	for _, m := range r.met {
		if m == e {
			return true
		}
	}
	return false
}

// localEntries lists what a page says of addresses, in order.
func localEntries(g *place.Page) []localEntry {
	if !g.Local {
		return nil
	}
	var out []localEntry
	for a, fields := range g.Overrides {
		for _, f := range fields {
			out = append(out, localEntry{"overrides", a, f.Key})
		}
	}
	for a := range g.Copies {
		out = append(out, localEntry{"copies", a, ""})
	}
	for a := range g.Hidden {
		out = append(out, localEntry{"hidden", a, ""})
	}
	sort.Slice(out, func(i, j int) bool {
		x, y := out[i], out[j]
		if x.address != y.address {
			return x.address < y.address
		}
		return x.key+x.field < y.key+y.field
	})
	return out
}

// ByKey gives the address of the placement that a page means by an address that counts
// calls, where one of these calls has a key and is known by that; "" where that is none.
func (s *Shelf) ByKey(path, address string) string { return s.KeysOn(path)(address) }

// KeysOn is ByKey for many addresses of one page.
func (s *Shelf) KeysOn(path string) func(address string) string {
	in := s.Info(path)
	var blocks map[string]string
	return func(address string) string {
		if in == nil || !strings.Contains(address, "~") {
			return ""
		}
		if blocks == nil {
			blocks = s.blocksOn(path)
		}
		return s.byKey(in, blocks, address)
	}
}

// blocksOn tells which block stands at which address of a page now.
func (s *Shelf) blocksOn(path string) map[string]string {
	blocks := map[string]string{}
	for _, signedIn := range []bool{false, true} {
		for _, p := range s.Render(path, Options{Placements: true, SignedIn: signedIn}).Placements {
			blocks[p.Address] = p.Block
		}
	}
	return blocks
}

func (s *Shelf) byKey(in *Info, blocks map[string]string, address string) string {
	parts := strings.Split(address, "/")
	for i := 1; i < len(parts); i++ {
		var key string
		switch around := strings.Join(parts[:i], "/"); {
		case around == "layout" && in.Layout != nil:
			key = keyOf(in.Layout.Text, "main", parts[i])
		case i == 1:
			key = keyOf(in.Page.Text, around, parts[i])
		case s.Block(blocks[around]) != nil:
			key = keyOf(s.Block(blocks[around]).Text, "main", parts[i])
		}
		if key != "" {
			parts[i] = key
		}
	}
	if to := strings.Join(parts, "/"); to != address && blocks[to] != "" {
		return to
	}
	return ""
}

// keyOf is the step of a call that has a key, from the one that it would have without;
// "" where it has none.
func keyOf(t *markup.Text, container, step string) string {
	step, round, inLoop := strings.Cut(step, ".")
	name, n, _ := strings.Cut(step, "~")
	key, count := "", 0
	markup.Walk(t.Nodes, func(c *markup.Node) bool {
		if c.Name == name && c.Container == container && (c.Kind == markup.Call || c.Kind == markup.Copy) {
			if count++; strconv.Itoa(count) == n {
				key = c.ArgString("key")
			}
		}
		return true
	})
	if key != "" && inLoop {
		key += "." + round
	}
	return key
}

// Speaks reports whether a page says something of an address with that step.
func (s *Shelf) Speaks(step string) bool {
	for _, p := range s.PagePaths() {
		for _, e := range s.Info(p).says {
			for _, part := range strings.Split(e.address, "/")[1:] { // the first is a region
				if part == step {
					return true
				}
			}
		}
	}
	return false
}
