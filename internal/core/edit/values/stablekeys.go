package values

import (
	"bytes"
	"fmt"
	"maps"
	"slices"
	"strings"

	"brickshelf/internal/core/edit"
	"brickshelf/internal/core/edit/outline"
	"brickshelf/internal/core/explain"
	"brickshelf/internal/core/markup"
	"brickshelf/internal/core/patch"
	"brickshelf/internal/core/place"
	"brickshelf/internal/core/shelf"
	"brickshelf/internal/core/site"
)

// withKeys gives calls inside blocks and layouts keys of which values are set, where they
// have none: so what pages say of them goes with them when others are written before
// them. What all pages say of them follows, and no page changes; where that cannot be,
// they stay without.
func withKeys(s *shelf.Shelf, edits []Edit) (*edit.Texts, []Edit) {
	d, known := &edit.Texts{Shelf: s}, map[[2]string]string{}
	out := slices.Clone(edits)
	for i, e := range edits {
		if e.Text == nil || s.Info(e.Doc) == nil {
			continue
		}
		var err error
		if out[i].Address, err = keyFor(d, known, e.Doc, e.Address); err != nil {
			return &edit.Texts{Shelf: s}, edits
		}
	}
	if len(known) > 0 && edit.Unchanged(s, d.Changes(), "") != nil {
		return &edit.Texts{Shelf: s}, edits
	}
	return d, out
}

// WithStableKeys is a change set that pages may be edited by as well: calls inside blocks and
// layouts of which it makes a page say something for the first time get keys, where they
// have none, and what all pages say of them follows. No page is another one by that;
// where one would be, the change set stays as it is. The map leads from addresses of that
// page to what they are called from then on.
func WithStableKeys(s *shelf.Shelf, set site.ChangeSet) (site.ChangeSet, map[string]string) {
	o := s.With(set.Changes)
	d, known, called := &edit.Texts{Shelf: o}, map[[2]string]string{}, map[string]string{}
	for _, c := range set.Changes {
		now := o.Info(c.Path)
		if now == nil || c.Delete {
			continue
		}
		var said map[string]bool
		if was := s.Info(c.Path); was != nil {
			said = saysOf(was.Page)
		}
		for _, address := range slices.Sorted(maps.Keys(saysOf(now.Page))) {
			if said[address] {
				continue
			}
			to, err := keyFor(d, known, c.Path, address)
			if err != nil {
				return set, nil
			}
			if to != address {
				called[address] = to
			}
		}
	}
	keyed := d.Changes()
	if len(called) == 0 || edit.Unchanged(o, keyed, "") != nil {
		return set, nil
	}
	out := site.ChangeSet{Title: set.Title, Changes: slices.Clone(set.Changes)}
	for _, c := range keyed {
		if i := slices.IndexFunc(out.Changes, func(x site.Change) bool { return x.Path == c.Path }); i >= 0 {
			out.Changes[i].After = c.After
		} else {
			out.Changes = append(out.Changes, c)
		}
	}
	return out, called
}

// saysOf are the addresses of which a page says something.
func saysOf(g *place.Page) map[string]bool {
	out := map[string]bool{}
	for a := range g.Overrides {
		out[a] = true
	}
	for a := range g.Copies {
		out[a] = true
	}
	for a := range g.Hidden {
		out[a] = true
	}
	return out
}

// keyFor gives the call that brought a placement a key, and the placement's address from
// then on. known are the keys given before, by document and step.
func keyFor(d *edit.Texts, known map[[2]string]string, path, address string) (string, error) {
	at := strings.LastIndexByte(address, '/') + 1
	step, round, inLoop := strings.Cut(address[at:], ".")
	name, _, numbered := strings.Cut(step, "~")
	if !numbered || strings.Count(address, "/") < 2 && !strings.HasPrefix(address, "layout/") {
		return address, nil
	}
	l := explain.PrecedenceOf(d.Shelf, path, address)
	if l == nil {
		return address, nil
	}
	class, container, _ := site.Classify(l.Via)
	if class != site.BlockDoc && class != site.LayoutDoc {
		return address, nil
	}
	key := known[[2]string{l.Via, step}]
	if key == "" {
		src := d.Get(l.Via)
		steps, shift := outline.Steps(src)
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
		for i := 2; taken[key] || d.Shelf.Speaks(key); i++ {
			key = fmt.Sprintf("%s-%d", name, i)
		}
		known[[2]string{l.Via, step}] = key
		where := shift + call.NameAt + len(call.Name)
		d.Put(l.Via, patch.Apply(src, []patch.Replacement{patch.Put(where, where, " key="+
			markup.Quote(key))}))
		if err := readdress(d, class, container, step, key); err != nil {
			return "", err
		}
	}
	if inLoop {
		round = "." + round
	}
	// The same step may stand further ahead in the address, in a copy of what shows it.
	return renaming(d, path, class, container, step, key)(address[:at]) + key + round, nil
}

// renaming gives another step to a step of a block or layout in addresses on a page,
// wherever it stands in them.
func renaming(d *edit.Texts, path string, class site.Class, container, step,
	to string) func(address string) string {
	var stands map[string]string
	return func(address string) string {
		was := strings.Split(address, "/")
		is := slices.Clone(was)
		for i, p := range was {
			name, round, inLoop := strings.Cut(p, ".")
			if i == 0 || name != step {
				continue
			}
			around := strings.Join(was[:i], "/")
			if stands == nil {
				stands = standsAt(d.Shelf, path)
			}
			if class == site.LayoutDoc && around != "layout" ||
				class == site.BlockDoc && blockAt(d.Shelf, stands, around) != container {
				continue
			}
			if is[i] = to; inLoop {
				is[i] += "." + round
			}
		}
		return strings.Join(is, "/")
	}
}

// readdress makes what pages say of a step of a block or layout speak of another step.
func readdress(d *edit.Texts, class site.Class, container, step, to string) error {
	for _, path := range d.Shelf.PagePaths() {
		g := d.Shelf.Info(path).Page
		if !g.Local || class == site.LayoutDoc && g.Layout != container ||
			!bytes.Contains(g.Split.Head, []byte(step)) {
			continue
		}
		g, _ = place.ParsePage(g.Name, path, g.URL, d.Get(path)) // as it is by now
		renamed := renaming(d, path, class, container, step, to)
		if err := rename(d, g, renamed); err != nil {
			return err
		}
	}
	return nil
}

// rename gives the addresses of which a page says something other names.
func rename(d *edit.Texts, g *place.Page, renamed func(string) string) error {
	src := d.Get(g.Path)
	var err error
	move := func(key, address string) {
		if to := renamed(address); err == nil && to != address {
			src, err = patch.Rename(g.Path, src, []string{key, address}, to)
		}
	}
	for _, a := range edit.SortedKeys(g.Overrides) {
		move("overrides", a)
	}
	for _, a := range edit.SortedKeys(g.Copies) {
		move("copies", a)
	}
	for _, a := range edit.SortedKeys(g.Hidden) {
		if to := renamed(a); err == nil && to != a {
			src, err = patch.Exchange(g.Path, src, []string{"hidden"}, a, to)
		}
	}
	if err != nil {
		return err
	}
	d.Put(g.Path, src)
	return nil
}
