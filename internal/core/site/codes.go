package site

import (
	"fmt"
	"strings"
)

// Code describes one kind of problem: what is wrong, and the way out.
type Code struct {
	Name       string
	Severities []Severity // that it can have, from the worst on
	What, Mend string
}

// Codes are all kinds of problems, in the order of the documentation: what is wrong with a
// text by itself, with the documents of a site together, and on its pages.
var Codes = []Code{
	{"bad-path", []Severity{Invalid}, "a document has a path that the format does not know",
		"give it a path of one of the folders of the format"},
	{"no-file", []Severity{Invalid},
		"a document could not be written beside the others, as a file of its own or as what it is published as", "rename one of the two"},
	{"encoding", []Severity{Invalid}, "a block or layout is not UTF-8", "save the file in that encoding"},
	{"yaml", []Severity{Invalid}, "YAML or front matter cannot be read", "mend it at the place that is told"},
	{"unknown-key", []Severity{Invalid}, "a key that the document does not have",
		"take the nearest one that there is"},
	{"missing-key", []Severity{Invalid}, "a key that the document needs", "add it as the message writes it"},
	{"wrong-type", []Severity{Invalid, Error}, "a value of another kind than its key or field takes",
		"write it as the message has it"},
	{"format", []Severity{Invalid}, "site.yaml names no format, or another one",
		"begin it with format: brickshelf/1"},
	{"bad-name", []Severity{Invalid}, "a name that fields or regions cannot have",
		"use lower-case letters, digits and hyphens"},
	{"bad-target", []Severity{Invalid}, "a target of a rule that is none",
		"write all, home, layout:NAME, tag:NAME, under:/path/ or page:/path/"},
	{"bad-dates", []Severity{Invalid}, "a rule ends before it begins", "change one of the days"},
	{"syntax", []Severity{Invalid}, "a tag of the language is not written as one",
		"mend it at the place that is told; write @@{ for the two letters"},
	{"unclosed", []Severity{Invalid}, "a tag, comment or quoted text of the language is never closed",
		"close it where it ends"},
	{"unopened", []Severity{Invalid}, "a tag closes what was not opened", "take it away, or open it"},
	{"mismatch", []Severity{Invalid}, "a tag closes another than the one that was opened last",
		"close that one first"},
	{"reserved-name", []Severity{Invalid}, "a word of the language is called, or names a loop variable",
		"take another name"},
	{"duplicate-argument", []Severity{Invalid}, "a call is given an argument twice", "take one of them away"},
	{"duplicate-region", []Severity{Invalid}, "a layout has a region twice", "take one of them away"},
	{"more", []Severity{Invalid}, "more faults than are told one by one", "mend the first"},
	{"stray-else", []Severity{Invalid}, "an else that belongs to no condition", "take it out"},
	{"too-deep", []Severity{Invalid}, "more calls in one another than anything shows",
		"look for a tag that is never closed"},
	{"bad-place", []Severity{Invalid},
		"a value, call or region where no escaping makes it safe, or where it means nothing",
		"write it where the message says"},
	{"split-markup", []Severity{Invalid},
		"branches or a loop that end in another place of the HTML than they begin",
		"let each hold whole tags and attributes"},
	{"unended", []Severity{Invalid, Warning},
		"a text ends within a tag, attribute, comment or script, and would take in what stands behind it: invalid in a block, a warning in the text of a page with a layout, of a copy or of a panel", "end it where it began"},
	{"unknown-name", []Severity{Invalid}, "markup shows a value of which nothing is named so",
		"take the nearest field, or declare one"},
	{"duplicate-key", []Severity{Invalid}, "a stable key is given twice in a region of a page",
		"give one of the two another"},
	{"no-head", []Severity{Invalid}, "a scripted shortcode does not begin with its description",
		"begin it with the comment that the format asks for"},
	{"no-function", []Severity{Invalid}, "a scripted shortcode declares no function",
		"declare function shortcode({ args })"},
	{"lost-characters", []Severity{Invalid}, "a document in another encoding would be written with characters lost",
		"edit the file itself, or bring it as UTF-8"},
	{"left-out", []Severity{Invalid}, "a file of a web site cannot be taken in as it is",
		"give it another name, or go on without it"},
	{"other-bytes", []Severity{Invalid}, "a file in history holds other bytes than its name says",
		"put the revision back that it was"},
	{"missing-site", []Severity{Invalid}, "there is no site.yaml", "make one that begins with the format"},
	{"same-address", []Severity{Invalid}, "two pages have one address", "move one of them"},
	{"unknown-layout", []Severity{Invalid}, "a page has a layout that is not there",
		"take the nearest one that there is"},
	{"cycle", []Severity{Invalid}, "a block calls itself, or a menu shows itself, through others",
		"take one of the calls out"},
	{"missing-region", []Severity{Invalid, Error},
		"a layout declares a region that stands nowhere in it (invalid), or a page fills one that its layout lacks", "write the region into the layout, or fill another"},
	{"unresolved-call", []Severity{Error},
		"a call or rule names a block or shortcode that is not there; it shows nothing",
		"take the nearest one, or make it"},
	{"missing-value", []Severity{Error}, "a required field has no value",
		"give it one where it is called, or a default"},
	{"missing-menu", []Severity{Error}, "a menu that is not there", "make it, or choose another"},
	{"missing-target", []Severity{Error},
		"a link, button or label leads to an id (`href=\"#…\"`, `popovertarget`, `commandfor`, `for`, `aria-controls` …) that nothing on the page has", "give something that id"},
	{"missing-page", []Severity{Error}, "a link leads to an address of the site at which there is no page",
		"lead it to another, or make the page"},
	{"missing-file", []Severity{Error}, "an image, style or script of the site is not there",
		"put the file there"},
	{"script-failed", []Severity{Error}, "a script threw or overstepped its limits; its call shows nothing",
		"mend it at the line that is told"},
	{"not-run", []Severity{Error}, "scripted shortcodes are not run by the command that looked",
		"look in the running tool"},
	{"too-large", []Severity{Error}, "a page nests or repeats blocks without end",
		"look for a block that calls itself"},
	{"unknown-region", []Severity{Error}, "a rule names a region that none of its pages has",
		"take the nearest one"},
	{"name-taken", []Severity{Error}, "a scripted shortcode is named like a block or a built-in one",
		"give it another name"},
	{"unknown-argument", []Severity{Warning},
		"an argument, or a value of a rule, for a field that is not there", "take the nearest field"},
	{"cleaned-value", []Severity{Warning}, "a rich text of which something is not shown, or is put in order",
		"write what it leaves out into the block"},
	{"lost-override", []Severity{Warning},
		"a page gives values to an address at which nothing stands that could take them",
		"aim them at another placement, or drop them"},
	{"lost-copy", []Severity{Warning}, "a page has a copy for an address at which nothing stands",
		"drop it, or put its text into the page"},
	{"lost-hidden", []Severity{Warning}, "a page hides what stands at an address at which nothing does",
		"drop the entry"},
	{"behaviour-syntax", []Severity{Error}, "a behaviour is no JavaScript, so that nothing of it runs",
		"mend it at the place that is told"},
	{"missing-need", []Severity{Error}, "a behaviour needs that of a block that is not there or has none",
		"take the nearest block, or take it out of needs"},
	{"never-started", []Severity{Warning}, "a block says how its behaviour is started, and that exports no default function",
		"give it an export default, or take what is said away"},
	{"no-overlay", []Severity{Warning}, "a block says that it is an overlay, and begins with no dialog or popover",
		"begin it with one, or take overlay away"},
	{"style-syntax", []Severity{Error}, "a style is no CSS, so that rules are left out or mean something else",
		"mend it at the place that is told"},
	{"page-wide-style", []Severity{Warning},
		"the style of an older revision, of which a page has a copy, has rules for html, body or :root",
		"bring the copy up to its block, or link it again"},
	{"empty-rule", []Severity{Warning}, "a rule takes no page", "widen its targets, or delete it"},
	{"empty-target", []Severity{Warning}, "one of a rule's targets names no page", "take the nearest one"},
	{"similar-names", []Severity{Warning},
		"two documents have names that differ in case or Unicode form alone", "rename one of them"},
	{"no-picture", []Severity{Warning}, "a file is named as a picture and is none", "put another file there, or rename it"},
	{"scripted-svg", []Severity{Warning}, "an SVG holds a script, which runs where somebody opens it by its address",
		"take the script out"},
	{"unused-block", []Severity{Note}, "a block stands on no page", "put it somewhere, or delete it"},
	{"ignored", []Severity{Note}, "a script in a folder below shortcodes is not read", "move it up"},
}

// CodeTable is the table of codes as the documentation has it, in Markdown.
func CodeTable() string {
	var b strings.Builder
	b.WriteString("| code | severity | what is wrong | the way out |\n|---|---|---|---|\n")
	for _, c := range Codes {
		names := make([]string, len(c.Severities))
		for i, s := range c.Severities {
			names[i] = string(s)
		}
		fmt.Fprintf(&b, "| `%s` | %s | %s | %s |\n", c.Name, strings.Join(names, ", "), c.What, c.Mend)
	}
	return b.String()
}
