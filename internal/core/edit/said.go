package edit

import (
	"strings"

	"brickshelf/internal/core/markup"
	"brickshelf/internal/core/patch"
	"brickshelf/internal/core/place"
	"brickshelf/internal/core/site"
)

// carry takes what a page says of addresses to those that they have now.
func carry(path string, src []byte, said []entry, now []string) (out []byte, err error) {
	out = src
	for i, e := range said {
		if now[i] != "" && now[i] != e.address {
			if out, err = e.drop(path, out); err != nil {
				return nil, err
			}
		}
	}
	for i, e := range said {
		if now[i] != "" && now[i] != e.address {
			if out, err = e.put(path, out, now[i]); err != nil {
				return nil, err
			}
		}
	}
	return out, nil
}

// entry is what a page says in its front matter of an address, or of one under it.
type entry struct {
	key, address, rest string
	value              any
	at                 int // where the call of the address begins
}

// entriesIn lists what a page says of a part of its text and of the calls inside it.
func entriesIn(path string, src []byte, parts []OwnPart, p OwnPart) []entry {
	var out []entry
	for _, q := range inside(parts, p) {
		for _, e := range entriesOf(path, src, q.Address) {
			e.at = q.From
			out = append(out, e)
		}
	}
	return out
}

// entriesOf lists what a page says of an address and of those under it.
func entriesOf(path string, src []byte, address string) []entry {
	split, bad := site.Cut(src)
	if bad != "" || !split.HasHead {
		return nil
	}
	y, problem := site.ParseYAML(split.Head, path, 1)
	if problem != nil {
		return nil
	}
	var out []entry
	under := func(a string) bool { return a == address || strings.HasPrefix(a, address+"/") }
	for _, key := range []string{"overrides", "copies"} {
		if m := y.Get(key); m != nil {
			for _, p := range m.Pairs {
				if under(p.Key) {
					out = append(out, entry{key: key, address: address, rest: p.Key[len(address):], value: patch.Of(p.Value)})
				}
			}
		}
	}
	if m := y.Get("hidden"); m != nil {
		for _, it := range m.Items {
			if under(it.Text) {
				out = append(out, entry{key: "hidden", address: address, rest: it.Text[len(address):], value: true})
			}
		}
	}
	return out
}

func (e entry) drop(path string, src []byte) ([]byte, error) {
	if e.key == "hidden" {
		return Show(path, src, e.address+e.rest)
	}
	return patch.Set(path, src, []string{e.key, e.address + e.rest}, nil)
}

func (e entry) put(path string, src []byte, address string) ([]byte, error) {
	if e.key == "hidden" {
		return Hide(path, src, address+e.rest)
	}
	return patch.Set(path, src, []string{e.key, address + e.rest}, e.value)
}

// Hide takes what stands at an address off a page, without removing it. A call in an
// attribute of the page's own text is refused: it would leave the attribute empty.
func Hide(path string, src []byte, address string) ([]byte, error) {
	g, _ := place.ParsePage("", path, "", src)
	g.Text.Contexts()
	if n := find(g, address); n != nil && n.Context != markup.InText {
		return nil, refuse("%s stands in an attribute, which would be left empty (as href=\"\"); take the element away, or write an address or text in the place of the call", n.Name)
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
