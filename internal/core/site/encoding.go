package site

import (
	"bytes"
	"regexp"
	"unicode/utf8"

	"golang.org/x/net/html/charset"
	"golang.org/x/text/encoding"
	"golang.org/x/text/encoding/htmlindex"
	"golang.org/x/text/transform"
)

// within is how far into a document its encoding is declared, in bytes.
const within = 1024

var (
	// xmlSays finds the encoding that the declaration of an XML document names.
	xmlSays = regexp.MustCompile(`^(?:\xef\xbb\xbf)?\s*<\?xml[^>]{0,200}?\sencoding\s*=\s*["']([A-Za-z0-9._:-]{1,40})["']`)
	// saysUTF8 finds that a document declares to be UTF-8.
	saysUTF8 = regexp.MustCompile(`(?i)(?:charset|encoding)\s*=\s*["']?\s*utf-?8`)
)

// EncodingOf is the encoding of a text: that of its mark, of its XML declaration or of its meta element, or
// else what its bytes look like. isUTF8 is set for UTF-8.
func EncodingOf(text []byte) (enc encoding.Encoding, isUTF8 bool) {
	if m := xmlSays.FindSubmatch(text[:min(len(text), within)]); m != nil {
		if _, name := charset.Lookup(string(m[1])); name != "" {
			return named(name)
		}
	}
	if utf8.Valid(text) {
		// What declares nothing is UTF-8; that is looked for in the beginning alone, which may be ASCII.
		head := text[:min(len(text), within-8)]
		for len(head) > 0 && !utf8.Valid(head) {
			head = head[:len(head)-1]
		}
		text = append(bytes.Clone(head), "é."...)
	}
	_, name, _ := charset.DetermineEncoding(text, "text/html")
	return named(name)
}

// named is the encoding of a name, which tells what it lacks rather than writing something else.
func named(name string) (enc encoding.Encoding, isUTF8 bool) {
	enc, err := htmlindex.Get(name)
	if err != nil {
		return encoding.Nop, true
	}
	return enc, name == "utf-8"
}

// ForeignEncoding is the encoding of a text, where it is another one than UTF-8 in which each character
// stands for itself; nil for UTF-8, and where the text cannot be written again as it is.
func ForeignEncoding(text []byte) encoding.Encoding {
	plain := plainASCII(text)
	if !plain && utf8.Valid(text) || Wide(text) {
		return nil
	}
	enc, isUTF8 := EncodingOf(text)
	if isUTF8 || !plain && bytes.Equal(Readable(text), text) {
		return nil
	}
	if both, err := enc.NewEncoder().Bytes([]byte("@{a}")); err != nil || string(both) != "@{a}" {
		return nil
	}
	return enc
}

// Decoded is some of a text in an encoding, in UTF-8.
func Decoded(enc encoding.Encoding, b []byte) []byte {
	out, err := enc.NewDecoder().Bytes(b)
	if err != nil {
		return b
	}
	return out
}

// Readable is a document's text in UTF-8, from which Written makes the same bytes again; the document as it
// is where it is UTF-8, or where that cannot be.
func Readable(doc []byte) []byte {
	if utf8.Valid(doc) {
		return doc
	}
	enc, isUTF8 := EncodingOf(doc)
	if isUTF8 {
		return doc
	}
	text, err := enc.NewDecoder().Bytes(doc)
	if err != nil || !utf8.Valid(text) {
		return doc
	}
	if back, lacks := Written(text, doc); lacks >= 0 || !bytes.Equal(back, doc) {
		return doc
	}
	return text
}

// Written is a text in the encoding that it declares, or else in that of the document that it was read
// from. lacks is -1, or where the first character stands that the encoding lacks, as an offset in
// bytes; then it is the text as it is. A document that is UTF-8 stays so, whatever it declares.
func Written(text, from []byte) (doc []byte, lacks int) {
	if !utf8.Valid(text) || plainASCII(text) || utf8.Valid(from) && !plainASCII(from) {
		return text, -1
	}
	enc, isUTF8 := EncodingOf(text)
	if isUTF8 {
		if utf8.Valid(from) || saysUTF8.Match(text[:min(len(text), within)]) {
			return text, -1
		}
		if enc, isUTF8 = EncodingOf(from); isUTF8 {
			return text, -1
		}
	}
	doc, read, err := transform.Bytes(enc.NewEncoder(), text)
	if err != nil {
		return text, min(read, len(text)-1)
	}
	return doc, -1
}

func plainASCII(b []byte) bool {
	for _, c := range b {
		if c >= utf8.RuneSelf {
			return false
		}
	}
	return true
}

// Wide reports whether a text is marked as one of two bytes for each character.
func Wide(text []byte) bool {
	return bytes.HasPrefix(text, []byte("\xff\xfe")) || bytes.HasPrefix(text, []byte("\xfe\xff"))
}
