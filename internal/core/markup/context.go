package markup

import (
	"strings"
	"sync"
)

// Context is the place in HTML where a value or call stands. It decides how
// its output is escaped.
type Context uint8

// The places where a value may stand.
const (
	InText     Context = iota // between tags
	InTitle                   // in the text of title or textarea, which holds no tags
	InAttr                    // in a quoted attribute
	InURL                     // at the beginning of an attribute that holds an address
	InURLOpen                 // further on, behind values and text that may yet become a scheme
	InURLRest                 // the same behind a call, of which nobody knows what it gives
	InURLPath                 // further on, behind a scheme or path
	InURLQuery                // behind its ? or #
	InURLs                    // in an attribute of an animation, which may set addresses, a list parted by ;
	InURLItems                // what a call gives in an attribute of addresses parted by white space
	InStyle                   // in a style attribute
	InComment                 // in an HTML comment
)

type contexts struct {
	once    sync.Once
	errors  []Error
	end     htmlState // behind the last byte
	open    bool      // an end stands elsewhere than between tags
	foreign bool      // something stands in svg, math or noscript
}

// Contexts sets the Context of every node, once, and returns the faults found:
// values and calls in places where no escaping makes them safe.
func (t *Text) Contexts() []Error {
	t.contexts.once.Do(func() {
		a := analysis{src: t.Src}
		t.contexts.end = a.nodes(t.Nodes, htmlState{})
		t.contexts.errors, t.contexts.foreign = a.errors, a.foreign
		t.contexts.open = a.open || t.contexts.end.place != pText
	})
	return t.contexts.errors
}

// Unended is the fault of a text that ends within what it began: a tag, an attribute, a
// comment or an element that holds no tags. It reports false where there is none.
func (t *Text) Unended() (Error, bool) {
	t.Contexts()
	s := t.contexts.end
	if s.place == pText {
		return Error{}, false
	}
	return Error{At: s.from, Code: "unended", Message: s.within() +
		" is not ended here, so that it would go on behind; end it where it began"}, true
}

// within names what a state stands in.
func (s htmlState) within() string {
	switch s.place {
	case pComment, pBogus, pDeclaration, pCDATA:
		return "a comment"
	case pTitle, pRaw, pScript, pPlain:
		return "<" + s.elem + ">"
	case pDouble, pSingle, pUnquoted, pBeforeValue:
		return "the attribute " + s.attr
	}
	return "a tag"
}

type analysis struct {
	src     []byte
	errors  []Error
	open    bool
	foreign bool
}

func (a *analysis) fail(at int, code, msg string) {
	a.errors = append(a.errors, Error{At: at, Code: code, Message: msg})
}

// literal reads bytes of the text as they stand, or what they stand for.
func (a *analysis) literal(st htmlState, b []byte, at int) htmlState {
	st = st.read(b, at)
	a.foreign = a.foreign || st.foreign != "" || st.noscript
	switch st.fault {
	case fSplit:
		a.fail(at, "split-markup",
			"this belongs to one branch of the condition before it and not to the other; put white space between them, or write it into the branches")
	case fScheme:
		a.fail(at, "bad-place",
			"this makes the scheme of an address of a value; write the whole address in the value, or begin it with / or https://")
	case fComment:
		a.fail(at, "bad-place",
			"where a value before this is empty, this ends the comment; write white space before and behind the value")
	case fRefreshing:
		a.fail(at, "bad-place",
			"a value cannot stand in a tag that sets what the browser does (http-equiv); write it out")
	}
	st.fault = noFault
	return st
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
		return a.literal(st, a.src[n.Span.From:n.Span.To], n.Span.From)
	case Escape:
		return a.literal(st, []byte("@{"), n.Span.From)
	case Value:
		n.Context, n.Inside = a.contextOf(n, st), st.inside
		if n.Context == InComment && n.Expr.inner() {
			a.fail(n.Span.From, "bad-place",
				"enclosed content cannot stand in an HTML comment; write @{# … } to leave something out")
		}
		return st.passed(n.Expr.inner())
	case Call, Copy, Inner:
		return a.enclosing(n, st)
	case When:
		one := a.nodes(n.Body, st)
		other := a.nodes(n.Else, st)
		joined, ok := join(one, other)
		if !ok {
			a.fail(n.Span.From, "split-markup",
				"the branches of this condition end in different places of the HTML; let each hold whole tags and whole attributes")
			return one
		}
		return joined
	case Each:
		return a.loop(n, st)
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

// enclosing looks at a call or copy and what it encloses, and at enclosed content.
func (a *analysis) enclosing(n *Node, st htmlState) htmlState {
	n.Context = a.contextOf(n, st)
	if n.Kind == Inner && n.Context == InText {
		return a.nodes(n.Body, st)
	}
	if n.Context == InComment {
		a.fail(n.Span.From, "bad-place",
			"a call cannot stand in an HTML comment; write @{# … } to leave something out")
	}
	if n.Kind == Copy && n.Context != InText {
		a.fail(n.Span.From, "bad-place", "a copy can only stand between tags")
	}
	begin := htmlState{}
	if n.Kind == Call && n.Context != InText {
		begin = st
	}
	if end := a.nodes(n.Body, begin); end.place != begin.place {
		if n.Context != InText {
			a.fail(n.Span.From, "bad-place", "what this call encloses leaves the attribute that it stands in")
		} else if n.Kind != Copy {
			a.fail(n.Span.From, "unended", end.within()+
				" that begins in what this call encloses is not ended there; end it before the call's own end")
		}
	}
	return st.passed(true)
}

// loop looks at a loop, whose body may stand behind itself.
func (a *analysis) loop(n *Node, st htmlState) htmlState {
	if st.addr && (st.place == pDouble || st.place == pSingle) && st.part == uBegin {
		st.part, st.dyn, st.word = uOpen, true, "" // as it is behind the first turn
	}
	end := a.nodes(n.Body, st)
	joined, ok := join(st, end)
	if ok && joined.place == pJoined && joined.bound && st.place != pTagName && !a.apart(n.Body) {
		ok = false
	}
	if !ok {
		a.fail(n.Span.From, "split-markup",
			"the body of this loop ends in another place of the HTML than it begins; let it hold whole tags and whole attributes, and begin with white space within a tag")
		return st
	}
	return joined
}

// apart reports whether what nodes begin with ends the name or value before it.
func (a *analysis) apart(nodes []*Node) bool {
	if len(nodes) == 0 || nodes[0].Kind != Literal {
		return false
	}
	c := a.src[nodes[0].Span.From]
	return isSpace(c) || c == '>'
}

// join is the state behind branches that end in two states; false where one can't read on
// from both alike.
func join(a, b htmlState) (htmlState, bool) {
	a.inside |= b.inside
	if a.same(b) {
		return a, true
	}
	if a.end != b.end || a.foreign != b.foreign || a.noscript != b.noscript || a.raw != b.raw {
		return a, false
	}
	out := a
	out.httpEquiv, out.content, out.colour = a.httpEquiv || b.httpEquiv, a.content || b.content, a.colour ||
		b.colour
	switch {
	case a.place.between() && b.place.between() && a.element() == b.element():
		free := func(s htmlState) bool {
			return s.place == pInTag || s.place == pAfterName || s.place == pSlash ||
				s.place == pJoined && !s.bound
		}
		if a.place == b.place && a.word == b.word {
			return out, true
		}
		out.leaveValue()
		out.place, out.elem = pJoined, a.element()
		out.bound = !free(a) || !free(b)
		out.unquoted = a.place == pUnquoted || b.place == pUnquoted || a.unquoted || b.unquoted
		return out, true
	case a.place != b.place || a.sub != b.sub || a.elem != b.elem || a.attr != b.attr:
		return a, false
	case a.place == pDouble || a.place == pSingle:
		out.word, out.dyn, out.call = "", a.dyn || b.dyn, a.call || b.call
		switch {
		case a.part == uBad || b.part == uBad:
			out.part = uBad
		case a.part <= uOpen || b.part <= uOpen:
			out.part, out.dyn = uOpen, true
		default:
			out.part = max(a.part, b.part)
		}
		return out, true
	}
	return a, a.word == b.word
}

// between reports whether a place is within a tag and not in a quoted value.
func (p htmlPlace) between() bool {
	switch p {
	case pTagName, pInTag, pSlash, pAttrName, pAfterName, pJoined, pUnquoted:
		return true
	}
	return false
}

// element is the name of the tag that is open.
func (s htmlState) element() string {
	if s.place == pTagName {
		return s.word
	}
	return s.elem
}

// passed is the state behind a value, or behind what is shown in a place by more than its
// own words: a call or enclosed content.
func (s htmlState) passed(call bool) htmlState {
	switch s.place {
	case pBeforeValue:
		s.place = pUnquoted
	case pDouble, pSingle:
		if s.addr && (s.part <= uOpen || call && s.several() && s.part != uBad) {
			s.part, s.dyn, s.word = uOpen, true, "" // what a call gives may begin another address
			s.call = s.call || call
		}
		s.content = s.content || s.elem == "meta" && s.attr == "content"
	case pComment:
		if s.sub == cStart {
			s.sub = cMaybe
		}
	}
	return s
}

func (a *analysis) contextOf(n *Node, st htmlState) Context {
	at := n.Span.From
	if st.noscript && st.raw > 0 || st.place == pTitle && st.word != "" {
		a.fail(at, "bad-place",
			"what stands before this may begin an end tag, which this could complete; write &lt; for <, or something between them")
	}
	switch st.place {
	case pText:
		if top := strings.TrimSuffix(st.foreign, ","); strings.HasSuffix(top, "script") ||
			strings.HasSuffix(top, "style") {
			a.fail(at, "bad-place", inScript(last(st.foreign)))
		}
		return InText
	case pTitle:
		return InTitle
	case pComment, pBogus, pDeclaration, pCDATA:
		if st.place != pComment || st.sub != cBody && st.sub != cStart && st.sub != cMaybe {
			a.fail(at, "bad-place",
				"a value cannot stand in a declaration, or where a comment may end; write @{# … } to leave something out")
		}
		return InComment
	case pDouble, pSingle:
		return a.inValue(n, st)
	case pRaw, pScript, pPlain:
		a.fail(at, "bad-place", inScript(st.elem))
	case pUnquoted, pBeforeValue:
		a.fail(at, "bad-place",
			"put quotes around the attribute that holds this, so that it cannot break out")
	case pTagOpen, pEndOpen, pTagName:
		a.fail(at, "bad-place", "a tag name cannot be put together from values")
	default:
		a.fail(at, "bad-place",
			"a value cannot stand inside a tag, only in a quoted attribute or between tags")
	}
	return InText
}

func inScript(elem string) string {
	return "a value cannot stand inside <" + elem + ">; put it in a data- attribute and read it from there"
}

// inValue is the context in a quoted attribute.
func (a *analysis) inValue(n *Node, st htmlState) Context {
	at := n.Span.From
	switch {
	case strings.HasPrefix(st.attr, "on"):
		a.fail(at, "bad-place", "a value cannot stand in the script of "+st.attr+
			"; put it in a data- attribute and read it from there")
	case st.attr == "style":
		return InStyle
	case st.attr == "srcdoc":
		a.fail(at, "bad-place", "a value cannot stand in srcdoc")
	case st.attr == "http-equiv" || st.attr == "content" && st.httpEquiv ||
		animating[st.elem] && st.attr == "attributename":
		a.fail(at, "bad-place", "a value cannot stand in "+st.attr+" of <"+st.elem+
			">, where it would decide what the browser does; write it out")
	case !st.addr:
	case st.part == uBad:
		a.fail(at, "bad-place", "a value cannot stand in a script or data address")
	case st.part <= uOpen && st.inReference():
		a.fail(at, "bad-place", "this could go on with the character reference before it; end that with a ;")
	case st.several() && (n.Kind != Value || n.Expr.inner()):
		return InURLItems
	case st.part == uPath && !st.animates():
		return InURLPath
	case st.part >= uPath:
		return InURLQuery
	case st.animates():
		if st.part == uOpen {
			a.fail(at, "bad-place", "a value in "+st.attr+" of <"+st.elem+
				"> has to be a whole entry, since it may be an address")
		}
		return InURLs
	case st.part == uBegin:
		return InURL
	case st.call || st.several() || n.Kind != Value || n.Expr.inner():
		return InURLRest
	default:
		return InURLOpen
	}
	return InAttr
}

// inner reports whether an expression may give the enclosed content.
func (e *Expr) inner() bool {
	for i := range e.Terms {
		if len(e.Terms[i].Path) == 1 && e.Terms[i].Path[0] == "inner" {
			return true
		}
	}
	return false
}
