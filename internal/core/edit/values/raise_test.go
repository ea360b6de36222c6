package values_test

import (
	"bytes"
	"maps"
	"testing"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"brickshelf/internal/core/edit/values"
	"brickshelf/internal/core/explain"
	"brickshelf/internal/core/render"
	"brickshelf/internal/core/shelf"
	"brickshelf/internal/core/site"
	"brickshelf/internal/core/sitetest"
)

// Where those that inherited a default keep what they had, no page changes by another
// one; where they follow, they show it, and nobody says of his own what he gets anyway.
func TestAnotherDefaultIsKeptOrFollowed(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		f := sitetest.Site(t)
		s := sitetest.New(f)
		name := rapid.SampledFrom(s.Names()).Draw(t, "block")
		if s.Block(name) == nil || len(s.DocProblems("blocks/"+name+".html")) > 0 {
			return
		}
		text := rapid.SampledFrom([]string{"sea", "quay", "new"}).Draw(t, "text")
		kept, err := values.MakeDefault(s, name, "title", text, true)
		require.NoError(t, err)
		o := sitetest.New(sitetest.Apply(t, f, kept))
		for _, p := range s.PagePaths() {
			for _, signedIn := range []bool{false, true} {
				require.Equal(t, string(render.Page(s, p, render.Options{SignedIn: signedIn}).HTML),
					string(render.Page(o, p, render.Options{SignedIn: signedIn}).HTML), p)
			}
		}
		followed, err := values.MakeDefault(s, name, "title", text, false)
		require.NoError(t, err)
		o = sitetest.New(sitetest.Apply(t, f, followed))
		for _, row := range explain.Values(o, name) {
			l := row.Fields[o.Block(name).Field("title")]
			if l.Wins >= 0 && l.Sources[l.Wins].Source == render.FromDefault {
				require.Equal(t, text, l.Sources[l.Wins].Value.Text)
			}
		}
		for _, c := range followed.Changes {
			require.Contains(t, []site.Class{site.BlockDoc, site.PageDoc}, classOf(c.Path))
		}
	})
}

func classOf(path string) site.Class {
	class, _, _ := site.Classify(path)
	return class
}

func logos(s *shelf.Shelf) map[string]string {
	out := map[string]string{}
	for _, p := range s.PagePaths() {
		text, source := shown(explain.PrecedenceAt(s, p, "head/rule:head", false), "logo")
		out[s.Info(p).URL] = text + " " + string(source)
	}
	return out
}

func TestRaisingAValue(t *testing.T) {
	f := sitetest.Harbour()
	s := sitetest.New(f)
	set, err := values.RaiseToRule(s, "head", "logo", "red")
	require.NoError(t, err)
	require.Equal(t, map[string]string{"/": "red placed", "/a/": "red placed", "/b/": "red placed",
		"/c/": "blue override"}, logos(sitetest.New(sitetest.Apply(t, f, set))))

	set, err = values.RaiseToPage(s, "head", "logo", "red", "emblem")
	require.NoError(t, err)
	after := sitetest.Apply(t, f, set)
	require.Equal(t, map[string]string{"/": "std default", "/a/": "red page", "/b/": "red page",
		"/c/": "blue override"}, logos(sitetest.New(after)))
	require.Contains(t, string(after["layouts/port.html"]), "page_fields: {emblem: {type: text}}")
	require.Equal(t, "---\ntitle: B\nlayout: port\nfields: {emblem: red}\n---\n@{head /}",
		string(after["pages/b.html"]))

	declared := bytes.Replace(f["layouts/port.html"], []byte("regions:"),
		[]byte("page_fields: {emblem: {type: text, label: Sign}}\nregions:"), 1)
	set, err = values.RaiseToPage(sitetest.New(with(f, "layouts/port.html", declared)), "head", "logo", "red",
		"emblem")
	require.NoError(t, err)
	for _, c := range set.Changes {
		require.NotEqual(t, "layouts/port.html", c.Path, "it has the field already")
	}

	f["pages/b.html"] = []byte("---\ntitle: B\nlayout: port\nfields: {emblem: blue}\noverrides:\n  head/rule:head: {logo: red}\n---\n")
	_, err = values.RaiseToPage(sitetest.New(f), "head", "logo", "red", "emblem")
	require.ErrorContains(t, err, "/b/ has another value for page.emblem already")

	_, err = values.RaiseToPage(s, "head", "logo", "green", "emblem")
	require.ErrorContains(t, err, "no page gives logo the value green")
	_, err = values.RaiseToRule(s, "foot", "logo", "red")
	require.ErrorContains(t, err, "there is no rule")
}

func keysOf(m map[string]bool) (out []string) {
	for k := range m {
		out = append(out, k)
	}
	return out
}

func TestAimingAnOrphanAtAnotherPlacement(t *testing.T) {
	f := sitetest.Harbour()
	s := sitetest.New(f)
	set, err := values.Retarget(s, "pages/c.html", "head/rule:gone", "head/rule:head")
	require.NoError(t, err)
	require.Equal(t, "---\ntitle: C\nlayout: port\noverrides:\n  head/rule:head: {logo: blue}\n---\n",
		string(set.Changes[0].After), "what is said there already stays")

	f["pages/c.html"] = []byte("---\ntitle: C\nlayout: port\noverrides:\n  head/rule:gone: {logo: lost, phone: \"7\"}\n---\n")
	s = sitetest.New(f)
	set, err = values.Retarget(s, "pages/c.html", "head/rule:gone", "head/rule:head")
	require.NoError(t, err)
	require.Equal(t,
		"---\ntitle: C\nlayout: port\noverrides:\n  \"head/rule:head\": {logo: lost, phone: \"7\"}\n---\n",
		string(set.Changes[0].After))
	set, err = values.Retarget(s, "pages/c.html", "head/rule:gone", "")
	require.NoError(t, err)
	require.Equal(t, "---\ntitle: C\nlayout: port\n---\n", string(set.Changes[0].After))
	_, err = values.Retarget(s, "pages/c.html", "head/rule:gone", "main/head~4")
	require.ErrorContains(t, err, "nothing stands at")
	_, err = values.Retarget(s, "pages/a.html", "head/rule:gone", "")
	require.ErrorContains(t, err, "says nothing")

	f["pages/c.html"] = []byte("---\ntitle: C\nlayout: port\noverrides:\n  head/rule:head: {motto: gone, phone: \"7\"}\n---\n@{head /}")
	s = sitetest.New(f)
	set, err = values.Retarget(s, "pages/c.html", "head/rule:head", "")
	require.NoError(t, err)
	require.Equal(t,
		"---\ntitle: C\nlayout: port\noverrides:\n  head/rule:head: {phone: \"7\"}\n---\n@{head /}",
		string(set.Changes[0].After), "what has an effect stays")
	f["pages/c.html"] = []byte("---\ntitle: C\nlayout: port\nhidden: [\"head/rule:gone\"]\n---\n")
	set, err = values.Retarget(sitetest.New(f), "pages/c.html", "head/rule:gone", "head/rule:head")
	require.NoError(t, err)
	require.Equal(t, []string{"head/rule:head"},
		keysOf(sitetest.New(sitetest.Apply(t, f, set)).Info("pages/c.html").Page.Hidden))
}

func with(f site.Files, path string, text []byte) site.Files {
	f = maps.Clone(f)
	f[path] = text
	return f
}
