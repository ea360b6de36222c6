package readback_test

import (
	"html"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"brickshelf/internal/core/block"
	"brickshelf/internal/core/edit/readback"
	"brickshelf/internal/core/markup"
)

// What is put where a template has markers is read back from there.
func TestWhatWasPutInIsReadBack(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		var template, text strings.Builder
		var fields []*block.Field
		var values []string
		for i := range rapid.IntRange(1, 5).Draw(t, "fields") {
			f := &block.Field{Name: "f", Type: rapid.SampledFrom([]block.Type{block.Text, block.Lines, block.Link,
				block.Number, block.Rich}).Draw(t, "type")}
			value := rapid.SampledFrom(map[block.Type][]string{block.Text: {"", "a & b", `"q"`, "é"}, block.Lines: {"a\nb", "a"},
				block.Link: {"/x/", "/a/?b=1&c=2"}, block.Number: {"-3", "1.5"}, block.Rich: {"<b>x</b> &amp; y"}}[f.Type]).Draw(t, "value")
			shown := html.EscapeString(value)
			inCall := f.Type != block.Rich && rapid.Bool().Draw(t, "in a call")
			switch {
			case inCall:
				shown = markup.Quote(value)
				shown = shown[1 : len(shown)-1]
			case f.Type == block.Lines:
				shown = strings.ReplaceAll(shown, "\n", "<br>\n")
			case f.Type == block.Rich:
				shown = value
			}
			around := [2]string{"<p>", "</p>\n"}
			if inCall {
				around = [2]string{`@{card name="`, `" /}` + "\n"}
			}
			template.WriteString(around[0] + readback.Marker(f, i) + around[1])
			text.WriteString(around[0] + shown + around[1])
			fields, values = append(fields, f), append(values, value)
		}
		require.True(t, readback.Marked(template.String()))
		found := readback.Collect(template.String(), text.String())
		require.NotNil(t, found, "%s\n%s", template.String(), text.String())
		for i, f := range fields {
			got, ok := readback.Value(found[i], f)
			require.True(t, ok)
			require.Equal(t, values[i], got, "%s\n%s", template.String(), text.String())
		}
		require.Nil(t, readback.Collect(template.String(), text.String()+"more"))
	})
}

func TestPlacesOfOneValueHaveToAgree(t *testing.T) {
	f := &block.Field{Name: "n", Type: block.Text}
	got, ok := readback.Value([]string{"a%20b", "a b"}, f)
	require.True(t, ok, "one of them is a part of an address")
	require.Equal(t, "a b", got)
	_, ok = readback.Value([]string{"a", "b"}, f)
	require.False(t, ok)
	_, ok = readback.Value(nil, f)
	require.False(t, ok)
	require.Empty(t, readback.Marker(&block.Field{Type: block.Switch}, 1))
	require.False(t, readback.Marked("plain"))
}
