package copies

import (
	"cmp"
	"fmt"
	"unicode/utf8"

	"brickshelf/internal/core/edit/expansion"
	"brickshelf/internal/core/edit/outline"
	"brickshelf/internal/core/markup"
	"brickshelf/internal/core/merge"
	"brickshelf/internal/core/patch"
	"brickshelf/internal/core/render"
	"brickshelf/internal/core/shelf"
	"brickshelf/internal/core/site"
)

// Choice says what stands in the place of a conflict.
type Choice struct {
	Take Side
	Text string // with OwnWords
}

// Side is whose words are taken.
type Side string

// The words of the copy, of the block, of both one after the other, or others.
const (
	OfCopy   Side = "copy"
	OfBlock  Side = "block"
	OfBoth   Side = "both"
	OwnWords Side = "text"
)

// Merged is what a copy becomes when what its block has become is merged into it: the edits of
// the page (ours), and those of the block (theirs). Seen names what was merged: where the copy
// or the block is another one by then, so is the name.
func Merged(s *shelf.Shelf, path, address string) (pieces []merge.Piece, seen site.Hash, err error) {
	c, err := At(s, path, address)
	if err != nil {
		return nil, "", err
	}
	return c.merged()
}

func (c *Copy) merged() ([]merge.Piece, site.Hash, error) {
	switch {
	case c.Gone:
		return nil, "", site.Refuse("%s is not on the shelf any more, so that there is nothing to bring the copy up to",
			c.Of)
	case c.Standing == Unknown:
		return nil, "", site.Refuse("the copy of %s on %s cannot be merged: %s", c.Of, c.URL, c.Why)
	}
	return merge.Three(c.Base, c.Text, c.Now),
		site.HashOf([]byte(c.Base + "\x00" + c.Text + "\x00" + c.Now + "\x00" + c.NowHead)), nil
}

// Wanted is a copy that is to be brought up to its block, with what was decided of its
// conflicts, in their order.
type Wanted struct {
	Spot
	Choices []Choice
	Seen    site.Hash // what was merged when it was decided
}

// Left is a copy that was left as it is, and why.
type Left struct {
	Spot
	URL       string
	Why       string
	Conflicts int // that nobody decided; 0 where something else is in the way
}

// Update brings copies up to their blocks by a merge, and moves along what they are held
// against. Those with conflicts that are not decided are left as they are, and listed; so are
// those of which nothing is known. It is refused where all are left, or where what was
// decided is not what is to be decided any more.
func Update(s *shelf.Shelf, list []Wanted) (site.ChangeSet, []Left, error) {
	set, left := site.ChangeSet{}, []Left(nil)
	of, done := "", 0
	g := gathered{s: s}
	for _, w := range list {
		now := g.now(w.Doc)
		c, err := At(now, w.Doc, w.Address)
		if err != nil {
			return set, nil, err
		}
		if of = cmp.Or(of, c.Of); of != c.Of {
			of = "their blocks"
		}
		pieces, seen, err := c.merged()
		if err != nil {
			left = append(left, Left{w.Spot, c.URL, err.Error(), 0})
			continue
		}
		if w.Seen != "" && w.Seen != seen {
			return set, nil, site.Refuse("the copy of %s on %s, or the block, has changed since; look at it again", c.Of,
				c.URL)
		}
		with, err := chosen(pieces, w.Choices)
		if err != nil {
			return set, nil, err
		}
		if len(with) < merge.Conflicts(pieces) {
			n := merge.Conflicts(pieces)
			left = append(left, Left{w.Spot, c.URL, "", n})
			continue
		}
		changes, err := c.become(now, merge.Resolved(pieces, with))
		if err != nil {
			return set, nil, err
		}
		g.take(changes)
		done++
	}
	if done == 0 && len(left) > 0 && left[0].Conflicts > 0 {
		return set, left, nil // there is something to decide
	}
	if done == 0 && len(left) > 0 {
		return set, nil, site.Refuse("%s", left[0].Why)
	}
	set.Changes = g.changes()
	set.Title = fmt.Sprintf("Bring %s up to %s", counted(done, "a copy", "copies"), of)
	return set, left, nil
}

// chosen is the text for each conflict of which something was decided.
func chosen(pieces []merge.Piece, choices []Choice) ([]string, error) {
	var out []string
	for _, p := range pieces {
		if !p.Conflict || len(out) == len(choices) {
			continue
		}
		switch c := choices[len(out)]; c.Take {
		case OfCopy:
			out = append(out, p.Ours)
		case OfBlock:
			out = append(out, p.Theirs)
		case OfBoth:
			out = append(out, p.Ours+p.Theirs)
		case OwnWords:
			out = append(out, c.Text)
		default:
			return nil, site.Refuse("%q is no way to settle a conflict", c.Take)
		}
	}
	return out, nil
}

// headOf is the tag of a copy as one of the block as it is.
func headOf(x *expansion.Expansion, n *markup.Node) string {
	head := x.Opening()
	for _, name := range []string{"key", "call"} {
		if v := n.ArgString(name); v != "" {
			head += " " + name + "=" + markup.Quote(v)
		}
	}
	return head + "}"
}

// become gives a copy another text, as a copy of its block as it is now.
func (c *Copy) become(s *shelf.Shelf, text string) ([]site.Change, error) {
	g := s.Info(c.Page).Page
	src, _ := s.Get(c.Page)
	x := expansion.As(s, c.Of)
	x.Text, x.Starts = []byte(text), c.starts
	var after []byte
	var err error
	if held := heldBy(s, c.Page, c.Address, render.Copied, markup.Copy); c.Holder != "" && held != nil {
		n := held.node
		return append([]site.Change{held.put(s, headOf(x, n)+text+"@{/copy}")}, kept(s, x)...), nil
	}
	if g.Copies[c.Address] != nil {
		if !utf8.ValidString(text) {
			return nil, site.Refuse("the text of %s is not UTF-8 and cannot be kept in the front matter", c.Address)
		}
		for _, w := range append(x.Says()[1:], [2]string{"text", text}) {
			var value any
			if w[1] != "" || w[0] == "text" {
				value = w[1]
			}
			if err == nil {
				src, err = patch.Set(c.Page, src, []string{"copies", c.Address, w[0]}, value)
			}
		}
		after = src
	} else {
		n := outline.Find(g, c.Address)
		after = splice(src, g.Split.TextAt, markup.Span{From: n.Head.From, To: n.Tail.From},
			headOf(x, n)+text)
	}
	if err != nil {
		return nil, err
	}
	return append([]site.Change{{Path: c.Page, Before: s.Hash(c.Page), After: after}}, kept(s, x)...), nil
}
