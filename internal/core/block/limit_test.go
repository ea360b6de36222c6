package block_test

import (
	"testing"

	"github.com/stretchr/testify/require"

	"brickshelf/internal/core/block"
)

func TestValuesKeepToTheLimitsOfTheirField(t *testing.T) {
	r := block.NewReader()
	b, problems := block.Parse("b", "blocks/b.html", []byte(`---
fields:
  n: {min: -1.5, max: 10, type: number}
  d: {type: date, min: 2026-01-01, max: "2026-12-31"}
  t: {type: text, min: 2, max: 3}
  l: {type: list, max: 1, fields: {a: {type: text}}}
---
`), r)
	require.Empty(t, problems)
	for _, c := range []struct {
		field string
		raw   any
		says  string // "" where it fits
	}{
		{"n", "-1.5", ""}, {"n", "10.0", ""}, {"n", "1e1", ""},
		{"n", "-1.51", "n is at least -1.5, and this is -1.51"}, {"n", "11", "n is at most 10"},
		{"n", "", ""},
		{"d", "2026-06-01", ""}, {"d", "2025-12-31", "d is at least 2026-01-01"},
		{"d", "2027-01-01", "d is at most 2026-12-31"},
		{"t", "ab", ""}, {"t", "äöü", ""}, {"t", "a", "t has at least 2 characters, and this has 1"},
		{"t", "abcd", "t has at most 3"}, {"t", "", ""},
		{"l", []any{map[string]any{"a": "x"}}, ""}, {"l", []any{map[string]any{}, map[string]any{}},
			"l has at most 1 items, and this has 2"},
	} {
		_, err := r.Read(b.Fields[b.Field(c.field)], c.raw)
		if c.says == "" {
			require.NoError(t, err, "%s %v", c.field, c.raw)
		} else {
			require.ErrorContains(t, err, c.says)
		}
	}
}

func TestLimitsThatMakeNoSenseAreRefused(t *testing.T) {
	for field, says := range map[string]string{
		"{type: switch, min: 1}":               "blocks/b.html:3:21: a switch has no min",
		"{type: number, max: many}":            "max of f should be a number",
		"{type: date, min: soon}":              "min of f should be a date",
		"{type: text, max: -1}":                "should be a whole number",
		"{type: text, max: 1.5}":               "should be a whole number",
		"{type: number, max: 3, default: 4}":   "f is at most 3, and this is 4",
		"{default: abc, max: 2}":               "f has at most 2 characters",
		"{type: number, min: 1, max: 3, x: 1}": "has no key",
	} {
		_, problems := block.Parse("b", "blocks/b.html", []byte("---\nfields:\n  f: "+field+"\n---\n"),
			block.NewReader())
		require.Len(t, problems, 1, field)
		require.Contains(t, problems.Error(), says, field)
	}
}
