package values

import (
	"bytes"
	"fmt"
	"strings"

	"brickshelf/internal/core/block"
	"brickshelf/internal/core/edit"
	"brickshelf/internal/core/markup"
	"brickshelf/internal/core/patch"
	"brickshelf/internal/core/shelf"
	"brickshelf/internal/core/site"
)

// BringBack gives a block a field again that it had: with its declaration and, wherever
// the markup around it is what it was, in its place. earlier are texts of the block's
// document, the newest first; where none of them has the field it comes back as a plain
// text. Values that documents kept for it count again.
func BringBack(s *shelf.Shelf, name, field string, earlier [][]byte) (site.ChangeSet, error) {
	set := site.ChangeSet{Title: fmt.Sprintf("Bring the field %s of %s back", field, name)}
	b := s.Block(name)
	if b == nil {
		return set, site.Missing("there is no block %q%s", name, block.Nearest(name, s.Names()))
	}
	if err := freeField(b, field); err != nil {
		return set, err
	}
	for _, e := range earlier {
		was, _ := block.Parse(name, b.Path, e, block.NewReader())
		if was == nil || was.Field(field) < 0 {
			continue
		}
		y, problem := site.ParseYAML(was.Split.Head, b.Path, 1)
		if problem != nil || y.Get("fields") == nil || y.Get("fields").Get(field) == nil {
			continue
		}
		src := patch.Apply(edit.TextOf(s, b.Path), placesOf(was, field, b))
		src, err := patch.Set(b.Path, src, []string{"fields", field}, patch.Of(y.Get("fields").Get(field)))
		if err == nil {
			src, err = givenAgain(was, b, src, field)
		}
		if err != nil {
			return set, err
		}
		if _, problems := block.Parse(name, b.Path, src, block.NewReader()); len(problems) > 0 {
			continue // what it was does not fit the block as it is
		}
		set.Changes = []site.Change{{Path: b.Path, Before: s.Hash(b.Path), After: src}}
		return set, nil
	}
	added, err := AddField(s, name, field, block.Text, "")
	set.Changes = added.Changes
	return set, err
}

// around is how many bytes before and behind a spot of a markup must be what they were for
// the spot to be known again: better more, so that it is the only such spot, but where they
// have changed a few must do.
var around = [...]int{40, 10}

// placesOf puts a field into a block's markup where it stood in an earlier one: at spots
// that show, with what stood around them, what RemoveField has left there.
func placesOf(was *block.Block, field string, now *block.Block) []patch.Replacement {
	f := was.Fields[was.Field(field)]
	var stood, list []patch.Replacement
	markup.Walk(was.Text.Nodes, func(n *markup.Node) bool {
		if n.Kind == markup.Value && len(n.Expr.Terms) == 1 && n.Expr.Terms[0].Slot > 0 &&
			strings.Join(n.Expr.Terms[0].Path, ".") == field {
			stood = append(stood, patch.Put(n.Span.From, n.Span.To,
				inPlace(f, n.Context, was.Split.Text[n.Span.To:])))
		}
		return true
	})
	old, text := was.Split.Text, now.Split.Text
	gone := patch.Apply(old, stood)
	shift, end := 0, 0
	for _, p := range stood {
		at := p.From + shift // where it stood, in gone
		shift += len(p.With) - (p.To - p.From)
		from := at
		if !bytes.Equal(text, gone) {
			from = sameSpot(gone, at, len(p.With), text)
		}
		if from >= end {
			list = append(list, patch.Put(now.Split.TextAt+from, now.Split.TextAt+from+len(p.With),
				string(old[p.From:p.To])))
			end = from + len(p.With)
		}
	}
	return list
}

// sameSpot finds a stretch of one text in another by what stands around it; -1 where that
// is not there, or more than once.
func sameSpot(a []byte, at, length int, b []byte) int {
	for _, n := range around {
		start := max(0, at-n)
		piece := a[start:min(len(a), at+length+n)]
		if i := bytes.Index(b, piece); i >= 0 && bytes.Count(b, piece) == 1 {
			return i + at - start
		}
	}
	return -1
}
