package wording

import (
	"context"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"brickshelf/internal/core/site"
	"brickshelf/internal/core/sitetest"
)

// What the expression finds, the quick look at its longest word lets pass, whatever stands around it.
func TestNothingIsPassedOver(t *testing.T) {
	said, passed := 0, 0
	rapid.Check(t, func(t *rapid.T) {
		piece := rapid.SampledFrom([]string{"s", "S", "\u017f", "k", "K", "\u212a", "a", "9", " ", "-", "é", "\u0130", "i", "I", "x"})
		text := strings.Join(rapid.SliceOfN(piece, 0, 12).Draw(t, "text"), "")
		m, err := compile(Query{Text: "a" + strings.Join(rapid.SliceOfN(piece, 0, 3).Draw(t, "words"), ""),
			Case: rapid.Bool().Draw(t, "case")})
		require.NoError(t, err)
		if m.MatchString(text) {
			said++
			require.True(t, says(text, m.word), "%q in %q", m.word, text)
			require.True(t, says([]byte(text), m.word), "%q in %q", m.word, text)
		} else if !says(text, m.word) {
			passed++
		}
	})
	require.Positive(t, said)
	require.Positive(t, passed)
}

func TestLookingIsStopped(t *testing.T) {
	ctx, stop := context.WithCancel(context.Background())
	s := sitetest.New(site.Files{"site.yaml": []byte("format: brickshelf/1\nname: A site\n"), "pages/p.html": []byte("one")})
	list, err := Find(ctx, s, Query{Text: "one"}, "")
	require.NoError(t, err)
	require.Len(t, list, 1)
	stop()
	_, err = Find(ctx, s, Query{Text: "one"}, "")
	require.ErrorIs(t, err, context.Canceled)
}
