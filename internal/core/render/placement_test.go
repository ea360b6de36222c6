package render_test

import (
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"brickshelf/internal/core/explain"
	"brickshelf/internal/core/render"
	"brickshelf/internal/core/site"
	"brickshelf/internal/core/sitetest"
)

// Every placement lies on the page, and within what it stands in.
func TestPlacementsLieWithinOneAnother(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		s := sitetest.New(sitetest.Site(t))
		for _, path := range s.PagePaths() {
			plain := render.Page(s, path, render.Options{})
			res := render.Page(s, path, render.Options{Placements: true})
			require.Equal(t, string(plain.HTML), string(res.HTML),
				"looking at the placements changes nothing")
			at := map[string][]render.Placement{} // what is enclosed can be shown more than once
			for _, p := range res.Placements {
				require.True(t, 0 <= p.From && p.From <= p.To && p.To <= len(res.HTML),
					"%s: %s from %d to %d of %d", path, p.Address, p.From, p.To, len(res.HTML))
				if p.Kind == render.Hidden {
					require.Equal(t, p.From, p.To, "%s: %s is hidden", path, p.Address)
				}
				at[p.Address] = append(at[p.Address], p)
			}
			for _, p := range res.Placements {
				outer := at[p.Address[:strings.LastIndexByte(p.Address, '/')]]
				// a script shows what it likes of what it encloses
				if len(outer) > 0 && outer[0].Block != "s0" {
					within := func(o render.Placement) bool { return o.From <= p.From && p.To <= o.To }
					require.True(t, slices.ContainsFunc(outer, within), "%s: %s from %d to %d, in %v", path,
						p.Address, p.From, p.To, outer)
				}
			}
		}
	})
}

func TestPlacementsThatShowNothingWhereTheLinksStand(t *testing.T) {
	s := sitetest.New(site.Files{
		"site.yaml":         []byte("format: brickshelf/1\n"),
		"blocks/empty.html": []byte(""),
		"blocks/empty.css":  []byte("b{}"),
		"blocks/outer.html": []byte("<i>@{empty /}"),
		"pages/p.html":      []byte("<head>@{empty /}@{outer /}@{empty /}</head>@{empty /}"),
	})
	res := render.Page(s, "pages/p.html", render.Options{Placements: true})
	shows := func(i int) string { return string(res.HTML[res.Placements[i].From:res.Placements[i].To]) }
	require.Len(t, res.Placements, 5)
	for _, i := range []int{0, 2, 3, 4} {
		require.Empty(t, shows(i), res.Placements[i].Address)
	}
	require.Equal(t, "<i>", shows(1))
}

// What stands in the panels of a menu is the menu's, each in a place of its own.
func TestPlacementsInPanels(t *testing.T) {
	s := sitetest.New(site.Files{
		"site.yaml":        []byte("format: brickshelf/1\n"),
		"layouts/l.html":   []byte("@{region main /}@{nav /}"),
		"blocks/nav.html":  []byte("@{menu name=m /}"),
		"blocks/card.html": []byte("---\nfields: {w: {type: text, default: plain}}\n---\n[@{=w}]@{=inner}"),
		"menus/m.yaml":     []byte("items:\n  - {label: A, panel: '@{card}@{card /}@{/card}', items: [{label: B, panel: '@{card /}'}, {label: C, items: [{label: D, panel: '@{card /}'}]}]}\n  - {label: E, panel: '@{copy of=card base=x}@{card /}@{/copy}'}\n"),
		"pages/p.html":     []byte("---\nlayout: l\noverrides: {\"layout/nav~1/menu~1/item~1/item~1/card~1\": {w: own}}\n---\n@{menu name=m /}"),
	})
	via, seen := map[string]string{}, map[string]bool{}
	for _, p := range render.Page(s, "pages/p.html", render.Options{Placements: true}).Placements {
		require.False(t, seen[p.Address], "%s stands there once", p.Address)
		seen[p.Address] = true
		via[p.Address] = p.Via
	}
	for _, menu := range []string{"main/menu~1", "layout/nav~1/menu~1"} {
		for _, address := range []string{"/item~1/card~1", "/item~1/card~2", "/item~1/item~1/card~1",
			"/item~1/item~2/item~1/card~1", "/item~2/card~1", "/item~2/card~1/card~1"} {
			require.Equal(t, "menus/m.yaml", via[menu+address], menu+address)
			delete(via, menu+address)
		}
	}
	require.Equal(t, map[string]string{"layout/nav~1": "layouts/l.html"}, via)
	html := string(render.Page(s, "pages/p.html", render.Options{}).HTML)
	require.Equal(t, 1, strings.Count(html, "[own]"), "what the page says of one of them is said of no other")
	require.Empty(t, explain.Faults(s, "pages/p.html"))
	l := explain.PrecedenceAt(s, "pages/p.html", "layout/nav~1/menu~1/item~1/item~1/card~1", false)
	require.Equal(t, "menus/m.yaml", l.Via)
}

func TestPlacementsInAttributes(t *testing.T) {
	s := sitetest.New(site.Files{
		"site.yaml":         []byte("format: brickshelf/1\n"),
		"blocks/less.html":  []byte("<"),
		"blocks/outer.html": []byte("a\"@{less /}b"),
		"blocks/bad.html":   []byte("javascript:@{less /}alert()"),
		"pages/p.html":      []byte(`<p title="x @{outer /} y"><a href="@{bad /}">`),
	})
	res := render.Page(s, "pages/p.html", render.Options{Placements: true})
	shown := map[string]string{}
	for _, p := range res.Placements {
		shown[p.Address] = string(res.HTML[p.From:p.To])
	}
	require.Equal(t, `<p title="x a&#34;&lt;b y"><a href="#">`, string(res.HTML))
	require.Equal(t, map[string]string{"main/outer~1": "a&#34;&lt;b", "main/outer~1/less~1": "&lt;",
		"main/bad~1": "#", "main/bad~1/less~1": ""}, shown)
}

// A script may put what it encloses anywhere into what it shows.
func TestPlacementsInWhatAScriptEncloses(t *testing.T) {
	s := sitetest.New(site.Files{
		"site.yaml":       []byte("format: brickshelf/1\n"),
		"blocks/a.html":   []byte("<b>a</b>"),
		"shortcodes/s.js": []byte("/*\nencloses: true\n*/\nfunction shortcode() {}\n"),
		"pages/p.html":    []byte("x@{s}y@{a /}@{/s}"),
	})
	res := render.Page(s, "pages/p.html", render.Options{Placements: true})
	at := map[string]string{}
	for _, p := range res.Placements {
		at[p.Address] = string(res.HTML[p.From:p.To])
	}
	require.Equal(t, "<b>a</b>", at["main/a~1"], at)
}
