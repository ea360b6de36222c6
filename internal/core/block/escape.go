package block

import (
	"html"
	"strings"

	"brickshelf/internal/core/markup"
)

// Append writes a value into HTML at a place, escaped by its type and by that
// place, so that it can neither end what it stands in nor run as a script.
func Append(out []byte, v Value, ctx markup.Context) []byte {
	if !v.IsSet() || v.Type == List || v.Type == group {
		return out
	}
	switch ctx {
	case markup.InText, markup.InComment:
		switch v.Type {
		case Rich:
			if ctx == markup.InText {
				return append(out, v.Text...)
			}
		case Lines:
			for i, l := range strings.Split(v.Text, "\n") {
				if i > 0 {
					out = append(out, "<br>\n"...)
				}
				out = appendText(out, strings.TrimSuffix(l, "\r"))
			}
			return out
		case Link:
			if v.More != nil && v.More.Label != "" {
				return appendText(out, v.More.Label)
			}
		}
		return appendText(out, v.Text)
	case markup.InURL:
		if !safeAddress(v.Text) {
			return append(out, '#')
		}
		return appendAddress(out, v.Text)
	case markup.InURLPath:
		return appendAddress(out, v.Text)
	case markup.InURLQuery:
		return appendQuery(out, v.Text)
	case markup.InStyle:
		return appendStyle(out, v)
	}
	return appendText(out, v.Text)
}

// AppendOutput writes what a call gave into HTML at a place. Between tags it
// stands as it is; in an attribute it must not end the attribute.
func AppendOutput(out, b []byte, ctx markup.Context) []byte {
	switch ctx {
	case markup.InText:
		return append(out, b...)
	case markup.InURL:
		if !safeAddress(html.UnescapeString(string(b))) {
			return append(out, '#')
		}
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
	s = strings.TrimSpace(s)
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
		if c >= 'a' && c <= 'z' || c >= 'A' && c <= 'Z' || c >= '0' && c <= '9' || c == '-' || c == '_' || c == '.' || c == '~' {
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
		if !(c >= 'a' && c <= 'z' || c >= 'A' && c <= 'Z' || c >= '0' && c <= '9' || strings.IndexByte(" #.,%-", c) >= 0) {
			return out
		}
	}
	return append(out, v.Text...)
}
