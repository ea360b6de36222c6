package place

import (
	"bytes"
	"path"
	"regexp"
	"strings"

	"golang.org/x/net/html"
	"golang.org/x/net/html/charset"
	"golang.org/x/text/encoding"
)

// titleWithin is how many bytes at the beginning of a page are looked through for its title.
const titleWithin = 64 << 10

// ownTitle is what a page is called that says nothing of it: as its title element does, or else as its
// file is named.
func ownTitle(name string, text []byte) string {
	if t := titleIn(text[:min(len(text), titleWithin)]); t != "" {
		return t
	}
	return path.Base(name)
}

// titleIn is what the title element of a text says, read in the encoding of the text; "" where there is
// none, or where it calls something.
func titleIn(text []byte) string {
	enc := encodingOf(text)
	if wide(text) {
		decoded, err := enc.NewDecoder().Bytes(text)
		if err != nil {
			return ""
		}
		text, enc = decoded, encoding.Nop
	}
	at := bytes.IndexByte(text, '<')
	if at < 0 {
		return ""
	}
	z := html.NewTokenizer(bytes.NewReader(text[at:]))
	for {
		switch z.Next() {
		case html.ErrorToken:
			return ""
		case html.StartTagToken:
			name, _ := z.TagName()
			switch string(name) {
			case "title":
				if z.Next() != html.TextToken {
					return ""
				}
				return spelled(z.Raw(), enc)
			case "body", "frameset":
				return ""
			}
		}
	}
}

// declared finds the encoding that the declaration of an XML document names.
var declared = regexp.MustCompile(`^(?:\xef\xbb\xbf)?\s*<\?xml[^>]{0,200}?\sencoding\s*=\s*["']([A-Za-z0-9._:-]{1,40})["']`)

// encodingOf is the encoding of a text: that of its mark, of its XML declaration or of its meta element, or
// else what its bytes look like.
func encodingOf(text []byte) encoding.Encoding {
	if m := declared.FindSubmatch(text); m != nil {
		if enc, _ := charset.Lookup(string(m[1])); enc != nil {
			return enc
		}
	}
	enc, _, _ := charset.DetermineEncoding(text, "text/html")
	return enc
}

// spelled is a text as one reads it.
func spelled(raw []byte, enc encoding.Encoding) string {
	read, err := enc.NewDecoder().Bytes(raw)
	if err != nil || bytes.Contains(bytes.ReplaceAll(read, []byte("@@{"), nil), []byte("@{")) {
		return ""
	}
	said := html.UnescapeString(strings.ReplaceAll(string(read), "@@{", "@{"))
	return strings.ToValidUTF8(strings.Join(strings.Fields(said), " "), "\uFFFD")
}

// wide reports whether a text is marked as one of two bytes for each character.
func wide(text []byte) bool {
	return bytes.HasPrefix(text, []byte("\xff\xfe")) || bytes.HasPrefix(text, []byte("\xfe\xff"))
}
