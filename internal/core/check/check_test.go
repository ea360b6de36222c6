package check_test

import (
	"fmt"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"brickshelf/internal/core/check"
	"brickshelf/internal/core/render"
	"brickshelf/internal/core/shelf"
	"brickshelf/internal/core/site"
	"brickshelf/internal/core/sitetest"
)

func tree(pairs ...string) *shelf.Shelf {
	f := site.Files{"site.yaml": []byte("format: brickshelf/1\n")}
	for i := 0; i < len(pairs); i += 2 {
		f[pairs[i]] = []byte(pairs[i+1])
	}
	return sitetest.New(f)
}

func TestInvalidTrees(t *testing.T) {
	for want, s := range map[string]*shelf.Shelf{
		"blocks/b.html:1:1: calls itself: a → b → a": tree("blocks/a.html", "@{b /}",
			"blocks/b.html", "@{a /}"),
		"shows itself through the panel of a menu": tree("blocks/a.html",
			"@{menu name=m /}", "menus/m.yaml", "items: [{label: x, panel: '@{a /}'}]"),
		"pages/p.html:2:9: there is no layout prot; did you mean port?": tree("layouts/port.html",
			"@{region main /}", "pages/p.html", "---\nlayout: prot\n---\n"),
		"has the address /a/, which pages/a.html has too": tree("pages/a.html", "",
			"pages/a/index.html", ""),
		"pages/p.html:3:1: @{hours …} is opened here and never closed": tree("pages/p.html",
			"\n\n@{hours}"),
		"pages/p.html:5:10: put quotes around the attribute": tree("pages/p.html",
			"---\ntitle: x\n---\n\n<p class=@{=page.title}>"),
		"README.md:1:1: only site.yaml stands at the top": tree("README.md", "x"),
		`site.yaml:1:9: the format is "brickshelf/2"; this program reads`: tree("site.yaml",
			"format: brickshelf/2"),
		"site.yaml:2:1: site.yaml has no key \"titel\"": tree("site.yaml", "format: brickshelf/1\ntitel: x"),
		"menus/m.yaml:1:10: a menu item needs a label":  tree("menus/m.yaml", "items: [{to: /x/}]"),
		"the key k is given twice in main of this page": tree("pages/p.html", `@{a key="k" /}@{a key="k" /}`,
			"blocks/a.html", "a"),
	} {
		require.Contains(t, check.Validity(s).Error(), want)
	}
}

func TestFindings(t *testing.T) {
	s := tree(
		"layouts/l.html", "@{region main /}",
		"blocks/a.html", "---\nfields: {n: {type: number, required: true}}\n---\na@{=n}",
		"blocks/unused.html", "x",
		"rules/r.yaml", "block: gone\nregion: nowhere\non: [all]\n",
		"rules/s.yaml", "block: a\nregion: main\non: [\"under:/none/\"]\nset: {m: 1}\n",
		"pages/p.html",
		"---\nlayout: l\noverrides: {\"main/x~1\": {n: 1}}\n---\n@{a n=x /}@{a nn=1 /}@{b /}<a href=\"@{url page=\"/nowhere/\" /}\" id=\"x\">x</a><a href=\"#y\">y</a><img src=\"/assets/none.svg\">@{fill side}x@{/fill}",
	)
	var got []string
	for _, p := range check.Site(s) {
		got = append(got, p.Code+" "+p.Path)
	}
	require.ElementsMatch(t, []string{
		"unused-block blocks/unused.html", "unresolved-call rules/r.yaml", "unknown-region rules/r.yaml",
		"empty-rule rules/s.yaml", "empty-target rules/s.yaml", "unknown-argument rules/s.yaml",
		"lost-override pages/p.html", "wrong-type pages/p.html", "unknown-argument pages/p.html",
		"unresolved-call pages/p.html", "missing-page pages/p.html", "missing-target pages/p.html",
		"missing-file pages/p.html",
		"missing-region pages/p.html", "missing-value pages/p.html", "missing-value pages/p.html",
	}, got)
}

// Of what a page says of nothing, it is told what it means and which of two counts.
func TestWhatIsMeantByPosition(t *testing.T) {
	says := "overrides: {main/a~1: {n: lost}, main/k: {n: counts}, main/a~2: {n: far}}"
	s := tree("blocks/a.html", "---\nfields: {n: {type: text, default: x}}\n---\n@{=n}", "pages/p.html",
		"---\n"+says+"\n---\n@{a key=k /}@{a key=other /}@{a /}")
	var got []string
	for _, p := range check.Site(s) {
		if p.Code == "lost-override" {
			got = append(got, p.Error())
		}
	}
	require.Len(t, got, 2)
	require.Contains(t, got[0], fmt.Sprintf("pages/p.html:2:%d: at main/a~1: ",
		strings.Index(says, "n: lost")+1))
	require.Contains(t, got[0],
		"its address is main/k, of which the page says something too, and that is what counts")
	require.Contains(t, got[1], "its address is main/other")
	require.NotContains(t, got[1], "counts")
}

// What an edit would make invalid is found by looking at what it reaches only.
func TestChanged(t *testing.T) {
	s := tree("layouts/l.html", "@{region main /}", "blocks/a.html", "a", "blocks/b.html", "@{a /}",
		"pages/p.html", "---\nlayout: l\n---\n", "pages/a.html", "")
	for want, c := range map[string]site.Change{
		"calls itself":           {Path: "blocks/a.html", After: []byte("@{b /}")},
		"there is no layout l":   {Path: "layouts/l.html", Delete: true},
		"has the address /a/":    {Path: "pages/a/index.html", After: []byte("x")},
		"a site needs this file": {Path: "site.yaml", Delete: true},
		"never closed":           {Path: "pages/p.html", After: []byte("@{a}")},
	} {
		o := s.With([]site.Change{c})
		require.Contains(t, check.Changed(o).Error(), want)
	}
	require.Empty(t, check.Changed(s.With([]site.Change{{Path: "blocks/a.html", Delete: true}})),
		"a call to nothing breaks a page and leaves the tree valid")
}

func told(ps site.Problems) []string {
	var out []string
	for _, p := range ps {
		out = append(out, p.Error())
	}
	return out
}

// What many pages show is told once, where it is written; what a page lacks is
// told on that page.
func TestFindingsSayWhereTheyAreWritten(t *testing.T) {
	s := tree(
		"layouts/l.html", "@{region top /}<main>@{region main /}</main>@{region foot /}",
		"menus/m.yaml", "items:\n  - {label: Home, to: /a/}\n  - {label: Gone, to: /gone/}\n",
		"blocks/top.html", "<nav>@{menu name=m /}</nav>",
		"blocks/foot.html",
		"---\nfields: {to: {type: link, default: /old/}}\n---\n<a href=\"@{=to}\">old</a><dialog id=\"film\">",
		"blocks/opener.html", "<a href=\"#film\">See the film</a>",
		"rules/top.yaml", "block: top\nregion: top\non: [all]\n",
		"rules/foot.yaml", "block: foot\nregion: foot\non: [all]\nexcept: [\"page:/b/\"]\n",
		"pages/a.html", "---\nlayout: l\n---\n<p>@{opener /}</p>\n",
		"pages/b.html",
		"---\nlayout: l\nhidden: [foot/rule:top]\n---\n<p>\n@{opener /}</p>\n<a href=\"../nowhere/\">x</a>",
	)
	require.Equal(t, []string{
		"blocks/foot.html:2:36: leads to /old/, where there is no page; make one there, or lead elsewhere",
		"menus/m.yaml:3:23: leads to /gone/, where there is no page; make one there, or lead elsewhere",
		"pages/b.html:3:10: at foot/rule:top: the page hides what stands at this address, and nothing does; drop the entry",
		"pages/b.html:6:1: at main/opener~1: leads to #film, and nothing on this page has that id; show the block that has it, or take this away",
		"pages/b.html:7:10: leads to /nowhere/, where there is no page; make one there, or lead elsewhere",
	}, told(check.Site(s)))
}

// What will be wrong on a day ahead, or is for some visitors alone, is found today.
func TestWhatIsWrongForSomeOrLaterIsFound(t *testing.T) {
	in := func(days int) string { return sitetest.Now.AddDate(0, 0, days).Format(time.DateOnly) }
	f := site.Files{
		"site.yaml":         []byte("format: brickshelf/1\n"),
		"layouts/l.html":    []byte("@{region bar /}@{region main /}"),
		"pages/p.html":      []byte("---\nlayout: l\n---\np"),
		"blocks/needs.html": []byte("---\nfields: {t: {type: text, required: true}}\n---\n@{=t}"),
		"blocks/leads.html": []byte(`<a href="/none/">x</a>`),
		"rules/needs.yaml":  []byte("block: needs\nregion: bar\non: [all]\nfrom: " + in(3) + "\n"),
		"rules/leads.yaml": []byte("block: leads\nregion: bar\non: [all]\naudience: signed-in\nfrom: " +
			in(5) + "\n"),
	}
	got := map[string]string{}
	for _, p := range check.Site(sitetest.New(f)) {
		got[p.Code] = p.Path + ": " + p.Message
	}
	require.Contains(t, got["missing-page"], "blocks/leads.html: leads to /none/")
	require.Contains(t, got["missing-value"], "from "+in(3)+" on: ")
	delete(f, "rules/needs.yaml")
	delete(f, "rules/leads.yaml")
	for _, p := range check.Site(sitetest.New(f)) {
		require.Equal(t, "unused-block", p.Code)
	}
}

// A menu may stand in the panel of another, as long as none shows itself.
func TestMenusInPanels(t *testing.T) {
	item := func(panel string) string { return "items: [{label: x, to: /, panel: '" + panel + "'}]" }
	page := []string{"pages/p.html", "@{menu name=main /}"}
	picks := "---\nfields: {m: {type: menu}}\n---\n@{menu name=(m) /}"
	require.Empty(t, check.Validity(tree(append(page, "menus/main.yaml", item("@{menu name=side /}@{box /}"),
		"menus/side.yaml", item("text"), "blocks/box.html", "@{menu name=side /}")...)))
	for says, s := range map[string]*shelf.Shelf{
		"menu main → menu main": tree(append(page, "menus/main.yaml",
			item("@{menu name=main /}"))...),
		"menu main → menu side → menu main": tree(append(page, "menus/main.yaml", item("@{menu name=side /}"),
			"menus/side.yaml", item("@{menu name=main /}"))...),
		"box → menu side → box": tree(append(page, "menus/main.yaml", item("@{menu name=side /}"),
			"menus/side.yaml", item("@{box /}"), "blocks/box.html", "@{menu name=side /}")...),
		"menu main → pick → menu main; take one of these calls away": tree(append(page, "menus/main.yaml", item("@{pick m=main /}"),
			"blocks/pick.html", picks)...),
		"menu main → deep → pick → menu main; take one": tree(append(page, "menus/main.yaml", item("@{deep to=main /}"),
			"blocks/deep.html", "---\nfields: {to: {type: text}}\n---\n@{pick m=(to) /}", "blocks/pick.html", picks)...),
		"menu main → pick → menu main; take one": tree(append(page, "menus/main.yaml", item("@{pick /}"),
			"blocks/pick.html", strings.Replace(picks, "menu}", "menu, default: main}", 1))...),
	} {
		require.Contains(t, check.Validity(s).Error(), says)
	}
	for _, panel := range []string{"@{pick m=side /}", "@{pick /}", "@{deep to=side /}@{pick m=side /}"} {
		require.Empty(t, check.Validity(tree(append(page, "menus/main.yaml", item(panel), "menus/side.yaml", item("text"),
			"blocks/deep.html", "---\nfields: {to: {type: text}}\n---\n@{pick m=(to) /}", "blocks/pick.html", picks)...)),
			panel)
	}
	s := tree("pages/p.html", "@{menu name=main /}", "menus/main.yaml", item("@{menu name=side /}"),
		"menus/side.yaml", "items: [{label: inner, to: /p/}]")
	require.Contains(t, string(render.Page(s, "pages/p.html", render.Options{}).HTML), "inner")
}

// What many pages share is told once, in the text that has to be mended, with their number.
func TestFindingsNameTheTextToMend(t *testing.T) {
	f := []string{
		"layouts/l.html",
		"---\nregions: {bar: {mode: one}, main: {mode: stack}}\n---\n<head></head>\n@{region bar /}@{region main /}@{needs /}",
		"blocks/needs.html", "---\nfields: {t: {type: text, required: true}}\n---\n@{=t}",
		"blocks/outer.html", "\n  @{needs /}@{opens /}",
		"blocks/opens.html", "\n<a href=\"#film\">film</a>", "rules/r.yaml",
		"block: needs\nregion: bar\non: [all]\n",
	}
	for i := range 4 {
		f = append(f, fmt.Sprintf("pages/p%d.html", i), "---\nlayout: l\n---\n@{outer /}")
	}
	f = append(f, "pages/own.html", "@{needs /}")
	var got []string
	for _, p := range check.Site(tree(f...)) {
		got = append(got, fmt.Sprintf("%s:%d:%d %s %d", p.Path, p.Line, p.Column, p.Code, p.Pages))
	}
	require.Equal(t, []string{"blocks/opens.html:2:10 missing-target 4",
		"blocks/outer.html:2:3 missing-value 4", "layouts/l.html:5:32 missing-value 4",
		"pages/own.html:1:1 missing-value 0", "rules/r.yaml:1:8 missing-value 4"}, got)
}

// A link leads to what is published, with or without its last slash, and not to a draft.
func TestWhereLinksLead(t *testing.T) {
	s := tree("pages/index.html",
		"<a href=\"/a/b\"></a><a href=\"/a/b/\"></a><a href=\"a/b/index.html\"></a><a href=\"/a\"></a><a href=\"/draft/\"></a><a href=\"/draft\"></a><a href=\"/assets/x.svg\"></a><a href=\"/assets/y.svg\"></a><a href=\"/sitemap.xml\"></a><a href=\"/\"></a><a href=\"/a/b/c\"></a>",
		"pages/a/b.html", "b", "pages/draft.html", "---\ndraft: true\n---\nd", "assets/x.svg", "<svg/>")
	var told []string
	for _, p := range check.New(s).Page("pages/index.html") {
		told = append(told, p.Code+" "+p.Message)
	}
	require.Len(t, told, 5, "%v", told)
	for i, to := range []string{"/a", "/draft/", "/draft", "/assets/y.svg", "/a/b/c"} {
		require.Contains(t, told[i], to)
	}
}

// A key names one call of a text; what stands in a copy counts for itself.
func TestKeysOfCalls(t *testing.T) {
	page := func(text string) string {
		for _, p := range check.Validity(tree("blocks/a.html", "a", "pages/p.html", text)) {
			return p.Code
		}
		return ""
	}
	require.Equal(t, "",
		page(`@{a key="k" /}@{copy of="a" base="b" key="c"}@{a key="k" /}@{/copy}@{copy of="a" base="b" key="d"}@{a key="k" /}@{/copy}`))
	require.NotEqual(t, "", page(`@{a key="k" /}@{a key="k" /}`))
	require.NotEqual(t, "", page(`@{copy of="a" base="b" key="c"}@{a key="k" /}@{a key="k" /}@{/copy}`))
	for _, key := range []string{"a b", " k", "k ", "a/b", ""} {
		require.NotEqual(t, "", page(`@{a key="`+key+`" /}`), "%q", key)
	}
}

// Of the style of an older revision that a page shows beside the block, it is told what cannot be
// confined; of one that stands alone there is nothing to tell.
func TestRulesForThePageInOlderStylesAreTold(t *testing.T) {
	old := "body{margin:0}.a{}"
	hash := string(site.HashOf([]byte(old)))
	files := site.Files{"site.yaml": []byte("format: brickshelf/1\nname: N\n"), "blocks/a.html": []byte("<i>a</i>"),
		"blocks/a.css": []byte("html{}"), "history/" + hash: []byte(old),
		"pages/p.html": []byte("---\ntitle: P\n---\n" + `@{copy of="a" base="x" style="` + hash + `"}<b>x</b>@{/copy}@{a /}@{a /}`),
		"pages/q.html": []byte("---\ntitle: Q\n---\n" + `@{copy of="a" base="x" style="` + hash + `"}<b>x</b>@{/copy}`)}
	told := func() (out []string) {
		for _, p := range check.Site(sitetest.New(files)) {
			if p.Code == "page-wide-style" {
				out = append(out, p.Path+": "+p.Message)
			}
		}
		return out
	}
	require.Equal(t, []string{"pages/p.html: the style of an older revision has rules for body, which do not count beside another revision of its block"}, told())
	files["history/"+hash] = []byte(".a{}")
	require.Empty(t, told())
}
