package impact_test

import (
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"brickshelf/internal/core/impact"
	"brickshelf/internal/core/site"
	"brickshelf/internal/core/sitetest"
)

func config(more string) []byte { return []byte("format: brickshelf/1\n" + more) }

// A page whose file gets another name and keeps its address is one page.
func TestAPageWhoseFileIsRenamedIsOnePage(t *testing.T) {
	before := site.Files{"site.yaml": config(""), "pages/a.html": []byte("text"), "pages/b.html": []byte("b")}
	for text, want := range map[string]impact.Effect{"text": impact.Same, "other": impact.Changes} {
		after := site.Files{"site.yaml": before["site.yaml"], "pages/a/index.html": []byte(text),
			"pages/b.html": before["pages/b.html"]}
		s := sitetest.New(before)
		for _, im := range []*impact.Impact{impact.Of(s, s.With(site.Diff(before, after).Changes)),
			oracle(before, after)} {
			require.Equal(t, 1, im.Counts[want], "%v", im)
			require.Zero(t, im.Counts[impact.Added]+im.Counts[impact.Removed])
			require.Equal(t, "/a/", im.Pages[0].Path)
			require.Equal(t, "pages/a/index.html", im.Pages[0].Doc)
			require.Equal(t, 2, im.Total)
		}
		now := sitetest.New(after)
		require.Equal(t, 1, impact.Turned(now, now.Like(s)).Counts[want], "the other way round")
	}
}

func TestPagesThatGetAnotherAddressAreTold(t *testing.T) {
	before := site.Files{"site.yaml": config(""), "pages/index.html": []byte("home"),
		"pages/a.html": []byte("a"), "pages/b/c.html": []byte("c")}
	s := sitetest.New(before)
	after := site.Files{"site.yaml": config("exact_urls: true\n"),
		"pages/index.html": before["pages/index.html"], "pages/a.html": before["pages/a.html"],
		"pages/b/c.html": before["pages/b/c.html"]}
	im, _ := impact.Whole(s, after)
	require.Equal(t, "Changes 2 pages. 2 pages get another address. No new errors.", im.Sentence())
	require.Equal(t, [2]string{"/a/", "/a.html"}, [2]string{im.Pages[0].From, im.Pages[0].Path})
}

// A copy that stands inside another block is a copy too.
func TestACopyInsideAnotherBlockIsTold(t *testing.T) {
	f := site.Files{"site.yaml": config(""), "blocks/a.html": []byte("a"),
		"blocks/b.html": []byte(`<p>@{copy of="a" base="x"}old@{/copy}</p>`),
		"blocks/c.html": []byte("@{b /}"), "pages/p.html": []byte("@{b /}"), "pages/q.html": []byte("@{c /}"),
		"pages/r.html": []byte("@{b /}@{a /}"), "pages/s.html": []byte("s")}
	s := sitetest.New(f)
	im := impact.Of(s, s.With([]site.Change{{Path: "blocks/a.html", After: []byte("new")}}))
	require.Equal(t, map[string]impact.Effect{"/p/": impact.Copied, "/q/": impact.Copied,
		"/r/": impact.Changes}, effectsOf(im))
	f["blocks/a.html"] = []byte("new")
	before := s.Files()
	require.Equal(t, effectsOf(oracle(before, f)), effectsOf(im))
}

func effectsOf(im *impact.Impact) map[string]impact.Effect {
	out := map[string]impact.Effect{}
	for _, p := range im.Pages {
		out[p.Path] = p.Effect
	}
	return out
}

// Whatever is an error after an edit and was none before breaks, also in a document that is
// no page; what is merely found under another name does not.
func TestErrorsInDocumentsAreBreaks(t *testing.T) {
	f := site.Files{
		"site.yaml":      config(""),
		"layouts/l.html": []byte("---\nregions: {bar: {mode: one}, main: {mode: stack}}\n---\n@{region bar /}@{region main /}"), "pages/p.html": []byte("---\nlayout: l\n---\n@{note /}"),
		"blocks/note.html": []byte("---\nfields: {n: {type: text, required: true}}\n---\n@{=n}@{gone /}"),
		"blocks/box.html":  []byte("---\nfields: {n: {type: text}}\n---\n@{=n}"),
		"rules/r.yaml":     []byte("block: box\nregion: bar\non: [all]\nset: {n: many}\n"),
	}
	s := sitetest.New(f)
	breaks := func(changes ...site.Change) []string {
		o := s.With(changes)
		im := impact.Of(s, o)
		var out []string
		for _, b := range im.Documents {
			out = append(out, b.Code+" "+b.Address)
		}
		after := site.Files{}
		for _, p := range o.Paths("") {
			after[p], _ = o.Get(p)
		}
		require.Equal(t, oracle(f, after).Documents, im.Documents)
		require.Equal(t, oracle(f, after).Breaks(), im.Breaks())
		return out
	}
	require.Equal(t, []string{"wrong-type rules/r.yaml:4:10"},
		breaks(site.Change{Path: "blocks/box.html",
			After: []byte("---\nfields: {n: {type: number}}\n---\n@{=n}")}))
	require.Equal(t, []string{"unknown-region rules/r.yaml:2:9"},
		breaks(site.Change{Path: "layouts/l.html",
			After: []byte("---\nregions: {main: {mode: stack}}\n---\n@{region main /}")}))
	require.Equal(t, []string{"unknown-region rules/r.yaml:2:9"},
		breaks(site.Change{Path: "pages/p.html", After: []byte("no layout")}),
		"no page is left that has the region")
	require.Equal(t, []string{"unknown-region rules/r.yaml:2:9"},
		breaks(site.Change{Path: "pages/p.html", Delete: true}, site.Change{Path: "pages/q.html",
			After: []byte("no layout")}))
	require.Empty(t, breaks(site.Change{Path: "pages/q.html", After: []byte("no layout")}),
		"another page has it")
	require.Empty(t, breaks(site.Change{Path: "blocks/box.html", Delete: true}), "it is told of the page")
	require.Empty(t, breaks(site.Change{Path: "blocks/box.html", After: []byte("other")},
		site.Change{Path: "rules/r.yaml", After: []byte("block: box\nregion: bar\non: [all]\n")}))

	note := f["blocks/note.html"]
	renamed := s.With([]site.Change{{Path: "blocks/note.html", Delete: true}, {Path: "blocks/word.html",
		After: note}, {Path: "pages/p.html", After: []byte("---\nlayout: l\n---\n@{word /}")}})
	require.Zero(t, impact.Of(s, renamed).Breaks(), "%v", impact.Of(s, renamed))
}

// The sentence speaks of today and of each day ahead on which something changes.
func TestWhatChangesOnDaysAheadIsSaid(t *testing.T) {
	in := func(days int) string { return sitetest.Now.AddDate(0, 0, days).Format(time.DateOnly) }
	f := site.Files{"site.yaml": config(""), "layouts/l.html": []byte("@{region bar /}@{region main /}"),
		"blocks/fair.html": []byte("fair"), "blocks/in.html": []byte("in"),
		"blocks/out.html": []byte("@{in /}")}
	for _, p := range []string{"a", "b", "c"} {
		f["pages/"+p+".html"] = []byte("---\nlayout: l\n---\n" + p)
	}
	said := func(f site.Files, c site.Change) string {
		s := sitetest.New(f)
		o := s.With([]site.Change{c})
		im := impact.Of(s, o)
		im.Later = impact.Ahead(s, o)
		return im.Sentence()
	}
	rule := func(block, more string) []byte {
		return []byte("block: " + block + "\nregion: bar\non: [all]\nexcept: [\"page:/c/\"]\n" + more)
	}
	begins := site.Change{Path: "rules/fair.yaml", After: rule("fair", "from: "+in(7)+"\n")}
	require.Equal(t, "No page changes. 2 pages hide it or lack the region. From "+in(7)+" on 2 pages change. No new errors.",
		said(f, begins))
	ends := site.Change{Path: "rules/fair.yaml", After: rule("fair", "until: "+in(2)+"\n")}
	require.Equal(t, "Changes 2 pages. No new errors.", said(f, ends))
	f["rules/fair.yaml"], f["rules/out.yaml"] = begins.After, rule("out", "until: "+in(2)+"\n")
	require.Equal(t, "No page changes. 2 pages hide it or lack the region. From "+in(7)+" on 2 pages change. No new errors.",
		said(f, site.Change{Path: "blocks/fair.html", After: []byte("new")}))
	require.Equal(t, "Changes 2 pages. No new errors.",
		said(f, site.Change{Path: "blocks/in.html", After: []byte("new")}),
		"a day on which it no longer shows changes nothing")
}
