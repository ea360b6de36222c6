package edit_test

import (
	"testing"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"brickshelf/internal/core/edit"
	"brickshelf/internal/core/render"
	"brickshelf/internal/core/site"
	"brickshelf/internal/core/sitetest"
)

func shown(l *render.Ladder, field string) (text string, rung render.Rung) {
	for _, f := range l.Fields {
		if f.Field.Name == field && f.Wins >= 0 {
			return f.Rungs[f.Wins].Value.Text, f.Rungs[f.Wins].Rung
		}
	}
	return "", ""
}

// What is set shows there and nowhere else, and taking it back leaves what would have
// shown without it.
func TestValuesAreSetWhereTheyAreMeant(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		f := sitetest.Site(t)
		s := sitetest.New(f)
		name := rapid.SampledFrom(s.Names()).Draw(t, "block")
		rows := s.Values(name)
		if len(rows) == 0 || len(s.Block(name).Fields) == 0 {
			return
		}
		row := rapid.SampledFrom(rows).Draw(t, "row")
		field := rapid.SampledFrom(s.Block(name).Fields).Draw(t, "field")
		if field.Type != "text" && field.Type != "lines" {
			return
		}
		path := row.Page.Page.Path
		word := "set here"
		set, err := edit.SetValues(s, name, []edit.ValueEdit{{Doc: path, Address: row.Address, Field: field.Name, Text: &word}})
		require.NoError(t, err)
		o := sitetest.New(apply(t, f, set))
		text, rung := shown(o.Ladder(path, row.Address, render.Options{}), field.Name)
		require.Equal(t, word, text)
		require.Contains(t, []render.Rung{render.FromOverride, render.FromArgument}, rung)
		require.LessOrEqual(t, len(set.Changes), 1)
		after := map[string]string{}
		for _, r := range o.Values(name) {
			text, _ := shown(r.Ladder, field.Name)
			after[r.Page.Page.Path+" "+r.Address] = text
		}
		for _, r := range rows {
			if was, _ := shown(r.Ladder, field.Name); r.Page.Page.Path != path {
				require.Equal(t, was, after[r.Page.Page.Path+" "+r.Address])
			}
		}

		back, err := edit.SetValues(o, name, []edit.ValueEdit{{Doc: path, Address: row.Address, Field: field.Name}})
		require.NoError(t, err)
		l := sitetest.New(apply(t, apply(t, f, set), back)).Ladder(path, row.Address, render.Options{})
		for _, fl := range l.Fields {
			if fl.Field.Name == field.Name && fl.Wins >= 0 {
				got := fl.Rungs[fl.Wins].Rung
				require.NotContains(t, []render.Rung{render.FromOverride, render.FromArgument}, got)
			}
		}
	})
}

func TestValuesThatCannotBeSet(t *testing.T) {
	f := site.Files{"blocks/a.html": []byte("---\nfields: {n: {type: number}, w: {type: text}}\n---\n@{=w}"), "pages/p.html": []byte("@{a /}\n@{a w=x n=2 /}")}
	s := sitetest.New(f)
	text := func(v string) *string { return &v }
	for want, e := range map[string]edit.ValueEdit{
		"has no field nn; did you mean n": {Doc: "pages/p.html", Address: "main/a~1", Field: "nn", Text: text("1")},
		"no page pages/q.html":            {Doc: "pages/q.html", Address: "main/a~1", Field: "n", Text: text("1")},
		"/p/, n: ":                        {Doc: "pages/p.html", Address: "main/a~1", Field: "n", Text: text("many")},
	} {
		set, err := edit.SetValues(s, "a", []edit.ValueEdit{{Doc: "pages/p.html", Address: "main/a~1", Field: "w", Text: text("fine")}, e})
		require.ErrorContains(t, err, want)
		require.Equal(t, 1, err.(edit.BadValues)[0].At)
		require.Empty(t, set.Changes, "all or none")
	}
	var many []edit.ValueEdit
	for range 40 {
		many = append(many, edit.ValueEdit{Doc: "pages/p.html", Address: "main/a~1", Field: "n", Text: text("x")})
	}
	_, err := edit.SetValues(s, "a", many)
	require.Len(t, err, 40, "each is told")
	require.ErrorContains(t, err, "and 28 more")
	_, err = edit.SetValues(s, "gone", nil)
	require.ErrorContains(t, err, "no block")
	set, err := edit.SetValues(s, "a", []edit.ValueEdit{{Doc: "pages/p.html", Address: "main/a~1", Field: "w", Text: text(`a "b"`)}, {Doc: "pages/p.html", Address: "main/a~2", Field: "w"}, {Doc: "pages/p.html", Address: "main/a~2", Field: "n", Text: text("3")}})
	require.NoError(t, err)
	require.Equal(t, "@{a w=\"a \\\"b\\\"\" /}\n@{a n=3 /}", string(set.Changes[0].After))
	require.Equal(t, "Set values of a on 1 page", set.Title)
}
