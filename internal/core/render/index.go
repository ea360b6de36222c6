package render

import (
	"sort"

	"brickshelf/internal/core/block"
	"brickshelf/internal/core/markup"
	"brickshelf/internal/core/place"
	"brickshelf/internal/core/script"
	"brickshelf/internal/core/site"
)

// ref is a page in the index: its path, its place among all pages by address, and
// its present Info.
type ref struct {
	path string
	at   int
	info *Info
}

type pageSet map[*ref]struct{}

// index is the way back from each document to the pages that it can reach.
type index struct {
	pages    map[string]*ref
	plans    map[string]*Plan
	byURL    map[string]*ref
	drafts   int
	order    []string           // page paths by address; nil when it must be made anew
	refs     []*ref             // in the same order
	calls    map[string]pageSet // name called in a page's text → pages
	copies   map[string]pageSet // block → pages that hold copies of it
	layouts  map[string]pageSet // layout → pages
	rules    map[string]pageSet // rule → pages that it takes, shown or not
	inBlocks map[string]map[string]bool
	inLayout map[string]map[string]bool
	inMenus  map[string]map[string]bool
	scripts  map[string]bool // the scripted shortcodes
}

func newIndex(s *Shelf) *index {
	x := &index{pages: map[string]*ref{}, plans: map[string]*Plan{}, byURL: map[string]*ref{}, calls: map[string]pageSet{}, copies: map[string]pageSet{}, layouts: map[string]pageSet{}, rules: map[string]pageSet{},
		inBlocks: map[string]map[string]bool{}, inLayout: map[string]map[string]bool{}, inMenus: map[string]map[string]bool{}, scripts: map[string]bool{}}
	for _, p := range s.Paths("") { // in order, so that pages lie in memory as they are gone through
		x.learn(s, p)
	}
	return x
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

func menuNames(items []MenuItem) []string {
	var out []string
	for _, it := range items {
		if it.Panel != nil {
			out = append(out, names(it.Panel)...)
		}
		out = append(out, menuNames(it.Items)...)
	}
	return out
}

func (x *index) edges(s *Shelf, path string, each func(table map[string]map[string]bool, from, to string)) {
	e := s.entry(path)
	if e == nil {
		return
	}
	switch d := e.parsed.(type) {
	case *block.Block:
		for _, n := range names(d.Text) {
			each(x.inBlocks, d.Name, n)
		}
	case *place.Layout:
		for _, n := range names(d.Text) {
			each(x.inLayout, d.Name, n)
		}
	case *Menu:
		for _, n := range menuNames(d.Items) {
			each(x.inMenus, d.Name, n)
		}
	}
}

func (x *index) learn(s *Shelf, path string) {
	x.edges(s, path, func(t map[string]map[string]bool, from, to string) {
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
	if g, ok := e.parsed.(*place.Page); ok {
		r := &ref{path: path, info: s.inform(g, x.plans)}
		x.pages[path], x.byURL[g.URL] = r, r
		if g.Draft {
			x.drafts++
		}
		x.each(r.info, func(t map[string]pageSet, k string) {
			if t[k] == nil {
				t[k] = pageSet{}
			}
			t[k][r] = struct{}{}
		})
		x.order = nil
	}
}

func (x *index) forget(s *Shelf, path string) {
	x.edges(s, path, func(t map[string]map[string]bool, from, to string) { delete(t[to], from) })
	if class, name, _ := site.Classify(path); class == site.ShortcodeDoc {
		delete(x.scripts, name)
	}
	if r := x.pages[path]; r != nil {
		x.each(r.info, func(t map[string]pageSet, k string) { delete(t[k], r) })
		if r.info.Page.Draft {
			x.drafts--
		}
		delete(x.pages, path)
		if x.byURL[r.info.URL] == r {
			delete(x.byURL, r.info.URL)
		}
		x.order = nil
	}
}

func (x *index) each(in *Info, do func(table map[string]pageSet, key string)) {
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
	x.rules, x.plans = map[string]pageSet{}, map[string]*Plan{}
	for _, r := range x.pages {
		r.info = s.inform(r.info.Page, x.plans)
		for _, c := range r.info.Candidates {
			if x.rules[c.Rule.Name] == nil {
				x.rules[c.Rule.Name] = pageSet{}
			}
			x.rules[c.Rule.Name][r] = struct{}{}
		}
	}
}

// PagePaths lists the paths of all pages, drafts too, by address.
func (s *Shelf) PagePaths() []string {
	root := s
	if s.base != nil {
		root = s.base
	}
	order, _ := root.ordered()
	for p := range s.docs {
		if s.base == nil {
			break
		}
		if class, _, _ := site.Classify(p); class == site.PageDoc && (s.docs[p] == nil) != (s.base.docs[p] == nil) {
			return s.mergePages(order)
		}
	}
	return order
}

func (r *ref) get() *Info {
	if r == nil {
		return nil
	}
	return r.info
}

// ordered lists the pages of a base by address.
func (s *Shelf) ordered() ([]string, []*ref) {
	s.mu.Lock()
	defer s.mu.Unlock()
	x := s.index
	if x.order == nil {
		x.refs = make([]*ref, 0, len(x.pages))
		for _, r := range x.pages {
			x.refs = append(x.refs, r)
		}
		sort.Slice(x.refs, func(i, j int) bool {
			a, b := x.refs[i], x.refs[j]
			return a.info.URL < b.info.URL || a.info.URL == b.info.URL && a.path < b.path
		})
		x.order = make([]string, len(x.refs))
		for i, r := range x.refs {
			x.order[i], r.at = r.path, i
		}
	}
	return x.order, x.refs
}

func (s *Shelf) mergePages(order []string) []string {
	var out []string
	for _, p := range order {
		if s.Info(p) != nil {
			out = append(out, p)
		}
	}
	for p, e := range s.docs {
		if e != nil && s.base.docs[p] == nil {
			if _, ok := e.parsed.(*place.Page); ok {
				out = append(out, p)
			}
		}
	}
	sort.Slice(out, func(i, j int) bool { return s.Info(out[i]).Page.URL < s.Info(out[j]).Page.URL })
	return out
}

func (h *hits) list(refs []*ref, reach func(r *ref, inText bool) Reach) []Reach {
	if h.many == nil {
		out := make([]Reach, 0, len(h.few))
		order := make([]*ref, 0, len(h.few))
		for r := range h.few {
			order = append(order, r)
		}
		sort.Slice(order, func(i, j int) bool { return order[i].at < order[j].at })
		for _, r := range order {
			out = append(out, reach(r, h.few[r]))
		}
		return out
	}
	out := make([]Reach, 0, len(refs))
	for i, m := range h.many {
		if m > 0 {
			out = append(out, reach(refs[i], m == 2))
		}
	}
	return out
}

// Published lists the addresses of the pages that are no drafts, in order.
func (s *Shelf) Published() []string {
	if s.base == nil {
		_, refs := s.ordered()
		out := make([]string, 0, len(refs))
		for _, r := range refs {
			if !r.info.Draft {
				out = append(out, r.info.URL)
			}
		}
		return out
	}
	var out []string
	for _, p := range s.PagePaths() {
		if in := s.Info(p); !in.Draft {
			out = append(out, in.URL)
		}
	}
	return out
}
