package edit

import (
	"bytes"
	"fmt"
	"slices"
	"strings"

	"brickshelf/internal/core/markup"
	"brickshelf/internal/core/place"
	"brickshelf/internal/core/render"
	"brickshelf/internal/core/site"
)

// withKeys gives calls inside blocks and layouts keys of which values are set, where they
// have none: so what pages say of them goes with them when others are written before
// them. What all pages say of them follows, and no page changes; where that cannot be,
// they stay without.
func withKeys(s *render.Shelf, edits []ValueEdit) (*documents, []ValueEdit) {
	d, known := &documents{s: s}, map[[2]string]string{}
	out := slices.Clone(edits)
	for i, e := range edits {
		if e.Text == nil || s.Info(e.Doc) == nil {
			continue
		}
		var err error
		if out[i].Address, err = d.keyFor(known, e.Doc, e.Address); err != nil {
			return &documents{s: s}, edits
		}
	}
	if len(known) > 0 && unchanged(s, d.changes(), "") != nil {
		return &documents{s: s}, edits
	}
	return d, out
}

// keyFor gives the call that brought a placement a key, and the placement's address from
// then on. known are the keys given before, by document and step.
func (d *documents) keyFor(known map[[2]string]string, path, address string) (string, error) {
	at := strings.LastIndexByte(address, '/') + 1
	step, round, inLoop := strings.Cut(address[at:], ".")
	name, _, numbered := strings.Cut(step, "~")
	if !numbered || strings.Count(address, "/") < 2 && !strings.HasPrefix(address, "layout/") {
		return address, nil
	}
	l := d.s.Ladder(path, address, render.Options{})
	if l == nil {
		l = d.s.Ladder(path, address, render.Options{SignedIn: true})
	}
	if l == nil {
		return address, nil
	}
	class, container, _ := site.Classify(l.Via)
	if class != site.BlockDoc && class != site.LayoutDoc {
		return address, nil
	}
	key := known[[2]string{l.Via, step}]
	if key == "" {
		src := d.get(l.Via)
		steps, shift := stepsOf(src)
		taken := map[string]bool{}
		var call *markup.Node
		for _, n := range steps {
			taken[n.Step] = true
			if n.Kind == markup.Call && n.Step == step && n.Name == name && n.Container == "main" {
				call = n
			}
		}
		if call == nil || call.ArgString("key") != "" {
			return address, nil
		}
		key = name
		for i := 2; taken[key] || d.s.Speaks(key); i++ {
			key = fmt.Sprintf("%s-%d", name, i)
		}
		known[[2]string{l.Via, step}] = key
		where := shift + call.NameAt + len(call.Name)
		d.put(l.Via, patched(src, []patch{{where, where, " key=" + markup.Quote(key)}}))
		if err := d.readdress(class, container, step, key); err != nil {
			return "", err
		}
	}
	if inLoop {
		key += "." + round
	}
	return address[:at] + key, nil
}

// readdress makes what pages say of a step of a block or layout speak of another step.
func (d *documents) readdress(class site.Class, container, step, to string) error {
	for _, path := range d.s.PagePaths() {
		g := d.s.Info(path).Page
		if !g.Local || class == site.LayoutDoc && g.Layout != container || !bytes.Contains(g.Split.Head, []byte(step)) {
			continue
		}
		g, _ = place.ParsePage(g.Name, path, g.URL, d.get(path)) // as it is by now
		var stands map[string]string
		renamed := func(address string) string {
			parts := strings.Split(address, "/")
			for i, p := range parts {
				name, round, inLoop := strings.Cut(p, ".")
				if i == 0 || name != step {
					continue
				}
				around := strings.Join(parts[:i], "/")
				if stands == nil {
					stands = standsAt(d.s, path)
				}
				if class == site.LayoutDoc && around != "layout" || class == site.BlockDoc && blockAt(d.s, stands, around) != container {
					continue
				}
				if parts[i] = to; inLoop {
					parts[i] += "." + round
				}
			}
			return strings.Join(parts, "/")
		}
		if err := d.rename(g, renamed); err != nil {
			return err
		}
	}
	return nil
}

// rename gives the addresses of which a page says something other names.
func (d *documents) rename(g *place.Page, renamed func(string) string) error {
	src := d.get(g.Path)
	var err error
	move := func(key, address string) {
		if to := renamed(address); err == nil && to != address {
			src, err = renameKey(g.Path, src, []string{key, address}, to)
		}
	}
	for _, a := range sortedKeysOf(g.Overrides) {
		move("overrides", a)
	}
	for _, a := range sortedKeysOf(g.Copies) {
		move("copies", a)
	}
	if list := hidden(g.Path, src); err == nil && slices.ContainsFunc(list, func(a string) bool { return renamed(a) != a }) {
		for i := range list {
			list[i] = renamed(list[i])
		}
		src, err = SetKey(g.Path, src, []string{"hidden"}, list)
	}
	if err != nil {
		return err
	}
	d.put(g.Path, src)
	return nil
}
