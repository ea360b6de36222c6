package repeat

import (
	"bytes"
	"slices"

	"github.com/cespare/xxhash/v2"
	"golang.org/x/net/html"
)

// kind says what a token is.
type kind uint8

const (
	word    kind = iota // text with something to read in it
	space               // nothing but white space
	raw                 // what a script, style or the like holds
	start               // a tag that waits for its end
	end                 // an end tag
	void                // a tag that has no end
	comment             // a comment, declaration or processing instruction
)

// token is one tag, text or comment of a page.
type token struct {
	from, to uint32 // byte offsets in the page's text
	name     uint32 // hash of the name of a tag, in lower case; else 0
	shape    uint32 // of its name and the names of its attributes
	exact    uint32 // of its bytes, leading ../ of addresses left out
	form     uint32 // of its name and those of its values that stand on many pages
	kind     kind
	valued   bool // some of what it says stands on many pages
	common   bool // all of it does
	hard     bool // it holds tags of the shelf language, which stay as they are
}

// attr is an attribute as it stands in a tag.
type attr struct {
	lead  []byte // what stands before its name: white space
	name  []byte
	eq    []byte // the equals sign with the white space around it; nil without a value
	quote byte   // 0 without one
	value []byte
}

func hash(b []byte) uint32 { return uint32(xxhash.Sum64(b)) }

func mix(a, b uint32) uint32 {
	h := (uint64(a)<<32 | uint64(b)) * 0x9E3779B97F4A7C15
	return uint32(h ^ h>>32)
}

const blanks = " \t\r\n\f"

var lone = setOf("area base basefont bgsound br col embed frame hr img input isindex keygen link meta param source track wbr")

// titles are the elements whose text has references, but no tags.
var titles = setOf("title textarea")

func setOf(words string) map[string]bool {
	out := map[string]bool{}
	for _, w := range bytes.Fields([]byte(words)) {
		out[string(w)] = true
	}
	return out
}

// attributes reads those of a start tag; rest is what stands behind the last one, with its bracket.
func attributes(tag []byte) (name []byte, attrs []attr, rest []byte) {
	i := 1
	for i < len(tag) && bytes.IndexByte([]byte(blanks+"/>"), tag[i]) < 0 {
		i++
	}
	name = tag[:i]
	for {
		from := i
		for i < len(tag) && bytes.IndexByte([]byte(blanks+"/"), tag[i]) >= 0 {
			i++
		}
		if i >= len(tag) || tag[i] == '>' {
			return name, attrs, tag[from:]
		}
		a := attr{lead: tag[from:i]}
		at := i
		for i++; i < len(tag) && bytes.IndexByte([]byte(blanks+"/>="), tag[i]) < 0; i++ {
		}
		a.name = tag[at:i]
		eq := i
		for i < len(tag) && bytes.IndexByte([]byte(blanks), tag[i]) >= 0 {
			i++
		}
		if i >= len(tag) || tag[i] != '=' {
			i = eq
			attrs = append(attrs, a)
			continue
		}
		for i++; i < len(tag) && bytes.IndexByte([]byte(blanks), tag[i]) >= 0; i++ {
		}
		a.eq = tag[eq:i]
		if i < len(tag) && (tag[i] == '"' || tag[i] == '\'') {
			a.quote = tag[i]
			n := bytes.IndexByte(tag[i+1:], a.quote)
			if n < 0 {
				n = len(tag) - i - 1
			}
			a.value = tag[i+1 : i+1+n]
			i = min(i+n+2, len(tag))
		} else {
			at = i
			for i < len(tag) && bytes.IndexByte([]byte(blanks+">"), tag[i]) < 0 {
				i++
			}
			a.value = tag[at:i]
		}
		attrs = append(attrs, a)
	}
}

// unrooted is an address without the ../ and ./ that it begins with.
func unrooted(v []byte) []byte {
	for {
		switch {
		case bytes.HasPrefix(v, []byte("../")):
			v = v[3:]
		case bytes.HasPrefix(v, []byte("./")):
			v = v[2:]
		default:
			return v
		}
	}
}

// read reads a text as tokens. seen are the hashes of its values, each once, by which forms are told
// apart later.
func read(text []byte, hard []Span) (tokens []token, seen []uint32) {
	z := html.NewTokenizer(bytes.NewReader(masked(text, hard)))
	at, within := 0, ""
	for {
		t := z.Next()
		tag := z.Raw()
		n := len(tag)
		if t == html.ErrorToken {
			n = len(text) - at // what is left is no token, but stands there all the same
		}
		if n == 0 {
			break
		}
		k := token{from: uint32(at), to: uint32(at + n)}
		tag = text[at : at+n]
		at += n
		for len(hard) > 0 && hard[0].To <= int(k.from) {
			hard = hard[1:]
		}
		k.hard = len(hard) > 0 && hard[0].From < int(k.to)
		switch t {
		case html.TextToken:
			k.kind = word
			if within != "" && (!titles[within] || bytes.IndexByte(tag, '<') >= 0) {
				k.kind = raw // what looks like a tag there is none
			} else if len(bytes.Trim(tag, blanks)) == 0 {
				k.kind = space
			}
		case html.StartTagToken, html.SelfClosingTagToken:
			within = k.startTag(tag, t == html.SelfClosingTagToken, &seen)
		case html.EndTagToken:
			k.kind, within = end, ""
			k.name = hash(bytes.ToLower(bytes.TrimRight(bytes.TrimLeft(tag, "</"), blanks+">")))
		default:
			k.kind = comment
		}
		if k.kind != start && k.kind != void {
			k.exact = hash(tag)
			k.shape = mix(uint32(k.kind)+1, k.name)
			if k.kind == word || k.kind == raw || k.kind == comment {
				seen = append(seen, hash(bytes.Trim(tag, blanks)))
			}
		}
		tokens = append(tokens, k)
		if t == html.ErrorToken {
			break
		}
	}
	slices.Sort(seen)
	return tokens, slices.Compact(seen)
}

// startTag fills in what a start tag is, and tells the element whose text is no markup, if it begins one.
func (k *token) startTag(tag []byte, closed bool, seen *[]uint32) string {
	head, attrs, rest := attributes(tag)
	name := string(bytes.ToLower(head[1:]))
	k.name, k.kind = hash([]byte(name)), start
	if lone[name] || closed && name != "script" {
		k.kind = void
	}
	k.shape = mix(uint32(k.kind)+1, k.name)
	k.exact = mix(k.shape, hash(rest))
	for _, a := range attrs {
		k.shape = mix(k.shape, hash(a.name))
		k.exact = mix(k.exact, mix(hash(a.lead), mix(hash(a.name), hash(unrooted(a.value)))))
		*seen = append(*seen, valueHash(a))
	}
	switch name {
	case "script", "style", "xmp", "iframe", "noembed", "noframes", "plaintext", "title", "textarea":
		return name
	}
	return ""
}

func valueHash(a attr) uint32 { return mix(hash(a.name), hash(unrooted(a.value))) }

// masked is a text whose tags of the shelf language are no markup.
func masked(text []byte, hard []Span) []byte {
	if len(hard) == 0 {
		return text
	}
	out := bytes.Clone(text)
	for _, s := range hard {
		for i := s.From; i < s.To; i++ {
			out[i] = 'x'
		}
	}
	return out
}

// setForms gives tokens their forms, once it is known which values stand on many pages.
func setForms(text []byte, tokens []token, often map[uint32]bool) {
	for i := range tokens {
		k := &tokens[i]
		k.form, k.common = mix(uint32(k.kind)+1, k.name), true
		take := func(h uint32) {
			if often[h] {
				k.form += mix(h, 1) // in whatever order attributes stand
				k.valued = true
			} else {
				k.common = false
			}
		}
		switch k.kind {
		case word, raw, comment:
			take(hash(bytes.Trim(text[k.from:k.to], blanks)))
		case start, void:
			_, attrs, _ := attributes(text[k.from:k.to])
			for _, a := range attrs {
				take(valueHash(a))
			}
		}
	}
}
