package documents_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/require"
	nethtml "golang.org/x/net/html"

	"brickshelf/internal/core/check"
	"brickshelf/internal/core/edit/documents"
	"brickshelf/internal/core/edit/outline"
	"brickshelf/internal/core/explain"
	"brickshelf/internal/core/impact"
	"brickshelf/internal/core/sitetest"
)

func TestMovingAPage(t *testing.T) {
	f, s := stock(
		"layouts/l.html", "<nav>@{menu name=m /}</nav>@{region main /}",
		"menus/m.yaml",
		"items:\n  - {label: Fares, to: /fares/, panel: '<a href=\"/fares/#day\">Day</a>'}\n  - {label: Passes, to: /fares/passes/}\n",
		"blocks/go.html",
		"---\nfields: {to: {type: link, default: {to: /fares/, label: /fares/}}}\nsample: '@{go to=\"/fares/\" /}'\n---\n<a href=\"@{=to}\">@{=to.label}</a>",
		"rules/r.yaml", "block: go\nregion: main\non: [\"page:/fares/\", \"under:/fares/\"]\n",
		"pages/index.html",
		"---\nlayout: l\n---\nSee /fares/ <a href='/fares/?x=1'>a</a><a href=\"/fares/passes/\">b</a>@{go to={\"to\":\"/fares/\"} /}",
		"pages/fares/index.html", "---\ntitle: Fares & more\nlayout: l\n---\n<a href=\"/fares/\">here</a>",
		"pages/fares/passes.html", "---\nlayout: l\n---\nx",
	)
	set, err := documents.MovePage(s, "pages/fares/index.html", "pages/prices.html", true)
	o := after(t, f, set, err)
	require.Equal(t,
		"items:\n  - {label: Fares, to: /prices/, panel: '<a href=\"/prices/#day\">Day</a>'}\n  - {label: Passes, to: /fares/passes/}\n", sitetest.Source(o, "menus/m.yaml"))
	require.Equal(t, "block: go\nregion: main\non: [\"page:/prices/\", \"under:/fares/\"]\n",
		sitetest.Source(o, "rules/r.yaml"))
	require.Equal(t,
		"---\nlayout: l\n---\nSee /fares/ <a href='/prices/?x=1'>a</a><a href=\"/fares/passes/\">b</a>@{go to={\"to\":\"/prices/\"} /}", sitetest.Source(o, "pages/index.html"))
	require.Contains(t, sitetest.Source(o, "blocks/go.html"), "default: {to: /prices/, label: /prices/}")
	require.Contains(t, sitetest.Source(o, "blocks/go.html"), "@{go to=\"/prices/\" /}")
	require.Contains(t, sitetest.Source(o, "pages/prices.html"), "<a href=\"/prices/\">here</a>")
	require.Contains(t, sitetest.HTML(o, "pages/fares/index.html"), `content="0; url=/prices/"`)
	for _, p := range check.Site(o) {
		require.NotEqual(t, "missing-page", p.Code, p.Error())
	}
	im := impact.Of(s, s.With(set.Changes))
	require.Zero(t, im.Breaks())
	set, err = documents.MovePage(s, "pages/fares/index.html", "pages/prices.html", false)
	require.Nil(t, after(t, f, set, err).Info("pages/fares/index.html"))
	for to, want := range map[string]string{"pages/index.html": "is the address of pages/index.html already",
		"pages/fares/passes/index.html": "is the address of pages/fares/passes.html",
		"blocks/x.html":                 "a page should be named", "pages/../x.html": "no empty",
		"pages/fares/index.html": "stands there already"} {
		_, err := documents.MovePage(s, "pages/fares/index.html", to, false)
		require.ErrorContains(t, err, want)
	}
	_, err = documents.MovePage(s, "pages/index.html", "pages/x.html", false)
	require.ErrorContains(t, err, "this is the home page")
}

// What stays behind shows what the page was called and where it is, whatever that holds.
func TestAPageThatLeadsOnSaysSoInPlainText(t *testing.T) {
	const title = `R&D: "<b>" and @{gone /} # more`
	f, s := stock("pages/a.html", "---\ntitle: 'R&D: \"<b>\" and @{gone /} # more'\n---\nx")
	set, err := documents.MovePage(s, "pages/a.html", "pages/r&d/it's.html", true)
	o := after(t, f, set, err)
	require.Equal(t, title, o.Info("pages/a.html").Page.Title)
	require.Empty(t, explain.Faults(o, "pages/a.html"))
	page, err := nethtml.Parse(strings.NewReader(sitetest.HTML(o, "pages/a.html")))
	require.NoError(t, err)
	said := map[string]string{}
	for n := range page.Descendants() {
		for _, a := range n.Attr {
			said[n.Data+" "+a.Key] = a.Val
		}
		if n.Type == nethtml.TextNode {
			said[n.Parent.Data] = strings.TrimSpace(n.Data)
		}
	}
	require.Equal(t, title, said["title"])
	require.Equal(t, title, said["a"])
	require.Equal(t, "/r&d/it's/", said["a href"])
	require.Equal(t, "/r&d/it's/", said["link href"])
	require.Equal(t, "0; url=/r&d/it's/", said["meta content"])
}

func TestMovingAPageKeepsRelativeReferences(t *testing.T) {
	f, s := stock(
		"pages/index.html", "<a href=\"fares/day/\">a</a><a href='./fares/'>b</a>",
		"pages/fares/index.html", "x",
		"pages/fares/day.html",
		"<a href=\"../?a=1#b\">up</a><a href=\"../../\">home</a><img src='../../assets/x.svg' alt=\"../\"><a href=\"#here\" id=\"here\">here</a><a href=\"@{url page=\"/fares/\" /}\">c</a><a href=\"https://x.example/\">d</a><a href=\"./\">self</a>",
		"assets/x.svg", "<svg/>",
	)
	set, err := documents.MovePage(s, "pages/fares/day.html", "pages/tickets/one/day.html", false)
	o := after(t, f, set, err)
	require.Equal(t, "<a href=\"/tickets/one/day/\">a</a><a href='./fares/'>b</a>",
		sitetest.Source(o, "pages/index.html"))
	require.Equal(t,
		"<a href=\"/fares/?a=1#b\">up</a><a href=\"/\">home</a><img src='/assets/x.svg' alt=\"../\"><a href=\"#here\" id=\"here\">here</a><a href=\"@{url page=\"/fares/\" /}\">c</a><a href=\"https://x.example/\">d</a><a href=\"/tickets/one/day/\">self</a>", sitetest.Source(o, "pages/tickets/one/day.html"))
	require.Zero(t, impact.Of(s, s.With(set.Changes)).Breaks())
}

// What a moved page left behind leads on to where the page stands now, however often it moves.
func TestTheWayOnFollowsThePage(t *testing.T) {
	f, s := stock("pages/a.html", "---\ntitle: A\n---\nx")
	set, err := documents.MovePage(s, "pages/a.html", "pages/b.html", true)
	s = after(t, f, set, err)
	set, err = documents.MovePage(s, "pages/b.html", "pages/c.html", true)
	s = after(t, s.Files(), set, err)
	for _, p := range []string{"pages/a.html", "pages/b.html"} {
		require.Contains(t, sitetest.Source(s, p), "redirect: /c/\n", p)
		require.Contains(t, sitetest.Source(s, p), `content="0; url=/c/"`, p)
	}
	require.Equal(t, []string{"/c/"}, s.Published())
}

func TestACallInAnAttributeIsNotHidden(t *testing.T) {
	src := []byte("<a href=\"@{url page=\"/a/\" /}\">x</a>@{note /}")
	_, err := outline.Hide("pages/p.html", src, "main/url~1")
	require.ErrorContains(t, err, "url stands in an attribute")
	hidden, err := outline.Hide("pages/p.html", src, "main/note~1")
	require.NoError(t, err)
	require.Contains(t, string(hidden), "main/note~1")
}
