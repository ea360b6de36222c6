package render_test

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"brickshelf/internal/core/explain"
	"brickshelf/internal/core/render"
	"brickshelf/internal/core/site"
	"brickshelf/internal/core/sitetest"
)

// The source that wins says what the block is rendered with, and what the page itself
// gives is known by its source.
func TestPrecedenceAgreesWithRendering(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		s := sitetest.New(sitetest.Site(t))
		for _, p := range s.PagePaths() {
			seen := map[string]bool{}
			for _, at := range render.Placements(s, p) {
				l := explain.PrecedenceOf(s, p, at.Address)
				if at.Kind != render.Linked || s.Block(at.Block) == nil || seen[at.Address] {
					continue
				}
				seen[at.Address] = true
				require.NotNil(t, l, at.Address)
				require.Equal(t, at.Block, l.Block)
				require.Equal(t, at.Via, l.Via)
				own := map[string]render.OwnValue{}
				for _, o := range at.Own {
					own[o.Field] = o
				}
				bound := render.Bound(s, p, at.Address)
				for i, f := range l.Fields {
					if f.Wins < 0 {
						require.False(t, bound[i].IsSet(), "%s %s", at.Address, f.Field.Name)
						continue
					}
					win := f.Sources[f.Wins]
					require.Equal(t, bound[i], win.Value, "%s %s", at.Address, f.Field.Name)
					switch win.Source {
					case render.FromOverride, render.FromArgument, render.FromPage:
						require.Equal(t, render.OwnValue{Field: f.Field.Name, Value: win.Value,
							Source: win.Source}, own[f.Field.Name])
						delete(own, f.Field.Name)
					case render.FromPlacing:
						if o, ok := own[f.Field.Name]; ok { // the page's own, in a copy or a loop
							require.False(t, l.InText, at.Address)
							require.Equal(t, render.OwnValue{Field: f.Field.Name, Value: win.Value,
								Source: render.FromArgument}, o)
							delete(own, f.Field.Name)
						}
					}
					for _, r := range f.Sources {
						require.NotEmpty(t, r.Doc)
						if r.Set && r.Source == render.FromOverride {
							require.Positive(t, r.Line)
						}
					}
				}
				require.Empty(t, own, at.Address)
			}
		}
	})
}

func TestPrecedence(t *testing.T) {
	s := sitetest.New(site.Files{
		"site.yaml":        []byte("format: brickshelf/1\nfields: {phone: {type: text, default: '1'}}\n"),
		"layouts/l.html":   []byte("@{region side /}@{region main /}"),
		"blocks/card.html": []byte("---\nfields:\n  phone: {type: text, from: page.phone, default: none}\n  n: {type: number}\n  w: {type: text, from: site.phone}\n---\n@{=phone}"),
		"blocks/box.html":  []byte("---\nfields: {p: {type: text}}\n---\n\n@{card phone=\"box\" n=7 /}"),
		"rules/r.yaml":     []byte("block: card\nregion: side\non: [all]\nset: {phone: ruled, n: x}\n"),
		"pages/index.html": []byte("---\nlayout: l\nfields: {phone: paged}\noverrides:\n  side/rule:r: {phone: own}\n  main/box~1/card~1: {n: 3}\n---\n@{box /}\n@{card phone=\"arg\" /}"),
	})
	told := func(address, field string) (out []string) {
		for _, f := range explain.PrecedenceAt(s, "pages/index.html", address, false).Fields {
			for i, r := range f.Sources {
				if f.Field.Name == field {
					text := string(r.Source) + " " + r.Value.Text + " " + r.Doc
					if i == f.Wins {
						text += " wins"
					}
					if r.Line > 0 {
						text += fmt.Sprintf(" at:%d:%d", r.Line, r.Column)
					}
					out = append(out, text)
				}
			}
		}
		return out
	}
	require.Equal(t, []string{"override own pages/index.html wins at:5:24",
		"placed ruled rules/r.yaml at:4:14", "page paged pages/index.html at:3:17",
		"default none blocks/card.html at:3:3"}, told("side/rule:r", "phone"))
	require.Equal(t, []string{"override  pages/index.html", "placed  rules/r.yaml at:4:24",
		"default  blocks/card.html at:4:3"}, told("side/rule:r", "n"))
	require.Equal(t, []string{"override 3 pages/index.html wins at:6:26", "placed 7 blocks/box.html at:5:20",
		"default  blocks/card.html at:4:3"}, told("main/box~1/card~1", "n"))
	require.Equal(t, []string{"override  pages/index.html", "argument arg pages/index.html wins at:9:8",
		"page paged pages/index.html at:3:17", "default none blocks/card.html at:3:3"},
		told("main/card~1", "phone"))
	require.Equal(t, []string{"override  pages/index.html", "argument  pages/index.html",
		"site 1 site.yaml wins", "default  blocks/card.html at:5:3"}, told("main/card~1", "w"))
	require.Nil(t, explain.PrecedenceAt(s, "pages/index.html", "main/gone~1", false))
	require.Nil(t, explain.PrecedenceAt(s, "pages/gone.html", "main/card~1", false))
}

func TestValuesAreLookedForWhileSomebodyWaits(t *testing.T) {
	f := files("blocks/a.html", "---\nfields: {t: {type: text}}\n---\n@{=t}")
	for i := range 30 {
		f[fmt.Sprintf("pages/p%02d.html", i)] = []byte("@{a /}")
	}
	s, asked := sitetest.New(f), 0
	require.Len(t, explain.Values(s, "a"), 30)
	require.Len(t, explain.ValuesOn(s, "a", s.Users("a"), func() bool { asked++; return asked <= 4 }), 4)
}
