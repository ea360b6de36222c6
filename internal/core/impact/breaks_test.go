package impact_test

import (
	"testing"

	"github.com/stretchr/testify/require"

	"brickshelf/internal/core/impact"
	"brickshelf/internal/core/site"
	"brickshelf/internal/core/sitetest"
)

var broken = site.Files{
	"site.yaml":          []byte("format: brickshelf/1\n"),
	"layouts/l.html":     []byte("@{region main /}@{region foot /}"),
	"blocks/foot.html":   []byte("<dialog id=\"film\"></dialog><p>Since 1911</p>"),
	"blocks/open.html":   []byte("<a href=\"#film\">Film</a>"),
	"rules/foot.yaml":    []byte("block: foot\nregion: foot\non: [all]\n"),
	"assets/pic.svg":     []byte("<svg/>"),
	"pages/index.html":   []byte("---\nlayout: l\n---\n@{open /}<a href=\"/a/b/\">b</a>"),
	"pages/a/index.html": []byte("---\nlayout: l\n---\n<a href=\"b/#x\">b</a><img src=\"/assets/pic.svg\">"),
	"pages/a/b.html":     []byte("---\nlayout: l\noverrides: {\"foot/rule:foot\": {word: x}}\n---\nplain"),
}

// Each edit breaks just what it breaks, on the pages where it does.
func TestWhatAnEditBreaks(t *testing.T) {
	s := sitetest.New(broken)
	edit := func(path, text string) []site.Change {
		return []site.Change{{Path: path, Before: s.Hash(path), After: []byte(text), Delete: text == ""}}
	}
	for name, c := range map[string]struct {
		changes []site.Change
		want    map[string]string
		same    []string // pages of which not a byte differs, and which break all the same
	}{
		"a word": {edit("blocks/foot.html",
			"<dialog id=\"film\"></dialog><p>Since <b>1912</b></p>"), map[string]string{}, nil},
		"an id is gone": {edit("blocks/foot.html", "<p>Since 1911</p>"),
			map[string]string{"/": "missing-target main/open~1"}, nil},
		"an id is another": {edit("blocks/foot.html",
			"<dialog id=\"cinema\"></dialog><p>Since 1911</p>"),
			map[string]string{"/": "missing-target main/open~1"}, nil},
		"a link to nothing": {edit("blocks/open.html",
			"<a href=\"#film\">Film</a><a href=\"/none/\">x</a>"),
			map[string]string{"/": "missing-page main/open~1"}, nil},
		"a link to something": {edit("blocks/open.html",
			"<a href=\"#film\">Film</a><a href=\"/a/\">x</a>"), map[string]string{}, nil},
		"a page is gone": {edit("pages/a/b.html", ""), map[string]string{"/": "missing-page ",
			"/a/": "missing-page "}, []string{"/", "/a/"}},
		"a page is a draft": {edit("pages/a/b.html", "---\ndraft: true\n---\n"),
			map[string]string{"/": "missing-page ", "/a/": "missing-page "}, []string{"/", "/a/"}},
		"a file is gone": {edit("assets/pic.svg", ""), map[string]string{"/a/": "missing-file "},
			[]string{"/a/"}},
		"a block is gone": {edit("blocks/open.html", ""),
			map[string]string{"/": "unresolved-call main/open~1"}, nil},
		"a rule is gone": {edit("rules/foot.yaml", ""),
			map[string]string{"/": "missing-target main/open~1"}, nil},
		"a layout loses regions": {edit("layouts/l.html", "@{region foot /}"),
			map[string]string{"/": "missing-region main", "/a/": "missing-region main",
				"/a/b/": "missing-region main"}, nil},
	} {
		im := impact.Of(s, s.With(c.changes))
		got := map[string]string{}
		for _, p := range im.Pages {
			for _, b := range p.Breaks {
				got[p.Path] = b.Code + " " + b.Address
			}
			for _, same := range c.same {
				if p.Path == same {
					require.Equal(t, impact.Same, p.Effect, name)
				}
			}
		}
		require.Equal(t, c.want, got, name)
		require.Equal(t, len(c.want), im.Breaks(), name)
	}
}

// The way back breaks nothing, and mends nothing that was not broken by it.
func TestTurnedIsTheOtherWayRound(t *testing.T) {
	s := sitetest.New(broken)
	o := s.With([]site.Change{{Path: "blocks/foot.html", After: []byte("<p>none</p>")},
		{Path: "pages/new.html", After: []byte("x")}, {Path: "pages/a/b.html", Delete: true}})
	there, back := impact.Of(s, o), impact.Turned(s, o)
	require.Equal(t, there.Counts[impact.Added], back.Counts[impact.Removed])
	require.Equal(t, there.Counts[impact.Removed], back.Counts[impact.Added])
	require.Equal(t, there.Counts[impact.Changes], back.Counts[impact.Changes])
	require.Positive(t, there.Breaks())
	require.Equal(t, 1, back.Breaks(), "the page that comes back has an override that takes nothing")
}

func TestSentences(t *testing.T) {
	s := sitetest.New(broken)
	for want, path := range map[string]string{
		"Changes 3 pages. No new errors.":                                                                         "blocks/foot.html|<dialog id=\"film\"></dialog>new",
		"Changes 1 page. 1 thing breaks: there is no block or shortcode open (/).":                                "blocks/open.html|",
		"No page changes. 1 page is removed. 2 things break: leads to /a/b/, where there is no page (/ and /a/).": "pages/a/b.html|",
		"No page changes. 1 page is added. No new errors.":                                                        "pages/new.html|x",
		"No page changes. No new errors.":                                                                         "blocks/open.html|<a href=\"#film\">Film</a>",
	} {
		for i := range path {
			if path[i] == '|' {
				c := site.Change{Path: path[:i], After: []byte(path[i+1:]), Delete: i+1 == len(path)}
				require.Equal(t, want, impact.Of(s, s.With([]site.Change{c})).Sentence(), path)
			}
		}
	}
}
