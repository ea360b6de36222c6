package values_test

import (
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"brickshelf/internal/core/block"
	"brickshelf/internal/core/edit/values"
	"brickshelf/internal/core/render"
	"brickshelf/internal/core/site"
	"brickshelf/internal/core/sitetest"
)

func every(string) bool { return true }

// Renaming a field changes no page, leaves nothing of the old name, and renaming it back
// gives the same tree.
func TestRenamingAFieldChangesNoPageAndCanBeTurned(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		f := sitetest.Site(t)
		s := sitetest.New(f)
		name := rapid.SampledFrom(s.Names()).Draw(t, "block")
		if s.Block(name) == nil {
			return
		}
		field := rapid.SampledFrom([]string{"title", "on", "logo", "items"}).Draw(t, "field")
		set, err := values.RenameField(s, name, field, "renamed")
		require.NoError(t, err)
		after := sitetest.Apply(t, f, set)
		o := sitetest.New(after)
		for _, p := range s.PagePaths() {
			for _, signedIn := range []bool{false, true} {
				require.Equal(t, string(render.Page(s, p, render.Options{SignedIn: signedIn}).HTML),
					string(render.Page(o, p, render.Options{SignedIn: signedIn}).HTML), p)
			}
		}
		for _, m := range values.Mentions(o, name, every) {
			require.NotEqual(t, field, m.Field, m.Path)
		}
		require.Len(t, values.Mentions(o, name, every), len(values.Mentions(s, name, every)))
		back, err := values.RenameField(o, name, "renamed", field)
		require.NoError(t, err)
		require.Equal(t, f, sitetest.Apply(t, after, back))
	})
}

// fares is a site that gives the fields of one block values in every way there is.
func fares() site.Files {
	return site.Files{
		"site.yaml":         []byte("format: brickshelf/1\nname: x\n"),
		"layouts/one.html":  []byte("---\nregions: {main: {mode: stack}, side: {mode: stack}}\nstarts_with: {side: '@{fare price=9 /}'}\n---\n@{region main /}@{fare price=1 note=fixed /}@{region side /}"),
		"blocks/fare.html":  []byte("---\nsample: '@{fare price=7 /}'\nfields:\n  price: {type: text, default: \"5\"}\n  note: {type: text, default: a & b}\n---\n<p title=\"@{=note}\">@{=price} @{each page.tags as price}@{=price}@{/each}@{=note}</p>"),
		"blocks/outer.html": []byte("---\nfields: {price: {type: text, default: \"3\"}}\n---\n@{fare price=(price) /}"),
		"menus/main.yaml":   []byte("items:\n  - {label: Fares, to: /, panel: '@{fare price=4 /}@{fare price=6 note=x /}'}\n"),
		"rules/cheap.yaml":  []byte("block: fare\nregion: side\non: [all]\nenabled: true\nset: {price: \"2\", note: by rule}\n"),
		"rules/later.yaml":  []byte("block: fare\nregion: side\non: [home]\nenabled: true\nfrom: 2999-01-01\n"),
		"pages/index.html":  []byte("---\ntitle: Home\nlayout: one\noverrides:\n  side/rule:cheap: {price: cheap}\n  \"side/rule:later\": {\"price\": 11}\n  main/outer~1/fare~1: {note: nested}\n---\n@{fare price=\"12,5\" /}@{outer /}@{menu name=main /}"),
		"pages/two.html":    []byte("---\ntitle: Two\nlayout: one\ncopies:\n  side/rule:cheap: {of: fare, base: x, text: '@{fare price=8 /}'}\n---\n@{fare note=\"<b>\" /}\n"),
	}
}

func places(list []values.Mention) (out []string) {
	for _, m := range list {
		out = append(out, fmt.Sprintf("%s %s %s=%s", m.Path, m.Address, m.Field, m.Text))
	}
	return out
}

func TestEveryMentionOfAFieldIsFound(t *testing.T) {
	s := sitetest.New(fares())
	require.Equal(t, []string{
		"blocks/fare.html  price=7", "blocks/outer.html  price=(price)", "layouts/one.html  price=1",
		"layouts/one.html  price=9", "menus/main.yaml  price=4", "menus/main.yaml  price=6",
		"pages/index.html main/fare~1 price=12,5", "pages/index.html side/rule:cheap price=cheap",
		"pages/index.html side/rule:later price=11", "pages/two.html  price=8", "rules/cheap.yaml  price=2",
	}, places(values.Mentions(s, "fare", func(f string) bool { return f == "price" })))
	set, err := values.RenameField(s, "fare", "price", "cost")
	require.NoError(t, err)
	o := sitetest.New(sitetest.Apply(t, fares(), set))
	require.Len(t, values.Mentions(o, "fare", func(f string) bool { return f == "cost" }), 11)
	require.Empty(t, values.Orphans(o, "fare"))
	text, _ := o.Get("blocks/fare.html")
	require.Contains(t, string(text), "@{=cost} @{each page.tags as price}@{=price}@{/each}",
		"a loop's own name stays")
	_, err = values.RenameField(s, "fare", "price", "note")
	require.ErrorContains(t, err, "has a field note already")
	_, err = values.RenameField(s, "fare", "prize", "x")
	require.ErrorContains(t, err, "did you mean price")
	_, err = values.RenameField(s, "fare", "price", "when")
	require.ErrorContains(t, err, "cannot name a field")
}

func TestChangingTheTypeOfAField(t *testing.T) {
	s := sitetest.New(fares())
	set, misfits, err := values.RetypeField(s, "fare", "price", block.Number)
	require.NoError(t, err)
	require.Equal(t, []string{"pages/index.html side/rule:cheap price=cheap"}, places(misfits))
	o := sitetest.New(sitetest.Apply(t, fares(), set))
	require.Equal(t, block.Number, o.Block("fare").Fields[0].Type)
	require.Equal(t, "5", o.Block("fare").Fields[0].Default.Text)
	page, _ := o.Get("pages/index.html")
	require.Contains(t, string(page), "@{fare price=12.5 /}")

	set, misfits, err = values.RetypeField(s, "fare", "note", block.Rich)
	require.NoError(t, err)
	require.Empty(t, misfits)
	o = sitetest.New(sitetest.Apply(t, fares(), set))
	page, _ = o.Get("pages/two.html")
	require.Contains(t, string(page), `note="&lt;b&gt;"`)

	set, misfits, err = values.RetypeField(s, "fare", "price", block.Choice)
	require.NoError(t, err)
	require.Empty(t, misfits)
	require.Equal(t, []string{"5", "7", "1", "9", "4", "6", "12,5", "cheap", "11", "8", "2"},
		sitetest.New(sitetest.Apply(t, fares(), set)).Block("fare").Fields[0].Choices)

	_, _, err = values.RetypeField(s, "fare", "price", block.Text)
	require.ErrorContains(t, err, "already")
	_, _, err = values.RetypeField(s, "fare", "price", "money")
	require.ErrorContains(t, err, "no type")
}

func TestARemovedFieldLeavesOrphansThatCanBeRestoredOrDropped(t *testing.T) {
	f := fares()
	s := sitetest.New(f)
	_, _, err := values.RemoveField(s, "outer", "price")
	require.ErrorContains(t, err, "blocks/outer.html:4:15")
	set, lost, err := values.RemoveField(s, "fare", "note")
	require.NoError(t, err)
	require.Len(t, lost, 5)
	without := sitetest.Apply(t, f, set)
	o := sitetest.New(without)
	text, _ := o.Get("blocks/fare.html")
	require.Contains(t, string(text), `<p title="a &amp; b">`)
	require.Contains(t, string(render.Page(o, "pages/two.html", render.Options{}).HTML), "a &amp; b</p>")
	require.Equal(t, places(lost), places(values.Orphans(o, "fare")))

	back, err := values.AddField(o, "fare", "note", block.Text, "a & b")
	require.NoError(t, err)
	again := sitetest.New(sitetest.Apply(t, without, back))
	require.Empty(t, values.Orphans(again, "fare"))
	text, _ = again.Get("blocks/fare.html")
	require.Contains(t, string(text), "note: {type: text, default: a & b}")

	drop, err := values.DropOrphans(o, "fare", "note")
	require.NoError(t, err)
	gone := sitetest.Apply(t, without, drop)
	require.Empty(t, values.Orphans(sitetest.New(gone), "fare"))
	for p, src := range gone {
		if p != "blocks/fare.html" {
			require.False(t, strings.Contains(string(src), "note"), p)
		}
	}
	f["blocks/fare.html"] = []byte("---\nfields: {phone: {type: text, from: page.phone, default: \"0\"}, motto: {type: text, from: site.motto}}\n---\n@{=phone}<i>@{=motto}</i>")
	s = sitetest.New(f)
	set, _, err = values.RemoveField(s, "fare", "phone")
	require.NoError(t, err)
	require.Contains(t, string(set.Changes[0].After), "@{=page.phone or \"0\"}<i>@{=motto}</i>")
	set, _, err = values.RemoveField(s, "fare", "motto")
	require.NoError(t, err)
	require.Contains(t, string(set.Changes[0].After), "@{=phone}<i>@{=site.motto}</i>")

	_, err = values.DropOrphans(o, "fare", "price")
	require.ErrorContains(t, err, "no orphans")
}

func TestATextBecomesAField(t *testing.T) {
	f := fares()
	f["blocks/fare.html"] = []byte("---\ntitle: Fare\n---\n<p title=\"from &amp; to\">Single <b>crossing</b></p>")
	s := sitetest.New(f)
	src := string(f["blocks/fare.html"])
	at := strings.Index(src, "from &amp; to")
	set, err := values.FieldFromText(s, "fare", at, at+len("from &amp; to"), "hint")
	require.NoError(t, err)
	require.Equal(t,
		"---\ntitle: Fare\nfields: {hint: {type: text, default: from & to}}\n---\n<p title=\"@{=hint}\">Single <b>crossing</b></p>", string(set.Changes[0].After))
	for piece, why := range map[string]string{"<b>crossing": "holds a tag",
		"title=": "no field can stand there"} {
		at := strings.Index(src, piece)
		_, err = values.FieldFromText(s, "fare", at, at+len(piece), "hint")
		require.ErrorContains(t, err, why, piece)
	}
}

// A behaviour knows a field under the name that it had when it was written, and no page changes.
func TestWhatABehaviourIsGivenFollowsItsField(t *testing.T) {
	f := site.Files{"site.yaml": []byte("format: brickshelf/1\n"), "blocks/a.js": []byte("export default 1"),
		"blocks/a.html": []byte("---\nbehaviour: {gives: [t, u]}\nfields: {t: {type: text, default: x}, u: {type: text}}\n---\n<p>@{=u}"),
		"pages/p.html":  []byte("@{a /}")}
	step := func(set site.ChangeSet, err error) string {
		require.NoError(t, err)
		f = sitetest.Apply(t, f, set)
		return string(f["blocks/a.html"])
	}
	was := string(f["blocks/a.html"])
	require.Contains(t, step(values.RenameField(sitetest.New(f), "a", "t", "v")), "gives: {t: v, u: u}")
	require.Equal(t, was, step(values.RenameField(sitetest.New(f), "a", "v", "t")))
	set, _, err := values.RemoveField(sitetest.New(f), "a", "t")
	require.Contains(t, step(set, err), "gives: [u]")
	gone := f["blocks/a.html"]
	require.Contains(t, step(values.BringBack(sitetest.New(f), "a", "t", [][]byte{gone, []byte(was)})), "gives: [t, u]")
}
