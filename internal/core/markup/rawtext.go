package markup

import "strings"

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
	*s = htmlState{place: pTagName, word: s.elem, end: true, foreign: s.foreign, noscript: s.noscript,
		raw: s.raw, from: s.from, inside: s.inside}
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
	return strings.HasPrefix("</script", w) || s.sub == sData && strings.HasPrefix("<!--", w) ||
		s.sub == sEscaped && strings.HasPrefix("<script", w)
}
