package confine

import (
	"strings"

	"github.com/tdewolff/parse/v2/css"
)

// defined are the names of keyframes and fonts that a style sheet defines.
func defined(sheet []byte) map[string]bool {
	out := map[string]bool{}
	list := tokensOf(sheet)
	for i, t := range list {
		if t.kind != css.AtKeywordToken {
			continue
		}
		name := strings.ToLower(t.text)
		rest := list[i+1:]
		if strings.HasSuffix(name, "keyframes") {
			first, _ := leading(rest)
			out[bare(first.text)] = true
		}
		if open := prelude(rest); name == "@font-face" && open < len(rest) {
			rest = rest[open:]
			for _, d := range split(rest[1:closing(rest)]) {
				if property(d) == "font-family" {
					for _, v := range d[1:] {
						if v.kind == css.StringToken || v.kind == css.IdentToken {
							out[bare(v.text)] = true
						}
					}
				}
			}
		}
	}
	delete(out, "")
	return out
}

func bare(s string) string { return strings.Trim(s, `"'`) }

// split cuts declarations, and rules nested in them, apart: each ends with its semicolon or brace.
func split(list []token) [][]token {
	var out [][]token
	for len(list) > 0 {
		n := prelude(list)
		if n < len(list) && list[n].kind == css.LeftBraceToken {
			n += closing(list[n:])
		}
		n = min(n+1, len(list))
		out = append(out, list[:n])
		list = list[n:]
	}
	return out
}

// property is the name of what a declaration sets, in lower case.
func property(d []token) string {
	first, _ := leading(d)
	return strings.ToLower(first.text)
}

// declarations writes what a rule sets, with the names that became the sheet's own. What is
// nested in it is confined by the rule around it.
func (c *confiner) declarations(list []token) {
	for _, d := range split(list) {
		switch property(d) {
		case "animation", "animation-name", "-webkit-animation", "-webkit-animation-name", "font",
			"font-family":
			_, first := leading(d)
			c.write(d[:first+1])
			c.renamed(d[first+1:], func(token) bool { return true })
		default:
			if n := prelude(d); n < len(d) && d[n].kind == css.LeftBraceToken {
				c.write(d[:n+1])
				end := n + closing(d[n:])
				c.declarations(d[n+1 : end])
				c.write(d[end:])
			} else {
				c.write(d)
			}
		}
	}
}

// renamed writes tokens with the names that became the sheet's own.
func (c *confiner) renamed(list []token, which func(token) bool) {
	for _, t := range list {
		isName := (t.kind == css.IdentToken || t.kind == css.StringToken) && c.names[bare(t.text)]
		switch {
		case !isName || !which(t):
			c.out = append(c.out, t.text...)
		case t.kind == css.StringToken:
			c.out = append(c.out, t.text[:len(t.text)-1]+c.suffix+t.text[len(t.text)-1:]...)
		default:
			c.out = append(c.out, t.text+c.suffix...)
		}
	}
}
