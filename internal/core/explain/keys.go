package explain

import (
	"strconv"
	"strings"

	"brickshelf/internal/core/markup"
	"brickshelf/internal/core/render"
	"brickshelf/internal/core/shelf"
)

// ByKey gives the address of the placement that a page means by an address that counts
// calls, where one of these calls has a key and is known by that; "" where that is none.
func ByKey(s *shelf.Shelf, path, address string) string { return KeysOn(s, path)(address) }

// KeysOn is ByKey for many addresses of one page.
func KeysOn(s *shelf.Shelf, path string) func(address string) string {
	in := s.Info(path)
	var blocks map[string]string
	return func(address string) string {
		if in == nil || !strings.Contains(address, "~") {
			return ""
		}
		if blocks == nil {
			blocks = blocksOn(s, path)
		}
		return byKey(s, in, blocks, address)
	}
}

// blocksOn tells which block stands at which address of a page now.
func blocksOn(s *shelf.Shelf, path string) map[string]string {
	blocks := map[string]string{}
	for _, signedIn := range []bool{false, true} {
		for _, p := range render.Page(s, path, render.Options{Placements: true,
			SignedIn: signedIn}).Placements {
			blocks[p.Address] = p.Block
		}
	}
	return blocks
}

func byKey(s *shelf.Shelf, in *shelf.Info, blocks map[string]string, address string) string {
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
