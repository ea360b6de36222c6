package copies

import (
	"fmt"
	"maps"
	"slices"
	"strings"

	"brickshelf/internal/core/edit/expansion"
	"brickshelf/internal/core/edit/outline"
	"brickshelf/internal/core/markup"
	"brickshelf/internal/core/patch"
	"brickshelf/internal/core/render"
	"brickshelf/internal/core/shelf"
	"brickshelf/internal/core/site"
)

// Standing is how a copy stands towards the block that it came from.
type Standing string

// The standings. A block has moved on where it would show something else there than the
// revision that the copy came from, or has another style or behaviour; one that is no longer
// there has, too. A copy is edited where it holds something else than that revision gives
// there.
const (
	Unchanged Standing = "unchanged"
	Behind    Standing = "behind"
	Edited    Standing = "edited"
	Both      Standing = "both"    // behind, and edited
	Unknown   Standing = "unknown" // what it came from cannot be told
)

// Copy is a one-off copy on a page, in its text or in its front matter.
type Copy struct {
	Page     string // the page's document; of a copy in a block's text, the first that shows it
	Holder   string // the document of the block in whose text it stands; "" where it is the page's own
	URL      string
	Address  string
	Of       string // the block
	Standing Standing
	Why      string // why nothing is known, where it is so
	Text     string // the copy, in the language of the shelf
	Base     string // what it came from, at this place; "" where unknown
	Now      string // the block as it is now, at this place
	Head     string // the tag that makes Text, and Base, a copy in the style of its own revision
	NowHead  string // the same for Now
	Gone     bool   // the block is no longer there
	Restyled bool   // the block has another style or behaviour than the copy, or gives that something else

	starts string // what the block's behaviour would be given there
}

// All lists the copies of a site's pages, by page and as they stand there.
func All(s *shelf.Shelf) []Copy { return of(s, "") }

// Of lists the copies of a block.
func Of(s *shelf.Shelf, block string) []Copy { return of(s, block) }

func of(s *shelf.Shelf, block string) []Copy {
	var out []Copy
	for _, path := range s.PagePaths() {
		g := s.Info(path).Page
		if len(g.Copies) == 0 && len(g.Copied) == 0 || block != "" && !slices.Contains(g.Copied, block) {
			continue
		}
		for _, o := range origins(s, path) {
			if block == "" || o.of == block {
				out = append(out, o.standing(s, path))
			}
		}
	}
	return append(out, inBlocks(s, block)...)
}

// At tells how the copy at an address of a page stands.
func At(s *shelf.Shelf, path, address string) (Copy, error) {
	if in := s.Info(path); in != nil {
		for _, o := range origins(s, path) {
			if o.address == address {
				return o.standing(s, path), nil
			}
		}
		if held := heldBy(s, path, address, render.Copied, markup.Copy); held != nil {
			return held.origin(address).standing(s, path), nil
		}
	}
	return Copy{}, site.Missing("there is no copy at %s of %s", address, path)
}

// origin is what a copy says of itself.
type origin struct {
	address, of            string
	base, style, behaviour site.Hash
	starts, needs          string
	text                   string
	loop                   bool   // in a loop, where one text stands in several places
	apart                  bool   // in the page's front matter
	holder                 string // the document of the block in whose text it stands; "" for a page
	values                 bool   // it shows values of that block
}

// origins lists the copies of a page: those of its text, in order, then those of its front
// matter by address.
func origins(s *shelf.Shelf, path string) []origin {
	g := s.Info(path).Page
	var out []origin
	markup.Walk(g.Text.Nodes, func(n *markup.Node) bool {
		if n.Kind == markup.Copy {
			out = append(out, origin{address: n.Container + "/" + n.Step, of: n.Name,
				base: site.Hash(n.ArgString("base")), style: site.Hash(n.ArgString("style")),
				behaviour: site.Hash(n.ArgString("behaviour")), starts: n.ArgString("starts"),
				needs: n.ArgString("needs"), text: string(g.Text.Src[n.Head.To:n.Tail.From]), loop: n.Loops > 0})
		}
		return true
	})
	for _, address := range slices.Sorted(maps.Keys(g.Copies)) {
		c := g.Copies[address]
		out = append(out, origin{address: address, of: c.Of, base: site.Hash(c.Base),
			style: site.Hash(c.Style), behaviour: site.Hash(c.Behaviour), starts: c.Starts, needs: c.Needs,
			text: string(c.Text.Src), apart: true})
	}
	return out
}

func (o origin) standing(s *shelf.Shelf, path string) Copy {
	doc := "blocks/" + o.of + ".html"
	as := expansion.As(s, o.of)
	c := Copy{Page: path, URL: s.Info(path).URL, Address: o.address, Of: o.of, Standing: Unknown,
		Text: o.text, Holder: o.holder, Gone: as.Base == "",
		Restyled: o.style != as.Style || o.behaviour != as.Behaviour}
	then := expansion.Expansion{Block: o.of, Base: o.base, Style: o.style, Behaviour: o.behaviour,
		Starts: o.starts, Needs: o.needs}
	c.Head, c.NowHead = then.Opening()+"}", as.Opening()+"}"
	if o.loop {
		c.Why = "it stands in a loop, in several places at once"
		return c
	}
	if o.values {
		c.Why = "it shows values of the block that it stands in, and so something else on each page"
		return c
	}
	link, err := Link(s, path, o.address)
	if err != nil {
		c.Why = err.Error()
		return c
	}
	if !c.Gone {
		var now *expansion.Expansion
		if c.Now, now = filled(s.With(link.Changes), path, o.address, o.apart); now != nil {
			c.starts, c.NowHead = now.Starts, now.Opening()+"}"
			c.Restyled = c.Restyled || o.starts != now.Starts || o.needs != now.Needs
		}
	}
	was, why := o.source(s, doc)
	if why != "" {
		c.Why = why
		return c
	}
	base, there := filled(s.With(append(link.Changes, site.Change{Path: doc, After: was})), path, o.address,
		o.apart)
	if there == nil {
		c.Why = "nothing stands at this address of the page otherwise, so that it cannot be compared"
		return c
	}
	c.Base = base
	behind, edited := c.Gone || c.Restyled || c.Now != c.Base, calling(c.Text) != calling(c.Base)
	switch {
	case behind && edited:
		c.Standing = Both
	case behind:
		c.Standing = Behind
	case edited:
		c.Standing = Edited
	default:
		c.Standing = Unchanged
	}
	return c
}

// calling is a text with its copies as the calls that they came from: whether what stands in a
// copy follows its own block is no edit of that copy.
func calling(text string) string {
	for strings.Contains(text, "@{copy") {
		var patches []patch.Replacement
		t := markup.Parse([]byte(text))
		markup.Walk(t.Nodes, func(n *markup.Node) bool {
			if n.Kind == markup.Copy {
				patches = append(patches, patch.Put(n.Span.From, n.Span.To, relinked(t.Src, n)))
			}
			return n.Kind != markup.Copy
		})
		if len(patches) == 0 {
			break
		}
		text = string(patch.Apply(t.Src, patches))
	}
	return text
}

// source gives the revision of the block that a copy came from, or why there is none.
func (o origin) source(s *shelf.Shelf, doc string) ([]byte, string) {
	if o.base != "" && s.Hash(doc) == o.base {
		b, _ := s.Get(doc)
		return b, ""
	}
	b, there := s.Get("history/" + string(o.base))
	switch {
	case o.base == "" || !there:
		return nil, "the revision of " + o.of + " that it came from is not in history"
	case site.HashOf(b) != o.base:
		return nil, fmt.Sprintf("history/%s is not the revision that its name says", o.base)
	}
	return b, ""
}

// filled is the text that a copy of what is linked at an address of a page would hold: apart
// from the page's text, as in its front matter, or in it.
func filled(s *shelf.Shelf, path, address string, apart bool) (string, *expansion.Expansion) {
	x := expansion.Of(s, path, address, apart)
	if x == nil {
		return "", nil
	}
	g := s.Info(path).Page
	if n := outline.Find(g, address); !apart && n != nil && n.Kind == markup.Call {
		return string(body(x, g.Text.Src, n)), x
	}
	if !apart {
		if held := heldBy(s, path, address, render.Linked, markup.Call); held != nil {
			return string(body(x, held.text.Src, held.node)), x
		}
	}
	return string(x.Text), x
}
