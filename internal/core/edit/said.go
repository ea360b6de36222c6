package edit

import (
	"slices"
	"strings"

	"brickshelf/internal/core/markup"
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
					out = append(out, entry{key: key, address: address, rest: p.Key[len(address):], value: anyOf(p.Value)})
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
	return SetKey(path, src, []string{e.key, e.address + e.rest}, nil)
}

func (e entry) put(path string, src []byte, address string) ([]byte, error) {
	if e.key == "hidden" {
		return Hide(path, src, address+e.rest)
	}
	return SetKey(path, src, []string{e.key, address + e.rest}, e.value)
}

// anyOf is YAML as flowOf takes it.
func anyOf(y *site.YAML) any {
	switch y.Kind {
	case site.Mapping:
		out := entries{}
		for _, p := range y.Pairs {
			out = append(out, struct {
				Key   string
				Value any
			}{p.Key, anyOf(p.Value)})
		}
		return out
	case site.Sequence:
		out := []any{}
		for _, it := range y.Items {
			out = append(out, anyOf(it))
		}
		return out
	case site.Text:
		return y.Text
	case site.Null:
		return nil
	}
	return literal(y.Text)
}

// literal is a YAML scalar that is written as it stands: a number or a truth value.
type literal string

// Hide takes what stands at an address off a page, without removing it. A call in an
// attribute of the page's own text is refused: it would leave the attribute empty.
func Hide(path string, src []byte, address string) ([]byte, error) {
	g, _ := place.ParsePage("", path, "", src)
	g.Text.Contexts()
	if n := find(g, address); n != nil && n.Context != markup.InText {
		return nil, refuse("%s stands in an attribute, which would be left empty (as href=\"\"); take the element away, or write an address or text in the place of the call", n.Name)
	}
	list := hidden(path, src)
	if slices.Contains(list, address) {
		return src, nil
	}
	return SetKey(path, src, []string{"hidden"}, append(list, address))
}

// Show takes Hide back.
func Show(path string, src []byte, address string) ([]byte, error) {
	list := slices.DeleteFunc(hidden(path, src), func(a string) bool { return a == address })
	if len(list) == 0 {
		return SetKey(path, src, []string{"hidden"}, nil)
	}
	return SetKey(path, src, []string{"hidden"}, list)
}

func hidden(path string, src []byte) []string {
	var out []string
	split, bad := site.Cut(src)
	if bad != "" || !split.HasHead {
		return nil
	}
	y, problem := site.ParseYAML(split.Head, path, 1)
	if problem != nil || y.Get("hidden") == nil {
		return nil
	}
	for _, it := range y.Get("hidden").Items {
		out = append(out, it.Text)
	}
	return out
}
