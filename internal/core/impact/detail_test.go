package impact_test

import (
	"testing"

	"github.com/stretchr/testify/require"

	"brickshelf/internal/core/impact"
	"brickshelf/internal/core/render"
	"brickshelf/internal/core/site"
	"brickshelf/internal/core/sitetest"
)

// detailed is what an edit does to the placements of a page, by address.
func detailed(before site.Files, changes []site.Change, doc string) map[string]impact.Effect {
	s := sitetest.New(before)
	o := s.With(changes)
	p := impact.Page{Doc: doc}
	impact.Detail(s, o, o.Changed(), &p)
	out := map[string]impact.Effect{}
	for _, x := range p.Placements {
		out[x.Address] = x.Effect
	}
	return out
}

func TestEffectsOnThePlacementsOfAPage(t *testing.T) {
	files := site.Files{
		"site.yaml":         []byte("format: brickshelf/1\n"),
		"layouts/l.html":    []byte("---\nregions: {top: {mode: stack}, main: {mode: stack}}\n---\n@{region top /}@{region main /}"),
		"blocks/bar.html":   []byte("---\nfields: {tone: {type: text, default: calm}}\n---\n<b>@{=tone}</b>"),
		"blocks/rest.html":  []byte("rest"),
		"blocks/outer.html": []byte("<i>@{bar /}</i>"),
		"rules/bar.yaml":    []byte("block: bar\nregion: top\non: [all]\n"),
		"pages/p.html":      []byte("---\nlayout: l\noverrides: {\"main/bar~1\": {tone: loud}}\nhidden: [\"main/bar~2\"]\n---\n@{bar /}@{bar /}@{outer /}@{rest /}@{copy of=bar base=x}<b>calm</b>@{/copy}"),
	}
	edit := func(path, after string) map[string]impact.Effect {
		c := site.Change{Path: path, After: []byte(after), Delete: after == ""}
		return detailed(files, []site.Change{c}, "pages/p.html")
	}
	require.Equal(t, map[string]impact.Effect{"top/rule:bar": "changes", "main/bar~1": "held",
		"main/bar~2": "hidden", "main/outer~1": "changes", "main/outer~1/bar~1": "changes",
		"main/bar~3": "copied"},
		edit("blocks/bar.html", "---\nfields: {tone: {type: text, default: low}}\n---\n<b>@{=tone}</b>"),
		"another default")
	require.Equal(t, map[string]impact.Effect{"top/rule:bar": "same", "main/bar~1": "same",
		"main/bar~2": "hidden", "main/outer~1/bar~1": "same", "main/bar~3": "copied"},
		edit("blocks/bar.html",
			"---\ntitle: Bar\nfields: {tone: {type: text, default: calm}}\n---\n<b>@{=tone}</b>"),
		"another title")
	require.Equal(t, map[string]impact.Effect{"main/rest~1": "changes"}, edit("blocks/rest.html", "rested"),
		"nothing is said of the others")
	require.Equal(t, map[string]impact.Effect{"main/outer~1": "changes", "main/outer~1/bar~1": "removed"},
		edit("blocks/outer.html", "<i></i>"), "what stood in it is gone with it")
	require.Equal(t, map[string]impact.Effect{"top/rule:bar": "removed"}, edit("rules/bar.yaml", ""),
		"nobody places it any more")
	require.Equal(t, map[string]impact.Effect{"top/rule:rest": "added"},
		edit("rules/rest.yaml", "block: rest\nregion: top\non: [all]\n"))
	require.Equal(t, map[string]impact.Effect{"top/rule:bar": "changes"},
		edit("rules/bar.yaml", "block: bar\nregion: top\non: [all]\nset: {tone: low}\n"))
}

// A page that is made of placements alone changes only where one of them does.
func TestPagesChangeByTheirPlacements(t *testing.T) {
	seen := 0
	for _, d := range drawn(200) {
		onlyBlocks := true
		for _, c := range d.changes {
			class, _, _ := site.Classify(c.Path)
			onlyBlocks = onlyBlocks && class == site.BlockDoc && !c.Delete
		}
		if !onlyBlocks {
			continue
		}
		s := sitetest.New(d.before)
		o := s.With(d.changes)
		for _, p := range s.PagePaths() {
			if s.Info(p).Draft {
				continue
			}
			page := impact.Page{Doc: p}
			impact.Detail(s, o, o.Changed(), &page)
			differs := string(render.Page(s, p, render.Options{}).HTML) != string(render.Page(o, p,
				render.Options{}).HTML)
			moved := false
			for _, x := range page.Placements {
				moved = moved || x.Effect == impact.Changes || x.Effect == impact.Added ||
					x.Effect == impact.Removed
				if x.Effect == impact.Held {
					require.NotEmpty(t, x.Holds, "%s is held by values of its own", x.Address)
				}
			}
			if differs {
				seen++
				require.True(t, moved, "%s changes and none of its placements does", p)
			}
		}
	}
	require.Greater(t, seen, 10)
}
