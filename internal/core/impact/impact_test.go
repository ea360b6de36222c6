package impact_test

import (
	"testing"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"brickshelf/internal/core/impact"
	"brickshelf/internal/core/render"
	"brickshelf/internal/core/shelf"
	"brickshelf/internal/core/site"
	"brickshelf/internal/core/sitetest"
)

// oracle compares two sites the slow, obvious way: both compiled from nothing,
// every page rendered whole.
func oracle(before, after site.Files) *impact.Impact {
	var docs []string
	for _, c := range site.Diff(before, after).Changes {
		docs = append(docs, c.Path)
	}
	return impact.Every(sitetest.New(before), sitetest.New(after), docs)
}

func apply(t require.TestingT, f site.Files, changes []site.Change) site.Files {
	out, err := f.Apply(site.ChangeSet{Changes: changes})
	require.NoError(t, err)
	return out
}

func TestImpactIsThatOfRenderingEverythingTwice(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		before := sitetest.Site(t)
		changes := sitetest.Edit(t, before)
		after := apply(t, before, changes)
		stock := sitetest.New(before)
		for _, p := range stock.PagePaths() {
			render.Page(stock, p, render.Options{}) // fill the store of fragments
		}
		changes = site.Diff(before, after).Changes
		if rapid.Bool().Draw(t, "rested") {
			stock.Rest()
		}
		got := impact.Of(stock, stock.With(changes))
		want := oracle(before, after)
		require.Equal(t, want, got, "edits %v", paths(changes))
		require.Equal(t, oracle(after, before), impact.Turned(stock, stock.With(changes)),
			"the other way round")
		bytesDecide(t, got, sitetest.New(before), sitetest.New(after))
	})
}

// bytesDecide holds the pages that change to those of which a file differs that is
// published for either audience.
func bytesDecide(t require.TestingT, got *impact.Impact, before, after *shelf.Shelf) {
	effects := map[string]impact.Effect{}
	for _, p := range got.Pages {
		effects[p.Doc] = p.Effect
	}
	for _, p := range before.PagePaths() {
		a, b := before.Info(p), after.Info(p)
		if b == nil || a.Draft || b.Draft {
			continue
		}
		differs := false
		for _, signedIn := range []bool{false, true} {
			o := render.Options{SignedIn: signedIn}
			differs = differs || string(render.Page(before, p, o).HTML) != string(render.Page(after, p,
				o).HTML)
		}
		differs = differs || a.URL != b.URL // it is published as another file
		require.Equal(t, differs, effects[p] == impact.Changes, p)
	}
}

func paths(changes []site.Change) []string {
	var out []string
	for _, c := range changes {
		out = append(out, c.Path)
	}
	return out
}

func TestCommittedEditsLeaveTheShelfAsIfMadeAnew(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		files := sitetest.Site(t)
		stock := sitetest.New(files)
		for range 3 {
			changes := sitetest.Edit(t, files)
			files = apply(t, files, changes)
			for _, p := range stock.PagePaths() {
				render.Page(stock, p, render.Options{})
			}
			edited := stock.With(changes)
			// what was remembered while it was one must hold
			if edited.Overlay() && rapid.Bool().Draw(t, "looked at") {
				impact.Of(stock, edited)
				for _, p := range edited.PagePaths() {
					render.Page(edited, p, render.Options{})
				}
			}
			stock = stock.Commit(edited)
		}
		anew := sitetest.New(files)
		require.Equal(t, anew.PagePaths(), stock.PagePaths())
		for _, p := range anew.PagePaths() {
			for _, o := range []render.Options{{}, {SignedIn: true}} {
				require.Equal(t, string(render.Page(anew, p, o).HTML), string(render.Page(stock, p, o).HTML),
					p)
			}
			require.Equal(t, anew.Users("b2"), stock.Users("b2"))
		}
	})
}

// A site goes through states, and each stays what it was: whoever still reads an old one,
// while others read the next, is told of the old one, whatever pages remember. Seen from
// the last state, each of them is an overlay that is as that state.
func TestEachStateStaysAsItIs(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		files := sitetest.Site(t)
		states, trees := []*shelf.Shelf{sitetest.New(files)}, []site.Files{files}
		for range 3 {
			last := states[len(states)-1]
			changes := sitetest.Edit(t, files)
			edited := last.With(changes)
			if !edited.Overlay() {
				continue
			}
			files = apply(t, files, changes)
			next := last.Commit(edited)
			if rapid.Bool().Draw(t, "a new day") {
				next = next.Commit(next.At(next.Now().AddDate(0, 0, 40)))
			}
			states, trees = append(states, next), append(trees, files)
		}
		fresh := make([]*shelf.Shelf, len(trees))
		for i, f := range trees {
			fresh[i] = shelf.NewScripted(f, states[i].Now(), sitetest.Runner{})
		}
		for range 40 {
			i := rapid.IntRange(0, len(states)-1).Draw(t, "state")
			if len(fresh[i].PagePaths()) == 0 {
				continue
			}
			p := rapid.SampledFrom(fresh[i].PagePaths()).Draw(t, "page")
			o := render.Options{SignedIn: rapid.Bool().Draw(t, "signed in")}
			require.Equal(t, string(render.Page(fresh[i], p, o).HTML),
				string(render.Page(states[i], p, o).HTML),
				"state %d, %s", i, p)
		}
		last := len(states) - 1
		for i := range states {
			require.Equal(t, fresh[i].PagePaths(), states[i].PagePaths())
			require.Equal(t, fresh[i].Paths(""), states[i].Paths(""))
			like := states[last].Like(states[i])
			require.ElementsMatch(t, paths(site.Diff(trees[last], trees[i]).Changes), like.Changed())
			for _, p := range fresh[i].PagePaths() {
				require.Equal(t, string(render.Page(fresh[i], p, render.Options{}).HTML),
					string(render.Page(like, p, render.Options{}).HTML), "state %d, %s", i, p)
			}
			if !states[i].Now().Equal(states[last].Now()) {
				continue
			}
			whole := impact.Every(fresh[i], fresh[last], paths(site.Diff(trees[i], trees[last]).Changes))
			require.Equal(t, whole.Counts, impact.Turned(states[last], like).Counts)
		}
	})
}

func TestEffects(t *testing.T) {
	files := site.Files{
		"site.yaml":          []byte("format: brickshelf/1\n"),
		"layouts/l.html":     []byte("---\nregions: {top: {mode: one}, main: {mode: stack}}\n---\n@{region top /}@{region main /}"),
		"blocks/bar.html":    []byte("---\nfields: {tone: {type: text, default: calm}}\n---\n<b>@{=tone}</b>"),
		"blocks/rest.html":   []byte("rest"),
		"rules/bar.yaml":     []byte("block: bar\nregion: top\non: [\"under:/a/\"]\n"),
		"pages/a/plain.html": []byte("---\nlayout: l\n---\n"),
		"pages/a/held.html":  []byte("---\nlayout: l\noverrides: {\"top/rule:bar\": {tone: loud}}\n---\n"),
		"pages/a/own.html":   []byte("---\nlayout: l\n---\n@{fill top}mine@{/fill}"),
		"pages/a/off.html":   []byte("---\nlayout: l\nhidden: [\"top/rule:bar\"]\n---\n"),
		"pages/a/copy.html":  []byte("---\nlayout: l\ncopies: {\"top/rule:bar\": {of: bar, base: x, text: old}}\n---\n"),
		"pages/b.html":       []byte("---\nlayout: l\n---\n@{rest /}"),
	}
	s := sitetest.New(files)
	effects := func(path, after string) map[string]impact.Effect {
		out := map[string]impact.Effect{}
		for _, p := range impact.Of(s, s.With([]site.Change{{Path: path, After: []byte(after)}})).Pages {
			out[p.Path] = p.Effect
		}
		return out
	}
	require.Equal(t, map[string]impact.Effect{"/a/plain/": "changes", "/a/held/": "held", "/a/own/": "hidden",
		"/a/off/": "hidden", "/a/copy/": "copied"},
		effects("blocks/bar.html", "---\nfields: {tone: {type: text, default: low}}\n---\n<b>@{=tone}</b>"))
	require.Equal(t, map[string]impact.Effect{"/a/plain/": "same", "/a/held/": "same", "/a/own/": "hidden",
		"/a/off/": "hidden", "/a/copy/": "copied"},
		effects("blocks/bar.html",
			"---\ntitle: Bar\nfields: {tone: {type: text, default: calm}}\n---\n<b>@{=tone}</b>"))
	require.Equal(t, map[string]impact.Effect{"/new/": "added"}, effects("pages/new.html", "x"))

	im := impact.Of(s, s.With([]site.Change{{Path: "blocks/rest.html", Delete: true}}))
	require.Equal(t, 6, im.Total)
	require.Equal(t, 1, im.Breaks())
	require.Equal(t, impact.Break{Code: "unresolved-call", Address: "main/rest~1",
		Message: im.Pages[0].Breaks[0].Message}, im.Pages[0].Breaks[0])
}
