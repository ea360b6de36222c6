package copies

import (
	"bytes"
	"cmp"
	"fmt"
	"slices"
	"strings"

	"brickshelf/internal/core/block"
	"brickshelf/internal/core/edit/outline"
	"brickshelf/internal/core/markup"
	"brickshelf/internal/core/shelf"
	"brickshelf/internal/core/site"
)

// Likeness is a piece of a page's own text that looks like what a block shows, and is neither a
// placement of it nor a copy.
type Likeness struct {
	Doc, URL string
	From, To int // byte offsets in the page's document
	Text     string
	Linked   string   // what would stand there, with what fits fields as its values
	Fits     []Fit    // those values
	Lost     []string // lines of the piece that the block has no place for
}

// maxLikenesses is how many likenesses are told of.
const maxLikenesses = 1000

// Alike finds the likenesses of a block on all pages, those first of which least would be lost.
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
	paths := s.PagePaths()
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
	in := s.Info(path)
	g := in.Page
	src, _ := s.Get(path)
	var out []Likeness
	markup.Walk(g.Text.Nodes, func(n *markup.Node) bool {
		if n.Kind != markup.Literal || n.Loops > 0 {
			return n.Kind != markup.Copy && n.Kind != markup.Call
		}
		from, to := g.Split.TextAt+n.Span.From, g.Split.TextAt+n.Span.To
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
	l := Likeness{Doc: path, URL: s.Info(path).URL, From: from, To: to, Text: string(src[from:to])}
	declared, address := declare(s, path, src, from, to, name)
	if address == "" {
		return l, false
	}
	o := s.With([]site.Change{{Path: path, Before: s.Hash(path), After: declared}})
	r, err := Relink(o, path, address)
	if err != nil {
		return l, false
	}
	l.Fits, l.Linked = r.Fits, r.After
	l.Lost = lost(l.Text, r.After)
	return l, 2*len(l.Lost) <= strings.Count(l.Text, "\n")+1
}

// declare writes a page's document in which a piece is a copy of a block as it is, and the copy's
// address; "" where that cannot be.
func declare(s *shelf.Shelf, path string, src []byte, from, to int, name string) ([]byte, string) {
	x := &Expansion{Block: name, Base: s.Hash("blocks/" + name + ".html"), Style: s.Hash("blocks/" + name +
		".css"), Behaviour: s.Hash("blocks/" + name + ".js")}
	tag := opening(name, x.Base, x.Style, x.Behaviour) + " call=" + markup.Quote("@{"+name+" /}") + "}"
	out := slices.Concat(src[:from], []byte(tag), src[from:to], []byte("@{/copy}"), src[to:])
	nodes, at := outline.Steps(out)
	for _, n := range nodes {
		if at+n.Span.From == from && n.Kind == markup.Copy {
			return out, n.Container + "/" + n.Step
		}
	}
	return nil, ""
}

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
		if now.Info(p.Doc) == nil {
			return set, nil, site.Missing("there is no page %s", p.Doc)
		}
		src, _ := now.Get(p.Doc)
		if p.From < 0 || p.To > len(src) || p.From >= p.To {
			return set, nil, site.Refuse("the text of %s has changed meanwhile; look again", p.Doc)
		}
		_, end, err := outline.Element(src, p.From)
		after, address := declare(now, p.Doc, src, p.From, p.To, name)
		if err != nil || end != p.To || address == "" {
			return set, nil, site.Refuse("the text of %s has changed meanwhile; look again", p.Doc)
		}
		g.take([]site.Change{{Path: p.Doc, Before: now.Hash(p.Doc), After: after}})
		if !link {
			continue
		}
		now = g.now(p.Doc)
		r, err := Relink(now, p.Doc, address)
		if err != nil {
			return set, nil, err
		}
		g.take(r.Set.Changes)
		out = append(out, Linked{Spot: Spot{p.Doc, address}, URL: s.Info(p.Doc).URL, Fits: r.Fits,
			Lost: lost(r.Before, r.After), Now: r.After})
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
