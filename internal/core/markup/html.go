package markup

import (
	"bytes"
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
			i += s.run(b[i:])
			if i == len(b) {
				break
			}
		}
		c := b[i]
		s.step(c, at+i)
		if s.noscript && s.leavesNoscript(c) {
			s = htmlState{place: pTagName, word: "noscript", end: true, foreign: s.foreign, noscript: true,
				fault: s.fault, from: s.from, inside: s.inside}
			s.step(c, at+i)
		}
	}
	return s
}

// run takes in the bytes that surely belong to the name that is being read, or leave the
// state as it is, and counts them.
func (s *htmlState) run(b []byte) int {
	switch s.place {
	case pTagName, pAttrName:
		n := 0
		for n < len(b) && (isLetter(b[n]) || b[n] == '-' || b[n] >= '0' && b[n] <= '9') {
			n++
		}
		if n > 0 {
			s.word += strings.ToLower(string(b[:n]))
		}
		return n
	case pText, pTitle, pRaw, pScript, pDouble, pSingle, pBogus, pComment, pPlain:
		return s.skip(b)
	}
	return 0
}

// skip counts the bytes that surely leave the state as it is.
func (s *htmlState) skip(b []byte) int {
	n := 0
	switch {
	case s.place == pText, s.place == pTitle && s.word == "", s.place == pRaw && s.word == "",
		s.place == pScript && s.sub == sData && s.word == "":
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
