package block

import (
	"bytes"
	"html"
	"strings"

	parser "golang.org/x/net/html"

	"brickshelf/internal/core/markup"
)

// Append writes a value into HTML at a place, escaped by its type and by that
// place, so that it can neither end what it stands in nor run as a script. What out
// ends with is what stands before it.
func Append(out []byte, v Value, ctx markup.Context) []byte {
	if !v.IsSet() || v.Type == List || v.Type == group {
		return out
	}
	if v.More != nil && v.More.Written != "" && asWritten(out, v, ctx) {
		return append(out, v.More.Written...)
	}
	switch ctx {
	case markup.InText:
		switch v.Type {
		case Rich:
			return append(out, v.Text...)
		case Lines:
			for i, l := range strings.Split(v.Text, "\n") {
				if i > 0 {
					out = append(out, "<br>\n"...)
				}
				out = appendText(out, strings.TrimSuffix(l, "\r"))
			}
			return out
		}
	case markup.InURL, markup.InURLOpen, markup.InURLRest, markup.InURLPath, markup.InURLQuery:
		return appendInAddress(out, v.Text, ctx)
	case markup.InURLItems:
		return appendItems(out, v.Text)
	case markup.InURLs:
		for i, one := range strings.Split(v.Text, ";") {
			if i > 0 {
				out = append(out, ';')
			}
			if !safeAddress(one) {
				one = "#"
			}
			out = appendText(out, one)
		}
		return out
	case markup.InStyle:
		return appendStyle(out, v)
	}
	if v.Type == Link && v.More != nil && v.More.Label != "" && (ctx == markup.InText ||
		ctx == markup.InTitle || ctx == markup.InComment) {
		return appendText(out, v.More.Label)
	}
	from := len(out)
	out = appendText(out, v.Text)
	if ctx == markup.InComment {
		return withoutDashes(out, from)
	}
	return out
}

// asWritten reports whether a value can stand at a place as HTML spells it: it neither ends what it stands
// in, nor leads where no address may.
func asWritten(out []byte, v Value, ctx markup.Context) bool {
	w := v.More.Written
	switch ctx {
	case markup.InText, markup.InTitle:
		return v.Type == Rich && ctx == markup.InText || strings.IndexByte(w, '<') < 0
	case markup.InAttr:
		return !closes(out, w)
	case markup.InURL, markup.InURLOpen, markup.InURLPath:
		if ctx == markup.InURLOpen {
			ctx = behind(out)
		}
		says := html.UnescapeString(w)
		return !closes(out, w) && (ctx == markup.InURL && safeAddress(strings.TrimSpace(says)) ||
			ctx == markup.InURLPath && !strings.HasPrefix(says, "/"))
	}
	return false
}

// closes reports whether a text can end the attribute in which it would stand behind out: by any quotation
// mark, unless the one that began it stands right before.
func closes(out []byte, s string) bool {
	if n := len(out); n > 0 && (out[n-1] == '"' || out[n-1] == '\'') {
		return strings.IndexByte(s, out[n-1]) >= 0
	}
	return strings.ContainsAny(s, "\"'")
}

// withoutDashes writes dashes, from a spot on, so that they end no comment: those at the
// edges and those beside another.
func withoutDashes(out []byte, from int) []byte {
	s := string(out[from:])
	out = out[:from]
	for i := range len(s) {
		if s[i] == '-' && (i == 0 || i == len(s)-1 || s[i-1] == '-' || s[i+1] == '-') {
			out = append(out, "&#45;"...)
		} else {
			out = append(out, s[i])
		}
	}
	return out
}

// appendInAddress writes a part of an address, or the whole of it.
func appendInAddress(out []byte, s string, ctx markup.Context) []byte {
	if ctx == markup.InURLOpen {
		ctx = behind(out)
	}
	switch ctx {
	case markup.InURL:
		if s = strings.TrimSpace(s); !safeAddress(s) {
			return append(out, '#')
		}
	case markup.InURLQuery:
		return appendQuery(out, s)
	case markup.InURLRest:
		if i := strings.IndexAny(s, ":/?#"); i >= 0 && s[i] == ':' {
			n := strings.IndexAny(s[i:], "/?#")
			if n < 0 {
				n = len(s) - i
			}
			out = appendAddress(out, s[:i])
			out = append(out, strings.ReplaceAll(string(appendAddress(nil, s[i:i+n])), ":", "%3A")...)
			s = s[i+n:]
		}
	case markup.InURLPath:
		// A path that begins with two slashes leads to another host.
		if n := len(out); n > 1 && out[n-1] == '/' && (out[n-2] == '"' || out[n-2] == '\'') &&
			strings.HasPrefix(s, "/") {
			out, s = append(out, "%2F"...), s[1:]
		}
	}
	return appendAddress(out, s)
}

// appendItems writes addresses parted by white space, and what stands between them, as 2x
// does. In place of one that leads where none may stands #; a first one may go on with what
// stands before it.
func appendItems(out []byte, s string) []byte {
	for i, one := range strings.Fields(s) {
		if i > 0 {
			out = append(out, ' ')
		}
		begins := i > 0 || len(out) == 0 || strings.IndexByte(" \t\r\n\f,\"'", out[len(out)-1]) >= 0
		switch {
		case !begins:
			out = appendInAddress(out, one, markup.InURLRest)
		case safeAddress(strings.TrimLeft(one, ",")):
			out = appendAddress(out, one)
		default:
			out = append(out, '#')
		}
	}
	return out
}

// maxBefore is how far back the beginning of an address is looked for.
const maxBefore = 4096

// behind is the place in an address behind what out ends with: what stands between there
// and the last quotation mark, since what is written into an attribute has none.
func behind(out []byte) markup.Context {
	from := max(len(out)-maxBefore, 0)
	i := strings.LastIndexAny(string(out[from:]), "\"'")
	if i < 0 {
		return markup.InURLRest
	}
	written := html.UnescapeString(string(out[from+i+1:]))
	before := strings.Map(func(r rune) rune {
		if r <= ' ' {
			return -1
		}
		return r
	}, written)
	d := strings.IndexAny(before, `:/\?#`)
	switch {
	case before == "":
		return markup.InURL
	case strings.ContainsAny(before, "?#"):
		return markup.InURLQuery
	case d < 0 || before[d] == ':' && !safeAddress(before):
		return markup.InURLRest
	}
	return markup.InURLPath
}

// AppendOutput writes what a call gave into HTML at a place. Between tags it
// stands as it is; elsewhere it must not end what it stands in.
func AppendOutput(out, b []byte, ctx markup.Context) []byte {
	switch ctx {
	case markup.InText:
		return append(out, b...)
	case markup.InURL:
		if !safeAddress(html.UnescapeString(string(b))) {
			return append(out, '#')
		}
	case markup.InURLRest:
		return appendInAddress(out, html.UnescapeString(string(b)), ctx)
	case markup.InURLItems:
		return appendItems(out, html.UnescapeString(string(b)))
	case markup.InURLs:
		return Append(out, Value{Type: Text, Text: html.UnescapeString(string(b))}, ctx)
	case markup.InStyle:
		return appendStyle(out, Value{Type: Text, Text: string(b)})
	}
	for _, c := range b {
		switch c {
		case '"':
			out = append(out, "&#34;"...)
		case '\'':
			out = append(out, "&#39;"...)
		case '<':
			out = append(out, "&lt;"...)
		case '>':
			out = append(out, "&gt;"...)
		default:
			out = append(out, c)
		}
	}
	return out
}

// TextOf is HTML without its tags and comments, and without what scripts and styles hold.
// Character references stay.
func TextOf(b []byte) []byte {
	if bytes.IndexByte(b, '<') < 0 {
		return b
	}
	var out []byte
	within := ""
	for z := parser.NewTokenizer(bytes.NewReader(b)); ; {
		switch z.Next() {
		case parser.ErrorToken:
			return out
		case parser.TextToken:
			if within != "script" && within != "style" {
				out = append(out, z.Raw()...)
			}
		case parser.StartTagToken:
			name, _ := z.TagName()
			within = string(name)
		default:
			within = ""
		}
	}
}

func appendText(out []byte, s string) []byte {
	last := 0
	for i := 0; i < len(s); i++ {
		var e string
		switch s[i] {
		case '&':
			e = "&amp;"
		case '<':
			e = "&lt;"
		case '>':
			e = "&gt;"
		case '"':
			e = "&#34;"
		case '\'':
			e = "&#39;"
		case 0:
			e = "\uFFFD"
		default:
			continue
		}
		out = append(out, s[last:i]...)
		out = append(out, e...)
		last = i + 1
	}
	return append(out, s[last:]...)
}

// safeAddress reports whether an address leads nowhere dangerous: http, https,
// mailto, tel, a path of the site, or #id.
func safeAddress(s string) bool {
	s = strings.TrimLeft(s, " ")
	if strings.HasPrefix(s, "//") || strings.ContainsAny(s, "\x00\t\r\n\\") {
		return false
	}
	i := strings.IndexAny(s, ":/?#")
	if i < 0 || s[i] != ':' {
		return true
	}
	switch strings.ToLower(s[:i]) {
	case "http", "https", "mailto", "tel":
		return true
	}
	return false
}

const hexDigits = "0123456789ABCDEF"

// appendAddress writes an address into an attribute: what RFC 3986 does not
// allow is percent-encoded, what is already encoded stays.
func appendAddress(out []byte, s string) []byte {
	for i := 0; i < len(s); i++ {
		switch c := s[i]; {
		case c == '&':
			out = append(out, "&amp;"...)
		case c == '\'':
			out = append(out, "&#39;"...)
		case c <= ' ' || c >= 0x7f || strings.IndexByte(`"<>\^`+"`{|}", c) >= 0:
			out = append(out, '%', hexDigits[c>>4], hexDigits[c&15])
		default:
			out = append(out, c)
		}
	}
	return out
}

// appendQuery writes a value as one component of a query.
func appendQuery(out []byte, s string) []byte {
	for i := 0; i < len(s); i++ {
		c := s[i]
		if c >= 'a' && c <= 'z' || c >= 'A' && c <= 'Z' || c >= '0' && c <= '9' || c == '-' || c == '_' ||
			c == '.' || c == '~' {
			out = append(out, c)
		} else {
			out = append(out, '%', hexDigits[c>>4], hexDigits[c&15])
		}
	}
	return out
}

// appendStyle writes a value into a style attribute. A colour has been checked
// when it was read; of anything else only plain words and numbers pass.
func appendStyle(out []byte, v Value) []byte {
	if v.Type == Colour {
		return appendText(out, v.Text)
	}
	for i := 0; i < len(v.Text); i++ {
		c := v.Text[i]
		if !(c >= 'a' && c <= 'z' || c >= 'A' && c <= 'Z' || c >= '0' && c <= '9' ||
			strings.IndexByte(" #.,%-", c) >= 0) {
			return out
		}
	}
	return append(out, v.Text...)
}
