package markup

import (
	"html"
	"strings"
)

// urlAttrs are the attributes that hold an address, or several.
var urlAttrs = map[string]bool{
	"action": true, "archive": true, "background": true, "cite": true, "classid": true, "codebase": true,
	"data": true, "formaction": true, "href": true, "icon": true,
	"imagesrcset": true, "longdesc": true, "manifest": true, "ping": true, "poster": true, "profile": true,
	"src": true, "srcset": true, "usemap": true,
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

// several reports whether the attribute holds addresses parted by white space.
func (s *htmlState) several() bool {
	switch s.attr {
	case "srcset", "imagesrcset", "ping", "archive":
		return true
	}
	return false
}

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

// leaveValue goes back into the tag behind the value of an attribute.
func (s *htmlState) leaveValue() {
	s.place, s.word, s.attr, s.part, s.addr, s.dyn, s.call = pInTag, "", "", uBegin, false, false, false
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
	return i >= 0 && strings.Trim(s.word[i+1:],
		"#abcdefghijklmnopqrstuvwxyzABCDEFGHIJKLMNOPQRSTUVWXYZ0123456789") == ""
}
