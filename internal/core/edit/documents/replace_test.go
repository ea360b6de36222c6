package documents_test

import (
	"regexp"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"brickshelf/internal/core/check"
	"brickshelf/internal/core/edit/copies"
	"brickshelf/internal/core/edit/documents"
	"brickshelf/internal/core/edit/values"
	"brickshelf/internal/core/render"
	"brickshelf/internal/core/shelf"
	"brickshelf/internal/core/site"
	"brickshelf/internal/core/sitetest"
)

var ofRevision = regexp.MustCompile(`, (style|behaviour): [0-9a-f]{64}`)

// unstyled are a site's files without the styles and behaviours of blocks and copies, by which a
// page can tell a block from its twin.
func unstyled(files site.Files) site.Files {
	out := site.Files{}
	for p, b := range files {
		if !strings.HasSuffix(p, ".css") && !strings.HasSuffix(p, ".js") {
			out[p] = ofRevision.ReplaceAll(b, nil)
		}
	}
	return out
}

// A block's twin in its place, everywhere or in some spots, changes no page, whatever values
// it is given and wherever.
func TestATwinInTheBlocksPlaceChangesNoPage(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		files := unstyled(sitetest.Site(t))
		s := sitetest.New(files)
		if len(s.Names()) == 0 || len(check.Validity(s)) > 0 {
			t.Skip("nothing to replace")
		}
		var spots []copies.Spot
		blocks := map[string][]copies.Spot{}
		for _, path := range s.PagePaths() {
			for _, p := range render.Placements(s, path) {
				if p.Kind == render.Linked && s.Block(p.Block) != nil {
					blocks[p.Block] = append(blocks[p.Block], copies.Spot{Doc: path, Address: p.Address})
				}
			}
		}
		if len(blocks) == 0 {
			t.Skip("nothing stands anywhere")
		}
		var names []string
		for _, n := range s.Names() {
			if blocks[n] != nil {
				names = append(names, n)
			}
		}
		name := rapid.SampledFrom(names).Draw(t, "block")
		if rapid.Bool().Draw(t, "in some spots") {
			spots = rapid.SliceOfNDistinct(rapid.SampledFrom(blocks[name]), 1, 3, rapid.ID).Draw(t, "spots")
		}
		twin, err := documents.DuplicateBlock(s, name, "twin")
		require.NoError(t, err)
		files = sitetest.Apply(t, files, twin)
		s = sitetest.New(files)
		set, lost, err := documents.Replace(s, documents.Exchange{From: name, To: "twin", Spots: spots})
		require.NoError(t, err)
		require.Empty(t, lost)
		is := sitetest.New(sitetest.Apply(t, files, set))
		require.Empty(t, check.Validity(is))
		for _, path := range s.PagePaths() {
			require.Equal(t, looks(s, path), looks(is, path), "%s\n%+v", path, set)
			require.Len(t, values.OrphansOn(is, path), len(values.OrphansOn(s, path)), "%s\n%s", path, edit(is, path))
		}
		stand := func(s *shelf.Shelf, path, name string) (n int) {
			for _, p := range render.Placements(s, path) {
				if p.Block == name && p.Kind == render.Linked {
					n++
				}
			}
			return n
		}
		for _, spot := range spots {
			now := stand(is, spot.Doc, "twin")
			require.Positive(t, now)
			require.Equal(t, stand(s, spot.Doc, name), stand(is, spot.Doc, name)+now)
		}
		if spots == nil {
			require.False(t, is.Used(name))
		}
	})
}

func edit(s *shelf.Shelf, path string) string { b, _ := s.Get(path); return string(b) }

// looks is what either audience sees of a page.
func looks(s *shelf.Shelf, path string) string {
	return sitetest.HTML(s, path) + string(render.Page(s, path, render.Options{SignedIn: true}).HTML)
}

// shop is a site in which a card is to become a tile.
var shop = site.Files{
	"site.yaml":        []byte("format: brickshelf/1\n"),
	"layouts/l.html":   []byte("---\nstarts_with: {main: '@{card name=\"start\" /}'}\n---\n<head></head>@{region main /}@{region side /}@{card size=\"3\" /}"),
	"blocks/card.html": []byte("---\nsample: '@{card name=\"s\" size=\"2\" /}'\nfields:\n  name: {type: text}\n  size: {type: text, default: '1'}\n  note: {type: text, label: Remark}\n---\n<b>@{=name} @{=size} @{=note} @{=inner}</b>"),
	"blocks/tile.html": []byte("---\nfields:\n  name: {type: text}\n  size: {type: number}\n  remark: {type: text}\n---\n<i>@{=name}@{=size}@{=remark}</i>"),
	"blocks/wrap.html": []byte("<p>@{card name=\"in wrap\" size=\"large\" /}</p>"),
	"rules/r.yaml":     []byte("block: card\nregion: side\non: [all]\nset: {note: hello, size: '4'}\n"),
	"pages/p.html":     []byte("---\ntitle: P\nlayout: l\noverrides:\n  main/card~2: {note: second}\n  side/rule:r: {name: mine}\n---\n@{card name=\"one\" size=\"7\"}words@{/card}@{tile name=\"old\" /}@{card name=(page.title) size=\"big\" /}@{wrap /}"),
}

func TestValuesFollowToTheFieldsOfTheOtherBlock(t *testing.T) {
	s := sitetest.New(shop)
	require.Equal(t, map[string]string{"name": "name", "note": "remark", "size": "size"},
		values.Pairs(s.Block("card"), s.Block("tile")))
	set, lost, err := documents.Replace(s, documents.Exchange{From: "card", To: "tile"})
	require.NoError(t, err)
	var said []string
	for _, m := range lost {
		said = append(said, m.Path+" "+m.Field+" "+m.Text)
	}
	require.Equal(t, []string{"blocks/wrap.html size large", "pages/p.html size big", "pages/p.html inner words"}, said)
	is := sitetest.Apply(t, shop, set)
	text := func(path, want string) { t.Helper(); require.Contains(t, string(is[path]), want) }
	text("pages/p.html", `@{tile key="card~1" name="one" size=7}words@{/tile}@{tile key="tile~1" name="old" /}@{tile key="card~2" name=(page.title) /}`)
	text("pages/p.html", "main/card~2: {remark: second}")
	text("rules/r.yaml", "block: tile")
	text("rules/r.yaml", "remark: hello")
	text("layouts/l.html", `'@{tile name=\"start\" /}'`[1:5])
	text("layouts/l.html", `@{tile size=3 /}`)
	text("blocks/wrap.html", `@{tile name="in wrap" /}`)
	require.Empty(t, check.Validity(sitetest.New(is)))
	page := sitetest.HTML(sitetest.New(is), "pages/p.html")
	require.Contains(t, page, "<i>one7</i><i>old</i><i>Psecond</i>")

	set, lost, err = documents.DeleteBlock(s, "card", documents.WithAnother, "tile", map[string]string{"name": "remark"})
	require.NoError(t, err)
	require.Len(t, lost, 9)
	require.Equal(t, "Delete card, putting tile there", set.Title)
	require.Contains(t, string(sitetest.Apply(t, shop, set)["pages/p.html"]), `@{tile remark="one"}words@{/tile}@{tile name="old" /}`)
}

// Only what was chosen is replaced, at what brings it about.
func TestOneSpotIsReplaced(t *testing.T) {
	s := sitetest.New(shop)
	at := func(address string) (site.ChangeSet, []values.Mention, error) {
		return documents.Replace(s, documents.Exchange{From: "card", To: "tile",
			Spots: []copies.Spot{{Doc: "pages/p.html", Address: address}}})
	}
	set, lost, err := at("main/card~2")
	require.NoError(t, err)
	require.Len(t, lost, 1)
	require.Equal(t, "Put tile in the place of card on /p/", set.Title)
	require.Len(t, set.Changes, 1)
	require.Contains(t, string(set.Changes[0].After), `@{card name="one" size="7"}words@{/card}@{tile name="old" /}@{tile key="card~2" name=(page.title) /}`)
	require.Contains(t, string(set.Changes[0].After), "main/card~2: {remark: second}")
	require.Contains(t, string(set.Changes[0].After), "side/rule:r: {name: mine}")

	set, _, err = at("side/rule:r")
	require.NoError(t, err)
	require.Equal(t, "block: tile\nregion: side\non: [all]\nset: {remark: hello, size: 4}\n", string(sitetest.Apply(t, shop, set)["rules/r.yaml"]))
	set, lost, err = at("main/wrap~1/card~1")
	require.NoError(t, err)
	require.Len(t, lost, 1)
	require.Len(t, set.Changes, 1)
	require.Equal(t, "blocks/wrap.html", set.Changes[0].Path)
	_, _, err = at("main/card~9")
	require.ErrorContains(t, err, "card does not stand at main/card~9")
}

// Two regions whose calls get the same step as key name two placements.
func TestCallsOfTwoRegionsKeepWhatIsSaidOfThem(t *testing.T) {
	files := site.Files{
		"site.yaml":        []byte("format: brickshelf/1\n"),
		"layouts/l.html":   []byte("@{region main /}@{region side /}"),
		"blocks/card.html": []byte("---\nfields: {name: {type: text, default: d}}\n---\n@{=name}"),
		"blocks/tile.html": []byte("---\nfields: {name: {type: text, default: d}}\n---\n@{=name}"),
		"pages/p.html": []byte("---\nlayout: l\noverrides: {main/card~1: {name: one}, side/card~1: {name: two}}\n---\n" +
			"@{card /}@{fill side}@{card /}@{/fill}"),
	}
	s := sitetest.New(files)
	set, lost, err := documents.Replace(s, documents.Exchange{From: "card", To: "tile"})
	require.NoError(t, err)
	require.Empty(t, lost)
	is := sitetest.New(sitetest.Apply(t, files, set))
	require.Empty(t, check.Validity(is))
	require.Equal(t, "onetwo", sitetest.HTML(is, "pages/p.html"))
	require.Equal(t, "onetwo", sitetest.HTML(s, "pages/p.html"))
}

// In the panel of a menu, and in a copy in a page's front matter, just the chosen call is another
// block's, with its values.
func TestSpotsInPanelsAndCopiesAreReplaced(t *testing.T) {
	files := site.Files{
		"site.yaml":        []byte("format: brickshelf/1\n"),
		"layouts/l.html":   []byte("@{region main /}@{menu name=m /}@{wrap /}"),
		"blocks/card.html": []byte("---\nfields: {name: {type: text, default: d}}\n---\n<b>@{=name}</b>"),
		"blocks/tile.html": []byte("---\nfields: {name: {type: text, default: d}}\n---\n<i>@{=name}</i>"),
		"blocks/wrap.html": []byte("w"),
		"menus/m.yaml": []byte("items:\n  - {label: x, panel: '@{card name=one /}'} # first\n  - {label: y, items: [{label: z, panel: '@{card name=two /}@{card name=three /}'}]}\n" +
			"  - {label: z, panel: '@{card name=one /}'}\n"),
		"pages/p.html": []byte("---\nlayout: l\noverrides: {layout/menu~1/item~2/item~1/card~2: {name: mine}, layout/wrap~1/card~2: {name: own}}\n" +
			"copies:\n  layout/wrap~1: {of: wrap, base: x, text: '@{card name=in /}@{card /}'}\n---\n@{card name=text /}"),
		"pages/q.html": []byte("---\nlayout: l\n---\n"),
	}
	s := sitetest.New(files)
	at := func(page, address string) (map[string]string, site.Files) {
		set, lost, err := documents.Replace(s, documents.Exchange{From: "card", To: "tile",
			Spots: []copies.Spot{{Doc: page, Address: address}}})
		require.NoError(t, err)
		require.Empty(t, lost)
		after := sitetest.Apply(t, files, set)
		is := sitetest.New(after)
		require.Empty(t, check.Validity(is))
		require.Len(t, set.Changes, 1)
		html := func(page string) string {
			return strings.NewReplacer(`<div class="panel">`, "", "</div>", "").Replace(sitetest.HTML(is, page))
		}
		return map[string]string{"p": html("pages/p.html"), "q": html("pages/q.html")}, after
	}
	got, after := at("pages/p.html", "layout/menu~1/item~2/item~1/card~2")
	require.Contains(t, got["p"], "<b>two</b><i>mine</i>")
	require.Contains(t, got["q"], "<b>two</b><i>three</i>")
	require.Contains(t, got["q"], "<b>one</b>")
	require.Contains(t, strings.ReplaceAll(string(after["menus/m.yaml"]), `\"`, `"`), `@{card name=two /}@{tile key="card~2" name=three /}`)
	require.Contains(t, string(after["menus/m.yaml"]), "# first")
	got, _ = at("pages/q.html", "layout/menu~1/item~3/card~1")
	require.Equal(t, 2, strings.Count(got["q"], "<i>one</i>"), "panels that say the same are one")
	got, after = at("pages/p.html", "layout/wrap~1/card~2")
	require.Contains(t, got["p"], "<b>in</b><i>own</i>")
	require.Contains(t, got["p"], "<b>text</b>")
	require.Contains(t, strings.ReplaceAll(string(after["pages/p.html"]), `\"`, `"`), `@{card name=in /}@{tile key="card~2" /}`)
}

func TestWhatCannotBeReplaced(t *testing.T) {
	s := sitetest.New(shop)
	for want, x := range map[string]documents.Exchange{
		"there is no block \"crad\"; did you mean card?": {From: "crad", To: "tile"},
		"there is no other block \"tiles\"":              {From: "card", To: "tiles"},
		"there is no other block \"card\"":               {From: "card", To: "card"},
		"wrap calls card itself":                         {From: "card", To: "wrap"},
		"card has no field nmae":                         {From: "card", To: "tile", Fields: map[string]string{"nmae": "name"}},
		"tile has no field nam":                          {From: "card", To: "tile", Fields: map[string]string{"name": "nam"}},
		"name and note cannot both become remark":        {From: "card", To: "tile", Fields: map[string]string{"name": "remark", "note": "remark"}},
		"there is no page pages/none.html":               {From: "card", To: "tile", Spots: []copies.Spot{{Doc: "pages/none.html"}}},
	} {
		_, _, err := documents.Replace(s, x)
		require.ErrorContains(t, err, want)
	}
}
