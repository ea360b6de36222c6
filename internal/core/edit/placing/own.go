package placing

import (
	"strings"

	"brickshelf/internal/core/block"
	"brickshelf/internal/core/edit/outline"
	"brickshelf/internal/core/shelf"
	"brickshelf/internal/core/site"
)

// Own has what a rule puts at an address of a page stand in a region of the page's own text
// instead: hidden where the rule puts it, and called with the values that the rule gives it. What the
// page says of its values follows. src is the page's text as it is being written; from is the byte of
// the new one at which the call begins.
func Own(s *shelf.Shelf, path string, src []byte, address, region string, before int) (out []byte,
	from int, err error) {
	_, step, of := strings.Cut(address, "/rule:")
	r := s.Rule(step)
	if !of || r == nil {
		return nil, 0, site.Missing("no rule puts something at %s any more", address)
	}
	b := s.Block(r.Block)
	if b == nil {
		return nil, 0, site.Refuse("there is no block %s", r.Block)
	}
	said := outline.OverridesOf(path, src, address)
	for _, e := range said {
		if e.Rest == "" && e.Key != "overrides" {
			return nil, 0, site.Refuse("here it is hidden, or a copy; show or link it first")
		}
	}
	call := "@{" + b.Name
	reader := block.NewReader()
	for _, set := range r.Set {
		i := b.Field(set.Field)
		if i < 0 {
			continue
		}
		v, err := reader.Read(b.Fields[i], set.Raw)
		if err != nil {
			return nil, 0, site.Refuse("%s: %s", set.Field, err.Error())
		}
		call += " " + set.Field + "=" + v.Argument()
	}
	out, from, err = outline.PutAt(path, src, region, before, call+" /}")
	if err != nil {
		return nil, 0, err
	}
	now := outline.AddressAt(out, from)
	for _, e := range said {
		if out, err = e.Drop(path, out); err == nil {
			out, err = e.Put(path, out, now)
		}
		if err != nil {
			return nil, 0, err
		}
	}
	if out, err = outline.Hide(path, out, address); err != nil {
		return nil, 0, err
	}
	for _, p := range outline.Of(out) {
		if p.Address == now {
			from = p.From
		}
	}
	return out, from, nil
}
