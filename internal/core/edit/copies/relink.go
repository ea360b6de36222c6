package copies

import (
	"slices"
	"strings"

	"brickshelf/internal/core/shelf"
	"brickshelf/internal/core/site"
)

// Fit is a value that a copy holds in the place of a field of its block.
type Fit struct {
	Field string
	Label string
	Text  string // as one types it
	Words string // as one reads it
}

// Relinked is what linking a copy again comes to.
type Relinked struct {
	Set    site.ChangeSet
	Fits   []Fit    // what becomes values of the placement
	Made   []string // the fields that the block gets for them
	Before string   // the copy
	After  string   // what would be written there then, in the same way
	base   string   // what it came from, which needs no keeping; "" where unknown
}

// Relink links the copy at an address of a page again. Where the copy has been edited, what stands
// in it where the block shows fields becomes the placement's values, and so do values that decide
// what is shown; what is still different then is the difference of Before and After. Where
// everything fits, they are the same, and no byte of the page changes.
func Relink(s *shelf.Shelf, path, address string) (Relinked, error) {
	return relink(s, path, address, searched, true)
}

// searched is how many values are tried at most for a copy.
const searched = 600

// relink is Relink with so many tries; deep is to look into calls of other blocks as well.
func relink(s *shelf.Shelf, path, address string, tries int, deep bool) (Relinked, error) {
	link, err := Link(s, path, address)
	if err != nil {
		return Relinked{}, err
	}
	c, err := At(s, path, address)
	if err != nil {
		return Relinked{}, err
	}
	out := Relinked{Set: link, Before: c.Text, After: c.Now, base: c.Base}
	b := s.Block(c.Of)
	// What stands in a block's text has no values of one page's own.
	if b == nil || c.Text == c.Now || c.Standing == Behind || c.Holder != "" {
		return out, nil
	}
	r := relinker{s: s, path: path, address: address, b: b, link: link, text: c.Text,
		apart: s.Info(path).Page.Copies[address] != nil, tries: tries}
	best, ok := r.search()
	if !ok {
		return out, nil
	}
	for _, f := range best.fits { // what it shows anyway need not be said
		rest := slices.DeleteFunc(slices.Clone(best.fits), func(g Fit) bool { return g == f })
		if t, ok := r.with(rest); ok && t.after == best.after {
			best = t
		}
	}
	for _, f := range best.fits {
		out.Fits = append(out.Fits, told(b.Fields[b.Field(f.Field)], f))
	}
	var within []Fit
	if deep {
		best, within = r.nested(best)
	}
	out.Set.Changes, out.After, out.Fits = best.changes, best.after, append(out.Fits, within...)
	return out, nil
}

// Lost are the lines that were written into the copy and are nowhere any more.
func (r *Relinked) Lost() []string {
	out := lost(calling(r.Before), calling(r.After)+"\n"+calling(r.base))
	return slices.DeleteFunc(out, func(l string) bool { return strings.TrimSpace(l) == "" })
}
