package impact

import (
	"bytes"
	"cmp"
	"path"
	"slices"
	"strings"
	"sync"

	"brickshelf/internal/core/assets"
	"brickshelf/internal/core/check"
	"brickshelf/internal/core/markup"
	"brickshelf/internal/core/refer"
	"brickshelf/internal/core/render"
	"brickshelf/internal/core/shelf"
	"brickshelf/internal/core/site"
)

func (b Break) compare(c Break) int {
	return cmp.Or(strings.Compare(b.Address, c.Address), strings.Compare(b.Code, c.Code),
		strings.Compare(b.Message, c.Message))
}

// breaks lists the faults that are new.
func (e *edit) breaks(before, after []render.Fault) []Break {
	var out []Break
	for _, f := range after {
		old := false
		for _, g := range before {
			if len(e.renamed) > 0 {
				g.Address, g.Message = e.rename(g.Address), e.rename(g.Message)
			}
			old = old || f == g
		}
		if !old {
			out = append(out, Break{f.Code, f.Address, f.Message})
		}
	}
	return out
}

// brokenAnew reads a page whole, as it was and as it is, and lists the references
// that lead nowhere now.
func (v *evaluator) brokenAnew(r shelf.Reach) []Break {
	was, is, from, to := v.Before, v.After, r.Before, r.After
	if v.reversed {
		was, is, from, to = is, was, to, from
	}
	return anew(check.Broken(was, from.Page.Path), check.Broken(is, to.Page.Path))
}

// anew lists the references that led nowhere from no place of the page before.
func anew(before, after []render.Fault) []Break {
	var out []Break
	for _, f := range after {
		old := false
		for _, g := range before {
			old = old || f.Code == g.Code && f.Message == g.Message
		}
		if !old {
			out = append(out, Break{f.Code, f.Address, f.Message})
		}
	}
	return out
}

// inert reports whether an edit surely leaves alone what pages refer to and what
// can be referred to in them: only sound styles and behaviours, and the text of
// blocks differ, and of that only what is literal.
func inert(base, overlay *shelf.Shelf, docs []string) bool {
	for _, d := range docs {
		class, name, _ := site.Classify(d)
		switch class {
		case site.StyleDoc, site.BehaviourDoc:
			was, had := base.Get(d)
			is, has := overlay.Get(d)
			if len(assets.Syntax(d, was))+len(assets.Syntax(d, is)) > 0 { // which is told of documents
				return false
			}
			if class == site.BehaviourDoc && (had != has || assets.Starts(was) != assets.Starts(is)) {
				return false // what a block says of it may fit no more
			}
		case site.BlockDoc:
			a, b := base.Block(name), overlay.Block(name)
			if a == nil || b == nil || !bytes.Equal(a.Split.Head, b.Split.Head) {
				return false
			}
			x, tags := literally(a.Text)
			y, others := literally(b.Text)
			if !slices.Equal(tags, others) || !refer.Inert(x, y) {
				return false
			}
		default:
			return false
		}
	}
	return true
}

// literally gives a block's text with a mark in place of each tag, and the tags.
func literally(t *markup.Text) (text []byte, tags []string) {
	tag := func(s markup.Span) {
		if s.Len() > 0 {
			text = append(text, refer.Mark)
			tags = append(tags, string(t.Src[s.From:s.To]))
		}
	}
	var walk func([]*markup.Node)
	walk = func(nodes []*markup.Node) {
		for _, n := range nodes {
			if n.Kind == markup.Literal {
				text = append(text, t.Src[n.Span.From:n.Span.To]...)
				continue
			}
			tag(n.Head)
			walk(n.Body)
			tag(n.ElseTag)
			walk(n.Else)
			tag(n.Tail)
		}
	}
	walk(t.Nodes)
	return text, tags
}

// references is brokenAnew for a page that was just compared. It reads only what
// differs where that is enough: no id may be gone, and what is referred to anew
// must be pages and files. everywhere is set where nothing breaks on any page on
// which the same differs.
func (v *evaluator) references(r shelf.Reach) (broken []Break, everywhere bool) {
	was, is, from, to := v.Before, v.After, r.Before, r.After
	if v.reversed {
		was, is, from, to = is, was, to, from
	}
	pairs, apart := v.Pairs()
	if !apart {
		a, b := v.Pages(r.Before, r.After)
		pairs = []render.Pair{{Before: a, After: b}}
	}
	everywhere = apart
	var dangling []render.Fault
	for _, p := range pairs {
		if v.reversed {
			p.Before, p.After = p.After, p.Before
		}
		added, lost := v.Delta(p.Before, p.After, to.URL)
		if len(lost) > 0 {
			return v.brokenAnew(r), false
		}
		for _, ref := range added {
			if ref.Kind == refer.ToElement {
				return v.brokenAnew(r), false
			}
			everywhere = everywhere && strings.HasPrefix(ref.Written, "/")
			if check.Leads(is, ref.To) {
				continue
			}
			everywhere = false
			if p.Address == "" { // several placements, or none
				return v.brokenAnew(r), false
			}
			if v.html = render.AppendPage(was, v.html[:0], from); mayLead(v.html, ref.To) {
				return v.brokenAnew(r), false // it may have led nowhere before
			}
			dangling = check.AddFault(dangling, check.Dangling(ref, p.Address))
		}
	}
	return anew(nil, dangling), everywhere
}

// loose adds the pages on which an edit leaves references behind that lead
// nowhere: to pages and files that it takes away. Every page that speaks of one of
// them is read whole.
func (e *edit) loose(base, overlay *shelf.Shelf, evaluated []Page) []Page {
	was, is := base, overlay
	if e.reversed {
		was, is = is, was
	}
	gone := e.gone(was, is, overlay.Changed())
	if len(gone) == 0 {
		return evaluated
	}
	at, known := map[string]int{}, len(evaluated)
	for i, p := range evaluated {
		at[p.Doc] = i
	}
	paths := is.PagePaths()
	found := make([][]Break, len(paths))
	work := func(from, to int) {
		v := &evaluator{edit: e, Comparer: render.Comparer{Before: base, After: overlay}}
		for i := from; i < to; i++ {
			if shown(was.Info(paths[i])) && shown(is.Info(paths[i])) {
				v.html = render.AppendPage(is, v.html[:0], is.Info(paths[i]))
				if other := is.Info(paths[i]).SignedIn(); other != nil {
					v.html = render.AppendPage(is, v.html, other)
				}
				if slices.ContainsFunc(gone, func(to string) bool { return mayLead(v.html, to) }) {
					found[i] = v.brokenAnew(shelf.Reach{Before: base.Info(paths[i]),
						After: overlay.Info(paths[i])})
				}
			}
		}
	}
	var wg sync.WaitGroup
	wg.Go(func() { work(0, len(paths)/2) })
	work(len(paths)/2, len(paths))
	wg.Wait()
	for i, list := range found {
		if len(list) == 0 {
			continue
		}
		k, touched := at[paths[i]]
		if !touched {
			k = len(evaluated)
			evaluated = append(evaluated, Page{Doc: paths[i], Path: is.Info(paths[i]).URL, Effect: Same})
		}
		p := &evaluated[k]
		if p.Effect == Untouched {
			p.Effect = Same
		}
		p.Breaks = append(p.Breaks[:len(p.Breaks):len(p.Breaks)], without(list, p.Breaks)...)
	}
	if len(evaluated) > known {
		byAddress(evaluated)
	}
	return evaluated
}

func without(list, known []Break) []Break {
	var out []Break
	for _, b := range list {
		old := false
		for _, k := range known {
			old = old || b == k
		}
		if !old {
			out = append(out, b)
		}
	}
	return out
}

// gone lists the addresses at which something was and nothing is any more.
func (e *edit) gone(was, is *shelf.Shelf, docs []string) []string {
	var out []string
	for _, d := range docs {
		class, _, _ := site.Classify(d)
		switch class {
		case site.PageDoc:
			in, now := was.Info(d), is.Info(d)
			if shown(in) && !(shown(now) && now.URL == in.URL) && !check.Leads(is, in.URL) {
				out = append(out, in.URL)
			}
		case site.AssetDoc, site.FileDoc:
			if _, there := is.Get(d); !there && !check.Leads(is, site.FileURL(d)) {
				out = append(out, site.FileURL(d))
			}
		}
	}
	return out
}

// mayLead reports whether a page may refer to an address, however it is written:
// it holds the last part of it, and behind that what can end a value.
func mayLead(page []byte, address string) bool {
	last := path.Base(address)
	if last == "/" || strings.Trim(last, "abcdefghijklmnopqrstuvwxyz0123456789-_.") != "" {
		return true
	}
	for i := bytes.Index(page, []byte(last)); i >= 0; i = bytes.Index(page, []byte(last)) {
		page = page[i+len(last):]
		if len(page) > 0 && strings.IndexByte("\"'/?#&; >\t\r\n", page[0]) >= 0 {
			return true
		}
	}
	return false
}
