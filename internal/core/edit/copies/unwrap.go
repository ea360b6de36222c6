package copies

import (
	"bytes"
	"slices"

	"brickshelf/internal/core/edit/outline"
	"brickshelf/internal/core/markup"
	"brickshelf/internal/core/patch"
	"brickshelf/internal/core/render"
	"brickshelf/internal/core/shelf"
	"brickshelf/internal/core/site"
)

// Unwrap takes the copies of a block that a change set makes in the texts of pages
// out of their tags, so that only what they show is left. Where a page would not
// stay as it is by that, as where a copy loads a style or what stands behind it
// would have another address, the copy is kept.
func Unwrap(s *shelf.Shelf, set *site.ChangeSet, name string) {
	for i := range set.Changes {
		c := &set.Changes[i]
		if class, _, _ := site.Classify(c.Path); class != site.PageDoc || c.Delete {
			continue
		}
		was := render.Page(s, c.Path, render.Options{})
		before, _ := s.Get(c.Path)
		old := map[string]bool{} // the texts of copies that stood there before
		for _, n := range copiesIn(before, name) {
			old[textOf(before, n)] = true
		}
		kept := 0 // copies that are looked at already
		for {
			list := copiesIn(c.After, name)
			if kept >= len(list) {
				break
			}
			next, ok := unwrapped(c.After, list[kept])
			if ok = ok && !old[textOf(c.After, list[kept])]; ok {
				is := render.Page(s.With([]site.Change{{Path: c.Path, Before: c.Before, After: next}}),
					c.Path,
					render.Options{})
				ok = is != nil && bytes.Equal(is.HTML, was.HTML) && slices.Equal(is.Faults, was.Faults)
			}
			if ok {
				c.After = next
			} else {
				kept++
			}
		}
	}
}

// textOf is the text of a node of a document.
func textOf(src []byte, n *markup.Node) string {
	split, _ := site.Cut(src)
	return string(split.Text[n.Span.From:n.Span.To])
}

// copiesIn lists the copies of a block in a page's text.
func copiesIn(src []byte, name string) []*markup.Node {
	nodes, _ := outline.Steps(src)
	return slices.DeleteFunc(nodes, func(n *markup.Node) bool {
		return n.Kind != markup.Copy || n.Name != name
	})
}

// unwrapped puts the content of a copy in its place. It reports false where that
// refers to what the copy encloses.
func unwrapped(src []byte, n *markup.Node) ([]byte, bool) {
	split, _ := site.Cut(src)
	at := split.TextAt
	patches := []patch.Replacement{patch.Put(at+n.Head.From, at+n.Head.To, ""), patch.Put(at+n.Tail.From,
		at+n.Tail.To, "")}
	ok := true
	markup.Walk(n.Body, func(in *markup.Node) bool {
		if in.Kind == markup.Inner {
			hidden, _ := in.Arg("hidden")
			ok = ok && hidden.Text != "true"
			patches = append(patches, patch.Put(at+in.Head.From, at+in.Head.To, ""),
				patch.Put(at+in.Tail.From, at+in.Tail.To, ""))
		}
		return in.Kind != markup.Copy
	})
	return patch.Apply(src, patches), ok
}
