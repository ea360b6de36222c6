package confine

import (
	"bytes"
	"slices"
	"sort"

	"golang.org/x/net/html"
	"golang.org/x/net/html/atom"
)

// Stretch is a placement in the bytes of a page: what stands between From and To gets the
// attribute Name with a value.
type Stretch struct {
	From, To    int
	Name, Value string
}

// Insertion is a text that is put into a page at a byte.
type Insertion struct {
	At   int
	Text string
}

// Marks are the attributes that mark the outermost elements of some stretches of a page, in the
// order in which they stand there. Where an element is the outermost of several with one name,
// as where a placement shows nothing but another, it gets the value of the one that comes last.
func Marks(page []byte, list []Stretch) []Insertion {
	type spot struct {
		at   int
		name string
	}
	values := map[spot]string{}
	for _, s := range list {
		for _, at := range outermost(page[s.From:s.To]) {
			values[spot{s.From + at, s.Name}] = s.Value
		}
	}
	var spots []spot
	for k := range values {
		spots = append(spots, k)
	}
	sort.Slice(spots, func(i, j int) bool {
		return spots[i].at < spots[j].at || spots[i].at == spots[j].at && spots[i].name < spots[j].name
	})
	out := make([]Insertion, len(spots))
	for i, k := range spots {
		out[i] = Insertion{k.at, " " + k.name + `="` + values[k] + `"`}
	}
	return out
}

// Insert puts texts into a page. moved tells where a byte of the page stands then; what begins
// at a byte stands behind what is put there.
func Insert(page []byte, list []Insertion) (out []byte, moved func(at int) int) {
	at := 0
	for _, in := range list {
		out = append(out, page[at:in.At]...)
		out = append(out, in.Text...)
		at = in.At
	}
	out = append(out, page[at:]...)
	return out, func(at int) int {
		by := 0
		for _, in := range list {
			if in.At > at {
				break
			}
			by += len(in.Text)
		}
		return at + by
	}
}

// First finds in a stretch of HTML the place behind the name of the first element that shows
// something; -1 where there is none.
func First(text []byte) int {
	z := html.NewTokenizer(bytes.NewReader(text))
	at := 0
	for {
		kind := z.Next()
		raw := len(z.Raw())
		if kind == html.ErrorToken {
			return -1
		}
		if kind == html.StartTagToken || kind == html.SelfClosingTagToken {
			if name, _ := z.TagName(); !unseen[atom.Lookup(name)] {
				return at + len("<") + len(name)
			}
		}
		at += raw
	}
}

// unseen are the elements that show nothing.
var unseen = map[atom.Atom]bool{atom.Script: true, atom.Style: true, atom.Link: true, atom.Meta: true,
	atom.Template: true, atom.Title: true, atom.Base: true, atom.Noscript: true}

// outermost finds in a stretch of HTML the places behind the names of the elements that stand in
// no other of the stretch. Ends that may be left out are seen to.
func outermost(text []byte) []int {
	var out []int
	var open []atom.Atom
	var names []string
	z := html.NewTokenizer(bytes.NewReader(text))
	at := 0
	for {
		kind := z.Next()
		raw := len(z.Raw())
		if kind == html.ErrorToken {
			return out
		}
		name, _ := z.TagName()
		tag, written := atom.Lookup(name), string(name)
		switch kind {
		case html.StartTagToken, html.SelfClosingTagToken:
			for len(open) > 0 && implied(open[len(open)-1], tag) {
				open, names = open[:len(open)-1], names[:len(names)-1]
			}
			if len(open) == 0 {
				out = append(out, at+len("<")+len(written))
			}
			if kind == html.StartTagToken && !void[tag] {
				open, names = append(open, tag), append(names, written)
			}
		case html.EndTagToken:
			for i := len(names) - 1; i >= 0; i-- {
				if names[i] == written {
					open, names = open[:i], names[:i]
					break
				}
			}
		}
		at += raw
	}
}

var void = map[atom.Atom]bool{atom.Area: true, atom.Base: true, atom.Br: true, atom.Col: true,
	atom.Embed: true,
	atom.Hr:    true, atom.Img: true, atom.Input: true, atom.Link: true, atom.Meta: true, atom.Param: true,
	atom.Source: true, atom.Track: true, atom.Wbr: true}

// ends are the elements that another one beginning ends, where their own end is left out.
var ends = map[atom.Atom][]atom.Atom{
	atom.Li: {atom.Li}, atom.Dt: {atom.Dt, atom.Dd}, atom.Dd: {atom.Dt, atom.Dd},
	atom.Tr: {atom.Tr, atom.Td, atom.Th}, atom.Td: {atom.Td, atom.Th}, atom.Th: {atom.Td, atom.Th},
	atom.Tbody: {atom.Tbody, atom.Thead, atom.Tr, atom.Td, atom.Th}, atom.Tfoot: {atom.Tbody, atom.Thead,
		atom.Tr,
		atom.Td, atom.Th},
	atom.Option: {atom.Option}, atom.Optgroup: {atom.Option, atom.Optgroup},
}

// ending are the elements that end a paragraph.
var ending = []atom.Atom{atom.Address, atom.Article, atom.Aside, atom.Blockquote, atom.Details, atom.Dialog,
	atom.Div,
	atom.Dl, atom.Fieldset, atom.Figcaption, atom.Figure, atom.Footer, atom.Form, atom.H1, atom.H2, atom.H3,
	atom.H4,
	atom.H5, atom.H6, atom.Header, atom.Hgroup, atom.Hr, atom.Main, atom.Menu, atom.Nav, atom.Ol, atom.P,
	atom.Pre,
	atom.Section, atom.Table, atom.Ul}

func implied(open, tag atom.Atom) bool {
	if open == atom.P {
		return slices.Contains(ending, tag)
	}
	return slices.Contains(ends[tag], open)
}
