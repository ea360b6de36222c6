package values_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"brickshelf/internal/core/edit/values"
	"brickshelf/internal/core/explain"
	"brickshelf/internal/core/render"
	"brickshelf/internal/core/site"
	"brickshelf/internal/core/sitetest"
)

func shown(l *explain.Precedence, field string) (text string, source render.Source) {
	for _, f := range l.Fields {
		if f.Field.Name == field && f.Wins >= 0 {
			return f.Sources[f.Wins].Value.Text, f.Sources[f.Wins].Source
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
		rows := explain.Values(s, name)
		if len(rows) == 0 || len(s.Block(name).Fields) == 0 {
			return
		}
		at := rapid.IntRange(0, len(rows)-1).Draw(t, "row")
		row := rows[at]
		field := rapid.SampledFrom(s.Block(name).Fields).Draw(t, "field")
		if field.Type != "text" && field.Type != "lines" {
			return
		}
		path := row.Page.Page.Path
		word := "set here"
		set, err := values.Set(s, name, []values.Edit{{Doc: path, Address: row.Address, Field: field.Name,
			Text: &word}})
		require.NoError(t, err)
		o := sitetest.New(sitetest.Apply(t, f, set))
		now := explain.Values(o, name)
		require.Len(t, now, len(rows))
		text, source := shown(now[at].Precedence, field.Name)
		require.Equal(t, word, text)
		require.Contains(t, []render.Source{render.FromOverride, render.FromArgument}, source)
		// besides the page, a call may have got a key that others' addresses follow
		for _, c := range set.Changes {
			require.True(t, c.Path == path || now[at].Address != row.Address, c.Path)
		}
		for i, r := range rows {
			if r.Page.Page.Path != path {
				was, _ := shown(r.Precedence, field.Name)
				is, _ := shown(now[i].Precedence, field.Name)
				require.Equal(t, was, is)
			}
		}
		for _, p := range s.PagePaths() {
			if p != path {
				require.Equal(t, string(render.Page(s, p, render.Options{}).HTML),
					string(render.Page(o, p, render.Options{}).HTML), p)
			}
		}

		back, err := values.Set(o, name, []values.Edit{{Doc: path, Address: now[at].Address,
			Field: field.Name}})
		require.NoError(t, err)
		_, source = shown(explain.Values(sitetest.New(sitetest.Apply(t, sitetest.Apply(t, f, set),
			back)), name)[at].Precedence, field.Name)
		require.NotContains(t, []render.Source{render.FromOverride, render.FromArgument}, source)
	})
}

func TestANestedCallGetsAKeyWhenAPageFirstSaysSomethingOfIt(t *testing.T) {
	f := site.Files{
		"blocks/in.html":  []byte("---\nfields: {w: {type: text, default: std}}\n---\n@{=w}"),
		"blocks/out.html": []byte("@{in /}@{in w=second /}"),
		"pages/p.html":    []byte("---\noverrides: {main/out~1/in~2: {w: old}}\n---\n@{out /}"),
	}
	text := "mine"
	set, err := values.Set(sitetest.New(f), "in",
		[]values.Edit{{Doc: "pages/p.html", Address: "main/out~1/in~2", Field: "w", Text: &text},
			{Doc: "pages/p.html", Address: "main/out~1/in~1", Field: "w", Text: &text}})
	require.NoError(t, err)
	require.Equal(t, "Set values of in on 1 page", set.Title)
	require.Equal(t, "---\noverrides: {main/out~1/in: {w: mine}, main/out~1/in-2: {w: mine}}\n---\n@{out /}",
		string(set.Changes[1].After))
	require.Equal(t, `@{in key="in-2" /}@{in key="in" w=second /}`, string(set.Changes[0].After))
	f = sitetest.Apply(t, f, set)
	f["blocks/out.html"] = append([]byte("@{in w=new /}"), f["blocks/out.html"]...)
	require.Equal(t, "newminemine", string(render.Page(sitetest.New(f), "pages/p.html",
		render.Options{}).HTML),
		"what is written before it takes nothing over")
	set, err = values.Set(sitetest.New(f), "in",
		[]values.Edit{{Doc: "pages/p.html", Address: "main/out~1/in-2", Field: "w"}})
	require.NoError(t, err)
	require.Len(t, set.Changes, 1, "taking back needs none")
}

func TestValuesThatCannotBeSet(t *testing.T) {
	f := site.Files{"blocks/a.html": []byte("---\nfields: {n: {type: number}, w: {type: text}}\n---\n@{=w}"),
		"pages/p.html": []byte("@{a /}\n@{a w=x n=2 /}")}
	s := sitetest.New(f)
	text := func(v string) *string { return &v }
	for want, e := range map[string]values.Edit{
		"has no field nn; did you mean n": {Doc: "pages/p.html", Address: "main/a~1", Field: "nn",
			Text: text("1")},
		"no page pages/q.html": {Doc: "pages/q.html", Address: "main/a~1", Field: "n", Text: text("1")},
		"/p/, n: ":             {Doc: "pages/p.html", Address: "main/a~1", Field: "n", Text: text("many")},
	} {
		set, err := values.Set(s, "a", []values.Edit{{Doc: "pages/p.html", Address: "main/a~1", Field: "w",
			Text: text("fine")}, e})
		require.ErrorContains(t, err, want)
		require.Equal(t, 1, err.(values.BadValues)[0].At)
		require.Empty(t, set.Changes, "all or none")
	}
	var many []values.Edit
	for range 40 {
		many = append(many, values.Edit{Doc: "pages/p.html", Address: "main/a~1", Field: "n",
			Text: text("x")})
	}
	_, err := values.Set(s, "a", many)
	require.Len(t, err, 40, "each is told")
	require.ErrorContains(t, err, "and 28 more")
	_, err = values.Set(s, "gone", nil)
	require.ErrorContains(t, err, "no block")
	set, err := values.Set(s, "a", []values.Edit{{Doc: "pages/p.html", Address: "main/a~1", Field: "w",
		Text: text(`a "b"`)}, {Doc: "pages/p.html", Address: "main/a~2", Field: "w"},
		{Doc: "pages/p.html", Address: "main/a~2", Field: "n", Text: text("3")}})
	require.NoError(t, err)
	require.Equal(t, "@{a w=\"a \\\"b\\\"\" /}\n@{a n=3 /}", string(set.Changes[0].After))
	require.Equal(t, "Set values of a on 1 page", set.Title)
}

// Many edits at once, of the same calls and fields too, give the texts that one after the
// other gives.
func TestManyValuesAtOnceAreAsOneAfterTheOther(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		f := sitetest.Site(t)
		s := sitetest.New(f)
		name := rapid.SampledFrom(s.Names()).Draw(t, "block")
		var rows []explain.ValueRow
		for _, r := range explain.Values(s, name) {
			// others can get keys, and are called otherwise then
			if strings.Count(r.Address, "/") == 1 && !strings.HasPrefix(r.Address, "layout/") {
				rows = append(rows, r)
			}
		}
		if len(rows) == 0 {
			return
		}
		var edits []values.Edit
		one := f
		for range rapid.IntRange(1, 6).Draw(t, "edits") {
			row := rapid.SampledFrom(rows).Draw(t, "row")
			e := values.Edit{Doc: row.Page.Page.Path, Address: row.Address,
				Field: rapid.SampledFrom([]string{"title", "logo"}).Draw(t, "field")}
			if word := rapid.SampledFrom([]string{"", "x", "a longer one", `"`}).Draw(t, "word"); word != "" {
				e.Text = &word
			}
			set, err := values.Set(sitetest.New(one), name, []values.Edit{e})
			if err != nil {
				return // no such field
			}
			one = sitetest.Apply(t, one, set)
			edits = append(edits, e)
		}
		set, err := values.Set(s, name, edits)
		require.NoError(t, err)
		all := sitetest.Apply(t, f, set)
		for path, text := range one {
			require.Equal(t, string(text), string(all[path]), path)
		}
	})
}
