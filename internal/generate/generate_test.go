package generate_test

import (
	"strings"
	"testing"
	"time"
	"unicode/utf8"

	"github.com/stretchr/testify/require"

	"brickshelf/internal/core/shelf"
	"brickshelf/internal/core/site"
	"brickshelf/internal/generate"
)

var day = time.Date(2026, 3, 1, 0, 0, 0, 0, time.UTC)

func compiled(t *testing.T, f site.Files) *shelf.Shelf {
	t.Helper()
	s := shelf.New(f, day)
	require.Empty(t, s.Problems(func(string) bool { return true }))
	return s
}

func TestASiteOfAnySize(t *testing.T) {
	s := compiled(t, generate.Site(85))
	require.Len(t, s.PagePaths(), 85)
}

func TestADeepSite(t *testing.T) {
	s := compiled(t, generate.Deep())
	require.Len(t, s.Rules(), generate.DeepRules)
	require.Len(t, s.Layouts(), generate.DeepLayouts)
	blocks, sections := 0, map[string]bool{}
	for _, name := range s.Names() {
		if b := s.Block(name); b != nil {
			blocks++
			require.Equal(t, 120, utf8.RuneCountInString(b.Title), b.Title)
		}
	}
	require.Equal(t, generate.DeepBlocks, blocks)
	for _, p := range s.PagePaths() {
		in := s.Info(p)
		require.Equal(t, 120, utf8.RuneCountInString(in.Page.Title))
		sections[in.Page.URL[:strings.LastIndexByte(strings.TrimSuffix(in.Page.URL, "/"), '/')+1]] = true
	}
	require.Len(t, sections, generate.DeepSections+1, "and the home page")
}
