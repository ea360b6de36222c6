package documents_test

import (
	"maps"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"brickshelf/internal/core/check"
	"brickshelf/internal/core/edit/documents"
	"brickshelf/internal/core/site"
	"brickshelf/internal/core/sitetest"
)

var twins = site.Files{
	"site.yaml":      []byte("format: brickshelf/1\n"),
	"layouts/l.html": []byte("<head></head>@{region main /}@{region side /}"),
	"blocks/a.html":  []byte("---\nfields: {n: {type: text, default: one}}\n---\n<div class=\"card\"><b>@{=n}</b> Open all day</div>\n<p>Ask us</p>"),
	"blocks/b.html":  []byte("---\nfields: {n: {type: text, default: two}}\n---\n<div class=\"card wide\"><b>@{=n}</b> Closed at night</div>\n<p>Ask us</p>"),
	"rules/r.yaml":   []byte("block: b\nregion: side\non: [all]\n"),
	"pages/p.html":   []byte("---\ntitle: P\nlayout: l\n---\n@{a /}@{b /}@{b n=\"x\" /}@{a n=\"y\" /}"),
	"pages/q.html":   []byte("---\ntitle: Q\nlayout: l\noverrides: {main/b~1: {n: z}}\n---\n@{b /}"),
}

func TestTwoBlocksBecomeOneAndNoPageChanges(t *testing.T) {
	s := sitetest.New(twins)
	set, names, err := documents.Merge(s, "a", "b")
	require.NoError(t, err)
	require.Equal(t, []string{"text-2", "text"}, names)
	files := sitetest.Apply(t, twins, set)
	is := sitetest.New(files)
	require.Empty(t, check.Validity(is))
	require.Nil(t, is.Block("b"))
	require.Contains(t, string(files["blocks/a.html"]), `<div class="@{=text-2}"><b>@{=n}</b> @{=text}</div>`)
	for _, path := range s.PagePaths() {
		require.Equal(t, sitetest.HTML(s, path), sitetest.HTML(is, path), "%s", files[path])
	}
	require.Equal(t, 2, strings.Count(string(files["pages/p.html"]), `text="Closed at night"`))
}

func TestWhatCannotBeMerged(t *testing.T) {
	for want, change := range map[string]map[string]string{
		"there is no other block \"b\"":               {"blocks/b.html": ""},
		"they cannot be one":                          {"blocks/b.html": "<p>@{a /}"},
		"are not the same; make them so first":        {"blocks/b.css": "b{}"},
		"differ in line 1 of their markup":            {"blocks/b.html": "---\nfields: {n: {type: text, default: two}}\n---\n<section class=\"card\"><b>@{=n}</b> Open all day</div>\n<p>Ask us</p>"},
		"differ in line 2 of their markup":            {"blocks/b.html": "---\nfields: {n: {type: text, default: two}}\n---\n<div class=\"card\"><b>@{=n}</b> Open all day</div>\n<p>Ask @{=n}</p>"},
		"a has no field n of type number, as b has":   {"blocks/b.html": "---\nfields: {n: {type: number, default: 2}}\n---\n<div class=\"card\"><b>@{=n}</b> Open all day</div>\n<p>Ask us</p>"},
		"a has no field other of type text, as b has": {"blocks/b.html": "---\nfields: {n: {type: text}, other: {type: text}}\n---\n<div class=\"card\"><b>@{=n}</b> Open all day</div>\n<p>Ask us</p>"},
	} {
		files := maps.Clone(twins)
		for p, text := range change {
			if files[p] = []byte(text); text == "" {
				delete(files, p)
			}
		}
		_, _, err := documents.Merge(sitetest.New(files), "a", "b")
		require.ErrorContains(t, err, want)
	}
	_, _, err := documents.Merge(sitetest.New(twins), "none", "b")
	require.ErrorContains(t, err, "there is no block")
	_, _, err = documents.Merge(sitetest.New(twins), "a", "a")
	require.ErrorContains(t, err, "there is no other block")
}

// A block and its duplicate, in which one word of the text was changed, are one again without
// a page noticing, or that is refused.
func TestDrawnTwinsAreMergedWithoutAChange(t *testing.T) {
	merged := 0
	rapid.Check(t, func(t *rapid.T) {
		files := unstyled(sitetest.Site(t))
		s := sitetest.New(files)
		var names []string
		for _, n := range s.Names() {
			if s.Block(n) != nil && s.Used(n) {
				names = append(names, n)
			}
		}
		if len(names) == 0 {
			t.Skip("nothing stands anywhere")
		}
		name := rapid.SampledFrom(names).Draw(t, "block")
		twin, err := documents.DuplicateBlock(s, name, "twin")
		require.NoError(t, err)
		files = sitetest.Apply(t, files, twin)
		files["blocks/"+name+".html"] = append(files["blocks/"+name+".html"], "<p>it is this</p>"...)
		files["blocks/twin.html"] = append(files["blocks/twin.html"], "<p>it is that</p>"...)
		path := rapid.SampledFrom(s.PagePaths()).Draw(t, "page")
		files[path] = append(files[path], "@{twin /}"...)
		s = sitetest.New(files)
		set, _, err := documents.Merge(s, name, "twin")
		if err != nil {
			return
		}
		merged++
		is := sitetest.New(sitetest.Apply(t, files, set))
		require.Empty(t, check.Validity(is))
		for _, path := range s.PagePaths() {
			require.Equal(t, looks(s, path), looks(is, path))
		}
	})
	require.Positive(t, merged, "none was merged")
}
