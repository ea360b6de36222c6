// Package confine keeps revisions of a block apart that one page shows: it marks the elements of
// their placements, confines a style sheet to those of its own, and has a behaviour find no
// others.
package confine

import (
	"bytes"
	"crypto/sha256"
	"encoding/hex"
	"slices"
	"strings"

	"github.com/tdewolff/parse/v2"
	"github.com/tdewolff/parse/v2/css"
)

// Role says what a revision's files are confined to.
type Role string

// A revision's files count for its own placements only, or also for all that is no placement of
// the block, as they do where it is alone.
const (
	Only Role = "only"
	Rest Role = "rest"
)

// Group names the revisions of a block that one page shows, by the hashes of their styles and
// behaviours. It is the same whatever the block is called.
func Group(revisions []string) string {
	sum := sha256.Sum256([]byte(strings.Join(slices.Sorted(slices.Values(revisions)), " ")))
	return hex.EncodeToString(sum[:4])
}

// Attribute is the attribute that the outermost elements of a block's placements have where a
// page shows several revisions of it, which are a group.
func Attribute(group string) string { return "data-shelf-" + group }

// Mark is the value of the attribute: the beginnings of the hashes of the revision's style and
// behaviour, as short as Short makes them.
func Mark(style, behaviour string) string { return Short(style) + "-" + Short(behaviour) }

// Short is the beginning of a hash; "0" where there is none.
func Short(hash string) string {
	if hash == "" {
		return "0"
	}
	return hash[:min(len(hash), 8)]
}

// Style confines a style sheet: each selector gets a guard without weight on its last compound,
// before pseudo-elements, so that it matches in the placements of the revision only. Names of
// keyframes and fonts that a sheet with the role Only defines are made its own.
func Style(sheet []byte, group, hash string, role Role) []byte {
	c := confiner{guard: guard(group, Short(hash), role), suffix: "-" + Short(hash)}
	if role == Only {
		c.names = defined(sheet)
	}
	c.rules(tokensOf(sheet))
	return c.out
}

// guard matches what stands in a placement with a mark and in none with another within it; with
// the role Rest, also what stands in no placement of the block.
func guard(group, short string, role Role) string {
	a := Attribute(group)
	own := "[" + a + `^="` + short + `-"]`
	other := own + " [" + a + "]:not(" + own + ")"
	in := own + "," + own + " *"
	if role == Rest {
		in = ":not([" + a + "],[" + a + "] *)," + in
	}
	return ":where(" + in + "):not(:where(" + other + "," + other + " *))"
}

// PageWide lists the selectors of a style sheet of which the last compound is the page itself:
// html, body or :root. They cannot be confined.
func PageWide(sheet []byte) []string {
	var out []string
	c := confiner{seen: func(selector string) { out = append(out, selector) }}
	c.rules(tokensOf(sheet))
	slices.Sort(out)
	return slices.Compact(out)
}

type token struct {
	kind css.TokenType
	text string
}

func tokensOf(sheet []byte) []token {
	var out []token
	l := css.NewLexer(parse.NewInputBytes(bytes.Clone(sheet)))
	for {
		kind, text := l.Next()
		if kind == css.ErrorToken {
			return out
		}
		out = append(out, token{kind, string(text)})
	}
}

type confiner struct {
	guard, suffix string
	names         map[string]bool // of keyframes and fonts that become the sheet's own
	seen          func(selector string)
	out           []byte
}

func (c *confiner) write(list []token) {
	for _, t := range list {
		c.out = append(c.out, t.text...)
	}
}

// grouping are the at-rules that hold rules.
var grouping = map[string]bool{"@media": true, "@supports": true, "@layer": true, "@container": true,
	"@scope": true, "@starting-style": true}

// rules writes rules, each confined.
func (c *confiner) rules(list []token) {
	for len(list) > 0 {
		n := prelude(list)
		head := list[:n]
		list = list[n:]
		first, _ := leading(head)
		if len(list) == 0 || list[0].kind != css.LeftBraceToken { // @import, @charset, or the end
			c.write(head)
			if len(list) > 0 {
				c.write(list[:1])
				list = list[1:]
			}
			continue
		}
		end := closing(list)
		body := list[1:end]
		rest := list[min(end+1, len(list)):]
		closed := list[end:min(end+1, len(list))]
		name := strings.ToLower(first.text)
		switch {
		case first.kind != css.AtKeywordToken:
			c.selectors(head)
			c.write(list[:1])
			c.declarations(body)
		case grouping[name]:
			c.write(head)
			c.write(list[:1])
			c.rules(body)
		case strings.HasSuffix(name, "keyframes"):
			c.renamed(head, func(t token) bool {
				return t.kind == css.IdentToken || t.kind == css.StringToken
			})
			c.write(list[:1])
			c.write(body)
		case name == "@font-face":
			c.write(head)
			c.write(list[:1])
			c.declarations(body)
		default:
			c.write(head)
			c.write(list[:1])
			c.write(body)
		}
		c.write(closed)
		list = rest
	}
}

// prelude is how many tokens stand before the block or the semicolon of a rule.
func prelude(list []token) int {
	depth := 0
	for i, t := range list {
		switch t.kind {
		case css.LeftParenthesisToken, css.FunctionToken, css.LeftBracketToken:
			depth++
		case css.RightParenthesisToken, css.RightBracketToken:
			depth--
		case css.LeftBraceToken:
			return i
		case css.SemicolonToken:
			if depth <= 0 {
				return i
			}
		}
	}
	return len(list)
}

// closing is where the brace stands that closes the first; the end where none does.
func closing(list []token) int {
	depth := 0
	for i, t := range list {
		switch t.kind {
		case css.LeftBraceToken:
			depth++
		case css.RightBraceToken:
			if depth--; depth == 0 {
				return i
			}
		}
	}
	return len(list)
}

// leading is the first token that is no white space or comment.
func leading(list []token) (token, int) {
	for i, t := range list {
		if t.kind != css.WhitespaceToken && t.kind != css.CommentToken && t.kind != css.CDOToken &&
			t.kind != css.CDCToken {
			return t, i
		}
	}
	return token{}, len(list)
}

// selectors writes a list of selectors with the guard on the last compound of each.
func (c *confiner) selectors(list []token) {
	depth, from := 0, 0
	for i, t := range list {
		switch t.kind {
		case css.LeftParenthesisToken, css.FunctionToken, css.LeftBracketToken:
			depth++
		case css.RightParenthesisToken, css.RightBracketToken:
			depth--
		case css.CommaToken:
			if depth == 0 {
				c.selector(list[from:i])
				c.write(list[i : i+1])
				from = i + 1
			}
		}
	}
	c.selector(list[from:])
}

func (c *confiner) selector(list []token) {
	end := len(list)
	for end > 0 && (list[end-1].kind == css.WhitespaceToken || list[end-1].kind == css.CommentToken) {
		end--
	}
	start, at := lastCompound(list[:end])
	if start == end { // nothing, or it ends in a combinator
		c.write(list)
		return
	}
	if c.seen != nil {
		if isPage(list[start:at]) {
			_, first := leading(list)
			c.seen(text(list[first:end]))
		}
		return
	}
	c.write(list[:at])
	c.out = append(c.out, c.guard...)
	c.write(list[at:])
}

func text(list []token) string {
	var b strings.Builder
	for _, t := range list {
		b.WriteString(t.text)
	}
	return b.String()
}

// lastCompound is where the last compound of a selector begins, and where its pseudo-elements do.
func lastCompound(list []token) (start, pseudo int) {
	depth := 0
	pseudo = len(list)
	for i, t := range list {
		switch t.kind {
		case css.LeftParenthesisToken, css.FunctionToken, css.LeftBracketToken:
			depth++
		case css.RightParenthesisToken, css.RightBracketToken:
			depth--
		case css.WhitespaceToken, css.CommentToken, css.ColumnToken:
			if depth == 0 {
				start, pseudo = i+1, len(list)
			}
		case css.DelimToken:
			if depth == 0 && strings.ContainsAny(t.text, ">+~|") && !namespaced(list, i) {
				start, pseudo = i+1, len(list)
			}
		case css.ColonToken:
			if depth == 0 && pseudo == len(list) && isPseudoElement(list[i+1:]) {
				pseudo = i
			}
		}
	}
	return start, pseudo
}

// namespaced reports whether a bar stands between a namespace and a name.
func namespaced(list []token, i int) bool {
	return list[i].text == "|" && i+1 < len(list) && (list[i+1].kind == css.IdentToken ||
		list[i+1].text == "*")
}

// old are the pseudo-elements that can be written with one colon.
var old = map[string]bool{"before": true, "after": true, "first-line": true, "first-letter": true}

func isPseudoElement(behind []token) bool {
	return len(behind) > 0 && (behind[0].kind == css.ColonToken || behind[0].kind == css.IdentToken &&
		old[strings.ToLower(behind[0].text)])
}

// isPage reports whether a compound is that of the page itself.
func isPage(list []token) bool {
	for i, t := range list {
		name := strings.ToLower(t.text)
		switch {
		case i == 0 && t.kind == css.IdentToken && (name == "html" || name == "body"),
			t.kind == css.IdentToken && name == "root" && i > 0 && list[i-1].kind == css.ColonToken:
			return true
		case t.kind == css.FunctionToken:
			return false
		}
	}
	return false
}
