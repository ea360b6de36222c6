package adopting

import (
	"bytes"
	"html"
	"reflect"
	"slices"
	"strings"

	"brickshelf/internal/core/block"
	"brickshelf/internal/core/edit"
	"brickshelf/internal/core/markup"
	"brickshelf/internal/core/patch"
	"brickshelf/internal/core/repeat"
	"brickshelf/internal/core/shelf"
	"brickshelf/internal/core/site"
)

// WantedLayout is a layout that is to be made of the piece with which pages begin and the one with which they
// end; what stands between is their content.
type WantedLayout struct {
	Top, Bottom *repeat.Piece
	Name        string // "" for one made of the title
	Title       string // "" for one of the pieces'
}

// MadeLayout is a layout that came of two pieces.
type MadeLayout struct {
	Name, Title string
	Pages       int
	Left        []string // documents of pages that have both pieces and keep their own markup
}

// Layout makes a layout of the frame of pages, so that these hold their content alone, and in their front
// matter what differs in the frame. A page whose values front matter cannot spell as they are keeps its own
// markup, as does one that would not come out byte for byte. The error is a site.Refusal where no page is
// left.
func Layout(s *shelf.Shelf, pages []repeat.Page, w WantedLayout) (site.ChangeSet, MadeLayout, error) {
	a := &adoption{shelf: s, pages: pages}
	leave := map[string]bool{}
	for {
		set, made, err := a.layout(w, leave)
		if err != nil {
			return site.ChangeSet{}, made, err
		}
		differ := differing(s, set.Changes)
		if len(differ) == 0 {
			return set, made, nil
		}
		for _, path := range differ {
			leave[path] = true
		}
	}
}

// framed is a page between its top and its bottom.
type framed struct {
	page        int
	top, bottom int // numbers of places
	from, to    int // of its content, in its document
}

func (a *adoption) layout(w WantedLayout, leave map[string]bool) (site.ChangeSet, MadeLayout, error) {
	m := MadeLayout{Name: w.Name, Title: strings.TrimSpace(w.Title)}
	if m.Title == "" {
		m.Title = w.Top.Title + " page"
	}
	if m.Name == "" {
		m.Name = repeat.NameOf(m.Title)
	}
	if err := edit.FreeName(a.shelf, "layout", "layouts/"+m.Name+".html", m.Name); err != nil {
		return site.ChangeSet{}, m, err
	}
	lead, tail, list := a.framed(w)
	top, bottom := fieldsOfPages(w.Top, w.Bottom)
	texts := edit.Texts{Shelf: a.shelf}
	for _, f := range list {
		path := a.pages[f.page].Path
		text, ok := a.content(f, top, bottom)
		if !ok || leave[path] {
			m.Left = append(m.Left, path)
			continue
		}
		for _, set := range []struct {
			key   string
			value any
		}{{"title", a.pages[f.page].Title}, {"layout", m.Name}} {
			var err error
			if text, err = patch.Set(path, text, []string{set.key}, set.value); err != nil {
				return site.ChangeSet{}, m, err
			}
		}
		texts.Put(path, text)
		m.Pages++
	}
	if m.Pages == 0 {
		return site.ChangeSet{}, m, site.Refuse("no page begins with %s and ends with %s: what stands before or behind them differs from page to page, or front matter cannot spell their values",
			w.Top.Title, w.Bottom.Title)
	}
	doc := "---\ntitle: " + site.PlainYAML(m.Title) + "\nregions: {main: {mode: stack}}\n"
	declared := ""
	for _, p := range []*repeat.Piece{top, bottom} {
		for i := range p.Fields {
			if name, own := strings.CutPrefix(p.Fields[i].Name, "page."); own && name != "title" {
				one := p.Fields[i]
				one.Name = name
				declared += declaredField(&one)
			}
		}
	}
	if declared != "" {
		doc += "page_fields:\n" + declared
	}
	text := slices.Concat([]byte(doc+"---\n"), lead, top.Markup(), []byte("@{region main /}"), bottom.Markup(), tail)
	texts.Put("layouts/"+m.Name+".html", text)
	return site.ChangeSet{Title: "Made a layout of " + w.Top.Title + " and " + w.Bottom.Title,
		Changes: texts.Changes()}, m, nil
}

func declaredField(f *repeat.Field) string { return declared(f, "", false) }

// framed are the pages that begin with the one piece and end with the other, and what stands before and
// behind them on most.
func (a *adoption) framed(w WantedLayout) (lead, tail []byte, list []framed) {
	tops, bottoms := map[int]int{}, map[int]int{}
	for i, at := range slices.Backward(w.Top.Places) {
		tops[at.Page] = i
	}
	for i, at := range w.Bottom.Places {
		bottoms[at.Page] = i
	}
	count := map[string]int{}
	edges := func(page int) (before, behind []byte, ok bool) {
		b, ok := bottoms[page]
		if !ok {
			return nil, nil, false
		}
		pg := a.pages[page]
		src, _ := a.shelf.Get(pg.Path)
		top, bottom := w.Top.Places[tops[page]], w.Bottom.Places[b]
		before, behind = src[pg.At:top.From], src[bottom.To:]
		ok = top.To <= bottom.From && pg.Encoded == nil && site.ForeignEncoding(pg.Text) == nil
		return before, behind, ok
	}
	best := ""
	numbers := make([]int, 0, len(tops))
	for page := range tops {
		numbers = append(numbers, page)
	}
	slices.Sort(numbers)
	for _, page := range numbers {
		if before, behind, ok := edges(page); ok {
			key := string(before) + "\x00" + string(behind)
			if count[key]++; count[key] > count[best] {
				best = key
			}
		}
	}
	l, t, _ := strings.Cut(best, "\x00")
	for _, page := range numbers {
		if before, behind, ok := edges(page); ok && string(before) == l && string(behind) == t {
			list = append(list, framed{page, tops[page], bottoms[page], w.Top.Places[tops[page]].To,
				w.Bottom.Places[bottoms[page]].From})
		}
	}
	return []byte(l), []byte(t), list
}

// builtIn are the values of pages that are always there.
var builtIn = []string{"title", "url", "root", "to-top", "layout"}

// fieldsOfPages are two pieces with the names that their fields have as those of pages: page.X, each once.
func fieldsOfPages(top, bottom *repeat.Piece) (t, b *repeat.Piece) {
	taken := map[string]bool{}
	rename := func(p *repeat.Piece) *repeat.Piece {
		to := map[string]string{}
		for i := range p.Fields {
			name := p.Fields[i].Name
			for taken[name] || slices.Contains(builtIn, name) && (name != "title" || taken["title"]) {
				name += "-text"
			}
			taken[name] = true
			to[p.Fields[i].Name] = "page." + name
		}
		return renamed(p, to)
	}
	return rename(top), rename(bottom)
}

// content is a page's document with its content alone, and the fields of its frame; ok is false where a value
// cannot be spelled so that it shows the same bytes.
func (a *adoption) content(f framed, top, bottom *repeat.Piece) (text []byte, ok bool) {
	pg := a.pages[f.page]
	src, _ := a.shelf.Get(pg.Path)
	text = slices.Concat(src[:pg.At], src[f.from:f.to])
	for n, p := range []*repeat.Piece{top, bottom} {
		place := []int{f.top, f.bottom}[n]
		for i := range p.Fields {
			field := &p.Fields[i]
			raw := field.Values[place]
			if raw == nil {
				continue
			}
			name := strings.TrimPrefix(field.Name, "page.")
			v := bytes.ReplaceAll(raw, []byte("@@{"), []byte("@{"))
			if name == "title" {
				if !a.titled(&block.Field{Name: name, Type: block.Text}, field, f.page, v) {
					return nil, false
				}
				continue
			}
			var value any = string(v)
			switch b := (&block.Field{Name: name, Type: block.Type(field.Type)}); field.Type {
			case repeat.Switch:
				value = true
			case repeat.Choice:
			case repeat.List:
				items, ok := a.items(field, field.Rows[place])
				if list := any(items); !ok || !reflect.DeepEqual(list, markup.Unspelled(list)) {
					return nil, false // front matter has no spelling beside the value
				}
				value = items
			default:
				plain := string(v)
				if field.Type != repeat.Rich {
					plain = html.UnescapeString(plain)
				}
				if !a.shows(b, field, markup.ArgValue{Kind: markup.ArgText, Text: plain}, v) {
					return nil, false
				}
				value = plain
			}
			var err error
			if text, err = patch.Set(pg.Path, text, []string{"fields", name}, value); err != nil {
				return nil, false
			}
		}
	}
	return text, true
}
