package shelf

import (
	"maps"
	"slices"
	"sort"

	"brickshelf/internal/core/block"
	"brickshelf/internal/core/markup"
	"brickshelf/internal/core/place"
	"brickshelf/internal/core/script"
	"brickshelf/internal/core/sets"
	"brickshelf/internal/core/site"
)

// ref is a page in the index: its path, its number, and what is decided for it. It never
// changes: a page that is edited gets another ref under its number.
type ref struct {
	path string
	n    int32
	info *Info
}

func (r *ref) before(o *ref) bool {
	return r.info.URL < o.info.URL || r.info.URL == o.info.URL && r.path < o.path
}

// index is the way back from each document to the pages that it can reach. Once made it
// never changes; fork gives one for the next state of the site, which shares with it
// whatever stays the same.
type index struct {
	number map[string]int32 // path of a page → its number
	byURL  map[string]int32
	refs   []*ref // by number; nil where there is no page any more
	unused []int32
	order  []int32  // numbers of all pages by address
	paths  []string // of the pages, in the same order
	former []int32  // while it is made: the order before, in which those of moved have no place
	moved  map[int32]bool
	drafts int
	plans  map[string]*Plan

	calls   *sets.Table // name called in a page's text → pages
	copies  *sets.Table // block → pages that hold copies of it
	layouts *sets.Table // layout → pages
	rules   *sets.Table // rule → pages that it takes, shown or not

	inBlocks edges
	copiedIn edges // to the blocks that hold copies
	inLayout edges
	inMenus  edges
	scripts  map[string]bool // the scripted shortcodes
}

// edges lead from a name back to the documents that call it.
type edges map[string]map[string]bool

func (e edges) clone() edges {
	out := make(edges, len(e))
	for to, from := range e {
		out[to] = maps.Clone(from)
	}
	return out
}

func newIndex(s *Shelf) *index {
	x := &index{number: map[string]int32{}, byURL: map[string]int32{}, plans: map[string]*Plan{},
		moved: map[int32]bool{},
		calls: sets.New(), copies: sets.New(), layouts: sets.New(), rules: sets.New(),
		inBlocks: edges{}, copiedIn: edges{}, inLayout: edges{}, inMenus: edges{}, scripts: map[string]bool{}}
	for _, p := range s.paths { // in order, so that pages lie in memory as they are gone through
		x.learn(s, p)
	}
	x.sort()
	return x
}

// fork is an index to be changed for a shelf in which some documents differ.
func (x *index) fork(s *Shelf, docs map[string]*entry) *index {
	y := *x
	pages, come, linked, scripts := false, false, false, false
	for p := range docs {
		switch class, _, _ := site.Classify(p); class {
		case site.PageDoc:
			pages = true
			n, known := x.number[p]
			g, is := s.entry(p).page()
			come = come || known != is || known && x.refs[n].info.URL != g.URL
		case site.BlockDoc, site.LayoutDoc, site.MenuDoc:
			linked = true
		case site.ShortcodeDoc:
			scripts = true
		}
	}
	if pages {
		y.refs = slices.Clone(x.refs)
		y.plans = maps.Clone(x.plans)
		y.calls, y.copies, y.layouts, y.rules = x.calls.Fork(), x.copies.Fork(), x.layouts.Fork(),
			x.rules.Fork()
	}
	if come {
		y.number, y.byURL = maps.Clone(x.number), maps.Clone(x.byURL)
		y.order, y.paths, y.unused = nil, nil, slices.Clone(x.unused)
		y.former, y.moved = x.order, map[int32]bool{}
	}
	if linked {
		y.inBlocks, y.copiedIn, y.inLayout, y.inMenus = x.inBlocks.clone(), x.copiedIn.clone(),
			x.inLayout.clone(), x.inMenus.clone()
	}
	if scripts {
		y.scripts = maps.Clone(x.scripts)
	}
	return &y
}

// names lists the blocks and shortcodes that a text calls.
func names(t *markup.Text) []string {
	var out []string
	seen := map[string]bool{}
	markup.Walk(t.Nodes, func(n *markup.Node) bool {
		if n.Kind == markup.Call && !seen[n.Name] {
			seen[n.Name] = true
			out = append(out, n.Name)
		}
		return true
	})
	return out
}

// copied lists the blocks of which a text holds one-off copies.
func copied(t *markup.Text) []string {
	var out []string
	markup.Walk(t.Nodes, func(n *markup.Node) bool {
		if n.Kind == markup.Copy {
			out = append(out, n.Name)
		}
		return true
	})
	return out
}

func menuNames(items []place.MenuItem) []string {
	var out []string
	for _, it := range items {
		if it.Panel != nil {
			out = append(out, names(it.Panel)...)
		}
		out = append(out, menuNames(it.Items)...)
	}
	return out
}

func (x *index) edges(s *Shelf, path string, each func(table edges, from, to string)) {
	e := s.entry(path)
	if e == nil {
		return
	}
	switch d := e.parsed.(type) {
	case *block.Block:
		for _, n := range names(d.Text) {
			each(x.inBlocks, d.Name, n)
		}
		for _, n := range d.Behaviour.Needs {
			each(x.inBlocks, d.Name, n)
		}
		for _, n := range copied(d.Text) {
			each(x.copiedIn, d.Name, n)
		}
	case *place.Layout:
		for _, n := range names(d.Text) {
			each(x.inLayout, d.Name, n)
		}
	case *place.Menu:
		for _, n := range menuNames(d.Items) {
			each(x.inMenus, d.Name, n)
		}
	}
}

// learn takes a document of a shelf in.
func (x *index) learn(s *Shelf, path string) {
	x.edges(s, path, func(t edges, from, to string) {
		if t[to] == nil {
			t[to] = map[string]bool{}
		}
		t[to][from] = true
	})
	e := s.entry(path)
	if e == nil {
		return
	}
	if c, ok := e.parsed.(*script.Script); ok {
		x.scripts[c.Name] = true
	}
	g, ok := e.page()
	if !ok {
		return
	}
	n, known := x.number[path]
	if !known {
		if last := len(x.unused) - 1; last >= 0 {
			n, x.unused = x.unused[last], x.unused[:last]
		} else {
			n = int32(len(x.refs))
			x.refs = append(x.refs, nil)
		}
		x.number[path] = n
	}
	r := &ref{path: path, n: n, info: s.inform(g, x.plans)}
	x.refs[n] = r
	if x.order == nil {
		x.byURL[g.URL] = n
		x.moved[n] = true
	}
	if g.Draft {
		x.drafts++
	}
	x.each(r.info, func(t *sets.Table, k string) { t.Add(k, n) })
}

// forget takes a document of a shelf out. A page keeps its number where another version
// of it is learnt after that.
func (x *index) forget(s *Shelf, path string, stays bool) {
	x.edges(s, path, func(t edges, from, to string) { delete(t[to], from) })
	if class, name, _ := site.Classify(path); class == site.ShortcodeDoc {
		delete(x.scripts, name)
	}
	n, known := x.number[path]
	if !known {
		return
	}
	r := x.refs[n]
	x.each(r.info, func(t *sets.Table, k string) { t.Remove(k, n) })
	if r.info.Page.Draft {
		x.drafts--
	}
	if x.order == nil {
		if x.byURL[r.info.URL] == n {
			delete(x.byURL, r.info.URL)
		}
		x.moved[n] = true
	}
	if !stays {
		delete(x.number, path)
		x.refs[n] = nil
		x.unused = append(x.unused, n)
	}
}

func (x *index) each(in *Info, do func(t *sets.Table, key string)) {
	for _, n := range in.Page.Calls {
		do(x.calls, n)
	}
	for _, n := range in.Page.Copied {
		do(x.copies, n)
	}
	if in.Page.Layout != "" {
		do(x.layouts, in.Page.Layout)
	}
	for _, c := range in.Candidates {
		do(x.rules, c.Rule.Name)
	}
}

// resolve works out anew what stands where, on every page.
func (x *index) resolve(s *Shelf) {
	x.rules, x.plans = sets.New(), map[string]*Plan{}
	refs := make([]*ref, len(x.refs))
	for i, r := range x.refs {
		if r == nil {
			continue
		}
		refs[i] = &ref{path: r.path, n: r.n, info: s.inform(r.info.Page, x.plans)}
		for _, c := range refs[i].info.Candidates {
			x.rules.Add(c.Rule.Name, r.n)
		}
	}
	x.refs = refs
}

// sort puts the pages in the order of their addresses, where that is not known.
func (x *index) sort() {
	if x.order != nil {
		return
	}
	come := make([]int32, 0, len(x.moved))
	for n := range x.moved {
		if x.refs[n] != nil {
			come = append(come, n)
		}
	}
	slices.SortFunc(come, func(a, b int32) int {
		if x.refs[a].before(x.refs[b]) {
			return -1
		}
		return 1
	})
	x.order = make([]int32, 0, len(x.number))
	for _, n := range x.former {
		if x.moved[n] {
			continue
		}
		for len(come) > 0 && x.refs[come[0]].before(x.refs[n]) {
			x.order, come = append(x.order, come[0]), come[1:]
		}
		x.order = append(x.order, n)
	}
	x.order = append(x.order, come...)
	x.paths = make([]string, len(x.order))
	for i, n := range x.order {
		x.paths[i] = x.refs[n].path
	}
	x.former, x.moved = nil, nil
}

// at is what is decided for the page at a path, or nil.
func (x *index) at(path string) *Info {
	if n, ok := x.number[path]; ok {
		return x.refs[n].info
	}
	return nil
}

func (x *index) atURL(url string) *Info {
	if n, ok := x.byURL[url]; ok {
		return x.refs[n].info
	}
	return nil
}

// PagePaths lists the paths of all pages, drafts too, by address.
func (s *Shelf) PagePaths() []string {
	if s.base == nil {
		return s.index.paths
	}
	for p := range s.docs {
		if class, _, _ := site.Classify(p); class == site.PageDoc &&
			(s.docs[p] == nil) != (s.base.docs[p] == nil) {
			return s.mergePages(s.base.index.paths)
		}
	}
	return s.base.index.paths
}

func (s *Shelf) mergePages(order []string) []string {
	var out []string
	for _, p := range order {
		if s.Info(p) != nil {
			out = append(out, p)
		}
	}
	for p, e := range s.docs {
		if s.base.docs[p] == nil {
			if _, ok := e.page(); ok {
				out = append(out, p)
			}
		}
	}
	sort.Slice(out, func(i, j int) bool { return s.Info(out[i]).Page.URL < s.Info(out[j]).Page.URL })
	return out
}

// Published lists the addresses of the pages that are published, in order; not those that
// merely lead on to others.
func (s *Shelf) Published() []string {
	var out []string
	if s.base == nil {
		out = make([]string, 0, len(s.index.order))
		for _, n := range s.index.order {
			if in := s.index.refs[n].info; in.Listed {
				out = append(out, in.URL)
			}
		}
		return out
	}
	for _, p := range s.PagePaths() {
		if in := s.Info(p); in.Listed {
			out = append(out, in.URL)
		}
	}
	return out
}

// Drafts counts the pages that are not published.
func (s *Shelf) Drafts() int {
	if s.base == nil {
		return s.index.drafts
	}
	n := s.base.index.drafts
	for p, e := range s.docs {
		if old := s.base.index.at(p); old != nil && old.Page.Draft {
			n--
		}
		if e != nil {
			if g, ok := e.parsed.(*place.Page); ok && g.Draft {
				n++
			}
		}
	}
	return n
}
