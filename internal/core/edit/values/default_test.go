package values_test

import (
	"testing"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"brickshelf/internal/core/block"
	"brickshelf/internal/core/edit/values"
)

func TestSettingADefaultChangesNothingElse(t *testing.T) {
	for _, c := range []struct{ name, text, field, value, want string }{
		{"in braces", "---\nfields:\n  a: {type: text, default: old} # note\n---\nx", "a", "new",
			"---\nfields:\n  a: {type: text, default: \"new\"} # note\n---\nx"},
		{"none yet", "---\nfields:\n  a: {type: text}\n---\n", "a", "new",
			"---\nfields:\n  a: {type: text, default: \"new\"}\n---\n"},
		{"a line each", "---\nfields:\n  a:\n    type: number\n    default: 1 # one\n---\n", "a", "2",
			"---\nfields:\n  a:\n    type: number\n    default: 2 # one\n---\n"},
		{"none yet, a line each", "---\nfields:\n  a:\n    type: switch\n---\n", "a", "true",
			"---\nfields:\n  a:\n    type: switch\n    default: true\n---\n"},
		{"quoted", "---\nfields: {a: {default: \"x, }\\\"y\"}, b: {default: z}}\n---\n", "a", "n",
			"---\nfields: {a: {default: \"n\"}, b: {default: z}}\n---\n"},
		{"a list", "---\nfields:\n  a: {type: list, fields: {t: {}}, default: [{t: x}, {t: \"y]\"}]}\n---\n",
			"a", "[{t: n}]", "---\nfields:\n  a: {type: list, fields: {t: {}}, default: [{t: n}]}\n---\n"},
		{"over lines", "---\nfields:\n  a:\n    default: |\n      two\n      lines\n    type: lines\n---\n",
			"a", "x", "---\nfields:\n  a:\n    default: \"x\"\n    type: lines\n---\n"},
		{"Windows line ends", "---\r\nfields:\r\n  a: {default: old}\r\n---\r\nx\r\n", "a", "new",
			"---\r\nfields:\r\n  a: {default: \"new\"}\r\n---\r\nx\r\n"},
	} {
		got, err := values.SetDefault([]byte(c.text), c.field, c.value)
		require.NoError(t, err, c.name)
		require.Equal(t, c.want, string(got), c.name)
	}
}

func TestSettingADefaultRefuses(t *testing.T) {
	for _, c := range []struct{ text, field, value, want string }{
		{"---\nfields: {a: {type: number}}\n---\n", "a", "x", "is a number"},
		{"---\nfields: {a: {type: text}}\n---\n", "b", "x", "there is no field b"},
		{"---\nfields: {a: {type: text, max: 3}}\n---\n", "a", "long", "at most 3"},
		{"@{broken", "a", "x", "mend the text first"},
	} {
		_, err := values.SetDefault([]byte(c.text), c.field, c.value)
		require.ErrorContains(t, err, c.want)
	}
}

func TestADefaultThatWasSetIsThere(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		old, value := rapid.String().Draw(t, "old"), rapid.String().Draw(t, "value")
		first,
			err := values.SetDefault([]byte("---\nfields: {a: {type: text, default: x}, b: {type: text, default: y}}\n---\n@{=a}"), "a", old)
		require.NoError(t, err)
		second, err := values.SetDefault(first, "a", value)
		require.NoError(t, err)
		b, problems := block.Parse("b", "blocks/b.html", second, block.NewReader())
		require.Empty(t, problems)
		require.Equal(t, value, b.Fields[0].Default.Text)
		require.Equal(t, "y", b.Fields[1].Default.Text)
	})
}
