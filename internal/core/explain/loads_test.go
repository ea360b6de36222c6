package explain_test

import (
	"fmt"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"brickshelf/internal/core/explain"
	"brickshelf/internal/core/render"
	"brickshelf/internal/core/shelf"
	"brickshelf/internal/core/site"
	"brickshelf/internal/core/sitetest"
)

func TestWhatAPageLoadsAndThroughWhat(t *testing.T) {
	old := site.HashOf([]byte("old"))
	f := site.Files{"site.yaml": []byte("format: brickshelf/1\n"),
		"blocks/a.html": []byte("---\nbehaviour: {needs: [b]}\n---\n<p>"), "blocks/a.js": []byte("export default 1"),
		"blocks/a.css": []byte("p{}"), "blocks/b.html": []byte("<i>"), "blocks/b.js": []byte("b"),
		"pages/p.html":           []byte("@{a /}@{copy of=a base=x behaviour=" + string(old) + "}<p>@{/copy}@{a /}"),
		"pages/q.html":           []byte("@{b /}"),
		"pages/r.html":           []byte("r"),
		"history/" + string(old): []byte("old")}
	s := sitetest.New(f)
	var got []string
	for _, l := range explain.Loads(s, "pages/p.html", shelf.SignedOut) {
		got = append(got, fmt.Sprintf("%s %v %v %s %v %v", l.File.Ext, l.Now, l.File.Each, l.Block, l.Through, l.Needed))
	}
	require.Equal(t, []string{".css true false a [main/a~1 main/a~3] []", ".js true false b [] [a]",
		".js true true a [main/a~1 main/a~3] []", ".js false false a [main/a~2] []"}, got)
	require.Equal(t, []string{"/p/", "/q/"}, explain.Loading(s, "b", site.BehaviourDoc))
	require.Equal(t, []string{"/p/"}, explain.Loading(s, "a", site.StyleDoc))
	require.Empty(t, explain.Loading(s, "b", site.StyleDoc))
}

// The pages that load the behaviour of a block are those whose HTML has its script.
func TestPagesThatLoadABehaviour(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		s := sitetest.New(sitetest.Site(t))
		name := fmt.Sprintf("b%d", rapid.IntRange(0, 5).Draw(t, "block"))
		for _, other := range s.Names() { // that have the same behaviour, byte for byte, load the same file
			if b := s.Shelved(other); b != nil && other != name && b.Code == s.Shelved(name).Code {
				t.Skip()
			}
		}
		got := explain.Loading(s, name, site.BehaviourDoc)
		var want []string
		for _, p := range s.PagePaths() {
			code := s.Shelved(name).Code
			shown := string(render.Page(s, p, render.Options{}).HTML) +
				string(render.Page(s, p, render.Options{SignedIn: true}).HTML)
			if code != "" && strings.Contains(shown, `src="/_shelf/`+string(code[:32])) {
				want = append(want, s.Info(p).URL)
			}
		}
		slices.Sort(want)
		slices.Sort(got)
		require.Equal(t, len(want), len(got))
		require.Subset(t, got, want)
	})
}
