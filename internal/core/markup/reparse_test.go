package markup

import (
	"encoding/json"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"
)

// told writes all that was read from a text.
func told(t *testing.T, x *Text) string {
	b, err := json.MarshalIndent(map[string]any{"src": string(x.Src), "contexts": x.Contexts(),
		"tidy": x.Tidy(), "nodes": x.Nodes, "errors": x.Errors}, "", " ")
	require.NoError(t, err)
	return string(b)
}

// likeParse holds Reparse to Parse, for one edit after another.
func likeParse(t *testing.T, first string, edited ...string) {
	old := Parse([]byte(first))
	for _, src := range edited {
		before := told(t, old)
		again := Reparse(old, []byte(src))
		require.Equal(t, told(t, Parse([]byte(src))), told(t, again), "%q edited to %q", old.Src, src)
		require.Equal(t, before, told(t, old), "the old text is as it was")
		old = again
	}
}

func TestReparseReadsWhatParseReads(t *testing.T) {
	parts := []string{
		"a", " ", "\n", "@", "@@{", "}", "<p>", "</p>", `<a href="`, `"`, "<!--", "-->", "<script>",
		"</script>", "@{x /}", "@{x}", "@{/x}", `@{y key="k" /}`,
		`@{x a=(b or "c") /}`, "@{=title}", "@{when a}", "@{else}", "@{/when}", "@{each a as b}", "@{/each}",
		"@{fill side}", "@{/fill}",
		`@{copy of="x" base="h"}`, "@{/copy}", "@{inner}", "@{/inner}", "@{# note }", "@{",
		`@{x a=[{"b":"}"}] /}`,
	}
	draw := func(r *rapid.T, most int) string {
		return strings.Join(rapid.SliceOfN(rapid.SampledFrom(parts), 0, most).Draw(r, "parts"), "")
	}
	rapid.Check(t, func(r *rapid.T) {
		text := draw(r, 20)
		first := text
		var edited []string
		for range rapid.IntRange(1, 4).Draw(r, "edits") {
			from := rapid.IntRange(0, len(text)).Draw(r, "from")
			to := rapid.IntRange(from, min(len(text), from+8)).Draw(r, "to")
			text = text[:from] + draw(r, 3) + text[to:]
			edited = append(edited, text)
		}
		likeParse(t, first, edited...)
	})
}

func TestReparseKeepsWhatIsRemembered(t *testing.T) {
	old := Parse([]byte("<p>one</p>@{a /}<p>two</p>@{b /}<p>three</p>@{a /}<p>four</p>"))
	old.Contexts()
	for _, n := range old.Nodes {
		n.Memo.Store(&Memo{Value: n.Step})
	}
	remembered := func(src string) (out []string) {
		for _, n := range Reparse(old, []byte(src)).Nodes {
			if m := n.Memo.Load(); n.Kind == Call && m != nil {
				require.Equal(t, n.Step, m.Value)
				out = append(out, n.Step)
			}
		}
		return out
	}
	require.Equal(t, []string{"a~1", "b~1", "a~2"},
		remembered("<p>one</p>@{a /}<p>two and a half</p>@{b /}<p>three</p>@{a /}<p>four</p>"))
	require.Equal(t, []string{"a~1", "b~1"},
		remembered("<p>one</p>@{a /}<p>two</p>@{a /}@{b /}<p>three</p>@{a /}<p>four</p>"),
		"the last call has another address now")
	require.Equal(t, []string{"b~1", "a~2"},
		remembered("<p>one</p>@{a tone=calm /}<p>two</p>@{b /}<p>three</p>@{a /}<p>four</p>"),
		"a call with another argument is another one")
}

func FuzzReparse(f *testing.F) {
	f.Add("a@{b /}c@{d}e@{/d}f", uint(3), uint(4), "@{x /}")
	f.Add(`<a href="@{=x}">@{b /}</a>`, uint(9), uint(0), "@")
	f.Fuzz(func(t *testing.T, text string, from, cut uint, put string) {
		at := int(from % uint(len(text)+1))
		likeParse(t, text, text[:at]+put+text[at+int(cut%uint(len(text)-at+1)):])
	})
}
