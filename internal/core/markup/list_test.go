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
	old := "[{\"a\":`x&amp;y`,\"b\":\"1\"},{\"a\":\"x&y\",\"b\":\"2\"},{\"a\":`x&#38;y`,\"b\":\"3\",\"c\":[`&gt;`]}]"
	item := func(a, b string) map[string]any { return map[string]any{"a": a, "b": b} }
	third := item("x&y", "3")
	third["c"] = []any{">"}
	for want, list := range map[string][]any{
		old: {item("x&y", "1"), item("x&y", "2"), third},
		"[{\"a\":`x&#38;y`,\"b\":\"3\",\"c\":[`&gt;`]},{\"a\":\"x&y\",\"b\":\"2\"},{\"a\":`x&amp;y`,\"b\":\"1\"}]": {
			third, item("x&y", "2"), item("x&y", "1")},
		"[{\"a\":`x&amp;y`,\"b\":\"new\"},{\"a\":\"new\",\"b\":\"2\"}]":   {item("x&y", "new"), item("new", "2")},
		"[{\"a\":\"z\",\"b\":\"1\"},\"x\",4,{\"a\":\"more\",\"b\":\"\"}]": {item("z", "1"), "x", 4, item("more", "")},
	} {
		require.Equal(t, want, QuoteList(Respell(list, listOf(t, old))))
	}
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
