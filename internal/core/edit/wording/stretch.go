package wording

import (
	"bytes"
	"encoding/json"
	"html"
	"regexp"
	"strings"

	nethtml "golang.org/x/net/html"

	"brickshelf/internal/core/markup"
	"brickshelf/internal/core/patch"
)

// Kind is what words belong to.
type Kind string

// The kinds of what says something.
const (
	Text      Kind = "text"      // between tags
	Attribute Kind = "attribute" // of HTML
	Value     Kind = "value"     // an argument, an override, a field, an entry
	Written   Kind = "written"   // a document as it is written
)

// stretch is a piece of a text as it is read, with the way to write it otherwise.
type stretch struct {
	kind     Kind
	of       string // the attribute, or what has the value; "" of a text
	text     string // as it is read
	from, to int    // where it is written, as offsets
	refs     []reference
	put      func(src []byte, s *stretch, list []found) []patch.Replacement
}

// reference is a character that is written by its name or number.
type reference struct{ at, long, from, to int } // where and how long as read; and as written

// place is where an offset of what is read is written; false within a reference.
func (s *stretch) place(at int) (int, bool) {
	by := s.from
	for _, r := range s.refs {
		switch {
		case at <= r.at:
			return by + at, true
		case at < r.at+r.long:
			return 0, false
		}
		by = r.to - (r.at + r.long)
	}
	return by + at, true
}

// cuts reports whether a finding begins and ends between characters as they are written.
func (s *stretch) cuts(f found) bool {
	_, a := s.place(f.from)
	_, b := s.place(f.to)
	return a && b
}

// references are characters by their names and numbers, and what reads as a tag of the language.
var references = regexp.MustCompile(`@@\{|&(?:#[0-9]+|#[xX][0-9a-fA-F]+|[A-Za-z][A-Za-z0-9]*);`)

// reading is a stretch of HTML from one offset to another, with its references read.
func reading(src []byte, from, to int) stretch {
	s := stretch{from: from, to: to}
	raw := src[from:to]
	if bytes.IndexByte(raw, '&') < 0 && !bytes.Contains(raw, []byte("@@{")) {
		s.text = string(raw)
		return s
	}
	var b strings.Builder
	at := 0
	for _, m := range references.FindAllIndex(raw, -1) {
		written := string(raw[m[0]:m[1]])
		read := html.UnescapeString(written)
		if written == "@@{" {
			read = "@{"
		}
		if read == written {
			continue
		}
		b.Write(raw[at:m[0]])
		s.refs = append(s.refs, reference{b.Len(), len(read), from + m[0], from + m[1]})
		b.WriteString(read)
		at = m[1]
	}
	b.Write(raw[at:])
	s.text = b.String()
	return s
}

// masked stands where the language has a tag.
const masked = '\x01'

// stretchesOf lists what a text of the language says, in order.
func stretchesOf(t *markup.Text) []stretch {
	var out []stretch
	html := bytes.Clone(t.Src)
	mask := func(s markup.Span) {
		for i := s.From; i < s.To; i++ {
			html[i] = masked
		}
	}
	markup.Walk(t.Nodes, func(n *markup.Node) bool {
		if n.Kind == markup.Literal || n.Kind == markup.Escape {
			return false
		}
		mask(n.Head)
		mask(n.ElseTag)
		mask(n.Tail)
		for i := range n.Args {
			if n.Kind == markup.Call && n.Args[i].Name != "key" {
				out = append(out, argument(t.Src, n, &n.Args[i])...)
			}
		}
		return true
	})
	return append(out, inHTML(html)...)
}

// inHTML lists what HTML says, of which what is masked is no part.
func inHTML(src []byte) []stretch {
	var out []stretch
	z := nethtml.NewTokenizer(bytes.NewReader(src))
	at, code := 0, false
	for {
		kind := z.Next()
		raw := z.Raw()
		if kind == nethtml.ErrorToken && len(raw) == 0 {
			return out
		}
		switch kind {
		case nethtml.TextToken:
			if !code {
				out = append(out, parts(src, at, at+len(raw), Text, "", putText)...)
			}
		case nethtml.StartTagToken, nethtml.SelfClosingTagToken:
			name, _ := z.TagName()
			code = string(name) == "script" || string(name) == "style"
			out = append(out, attributes(src, at, at+len(raw))...)
		case nethtml.EndTagToken:
			code = false
		case nethtml.ErrorToken, nethtml.CommentToken, nethtml.DoctypeToken:
		}
		at += len(raw)
		if kind == nethtml.ErrorToken {
			return out
		}
	}
}

var attribute = regexp.MustCompile(`([^\s"'<>/=\x01]+)\s*=\s*("[^"]*"|'[^']*'|[^\s"'=<>` + "`" + `]+)`)

func attributes(src []byte, from, to int) []stretch {
	var out []stretch
	if bytes.IndexByte(src[from:to], '=') < 0 {
		return nil
	}
	for _, m := range attribute.FindAllSubmatchIndex(src[from:to], -1) {
		name, begin, end := string(src[from+m[2]:from+m[3]]), from+m[4], from+m[5]
		put := unquoted(begin, end)
		if q := src[begin]; q == '"' || q == '\'' {
			begin, end = begin+1, end-1
			put = quoted(q)
		}
		out = append(out, parts(src, begin, end, Attribute, name, put)...)
	}
	return out
}

// parts are the stretches between what is masked.
func parts(src []byte, from, to int, kind Kind, of string,
	put func([]byte, *stretch, []found) []patch.Replacement) []stretch {
	var out []stretch
	for at := from; at < to; {
		end := to
		if i := bytes.IndexByte(src[at:to], masked); i >= 0 {
			end = at + i
		}
		if len(bytes.TrimSpace(src[at:end])) > 0 {
			s := reading(src, at, end)
			s.kind, s.of, s.put = kind, of, put
			out = append(out, s)
		}
		for at = end; at < to && src[at] == masked; at++ { // on to what stands behind
		}
	}
	return out
}

// each writes every finding where it stands.
func each(src []byte, s *stretch, list []found,
	escape func(with string, next byte) string) []patch.Replacement {
	var out []patch.Replacement
	for _, f := range list {
		from, _ := s.place(f.from)
		to, _ := s.place(f.to)
		next := byte(0)
		if to < len(src) {
			next = src[to]
		}
		out = append(out, patch.Put(from, to, escape(f.with, next)))
	}
	return out
}

// plainly keeps a text from being a tag of the language.
func plainly(with string, next byte) string {
	with = strings.ReplaceAll(with, "@{", "@@{")
	if next == '{' && strings.HasSuffix(with, "@") {
		with = strings.TrimSuffix(with, "@") + "&#64;"
	}
	return with
}

var escapedText = strings.NewReplacer("&", "&amp;", "<", "&lt;", ">", "&gt;")

func putText(src []byte, s *stretch, list []found) []patch.Replacement {
	return each(src, s, list, func(with string, next byte) string {
		return plainly(escapedText.Replace(with), next)
	})
}

func quoted(q byte) func([]byte, *stretch, []found) []patch.Replacement {
	escaped := strings.NewReplacer("&", "&amp;", string(q), html.EscapeString(string(q)))
	return func(src []byte, s *stretch, list []found) []patch.Replacement {
		return each(src, s, list, func(with string, next byte) string {
			return plainly(escaped.Replace(with), next)
		})
	}
}

// unquoted puts quotes around a value, from one offset to another, that needs them by now.
func unquoted(begin, end int) func([]byte, *stretch, []found) []patch.Replacement {
	return func(src []byte, s *stretch, list []found) []patch.Replacement {
		bare := true
		out := each(src, s, list, func(with string, next byte) string {
			bare = bare && with != "" && !strings.ContainsAny(with, " \t\r\n\f\"'=<>`/@")
			return plainly(strings.NewReplacer("&", "&amp;", `"`, "&#34;").Replace(with), next)
		})
		if !bare {
			out = append(out, patch.Put(begin, begin, `"`), patch.Put(end, end, `"`))
		}
		return out
	}
}

// argument lists what an argument of a call says.
func argument(src []byte, n *markup.Node, a *markup.Arg) []stretch {
	span := a.Value.Span
	of := n.Name + " › " + a.Name
	switch a.Value.Kind {
	case markup.ArgText, markup.ArgNumber:
		write := markup.Quote
		if strings.IndexByte(a.Value.Written, '<') >= 0 {
			write = markup.QuoteWritten // of which tags stay tags
		}
		if a.Value.Kind == markup.ArgNumber {
			write = numberOr
		}
		return []stretch{{kind: Value, of: of, text: a.Value.Text, from: span.From, to: span.To,
			put: anew(write)}}
	case markup.ArgJSON:
		var out []stretch
		for _, m := range jsonText.FindAllSubmatchIndex(src[span.From:span.To], -1) {
			one := stretch{kind: Value, of: of, from: span.From + m[2], to: span.From + m[3],
				put: anew(jsonOf)}
			raw := src[one.from:one.to]
			switch {
			case m[4] < m[5]: // a key
				continue
			case raw[0] == '`':
				s := markup.SpelledAs(markup.Unquote(string(raw)))
				if one.text = s.Text; strings.IndexByte(s.Written, '<') >= 0 {
					one.put = anew(markup.QuoteWritten) // of which tags stay tags
				}
			case json.Unmarshal(raw, &one.text) != nil:
				continue
			}
			out = append(out, one)
		}
		return out
	case markup.ArgBool, markup.ArgExpr:
	}
	return nil
}

var jsonText = regexp.MustCompile("(?s)(\"(?:[^\"\\\\]|\\\\.)*\"|`(?:[^`\\\\]|\\\\.)*`)(\\s*:)?")

func jsonOf(s string) string {
	var b bytes.Buffer
	e := json.NewEncoder(&b)
	e.SetEscapeHTML(false)
	_ = e.Encode(s) // a text can always be written
	return strings.TrimSuffix(b.String(), "\n")
}

// numberOr leaves a number without quotes.
func numberOr(s string) string {
	if number.MatchString(s) {
		return s
	}
	return markup.Quote(s)
}

var number = regexp.MustCompile(`^-?(?:0|[1-9][0-9]*)(?:\.[0-9]+)?$`)

// anew writes a value anew, in its own quotes where the rest of it stays as it is written.
func anew(quote func(string) string) func([]byte, *stretch, []found) []patch.Replacement {
	return func(src []byte, s *stretch, list []found) []patch.Replacement {
		to := replaced(s.text, list)
		raw := string(src[s.from:s.to])
		if inner := strings.Trim(raw, `"'`); len(raw) > 1 && raw[0] == raw[len(raw)-1] && inner == s.text &&
			(raw[0] == '\'' || raw[0] == '"') && !strings.ContainsAny(to, "\"'\\\n\t\r{}") {
			return []patch.Replacement{patch.Put(s.from+1, s.to-1, to)}
		}
		return []patch.Replacement{patch.Put(s.from, s.to, quote(to))}
	}
}

// replaced is a text with other words.
func replaced(text string, list []found) string {
	var b strings.Builder
	at := 0
	for _, f := range list {
		b.WriteString(text[at:f.from])
		b.WriteString(f.with)
		at = f.to
	}
	b.WriteString(text[at:])
	return b.String()
}
