package copies

import (
	"bytes"
	"cmp"
	"fmt"
	"slices"
	"strings"

	"brickshelf/internal/core/block"
	"brickshelf/internal/core/edit"
	"brickshelf/internal/core/edit/expansion"
	"brickshelf/internal/core/edit/outline"
	"brickshelf/internal/core/markup"
	"brickshelf/internal/core/shelf"
	"brickshelf/internal/core/site"
)

// Likeness is a piece of a page's own text, or of another block's, that looks like what a block
// shows, and is neither a placement of it nor a copy.
type Likeness struct {
	Doc, URL string // URL is "" where it stands in a block
	From, To int    // byte offsets in the document
	Text     string
	Linked   string   // what would stand there, with what fits fields as its values
	Fits     []Fit    // those values
	Lost     []string // lines of the piece that the block has no place for
}

// maxLikenesses is how many likenesses are told of.
const maxLikenesses = 1000

// Alike finds the likenesses of a block in the texts of pages and other blocks, those first of
// which least would be lost.
// Looked for is an element that begins as the block does and holds the longest text that the
// block always shows; at least half of its lines have to be the block's.
func Alike(s *shelf.Shelf, name string) ([]Likeness, error) {
	b := s.Block(name)
	if b == nil {
		return nil, site.Missing("there is no block %q%s", name, block.Nearest(name, s.Names()))
	}
	begin, anchor := anchors(b)
	if begin == "" {
		return nil, nil
	}
	var paths []string
	for _, other := range s.Names() {
		if of := s.Block(other); of != nil && other != name && !edit.Leads(s, name, other) {
			paths = append(paths, of.Path)
		}
	}
	paths = append(paths, s.PagePaths()...)
	found := make([][]Likeness, len(paths))
	shelf.Parallel(len(paths), func(i int) {
		src, _ := s.Get(paths[i])
		if bytes.Contains(src, []byte(anchor)) {
			found[i] = alikeOn(s, paths[i], name, begin, anchor)
		}
	})
	all := slices.Concat(found...)
	slices.SortStableFunc(all, func(x, y Likeness) int { return cmp.Compare(len(x.Lost), len(y.Lost)) })
	return all[:min(len(all), maxLikenesses)], nil
}

// anchors are what a block always shows: the beginning of its first element, up to the first value,
// and its longest text without one. "" where there is too little of it to be looked for.
func anchors(b *block.Block) (begin, anchor string) {
	for i, n := range b.Text.Nodes {
		if n.Kind != markup.Literal {
			continue
		}
		text := strings.TrimSpace(string(b.Text.Src[n.Span.From:n.Span.To]))
		if begin == "" && i == 0 && strings.HasPrefix(text, "<") {
			begin = text
			if end := strings.IndexByte(text, '>'); end >= 0 {
				begin = text[:end+1]
			}
		}
		for l := range strings.SplitSeq(text, "\n") {
			if l = strings.TrimSpace(l); len(l) > len(anchor) {
				anchor = l
			}
		}
	}
	if len(begin) < len("<p>") || len(anchor) < 12 {
		return "", ""
	}
	return begin, anchor
}

func alikeOn(s *shelf.Shelf, path, name, begin, anchor string) []Likeness {
	src, _ := s.Get(path)
	split, bad := site.Cut(src)
	if bad != "" {
		return nil
	}
	var out []Likeness
	markup.Walk(markup.Parse(split.Text).Nodes, func(n *markup.Node) bool {
		if n.Kind != markup.Literal || n.Loops > 0 {
			return n.Kind != markup.Copy && n.Kind != markup.Call
		}
		from, to := split.TextAt+n.Span.From, split.TextAt+n.Span.To
		for at := from; at < to; {
			i := bytes.Index(src[at:to], []byte(begin))
			if i < 0 {
				break
			}
			at += i
			_, end, err := outline.Element(src, at)
			if err == nil && end <= to && bytes.Contains(src[at:end], []byte(anchor)) {
				if l, like := likeness(s, path, at, end, name); like {
					out = append(out, l)
					at = end
					continue
				}
			}
			at++
		}
		return true
	})
	return out
}

// likeness looks at a piece as at a copy of the block.
func likeness(s *shelf.Shelf, path string, from, to int, name string) (Likeness, bool) {
	src, _ := s.Get(path)
	l := Likeness{Doc: path, From: from, To: to, Text: string(src[from:to])}
	if in := s.Info(path); in != nil {
		l.URL = in.URL
	}
	d, ok := declare(s, path, from, to, name)
	if !ok {
		return l, false
	}
	r, err := d.relink()
	if err != nil {
		return l, false
	}
	l.Fits, l.Linked = r.Fits, r.After
	l.Lost = lost(l.Text, r.After)
	return l, 2*len(l.Lost) <= strings.Count(l.Text, "\n")+1
}

// declared is a piece of a document that has been made a copy of a block as it is.
type declared struct {
	s       *shelf.Shelf // with the change
	change  site.Change
	text    []byte // what makes a copy of the piece
	from    int    // and where that stands in the document then
	doc     string // the page that the copy stands on
	address string // and where
}

// scratch is a page on which pieces of blocks are looked at, which have to be the same everywhere.
const scratch = "pages/a-piece-of-a-block.html"

// declare makes a piece of a document a copy of a block. It reports false where that cannot be.
func declare(s *shelf.Shelf, path string, from, to int, name string) (declared, bool) {
	x := expansion.As(s, name)
	src, _ := s.Get(path)
	tag := x.Opening() + " call=" + markup.Quote("@{"+name+" /}") + "}"
	d := declared{text: slices.Concat([]byte(tag), src[from:to], []byte("@{/copy}")), doc: path}
	d.change = site.Change{Path: path, Before: s.Hash(path)}
	d.change.After, d.from = put(s, path, src, from, to, d.text)
	if key := keyAt(d.change.After, d.from); key != "" { // which the call it is said to come from has, too
		own := x.Opening() + " call=" + markup.Quote("@{"+name+" key="+
			markup.Quote(key)+" /}") + "}"
		keyed := slices.Concat([]byte(own), src[from:to], []byte("@{/copy}"))
		d.change.After, d.from = put(s, path, src, from, to, keyed)
	}
	changes := []site.Change{d.change}
	if s.Info(path) == nil {
		d.doc = scratch
		changes = append(changes, site.Change{Path: scratch, After: d.text})
	}
	d.s = s.With(changes)
	nodes, at := outline.Steps(changes[len(changes)-1].After)
	for _, n := range nodes {
		if n.Kind == markup.Copy && (d.doc == scratch || at+n.Span.From == d.from) {
			d.address = n.Container + "/" + n.Step
			return d, true
		}
	}
	return d, false
}

// keyAt is the key of the call or copy at an offset of a document; "" where it has none.
func keyAt(src []byte, from int) string {
	nodes, at := outline.Steps(src)
	for _, n := range nodes {
		if at+n.Span.From == from {
			return n.ArgString("key")
		}
	}
	return ""
}

// put puts a text into the place of a piece of a document. Calls behind it whose steps become others
// by that keep theirs as keys where something is said of them. It gives where the text stands.
func put(s *shelf.Shelf, path string, src []byte, from, to int, with []byte) ([]byte, int) {
	out := slices.Concat(src[:from], with, src[to:])
	out, shift := outline.StableKeys(outline.Speaks(s, path, src), src, out, func(at int) int {
		switch {
		case at < from:
			return at
		case at >= to:
			return at + len(with) - (to - from)
		}
		return -1
	})
	return out, shift(from)
}

// relink links the piece. What stands in a block has no values of one page's own.
func (d *declared) relink() (Relinked, error) {
	return relink(d.s, d.doc, d.address, pieces, d.doc != scratch)
}

// pieces is how many values are tried for each piece.
const pieces = 150

// Place is a piece of a page's document, as a Likeness has it.
type Place struct {
	Doc      string
	From, To int
}

// Adopt makes likenesses of a block copies of it, or links them as Relink does, with what goes by
// that told, those by which most goes first.
func Adopt(s *shelf.Shelf, name string, places []Place, link bool) (site.ChangeSet, []Linked, error) {
	set := site.ChangeSet{}
	if s.Block(name) == nil {
		return set, nil, site.Missing("there is no block %q%s", name, block.Nearest(name, s.Names()))
	}
	// From the end of each page on, so that offsets hold.
	places = slices.Clone(places)
	slices.SortFunc(places, func(a, b Place) int {
		return cmp.Or(cmp.Compare(a.Doc, b.Doc), cmp.Compare(b.From, a.From))
	})
	g := gathered{s: s}
	var out []Linked
	for _, p := range places {
		now := g.now(p.Doc)
		class, holder, _ := site.Classify(p.Doc)
		switch src, there := now.Get(p.Doc); {
		case !there || class != site.PageDoc && class != site.BlockDoc:
			return set, nil, site.Missing("there is no page or block %s", p.Doc)
		case class == site.BlockDoc && (holder == name || edit.Leads(s, name, holder)):
			return set, nil, site.Refuse("%s shows %s, which cannot show it too", name, holder)
		case p.From < 0 || p.To > len(src) || p.From >= p.To:
			return set, nil, changedMeanwhile(p.Doc)
		default:
			if _, end, err := outline.Element(src, p.From); err != nil || end != p.To {
				return set, nil, changedMeanwhile(p.Doc)
			}
		}
		d, ok := declare(now, p.Doc, p.From, p.To, name)
		if !ok {
			return set, nil, changedMeanwhile(p.Doc)
		}
		if !link {
			g.take([]site.Change{d.change})
			continue
		}
		r, err := d.relink()
		if err != nil {
			return set, nil, err
		}
		one := Linked{Spot: Spot{p.Doc, d.address}, Fits: r.Fits, Lost: lost(r.Before, r.After), Now: r.After}
		if d.doc == scratch {
			g.take([]site.Change{d.called(now, p, r)})
		} else {
			g.take([]site.Change{d.change})
			g.take(r.Set.Changes)
			one.URL = s.Info(p.Doc).URL
		}
		out = append(out, one)
	}
	slices.SortStableFunc(out, func(a, b Linked) int { return len(b.Lost) - len(a.Lost) })
	set.Changes = g.changes()
	verb := "Declare %s of %s"
	if link {
		verb = "Link %s to %s"
	}
	set.Title = fmt.Sprintf(verb, counted(len(places), map[bool]string{true: "a piece", false: "a copy"}[link],
		map[bool]string{true: "pieces", false: "copies"}[link]), name)
	return set, out, nil
}

func changedMeanwhile(doc string) error {
	return site.Refuse("the text of %s has changed meanwhile; look again", doc)
}

// called is the document of a block in which the call stands that the piece was linked as.
func (d *declared) called(s *shelf.Shelf, p Place, r Relinked) site.Change {
	out := d.change
	for _, c := range r.Set.Changes {
		if c.Path == scratch {
			src, _ := s.Get(p.Doc)
			out.After, _ = put(s, p.Doc, src, p.From, p.To, c.After)
		}
	}
	return out
}
