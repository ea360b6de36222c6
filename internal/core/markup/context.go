package markup

import (
	"bytes"
	"strings"
	"sync"
)

// Context is the place in HTML where a value or call stands. It decides how
// its output is escaped.
type Context uint8

// The places where a value may stand.
const (
	InText     Context = iota // between tags
	InAttr                    // in a quoted attribute
	InURL                     // at the beginning of an attribute that holds an address
	InURLPath                 // further on in such an attribute
	InURLQuery                // behind its ? or #
	InStyle                   // in a style attribute
	InComment                 // in an HTML comment
)

type contexts struct {
	once   sync.Once
	errors []Error
	open   bool // an end stands elsewhere than between tags
}

// Contexts sets the Context of every node, once, and returns the faults found:
// values and calls in places where no escaping makes them safe.
func (t *Text) Contexts() []Error {
	t.contexts.once.Do(func() {
		a := analysis{src: t.Src}
		end := a.nodes(t.Nodes, htmlState{})
		t.contexts.errors, t.contexts.open = a.errors, a.open || end.place != pText
	})
	return t.contexts.errors
}

// region of the HTML grammar in which the reader stands.
type htmlPlace uint8

const (
	pText htmlPlace = iota
	pTagOpen
	pTagName
	pInTag
	pAttrName
	pAfterName
	pBeforeValue
	pDouble
	pSingle
	pUnquoted
	pComment
	pMarkupDecl
	pRaw // inside script or style, until its end tag
)

// htmlState is what must be known to read on; comparable, so that the two
// branches of a condition can be held against each other.
type htmlState struct {
	place htmlPlace
	word  string // tag, attribute or address prefix being read
	elem  string // the element whose tag is open, or whose raw text it is
	attr  string // the attribute whose value is open
	end   bool   // the tag is an end tag
	query bool   // behind ? or # of an address
	moved bool   // something of the attribute's value has been read
}

var urlAttrs = map[string]bool{"href": true, "src": true, "action": true, "formaction": true, "poster": true, "cite": true, "srcset": true, "data": true, "background": true, "manifest": true, "ping": true, "xlink:href": true}

type analysis struct {
	src    []byte
	errors []Error
	open   bool
}

func (a *analysis) fail(at int, code, msg string) {
	a.errors = append(a.errors, Error{At: at, Code: code, Message: msg})
}

func (a *analysis) nodes(nodes []*Node, st htmlState) htmlState {
	for _, n := range nodes {
		st = a.node(n, st)
	}
	return st
}

func (a *analysis) node(n *Node, st htmlState) htmlState {
	switch n.Kind {
	case Literal:
		return st.read(a.src[n.Span.From:n.Span.To])
	case Escape:
		return st.read([]byte("@{"))
	case Value:
		n.Context = a.contextOf(n, st)
		return st.passed()
	case Call, Copy:
		n.Context = a.contextOf(n, st)
		if n.Context == InComment {
			a.fail(n.Span.From, "bad-place", "a call cannot stand in an HTML comment; write @{# … } to leave something out")
		}
		inner := st
		if n.Context == InText {
			inner = htmlState{}
		}
		if end := a.nodes(n.Body, inner); n.Context != InText && end.place != inner.place {
			a.fail(n.Span.From, "bad-place", "what this call encloses leaves the attribute that it stands in")
		}
		return st.passed()
	case Inner:
		return a.nodes(n.Body, st)
	case When:
		one := a.nodes(n.Body, st)
		other := a.nodes(n.Else, st)
		if one.comparable() != other.comparable() {
			a.fail(n.Span.From, "split-markup", "the branches of this condition end in different places of the HTML; let each hold whole tags and whole attributes")
		}
		return one
	case Each:
		end := a.nodes(n.Body, st)
		if end.comparable() != st.comparable() {
			a.fail(n.Span.From, "split-markup", "the body of this loop ends in another place of the HTML than it begins; let it hold whole tags and whole attributes")
		}
		return end
	case Region:
		if st.place != pText {
			a.fail(n.Span.From, "bad-place", "a region can only stand between tags")
		}
		a.nodes(n.Body, htmlState{})
	case Fill:
		a.open = a.nodes(n.Body, htmlState{}).place != pText || a.open
	case Assets:
		if st.place != pText {
			a.fail(n.Span.From, "bad-place", "@{assets /} can only stand between tags")
		}
	}
	return st
}

// comparable drops what may differ between branches without harm.
func (s htmlState) comparable() htmlState {
	if s.place == pText || s.place == pInTag || s.place == pAttrName || s.place == pAfterName {
		if s.place != pText {
			s.place = pInTag
		}
		s.word, s.attr, s.moved, s.query = "", "", false, false
		if s.place == pText {
			s.elem, s.end = "", false
		}
	}
	s.moved, s.word = false, ""
	return s
}

// passed is the state behind a value or call.
func (s htmlState) passed() htmlState {
	if s.place == pBeforeValue {
		s.place = pUnquoted
	}
	return s
}

func (a *analysis) contextOf(n *Node, st htmlState) Context {
	at := n.Span.From
	switch st.place {
	case pText:
		return InText
	case pComment:
		return InComment
	case pDouble, pSingle:
		switch {
		case strings.HasPrefix(st.attr, "on"):
			a.fail(at, "bad-place", "a value cannot stand in the script of "+st.attr+"; put it in a data- attribute and read it from there")
		case st.attr == "style":
			return InStyle
		case st.attr == "srcdoc":
			a.fail(at, "bad-place", "a value cannot stand in srcdoc")
		case urlAttrs[st.attr]:
			p := strings.ToLower(strings.TrimSpace(st.word))
			if strings.HasPrefix(p, "javascript:") || strings.HasPrefix(p, "data:") || strings.HasPrefix(p, "vbscript:") {
				a.fail(at, "bad-place", "a value cannot stand in a script or data address")
			}
			if !st.moved {
				return InURL
			}
			if st.query {
				return InURLQuery
			}
			return InURLPath
		}
		return InAttr
	case pRaw:
		a.fail(at, "bad-place", "a value cannot stand inside <"+st.elem+">; put it in a data- attribute and read it from there")
	case pUnquoted, pBeforeValue:
		a.fail(at, "bad-place", "put quotes around the attribute that holds this, so that it cannot break out")
	case pTagOpen, pTagName:
		a.fail(at, "bad-place", "a tag name cannot be put together from values")
	default:
		a.fail(at, "bad-place", "a value cannot stand inside a tag, only in a quoted attribute or between tags")
	}
	return InText
}

func isSpace(c byte) bool { return c == ' ' || c == '\n' || c == '\t' || c == '\r' || c == '\f' }

// read moves the state over literal bytes.
func (s htmlState) read(b []byte) htmlState {
	for i := 0; i < len(b); i++ {
		c := b[i]
		switch s.place {
		case pText:
			j := bytes.IndexByte(b[i:], '<')
			if j < 0 {
				return s
			}
			i += j
			s = htmlState{place: pTagOpen}
		case pTagOpen:
			s = s.tagOpen(c)
		case pTagName:
			s = s.tagName(c)
		case pInTag, pAttrName, pAfterName:
			s = s.inTag(c)
		case pBeforeValue:
			s = s.beforeValue(c)
		case pDouble, pSingle:
			s = s.quoted(c)
		case pUnquoted:
			if isSpace(c) {
				s.place, s.word = pInTag, ""
			} else if c == '>' {
				s = s.closeTag()
			}
		case pComment:
			if c == '>' && strings.HasSuffix(s.word, "--") {
				s = htmlState{}
			} else {
				s.word = lastTwo(s.word, c)
			}
		case pMarkupDecl:
			s.word += string(c)
			if s.word == "--" {
				s.place, s.word = pComment, ""
			} else if c == '>' {
				s = htmlState{}
			} else if len(s.word) > 2 {
				s.word = "xxx"
			}
		case pRaw:
			s = s.raw(c)
		}
	}
	return s
}

func lastTwo(w string, c byte) string {
	if c != '-' {
		return ""
	}
	if len(w) < 2 {
		return w + "-"
	}
	return w
}

func (s htmlState) tagOpen(c byte) htmlState {
	switch {
	case c == '/' && !s.end:
		s.end = true
	case c == '!' || c == '?':
		s.place = pMarkupDecl
	case c|0x20 >= 'a' && c|0x20 <= 'z':
		s.place, s.word = pTagName, string(c|0x20)
	case c == '<':
	default:
		s = htmlState{}
	}
	return s
}

func (s htmlState) tagName(c byte) htmlState {
	switch {
	case isSpace(c) || c == '/':
		s.place, s.elem, s.word = pInTag, s.word, ""
	case c == '>':
		s.elem = s.word
		return s.closeTag()
	default:
		if c >= 'A' && c <= 'Z' {
			c |= 0x20
		}
		s.word += string(c)
	}
	return s
}

func (s htmlState) inTag(c byte) htmlState {
	switch {
	case c == '>':
		return s.closeTag()
	case c == '=' && s.place != pInTag:
		s.attr, s.place = s.word, pBeforeValue
	case isSpace(c):
		if s.place == pAttrName {
			s.place = pAfterName
		}
	case c == '/':
		s.place, s.word = pInTag, ""
	default:
		if c >= 'A' && c <= 'Z' {
			c |= 0x20
		}
		if s.place == pAttrName {
			s.word += string(c)
		} else {
			s.place, s.word = pAttrName, string(c)
		}
	}
	return s
}

func (s htmlState) beforeValue(c byte) htmlState {
	s.word, s.query, s.moved = "", false, false
	switch {
	case isSpace(c):
	case c == '"':
		s.place = pDouble
	case c == '\'':
		s.place = pSingle
	case c == '>':
		return s.closeTag()
	default:
		s.place = pUnquoted
	}
	return s
}

func (s htmlState) quoted(c byte) htmlState {
	if c == '"' && s.place == pDouble || c == '\'' && s.place == pSingle {
		return htmlState{place: pInTag, elem: s.elem, end: s.end}
	}
	if !isSpace(c) {
		s.moved = true
	}
	if c == '?' || c == '#' {
		s.query = true
	}
	if len(s.word) < 16 {
		s.word += string(c)
	}
	return s
}

func (s htmlState) closeTag() htmlState {
	if !s.end && (s.elem == "script" || s.elem == "style" || s.elem == "xmp" || s.elem == "noscript") && s.elem != "noscript" {
		return htmlState{place: pRaw, elem: s.elem}
	}
	return htmlState{}
}

func (s htmlState) raw(c byte) htmlState {
	want := "</" + s.elem
	if c >= 'A' && c <= 'Z' {
		c |= 0x20
	}
	if len(s.word) < len(want) && want[len(s.word)] == c {
		s.word += string(c)
		return s
	}
	if s.word == want && (isSpace(c) || c == '>' || c == '/') {
		if c == '>' {
			return htmlState{}
		}
		return htmlState{place: pInTag, elem: s.elem, end: true}
	}
	s.word = ""
	if c == '<' {
		s.word = "<"
	}
	return s
}
