package render_test

import (
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"brickshelf/internal/core/assets"
	"brickshelf/internal/core/impact"
	"brickshelf/internal/core/render"
	"brickshelf/internal/core/shelf"
	"brickshelf/internal/core/site"
	"brickshelf/internal/core/sitetest"
)

func files(pairs ...string) site.Files {
	f := site.Files{"site.yaml": []byte("format: brickshelf/1\nname: Test & Co\nfields: {phone: {type: text, default: \"1\"}}\n")}
	for i := 0; i < len(pairs); i += 2 {
		f[pairs[i]] = []byte(pairs[i+1])
	}
	return f
}

func show(t *testing.T, f site.Files, path string) string {
	s := sitetest.New(f)
	require.Empty(t, s.Problems(func(string) bool { return true }))
	return string(render.Page(s, path, render.Options{}).HTML)
}

func TestTheLanguage(t *testing.T) {
	blocks := []string{
		"blocks/hi.html",
		"---\nfields: {name: {type: text, default: you}, loud: {type: switch, default: false}}\n---\n@{when loud}HI@{else}hi@{/when} @{=name}",
		"blocks/box.html",
		"---\nfields: {title: {type: text}}\n---\n<div>@{when title}<h2>@{=title}</h2>@{/when}@{when inner}@{=inner}@{else}empty@{/when}</div>",
		"blocks/list.html",
		"---\nfields: {links: {type: list, fields: {label: {type: text}, to: {type: link}}, default: [{label: A&B, to: /a/}]}}\n---\n@{each links as link}<a href=\"@{=link.to}\">@{=link.label}</a>@{/each}",
		"blocks/card.html",
		"---\nfields: {phone: {type: text, from: page.phone, default: std}}\n---\n@{hi name=(phone) /}",
		"blocks/go.html",
		"---\nfields: {to: {type: link, default: {to: /x/, label: Go, new_tab: true}}}\n---\n<a href=\"@{=to}\"@{when to.new_tab} target=\"_blank\"@{/when}>@{=to}</a>",
	}
	for src, want := range map[string]string{
		`@{hi /}`:                                "hi you",
		`@{hi name="<me>" loud=true /}`:          "HI &lt;me&gt;",
		`@{hi name=(page.title or site.name) /}`: "hi Test &amp; Co",
		`@{hi name=(page.nothing) /}`:            "hi you",
		`@{hi name="" /}`:                        "hi ",
		`@{box}@{hi /}@{/box}`:                   "<div>hi you</div>",
		`@{box title="T" /}`:                     "<div><h2>T</h2>empty</div>",
		`@{list /}`:                              `<a href="/a/">A&amp;B</a>`,
		`@{list links=[{"label":"x","to":"javascript:1"}] /}`: `<a href="/a/">A&amp;B</a>`,
		`@{list links=[] /}|`:                  "|",
		`@{card /}`:                            "hi std",
		`@{go /}`:                              `<a href="/x/" target="_blank">Go</a>`,
		`@{when site.phone is "1"}one@{/when}`: "one",
		`@{when not site.phone}none@{else}some@{/when}`: "some",
		`@@{hi /} @{# note }@{="@"}`:                    "@{hi /} @",
		`<a href="@{url page="/p/" /}">`:                `<a href="/p/">`,
		`@{year /}`:                                     "2026",
		`a@{missing /}b`:                                "ab",
		`@{copy of="hi" base="x"}kept @{inner}@{hi /}@{/inner}@{=inner}@{/copy}`: "kept hi youhi you",
		`@{image src="/i.png" alt="a\"b" width=20 /}`:                            `<img src="/i.png" alt="a&#34;b" width="20" loading="lazy">`,
	} {
		f := files(blocks...)
		f["pages/p.html"] = []byte(src)
		require.Equal(t, want, show(t, f, "pages/p.html"), src)
	}
}

func TestRegionsAndRules(t *testing.T) {
	f := files(
		"layouts/l.html",
		"---\nregions: {top: {mode: one}, main: {mode: stack}, side: {mode: stack}}\n---\n[@{region top}none@{/region}|@{region main /}|@{region side}default@{/region}]",
		"blocks/bar.html", "---\nfields: {t: {type: text, default: bar}}\n---\n@{=t}",
		"rules/bar.yaml", "block: bar\nregion: top\non: [all]\nset: {t: set}\n",
		"rules/first.yaml", "block: bar\nregion: main\non: [all]\nat: start\n",
		"pages/a.html", "---\nlayout: l\n---\ntext",
		"pages/b.html",
		"---\nlayout: l\noverrides: {\"top/rule:bar\": {t: own}}\nhidden: [\"main/rule:first\"]\n---\n@{fill top}@{/fill}@{fill side}mine@{/fill}",
		"pages/c.html",
		"---\nlayout: l\ncopies: {\"top/rule:bar\": {of: bar, base: x, text: \"a copy of @{bar /}\"}}\noverrides: {\"top/rule:bar/bar~1\": {t: inside}}\n---\n",
		"pages/d.html", "---\nlayout: l\n---\n@{fill top}my own@{/fill}",
	)
	require.Equal(t, "[set|bartext|default]", show(t, f, "pages/a.html"))
	require.Equal(t, "[own||mine]", show(t, f, "pages/b.html"))
	require.Equal(t, "[a copy of inside|bar|default]", show(t, f, "pages/c.html"))
	require.Equal(t, "[my own|bar|default]", show(t, f, "pages/d.html"))
}

func TestThePrecedence(t *testing.T) {
	f := files(
		"layouts/l.html",
		"---\nregions: {top: {mode: one}}\npage_fields: {logo: {type: text}}\n---\n@{region top /}",
		"blocks/head.html", "---\nfields: {logo: {type: text, from: page.logo, default: std}}\n---\n@{=logo}",
		"rules/head.yaml", "block: head\nregion: top\non: [\"under:/set/\"]\nset: {logo: by rule}\n",
		"rules/rest.yaml", "block: head\nregion: top\non: [all]\n",
		"pages/default.html", "---\nlayout: l\n---\n",
		"pages/page.html", "---\nlayout: l\nfields: {logo: of page}\n---\n",
		"pages/set/rule.html", "---\nlayout: l\nfields: {logo: of page}\n---\n",
		"pages/set/own.html",
		"---\nlayout: l\nfields: {logo: of page}\noverrides: {\"top/rule:head\": {logo: own}}\n---\n",
	)
	for path, want := range map[string]string{"default": "std", "page": "of page", "set/rule": "by rule",
		"set/own": "own"} {
		require.Equal(t, want, show(t, f, "pages/"+path+".html"))
	}
}

func TestProvenance(t *testing.T) {
	f := files(
		"layouts/l.html", "---\nregions: {main: {mode: stack}}\n---\n<head></head>@{logo /}@{region main /}",
		"blocks/logo.html", "<i>logo</i>",
		"blocks/card.html", "<div>@{logo /}@{=inner}</div>",
		"blocks/card.css", "div{}",
		"pages/p.html", "---\nlayout: l\n---\n@{card}@{logo /}@{/card}",
	)
	s := sitetest.New(f)
	res := render.Page(s, "pages/p.html", render.Options{Placements: true})
	got := map[string]string{}
	for _, p := range res.Placements {
		got[p.Address] = string(res.HTML[p.From:p.To])
	}
	require.Equal(t, map[string]string{
		"layout/logo~1":      "<i>logo</i>",
		"main/card~1":        "<div><i>logo</i><i>logo</i></div>",
		"main/card~1/logo~1": "<i>logo</i>",
		"main/logo~1":        "<i>logo</i>",
	}, got)
	require.Contains(t, string(res.HTML), `<head><link rel="stylesheet" href="/_shelf/`)
	require.Equal(t, string(res.HTML), string(render.AppendPage(s, nil, s.Info("pages/p.html"))))
}

func TestMenusAndLists(t *testing.T) {
	f := files(
		"menus/main.yaml",
		"items:\n  - {label: A, to: /a/, badge: new, items: [{label: B, to: /a/b/}]}\n  - {label: Gone, to: /gone/}\n",
		"pages/a/index.html", "---\ntitle: A\n---\n@{menu name=main /}",
		"pages/a/b.html", "---\ntitle: B\n---\n@{crumbs /}@{menu name=main /}@{pages under=\"/a/\" /}",
		"pages/a/draft.html", "---\ntitle: D\ndraft: true\n---\n",
	)
	require.Contains(t, show(t, f, "pages/a/index.html"),
		`<a href="/a/" aria-current="page">A <span class="badge">new</span></a><ul><li><a href="/a/b/">B</a></li></ul>`)
	b := show(t, f, "pages/a/b.html")
	require.Contains(t, b,
		`<ol class="crumbs"><li><a href="/a/">A</a></li><li aria-current="page">B</li></ol>`)
	require.Contains(t, b, `<a href="/a/" class="within">`)
	require.Contains(t, b, `<ul class="pages"><li><a href="/a/b/">B</a></li></ul>`)
}

func TestEntriesOfMenus(t *testing.T) {
	f := files(
		"menus/main.yaml", "items:\n"+
			"  - {label: A, to: /a/, note: first, icon: /assets/i.svg, icon_size: 20, image: /assets/p.svg, items: [{label: B, to: /b/, audience: signed-in}]}\n"+
			"  - {label: C, panel: x, from: 2026-07-01}\n  - {label: D, until: 2026-06-01, items: [{label: E, to: /p/}], panel: y}\n"+
			"  - {label: F, audience: signed-out}\n",
		"pages/p.html", "@{menu name=main buttons=true /}", "pages/q.html", "@{menu name=main /}")
	a := `<ul class="menu"><li class="has-list"><a href="/a/"><img class="image" src="/assets/p.svg" alt=""> ` +
		`<img class="icon" src="/assets/i.svg" alt="" width="20" height="20"> A <span class="note">first</span></a>`
	button := func(label string) string {
		return `<button type="button" class="opens" aria-expanded="false" aria-label="` + label + `" hidden></button>`
	}
	d := `<li class="has-list has-panel"><span>D</span>`
	e := `<ul><li><a href="/p/" aria-current="page">E</a></li></ul><div class="panel">y</div></li>`
	require.Equal(t, a+button("A")+"</li>"+d+button("D")+e+"<li><span>F</span></li></ul>", show(t, f, "pages/p.html"))
	s := sitetest.New(f)
	calm := strings.Replace(e, ` aria-current="page"`, "", 1)
	see := func(s *shelf.Shelf, o render.Options) string { return string(render.Page(s, "pages/q.html", o).HTML) }
	require.Equal(t, a+`<ul><li><a href="/b/">B</a></li></ul></li>`+d+calm+"</ul>", see(s, render.Options{SignedIn: true}))
	require.Equal(t, a+"</li>"+`<li class="has-panel"><span>C</span><div class="panel">x</div></li>`+
		"<li><span>F</span></li></ul>", see(s.At(sitetest.Now.AddDate(0, 2, 0)), render.Options{}))
	var days []string
	for _, v := range s.Views("pages/q.html") {
		days = append(days, v.Day)
	}
	require.Equal(t, []string{"", "", "2026-06-02", "2026-06-02", "2026-07-01", "2026-07-01"}, days)
	later := impact.Ahead(s, s.With([]site.Change{{Path: "menus/main.yaml",
		After: []byte("items:\n  - {label: C, panel: z, from: 2026-07-01}\n")}}))
	require.Contains(t, later, impact.Later{Day: "2026-07-01", Pages: 2})

	for item, want := range map[string]string{"icon_size: 0": "wrong-type", "icon_size: big": "wrong-type",
		"audience: all": "wrong-type", "from: soon": "wrong-type", "from: 2026-07-02, until: 2026-07-01": "bad-dates"} {
		m := files("menus/main.yaml", "items: [{label: A, "+item+"}]")
		require.Equal(t, want, sitetest.New(m).DocProblems("menus/main.yaml")[0].Code, item)
	}
}

func TestPagesInAnyEncodingPassUnharmed(t *testing.T) {
	latin := "<meta charset=\"iso-8859-1\">caf\xe9 \xa0\r\n"
	f := files("blocks/x.html", "x")
	f["pages/p.html"] = []byte(latin + "@{x /}\xe9")
	require.Equal(t, latin+"x\xe9", show(t, f, "pages/p.html"))
}

func TestBlocksThatCallOneAnotherWithoutEndStop(t *testing.T) {
	f := files("blocks/a.html", "a@{b /}@{b /}", "blocks/b.html", "b@{a /}@{a /}", "pages/p.html", "@{a /}")
	res := render.Page(sitetest.New(f), "pages/p.html", render.Options{})
	require.Equal(t, "too-large", res.Faults[0].Code)
	require.Less(t, strings.Count(string(res.HTML), "a"), 1_000_000)
}

// Blocks that call one another are refused where a site is checked; rendering them comes
// to an end all the same, at whatever breadth.
func TestRenderingEndsWhateverCallsWhat(t *testing.T) {
	for name, f := range map[string]site.Files{
		"wide": files("blocks/a.html", "x@{b /}@{b /}@{b /}", "blocks/b.html", "@{a /}@{a /}@{a /}y",
			"pages/p.html", "@{a /}"),
		"empty": files("blocks/a.html", "@{b /}@{b /}", "blocks/b.html", "@{a /}@{a /}", "pages/p.html",
			"@{a /}"),
		"around": files("blocks/a.html", "@{a}@{a}@{=inner}@{/a}@{/a}@{=inner}", "pages/p.html",
			"@{a}@{a}x@{/a}@{/a}"),
		"menus": files("menus/m.yaml", "items: [{label: x, panel: '@{menu name=m /}@{menu name=m /}'}]",
			"pages/p.html", "@{menu name=m /}"),
		"loops": files("blocks/a.html",
			"---\nfields: {l: {type: list, fields: {t: {type: text}}, default: [{t: a}, {t: b}, {t: c}]}}\n---\n@{each l as i}@{a /}@{a /}@{/each}", "pages/p.html", "@{a /}"),
	} {
		t.Run(name, func(t *testing.T) {
			done := make(chan int, 1)
			go func() { done <- len(render.Page(sitetest.New(f), "pages/p.html", render.Options{}).Faults) }()
			select {
			case n := <-done:
				require.Positive(t, n)
			case <-time.After(20 * time.Second):
				require.Fail(t, "it does not end")
			}
		})
	}
}

// A word that is a field's name was meant as its value.
func TestAMenuNamedLikeAField(t *testing.T) {
	f := files("blocks/top.html", "---\nfields: {menu: {type: menu}}\n---\n@{menu name=menu /}",
		"pages/p.html", "@{top /}@{menu name=menu /}")
	res := render.Page(sitetest.New(f), "pages/p.html", render.Options{})
	require.Len(t, res.Faults, 2)
	require.Contains(t, res.Faults[0].Message, "or write name=(menu) for the value of the field menu")
	require.NotContains(t, res.Faults[1].Message, "name=(menu)")
}

// What a page says of its fields is read as what it is, like any other value.
func TestPageValuesAreReadByTheirTypes(t *testing.T) {
	f := files("layouts/l.html",
		"---\npage_fields: {r: {type: rich}, to: {type: link}, n: {type: number}}\n---\n@{=page.r}|<a href=\"@{=page.to}\">@{=page.free}</a>@{=page.n}|@{region main /}",
		"pages/p.html",
		"---\nlayout: l\nfields: {r: \"<script>x</script><b>y\", to: \"javascript:x\", free: \"<i>\", n: many}\n---\n@{=page.r}")
	res := render.Page(sitetest.New(f), "pages/p.html", render.Options{})
	require.Equal(t, "<b>y</b>|<a href=\"\">&lt;i&gt;</a>|<b>y</b>", string(res.HTML))
}

// Styles and behaviours are named so that no two of them get one name.
func TestNamesOfStylesTellThemApart(t *testing.T) {
	h := string(site.HashOf([]byte("p{}")))
	other := h[:31] + string('a'+h[31]%5) + h[32:]
	if other == h {
		other = h[:31] + "f" + h[32:]
	}
	require.NotEqual(t, assets.File{Hash: site.Hash(h), Ext: ".css"}.URL(), assets.File{Hash: site.Hash(other), Ext: ".css"}.URL(),
		"128 bits of the hash")
	f := files("layouts/l.html", "<head></head>@{region main /}", "blocks/b.html", "b", "blocks/b.css", "p{}",
		"pages/p.html", "---\nlayout: l\n---\n@{b /}")
	s := sitetest.New(f)
	name := strings.TrimSuffix(strings.TrimPrefix(assets.File{Hash: site.Hash(h), Ext: ".css"}.URL(), "/_shelf/"), ".css")
	require.Contains(t, show(t, f, "pages/p.html"), name)
	got, ok := s.ByHash(site.Hash(h))
	require.True(t, ok)
	require.Equal(t, "p{}", string(got))
}
