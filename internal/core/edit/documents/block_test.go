package documents_test

import (
	"fmt"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"brickshelf/internal/core/check"
	"brickshelf/internal/core/edit/copies"
	"brickshelf/internal/core/edit/documents"
	"brickshelf/internal/core/impact"
	"brickshelf/internal/core/render"
	"brickshelf/internal/core/shelf"
	"brickshelf/internal/core/site"
	"brickshelf/internal/core/sitetest"
)

func TestRenamingABlockChangesNoPageAndCanBeTurned(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		files := sitetest.Site(t)
		s := sitetest.New(files)
		name := fmt.Sprintf("b%d", rapid.IntRange(0, 5).Draw(t, "block"))
		set, err := documents.RenameBlock(s, name, "renamed")
		require.NoError(t, err)
		after := sitetest.Apply(t, files, set)
		o := sitetest.New(after)
		for _, p := range s.PagePaths() {
			require.Equal(t, sitetest.HTML(s, p), sitetest.HTML(o, p))
			was, is := render.Placements(s, p), render.Placements(o, p)
			require.Len(t, is, len(was))
			for i := range was {
				require.Equal(t, strings.ReplaceAll(was[i].Address, name+"~", "renamed~"), is[i].Address)
				require.Equal(t, was[i].Kind, is[i].Kind)
			}
		}
		require.False(t, o.Used(name))
		back, err := documents.RenameBlock(o, "renamed", name)
		require.NoError(t, err)
		again := sitetest.Apply(t, after, back)
		require.Equal(t, files.Paths(), again.Paths())
		for p := range files {
			require.Equal(t, string(files[p]), string(again[p]), p)
		}
	})
}

func TestDeletingABlockAndLeavingCopiesChangesNoPage(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		files := sitetest.Site(t)
		s := sitetest.New(files)
		name := fmt.Sprintf("b%d", rapid.IntRange(0, 5).Draw(t, "block"))
		with := rapid.SampledFrom([]documents.Replacement{documents.WithCopies,
			documents.WithContent}).Draw(t, "with")
		set, _, err := documents.DeleteBlock(s, name, with, "", nil)
		for _, other := range s.Names() {
			if b := s.Block(other); b != nil && slices.Contains(b.Behaviour.Needs, name) {
				require.ErrorContains(t, err, "take it out of needs there first")
				return
			}
		}
		require.NoError(t, err)
		once := map[string]bool{}
		for _, c := range set.Changes {
			require.False(t, once[c.Path], "%s is changed twice", c.Path)
			once[c.Path] = true
		}
		o := sitetest.New(sitetest.Apply(t, files, set))
		require.Nil(t, o.Block(name))
		for _, p := range s.PagePaths() {
			require.Equal(t, sitetest.HTML(s, p), sitetest.HTML(o, p), p)
			for _, pl := range render.Placements(o, p) {
				require.False(t, pl.Block == name && pl.Kind == render.Linked)
			}
		}
	})
}

func TestTheContentOfADeletedBlockBecomesPlainText(t *testing.T) {
	f, s := stock("blocks/a.html", "---\nfields: {n: {type: text}}\n---\n<b>@{=n}@{=inner}</b>",
		"blocks/c.html", "c", "blocks/s.html", "s", "blocks/s.css", "p{}",
		"pages/p.html", "@{a n=\"1\"}in @{c /}@{/a} @{a n=2 /} @{s /} @{c /}")
	set, _, err := documents.DeleteBlock(s, "a", documents.WithContent, "", nil)
	require.Equal(t, "<b>1in @{c /}</b> <b>2</b> @{s /} @{c /}", sitetest.Source(after(t, f, set, err),
		"pages/p.html"))
	set, _, err = documents.DeleteBlock(s, "s", documents.WithContent, "", nil)
	require.Contains(t, sitetest.Source(after(t, f, set, err), "pages/p.html"), "@{copy of=\"s\"",
		"it loads the style")
	require.True(t, slices.ContainsFunc(set.Changes, func(c site.Change) bool {
		class, _, _ := site.Classify(c.Path)
		return class == site.HistoryDoc
	}), "what the copy came from is kept")

	one, err := copies.Detach(s, "pages/p.html", "main/a~1")
	require.NoError(t, err)
	g := sitetest.Apply(t, f, one)
	kept := string(g["pages/p.html"])
	kept = kept[:strings.Index(kept, "@{/copy}")]
	set, _, err = documents.DeleteBlock(sitetest.New(g), "a", documents.WithContent, "", nil)
	o := sitetest.Source(after(t, g, set, err), "pages/p.html")
	require.Contains(t, o, kept, "what was a copy before stays one")
	require.Contains(t, o, "@{/copy} <b>2</b>")
}

func stock(pairs ...string) (site.Files, *shelf.Shelf) {
	f := site.Files{"site.yaml": []byte("format: brickshelf/1\n")}
	for i := 0; i < len(pairs); i += 2 {
		f[pairs[i]] = []byte(pairs[i+1])
	}
	return f, sitetest.New(f)
}

func after(t *testing.T, f site.Files, set site.ChangeSet, err error) *shelf.Shelf {
	require.NoError(t, err)
	s := sitetest.New(sitetest.Apply(t, f, set))
	require.Empty(t, check.Validity(s))
	return s
}

func TestMakingBlocks(t *testing.T) {
	f, s := stock("blocks/card.html",
		"---\n# the card\ntitle: 'A card'   # old\ncategory: Text\nsample: '@{card /}'\n---\nx",
		"blocks/card.css", "b{}")
	set, err := documents.NewBlock(s, "opening-hours", "", " Ports: all ")
	made := after(t, f, set, err)
	require.Equal(t, "Opening hours", made.Block("opening-hours").Title)
	require.Equal(t, "Ports: all", made.Block("opening-hours").Category)
	set, err = documents.DuplicateBlock(s, "card", "big-card")
	made = after(t, f, set, err)
	require.Equal(t,
		"---\n# the card\ntitle: Big card   # old\ncategory: Text\nsample: \"@{big-card /}\"\n---\nx",
		sitetest.Source(made, "blocks/big-card.html"))
	require.Equal(t, "b{}", sitetest.Source(made, "blocks/big-card.css"))
	for name, want := range map[string]string{"card": "already", "menu": "already",
		"when": "part of the language", "Big": "lower-case", "": "lower-case"} {
		_, err := documents.NewBlock(s, name, "", "")
		require.ErrorContains(t, err, want)
		_, err = documents.DuplicateBlock(s, "card", name)
		require.ErrorContains(t, err, want)
		_, err = documents.RenameBlock(s, "card", name)
		require.ErrorContains(t, err, want)
	}
}

func TestRenamingFollowsEveryMention(t *testing.T) {
	f, s := stock(
		"layouts/l.html",
		"---\nregions: {main: {mode: stack}, side: {mode: stack}}\nstarts_with: {side: '@{card /} @@{card}'}\n---\n@{region main /}@{region side /}@{card /}",
		"blocks/card.html",
		"---\nsample: \"@{card title=\\\"x\\\"}y@{/card}\"\nfields: {title: {type: text, default: '@{card /} is a text'}}\n---\n<b>@{=title}@{=inner}</b>",
		"blocks/box.html", "@{card title=\"@{card /}\"}in@{/card}@{# card }",
		"rules/r.yaml", "block: card # card\nregion: side\non: [all]\n",
		"menus/m.yaml", "items:\n  - {label: card, to: /, panel: '@{card /}'}\n",
		"pages/p.html",
		"---\nlayout: l\noverrides:\n  \"main/box~1/card~1\": {title: own}\nhidden: [\"layout/card~1\"]\ncopies: {'side/rule:r': {of: card, base: x, text: \"a card @{card /}\"}}\n---\n@{box /}card@{copy of=\"card\" base=\"y\" call=\"@{card /}\"}@{card key=\"card\" /}@{/copy}",
	)
	set, err := documents.RenameBlock(s, "card", "tile")
	o := after(t, f, set, err)
	require.Equal(t,
		"---\nregions: {main: {mode: stack}, side: {mode: stack}}\nstarts_with: {side: '@{tile /} @@{card}'}\n---\n@{region main /}@{region side /}@{tile /}", sitetest.Source(o, "layouts/l.html"))
	require.Equal(t,
		"---\nsample: \"@{tile title=\\\"x\\\"}y@{/tile}\"\nfields: {title: {type: text, default: '@{card /} is a text'}}\n---\n<b>@{=title}@{=inner}</b>", sitetest.Source(o, "blocks/tile.html"))
	require.Equal(t, "@{tile title=\"@{card /}\"}in@{/tile}@{# card }", sitetest.Source(o, "blocks/box.html"))
	require.Equal(t, "block: tile # card\nregion: side\non: [all]\n", sitetest.Source(o, "rules/r.yaml"))
	require.Equal(t, "items:\n  - {label: card, to: /, panel: '@{tile /}'}\n",
		sitetest.Source(o, "menus/m.yaml"))
	require.Equal(t,
		"---\nlayout: l\noverrides:\n  \"main/box~1/tile~1\": {title: own}\nhidden: [\"layout/tile~1\"]\ncopies: {'side/rule:r': {of: tile, base: x, text: \"a card @{tile /}\"}}\n---\n@{box /}card@{copy of=\"tile\" base=\"y\" call=\"@{tile /}\"}@{tile key=\"card\" /}@{/copy}", sitetest.Source(o, "pages/p.html"))
	require.Zero(t, impact.Every(s, o, nil).Counts[impact.Changes])
}

func TestDeletingBlocks(t *testing.T) {
	f, s := stock("blocks/a.html", "A", "blocks/a.js", "1", "blocks/b.html", "B", "blocks/idle.html", "x",
		"pages/p.html", "@{a /}")
	set, _, err := documents.DeleteBlock(s, "idle", documents.WithNothing, "", nil)
	require.Nil(t, after(t, f, set, err).Block("idle"))
	_, _, err = documents.DeleteBlock(s, "a", documents.WithNothing, "", nil)
	require.ErrorContains(t, err, "a is used on 1 pages")
	_, _, err = documents.DeleteBlock(s, "a", documents.WithAnother, "bb", nil)
	require.ErrorContains(t, err, "did you mean b?")
	set, _, err = documents.DeleteBlock(s, "a", documents.WithAnother, "b", nil)
	o := after(t, f, set, err)
	require.Equal(t, "B", sitetest.HTML(o, "pages/p.html"))
	require.Empty(t, sitetest.Source(o, "blocks/a.js"))
	set, _, err = documents.DeleteBlock(s, "a", documents.WithCopies, "", nil)
	o = after(t, f, set, err)
	require.Equal(t, sitetest.HTML(s, "pages/p.html"), sitetest.HTML(o, "pages/p.html"))
	_, _, err = documents.DeleteBlock(s, "none", documents.WithCopies, "", nil)
	require.ErrorContains(t, err, "there is no block none")
}

func TestABlockThatCallsAnotherCannotTakeItsPlace(t *testing.T) {
	s := sitetest.New(site.Files{
		"site.yaml":       []byte("format: brickshelf/1\nname: x\n"),
		"layouts/l.html":  []byte("<head></head>@{region main /}"),
		"menus/main.yaml": []byte("items:\n  - {label: A, to: /, panel: '@{inner-one /}'}\n"),
		"blocks/a.html":   []byte("a"), "blocks/b.html": []byte("@{when page.title}@{c /}@{/when}"),
		"blocks/c.html": []byte("@{a /}"), "blocks/d.html": []byte("@{menu name=main /}"),
		"blocks/inner-one.html": []byte("x"),
		"pages/index.html":      []byte("---\ntitle: P\nlayout: l\n---\n@{a /}@{inner-one /}"),
	})
	for _, c := range [][3]string{{"a", "b", "b calls a itself"}, {"a", "c", "c calls a itself"},
		{"inner-one", "d", "d calls inner-one itself"}} {
		_, _, err := documents.DeleteBlock(s, c[0], documents.WithAnother, c[1], nil)
		require.ErrorContains(t, err, c[2])
	}
	set, _, err := documents.DeleteBlock(s, "a", documents.WithAnother, "inner-one", nil)
	require.NoError(t, err)
	require.Contains(t, sitetest.HTML(s.With(set.Changes), "pages/index.html"), "xx")
}

// A copy whose text asks for what it encloses means something only within its tags.
func TestACopyThatAsksForWhatItEnclosesStaysOne(t *testing.T) {
	f, s := stock("blocks/a.html", "@{when inner}<b>@{=inner}</b>@{else}none@{/when}",
		"pages/p.html", "@{a}x@{/a} @{a /}")
	set, _, err := documents.DeleteBlock(s, "a", documents.WithContent, "", nil)
	o := after(t, f, set, err)
	require.Equal(t, sitetest.HTML(s, "pages/p.html"), sitetest.HTML(o, "pages/p.html"))
	require.NotContains(t, sitetest.Source(o, "pages/p.html"), "@{when")
}
