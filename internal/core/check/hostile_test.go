package check_test

import (
	"fmt"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"brickshelf/internal/core/check"
	"brickshelf/internal/core/render"
	"brickshelf/internal/core/site"
	"brickshelf/internal/core/sitetest"
)

// numbered writes a format for each number.
func numbered(n int, format string) string {
	var b strings.Builder
	for i := range n {
		fmt.Fprintf(&b, format, i)
	}
	return b.String()
}

// Whatever a document holds, it is read, checked and shown in a time that grows with its
// size. Each of these took minutes where that grew with the square of it.
func TestHostileDocumentsComeToAnEnd(t *testing.T) {
	const mb = 1 << 20
	for name, src := range map[string]string{
		"tags that begin":        strings.Repeat("@{", mb/2),
		"tags nested":            strings.Repeat("@{a}", 100_000),
		"tags nested and closed": strings.Repeat("@{a}", 50_000) + strings.Repeat("@{/a}", 50_000),
		"conditions":             strings.Repeat("@{when x}", 100_000),
		"comments never closed":  strings.Repeat("@{#", mb/3),
		"lists never closed":     strings.Repeat("@{a l=[1,", mb/9),
		"quotes":                 strings.Repeat("@{a x=\"'", mb/8),
		"arguments":              "@{a " + numbered(50_000, "x%d=1 ") + "/}",
		"keys":                   numbered(50_000, "@{a key=k%d /}"),
		"different calls":        numbered(50_000, "@{c%d /}"),
		"calls of nothing":       strings.Repeat("@{gone /}", mb/9),
		"fills":                  strings.Repeat("@{fill x}@{/fill}", mb/17),
		"different fills":        numbered(50_000, "@{fill r%d}x@{/fill}"),
		"different copies":       numbered(20_000, "@{copy of=c%d}x@{/copy}"),
		"elements":               strings.Repeat("<div>", mb/5),
		"attributes never ended": strings.Repeat("<p a='", mb/6),
		"links to nothing":       strings.Repeat("<a href='#x'>", mb/13),
		"list items":             "---\ntags:\n" + strings.Repeat("- a\n", 200_000) + "---\nx",
		"list on a line":         "---\ntags: [" + strings.Repeat("a, ", 200_000) + "b]\n---\nx",
		"nested lists":           "---\na: " + strings.Repeat("[", 100_000) + "\n---\nx",
		"nested mappings":        "---\na: " + strings.Repeat("{a: ", 100_000) + "\n---\nx",
		"many fields":            "---\nfields:\n" + numbered(50_000, "  k%d: v\n") + "---\nx",
		"many overrides":         "---\noverrides:\n" + numbered(9_000, "  main/a~%d: {x: v}\n") + "---\nx",
	} {
		for _, path := range []string{"pages/p.html", "blocks/b.html"} {
			t.Run(name+" in "+path, func(t *testing.T) {
				done := make(chan struct{})
				go func() {
					defer close(done)
					s := sitetest.New(site.Files{"site.yaml": []byte("format: brickshelf/1\n"),
						"blocks/a.html": []byte("a"), "pages/q.html": []byte("@{b /}"), path: []byte(src)})
					problems := check.Site(s)
					_ = problems.Error()
					if len(problems.Invalid()) == 0 {
						render.Page(s, "pages/p.html", render.Options{Placements: true})
					}
				}()
				select {
				case <-done:
				case <-time.After(3 * time.Minute): // others may have the machine
					require.Fail(t, "it does not come to an end")
				}
			})
		}
	}
}

// Of very many faults the first are told with their places, and how many there are more.
func TestManyFaultsAreTold(t *testing.T) {
	problems := check.Site(sitetest.New(site.Files{"site.yaml": []byte("format: brickshelf/1\n"),
		"pages/p.html": []byte(strings.Repeat("é@{\n", 250))}))
	require.Len(t, problems, 101)
	require.Equal(t, [2]int{57, 2}, [2]int{problems[56].Line, problems[56].Column})
	require.Equal(t, "150 more faults begin here", problems[100].Message)
}
