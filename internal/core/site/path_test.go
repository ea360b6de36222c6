package site

import (
	"slices"
	"testing"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"
)

// What is told at a glance is what looking closely would tell.
func TestOrdinaryPathsHaveNothingWrong(t *testing.T) {
	good := 0
	rapid.Check(t, func(t *rapid.T) {
		p := rapid.StringOfN(rapid.SampledFrom([]rune("ab0-_../Zé: \n\\")), 0, 12, -1).Draw(t, "path")
		if ordinary(p) {
			good++
			require.Empty(t, wrongWith(p), "%q", p)
		}
		if p = rapid.StringMatching(`[a-z]+(/[a-z0-9]+){0,3}\.html`).Draw(t, "usual"); len(p) <= 400 {
			require.True(t, ordinary(p), p)
		}
	})
	require.Positive(t, good)
}

func TestFoldersEnd(t *testing.T) {
	for p, want := range map[string][]string{"a/b/c.html": {"a/b", "a"}, "a": nil, "": nil, "/": nil,
		"/a/": {"/a"}, "//": {"/"}, "a//b": {"a/", "a"}} {
		require.Equal(t, want, slices.Collect(Folders(p)), p)
	}
}
