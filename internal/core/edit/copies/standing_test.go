package copies_test

import (
	"maps"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"brickshelf/internal/core/edit/copies"
	"brickshelf/internal/core/edit/outline"
	"brickshelf/internal/core/patch"
	"brickshelf/internal/core/shelf"
	"brickshelf/internal/core/site"
	"brickshelf/internal/core/sitetest"
)

// edited is a page's text in which the copy at an address holds something more.
func edited(t require.TestingT, s *shelf.Shelf, path, address string) []byte {
	g := s.Info(path).Page
	src, _ := s.Get(path)
	if c := g.Copies[address]; c != nil {
		out, err := patch.Set(path, src, []string{"copies", address, "text"}, string(c.Text.Src)+" more")
		require.NoError(t, err)
		return out
	}
	n := outline.Find(g, address)
	require.NotNil(t, n)
	at := g.Split.TextAt + n.Tail.From
	return []byte(string(src[:at]) + " more" + string(src[at:]))
}

// What a copy is said to be follows from what has been done to it and to its block.
func TestStandingsFollowWhatIsDone(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		files, s, path, p := draw(t)
		if strings.Count(p.Address+"/", "/"+p.Block+"~") > 1 {
			t.Skip("it stands within itself, and goes when it shows something new")
		}
		set, err := copies.Detach(s, path, p.Address)
		require.NoError(t, err)
		files = sitetest.Apply(t, files, set)
		at := func(f site.Files) copies.Copy {
			c, err := copies.At(sitetest.New(f), path, p.Address)
			require.NoError(t, err)
			require.Equal(t, p.Block, c.Of)
			return c
		}
		c := at(files)
		require.Equal(t, copies.Unchanged, c.Standing, "%s\n%+v", files[path], c)
		require.Equal(t, c.Text, c.Now)

		moved := maps.Clone(files)
		moved["blocks/"+p.Block+".html"] = []byte("entirely new @{=inner}")
		c = at(moved)
		require.Equal(t, copies.Behind, c.Standing, "%s\n%+v", files[path], c)
		require.Contains(t, c.Now, "entirely new")

		own := maps.Clone(files)
		own[path] = edited(t, sitetest.New(files), path, p.Address)
		require.Equal(t, copies.Edited, at(own).Standing)

		both := maps.Clone(moved)
		both[path] = own[path]
		c = at(both)
		require.Equal(t, copies.Both, c.Standing)
		require.Contains(t, c.Text, " more")
		require.NotContains(t, c.Base, " more")

		for name := range both {
			if strings.HasPrefix(name, "history/") {
				delete(both, name)
			}
		}
		c = at(both)
		require.Equal(t, copies.Unknown, c.Standing)
		require.Contains(t, c.Why, "is not in history")
	})
}

func TestStandings(t *testing.T) {
	base := "---\nfields: {n: {type: text, default: one}}\n---\n<b>@{=n}</b>"
	hash := string(site.HashOf([]byte(base)))
	files := site.Files{
		"site.yaml":                          []byte("format: brickshelf/1\n"),
		"blocks/a.html":                      []byte("---\nfields: {n: {type: text, label: N, default: one}}\n---\n<b>@{=n}</b>@{# said otherwise }"),
		"blocks/o.html":                      []byte("<i>@{=inner}</i>"),
		"blocks/w.html":                      []byte("<p>@{a /}"),
		"history/" + hash:                    []byte(base),
		"history/" + strings.Repeat("0", 64): []byte("not that"),
		"pages/p.html": []byte(`@{copy of="a" base="` + hash + `" call="@{a n=\"2\" /}"}<b>2</b>@{/copy}` +
			`@{copy of="a" base="` + strings.Repeat("0", 64) + `"}<b>x</b>@{/copy}` +
			`@{copy of="gone" base="` + hash + `" call="@{gone /}"}<b>one</b>@{/copy}`),
		"pages/q.html": []byte("---\ncopies:\n  main/w~1/a~1: {of: a, base: " + hash + ", text: <b>one</b>}\n" +
			"  main/a~9: {of: a, base: " + hash + ", text: x}\n---\n@{w /}" +
			`@{copy of="o" base="x"}@{copy of="a" base="` + hash + `"}<b>one</b>!@{/copy}@{/copy}` +
			`@{each site.pages as s}@{copy of="a" base="` + hash + `"}<b>one</b>@{/copy}@{/each}`),
	}
	var got []string
	for _, c := range copies.All(sitetest.New(files)) {
		got = append(got, strings.TrimSpace(strings.Join([]string{c.URL, c.Address, c.Of, string(c.Standing),
			c.Why}, " ")))
	}
	require.Equal(t, []string{
		"/p/ main/a~1 a unchanged",
		"/p/ main/a~2 a unknown history/" + strings.Repeat("0", 64) + " is not the revision that its name says",
		"/p/ main/gone~1 gone behind",
		"/q/ main/o~1 o unknown the revision of o that it came from is not in history",
		"/q/ main/o~1/a~1 a edited",
		"/q/ main/a~1 a unknown it stands in a loop, in several places at once",
		"/q/ main/a~9 a unknown nothing stands at this address of the page otherwise, so that it cannot be compared",
		"/q/ main/w~1/a~1 a unchanged",
	}, got)
	require.Len(t, copies.Of(sitetest.New(files), "o"), 1)

	files["blocks/a.css"] = []byte("b{}")
	c, err := copies.At(sitetest.New(files), "pages/p.html", "main/a~1")
	require.NoError(t, err)
	require.Equal(t, copies.Behind, c.Standing)
	require.True(t, c.Restyled)
	_, err = copies.At(sitetest.New(files), "pages/p.html", "main/a~7")
	require.ErrorContains(t, err, "there is no copy")
}
