package confine_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"brickshelf/internal/core/confine"
)

const hash = "0123456789abcdef"

// guarded writes a sheet with its guards as G, so that one sees where they stand.
func guarded(sheet string, role confine.Role) string {
	out := string(confine.Style([]byte(sheet), "x", hash, role))
	guard := string(confine.Style([]byte("a{}"), "x", hash, role))
	guard = strings.TrimSuffix(strings.TrimPrefix(guard, "a"), "{}")
	return strings.ReplaceAll(out, guard, "G")
}

func TestEachSelectorIsGuardedOnItsLastCompound(t *testing.T) {
	for sheet, want := range map[string]string{
		".a{b:c}":                            ".aG{b:c}",
		".a .b, .c>.d {e:f}":                 ".a .bG, .c>.dG {e:f}",
		".a::before{}":                       ".aG::before{}",
		".a:hover:after{}":                   ".a:hoverG:after{}",
		"::selection{}":                      "G::selection{}",
		".a:is(.b, .c > .d):not(.e f){}":     ".a:is(.b, .c > .d):not(.e f)G{}",
		`a[href=","] ~ b[x="{"]{}`:           `a[href=","] ~ b[x="{"]G{}`,
		"*{} svg|a + b {}":                   "*G{} svg|a + bG {}",
		"@media (max-width:9px){.a{}.b{}}":   "@media (max-width:9px){.aG{}.bG{}}",
		"@media x{@supports (a:b){.a{}}}":    "@media x{@supports (a:b){.aG{}}}",
		"@keyframes k{from{a:b}to{c:d}}.a{}": "@keyframes k{from{a:b}to{c:d}}.aG{}",
		"@import url(x);.a{}":                "@import url(x);.aG{}",
		"/* .a{} */.b/* c */{}":              "/* .a{} */.bG/* c */{}",
		".a{.b{c:d} &:hover{e:f}}":           ".aG{.b{c:d} &:hover{e:f}}",
		"@font-face{font-family:F}.a{}":      "@font-face{font-family:F}.aG{}",
		"@page{margin:0}":                    "@page{margin:0}",
		".a{b:c":                             ".aG{b:c",
		"}.a{}":                              "}.a{}",
	} {
		t.Run(sheet, func(t *testing.T) {
			if sheet == "}.a{}" { // a stray brace: what is made of it does not matter, but that it ends
				guarded(sheet, confine.Rest)
				return
			}
			require.Equal(t, want, guarded(sheet, confine.Rest))
			require.Equal(t, strings.NewReplacer("@keyframes k", "@keyframes k-01234567", "font-family:F",
				"font-family:F-01234567").
				Replace(want), guarded(sheet, confine.Only))
		})
	}
}

func TestGuards(t *testing.T) {
	only := string(confine.Style([]byte("a{}"), "x", hash, confine.Only))
	require.Equal(t, `a:where([data-shelf-x^="01234567-"],[data-shelf-x^="01234567-"] *)`+
		`:not(:where([data-shelf-x^="01234567-"] [data-shelf-x]:not([data-shelf-x^="01234567-"]),`+
		`[data-shelf-x^="01234567-"] [data-shelf-x]:not([data-shelf-x^="01234567-"]) *)){}`, only)
	rest := string(confine.Style([]byte("a{}"), "x", hash, confine.Rest))
	require.Contains(t, rest, `:where(:not([data-shelf-x],[data-shelf-x] *),[data-shelf-x^="01234567-"],`)
	require.Equal(t, "01234567-0", confine.Mark(hash, ""))
}

// What a sheet defines under a name of its own is its own, and what it takes from others stays.
func TestNamesOfKeyframesAndFontsBecomeTheSheetsOwn(t *testing.T) {
	got := guarded(`@font-face{font-family:"My Face";src:url(x)}@keyframes turn{to{a:b}}@-webkit-keyframes "spin"{to{a:b}}`+
		`.a{animation:turn 1s, other 2s;font:12px "My Face",serif;content:"turn"}.b{animation-name:spin;font-family:'My Face'}`, confine.Only)
	require.Equal(t,
		`@font-face{font-family:"My Face-01234567";src:url(x)}@keyframes turn-01234567{to{a:b}}@-webkit-keyframes "spin-01234567"{to{a:b}}`+
			`.aG{animation:turn-01234567 1s, other 2s;font:12px "My Face-01234567",serif;content:"turn"}.bG{animation-name:spin-01234567;font-family:'My Face-01234567'}`, got)
}

func TestRulesForThePageItselfAreTold(t *testing.T) {
	require.Equal(t, []string{":root", "body", "html.x > body::before"},
		confine.PageWide([]byte("body{}.a{}:root{--x:1}@media x{html.x > body::before{}}body .a{}.b:not(:root){}body{}")))
	require.Empty(t, confine.PageWide([]byte(".a{}")))
}

func TestOutermostElementsAreMarked(t *testing.T) {
	for text, want := range map[string]string{
		"<p>a<b>b</b></p>":                   "<p M>a<b>b</b></p>",
		"text only":                          "text only",
		"<br><img src=x><i>a</i>":            "<br M><img M src=x><i M>a</i>",
		"<p>a<p>b<div>c</div>":               "<p M>a<p M>b<div M>c</div>",
		"<li>a<ul><li>b</ul><li>c":           "<li M>a<ul><li>b</ul><li M>c",
		"<tr><td>a<td>b<tr><td>c":            "<tr M><td>a<td>b<tr M><td>c",
		"</div><a>x</a>":                     "</div><a M>x</a>",
		"<div><script>'<p>'</script></div>x": "<div M><script>'<p>'</script></div>x",
		"<x-card>a</x-card><svg/>":           "<x-card M>a</x-card><svg M/>",
		"<!-- <p> --><P>a":                   "<!-- <p> --><P M>a",
	} {
		page := "<main>" + text + "</main>"
		got, _ := confine.Insert([]byte(page), confine.Marks([]byte(page),
			[]confine.Stretch{{From: 6, To: 6 + len(text),
				Name: "m", Value: "v"}}))
		require.Equal(t, "<main>"+want+"</main>", strings.ReplaceAll(string(got), ` m="v"`, " M"))
	}
	page := []byte("<i><b>x</b></i>")
	got, moved := confine.Insert(page, confine.Marks(page, []confine.Stretch{{0, 15, "m", "outer"},
		{0, 15, "m", "same"},
		{3, 11, "m", "inner"}, {0, 15, "n", "1"}}))
	require.Equal(t, `<i m="same" n="1"><b m="inner">x</b></i>`, string(got))
	require.Equal(t, len(got), moved(len(page)))
	require.Equal(t, strings.Index(string(got), "<b"), moved(3))
}

func TestBehavioursKeepTheirLines(t *testing.T) {
	got := string(confine.Behaviour([]byte("import a from \"b\";\nx();\n"), "x", hash, confine.Only))
	require.Equal(t, 2, strings.Count(got, "\n"))
	require.Contains(t, got, `(globalThis.document, "data-shelf-x", "01234567", false); import a from "b";`)
	require.Contains(t, string(confine.Behaviour(nil, "x", "", confine.Rest)), `"0", true)`)
}

// Whatever a sheet holds, nothing of it is lost but that guards are put in.
func TestNothingOfASheetIsLost(t *testing.T) {
	part := rapid.SampledFrom([]string{".a", " ", "{", "}", "b:c", ";", ",", "@media x", "@keyframes k",
		":hover", "::before",
		"(", ")", "[x]", "/*", "*/", "\"", "'", "\\", "&", ">", "@import", "<!--", "url(", "animation:k",
		"\xff"})
	rapid.Check(t, func(t *rapid.T) {
		sheet := strings.Join(rapid.SliceOfN(part, 0, 20).Draw(t, "sheet"), "")
		require.Equal(t, sheet, strings.ReplaceAll(guarded(sheet, confine.Rest), "G", ""))
	})
}

func FuzzStyle(f *testing.F) {
	f.Add(".a::before, b > c{d:e}@media x{.f{}}")
	f.Fuzz(func(t *testing.T, sheet string) {
		if strings.Contains(sheet, "G") || strings.Contains(sheet, "data-shelf") {
			return
		}
		if got := strings.ReplaceAll(guarded(sheet, confine.Rest), "G", ""); got != sheet {
			t.Fatalf("%q is not %q", got, sheet)
		}
	})
}
