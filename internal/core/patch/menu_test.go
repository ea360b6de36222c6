package patch_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"brickshelf/internal/core/patch"
)

const menuText = `title: Main # the big one
items:
  - label: Routes
    to: /routes/
    # the best first
    items:
      - {label: Aldwick, to: /routes/aldwick/} # one
      # second
      - {label: Corrie, to: /routes/corrie/, badge: new}
  # where
  - {label: Ports, to: /ports/}
  - label: Fares
    to: /fares/
    items: [{label: Passes, to: /fares/passes/}]
note: x
`

func TestMenusKeepWhatIsWritten(t *testing.T) {
	items, err := patch.MenuItems([]byte(menuText))
	require.NoError(t, err)
	same, err := patch.SetMenu([]byte(menuText), items)
	require.NoError(t, err)
	require.Equal(t, menuText, string(same))

	swapped := []patch.MenuItem{items[1], items[0], items[2]}
	got, err := patch.SetMenu([]byte(menuText), swapped)
	require.NoError(t, err)
	require.True(t, strings.Index(string(got), "# where\n  - {label: Ports") < strings.Index(string(got),
		"label: Routes"))
	require.Contains(t, string(got),
		"    # the best first\n    items:\n      - {label: Aldwick, to: /routes/aldwick/} # one\n      # second\n")

	under := []patch.MenuItem{items[0], items[2]}
	under[0].Items = append([]patch.MenuItem{items[1]}, items[0].Items[1])
	got, err = patch.SetMenu([]byte(menuText), under)
	require.NoError(t, err)
	require.Contains(t, string(got),
		"    # the best first\n    items:\n      # where\n      - {label: Ports, to: /ports/}\n      # second\n      - {label: Corrie")
	require.NotContains(t, string(got), "Aldwick")

	items[2].Label = "Prices"
	got, err = patch.SetMenu([]byte(menuText), items)
	require.NoError(t, err)
	require.Contains(t, string(got),
		"  - label: Prices\n    to: /fares/\n    items:\n      - {label: Passes, to: /fares/passes/}\nnote: x\n")
}

// Whatever becomes of the items, the text says just that, and an entry that is taken
// along is written as it was.
func TestMenusReadBackAsSet(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		items, err := patch.MenuItems([]byte(menuText))
		require.NoError(t, err)
		word := rapid.SampledFrom([]string{"Sea", "a: b", "#1", "", "two\nlines", "it's", "@{x /}"})
		var all []patch.MenuItem
		var flat func(list []patch.MenuItem)
		flat = func(list []patch.MenuItem) {
			for _, it := range list {
				flat(it.Items)
				all = append(all, it)
			}
		}
		flat(items)
		used := map[string]bool{}
		var draw func(depth int) []patch.MenuItem
		draw = func(depth int) []patch.MenuItem {
			var out []patch.MenuItem
			for range rapid.IntRange(0, 3).Draw(t, "n") {
				it := patch.MenuItem{Label: "x" + word.Draw(t, "label"), To: word.Draw(t, "to"),
					Panel: word.Draw(t, "panel"), NewTab: rapid.Bool().Draw(t, "tab"),
					Icon: word.Draw(t, "icon"), Note: word.Draw(t, "note"), Image: word.Draw(t, "image"),
					IconSize: rapid.SampledFrom([]string{"", "20", "x"}).Draw(t, "size"),
					Audience: rapid.SampledFrom([]string{"", "signed-in"}).Draw(t, "audience"),
					From:     rapid.SampledFrom([]string{"", "2026-03-01"}).Draw(t, "from"), Until: word.Draw(t, "until")}
				if old := rapid.SampledFrom(all).Draw(t, "old"); rapid.Bool().Draw(t, "known") &&
					!used[old.Was] {
					used[old.Was] = true
					it = old
				}
				if depth < 2 && rapid.IntRange(0, 2).Draw(t, "deep") == 0 {
					it.Items = draw(depth + 1)
				}
				out = append(out, it)
			}
			return out
		}
		want := draw(0)
		got, err := patch.SetMenu([]byte(menuText), want)
		require.NoError(t, err)
		read, err := patch.MenuItems(got)
		require.NoError(t, err)
		var bare func(list []patch.MenuItem) []patch.MenuItem
		bare = func(list []patch.MenuItem) (out []patch.MenuItem) {
			for _, it := range list {
				it.Was, it.Items = "", bare(it.Items)
				out = append(out, it)
			}
			return out
		}
		require.Equal(t, bare(want), bare(read), "%s", got)
		require.True(t, strings.HasPrefix(string(got), "title: Main # the big one\n") &&
			strings.HasSuffix(string(got), "note: x\n"), "%s", got)
	})
}

// Comments stay where they stand, also about entries that become something else.
func TestMenusKeepComments(t *testing.T) {
	const text = "# head\nitems: # the list\n  # first\n  - {label: \"A # a\", to: /a/} # behind a\n  # second\n  - label: B # behind b\n    to: /b/\n    items: # below\n      # third\n      - {label: C, to: /c/} # behind c\n  # last\n\n# foot\nnote: x # n\n"
	for _, nl := range []string{"\n", "\r\n"} {
		src := []byte(strings.ReplaceAll(text, "\n", nl))
		items, err := patch.MenuItems(src)
		require.NoError(t, err)
		same, err := patch.SetMenu(src, items)
		require.NoError(t, err)
		require.Equal(t, string(src), string(same))
		items[0].Label, items[1].To, items[1].Items[0].Label = "New # a", "/new/", "D"
		got, err := patch.SetMenu(src, items)
		require.NoError(t, err)
		want := strings.NewReplacer(`"A # a"`, `"New # a"`, "/b/", "/new/", "label: C", "label: D", "to: /b/",
			"to: /new/").Replace(text)
		require.Equal(t, strings.ReplaceAll(want, "\n", nl), string(got))
		got, err = patch.SetMenu(src, nil)
		require.NoError(t, err)
		require.Equal(t, strings.ReplaceAll("# head\nitems: [] # the list\n  # last\n\n# foot\nnote: x # n\n",
			"\n", nl), string(got))
	}
}
