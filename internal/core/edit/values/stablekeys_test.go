package values_test

import (
	"maps"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"brickshelf/internal/core/edit/values"
	"brickshelf/internal/core/explain"
	"brickshelf/internal/core/patch"
	"brickshelf/internal/core/render"
	"brickshelf/internal/core/site"
	"brickshelf/internal/core/sitetest"
)

func TestWhatAPageSaysFirstOfANestedCallGivesItAKey(t *testing.T) {
	f := site.Files{
		"blocks/in.html":    []byte("---\nfields: {w: {type: text, default: std}}\n---\n@{=w}"),
		"blocks/out.html":   []byte("@{in /}@{in w=second /}"),
		"layouts/wide.html": []byte("---\nregions: {main: {mode: stack}}\n---\n@{in /} @{region main /}"),
		"pages/p.html":      []byte("---\nlayout: wide\noverrides: {main/out~1/in~2: {w: old}}\n---\n@{out /}"),
		"pages/q.html":      []byte("---\nlayout: wide\nhidden: [main/out~1/in~1]\n---\n@{out /}"),
	}
	s := sitetest.New(f)
	now := []byte("---\nlayout: wide\noverrides: {main/out~1/in~2: {w: old}, main/out~1/in~1: {w: mine}, layout/in~1: {w: top}}\n---\n@{out /}")
	set, called := values.WithStableKeys(s, site.ChangeSet{Title: "Edit p",
		Changes: []site.Change{{Path: "pages/p.html", Before: s.Hash("pages/p.html"), After: now}}})
	require.Equal(t, map[string]string{"main/out~1/in~1": "main/out~1/in", "layout/in~1": "layout/in"},
		called)
	require.Equal(t, "Edit p", set.Title)
	texts := map[string]string{}
	for _, c := range set.Changes {
		require.Equal(t, s.Hash(c.Path), c.Before, "it is an edit of the site as saved")
		texts[c.Path] = string(c.After)
	}
	require.Equal(t, map[string]string{
		"blocks/out.html":   `@{in key="in" /}@{in w=second /}`,
		"layouts/wide.html": "---\nregions: {main: {mode: stack}}\n---\n@{in key=\"in\" /} @{region main /}",
		"pages/p.html":      "---\nlayout: wide\noverrides: {main/out~1/in~2: {w: old}, main/out~1/in: {w: mine}, layout/in: {w: top}}\n---\n@{out /}",
		"pages/q.html":      "---\nlayout: wide\nhidden: [main/out~1/in]\n---\n@{out /}",
	}, texts)

	same, called := values.WithStableKeys(s,
		site.ChangeSet{Changes: []site.Change{{Path: "pages/q.html",
			After: []byte("---\nlayout: wide\nhidden: [main/out~1/in~1]\n---\nmore @{out /}")}}})
	require.Empty(t, called, "what it said before needs none now")
	require.Len(t, same.Changes, 1)
}

func TestKeysChangeNoPage(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		f := sitetest.Site(t)
		s := sitetest.New(f)
		name := rapid.SampledFrom(s.Names()).Draw(t, "block")
		rows := explain.Values(s, name)
		if len(rows) == 0 {
			return
		}
		row := rapid.SampledFrom(rows).Draw(t, "row")
		path := row.Page.Page.Path
		src, err := patch.Set(path, f[path], []string{"hidden"},
			append(slices.Sorted(maps.Keys(row.Page.Page.Hidden)), row.Address))
		require.NoError(t, err)
		set := site.ChangeSet{Changes: []site.Change{{Path: path, Before: s.Hash(path), After: src}}}
		keyed, called := values.WithStableKeys(s, set)
		plain, o := s.With(set.Changes), sitetest.New(sitetest.Apply(t, f, keyed))
		for _, p := range s.PagePaths() {
			for _, as := range []render.Options{{}, {SignedIn: true}} {
				require.Equal(t, string(render.Page(plain, p, as).HTML), string(render.Page(o, p, as).HTML),
					p)
			}
		}
		require.Len(t, explain.Faults(o, path), len(explain.Faults(plain, path)), "nothing is lost by it")
		for from, to := range called {
			require.Equal(t, strings.Count(from, "/"), strings.Count(to, "/"))
			require.NotContains(t, to[strings.LastIndexByte(to, '/'):], "~")
		}
	})
}

func TestTwoValuesForOnePlacementByKeyAndByPosition(t *testing.T) {
	f := site.Files{
		"blocks/in.html":  []byte("---\nfields: {w: {type: text, default: std}}\n---\n@{=w}"),
		"blocks/out.html": []byte(`@{in /}@{in key="last" /}`),
		"pages/p.html":    []byte("---\noverrides: {main/out~1/in~2: {w: lost}, main/out~1/last: {w: counts}, main/top~1/in~2: {w: far}}\n---\n@{out /}@{out key=top /}"),
	}
	s := sitetest.New(f)
	require.Equal(t, "stdcountsstdstd", string(render.Page(s, "pages/p.html", render.Options{}).HTML))
	orphans := values.OrphansOn(s, "pages/p.html")
	require.Len(t, orphans, 2)
	require.Equal(t, "main/out~1/in~2", orphans[0].Address)
	require.Equal(t, "main/out~1/last", orphans[0].Meant)
	require.True(t, orphans[0].Doubled)
	require.Contains(t, orphans[0].Could, orphans[0].Meant)
	require.Empty(t, orphans[1].Meant, "top is the key of no call that is counted as top")

	f["pages/p.html"] = []byte("---\noverrides: {main/out~2/in~2: {w: far}}\n---\n@{out /}@{out key=top /}")
	orphans = values.OrphansOn(sitetest.New(f), "pages/p.html")
	require.Len(t, orphans, 1)
	require.Equal(t, "main/top/last", orphans[0].Meant, "each step that is counted can have a key")
	require.False(t, orphans[0].Doubled)
	set, err := values.Retarget(sitetest.New(f), "pages/p.html", orphans[0].Address, orphans[0].Meant)
	require.NoError(t, err)
	require.Equal(t, "stdstdstdfar", string(render.Page(sitetest.New(sitetest.Apply(t, f, set)),
		"pages/p.html",
		render.Options{}).HTML))
}
