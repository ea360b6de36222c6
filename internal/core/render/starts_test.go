package render_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"brickshelf/internal/core/assets"
	"brickshelf/internal/core/check"
	"brickshelf/internal/core/render"
	"brickshelf/internal/core/site"
	"brickshelf/internal/core/sitetest"
)

const each = "export default () => {}"

// body renders a page and gives what stands behind the links to what it loads, the marks of behaviours
// as [JSON].
func body(t *testing.T, f site.Files, path string) (text string, loads []string) {
	t.Helper()
	s := sitetest.New(f)
	require.Empty(t, check.Validity(s))
	res := render.Page(s, path, render.Options{Placements: true})
	require.Equal(t, string(render.AppendPage(s, nil, s.Info(path))), string(res.HTML))
	for _, l := range res.Literals {
		src, _ := s.Get(path)
		require.Equal(t, string(src[l.At:l.At+l.To-l.From]), string(res.HTML[l.From:l.To]))
	}
	text = string(res.HTML)
	if i := strings.LastIndex(text, "</script>\n"); i >= 0 {
		text = text[i+len("</script>\n"):]
	}
	for _, b := range res.Behaviours {
		src, ok := b.Bytes(s)
		require.True(t, ok)
		if b == assets.Starter() {
			src = []byte("starter")
		}
		loads = append(loads, string(src))
		if b.Each {
			text = strings.ReplaceAll(text, assets.Attribute(b.Hash), "*")
		}
	}
	return strings.ReplaceAll(text, "&#34;", "'"), loads
}

func TestAnInstanceIsMarkedWithWhatItIsGiven(t *testing.T) {
	f := files("blocks/a.html",
		"---\nbehaviour: {gives: [n, {}], when: visible, media: (width < 5em)}\nfields: {n: {type: number}, t: {type: text, default: \"<\"}}\n---\nx<!-- <b> --><script></script><p>@{=t}@{=inner}</p><i></i>",
		"blocks/a.js", each, "pages/p.html", `<u>@{a n=5}<b>@{a /}</b>@{/a}</u>`)
	f["blocks/a.html"] = []byte(strings.Replace(string(f["blocks/a.html"]), ", {}", ", t", 1))
	text, loads := body(t, f, "pages/p.html")
	mark := func(n string) string {
		return ` *="{'values':{'n':` + n + `,'t':'&lt;'},'when':'visible','media':'(width &lt; 5em)'}"`
	}
	require.Equal(t, "<u>x<!-- <b> --><script></script><p"+mark("5")+">&lt;<b>x<!-- <b> --><script></script><p"+
		mark("null")+">&lt;</p><i></i></b></p><i></i></u>", text)
	require.Equal(t, []string{each, "starter"}, loads)
}

func TestWhatStartsNothingIsNotMarked(t *testing.T) {
	f := files("blocks/a.html", "@{=inner}", "blocks/a.js", each, "blocks/page-wide.html", "<p>",
		"blocks/page-wide.js", "1", "pages/p.html",
		`@{a}text@{/a}@{page-wide /}<b title="@{a}<i>@{/a}">@{a}<i>@{a}<u>@{/a}@{/a}`)
	text, _ := body(t, f, "pages/p.html")
	require.Equal(t, `text<p><b title="&lt;i&gt;"><i *="{}"><u *="{}">`, text)
}

func TestBehavioursComeBehindThoseThatTheyNeed(t *testing.T) {
	f := files("blocks/a.html", "---\nbehaviour: {needs: [b, d]}\n---\n<p>", "blocks/a.js", "a", "blocks/b.html",
		"---\nbehaviour: {needs: c}\n---\n", "blocks/b.js", each, "blocks/c.html", "", "blocks/c.js", "c",
		"blocks/d.html", "", "pages/p.html", `@{d /}@{a /}@{c /}`)
	_, loads := body(t, f, "pages/p.html")
	require.Equal(t, []string{"c", each, "a", "starter"}, loads)

	s := sitetest.New(f)
	o := s.With([]site.Change{{Path: "blocks/c.js", After: []byte("c2")}})
	require.Len(t, o.Reached(), 1)
	var codes []string
	for _, p := range check.Site(s) {
		codes = append(codes, p.Code+" "+p.Path)
	}
	require.Contains(t, codes, "missing-need blocks/a.html")
	require.NotContains(t, codes, "missing-need blocks/b.html")

	f["blocks/c.html"] = []byte("---\nbehaviour: {needs: [a]}\n---\n")
	list := check.Validity(sitetest.New(f))
	require.Len(t, list, 1)
	require.Equal(t, "its behaviour needs itself: a → b → c → a; take one of these out of needs", list[0].Message)
	require.Equal(t, []any{"blocks/c.html", 2, 20}, []any{list[0].Path, list[0].Line, list[0].Column})
}

func TestWhatABlockSaysOfABehaviourThatIsNotStarted(t *testing.T) {
	for says, want := range map[string]string{
		"{gives: [t]}":      "never-started",
		"{gives: {u: t}}":   "never-started",
		"{when: visible}":   "never-started",
		"{media: print}":    "never-started",
		"{needs: []}":       "",
		"{gives: [u]}":      "unknown-name",
		"{gives: {t: u}}":   "unknown-name",
		"{when: never}":     "wrong-type",
		"{needs: [\"/a\"]}": "bad-name",
		"{gibt: [t]}":       "unknown-key",
	} {
		f := files("blocks/a.html", "---\nbehaviour: "+says+"\nfields: {t: {type: text}}\n---\n@{=t}", "blocks/a.js", "1",
			"pages/p.html", "@{a /}")
		var codes []string
		for _, p := range check.Site(sitetest.New(f)) {
			codes = append(codes, p.Code)
		}
		if want == "" {
			require.Empty(t, codes, says)
		} else {
			require.Equal(t, []string{want}, codes, says)
		}
	}
}
