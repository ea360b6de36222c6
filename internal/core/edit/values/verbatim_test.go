package values_test

import (
	"testing"

	"github.com/stretchr/testify/require"

	"brickshelf/internal/core/block"
	"brickshelf/internal/core/edit/values"
	"brickshelf/internal/core/explain"
	"brickshelf/internal/core/shelf"
	"brickshelf/internal/core/site"
	"brickshelf/internal/core/sitetest"
)

// Whatever a rich text says is written as it was typed, by whichever way it gets there;
// what of it is not shown is said, and what is shown is put in order.
func TestRichTextsAreWrittenAsTheyWereTyped(t *testing.T) {
	const loose, shows = "<p onclick=x()>a <b>b", "<p>a <b>b</b></p>"
	list := `[{"x":"` + loose + `"}]`
	one := func(field, text string, at ...string) func(s *shelf.Shelf) (site.ChangeSet, error) {
		return func(s *shelf.Shelf) (site.ChangeSet, error) {
			var edits []values.Edit
			for _, a := range at {
				edits = append(edits, values.Edit{Doc: "pages/a.html", Address: a, Field: field, Text: &text})
			}
			return values.Set(s, "b", edits)
		}
	}
	own := `@{b r="` + loose + `" /}`
	for name, c := range map[string]struct {
		page, address, field string
		do                   func(s *shelf.Shelf) (site.ChangeSet, error)
	}{
		"an override":        {"", "bar/rule:r", "r", one("r", loose, "bar/rule:r")},
		"an argument":        {"@{b /}", "main/b~1", "r", one("r", loose, "main/b~1")},
		"a list of its own":  {"", "bar/rule:r", "s", one("s", list, "bar/rule:r")},
		"a list as argument": {"@{b /}", "main/b~1", "s", one("s", list, "main/b~1")},
		"a default": {"@{b /}", "main/b~1", "r", func(s *shelf.Shelf) (site.ChangeSet, error) {
			return values.MakeDefault(s, "b", "r", loose, false)
		}},
		"a default in place of a page's own": {own, "main/b~1", "r", func(s *shelf.Shelf) (site.ChangeSet,
			error) {
			return values.MakeDefault(s, "b", "r", loose, false)
		}},
		"a rule's value": {"", "bar/rule:r", "r", func(s *shelf.Shelf) (site.ChangeSet, error) {
			return values.RaiseToRule(s, "r", "r", loose)
		}},
		"a new field": {"@{b /}", "main/b~1", "new", func(s *shelf.Shelf) (site.ChangeSet, error) {
			return values.AddField(s, "b", "new", block.Rich, loose)
		}},
		"another name": {own, "main/b~1", "other", func(s *shelf.Shelf) (site.ChangeSet, error) {
			return values.RenameField(s, "b", "r", "other")
		}},
		"kept by pages when the default changes": {"@{b /}", "main/b~1", "d",
			func(s *shelf.Shelf) (site.ChangeSet, error) {
				return values.MakeDefault(s, "b", "d", "new", true)
			}},
	} {
		f := site.Files{
			"site.yaml":      []byte("format: brickshelf/1\n"),
			"layouts/l.html": []byte("@{region bar /}@{region main /}"),
			"blocks/b.html": []byte("---\nfields:\n  r: {type: rich}\n  d: {type: rich, default: " + loose +
				"}\n  s: {type: list, fields: {x: {type: rich}, y: {type: text, default: y}}}\n---\n@{=r}"),
			"rules/r.yaml": []byte("block: b\nregion: bar\non: [all]\n"),
			"pages/a.html": []byte("---\nlayout: l\n---\n" + c.page),
		}
		set, err := c.do(sitetest.New(f))
		require.NoError(t, err, name)
		l := explain.PrecedenceAt(sitetest.New(sitetest.Apply(t, f, set)), "pages/a.html", c.address, false)
		for _, field := range l.Fields {
			if field.Field.Name != c.field {
				continue
			}
			won := field.Sources[field.Wins]
			require.Contains(t, won.Unshown, "onclick of <p>", name)
			written, shown := won.Written, won.Value
			if c.field == "s" {
				written, shown = written.Items()[0], shown.Items()[0]
				require.NotContains(t, written.More.Group, "y", name)
				written, shown = written.More.Group["x"], shown.More.Group["x"]
			}
			require.Equal(t, loose, written.Text, name)
			require.Equal(t, shows, shown.Text, name)
		}
	}
}
