package values

import (
	"slices"

	"brickshelf/internal/core/block"
	"brickshelf/internal/core/place"
	"brickshelf/internal/core/render"
	"brickshelf/internal/core/shelf"
	"brickshelf/internal/core/site"
)

// Entered is a value of a field, as a person types it, the way it is written: its rich texts
// are put in order. See block.InOrder.
func Entered(f *block.Field, value string) string {
	if !structured(f, value) {
		return block.InOrder(f, value).(string)
	}
	y, problem := site.ParseYAML([]byte(value), "", 1)
	if problem != nil {
		return value // which is refused where it is written
	}
	if was, now := typedRaw(block.Raw(y)), typedRaw(block.InOrder(f, block.Raw(y))); was != now {
		return now
	}
	return value
}

// Enter is Set with values as somebody enters them; see Entered.
func Enter(s *shelf.Shelf, name string, edits []Edit) (site.ChangeSet, error) {
	if b := s.Block(name); b != nil {
		edits = slices.Clone(edits)
		for i, e := range edits {
			if at := b.Field(e.Field); at >= 0 && e.Text != nil {
				text := Entered(b.Fields[at], *e.Text)
				edits[i].Text = &text
			}
		}
	}
	return Set(s, name, edits)
}

// FieldAt is the field whose value stands under keys of a document's YAML, where text is the
// document as it is being edited; nil where no field has its value there.
func FieldAt(s *shelf.Shelf, path, text string, keys []string) *block.Field {
	class, name, _ := site.Classify(path)
	key := func(i int) string {
		if i < len(keys) {
			return keys[i]
		}
		return ""
	}
	var among []*block.Field
	named := key(1)
	switch {
	case class == site.PageDoc && key(0) == "overrides" && len(keys) == 3:
		named = key(2)
		for _, p := range render.Placements(s, path) {
			if p.Address == key(1) {
				among, _ = s.Signature(p.Block)
			}
		}
	case class == site.PageDoc && key(0) == "fields" && len(keys) == 2:
		page, _ := place.ParsePage("", path, "", []byte(text))
		if l := s.Layout(page.Layout); l != nil {
			among = l.PageFields
		}
	case class == site.RuleDoc && key(0) == "set" && len(keys) == 2:
		rule, _ := place.ParseRule(name, path, []byte(text))
		among, _ = s.Signature(rule.Block)
	case class == site.BlockDoc && key(0) == "fields" && key(2) == "default" && len(keys) == 3:
		b, _ := block.Parse(name, path, []byte(text), block.NewReader())
		among = b.Fields
	}
	if i := slices.IndexFunc(among, func(f *block.Field) bool { return f.Name == named }); i >= 0 {
		return among[i]
	}
	return nil
}
