package check_test

import (
	"strings"
	"testing"
	"unicode/utf8"

	"github.com/stretchr/testify/require"

	"brickshelf/internal/core/check"
	"brickshelf/internal/core/site"
	"brickshelf/internal/core/sitetest"
)

// here marks in a text where its problem is.
const here = "‸"

// marked takes the mark out of a text and gives its line and column.
func marked(t *testing.T, text string) (string, int, int) {
	before, behind, found := strings.Cut(text, here)
	require.True(t, found, text)
	line := strings.Count(before, "\n") + 1
	return before + behind, line, utf8.RuneCountInString(before[strings.LastIndexByte(before, '\n')+1:]) + 1
}

// What is written wrongly in any document is told at its own line and column, with
// what should stand there.
func TestWhatIsWrittenWronglyIsToldWhereItStands(t *testing.T) {
	const (
		block  = "blocks/b.html"
		page   = "pages/p.html"
		rule   = "rules/r.yaml"
		layout = "layouts/l.html"
		menu   = "menus/m.yaml"
		config = "site.yaml"
	)
	good := "block: b\nregion: main\non: [all]\n"
	for _, c := range []struct{ path, text, says string }{
		{block, "---\n‸titel: B\n---\n", `no key "titel"; did you mean title?`},
		{block, "---\ntitle: ‸[B]\n---\n", "title should be a text"},
		{block, "---\nfields: ‸text\n---\n", "fields should be written as NAME: {type: …}"},
		{block, "---\nfields:\n  ‸each: {type: text}\n---\n", `"each" cannot name a field`},
		{block, "---\nfields:\n  n: ‸text\n---\n", "should be a list of key: value"},
		{block, "---\nfields:\n  n: {type: ‸tekst}\n---\n",
			`"tekst" is no type of field; did you mean text?`},
		{block, "---\nfields:\n  n: {type: text, required: ‸perhaps}\n---\n",
			"required should be true or false"},
		{block, "---\nfields:\n  n: {type: text, label: {‸a: b}}\n---\n", "label should be a text"},
		{block, "---\nfields:\n  ‸n: {type: choice}\n---\n",
			"the choice n needs choices, as in choices: [calm, loud]"},
		{block, "---\nfields:\n  n: {type: choice, choices: {‸calm: 1}}\n---\n",
			"choices should be a list, as in [a, b]"},
		{block, "---\nfields:\n  n: {type: choice, choices: [calm, ‸[loud]]}\n---\n",
			"choices should hold texts only"},
		{block, "---\nfields:\n  n: {type: text, from: ‸menu.logo}\n---\n",
			"from should name a page or site value, as in page.logo"},
		{block, "---\nfields:\n  n: {type: switch, ‸min: 1}\n---\n",
			"a switch has no min; numbers, dates, texts and lists do"},
		{block, "---\nfields:\n  n: {type: text, max: ‸many}\n---\n",
			"max of the text n should be a whole number, as in max: 3"},
		{block, "---\nfields:\n  n: {type: date, min: ‸soon}\n---\n", "min of n should be a date"},
		{block, "---\nfields:\n  n: {type: list, fields: {x: {type: ‸word}}}\n---\n",
			`"word" is no type of field`},
		{block, "---\nfields:\n  n: {type: link, default: ‸[a]}\n---\n", "link"},
		{block, "---\nfields:\n  n: {type: colour, default: ‸'12'}\n---\n", "colour"},
		{block, "---\nfields: {}\n‸\tx: y\n---\n", "a tab stands here"},
		{block, "a ‸@{/}", "@{/ should name what it closes"},
		{block, "a ‸@{assets x=1 /}", "@{assets /} takes no arguments"},
		{block, "<p>‸@{inner /}", "@{inner} should hold text"},
		{block, "---\nfields: {n: {type: list, fields: {x: {type: text}}}}\n---\n@{each n as ‸X}@{/each}",
			"the loop variable should be a name"},

		{page, "---\n‸layuot: l\n---\n", `no key "layuot"; did you mean layout?`},
		{page, "---\nfields: ‸[a]\n---\n", "fields should be written as NAME: value"},
		{page, "---\noverrides: ‸loud\n---\n", "overrides should be written as ADDRESS: …"},
		{page, "---\noverrides:\n  main/b~1: ‸loud\n---\n",
			"an override should be written as ADDRESS: {FIELD: value}"},
		{page, "---\ncopies: ‸[a]\n---\n", "copies should be written as ADDRESS: …"},
		{page, "---\ncopies:\n  ‸main/b~1: {text: x}\n---\n", "a copy should say what it is of"},
		{page, "---\ncopies:\n  ‸main/b~1: {of: b, base: x, text: 'a @{b'}\n---\n",
			"in the text of this copy, line 1, column 5: @{b is never closed"},
		{page, "---\ncopies:\n  ‸main/b~1: {of: b, base: x, text: 'a @{region side /}'}\n---\n",
			"in the text of this copy, line 1, column 3: @{region side} belongs into a layout or page"},
		{page, "---\nhidden: {‸main: 1}\n---\n", "hidden should be a list"},
		{page, "---\ntags: [{‸a: b}]\n---\n", "tags should hold texts only"},
		{page, "---\ndraft: ‸later\n---\n", "draft should be true or false"},
		{page, "a ‸@{region main /}", "layout"},
		{page, "‸@{fill side}a", "@{fill …} is opened here and never closed; write @{/fill} where it ends"},

		{rule, "‸region: main\non: [all]\n", "a rule needs block"},
		{rule, good + "‸regoin: x\n", `no key "regoin"; did you mean region?`},
		{rule, "block: b\nregion: main\non: [‸everywhere]\n",
			`"everywhere" is no target; write all, home, layout:NAME`},
		{rule, good + "except: [home, ‸'under:fares']\n", "is no target"},
		{rule, good + "set: ‸loud\n", "set should be written as {FIELD: value}"},
		{rule, good + "at: ‸middle\n", "at is start or end"},
		{rule, good + "order: ‸1.5\n", "order should be a whole number"},
		{rule, good + "audience: ‸members\n", "audience is everyone, signed-in or signed-out"},
		{rule, good + "from: ‸tomorrow\n", "from should be a date, as in 2026-03-01"},
		{rule, good + "until: ‸2026-02-30\n", "until should be a date"},
		{rule, good + "enabled: ‸1\n", "enabled should be true or false"},

		{layout, "---\nregions: ‸main\n---\n@{region main /}",
			"regions should be written as NAME: {mode: stack}"},
		{layout, "---\nregions:\n  ‸layout: {mode: one}\n---\n@{region layout /}",
			`"layout" cannot name a region`},
		{layout, "---\nregions:\n  main: {mode: ‸two}\n---\n@{region main /}",
			"the mode of a region is one or stack"},
		{layout, "---\nregions:\n  main: {width: ‸wide}\n---\n@{region main /}",
			"width should be a number of pixels"},
		{layout, "---\nregions:\n  main: {‸hight: 3}\n---\n@{region main /}", `no key "hight"`},
		{layout, "---\nstarts_with: ‸text\n---\n@{region main /}",
			"starts_with should be written as REGION: text"},
		{layout, "---\npage_fields:\n  logo: {type: ‸picture}\n---\n@{region main /}",
			`"picture" is no type of field`},
		{layout, "---\n‸regions: {side: {mode: one}}\n---\n",
			"the region side is declared and stands nowhere in the text; write @{region side /}"},
		{layout, "@{region main /}<p>‸@{region main /}", "main"},
		{layout, "@{region main /}<p class=\"‸@{assets /}\">", "@{assets /} can only stand between tags"},

		{menu, "items: ‸home\n", "items should be a list, as in - {label: Fares, to: /fares/}"},
		{menu, "items:\n  - {‸to: /x/}\n", "a menu item needs a label"},
		{menu, "items:\n  - {label: A, ‸too: /x/}\n", `no key "too"; did you mean to?`},
		{menu, "items:\n  - {label: A, new_tab: ‸often}\n", "new_tab should be true or false"},
		{menu, "items:\n  - {label: A, panel: ‸'a @{b'}\n",
			"in this panel, line 1, column 5: @{b is never closed"},
		{menu, "items:\n  - {label: A, panel: ‸'<p>@{fill main}a@{/fill}'}\n",
			"in this panel, line 1, column 4: @{fill main} belongs into a layout or page"},
		{menu, "items:\n  - {label: A, panel: ‸'@{assets /}'}\n",
			"in this panel, line 1, column 1: @{assets} belongs into a layout or page"},
		{menu, "items:\n  - {label: A, items: ‸B}\n", "items should be a list"},
		{menu, "items:\n  - {label: A}\n‸items: []\n", "the key items stands here for a second time"},

		{config, "format: brickshelf/1\nhome: ‸start\n", "home should be the address of a page, as in /"},
		{config, "format: brickshelf/1\naudiences: {‸cookie: 'a b'}\n",
			"audiences should be written as {cookie: NAME}"},
		{config, "format: brickshelf/1\nexact_urls: ‸sometimes\n", "exact_urls should be true or false"},
		{config, "format: brickshelf/1\nsets_off: {‸paths: 1}\n", "sets_off should be a list"},
		{config, "‸name: Small\n", "site.yaml should begin with format: brickshelf/1"},
	} {
		text, line, column := marked(t, c.text)
		f := site.Files{config: []byte("format: brickshelf/1\n"), block: []byte("b"),
			layout: []byte("@{region main /}")}
		f[c.path] = []byte(text)
		var told []string
		found := false
		for _, p := range check.Validity(sitetest.New(f)) {
			told = append(told, p.Error())
			found = found || p.Path == c.path && p.Line == line && p.Column == column &&
				strings.Contains(p.Message, c.says)
		}
		if !found {
			t.Errorf("%s\n%s\n  wanted at %d:%d: %s\n  told: %s", c.path, c.text, line, column, c.says,
				strings.Join(told, "\n        "))
		}
	}
}
