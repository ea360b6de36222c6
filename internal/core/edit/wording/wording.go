package wording

import (
	"bytes"
	"cmp"
	"context"
	"encoding/json"
	"fmt"
	"slices"
	"strings"
	"unicode/utf8"

	"brickshelf/internal/core/edit"
	"brickshelf/internal/core/markup"
	"brickshelf/internal/core/patch"
	"brickshelf/internal/core/shelf"
	"brickshelf/internal/core/site"
)

// Spot is one place where a site says what is looked for.
type Spot struct {
	Path string
	N    int // its number in the document, from 0: with the path, its name
	Kind Kind
	// Of is the name of the attribute, the call and its argument, or the keys that lead to a
	// value; "" of a text.
	Of           string
	Line, Column int // where what says it begins, in the document
	// What is found with what stands around it, as it is read, and what would stand there.
	Before, Match, After, With string
}

// Name tells a spot from others of its site.
type Name struct {
	Path string
	N    int
}

// around is how many bytes before and behind a finding are told, at most.
const around = 60

// Find lists the spots in documents, in the order of their paths, with what would stand there.
// The error is a site.Refusal where the query cannot be read, else that of the context.
func Find(ctx context.Context, s *shelf.Shelf, q Query, with string) ([]Spot, error) {
	m, err := compile(q)
	if err != nil {
		return nil, err
	}
	var out []Spot
	for _, d := range m.documents(ctx, s, with) {
		out = append(out, d.spots()...)
	}
	return out, ctx.Err()
}

// Seen names a list of spots: another list has another name.
func Seen(list []Spot) site.Hash {
	b, _ := json.Marshal(list) // which cannot fail: these are texts and numbers
	return site.HashOf(b)
}

// Replace puts other words into all spots but some. The error is a site.Refusal where a value
// is written in a way that cannot be edited so, where no spot is left, and where the site has
// other spots by now than were seen, if they were.
func Replace(s *shelf.Shelf, q Query, with string, without []Name, seen site.Hash) (site.ChangeSet, error) {
	set := site.ChangeSet{Title: fmt.Sprintf("Replace %s by %s", short(q.Text), short(with))}
	m, err := compile(q)
	if err != nil {
		return set, err
	}
	docs := m.documents(context.Background(), s, with)
	if seen != "" {
		var list []Spot
		for _, d := range docs {
			list = append(list, d.spots()...)
		}
		if Seen(list) != seen {
			return set, site.Refuse("the site says it elsewhere by now than it did; look at the list again")
		}
	}
	left := map[Name]bool{}
	for _, n := range without {
		left[n] = true
	}
	d, n := edit.Texts{Shelf: s}, 0
	for _, doc := range docs {
		src, replaced, err := doc.replaced(left)
		if err != nil {
			return set, err
		}
		if n += replaced; replaced > 0 {
			d.Put(doc.path, src)
		}
	}
	if n == 0 {
		return set, site.Refuse("nothing is chosen to be replaced")
	}
	set.Changes = d.Changes()
	return set, nil
}

// short is a text of a title.
func short(s string) string {
	s = strings.Join(strings.Fields(s), " ")
	if utf8.RuneCountInString(s) > 30 {
		s = string([]rune(s)[:29]) + "…"
	}
	return "“" + s + "”"
}

// document is one that says what is looked for.
type document struct {
	path   string
	src    []byte // in UTF-8
	stored []byte // as the site has it, where that is another encoding; else nil
	texts  []said
}

// said is a text of a document with what was found in it.
type said struct {
	src    []byte // what the offsets of the stretches count in
	at     int    // where it begins in the document; -1 of a value in YAML
	scalar int    // the value's number
	found  []finding

	line, column int    // of a value
	keys         string // and the keys that lead there
}

type finding struct {
	stretch stretch
	list    []found
}

// documents lists those that say what is looked for, until the context ends.
func (m *matcher) documents(ctx context.Context, s *shelf.Shelf, with string) []document {
	paths := s.Paths("")
	all := make([]document, len(paths))
	shelf.Parallel(len(paths), func(i int) {
		class, _, _ := site.Classify(paths[i])
		if ctx.Err() != nil || class == site.HistoryDoc ||
			len(m.query.In) > 0 && !slices.Contains(m.query.In, class) {
			return
		}
		src, _ := s.Get(paths[i])
		var stored []byte
		if !utf8.Valid(src) {
			if in := s.Info(paths[i]); in == nil || in.Page.Layout != "" {
				return // it is no page of its own encoding
			}
			stored, src = src, site.Readable(src)
		}
		if !m.can(src) || bytes.IndexByte(src, 0) >= 0 || !utf8.Valid(src) {
			return
		}
		texts := written(src)
		if !m.query.Written {
			var known *markup.Text
			if stored == nil {
				known = textOf(s, class, paths[i])
			}
			texts = read(class, paths[i], src, known)
		}
		d := document{path: paths[i], src: src, stored: stored}
		for _, t := range texts {
			t.found = slices.DeleteFunc(t.found, func(f finding) bool { return f.stretch.text == "" })
			for j := range t.found {
				f := &t.found[j]
				f.list = slices.DeleteFunc(m.find(f.stretch.text, with), func(at found) bool {
					return !f.stretch.cuts(at)
				})
			}
			t.found = slices.DeleteFunc(t.found, func(f finding) bool { return len(f.list) == 0 })
			if len(t.found) > 0 {
				d.texts = append(d.texts, t)
			}
		}
		all[i] = d
	})
	return slices.DeleteFunc(all, func(d document) bool { return len(d.texts) == 0 })
}

// written is a document as it is written.
func written(src []byte) []said {
	return []said{{src: src, found: []finding{{stretch: stretch{kind: Written, text: string(src),
		to: len(src), put: func(src []byte, s *stretch, list []found) []patch.Replacement {
			return each(src, s, list, func(with string, _ byte) string { return with })
		}}}}}}
}

// read is what a document says to those who read it. text is its text where that is known.
func read(class site.Class, path string, src []byte, text *markup.Text) []said {
	var out []said
	head, line := src, 1
	switch class {
	case site.PageDoc, site.LayoutDoc, site.BlockDoc:
		split, bad := site.Cut(src)
		if bad != "" {
			return nil
		}
		head, line = split.Head, split.HeadLine
		if text == nil {
			text = markup.Parse(split.Text)
		}
		out = append(out, said{src: split.Text, at: split.TextAt, found: saidBy(stretchesOf(text))})
	case site.RuleDoc, site.MenuDoc, site.ConfigDoc:
	default:
		return nil
	}
	y, problem := site.ParseYAML(head, path, 1)
	if problem != nil {
		return out
	}
	for i, v := range patch.ScalarsOf(y) {
		if ofStructure(class, v.Keys) {
			continue
		}
		value := said{src: []byte(v.Text), at: -1, scalar: i, line: v.Line + line - 1, column: v.Column,
			keys: strings.Join(v.Keys, " › ")}
		if isMarkup(class, v.Keys) {
			value.found = saidBy(stretchesOf(markup.Parse(value.src)))
		} else {
			value.found = saidBy([]stretch{{kind: Value, text: v.Text, to: len(v.Text), put: putPlain}})
		}
		out = append(out, value)
	}
	// In the order in which they stand: values of the front matter before the text.
	slices.SortStableFunc(out, func(a, b said) int { return cmp.Compare(min(a.at, 0), min(b.at, 0)) })
	return out
}

// textOf is a document's text as the site holds it; nil where it holds none.
func textOf(s *shelf.Shelf, class site.Class, path string) *markup.Text {
	_, name, _ := site.Classify(path)
	switch class {
	case site.PageDoc:
		if in := s.Info(path); in != nil {
			return in.Page.Text
		}
	case site.BlockDoc:
		if b := s.Block(name); b != nil {
			return b.Text
		}
	case site.LayoutDoc:
		if l := s.Layout(name); l != nil {
			return l.Text
		}
	}
	return nil
}

func putPlain(_ []byte, s *stretch, list []found) []patch.Replacement {
	out := make([]patch.Replacement, len(list))
	for i, f := range list {
		out[i] = patch.Put(s.from+f.from, s.from+f.to, f.with)
	}
	return out
}

func saidBy(list []stretch) []finding {
	slices.SortStableFunc(list, func(a, b stretch) int { return cmp.Compare(a.from, b.from) })
	out := make([]finding, len(list))
	for i := range list {
		out[i].stretch = list[i]
	}
	return out
}

// ofStructure reports whether a value names something of the site, or says how it is built,
// rather than what is read.
func ofStructure(class site.Class, keys []string) bool {
	last := keys[len(keys)-1]
	switch class {
	case site.PageDoc:
		return keys[0] == "layout" || keys[0] == "copies" && !slices.Contains([]string{"text", "values"}, keys[min(2,
			len(keys)-1)])
	case site.RuleDoc:
		return !slices.Contains([]string{"title", "set", "note"}, keys[0])
	case site.BlockDoc:
		return !slices.Contains([]string{"title", "category", "about", "sample", "fields"}, keys[0]) ||
			keys[0] == "fields" && slices.Contains([]string{"type", "from"}, last)
	case site.LayoutDoc:
		return keys[0] == "regions" || keys[0] == "page_fields" && last == "type"
	case site.MenuDoc:
		return slices.Contains([]string{"audience", "from", "until", "key"}, last)
	case site.ConfigDoc:
		return keys[0] == "format" || keys[0] == "sets_off" || keys[0] == "fields" && last == "type"
	}
	return false
}

// isMarkup reports whether a value is a text of the language.
func isMarkup(class site.Class, keys []string) bool {
	last := keys[len(keys)-1]
	return class == site.PageDoc && keys[0] == "copies" && last == "text" && len(keys) == 3 ||
		class == site.BlockDoc && keys[0] == "sample" ||
		class == site.LayoutDoc && keys[0] == "starts_with" ||
		class == site.MenuDoc && last == "panel"
}

// spots tells of everything that was found in a document.
func (d *document) spots() []Spot {
	var out []Spot
	var cursor markup.Cursor
	for _, t := range d.texts {
		for _, f := range t.found {
			for _, at := range f.list {
				text := f.stretch.text
				s := Spot{Path: d.path, N: len(out), Kind: f.stretch.kind, Of: f.stretch.of,
					Line: t.line, Column: t.column, Match: text[at.from:at.to], With: at.with,
					Before: tail(text[:at.from]), After: head(text[at.to:])}
				if t.at >= 0 {
					place := f.stretch.from
					if f.stretch.kind != Value {
						place, _ = f.stretch.place(at.from)
					}
					s.Line, s.Column = cursor.Position(d.src, t.at+place)
				} else if s.Of = t.keys; f.stretch.of != "" {
					s.Of += " › " + f.stretch.of
				}
				out = append(out, s)
			}
		}
	}
	return out
}

// tail is the end of a text, and head its beginning, of whole characters.
func tail(s string) string {
	at := max(0, len(s)-around)
	for at < len(s) && !utf8.RuneStart(s[at]) {
		at++
	}
	return s[at:]
}

func head(s string) string {
	at := min(len(s), around)
	for at < len(s) && !utf8.RuneStart(s[at]) {
		at--
	}
	return s[:at]
}

// replaced is the document with other words in all its spots but some, and how many those are.
func (d *document) replaced(without map[Name]bool) ([]byte, int, error) {
	var inText []patch.Replacement
	values, n, done := map[int]string{}, 0, 0
	for _, t := range d.texts {
		var edits []patch.Replacement
		for _, f := range t.found {
			var chosen []found
			for _, at := range f.list {
				if !without[Name{d.path, n}] {
					chosen = append(chosen, at)
				}
				n++
			}
			if done += len(chosen); len(chosen) > 0 {
				edits = append(edits, f.stretch.put(t.src, &f.stretch, chosen)...)
			}
		}
		// Quotes around a value that is several stretches are asked for by each of them.
		slices.SortStableFunc(edits, func(a, b patch.Replacement) int {
			return cmp.Or(cmp.Compare(a.From, b.From), cmp.Compare(a.To, b.To))
		})
		edits = slices.Compact(edits)
		switch {
		case len(edits) == 0:
		case t.at >= 0:
			inText = append(inText, patch.Shift(edits, t.at)...)
		default:
			values[t.scalar] = string(patch.Apply(t.src, edits))
		}
	}
	src := patch.Apply(d.src, inText)
	if len(values) > 0 {
		var err error
		if src, err = patch.SetScalars(d.path, src, values); err != nil {
			return nil, 0, site.Refuse("%s: %v", d.path, err)
		}
	}
	src, err := d.encoded(src)
	return src, done, err
}

// encoded is a text of the document as the site has it: in the encoding of the page. The error is a
// site.Refusal where that lacks a character.
func (d *document) encoded(src []byte) ([]byte, error) {
	if d.stored == nil {
		return src, nil
	}
	out, lacks := site.Written(src, d.stored)
	if lacks >= 0 {
		r, _ := utf8.DecodeRune(src[lacks:])
		return nil, site.Refuse("%s is in another encoding than UTF-8, which has no %q: leave its spots out, or put "+
			"something else there", d.path, r)
	}
	return out, nil
}
