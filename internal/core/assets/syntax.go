package assets

import (
	"errors"
	"regexp"
	"strings"
	"unicode/utf8"

	"github.com/tdewolff/parse/v2"
	"github.com/tdewolff/parse/v2/css"

	"brickshelf/internal/core/site"
)

// Syntax tells where the text of a style or behaviour is not what its language allows. Of a behaviour
// the first fault is told, since what follows it cannot be read.
func Syntax(path string, src []byte) site.Problems {
	switch class, _, _ := site.Classify(path); class {
	case site.BehaviourDoc:
		return behaviour(path, src)
	case site.StyleDoc:
		return style(path, src)
	}
	return nil
}

// attributes are those of an import, which the parser does not know yet.
var attributes = regexp.MustCompile(`(?:from|import)\s*(?:"[^"\n]*"|'[^'\n]*')\s*(with\s*\{[^{}]*\})`)

// known is a module in the words that the parser knows; it may write into it.
func known(src []byte) []byte {
	text := []byte(string(src))
	for _, m := range attributes.FindAllSubmatchIndex(text, -1) {
		for i := m[2]; i < m[3]; i++ {
			if text[i] != '\n' {
				text[i] = ' '
			}
		}
	}
	return text
}

func behaviour(path string, src []byte) site.Problems {
	_, err := parsed(src)
	if err == nil {
		return nil
	}
	return site.Problems{fault(site.Problem{Code: "behaviour-syntax", Severity: site.Error, Path: path},
		err, "is no JavaScript that a browser runs: ")}
}

func fault(p site.Problem, err error, what string) site.Problem {
	p.Line, p.Column, p.Message = 1, 1, what+err.Error()
	var at *parse.Error
	if errors.As(err, &at) {
		p.Line, p.Column, p.Message = at.Line, at.Column, what+at.Message
	}
	return p
}

// maxFaults is how many faults of one style are told.
const maxFaults = 20

func style(path string, src []byte) site.Problems {
	var out site.Problems
	p := css.NewParser(parse.NewInputBytes([]byte(string(src))), false)
	for len(out) < maxFaults {
		if kind, _, _ := p.Next(); kind != css.ErrorGrammar {
			continue
		}
		if !p.HasParseError() {
			break
		}
		out = append(out, fault(site.Problem{Code: "style-syntax", Severity: site.Error, Path: path},
			p.Err(), "is no CSS: "))
	}
	if len(out) == 0 {
		out = append(out, open(path, src)...)
	}
	return out
}

// open tells of what a style opens and does not close, or closes and has not opened. A browser reads
// on, with other rules than were meant.
func open(path string, src []byte) site.Problems {
	lexer := css.NewLexer(parse.NewInputBytes([]byte(string(src))))
	type spot struct {
		with string
		at   int
	}
	var stack []spot
	ends := map[css.TokenType]string{css.LeftBraceToken: "}", css.LeftParenthesisToken: ")",
		css.LeftBracketToken: "]", css.FunctionToken: ")"}
	at := 0
	tell := func(at int, message string) site.Problems {
		before := string(src[:at])
		line := before[strings.LastIndexByte(before, '\n')+1:]
		return site.Problems{{Code: "style-syntax", Severity: site.Error, Path: path,
			Line: strings.Count(before, "\n") + 1, Column: utf8.RuneCountInString(line) + 1, Message: message}}
	}
	for {
		kind, text := lexer.Next()
		if kind == css.ErrorToken {
			break
		}
		switch kind {
		case css.LeftBraceToken, css.LeftParenthesisToken, css.LeftBracketToken, css.FunctionToken:
			stack = append(stack, spot{ends[kind], at})
		case css.RightBraceToken, css.RightParenthesisToken, css.RightBracketToken:
			if len(stack) == 0 {
				return tell(at, "is no CSS: "+string(text)+" closes nothing here; take it away, or open it")
			}
			if last := stack[len(stack)-1]; last.with != string(text) {
				return tell(last.at, "is no CSS: what begins here is not closed; close it with "+last.with)
			}
			stack = stack[:len(stack)-1]
		case css.BadStringToken, css.BadURLToken:
			return tell(at, "is no CSS: a text or address is not closed on its line")
		case css.CommentToken:
			if !strings.HasSuffix(string(text), "*/") {
				return tell(at, "is no CSS: this comment is never closed; end it with */")
			}
		}
		at += len(text)
	}
	if len(stack) == 0 {
		return nil
	}
	last := stack[len(stack)-1]
	return tell(last.at, "is no CSS: what begins here is not closed; close it with "+last.with)
}
