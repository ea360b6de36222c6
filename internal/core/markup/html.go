package markup

import (
	"bytes"
	"html"
	"strings"
)

// htmlPlace is where in the grammar of HTML a reader stands. The places and their
// transitions are those of the tokenization stage of the WHATWG HTML standard, some of
// them joined where no difference shows.
type htmlPlace uint8

const (
	pText        htmlPlace = iota // between tags
	pTagOpen                      // behind <
	pEndOpen                      // behind </
	pDeclaration                  // behind <!
	pTagName                      // in the name of a tag
	pInTag                        // before the name of an attribute
	pSlash                        // behind a / in a tag
	pAttrName                     // in the name of an attribute
	pAfterName                    // behind the name of an attribute
	pJoined                       // behind branches that end in different places of one tag
	pBeforeValue                  // behind =
	pDouble                       // in "…"
	pSingle                       // in '…'
	pUnquoted                     // in a value without quotes
	pBogus                        // in <!…>, <?…> or </ …>, until >
	pComment                      // in <!-- … -->; sub counts what its end needs
	pCDATA                        // in <![CDATA[ … ]]>, which only foreign content has
	pTitle                        // in title or textarea, until their end tag
	pRaw                          // in style, xmp, iframe, noembed or noframes, until their end tag
	pScript                       // in script; sub is one of the places of a script
	pPlain                        // behind <plaintext>, for good
)

// Places of a comment: how much of its end has been read.
const (
	cStart     uint8 = iota // behind <!--
	cStartDash              // behind <!---
	cBody
	cDash      // behind -
	cEnd       // behind --
	cBang      // behind --!
	cMaybe     // cStart or cBody: behind a value that may be empty
	cMaybeDash // behind - after that
)

// Places of a script: what <!-- and <script within it have made of it.
const (
	sData uint8 = iota
	sEscaped
	sTwice // within <script in <!--
)

// urlPart is how far an address has been read: what it leads to is decided once it has a
// scheme that is allowed, or a / ? or # before any colon.
type urlPart uint8

const (
	uBegin urlPart = iota // nothing but blanks
	uOpen                 // something that may yet become a scheme
	uPath                 // decided
	uQuery                // behind its ? or #
	uBad                  // a scheme in which no value may stand
)

// fault is what reading a literal has found wrong behind something that is not literal.
type fault uint8

const (
	noFault     fault = iota
	fSplit            // what follows a condition within a tag belongs to one of its branches
	fScheme           // a colon makes a scheme of a value
	fComment          // whether a comment ends is for a value to say
	fRefreshing       // http-equiv in a tag with a value in content
)

// htmlState is what must be known to read on. All but its spots is compared where the
// branches of a condition are held against each other.
type htmlState struct {
	place htmlPlace
	sub   uint8  // within a comment, script or CDATA section
	end   bool   // the tag is an end tag
	word  string // what has been read of a name, end tag, declaration or address
	elem  string // the element whose tag is open, or whose text it is
	attr  string // the attribute whose value is open
	part  urlPart
	addr  bool // the attribute holds an address, or several; for animations, perhaps
	dyn   bool // of an address: a value or call stands in what has been read of it
	call  bool // of an address: a call does
	bound bool // in pJoined: white space is needed before another attribute

	unquoted bool // in pJoined: a / may belong to a value
	httpEquiv,
	content bool // of a meta element: has http-equiv; has a value in content
	colour   bool   // of a font element: it cannot stand in foreign content
	foreign  string // open elements from the outermost svg or math on, each with a comma behind it
	noscript bool   // within noscript, which is text to a browser with scripts
	raw      uint8  // how much of </noscript has been read, whatever it stands in

	fault  fault
	inside Inside // not compared
	from   int    // where the tag, comment or element begins that the place is in; not compared
}

// same reports whether two states read on alike.
func (s htmlState) same(o htmlState) bool {
	s.from, o.from, s.inside, o.inside = 0, 0, 0, 0
	return s == o
}

// text is the state between tags behind what a state was in.
func (s htmlState) text() htmlState {
	return htmlState{foreign: s.foreign, noscript: s.noscript, raw: s.raw, fault: s.fault, inside: s.inside}
}

// urlAttrs are the attributes that hold an address, or several.
var urlAttrs = map[string]bool{
	"action": true, "archive": true, "background": true, "cite": true, "classid": true, "codebase": true, "data": true, "formaction": true, "href": true, "icon": true,
	"imagesrcset": true, "longdesc": true, "manifest": true, "ping": true, "poster": true, "profile": true, "src": true, "srcset": true, "usemap": true,
}

// animating are the elements of SVG that can set an address, in any of animated.
var animating = map[string]bool{"animate": true, "set": true}
var animated = map[string]bool{"to": true, "from": true, "by": true, "values": true}

// addressed reports whether an attribute holds an address: for animations, perhaps.
func addressed(elem, name string) bool {
	if i := strings.LastIndexByte(name, ':'); i >= 0 {
		name = name[i+1:] // xlink:href, under whatever prefix
	}
	return urlAttrs[name] || animating[elem] && animated[name]
}

// animates reports whether the attribute is one by which an animation may set an address.
func (s *htmlState) animates() bool { return animating[s.elem] && animated[s.attr] }

// parted reports whether a byte ends an address in an attribute that holds several.
func (s *htmlState) parted(c byte) bool {
	switch s.attr {
	case "srcset", "imagesrcset":
		return isSpace(c) || c == ','
	case "ping", "archive":
		return isSpace(c)
	case "values":
		return c == ';'
	}
	return false
}

func isSpace(c byte) bool { return c == ' ' || c == '\n' || c == '\t' || c == '\r' || c == '\f' }

func lower(c byte) byte {
	if c >= 'A' && c <= 'Z' {
		return c | 0x20
	}
	return c
}

func isLetter(c byte) bool { c |= 0x20; return c >= 'a' && c <= 'z' }

// read moves the state over literal bytes; at is where the first of them stands.
func (s htmlState) read(b []byte, at int) htmlState {
	for i := 0; i < len(b); i++ {
		if !s.noscript {
			i += s.skip(b[i:])
			if i == len(b) {
				break
			}
		}
		c := b[i]
		s.step(c, at+i)
		if s.noscript && s.leavesNoscript(c) {
			s = htmlState{place: pTagName, word: "noscript", end: true, foreign: s.foreign, noscript: true, fault: s.fault, from: s.from, inside: s.inside}
			s.step(c, at+i)
		}
	}
	return s
}

// skip counts the bytes that surely leave the state as it is.
func (s *htmlState) skip(b []byte) int {
	n := 0
	switch {
	case s.place == pText, s.place == pTitle && s.word == "", s.place == pRaw && s.word == "", s.place == pScript && s.sub == sData && s.word == "":
		n = bytes.IndexByte(b, '<')
	case s.place == pDouble && !s.addr:
		n = bytes.IndexByte(b, '"')
	case s.place == pSingle && !s.addr:
		n = bytes.IndexByte(b, '\'')
	case s.place == pBogus:
		n = bytes.IndexByte(b, '>')
	case s.place == pComment && s.sub == cBody:
		n = bytes.IndexByte(b, '-')
	case s.place == pPlain:
		n = len(b)
	}
	if n < 0 {
		return len(b)
	}
	return n
}

const endOfNoscript = "</noscript"

// leavesNoscript follows the end tag that a browser with scripts looks for in noscript,
// wherever it stands. It reports true behind the byte that ends its name.
func (s *htmlState) leavesNoscript(c byte) bool {
	if int(s.raw) == len(endOfNoscript) {
		s.raw = 0
		return isSpace(c) || c == '/' || c == '>'
	}
	switch lower(c) {
	case endOfNoscript[s.raw]:
		s.raw++
	case '<':
		s.raw = 1
	default:
		s.raw = 0
	}
	return false
}

// step moves the state over one byte, which stands at an offset.
func (s *htmlState) step(c byte, at int) {
	switch s.place {
	case pText:
		if c == '<' {
			s.place, s.from = pTagOpen, at
		}
	case pTagOpen, pEndOpen, pDeclaration, pBogus, pCDATA:
		s.open(c, at)
	case pTagName:
		if s.tagEnds(c) {
			return
		}
		s.word += string(lower(c))
	case pInTag, pSlash, pAttrName, pAfterName, pJoined:
		s.inTag(c)
	case pBeforeValue:
		s.beforeValue(c)
	case pDouble, pSingle:
		s.quoted(c)
	case pUnquoted:
		if isSpace(c) {
			s.leaveValue()
		} else if c == '>' {
			s.closeTag(false)
		}
	case pComment:
		s.comment(c)
	case pTitle, pRaw:
		s.rawText(c)
	case pScript:
		s.script(c)
	}
}

// open reads on behind < , </ or <! .
func (s *htmlState) open(c byte, at int) {
	switch {
	case s.place == pTagOpen && c == '/':
		s.place = pEndOpen
	case s.place == pTagOpen && c == '!':
		s.place, s.word = pDeclaration, ""
	case s.place == pTagOpen && c == '?':
		s.place = pBogus
	case s.place == pTagOpen && c == '<':
		s.from = at
	case s.place <= pEndOpen && isLetter(c):
		s.end = s.place == pEndOpen
		s.place, s.word = pTagName, string(lower(c))
	case s.place == pTagOpen:
		*s = s.text()
	case s.place == pCDATA:
		switch {
		case c == ']':
			s.sub = min(s.sub+1, 2)
		case c == '>' && s.sub == 2:
			*s = s.text()
		default:
			s.sub = 0
		}
	case c == '>': // <!>, </>, or the end of what is taken for a comment
		*s = s.text()
	case s.place == pEndOpen:
		s.place = pBogus
	case s.place == pDeclaration:
		switch s.word += string(c); {
		case s.word == "--":
			s.place, s.sub, s.word = pComment, cStart, ""
		case s.word == "[CDATA[":
			s.place, s.sub, s.word = pCDATA, 0, ""
		case s.word == "-" || s.foreign != "" && strings.HasPrefix("[CDATA[", s.word):
		default:
			s.place, s.word = pBogus, ""
		}
	}
}

// tagEnds reads what ends the name of a tag.
func (s *htmlState) tagEnds(c byte) bool {
	switch {
	case isSpace(c):
		s.place, s.elem, s.word = pInTag, s.word, ""
	case c == '/':
		s.place, s.elem, s.word = pSlash, s.word, ""
	case c == '>':
		s.elem, s.word = s.word, ""
		s.closeTag(false)
	default:
		return false
	}
	return true
}

func (s *htmlState) inTag(c byte) {
	if s.place == pJoined {
		switch {
		case isSpace(c):
			s.bound, s.unquoted = false, false
			return
		case c == '=' || c == '"' || c == '\'' || s.bound && c != '>' && c != '/' || s.unquoted && c == '/':
			s.fault = fSplit
		}
		s.bound, s.unquoted = false, false
	}
	switch {
	case c == '>':
		s.closeTag(s.place == pSlash)
	case c == '/':
		s.place, s.word = pSlash, ""
	case isSpace(c):
		if s.place == pAttrName {
			s.place = pAfterName
		} else if s.place == pSlash {
			s.place = pInTag
		}
	case c == '=' && (s.place == pAttrName || s.place == pAfterName):
		s.attr, s.word, s.place = s.word, "", pBeforeValue
		s.addr = addressed(s.elem, s.attr)
		switch {
		case s.elem == "font" && (s.attr == "color" || s.attr == "face" || s.attr == "size"):
			s.colour = true
		case s.elem == "meta" && s.attr == "http-equiv":
			s.httpEquiv = true
			if s.content {
				s.fault = fRefreshing
			}
		}
	case s.place == pAttrName:
		s.word += string(lower(c))
	default:
		s.place, s.word = pAttrName, string(lower(c))
	}
}

func (s *htmlState) beforeValue(c byte) {
	switch {
	case isSpace(c):
	case c == '"':
		s.place = pDouble
	case c == '\'':
		s.place = pSingle
	case c == '>':
		s.closeTag(false)
	default:
		s.place = pUnquoted
	}
}

// leaveValue goes back into the tag behind the value of an attribute.
func (s *htmlState) leaveValue() {
	s.place, s.word, s.attr, s.part, s.addr, s.dyn, s.call = pInTag, "", "", uBegin, false, false, false
}

func (s *htmlState) quoted(c byte) {
	switch {
	case c == '"' && s.place == pDouble || c == '\'' && s.place == pSingle:
		s.leaveValue()
	case !s.addr || s.part == uBad:
	case s.parted(c):
		s.part, s.dyn, s.call, s.word = uBegin, false, false, ""
	case s.part == uPath && (c == '?' || c == '#'):
		s.part = uQuery
	case s.part <= uOpen:
		s.address(c)
	}
}

// maxPrefix is how much of an address is looked at that leads nowhere yet.
const maxPrefix = 64

// address reads on in an address that is not decided yet.
func (s *htmlState) address(c byte) {
	if c <= ' ' || len(s.word) >= maxPrefix && c != ':' && c != '/' && c != '?' && c != '#' {
		return // blanks are taken out of addresses
	}
	s.word += string(c)
	if s.inReference() {
		return
	}
	prefix := strings.Map(func(r rune) rune {
		if r <= ' ' {
			return -1
		}
		return r
	}, html.UnescapeString(s.word))
	if prefix == "" {
		return
	}
	s.part = uOpen
	i := strings.IndexAny(prefix, `:/\?#`)
	if i < 0 {
		return
	}
	switch prefix[i] {
	case '?', '#':
		s.part = uQuery
	case '/', '\\':
		s.part = uPath
	default:
		switch scheme := strings.ToLower(prefix[:i]); {
		case s.dyn:
			s.part, s.fault = uBad, fScheme
		case scheme == "javascript" || scheme == "data" || scheme == "vbscript":
			s.part = uBad
		default:
			s.part = uPath
		}
	}
	s.word = ""
}

// inReference reports whether what was read of an address ends within a character
// reference.
func (s *htmlState) inReference() bool {
	i := strings.LastIndexByte(s.word, '&')
	return i >= 0 && strings.Trim(s.word[i+1:], "#abcdefghijklmnopqrstuvwxyzABCDEFGHIJKLMNOPQRSTUVWXYZ0123456789") == ""
}

func (s *htmlState) comment(c byte) {
	switch {
	case c == '>' && (s.sub == cMaybe || s.sub == cMaybeDash):
		s.sub, s.fault = cBody, fComment
	case c == '>' && s.sub != cBody && s.sub != cDash:
		*s = s.text()
	case c == '-' && s.sub == cMaybe:
		s.sub = cMaybeDash
	case c == '-' && (s.sub == cStart || s.sub == cBody || s.sub == cBang):
		s.sub = map[uint8]uint8{cStart: cStartDash, cBody: cDash, cBang: cDash}[s.sub]
	case c == '-':
		s.sub = cEnd
	case c == '!' && s.sub == cEnd:
		s.sub = cBang
	default:
		s.sub = cBody
	}
}

// rawText reads the text of an element that only its own end tag ends.
func (s *htmlState) rawText(c byte) {
	want := "</" + s.elem
	switch {
	case len(s.word) < len(want) && want[len(s.word)] == lower(c):
		s.word += string(lower(c))
	case s.word == want && (isSpace(c) || c == '>' || c == '/'):
		s.endTag(c)
	case c == '<':
		s.word = "<"
	default:
		s.word = ""
	}
}

// endTag goes on behind the name of the end tag of an element whose text was read.
func (s *htmlState) endTag(c byte) {
	*s = htmlState{place: pTagName, word: s.elem, end: true, foreign: s.foreign, noscript: s.noscript, raw: s.raw, from: s.from, inside: s.inside}
	s.tagEnds(c)
}

// script reads a script: within <!-- , a <script needs an end tag of its own.
func (s *htmlState) script(c byte) {
	w := s.word
	switch {
	case (c == '>' || isSpace(c) || c == '/') && w == "</script" && s.sub != sTwice:
		s.endTag(c)
	case (c == '>' || isSpace(c) || c == '/') && w == "</script":
		s.sub, s.word = sEscaped, ""
	case (c == '>' || isSpace(c) || c == '/') && w == "<script":
		s.sub, s.word = sTwice, ""
	case c == '>' && strings.HasSuffix(w, "--") && s.sub != sData:
		s.sub, s.word = sData, ""
	case c == '<':
		s.word = "<"
	case s.sub == sData && w+string(c) == "<!--":
		s.sub, s.word = sEscaped, "--"
	case c == '-' && s.sub != sData:
		if s.word = w + "-"; !strings.HasPrefix(s.word, "--") {
			s.word = "-"
		} else {
			s.word = "--"
		}
	case s.ahead(w + string(lower(c))):
		s.word += string(lower(c))
	default:
		s.word = ""
	}
}

// ahead reports whether what was read of a script may become something that counts.
func (s *htmlState) ahead(w string) bool {
	return strings.HasPrefix("</script", w) || s.sub == sData && strings.HasPrefix("<!--", w) || s.sub == sEscaped && strings.HasPrefix("<script", w)
}

// closeTag goes on behind the > of a tag.
func (s *htmlState) closeTag(selfClosing bool) {
	name, from := s.elem, s.from
	next := s.text()
	switch {
	case s.end:
		next.foreign = leave(s.foreign, name)
		next.inside = s.inside.behind(name)
		if name == "noscript" {
			next.noscript, next.raw = false, 0
		}
	case isForeign(s.foreign) && !breaksOut[name] && !s.colour:
		if !selfClosing {
			next.foreign = enter(s.foreign, name)
		}
	default:
		if isForeign(s.foreign) {
			next.foreign = outOfForeign(s.foreign)
		}
		next.inside = s.inside.within(name)
		switch name {
		case "svg", "math":
			if !selfClosing {
				next.foreign = enter(next.foreign, name)
			}
		case "title", "textarea":
			next.place = pTitle
		case "style", "xmp", "iframe", "noembed", "noframes":
			next.place = pRaw
		case "script":
			next.place = pScript
		case "plaintext":
			next.place = pPlain
		case "noscript":
			next.noscript, next.raw = true, 0
		}
		if next.place != pText {
			next.elem, next.from = name, from
		}
	}
	*s = next
}
