package patch_test

import (
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"brickshelf/internal/core/patch"
	"brickshelf/internal/core/site"
)

func TestAKeyMovesWithItsComments(t *testing.T) {
	src := "---\ntitle: A # first\nfields:\n  # the name\n  name: {type: text} # short\n  # how many\n  # of them\n  n:\n    type: number\n\n  last: {type: date, label: \"a, b\"}\n# end\n---\ntext"
	got, err := patch.Move("blocks/a.html", []byte(src), []string{"fields", "n"}, 0)
	require.NoError(t, err)
	require.Equal(t, "---\ntitle: A # first\nfields:\n  # how many\n  # of them\n  n:\n    type: number\n  # the name\n  name: {type: text} # short\n\n  last: {type: date, label: \"a, b\"}\n# end\n---\ntext", string(got))
	back, err := patch.Move("blocks/a.html", got, []string{"fields", "n"}, 1)
	require.NoError(t, err)
	require.Equal(t, src, string(back))

	flow := "---\nfields: {a: {type: text}, b: {type: list, fields: {c: {type: text}}}, d: {type: date}}\n---\n"
	got, err = patch.Move("blocks/a.html", []byte(flow), []string{"fields", "d"}, 0)
	require.NoError(t, err)
	require.Equal(t, "---\nfields: {d: {type: date}, a: {type: text}, b: {type: list, fields: {c: {type: text}}}}\n---\n",
		string(got))
	for want, keys := range map[string][]string{"name a key": nil, "fields, x is gone": {"fields", "x"},
		"x, y is gone": {"x", "y"}} {
		_, err := patch.Move("blocks/a.html", []byte(flow), keys, 0)
		require.ErrorContains(t, err, want)
	}
}

// Whatever is moved, the keys stand as asked, say what they said, and no line is lost.
func TestMovedKeysSayTheSame(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		n := rapid.IntRange(1, 5).Draw(t, "n")
		text := "---\nfields:\n"
		var names []string
		for i := range n {
			name := string(rune('a' + i))
			names = append(names, name)
			text += rapid.SampledFrom([]string{"", "", "  # of " + name + "\n", "\n"}).Draw(t, "above")
			text += "  " + name + rapid.SampledFrom([]string{": {type: text}\n", ":\n    type: text\n",
				": {type: text, default: \"x: y, {z}\"} # short\n", ":\n    type: text\n    # within\n    label: |\n      two\n      lines\n"}).Draw(t, "value")
		}
		text += "---\nx"
		i, before := rapid.IntRange(0, n-1).Draw(t, "i"), rapid.IntRange(-1, n).Draw(t, "before")
		got, err := patch.Move("blocks/a.html", []byte(text), []string{"fields", names[i]}, before)
		require.NoError(t, err)
		want := slices.Delete(slices.Clone(names), i, i+1)
		want = slices.Insert(want, min(max(before, 0), len(want)), names[i])
		split, _ := site.Cut(got)
		y, problem := site.ParseYAML(split.Head, "", 1)
		require.Nil(t, problem)
		var is []string
		for _, p := range y.Get("fields").Pairs {
			is = append(is, p.Key)
		}
		require.Equal(t, want, is)
		lines := func(s string) []string { l := strings.Split(s, "\n"); slices.Sort(l); return l }
		require.Equal(t, lines(text), lines(string(got)))
	})
}
