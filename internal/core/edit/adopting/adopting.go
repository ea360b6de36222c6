// Package adopting makes blocks of what is repeated on pages: each of its places becomes a call with the
// values that stand there, and no byte of any page changes.
package adopting

import (
	"bytes"
	"fmt"
	"slices"
	"strings"
	"unicode/utf8"

	"brickshelf/internal/core/edit"
	"brickshelf/internal/core/markup"
	"brickshelf/internal/core/patch"
	"brickshelf/internal/core/render"
	"brickshelf/internal/core/repeat"
	"brickshelf/internal/core/shelf"
	"brickshelf/internal/core/site"
)

// Pages are the pages of a site as package repeat looks through them, in the order of their paths.
func Pages(s *shelf.Shelf) []repeat.Page {
	paths := s.Paths("pages/")
	out := make([]repeat.Page, 0, len(paths))
	for _, path := range paths {
		in := s.Info(path)
		if in == nil || !in.Listed {
			continue
		}
		g := in.Page
		one := repeat.Page{Path: path, Text: g.Text.Src, At: g.Split.TextAt, Title: g.Title,
			Up: site.UpOf(g.URL), Hard: tagsOf(g.Text)}
		if g.Layout == "" && !utf8.Valid(one.Text) {
			read(&one)
		}
		out = append(out, one)
	}
	return out
}

// read has a page in another encoding read in UTF-8, where it can be.
func read(p *repeat.Page) {
	enc := site.ForeignEncoding(p.Text)
	if enc == nil {
		return
	}
	raw := p.Text
	p.Text = site.Readable(raw)
	p.Encoded = func(text []byte) []byte {
		out, err := enc.NewEncoder().Bytes(text)
		if err != nil {
			return text // which it has from there, and so cannot be
		}
		return out
	}
	for i := range p.Hard {
		h := &p.Hard[i]
		h.From, h.To = len(site.Decoded(enc, raw[:h.From])), len(site.Decoded(enc, raw[:h.To]))
	}
}

// tagsOf are the tags of the shelf language in a text, in their order.
func tagsOf(t *markup.Text) []repeat.Span {
	var out []repeat.Span
	add := func(s markup.Span) {
		if s.Len() > 0 {
			out = append(out, repeat.Span{From: s.From, To: s.To})
		}
	}
	var walk func(nodes []*markup.Node)
	walk = func(nodes []*markup.Node) {
		for _, n := range nodes {
			if n.Kind == markup.Literal || n.Kind == markup.Escape {
				continue
			}
			add(n.Head)
			walk(n.Body)
			add(n.ElseTag)
			walk(n.Else)
			add(n.Tail)
		}
	}
	walk(t.Nodes)
	return out
}

// Wanted is a piece that is to become a block.
type Wanted struct {
	Piece *repeat.Piece
	Name  string // of the block; "" for one made of the title
	Title string // "" for that of the piece
	// Leave are pages that keep their own markup.
	Leave map[string]bool
	// Rename are other names of fields, by those that were found. Fields of one name become one, where they
	// say the same.
	Rename map[string]string
	// Types are other types of fields, by the names that were found.
	Types map[string]repeat.FieldType
	// Drop are fields, by the names that were found, in whose place what most say stands.
	Drop []string
}

// Made is a block that came of a piece.
type Made struct {
	Name   string
	Title  string
	Places int
	// Left are places that keep their own markup: a value does not fit there, another block took them, or
	// the page was left out.
	Left []repeat.Place
}

// adoption is what is done to a site and its pages.
type adoption struct {
	shelf *shelf.Shelf
	pages []repeat.Page
	leave map[string]bool // pages that keep their own markup
	cuts  map[int][]cut   // by page
	names map[string]bool
}

// cut is a stretch of a document that a call takes the place of.
type cut struct {
	from, to int
	call     string
}

// Adopt makes blocks of pieces of pages, those that were looked through. Where two pieces overlap the first
// one takes the place; a page that would not come out as it was keeps its own markup. The error is a
// site.Refusal where a page has changed since, or nothing is left of which a block could be made.
func Adopt(s *shelf.Shelf, pages []repeat.Page, wanted []Wanted) (site.ChangeSet, []Made, error) {
	leave := map[string]bool{}
	wanted = slices.Clone(wanted)
	for i := range wanted {
		p, err := decided(wanted[i])
		if err != nil {
			return site.ChangeSet{}, nil, err
		}
		wanted[i].Piece = p
	}
	for {
		a := &adoption{shelf: s, pages: pages, leave: leave, cuts: map[int][]cut{}, names: map[string]bool{}}
		set, made, err := a.changes(wanted)
		if err != nil {
			return site.ChangeSet{}, nil, err
		}
		differ := differing(s, set.Changes)
		if len(differ) == 0 {
			return set, made, nil
		}
		for _, path := range differ {
			if leave[path] {
				return site.ChangeSet{}, nil, site.Refuse("%s would change by it, though nothing of it is taken", path)
			}
			leave[path] = true
		}
	}
}

// differing are the pages that would not be what they were.
func differing(s *shelf.Shelf, changes []site.Change) []string {
	o := s.With(changes)
	reached := o.Reached()
	same := make([]bool, len(reached))
	shelf.Parallel(len(reached), func(i int) {
		before, after := s.Info(reached[i].Path), reached[i].After
		if before == nil || after == nil {
			return
		}
		same[i] = true
		for _, seen := range []string{shelf.SignedOut, shelf.SignedIn} {
			same[i] = same[i] && bytes.Equal(render.AppendPage(s, nil, before.Seen(seen)),
				render.AppendPage(o, nil, after.Seen(seen)))
		}
	})
	var out []string
	for i, r := range reached {
		if !same[i] {
			out = append(out, r.Path)
		}
	}
	return out
}

// changes are the documents that change: a block for each piece, and the pages that call it.
func (a *adoption) changes(wanted []Wanted) (site.ChangeSet, []Made, error) {
	texts := edit.Texts{Shelf: a.shelf}
	var made []Made
	var blockTexts [][]byte
	for _, w := range wanted {
		m, text, err := a.block(w)
		if err != nil {
			return site.ChangeSet{}, nil, err
		}
		made, blockTexts = append(made, m), append(blockTexts, text)
	}
	nest(wanted, made, blockTexts)
	blocks := 0
	for i, m := range made {
		if m.Places > 0 {
			texts.Put("blocks/"+m.Name+".html", blockTexts[i])
			blocks++
		}
	}
	if blocks == 0 {
		return site.ChangeSet{}, nil, site.Refuse("no place is left of which a block could be made")
	}
	for _, page := range sortedPages(a.cuts) {
		text, err := a.cutOut(page)
		if err != nil {
			return site.ChangeSet{}, nil, err
		}
		texts.Put(a.pages[page].Path, text)
	}
	set := site.ChangeSet{Title: fmt.Sprintf("Made %d blocks of repeated pieces", blocks), Changes: texts.Changes()}
	if blocks == 1 {
		set.Title = "Made a block of " + made[slices.IndexFunc(made, func(m Made) bool { return m.Places > 0 })].Title
	}
	return set, made, nil
}

// nest has blocks call those that lie whole within them and are the same everywhere.
func nest(wanted []Wanted, made []Made, texts [][]byte) {
	for inner, w := range wanted {
		if len(w.Piece.Fields) > 0 {
			continue
		}
		markup, call := w.Piece.Markup(), []byte("@{"+made[inner].Name+" /}")
		for outer := range wanted {
			if outer == inner || made[outer].Places == 0 || len(wanted[outer].Piece.Markup()) <= len(markup) {
				continue
			}
			if n := bytes.Count(texts[outer], markup); n > 0 {
				texts[outer] = bytes.ReplaceAll(texts[outer], markup, call)
				made[inner].Places += n
				made[inner].Left = slices.DeleteFunc(made[inner].Left, func(at repeat.Place) bool {
					return slices.ContainsFunc(wanted[outer].Piece.Places, func(o repeat.Place) bool {
						return o.Page == at.Page && o.From <= at.From && at.To <= o.To
					})
				})
			}
		}
	}
}

// block is the document of a block made of a piece; its places become calls.
func (a *adoption) block(w Wanted) (Made, []byte, error) {
	p := w.Piece
	m := Made{Name: w.Name, Title: w.Title}
	if m.Title = strings.TrimSpace(m.Title); m.Title == "" {
		m.Title = p.Title
	}
	if m.Name == "" {
		m.Name = a.freeName(m.Title)
	} else if err := edit.FreeBlock(a.shelf, m.Name); err != nil {
		return m, nil, err
	} else if a.names[m.Name] {
		return m, nil, site.Refuse("two blocks would be called %s; choose another name for one", m.Name)
	}
	a.names[m.Name] = true
	bad := make([]bool, len(p.Places))
	var head strings.Builder
	fields := make([]field, len(p.Fields))
	for i := range p.Fields {
		fields[i] = a.fieldOf(p, &p.Fields[i], bad)
		head.WriteString(fields[i].declared)
	}
	for i, at := range p.Places {
		if bad[i] || a.declares(at) || w.Leave[at.Path] || a.leave[at.Path] || a.taken(at) {
			m.Left = append(m.Left, at)
			continue
		}
		call := "@{" + m.Name
		for _, f := range fields {
			call += f.args[i]
		}
		a.cuts[at.Page] = append(a.cuts[at.Page], cut{at.From, at.To, call + " /}"})
		m.Places++
	}
	m.Left = append(m.Left, p.Odd...)
	text := "---\ntitle: " + site.PlainYAML(m.Title) + "\n"
	if head.Len() > 0 {
		text += "fields:\n" + head.String()
	}
	return m, append([]byte(text+"---\n"), p.Markup()...), nil
}

// declares reports whether a place says which encoding its page is in, or what it is called, where the
// encoding has to be known to read it.
func (a *adoption) declares(at repeat.Place) bool {
	pg := a.pages[at.Page]
	src, _ := a.shelf.Get(pg.Path)
	if pg.Encoded == nil {
		return false
	}
	says := bytes.ToLower(src[at.From:at.To])
	return bytes.Contains(says, []byte("charset")) || bytes.Contains(says, []byte("<title"))
}

// taken reports whether another piece has a place, or a part of it.
func (a *adoption) taken(at repeat.Place) bool {
	return slices.ContainsFunc(a.cuts[at.Page], func(c cut) bool { return at.From < c.to && c.from < at.To })
}

// cutOut is a page's document with calls in the places of pieces. A page whose title element goes into a
// block says in its front matter what it is called.
func (a *adoption) cutOut(page int) ([]byte, error) {
	pg := a.pages[page]
	src, ok := a.shelf.Get(pg.Path)
	text := pg.Text
	if pg.Encoded != nil {
		text = pg.Encoded(text)
	}
	if !ok || !bytes.Equal(src[min(pg.At, len(src)):], text) {
		return nil, site.Refuse("%s has changed since it was looked at; look for repeated pieces anew", pg.Path)
	}
	cuts := slices.Clone(a.cuts[page])
	slices.SortFunc(cuts, func(x, y cut) int { return x.from - y.from })
	var out []byte
	at, titled := 0, false
	for _, c := range cuts {
		titled = titled || bytes.Contains(bytes.ToLower(src[c.from:c.to]), []byte("<title"))
		call := c.call
		if pg.Encoded != nil {
			call = encodedCall(call, pg.Encoded)
		}
		out = append(append(out, src[at:c.from]...), call...)
		at = c.to
	}
	out = append(out, src[at:]...)
	if in := a.shelf.Info(pg.Path); titled && pg.Title != "" && in != nil {
		return patch.Set(pg.Path, out, []string{"title"}, pg.Title)
	}
	return out, nil
}

// encodedCall is a call as a page in another encoding has it. Its values are quoted once they are encoded:
// the second byte of a character can be a backslash or a quotation mark there.
func encodedCall(call string, encoded func([]byte) []byte) string {
	t := markup.Parse([]byte(call))
	out := "@{" + t.Nodes[0].Name
	for _, arg := range t.Nodes[0].Args {
		value := call[arg.Value.Span.From:arg.Value.Span.To]
		switch {
		case arg.Value.Written != "":
			value = markup.QuoteWritten(string(encoded([]byte(arg.Value.Written))))
		case strings.HasPrefix(value, `"`):
			value = markup.Quote(string(encoded([]byte(arg.Value.Text))))
		}
		out += " " + arg.Name + "=" + value
	}
	return out + " /}"
}

// freeName is a name for a block made of a title, one that none has.
func (a *adoption) freeName(title string) string {
	base := strings.Trim(repeat.NameOf(title), "-")
	if base == "" {
		base = "piece"
	}
	for n := 1; ; n++ {
		name := base
		if n > 1 {
			name = fmt.Sprintf("%s-%d", base, n)
		}
		if edit.FreeBlock(a.shelf, name) == nil && !a.names[name] {
			return name
		}
	}
}

func sortedPages(m map[int][]cut) []int {
	out := make([]int, 0, len(m))
	for k := range m {
		out = append(out, k)
	}
	slices.Sort(out)
	return out
}
