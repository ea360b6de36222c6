package values

import (
	"fmt"
	"slices"
	"strings"

	"brickshelf/internal/core/block"
	"brickshelf/internal/core/edit"
	"brickshelf/internal/core/edit/outline"
	"brickshelf/internal/core/explain"
	"brickshelf/internal/core/patch"
	"brickshelf/internal/core/shelf"
	"brickshelf/internal/core/site"
)

// Orphans lists the values that documents give to fields that a block has no more.
func Orphans(s *shelf.Shelf, name string) []Mention {
	b := s.Block(name)
	if b == nil {
		return nil
	}
	return Mentions(s, name, func(f string) bool { return b.Field(f) < 0 })
}

// DropOrphans takes the values of a field that a block has no more out of all documents.
func DropOrphans(s *shelf.Shelf, name, field string) (site.ChangeSet, error) {
	set := site.ChangeSet{Title: fmt.Sprintf("Drop the values of %s that %s has no field for", field, name)}
	b := s.Block(name)
	if b == nil {
		return set, site.Missing("there is no block %q%s", name, block.Nearest(name, s.Names()))
	}
	if b.Field(field) >= 0 {
		return set, site.Refuse("%s has a field %s; its values are no orphans", name, field)
	}
	d := &edit.Texts{Shelf: s}
	f := &block.Field{Name: field, Type: block.Text}
	if err := say(d, Mentions(s, name, only(field)), func(Mention) *block.Field { return f },
		func(Mention) (*string, bool) { return nil, true }); err != nil {
		return set, err
	}
	set.Changes = d.Changes()
	return set, edit.Unchanged(s, set.Changes, "those values cannot be dropped")
}

// Retarget makes what a page says of an address without effect speak of another one, or
// drops it where to is "". What has an effect stays, as does what is said of the other.
func Retarget(s *shelf.Shelf, path, address, to string) (site.ChangeSet, error) {
	set := site.ChangeSet{Title: "Drop what is said of " + address}
	in := s.Info(path)
	if in == nil {
		return set, site.Missing("there is no page %s", path)
	}
	src := edit.TextOf(s, path)
	lost := map[string]bool{} // fields; copies and hidden by their keys
	for _, f := range explain.Faults(s, path) {
		if key, ok := map[string]string{"lost-override": f.Field, "lost-copy": "copies",
			"lost-hidden": "hidden"}[f.Code]; ok && f.Address == address {
			lost[key] = true
		}
	}
	if len(lost) == 0 {
		return set, site.Refuse("the page says nothing of %s that is without effect", address)
	}
	if to != "" {
		set.Title = fmt.Sprintf("Aim what is said of %s at %s", address, to)
		if standsAt(s, path)[to] == "" {
			return set, site.Refuse("nothing stands at %s on this page", to)
		}
	}
	var err error
	for _, e := range outline.OverridesOf(path, src, address) {
		fields, _ := e.Value.(patch.Entries)
		switch {
		case e.Rest != "":
		case e.Key == "overrides":
			for _, p := range fields {
				if !lost[p.Key] || err != nil {
					continue
				}
				if src, err = patch.Set(path, src, []string{"overrides", address, p.Key}, nil); err != nil {
					break
				}
				said := slices.ContainsFunc(in.Page.Overrides[to], func(o site.Pair) bool {
					return o.Key == p.Key
				})
				if to != "" && !said {
					src, err = patch.Set(path, src, []string{"overrides", to, p.Key}, p.Value)
				}
			}
		case lost[e.Key]:
			if g := in.Page; to != "" && (g.Copies[to] != nil || g.Hidden[to]) {
				return set, site.Refuse("the page has a copy at %s already, or hides it; drop one of the two",
					to)
			}
			if src, err = e.Drop(path, src); err == nil && to != "" {
				src, err = e.Put(path, src, to)
			}
		}
		if err != nil {
			return set, err
		}
	}
	set.Changes = []site.Change{{Path: path, Before: s.Hash(path), After: src}}
	return set, nil
}

// Orphan is something that a page says of an address at which nothing stands that could
// take it.
type Orphan struct {
	Address string
	Said    string   // in words
	Message string   // what is wrong
	Could   []string // addresses of placements that could take it
	Meant   string   // the one among them that it means by its position, since its call has a key
	Doubled bool     // the page says something of that one too, and that counts
}

// OrphansOn lists what a page says of nothing, by address.
func OrphansOn(s *shelf.Shelf, path string) []Orphan {
	in := s.Info(path)
	if in == nil || !in.Page.Local {
		return nil
	}
	var out []Orphan
	var stands map[string]string
	for _, f := range explain.Faults(s, path) {
		if !strings.HasPrefix(f.Code, "lost-") {
			continue
		}
		said := map[string]string{"lost-copy": "a one-off copy", "lost-hidden": "hidden"}[f.Code]
		for _, p := range in.Page.Overrides[f.Address] {
			if p.Key == f.Field {
				said = f.Field + ": " + typedRaw(block.Raw(p.Value))
			}
		}
		if i := slices.IndexFunc(out, func(o Orphan) bool { return o.Address == f.Address }); i >= 0 {
			out[i].Said += ", " + said
			continue
		}
		if stands == nil {
			stands = standsAt(s, path)
		}
		o := Orphan{Address: f.Address, Said: said, Message: f.Message, Meant: explain.ByKey(s, path,
			f.Address)}
		o.Doubled = o.Meant != "" && saysOf(in.Page)[o.Meant]
		for _, a := range edit.SortedKeys(stands) {
			if b := s.Block(stands[a]); b != nil && (f.Field == "" || b.Field(f.Field) >= 0) {
				o.Could = append(o.Could, a)
			}
		}
		out = append(out, o)
	}
	slices.SortFunc(out, func(a, b Orphan) int { return strings.Compare(a.Address, b.Address) })
	return out
}
