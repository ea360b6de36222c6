package values_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"brickshelf/internal/core/block"
	"brickshelf/internal/core/edit/values"
	"brickshelf/internal/core/markup"
)

func TestSettingAnArgumentChangesNothingElse(t *testing.T) {
	text := func(v string) *string { return &v }
	for _, c := range []struct {
		src, field string
		kind       block.Type
		value      *string
		want       string
	}{
		{"a @{c^ /} b", "t", block.Text, text(`say "x"`), `a @{c t="say \"x\"" /} b`},
		{"a @{c^/} b", "t", block.Text, text("x"), `a @{c t="x" /} b`},
		{"@{c^ t='old'  n=2}é@{/c}", "t", block.Text, text("neu é"), `@{c t="neu é"  n=2}é@{/c}`},
		{"@{c^ n=2 }x@{/c}", "n", block.Number, text("3.5"), "@{c n=3.5 }x@{/c}"},
		{"@{c^}x@{/c}", "on", block.Switch, text("true"), "@{c on=true}x@{/c}"},
		{"@{c a=1\n  t=\"x\"^\n  n=2 /}", "t", block.Text, nil, "@{c a=1\n  n=2 /}"},
		{"@{c^ /}", "t", block.Text, nil, "@{c /}"},
		{"---\ntitle: é\n---\n@{o}@{c^ /}@{/o}", "to", block.Link, text(`{"to":"/x/","new_tab":true}`),
			"---\ntitle: é\n---\n@{o}@{c to={\"new_tab\":true,\"to\":\"/x/\"} /}@{/o}"},
	} {
		at := strings.IndexByte(c.src, '^')
		src := []byte(strings.Replace(c.src, "^", "", 1))
		got, err := values.SetArgument(src, at, &block.Field{Name: c.field, Type: c.kind}, c.value)
		require.NoError(t, err, c.src)
		require.Equal(t, c.want, string(got))
	}
	_, err := values.SetArgument([]byte("@{c /}"), 3, &block.Field{Name: "n", Type: block.Number},
		text("many"))
	require.ErrorContains(t, err, "n is a number and cannot be")
	_, err = values.SetArgument([]byte("plain"), 3, &block.Field{Name: "n"}, text("x"))
	require.ErrorContains(t, err, "no call stands here")
}

// What is set is read back as it was typed, whatever it holds.
func TestArgumentsAreReadBack(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		value := rapid.StringOf(rapid.OneOf(rapid.Rune(),
			rapid.SampledFrom([]rune("\"\\'}{@=/\n\t ")))).Draw(t, "value")
		src, err := values.SetArgument([]byte(`<p title="@{c a='1' /}">`), 13,
			&block.Field{Name: "t", Type: block.Text}, &value)
		require.NoError(t, err)
		require.Empty(t, markup.Parse(src).Errors)
		call := values.CallAt(src, 13)
		require.Equal(t, []values.Argument{{Name: "a", Text: "1"}, {Name: "t", Text: value}}, call.Arguments)
		back, err := values.SetArgument(src, 13, &block.Field{Name: "t"}, nil)
		require.NoError(t, err)
		require.Equal(t, `<p title="@{c a='1' /}">`, string(back))
	})
}

func TestWhatAListSaysStillKeepsItsSpelling(t *testing.T) {
	src := []byte("@{c links=[{\"label\": `a&nbsp;b`}, {\"label\": `c&amp;d`}] /}")
	require.JSONEq(t, "[{\"label\": \"a\u00a0b\"}, {\"label\": \"c&d\"}]", values.CallAt(src, 3).Arguments[0].Text)
	f := &block.Field{Name: "links", Type: block.List, Fields: []*block.Field{{Name: "label", Type: block.Text}}}
	value := "[{\"label\": \"c&d\"}, {\"label\": \"new\"}]"
	got, err := values.SetArgument(src, 3, f, &value)
	require.NoError(t, err)
	require.Equal(t, "@{c links=[{\"label\":`c&amp;d`},{\"label\":\"new\"}] /}", string(got))
}
