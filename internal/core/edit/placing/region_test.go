package placing_test

import (
	"testing"

	"github.com/stretchr/testify/require"

	"brickshelf/internal/core/edit/placing"
	"brickshelf/internal/core/site"
	"brickshelf/internal/core/sitetest"
)

func TestRegionsOfALayout(t *testing.T) {
	src := "---\ntitle: L\nregions:\n  main: {mode: stack}\nstarts_with: {side: '@{x /}'}\n---\n<body>\n  @{region main /}\n<aside>@{region side}none@{/region}</aside>\n</body>\n"
	for _, c := range []struct{ region, after, want string }{
		{"extra", "main",
			"---\ntitle: L\nregions:\n  main: {mode: stack}\n  extra: {mode: stack}\nstarts_with: {side: '@{x /}'}\n---\n<body>\n  @{region main /}\n  @{region extra /}\n<aside>@{region side}none@{/region}</aside>\n</body>\n"},
		{"extra", "",
			"---\ntitle: L\nregions:\n  main: {mode: stack}\n  extra: {mode: stack}\nstarts_with: {side: '@{x /}'}\n---\n<body>\n  @{region main /}\n<aside>@{region side}none@{/region}</aside>\n@{region extra /}\n</body>\n"},
	} {
		out, err := placing.AddRegion([]byte(src), c.region, c.after)
		require.NoError(t, err)
		require.Equal(t, c.want, string(out))
		require.Empty(t, sitetest.New(site.Files{"layouts/l.html": out,
			"pages/index.html": []byte("---\nlayout: l\n---\n")}).DocProblems("layouts/l.html"))
		back, err := placing.DropRegion(out, c.region)
		require.NoError(t, err)
		require.Equal(t, src, string(back), "what is added and dropped leaves no trace")
	}
	out, err := placing.DropRegion([]byte(src), "side")
	require.NoError(t, err)
	require.Equal(t,
		"---\ntitle: L\nregions:\n  main: {mode: stack}\n---\n<body>\n  @{region main /}\n<aside></aside>\n</body>\n", string(out))
	bare, err := placing.AddRegion([]byte("<p>"), "main", "")
	require.NoError(t, err)
	require.Equal(t, "---\nregions: {main: {mode: stack}}\n---\n<p>\n@{region main /}\n", string(bare))

	for want, try := range map[string]func() ([]byte, error){
		"already":         func() ([]byte, error) { return placing.AddRegion([]byte(src), "main", "") },
		"cannot name":     func() ([]byte, error) { return placing.AddRegion([]byte(src), "Big one", "") },
		"no region there": func() ([]byte, error) { return placing.AddRegion([]byte(src), "extra", "there") },
		"no region gone":  func() ([]byte, error) { return placing.DropRegion([]byte(src), "gone") },
		"mend the text":   func() ([]byte, error) { return placing.DropRegion([]byte("@{when"), "gone") },
	} {
		_, err := try()
		require.ErrorContains(t, err, want)
	}
}

// New pages of a layout begin with what is put on its pages, once.
func TestBeginningWith(t *testing.T) {
	s := sitetest.New(site.Files{"blocks/a.html": nil, "blocks/b.html": nil, "pages/index.html": nil,
		"layouts/none.html": []byte("@{region main /}"),
		"layouts/l.html":    []byte("---\nregions: {side: {mode: stack}}\nstarts_with: {side: '@{a /}'}\n---\n@{region side /}")})
	changes, err := placing.BeginWith(s, []string{"l", "none"}, "side", "@{a /}\n@{b /}")
	require.NoError(t, err)
	require.Len(t, changes, 1, "a layout without the region stays as it is")
	o := s.With(changes)
	require.Equal(t, "@{a /}\n@{b /}", o.Layout("l").StartsWith["side"])
	again, err := placing.BeginWith(sitetest.New(site.Files{"blocks/a.html": nil, "blocks/b.html": nil,
		"layouts/l.html": changes[0].After}), []string{"l"}, "side", "@{b /}")
	require.NoError(t, err)
	require.Empty(t, again)
	_, err = placing.BeginWith(s, []string{"gone"}, "side", "@{a /}")
	require.ErrorContains(t, err, "no layout gone")
}
