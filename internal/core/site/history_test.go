package site_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"brickshelf/internal/core/site"
)

func TestRevisionsThatNothingSpeaksOfAreLeftOut(t *testing.T) {
	name := func(c string) string { return strings.Repeat(c, 64) }
	files := site.Files{
		"pages/p.html":         []byte(`@{copy of="a" base="` + name("a") + `" style="` + name("b") + `"}x@{/copy}`),
		"pages/q.html":         []byte("---\ncopies: {main/a~1: {of: a, base: " + name("c") + ", text: x}}\n---\n"),
		"blocks/a.html":        []byte(`@{copy of="b" base="` + name("d") + `"}x@{/copy}`),
		"assets/note.txt":      []byte(name("e")),
		"history/" + name("a"): []byte("1"), "history/" + name("b"): []byte("2"), "history/" + name("c"): []byte("3"),
		"history/" + name("d"): []byte("4"), "history/" + name("e"): []byte("5"), "history/" + name("f"): []byte("6"),
	}
	got := files.WithoutSpent()
	require.Len(t, got, len(files)-2)
	require.NotContains(t, got, "history/"+name("e"))
	require.NotContains(t, got, "history/"+name("f"))
	without := site.Files{"pages/p.html": []byte("x")}
	require.Equal(t, without, without.WithoutSpent())
}
