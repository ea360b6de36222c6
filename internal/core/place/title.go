package place

import (
	"bytes"
	"path"
	"strings"

	"golang.org/x/net/html"
	"golang.org/x/text/encoding"

	"brickshelf/internal/core/site"
)

// titleWithin is how many bytes at the beginning of a page are looked through for its title.
const titleWithin = 64 << 10

// Called is what the page is called where one reads of it: its title, or else, where no layout stands
// around it, as its file is named; else its address.
func (g *Page) Called() string {
	switch {
	case g.Title != "":
		return g.Title
	case g.Layout == "":
		return path.Base(g.Name)
	}
	return g.URL
}

// titleIn is what the title element at the beginning of a text says, read in the encoding of the text; "" where there is
// none, or where it calls something.
func titleIn(text []byte) string {
	text = text[:min(len(text), titleWithin)]
	enc, _ := site.EncodingOf(text)
	if site.Wide(text) {
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

// spelled is a text as one reads it.
func spelled(raw []byte, enc encoding.Encoding) string {
	read, err := enc.NewDecoder().Bytes(raw)
	if err != nil || bytes.Contains(bytes.ReplaceAll(read, []byte("@@{"), nil), []byte("@{")) {
		return ""
	}
	said := html.UnescapeString(strings.ReplaceAll(string(read), "@@{", "@{"))
	return strings.ToValidUTF8(strings.Join(strings.Fields(said), " "), "\uFFFD")
}
