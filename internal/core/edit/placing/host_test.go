package placing_test

import (
	"testing"

	"github.com/stretchr/testify/require"

	"brickshelf/internal/core/check"
	"brickshelf/internal/core/edit/placing"
	"brickshelf/internal/core/explain"
	"brickshelf/internal/core/site"
	"brickshelf/internal/core/sitetest"
)

func overlays() site.Files {
	return site.Files{"site.yaml": []byte("format: brickshelf/1\n"),
		"blocks/film.html":  []byte("---\noverlay: true\nfields: {id: {type: text, default: film}}\n---\n<dialog id=\"@{=id}\">x</dialog>"),
		"layouts/one.html":  []byte("---\nregions: {main: {mode: stack}, corner: {mode: stack}, foot: {mode: one}}\n---\n@{region main /}@{region corner /}@{region foot /}"),
		"layouts/two.html":  []byte("@{region main /}"),
		"pages/hosts.html":  []byte("@{film /}@{film id=other /}<a href=\"#film\">f</a>"),
		"pages/lacks.html":  []byte("---\nlayout: one\n---\n<a href=\"#film\">f</a>\n\n@{fill foot}x@{/fill}"),
		"pages/lacks2.html": []byte("---\nlayout: two\n---\n<button popovertarget=other></button><a href=#film>"),
		"pages/calm.html":   []byte("film")}
}

func TestOverlaysAndWhoHostsThem(t *testing.T) {
	s := sitetest.New(overlays())
	require.Equal(t, []explain.Overlay{{Block: "film", ID: "film", Hosts: []string{"pages/hosts.html"}},
		{Block: "film", ID: "other", Hosts: []string{"pages/hosts.html"}}}, explain.Overlays(s))
	require.Equal(t, []string{"pages/lacks.html", "pages/lacks2.html"}, explain.Unhosted(s, "film"))
	require.Equal(t, []string{"pages/lacks2.html"}, explain.Unhosted(s, "other"))

	f := overlays()
	delete(f, "pages/hosts.html")
	require.Equal(t, []explain.Overlay{{Block: "film", ID: "film", Hosts: []string{}}}, explain.Overlays(sitetest.New(f)))
}

func TestHostingAnOverlay(t *testing.T) {
	f := overlays()
	s := sitetest.New(f)
	set, err := placing.Host(s, "film", "film", []string{"pages/lacks.html"}, false)
	require.NoError(t, err)
	require.Equal(t, "Host #film on /lacks/", set.Title)
	one := sitetest.New(sitetest.Apply(t, f, set))
	require.Equal(t, []string{"pages/lacks2.html"}, explain.Unhosted(one, "film"))
	src, _ := one.Get("pages/lacks.html")
	require.Equal(t, "---\nlayout: one\n---\n<a href=\"#film\">f</a>\n@{film /}\n@{fill foot}x@{/fill}", string(src))

	set, err = placing.Host(s, "film", "film", explain.Unhosted(s, "film"), true)
	require.NoError(t, err)
	all := sitetest.Apply(t, f, set)
	require.Equal(t, "block: film\nregion: corner\non: [\"page:/lacks/\"]\nat: end\n", string(all["rules/host-film-corner.yaml"]))
	require.Equal(t, "block: film\nregion: main\non: [\"page:/lacks2/\"]\nat: end\n", string(all["rules/host-film-main.yaml"]))
	is := sitetest.New(all)
	require.Empty(t, check.Validity(is))
	require.Empty(t, explain.Unhosted(is, "film"))

	set, err = placing.Host(is, "film", "other", explain.Unhosted(is, "other"), true)
	require.NoError(t, err)
	again := sitetest.New(sitetest.Apply(t, all, set))
	require.Empty(t, explain.Unhosted(again, "other"))
	for want, try := range map[string]func() error{
		"no page leads": func() error { _, err := placing.Host(is, "film", "film", nil, true); return err },
		"no block":      func() error { _, err := placing.Host(is, "flim", "film", nil, true); return err },
		"no region that takes several": func() error {
			_, err := placing.Host(s, "film", "film", []string{"pages/calm.html"}, true)
			return err
		},
	} {
		require.ErrorContains(t, try(), want)
	}
}

func TestAnOverlayThatIsNone(t *testing.T) {
	for text, want := range map[string]string{
		"---\noverlay: true\nfields: {id: {type: text}}\n---\n<dialog id=\"@{=id}\">":                  "",
		"---\noverlay: true\nfields: {id: {type: text}}\n---\n<div popover class=\"a\" id=\"@{=id}\">": "",
		"---\noverlay: true\nfields: {id: {type: text}}\n---\n<p id=\"@{=id}\"><dialog>":               "no-overlay",
		"---\noverlay: true\n---\n<dialog>":                                                            "missing-key",
		"---\noverlay: true\nfields: {id: {type: switch}}\n---\n<dialog>@{=id}":                        "missing-key",
		"---\noverlay: maybe\nfields: {id: {type: text}}\n---\n<dialog>@{=id}":                         "wrong-type",
	} {
		f := site.Files{"site.yaml": []byte("format: brickshelf/1\n"), "blocks/a.html": []byte(text), "pages/p.html": []byte("@{a /}")}
		got := ""
		for _, p := range check.Site(sitetest.New(f)) {
			got += p.Code
		}
		require.Equal(t, want, got, text)
	}
}
