package render

import (
	"html"
	"strings"
	"unicode/utf8"

	"golang.org/x/text/encoding"

	"brickshelf/internal/core/markup"
	"brickshelf/internal/core/site"
)

// A page may be in another encoding than UTF-8, in which blocks, menus and values are. Its own text goes out
// as it is; what a call or value in it shows is worked out in UTF-8, with the arguments and the content that
// the page hands over read in the page's encoding, and then written in that.

// foreign reports whether what stands in a scope is in another encoding than what blocks show.
func (r *renderer) foreign(sc *scope) bool {
	return sc.pageText && r.only == nil && r.info.Page.Encoding != nil
}

// inEncoding has show show something in the page's text, and writes it in the page's encoding.
func (r *renderer) inEncoding(show func()) {
	r.rewritten(show, func(b []byte) []byte { return appendEncoded(nil, b, r.info.Page.Encoding) })
}

// fromEncoding has show write something of the page's own text, and reads it into UTF-8.
func (r *renderer) fromEncoding(show func()) {
	r.rewritten(show, func(b []byte) []byte { return []byte(decoded(r.info.Page.Encoding, string(b))) })
}

// asDeclared has show show a page and writes it in the encoding that it declares then, where its own text is
// ASCII and says nothing of it: a block that holds its head does.
func (r *renderer) asDeclared(show func()) {
	var enc encoding.Encoding // of the whole page, which is asked about first
	r.rewritten(show, func(b []byte) []byte {
		if enc == nil {
			of, isUTF8 := site.EncodingOf(b)
			if enc = of; isUTF8 || site.Wide(b) {
				enc = encoding.Nop
			}
		}
		if enc == encoding.Nop {
			return b
		}
		return appendEncoded(nil, b, enc)
	})
}

// rewritten has show show something and writes it otherwise, where it is not ASCII. Placements and literals
// within are moved to where they stand then.
func (r *renderer) rewritten(show func(), as func(b []byte) []byte) {
	from, traced, literals := len(r.buf), 0, len(r.literals)
	if r.trace != nil {
		traced = len(*r.trace)
	}
	show()
	if ascii(r.buf[from:]) {
		return
	}
	shown := append([]byte(nil), r.buf[from:]...)
	r.buf = append(r.buf[:from], as(shown)...)
	spot := func(at int) int { return from + len(as(shown[:at-from])) }
	for i := range r.literals[literals:] {
		l := &r.literals[literals+i]
		l.From, l.To = spot(l.From), spot(l.To)
	}
	if r.trace != nil {
		for i := range (*r.trace)[traced:] {
			p := &(*r.trace)[traced+i]
			p.From, p.To = spot(p.From), spot(p.To)
		}
	}
}

// argumentIn is an argument of a call in the page's text, read in the page's encoding.
func (r *renderer) argumentIn(v markup.ArgValue) markup.ArgValue {
	enc := r.info.Page.Encoding
	if v.Written != "" {
		v.Written = decoded(enc, v.Written)
		v.Text = v.Written
		if strings.IndexByte(v.Written, '<') < 0 {
			v.Text = html.UnescapeString(v.Written)
		}
		return v
	}
	v.Text = decoded(enc, v.Text)
	return v
}

func decoded(enc encoding.Encoding, s string) string {
	if ascii([]byte(s)) {
		return s
	}
	out, err := enc.NewDecoder().String(s)
	if err != nil {
		return s
	}
	return out
}

// appendEncoded writes UTF-8 in an encoding. A character that this lacks becomes a numeric reference; bytes
// that are no UTF-8 stay as they are.
func appendEncoded(out, text []byte, enc encoding.Encoding) []byte {
	e := encoding.HTMLEscapeUnsupported(enc.NewEncoder())
	for len(text) > 0 {
		n := 0 // of UTF-8
		for n < len(text) {
			if r, size := utf8.DecodeRune(text[n:]); r != utf8.RuneError || size > 1 {
				n += size
				continue
			}
			break
		}
		if b, err := e.Bytes(text[:n]); err == nil {
			out = append(out, b...)
		} else {
			out = append(out, text[:n]...)
		}
		if text = text[n:]; len(text) > 0 {
			out, text = append(out, text[0]), text[1:]
		}
	}
	return out
}

func ascii(b []byte) bool {
	for _, c := range b {
		if c >= utf8.RuneSelf {
			return false
		}
	}
	return true
}
