package copies_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"brickshelf/internal/core/block"
	"brickshelf/internal/core/edit/copies"
	"brickshelf/internal/core/edit/values"
	"brickshelf/internal/core/site"
	"brickshelf/internal/core/sitetest"
)

// Where the changes of a copy fit fields, linking it again changes no byte of any page.
func TestWhatFitsFieldsIsKeptWhenACopyIsLinkedAgain(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		files, s, path, p := draw(t)
		b := s.Block(p.Block)
		var text []string
		for _, f := range b.Fields {
			if f.Type == block.Text {
				text = append(text, f.Name)
			}
		}
		// The copy as it would be had the placement a value of its own.
		shown := files
		if len(text) > 0 {
			value := rapid.SampledFrom([]string{"quay", "a & b", "<b>", "50 %", `"`, "x y"}).Draw(t, "value")
			set, err := values.Set(s, p.Block, []values.Edit{{Doc: path, Address: p.Address,
				Field: rapid.SampledFrom(text).Draw(t, "field"), Text: &value}})
			if err != nil {
				return // its pattern does not take it
			}
			shown = sitetest.Apply(t, files, set)
			if _, stands := placementsBut(sitetest.New(shown), path, "")[p.Address]; !stands {
				return // the call was given a key, and is another placement by that
			}
		}
		set, err := copies.Detach(sitetest.New(shown), path, p.Address)
		require.NoError(t, err)
		edited := sitetest.New(sitetest.Apply(t, shown, set))
		r, err := copies.Relink(edited, path, p.Address)
		require.NoError(t, err)
		after := sitetest.New(sitetest.Apply(t, sitetest.Apply(t, shown, set), r.Set))
		if r.Before == r.After {
			for _, q := range s.PagePaths() {
				require.Equal(t, seen(edited, q), seen(after, q), q)
			}
		}
		require.Equal(t, r.Before, r.After, "nothing was changed by hand")
	})
}

func TestLinkingAgain(t *testing.T) {
	card := "---\nfields:\n  name: {type: text, label: Name}\n  phone: {type: text, default: \"1 2\"}\n" +
		"  at: {type: lines, default: \"a\\nb\"}\n  to: {type: link, default: /x/}\n  big: {type: switch}\n---\n" +
		"<h3><a href=\"@{=to}\">@{=name}</a></h3>\n<p>@{=at}</p>\n@{when big}<b>\n@{/when}" +
		"<a href=\"tel:@{=phone}\">@{=phone}</a>\n"
	hash := string(site.HashOf([]byte(card)))
	relink := func(text string) (copies.Relinked, string) {
		files := site.Files{"site.yaml": []byte("format: brickshelf/1\n"), "blocks/card.html": []byte(card),
			"pages/p.html": []byte(`@{copy of="card" base="` + hash + `" call="@{card name=\"N\" /}"}` + text +
				"@{/copy}")}
		s := sitetest.New(files)
		r, err := copies.Relink(s, "pages/p.html", "main/card~1")
		require.NoError(t, err)
		return r, string(sitetest.Apply(t, files, r.Set)["pages/p.html"])
	}
	plain := "<h3><a href=\"/x/\">N</a></h3>\n<p>a<br>\nb</p>\n<a href=\"tel:1%202\">1 2</a>\n"
	with := func(pairs ...string) string { return strings.NewReplacer(pairs...).Replace(plain) }
	for _, c := range []struct {
		text, call string
		whole      bool
		fits       []copies.Fit
	}{
		{plain, `@{card name="N" /}`, true, nil},
		{with(">N<", ">M &amp; O<"), `@{card name="M & O" /}`, true, []copies.Fit{{"name", "Name", "M & O"}}},
		{with("1%202", "3%204", "1 2", "3 4"), `@{card name="N" phone="3 4" /}`, true,
			[]copies.Fit{{"phone", "phone", "3 4"}}},
		{with("1 2", "3 4"), `@{card name="N" /}`, false, nil}, // its two places say two things
		{with("a<br>\nb", "c<br>\nd", "/x/", "/y/"), "", true,
			[]copies.Fit{{"at", "at", "c\nd"}, {"to", "to", "/y/"}}},
		{with(">N<", ">M<") + "<p>own</p>\n", `@{card name="M" /}`, false,
			[]copies.Fit{{"name", "Name", "M"}}},
		{"all its own", `@{card name="N" /}`, false, nil},
	} {
		r, text := relink(c.text)
		require.ElementsMatch(t, c.fits, r.Fits, c.text)
		require.Equal(t, c.whole, r.Before == r.After, "%s\n%s", r.Before, r.After)
		if c.call != "" {
			require.Equal(t, c.call, text)
		}
	}
}
