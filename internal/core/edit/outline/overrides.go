package outline

import (
	"strings"

	"brickshelf/internal/core/markup"
	"brickshelf/internal/core/patch"
	"brickshelf/internal/core/place"
	"brickshelf/internal/core/site"
)

// carry takes what a page says of addresses to those that they have now.
func carry(path string, src []byte, said []Override, now []string) (out []byte, err error) {
	out = src
	for i, e := range said {
		if now[i] != "" && now[i] != e.Address {
			if out, err = e.Drop(path, out); err != nil {
				return nil, err
			}
		}
	}
	for i, e := range said {
		if now[i] != "" && now[i] != e.Address {
			if out, err = e.Put(path, out, now[i]); err != nil {
				return nil, err
			}
		}
	}
	return out, nil
}

// Override is what a page says in its front matter of an address, or of one under it.
type Override struct {
	// Key is overrides, copies or hidden; what is said is of Address and Rest together.
	Key, Address, Rest string
	Value              any

	at int // where the call of the address begins
}

// entriesIn lists what a page says of a part of its text and of the calls inside it.
func entriesIn(path string, src []byte, parts []Part, p Part) []Override {
	var out []Override
	for _, q := range inside(parts, p) {
		for _, e := range OverridesOf(path, src, q.Address) {
			e.at = q.From
			out = append(out, e)
		}
	}
	return out
}

// OverridesOf lists what a page says of an address and of those under it.
func OverridesOf(path string, src []byte, address string) []Override {
	split, bad := site.Cut(src)
	if bad != "" || !split.HasHead {
		return nil
	}
	y, problem := site.ParseYAML(split.Head, path, 1)
	if problem != nil {
		return nil
	}
	var out []Override
	under := func(a string) bool { return a == address || strings.HasPrefix(a, address+"/") }
	for _, key := range []string{"overrides", "copies"} {
		if m := y.Get(key); m != nil {
			for _, p := range m.Pairs {
				if under(p.Key) {
					out = append(out, Override{Key: key, Address: address, Rest: p.Key[len(address):],
						Value: patch.Of(p.Value)})
				}
			}
		}
	}
	if m := y.Get("hidden"); m != nil {
		for _, it := range m.Items {
			if under(it.Text) {
				out = append(out, Override{Key: "hidden", Address: address, Rest: it.Text[len(address):],
					Value: true})
			}
		}
	}
	return out
}

// Drop takes it out of a page.
func (e Override) Drop(path string, src []byte) ([]byte, error) {
	if e.Key == "hidden" {
		return Show(path, src, e.Address+e.Rest)
	}
	return patch.Set(path, src, []string{e.Key, e.Address + e.Rest}, nil)
}

// Put says it of another address.
func (e Override) Put(path string, src []byte, address string) ([]byte, error) {
	if e.Key == "hidden" {
		return Hide(path, src, address+e.Rest)
	}
	return patch.Set(path, src, []string{e.Key, address + e.Rest}, e.Value)
}

// Hide takes what stands at an address off a page, without removing it. A call in an
// attribute of the page's own text is refused: it would leave the attribute empty.
func Hide(path string, src []byte, address string) ([]byte, error) {
	g, _ := place.ParsePage("", path, "", src)
	g.Text.Contexts()
	if n := Find(g, address); n != nil && n.Context != markup.InText {
		return nil,
			site.Refuse("%s stands in an attribute, which would be left empty (as href=\"\"); take the element away, or write an address or text in the place of the call", n.Name)
	}
	if g.Hidden[address] {
		return src, nil
	}
	return patch.Add(path, src, []string{"hidden"}, address)
}

// Show takes Hide back.
func Show(path string, src []byte, address string) ([]byte, error) {
	return patch.Drop(path, src, []string{"hidden"}, address)
}

// Find returns the call or copy of a page's own text at an address.
func Find(g *place.Page, address string) *markup.Node {
	var found *markup.Node
	markup.Walk(g.Text.Nodes, func(n *markup.Node) bool {
		if found == nil && (n.Kind == markup.Call || n.Kind == markup.Copy) && n.Container+"/"+
			n.Step == address {
			found = n
		}
		return found == nil
	})
	return found
}
