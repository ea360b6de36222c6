package markup

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"
)

func listOf(t *testing.T, arg string) any {
	text := Parse([]byte("@{x a=" + arg + " b=2 /}"))
	require.Empty(t, text.Errors, arg)
	require.Len(t, text.Nodes[0].Args, 2, arg)
	return text.Nodes[0].Args[0].Value.JSON
}

func TestTextsOfAListMayStandInBackquotes(t *testing.T) {
	got := listOf(t, "[{\"a\": `Fish&nbsp;&amp; ]} \"chips\"`, \"b\": \"plain ` ]\"},{\"a\":`<b>\\``}]")
	require.Equal(t, []any{
		map[string]any{"a": Spelled{"Fish\u00a0& ]} \"chips\"", "Fish&nbsp;&amp; ]} \"chips\""}, "b": "plain ` ]"},
		map[string]any{"a": Spelled{"<b>`", "<b>`"}},
	}, got)
	require.Equal(t, []any{map[string]any{"a": "Fish\u00a0& ]} \"chips\"", "b": "plain ` ]"},
		map[string]any{"a": "<b>`"}}, Unspelled(got))
	for _, bad := range []string{"[`a]", "[{`a`:1}]", "[`a` `b`]", "[`a`", "[=`a`]", "[`a`}", "{\"a\":`b`,}"} {
		text := Parse([]byte("@{x a=" + bad + " /}"))
		require.NotEmpty(t, text.Errors, bad)
	}
}

func TestTextsThatStayKeepTheirSpelling(t *testing.T) {
	old := listOf(t, "[{\"a\":`&eacute;`,\"b\":\"x\"},{\"a\":`&lt;`,\"c\":[`&gt;`]}]")
	require.Equal(t, "[{\"a\":`&lt;`,\"b\":\"é\"},{\"a\":\"new\",\"c\":[`&gt;`]}]",
		QuoteList(Respell([]any{map[string]any{"a": "<", "b": "é"},
			map[string]any{"a": "new", "c": []any{">"}}}, old)))
}

// What is written as a list is read as that, whatever its texts are.
func TestListsAreReadAsTheyAreWritten(t *testing.T) {
	rapid.Check(t, func(r *rapid.T) {
		text := rapid.SampledFrom([]string{"", "a", "`", "\"", "\\", "&amp;", "<i>", "]", "}", "@{", "\n", "é", "{"})
		var draw func(deep int) any
		draw = func(deep int) any {
			switch kind := rapid.IntRange(0, 3).Draw(r, "kind"); {
			case kind == 0 && deep < 3:
				return []any{draw(deep + 1), draw(deep + 1)}
			case kind == 1 && deep < 3:
				return map[string]any{text.Draw(r, "key"): draw(deep + 1)}
			case kind == 2:
				return SpelledAs(strings.Join(rapid.SliceOfN(text, 1, 4).Draw(r, "written"), ""))
			}
			return strings.Join(rapid.SliceOf(text).Draw(r, "text"), "")
		}
		want := []any{draw(0)}
		require.Equal(t, want, listOf(t, QuoteList(want)))
	})
}
