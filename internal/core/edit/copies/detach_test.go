package copies_test

import (
	"testing"

	"github.com/stretchr/testify/require"

	"brickshelf/internal/core/check"
	"brickshelf/internal/core/edit/copies"
	"brickshelf/internal/core/patch"
	"brickshelf/internal/core/render"
	"brickshelf/internal/core/site"
	"brickshelf/internal/core/sitetest"
)

// What a block may hold, each in its own way when the block is written down as a copy.
// The blocks call b, whose word pages can override; inner is what the call encloses.
var held = map[string]string{
	"a copy of its own":                   `<p>@{copy of="b" base="x" key="old"}was @{b /}@{/copy}</p>@{b /}`,
	"a copy with a value inside":          `@{copy of="b" base="x"}<i>@{=word}</i>@{/copy}`,
	"a copy inside a loop":                `@{each words as w}@{copy of="b" base="x"}[@{=w}]@{/copy}@{/each}`,
	"an escaped tag":                      `a literal @@{b /} and an @ before @{b /}@@@{=word}`,
	"an @ before a value that opens":      `mail@@{=word}@{b /}`,
	"what it encloses, twice":             `<div>@{=inner}</div><aside>@{=inner}</aside>`,
	"what it encloses, as an argument":    `@{b word="x"}@{=inner}@{/b}@{=inner}`,
	"what it encloses or something else":  `@{=inner or word}@{=none or inner or word}`,
	"calls in a loop":                     `@{each words as w}@{b word=(w) /}@{/each}@{b /}`,
	"calls in a loop in a loop":           `@{each words as w}@{each words as v}@{b word=(v) /}@{/each}@{/each}`,
	"a call in an attribute":              `<a title="@{b word="in a title" /}" href="@{url page="/p/" /}">@{b /}</a>`,
	"a call either way":                   `@{when word is "w"}@{b word="yes" /}@{else}@{b word="no" /}@{/when}@{b /}`,
	"a call that encloses a call":         `@{b word="outer"}<u>@{b word="within" /}</u>@{/b}`,
	"a call with a key":                   `@{b key="mine" /}@{b /}`,
	"values of the page and of the site":  `@{=page.title} @{=site.name} @{=page.root}x`,
	"a comment, and bytes of no encoding": "@{# gone}\xe9\xff<br>@{b /}",
	"a value with quotes and a backslash": `<b title="@{=sharp}">@{=sharp}</b>@{b word=(sharp) /}`,
}

func TestEverythingThatABlockHoldsIsWrittenDownAsItShows(t *testing.T) {
	for name, body := range held {
		t.Run(name, func(t *testing.T) {
			const head = "---\nfields:\n  word: {type: text, default: w}\n  none: {type: text}\n  sharp: {type: text, default: 'a \"b\" \\ c <&> ''d'''}\n  words: {type: lines, default: \"one\\ntwo\"}\n---\n"
			files := site.Files{
				"site.yaml":      []byte("format: brickshelf/1\nname: Small\n"),
				"layouts/l.html": []byte("<head></head>@{region top /}@{region main /}@{a /}"),
				"blocks/a.html":  []byte(head + body),
				"blocks/b.html":  []byte("---\nfields: {word: {type: text, default: plain}}\n---\n<b>@{=word}</b>@{=inner}"),
				"rules/top.yaml": []byte("block: a\nregion: top\non: [all]\nset: {word: set}\n"),
				"pages/p.html":   []byte("---\ntitle: P\nlayout: l\n---\nthe page @{a word=\"given\"}<em>@{b /}</em>@{/a} and @{b /} again @{a /}"),
			}
			s := sitetest.New(files)
			var spots []render.Placement
			for _, p := range render.Page(s, "pages/p.html", render.Options{Placements: true}).Placements {
				if p.Block == "a" {
					spots = append(spots, p)
				}
			}
			require.Len(t, spots, 4, "by the rule, in the text twice, in the layout")
			for _, p := range spots {
				set, err := copies.Detach(s, "pages/p.html", p.Address)
				require.NoError(t, err, p.Address)
				after := sitetest.New(sitetest.Apply(t, files, set))
				require.Equal(t, sitetest.HTML(s, "pages/p.html"), sitetest.HTML(after, "pages/p.html"),
					"%s:\n%s", p.Address, set.Changes[0].After)
				require.Equal(t, placementsBut(s, "pages/p.html", p.Address),
					placementsBut(after, "pages/p.html", p.Address), p.Address)

				require.Empty(t, after.DocProblems("pages/p.html").Invalid())
				back, err := copies.Link(after, "pages/p.html", p.Address)
				require.NoError(t, err, p.Address)
				require.Equal(t, sitetest.HTML(s, "pages/p.html"), sitetest.HTML(after.With(back.Changes),
					"pages/p.html"), "linked again")

				// What stands in the copy can still be given a value of its own.
				for _, q := range render.Page(after, "pages/p.html",
					render.Options{Placements: true}).Placements {
					if q.Block == "b" && q.Kind == render.Linked && !q.InText {
						over, err := patch.Set("pages/p.html", set.Changes[0].After,
							[]string{"overrides", q.Address, "word"}, "own")
						require.NoError(t, err)
						own := sitetest.HTML(after.With([]site.Change{{Path: "pages/p.html",
							Before: after.Hash("pages/p.html"), After: over}}), "pages/p.html")
						require.NotEqual(t, sitetest.HTML(after, "pages/p.html"), own, q.Address)
					}
				}
			}
		})
	}
}

// A loop gives its calls keys when it is written down; two copies of it on one page have
// the same keys, each for itself.
func TestOneBlockIsDetachedTwiceOnAPage(t *testing.T) {
	files := site.Files{
		"site.yaml":      []byte("format: brickshelf/1\nname: Small\n"),
		"layouts/l.html": []byte("<head></head>@{region main /}"),
		"blocks/a.html":  []byte("---\nfields: {words: {type: lines, default: \"one\\ntwo\"}}\n---\n@{each words as w}@{b word=(w) /}@{/each}"),
		"blocks/b.html":  []byte("---\nfields: {word: {type: text, default: plain}}\n---\n<b>@{=word}</b>"),
		"pages/p.html":   []byte("---\ntitle: P\nlayout: l\noverrides: {\"main/a~2/b~1.2\": {word: own}}\n---\n@{a /} and @{a /}"),
	}
	was := sitetest.HTML(sitetest.New(files), "pages/p.html")
	for _, address := range []string{"main/a~1", "main/a~2"} {
		set, err := copies.Detach(sitetest.New(files), "pages/p.html", address)
		require.NoError(t, err)
		files = sitetest.Apply(t, files, set)
		require.Empty(t, check.Validity(sitetest.New(files)), "%s", files["pages/p.html"])
		require.Equal(t, was, sitetest.HTML(sitetest.New(files), "pages/p.html"))
	}
	files["pages/p.html"] = append(files["pages/p.html"], `@{b key="b~1.1" /}@{b key="b~1.1" /}`...)
	require.ErrorContains(t, check.Validity(sitetest.New(files)), "the key b~1.1 is given twice")
}
