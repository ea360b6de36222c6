package parts_test

import (
	"maps"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"brickshelf/internal/core/check"
	"brickshelf/internal/core/edit/parts"
	"brickshelf/internal/core/render"
	"brickshelf/internal/core/shelf"
	"brickshelf/internal/core/site"
	"brickshelf/internal/core/sitetest"
)

// empty is a site that holds nothing.
func empty() site.Files { return site.Files{"site.yaml": []byte("format: brickshelf/1\nname: Test\n")} }

// arrived is a site after a part has come in.
func arrived(t require.TestingT, into, part site.Files, library string,
	decided ...parts.Decision) (site.Files, []parts.Arrival) {
	set, list, err := parts.Arrive(sitetest.New(into), part, library, decided)
	require.NoError(t, err)
	out, err := into.Apply(set)
	require.NoError(t, err)
	require.Empty(t, check.Validity(sitetest.New(out)))
	return out, list
}

// shown is what calls of blocks show on a page of their own.
func shown(files site.Files, calls string) string {
	out := maps.Clone(files)
	out["pages/probe.html"] = []byte(calls)
	return page(sitetest.New(out), "pages/probe.html")
}

// page is a page as it is published.
func page(s *shelf.Shelf, p string) string {
	return string(render.AppendPage(s, nil, s.Info(p)))
}

// A part of a drawn site renders the same in an empty one, and loses no byte on the way.
func TestAPartRendersTheSameElsewhere(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		f := sitetest.Site(t)
		f["site.yaml"] = []byte(strings.ReplaceAll(string(f["site.yaml"]), "sets_off: [extra]\n", ""))
		f["site.yaml"] = []byte(strings.ReplaceAll(string(f["site.yaml"]), "sets_off: [paths]\n", ""))
		f["shortcodes/s0.js"] = []byte("/*\nencloses: true\n*/\nfunction shortcode() {}\n")
		s := sitetest.New(f)
		var ids []string
		for _, u := range parts.Units(s) {
			ids = append(ids, u.ID)
		}
		asked := rapid.SliceOfNDistinct(rapid.SampledFrom(ids), 1, 4, rapid.ID).Draw(t, "asked")
		part, err := parts.Cut(s, asked)
		require.NoError(t, err)
		require.Empty(t, check.Validity(sitetest.New(part)))
		into := empty() // but for what scripts are told of the site
		into["site.yaml"] = f["site.yaml"]
		there, list := arrived(t, into, part, "")
		for p, b := range part {
			if p != "site.yaml" {
				require.Equal(t, string(b), string(there[p]), p)
			}
		}
		for _, r := range list {
			require.Contains(t, []parts.State{parts.New, parts.Equal}, r.State, r.ID)
		}

		bare := maps.Clone(f)
		maps.DeleteFunc(bare, func(p string, _ []byte) bool {
			return strings.HasPrefix(p, "pages/") || strings.HasPrefix(p, "rules/")
		})
		maps.DeleteFunc(there, func(p string, _ []byte) bool {
			return strings.HasPrefix(p, "pages/") || strings.HasPrefix(p, "rules/")
		})
		for p := range part {
			if name, ok := strings.CutPrefix(p, "blocks/"); ok && strings.HasSuffix(name, ".html") {
				calls := "@{" + strings.TrimSuffix(name, ".html") + " /}"
				require.Equal(t, shown(bare, calls), shown(there, calls), calls)
			}
		}

		// What is here already comes in as what it is, and changes nothing.
		set, list, err := parts.Arrive(s, part, "", nil)
		require.NoError(t, err)
		require.Empty(t, set.Changes)
		for _, r := range list {
			require.Equal(t, parts.Equal, r.State, r.ID)
		}
	})
}

// Taken under other names a part leaves all here as it is written and shown, calls nothing by the
// names that it had, and shows what it showed under them.
func TestAnotherNameTakesAllReferencesAlong(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		f := sitetest.Site(t)
		s := sitetest.New(f)
		name := rapid.SampledFrom([]string{"b0", "b1", "b3", "b5"}).Draw(t, "block")
		part, err := parts.Cut(s, []string{"blocks/" + name + ".html"})
		require.NoError(t, err)
		var decided []parts.Decision
		for _, u := range parts.Units(sitetest.New(part)) {
			if u.Kind == parts.Block || u.Kind == parts.Script {
				decided = append(decided, parts.Decision{ID: u.ID, Take: parts.Name, Name: u.Name + "-2"})
			}
		}
		other := sitetest.Site(t)
		was := sitetest.New(other)
		set, _, err := parts.Arrive(was, part, "", decided)
		require.NoError(t, err)
		is, err := other.Apply(set)
		require.NoError(t, err)
		after := sitetest.New(is)
		for p := range other {
			if class, _, _ := site.Classify(p); class == site.BlockDoc || class == site.PageDoc {
				require.Equal(t, string(other[p]), string(is[p]), p)
			}
		}
		for _, p := range was.PagePaths() {
			require.Equal(t, page(was, p), page(after, p), p)
		}
		set, _, err = parts.Arrive(s, part, "", decided)
		require.NoError(t, err)
		twice, err := f.Apply(set)
		require.NoError(t, err)
		for _, d := range decided {
			old := strings.TrimSuffix(d.Name, "-2")
			require.Equal(t, shown(f, "@{"+old+" /}"), shown(twice, "@{"+d.Name+" /}"), d.ID)
		}
		for _, p := range parts.Units(after) {
			if p.Kind == parts.Block && strings.HasSuffix(p.Name, "-2") {
				text, _ := after.Get(p.ID)
				for _, d := range decided {
					was := strings.TrimSuffix(d.Name, "-2")
					require.NotContains(t, string(text), "@{"+was+" ")
					require.NotContains(t, string(text), "@{"+was+"}")
				}
			}
		}
	})
}

// shop is a site with one of everything that a block can need.
func shop() site.Files {
	return site.Files{
		"site.yaml":           []byte("format: brickshelf/1\nname: Shop\nfields:\n  phone: {type: text, default: '12'}\n  unused: {type: text}\n"),
		"blocks/card.html":    []byte("---\ntitle: Card\nfields: {links: {type: menu, default: foot}, name: {type: text, from: page.nick}}\nbehaviour: {needs: tabs}\n---\n<p>@{=name} @{=site.phone}</p>@{badge /}@{menu name=(links) /}@{clock /}"),
		"blocks/card.css":     []byte("p{background:url(/assets/paper.png)}"),
		"blocks/card.js":      []byte("import '/assets/lib.js'"),
		"blocks/badge.html":   []byte("<b>1</b>"),
		"blocks/tabs.html":    []byte("<i></i>"),
		"blocks/tabs.js":      []byte("export default () => {}"),
		"blocks/other.html":   []byte("<u></u>"),
		"shortcodes/clock.js": []byte("/*\ntitle: Clock\n*/\nfunction shortcode({ site }) { return site.fields.phone }\n"),
		"menus/foot.yaml":     []byte("title: Foot\nitems:\n  - {label: A, to: /, icon: /assets/a.svg, panel: '@{badge /}'}\n"),
		"menus/main.yaml":     []byte("items: [{label: A, to: /}]\n"),
		"layouts/plain.html":  []byte("---\nregions: {main: {mode: stack}}\npage_fields: {nick: {type: text, default: Nick}}\n---\n<main>@{region main /}</main>"),
		"rules/cards.yaml":    []byte("block: card\nregion: main\non: [all, 'layout:plain']\nset: {links: main}\n"),
		"pages/index.html":    []byte("---\ntitle: Home\nlayout: plain\noverrides: {\"main/rule:cards\": {links: foot}}\n---\n<img src=\"/assets/a.svg\">"),
		"assets/paper.png":    []byte("png"),
		"assets/a.svg":        []byte("<svg/>"),
		"assets/lib.js":       []byte("import '/assets/deep.js'"),
		"assets/deep.js":      []byte("1"),
		"assets/spare.png":    []byte("png"),
	}
}

func TestWhatIsNeededComesAlong(t *testing.T) {
	s := sitetest.New(shop())
	ids := func(asked ...string) []string {
		list, err := parts.Needs(s, asked)
		require.NoError(t, err)
		var out []string
		for _, n := range list {
			require.Equal(t, slices.Contains(asked, n.ID), n.For == nil, n.ID)
			out = append(out, n.ID)
		}
		slices.Sort(out)
		return out
	}
	card := []string{"assets/a.svg", "assets/deep.js", "assets/lib.js", "assets/paper.png", "blocks/badge.html",
		"blocks/card.html", "blocks/tabs.html", "menus/foot.yaml", "page_fields#nick", "shortcodes/clock.js", "site.yaml#phone"}
	require.Equal(t, card, ids("blocks/card.html"))
	rule := slices.Sorted(slices.Values(append(slices.Clone(card), "rules/cards.yaml", "menus/main.yaml")))
	require.Equal(t, rule, ids("rules/cards.yaml"))
	page := slices.Sorted(slices.Values(append(slices.Clone(rule), "layouts/plain.html", "pages/index.html")))
	require.Equal(t, page, ids("pages/index.html", "rules/cards.yaml"))
	require.Equal(t, []string{"assets/a.svg", "layouts/plain.html", "menus/foot.yaml", "pages/index.html"},
		slices.DeleteFunc(ids("pages/index.html"), func(id string) bool { return strings.HasPrefix(id, "blocks/") }))
	require.Equal(t, []string{"layouts/plain.html"}, ids("layouts/plain.html"))
	for _, bad := range [][]string{nil, {"blocks/none.html"}, {"site.yaml"}, {"site.yaml#none"}} {
		_, err := parts.Needs(s, bad)
		require.Error(t, err)
	}
}

func TestAPartIsOfTheSameFormat(t *testing.T) {
	part, err := parts.Cut(sitetest.New(shop()), []string{"blocks/card.html"})
	require.NoError(t, err)
	require.Equal(t, "format: brickshelf/1\npart: true\nname: Shop\npage_fields: {nick: {type: text, default: Nick}}\nfields: {phone: {type: text, default: \"12\"}}\n",
		strings.ReplaceAll(string(part["site.yaml"]), "'", `"`))
	require.NotContains(t, part, "assets/spare.png")
	require.True(t, sitetest.New(part).Config().Part)

	is, list := arrived(t, site.Files{"site.yaml": []byte("format: brickshelf/1\n"),
		"layouts/wide.html": []byte("<main>@{region main /}</main>")}, part, "")
	require.Equal(t, "---\npage_fields: {nick: {type: text, default: Nick}}\n---\n<main>@{region main /}</main>", string(is["layouts/wide.html"]))
	require.Contains(t, string(is["site.yaml"]), "phone:")
	require.NotContains(t, string(is["site.yaml"]), "part")
	for _, r := range list {
		require.Equal(t, parts.New, r.State, r.ID)
		require.Equal(t, r.ID == "blocks/card.html", r.For == nil, r.ID)
	}
}

func TestAClashIsDecided(t *testing.T) {
	part, err := parts.Cut(sitetest.New(shop()), []string{"rules/cards.yaml", "pages/index.html"})
	require.NoError(t, err)
	mine := shop()
	mine["blocks/badge.html"] = []byte("<b>mine</b>")
	mine["menus/foot.yaml"] = []byte("items: [{label: Mine, to: /}]\n")
	mine["site.yaml"] = []byte("format: brickshelf/1\nfields: {phone: {type: text, default: '99'}}\n")
	mine["layouts/plain.html"] = []byte("<main>@{region main /}</main>")
	mine["rules/cards.yaml"] = []byte("block: card\nregion: main\non: [home]\n")
	mine["assets/a.svg"] = []byte("<svg>mine</svg>")
	mine["shortcodes/clock.js"] = []byte("/*\ntitle: Mine\n*/\nfunction shortcode() { return '2' }\n")
	delete(mine, "blocks/card.js")

	is, list := arrived(t, mine, part, "")
	want := maps.Clone(mine)
	want["layouts/plain.html"] = is["layouts/plain.html"]
	require.Equal(t, want, is, "nothing is overwritten that nobody decided")
	require.Equal(t, "---\npage_fields: {nick: {type: text, default: Nick}}\n---\n<main>@{region main /}</main>", string(is["layouts/plain.html"]))
	open := map[string]string{}
	for _, r := range list {
		if r.Open {
			open[r.ID] = r.Free
		}
	}
	require.Equal(t, map[string]string{"blocks/badge.html": "badge-2", "blocks/card.html": "card-2", "menus/foot.yaml": "foot-2",
		"site.yaml#phone": "", "layouts/plain.html": "plain-2", "rules/cards.yaml": "cards-2", "assets/a.svg": "assets/a-2.svg",
		"shortcodes/clock.js": "clock-2"}, open)

	var theirs, names []parts.Decision
	for _, id := range slices.Sorted(maps.Keys(open)) {
		theirs = append(theirs, parts.Decision{ID: id, Take: parts.Theirs})
		if open[id] != "" {
			names = append(names, parts.Decision{ID: id, Take: parts.Name, Name: open[id]})
		}
	}
	is, _ = arrived(t, mine, part, "", theirs...)
	for p := range part {
		if p != "site.yaml" {
			require.Equal(t, string(part[p]), string(is[p]), p)
		}
	}
	require.Contains(t, string(is["site.yaml"]), `"12"`)

	is, _ = arrived(t, mine, part, "", names...)
	for p := range want {
		if p == "layouts/plain.html" { // its namesake declares the field that pages are asked for
			continue
		}
		require.Equal(t, string(mine[p]), string(is[p]), p)
	}
	require.Equal(t, "---\ntitle: Card\nfields: {links: {type: menu, default: foot-2}, name: {type: text, from: page.nick}}\nbehaviour: {needs: tabs}\n---\n<p>@{=name} @{=site.phone}</p>@{badge-2 /}@{menu name=(links) /}@{clock-2 /}",
		string(is["blocks/card-2.html"]))
	require.Equal(t, "block: card-2\nregion: main\non: [all, \"layout:plain-2\"]\nset: {links: main}\n",
		strings.ReplaceAll(string(is["rules/cards-2.yaml"]), "'", `"`))
	require.Contains(t, string(is["menus/foot-2.yaml"]), "icon: /assets/a-2.svg, panel: '@{badge-2 /}'")
	require.Equal(t, "import '/assets/lib.js'", string(is["blocks/card-2.js"]))
	require.NotContains(t, is, "blocks/card.js")
	require.Equal(t, string(shop()["shortcodes/clock.js"]), string(is["shortcodes/clock-2.js"]))

	// A page that comes under another address speaks of all the other names.
	is, _ = arrived(t, mine, part, "", append(names, parts.Decision{ID: "blocks/card.html", Take: parts.Theirs})[1:]...)
	require.NotContains(t, is, "blocks/card-2.html")

	for says, d := range map[string]parts.Decision{
		"already":          {ID: "blocks/badge.html", Take: parts.Name, Name: "other"},
		"cannot name":      {ID: "menus/foot.yaml", Take: parts.Name, Name: "Foot!"},
		"home page":        {ID: "pages/index.html", Take: parts.Name, Name: "start"},
		"is not known":     {ID: "blocks/badge.html", Take: parts.Merged},
		"another name her": {ID: "site.yaml#phone", Take: parts.Name, Name: "x"},
	} {
		_, _, err := parts.Arrive(sitetest.New(mine), part, "", []parts.Decision{d})
		require.ErrorContains(t, err, says)
	}
}

func TestALibraryOffersWhatItBecame(t *testing.T) {
	lib := site.Files{"site.yaml": []byte("format: brickshelf/1\n"),
		"blocks/card.html":    []byte("---\ntitle: Card\n---\n<p>one</p>\n<p>two</p>\n<p>three</p>\n"),
		"blocks/card.css":     []byte("p{}"),
		"blocks/bare.html":    []byte("<i>bare</i>"),
		"shortcodes/clock.js": []byte("/*\ntitle: Clock */\nfunction shortcode() { return '1' }\n")}
	ids := []string{"blocks/card.html", "blocks/bare.html", "shortcodes/clock.js"}
	cut := func() site.Files {
		part, err := parts.Cut(sitetest.New(lib), ids)
		require.NoError(t, err)
		return part
	}
	is, _ := arrived(t, empty(), cut(), "lib", parts.Decision{ID: "blocks/card.html", Take: parts.Name, Name: "tile"})
	require.Contains(t, string(is["blocks/tile.html"]), "library: {site: lib, name: card, text: "+string(site.HashOf(lib["blocks/card.html"])))
	require.Equal(t, []string{"lib"}, parts.Libraries(sitetest.New(is)))
	var came []string
	for _, c := range parts.From(sitetest.New(is), "lib") {
		came = append(came, c.ID+" "+c.Of)
	}
	require.Equal(t, []string{"blocks/bare.html blocks/bare.html", "blocks/tile.html blocks/card.html",
		"shortcodes/clock.js shortcodes/clock.js"}, came)
	require.Equal(t, is, is.WithoutSpent(), "what it was like is kept")

	state := func() map[string]parts.State {
		_, list, err := parts.Arrive(sitetest.New(is), cut(), "lib", nil)
		require.NoError(t, err)
		out := map[string]parts.State{}
		for _, r := range list {
			out[r.As] = r.State
		}
		return out
	}
	as := func(tile, bare, clock parts.State) map[string]parts.State {
		return map[string]parts.State{"blocks/tile.html": tile, "blocks/bare.html": bare, "shortcodes/clock.js": clock}
	}
	require.Equal(t, as(parts.Equal, parts.Equal, parts.Equal), state())

	edit := func(f site.Files, p, old, with string) {
		require.Contains(t, string(f[p]), old)
		f[p] = []byte(strings.Replace(string(f[p]), old, with, 1))
	}
	edit(is, "blocks/tile.html", "one", "mine")
	edit(is, "blocks/bare.html", "<i>bare", "<i>mine")
	require.Equal(t, as(parts.Edited, parts.Edited, parts.Equal), state())
	kept, _ := arrived(t, is, cut(), "lib")
	require.Equal(t, is, kept, "what was edited here stays")

	edit(lib, "blocks/card.html", "three", "theirs")
	lib["blocks/card.css"] = []byte("p{a:b}")
	edit(lib, "shortcodes/clock.js", "'1'", "'2'")
	require.Equal(t, as(parts.Both, parts.Edited, parts.Newer), state())
	next, list := arrived(t, is, cut(), "lib")
	require.Contains(t, string(next["blocks/tile.html"]), "---\n<p>mine</p>\n<p>two</p>\n<p>theirs</p>\n")
	require.Equal(t, "p{a:b}", string(next["blocks/tile.css"]))
	require.Contains(t, string(next["shortcodes/clock.js"]), "'2'")
	require.Equal(t, is["blocks/bare.html"], next["blocks/bare.html"])
	for _, r := range list {
		require.False(t, r.Open)
	}
	is = next.WithoutSpent()
	require.Equal(t, as(parts.Edited, parts.Edited, parts.Equal), state(), "what was merged is held against what came")

	edit(lib, "blocks/card.html", "one", "other")
	require.Equal(t, parts.Both, state()["blocks/tile.html"])
	_, list, err := parts.Arrive(sitetest.New(is), cut(), "lib", nil)
	require.NoError(t, err)
	i := slices.IndexFunc(list, func(r parts.Arrival) bool { return r.As == "blocks/tile.html" })
	require.True(t, list[i].Open, "a conflict is nobody's but the user's")
	require.Equal(t, "<p>mine</p>", strings.Split(string(list[i].Docs[0].Mine), "\n")[3])
	merged := func(c ...parts.Choice) (site.ChangeSet, error) {
		set, _, err := parts.Arrive(sitetest.New(is), cut(), "lib", []parts.Decision{{ID: "blocks/card.html", Take: parts.Merged, Choices: c}})
		return set, err
	}
	_, err = merged()
	require.ErrorContains(t, err, "decide what stands")
	_, err = merged("other")
	require.ErrorContains(t, err, "no way to settle")
	for c, want := range map[parts.Choice]string{
		parts.Choice(parts.Mine): "---\n<p>mine</p>\n<p>two", parts.Choice(parts.Theirs): "---\n<p>other</p>\n<p>two",
		parts.BothSides: "---\n<p>mineother</p>\n<p>two"} {
		set, err := merged(c)
		require.NoError(t, err)
		after := sitetest.Apply(t, is, set)
		require.Contains(t, string(after["blocks/tile.html"]), want)
	}

	// Where the revision that came is gone, nobody can tell who changed what.
	maps.DeleteFunc(is, func(p string, _ []byte) bool { return strings.HasPrefix(p, "history/") })
	require.Equal(t, parts.Different, state()["blocks/tile.html"])
}

func TestAnotherNameOfAMenuIsFollowedWhereverItStands(t *testing.T) {
	f := shop()
	f["menus/main.yaml"] = []byte("items: [{label: A, to: /, panel: '@{card links=\"foot\" /}'}]\n")
	ids := []string{"rules/cards.yaml", "pages/index.html", "menus/foot.yaml"}
	part, err := parts.Cut(sitetest.New(f), ids)
	require.NoError(t, err)
	mine := site.Files{"site.yaml": f["site.yaml"]} // scripts are told of it
	mine["menus/foot.yaml"] = []byte("items: [{label: Mine, to: /}]\n")
	other := parts.Decision{ID: "menus/foot.yaml", Take: parts.Name, Name: "foot-2"}
	is, _ := arrived(t, mine, part, "", other)
	require.Equal(t, mine["menus/foot.yaml"], is["menus/foot.yaml"])
	require.Contains(t, string(is["pages/index.html"]), "links: foot-2")
	require.Contains(t, string(is["menus/main.yaml"]), `@{card links=\"foot-2\" /}`)
	for p, b := range is {
		if p != "menus/foot.yaml" {
			require.NotRegexp(t, `\bfoot\b[^-.]`, string(b), p)
		}
	}
	before, after := page(sitetest.New(f), "pages/index.html"), page(sitetest.New(is), "pages/index.html")
	require.Equal(t, before, after, "the page shows the menu that came with it")
	require.NotContains(t, after, "Mine")

	f["blocks/rows.html"] = []byte("---\nfields: {rows: {type: list, fields: {m: {type: menu}}, default: [{m: foot}]}}\n---\n")
	part, err = parts.Cut(sitetest.New(f), []string{"blocks/rows.html"})
	require.NoError(t, err)
	_, _, err = parts.Arrive(sitetest.New(mine), part, "", []parts.Decision{other})
	require.ErrorContains(t, err, "blocks/rows.html names foot in a way that cannot follow; edit it there first")
}
