package patch_test

import (
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"brickshelf/internal/core/patch"
	"brickshelf/internal/core/site"
)

func TestListsKeepWhatStandsThere(t *testing.T) {
	add := func(path string, src []byte) ([]byte, error) {
		return patch.Add(path, src, []string{"hidden"}, "main/c~1")
	}
	drop := func(path string, src []byte) ([]byte, error) {
		return patch.Drop(path, src, []string{"hidden"}, "main/a~1")
	}
	other := func(path string, src []byte) ([]byte, error) {
		return patch.Exchange(path, src, []string{"hidden"}, "main/a~1", "main/x~1")
	}
	for _, c := range []struct {
		name          string
		do            func(string, []byte) ([]byte, error)
		before, after string
	}{
		{"the first", add, "<p>", "---\nhidden: [main/c~1]\n---\n<p>"},
		{"behind others", add, "---\nhidden: [main/a~1] # why\n---\n",
			"---\nhidden: [main/a~1, main/c~1] # why\n---\n"},
		{"behind others over lines", add, "---\nhidden: [\n  main/a~1, # a\n  main/b~1\n]\n---\n",
			"---\nhidden: [\n  main/a~1, # a\n  main/b~1, main/c~1]\n---\n"},
		{"a line each", add, "---\nhidden:\n  - main/a~1 # a\n  # more\n  - 'main/b~1' # b\ntitle: A\n---\n",
			"---\nhidden:\n  - main/a~1 # a\n  # more\n  - 'main/b~1' # b\n  - main/c~1\ntitle: A\n---\n"},
		{"without indentation", add, "---\r\nhidden:\r\n- main/a~1\r\n---\r\n",
			"---\r\nhidden:\r\n- main/a~1\r\n- main/c~1\r\n---\r\n"},
		{"none of several", drop, "---\nhidden: [main/b~1]\n---\n", "---\nhidden: [main/b~1]\n---\n"},
		{"one of several", drop, "---\nhidden: [main/a~1, main/b~1] # why\n---\n",
			"---\nhidden: [main/b~1] # why\n---\n"},
		{"the last of all", drop, "---\ntitle: A\nhidden: [main/a~1]\n---\n", "---\ntitle: A\n---\n"},
		{"a line of several", drop,
			"---\nhidden:\n  # a\n  - main/b~1 # b\n  - main/a~1 # gone\n  # c\n  - main/c~1 # d\n---\n",
			"---\nhidden:\n  # a\n  - main/b~1 # b\n  # c\n  - main/c~1 # d\n---\n"},
		{"the last line", drop, "---\nhidden:\n  - main/b~1 # b\n  - main/a~1\n# behind\ntitle: A\n---\n",
			"---\nhidden:\n  - main/b~1 # b\n# behind\ntitle: A\n---\n"},
		{"another", other, "---\nhidden: [main/b~1, \"main/a~1\"] # why\n---\n",
			"---\nhidden: [main/b~1, main/x~1] # why\n---\n"},
		{"another on its line", other, "---\nhidden:\n  - main/a~1 # a\n  - main/b~1\n---\n",
			"---\nhidden:\n  - main/x~1 # a\n  - main/b~1\n---\n"},
	} {
		got, err := c.do("pages/p.html", []byte(c.before))
		require.NoError(t, err, c.name)
		require.Equal(t, c.after, string(got), c.name)
	}
	_, err := add("pages/p.html", []byte("---\nhidden: [\n---\n"))
	require.Error(t, err)
	_, err = add("assets/a.svg", nil)
	require.ErrorContains(t, err, "has no keys")
}

// Whatever a list is written like, it holds what it held and what was done to it, comments
// stay but for those of what goes, and the rest of the text stays as it is.
func TestListsReadBackAsChanged(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		item := rapid.SampledFrom([]string{"a", "b c", "main/b~1", "x: y", "12", "é", "it's", "#1", "",
			"yes"})
		list := rapid.SliceOfNDistinct(item, 0, 4, rapid.ID[string]).Draw(t, "list")
		quote := func(s string) string {
			if rapid.Bool().Draw(t, "quoted") {
				return site.QuoteYAML(s)
			}
			return site.PlainYAML(s)
		}
		var text strings.Builder
		text.WriteString("# top\n")
		style := rapid.IntRange(0, 2).Draw(t, "style")
		switch {
		case len(list) == 0 && style == 0:
		case style < 2 || len(list) == 0:
			var parts []string
			for _, s := range list {
				parts = append(parts, site.QuoteYAML(s))
			}
			text.WriteString("on: [" + strings.Join(parts, ", ") + "] # in brackets\n")
		default:
			text.WriteString("on:\n")
			indent := rapid.SampledFrom([]string{"", "  ", "    "}).Draw(t, "indent")
			for _, s := range list {
				text.WriteString(indent + "- " + quote(s) + "\n")
			}
		}
		text.WriteString("# between\nblock: b # end\n")
		one := item.Draw(t, "one")
		keys := []string{"on"}
		var got []byte
		var err error
		want := slices.Clone(list)
		switch rapid.IntRange(0, 2).Draw(t, "what") {
		case 0:
			got, err = patch.Add("rules/r.yaml", []byte(text.String()), keys, one)
			want = append(want, one)
		case 1:
			got, err = patch.Drop("rules/r.yaml", []byte(text.String()), keys, one)
			want = slices.DeleteFunc(want, func(s string) bool { return s == one })
		default:
			got, err = patch.Exchange("rules/r.yaml", []byte(text.String()), keys, one, "new")
			if i := slices.Index(want, one); i >= 0 {
				want[i] = "new"
			}
		}
		require.NoError(t, err, text.String())
		y, problem := site.ParseYAML(got, "", 1)
		require.Nil(t, problem, "%s", got)
		var is []string
		if v := y.Get("on"); v != nil {
			for _, it := range v.Items {
				is = append(is, it.Text)
			}
		}
		require.Equal(t, len(want), len(is), "%s\nwas\n%s", got, text.String())
		for i := range want {
			require.Equal(t, want[i], is[i], "%s\nwas\n%s", got, text.String())
		}
		require.Contains(t, string(got), "# between\nblock: b # end\n")
		require.True(t, strings.HasPrefix(string(got), "# top\n"))
	})
}
