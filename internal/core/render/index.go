package render

import (
	"sort"

	"brickshelf/internal/core/block"
	"brickshelf/internal/core/markup"
	"brickshelf/internal/core/place"
	"brickshelf/internal/core/site"
)

// Info is a page with what the site decides for it.
type Info struct {
	Page       *place.Page
	Layout     *place.Layout // nil for a page that is its text alone
	Candidates []place.Candidate
	Slots      map[string][]place.Slot // by region; absent where the default stands
	fields     map[string]block.Value
}

type pageSet map[string]struct{} // of page paths

// index is the way back from each document to the pages that it can reach.
type index struct {
	pages    map[string]*Info
	drafts   int
	order    []string           // page paths by address; nil when it must be made anew
	calls    map[string]pageSet // name called in a page's text → pages
	copies   map[string]pageSet // block → pages that hold copies of it
	layouts  map[string]pageSet // layout → pages
	rules    map[string]pageSet // rule → pages that it takes, shown or not
	inBlocks map[string]map[string]bool
	inLayout map[string]map[string]bool
	inMenus  map[string]map[string]bool
}

func newIndex(s *Shelf) *index {
	x := &index{pages: map[string]*Info{}, calls: map[string]pageSet{}, copies: map[string]pageSet{}, layouts: map[string]pageSet{}, rules: map[string]pageSet{},
		inBlocks: map[string]map[string]bool{}, inLayout: map[string]map[string]bool{}, inMenus: map[string]map[string]bool{}}
	for p := range s.docs {
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
	if g, ok := e.parsed.(*place.Page); ok {
		x.pages[path] = s.inform(g)
		if g.Draft {
			x.drafts++
		}
		x.each(x.pages[path], func(t map[string]pageSet, k string) {
			if t[k] == nil {
				t[k] = pageSet{}
			}
			t[k][path] = struct{}{}
		})
		x.order = nil
	}
}

func (x *index) forget(s *Shelf, path string) {
	x.edges(s, path, func(t map[string]map[string]bool, from, to string) { delete(t[to], from) })
	if in := x.pages[path]; in != nil {
		x.each(in, func(t map[string]pageSet, k string) { delete(t[k], path) })
		if in.Page.Draft {
			x.drafts--
		}
		delete(x.pages, path)
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
	x.rules = map[string]pageSet{}
	for path, in := range x.pages {
		in = s.inform(in.Page)
		x.pages[path] = in
		for _, c := range in.Candidates {
			if x.rules[c.Rule.Name] == nil {
				x.rules[c.Rule.Name] = pageSet{}
			}
			x.rules[c.Rule.Name][path] = struct{}{}
		}
	}
}

// inform decides for a page: its layout, who takes it, what stands in which
// region, and the values of its fields.
func (s *Shelf) inform(g *place.Page) *Info {
	in := &Info{Page: g}
	if g.Layout != "" {
		in.Layout = s.Layout(g.Layout)
	}
	if in.Layout != nil {
		in.Candidates = place.Candidates(s.rules, s.Facts(g))
		var running []place.Candidate
		for _, c := range in.Candidates {
			if c.Rule.Running(s.now, "signed-out") {
				running = append(running, c)
			}
		}
		in.Slots = make(map[string][]place.Slot, len(in.Layout.Regions))
		for i := range in.Layout.Regions {
			r := &in.Layout.Regions[i]
			if slots := place.Resolve(r, running, g.Filled(r.Name)); slots != nil {
				in.Slots[r.Name] = slots
			}
		}
	}
	if len(g.Fields) > 0 {
		in.fields = map[string]block.Value{}
		for _, p := range g.Fields {
			f := s.pageField(in, p.Key)
			if v, err := s.reader.Read(f, block.Raw(p.Value)); err == nil {
				in.fields[p.Key] = v
			}
		}
	}
	return in
}

// pageField describes a page field: as the layout declares it, else as the site
// declares one of that name, else a text.
func (s *Shelf) pageField(in *Info, name string) *block.Field {
	if in.Layout != nil {
		if f := in.Layout.PageField(name); f != nil {
			return f
		}
	}
	for _, f := range s.config.Fields {
		if f.Name == name {
			return f
		}
	}
	return &block.Field{Name: name, Type: block.Text}
}

// Facts are what a rule's targets ask about a page.
func (s *Shelf) Facts(g *place.Page) place.Facts {
	return place.Facts{URL: g.URL, Layout: g.Layout, Tags: g.Tags, IsHome: g.URL == s.config.Home}
}

// Info returns the page at a path, or nil.
func (s *Shelf) Info(path string) *Info {
	if s.base == nil {
		return s.index.pages[path]
	}
	e, changed := s.docs[path]
	if !changed && !s.resolved {
		return s.base.index.pages[path]
	}
	if changed && e == nil {
		return nil
	}
	s.mu.Lock()
	defer s.mu.Unlock()
	if in, ok := s.infos[path]; ok {
		return in
	}
	var in *Info
	if e = s.entry(path); e != nil {
		if g, ok := e.parsed.(*place.Page); ok {
			in = s.inform(g)
		}
	}
	s.infos[path] = in
	return in
}

// PagePaths lists the paths of all pages, drafts too, by address.
func (s *Shelf) PagePaths() []string {
	root := s
	if s.base != nil {
		root = s.base
	}
	root.mu.Lock()
	if root.index.order == nil {
		root.index.order = sortedPages(root)
	}
	order := root.index.order
	root.mu.Unlock()
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

func sortedPages(root *Shelf) []string {
	order := make([]string, 0, len(root.index.pages))
	for p := range root.index.pages {
		order = append(order, p)
	}
	sort.Slice(order, func(i, j int) bool { return root.index.pages[order[i]].Page.URL < root.index.pages[order[j]].Page.URL })
	return order
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

// reach works out which names an overlay's changes can show through.
func (o *Shelf) reach() {
	o.touched = map[string]bool{}
	x := o.base.index
	var todo []string
	touch := func(name string) {
		if !o.touched[name] {
			o.touched[name] = true
			todo = append(todo, name)
		}
	}
	for p := range o.docs {
		class, name, _ := site.Classify(p)
		switch class {
		case site.ConfigDoc:
			o.all = true
			o.resolved = true
		case site.BlockDoc, site.StyleDoc, site.BehaviourDoc, site.ShortcodeDoc:
			touch(name)
		case site.MenuDoc:
			touch("menu")
		case site.RuleDoc, site.LayoutDoc:
			o.resolved = true
		case site.PageDoc:
			if !o.sameFace(p) {
				for _, b := range []string{"menu", "crumbs", "pages", "url"} {
					touch(b)
				}
			}
		}
	}
	for len(todo) > 0 {
		name := todo[0]
		todo = todo[1:]
		for b := range x.inBlocks[name] {
			touch(b)
		}
		if len(x.inMenus[name]) > 0 {
			touch("menu")
		}
	}
}

// sameFace reports whether a page shows the same to other pages as before: it
// is there, published, and has its title.
func (o *Shelf) sameFace(path string) bool {
	a, b := o.base.docs[path], o.docs[path]
	if a == nil || b == nil {
		return false
	}
	g, ok1 := a.parsed.(*place.Page)
	h, ok2 := b.parsed.(*place.Page)
	return ok1 && ok2 && g.Title == h.Title && g.Draft == h.Draft && g.URL == h.URL
}

// Reached lists the pages that an overlay's changes can reach, by path and in no
// order. Every other page renders to the same bytes as in the base.
func (o *Shelf) Reached() []string {
	set := pageSet{}
	addAll := func(s pageSet) {
		for p := range s {
			set[p] = struct{}{}
		}
	}
	x := o.base.index
	if o.all {
		for p := range x.pages {
			set[p] = struct{}{}
		}
	}
	for name := range o.touched {
		addAll(x.calls[name])
		addAll(x.copies[name])
		for l := range x.inLayout[name] {
			addAll(x.layouts[l])
		}
	}
	for _, r := range o.base.rules {
		if o.touched[r.Block] {
			addAll(x.rules[r.Name])
		}
	}
	for p := range o.docs {
		class, name, _ := site.Classify(p)
		switch class {
		case site.PageDoc:
			set[p] = struct{}{}
		case site.LayoutDoc:
			addAll(x.layouts[name])
		case site.RuleDoc:
			addAll(x.rules[name])
			o.takenBy(name, set)
		}
	}
	out := make([]string, 0, len(set))
	for p := range set {
		out = append(out, p)
	}
	return out
}

// takenBy adds the pages that a changed rule takes from now on.
func (o *Shelf) takenBy(rule string, set pageSet) {
	for _, r := range o.rules {
		if r.Name != rule {
			continue
		}
		for p, in := range o.base.index.pages {
			if _, ok := r.Takes(o.Facts(in.Page)); ok {
				set[p] = struct{}{}
			}
		}
	}
}

// Users lists the pages that can show a block or hold a copy of it, by path.
func (s *Shelf) Users(name string) []string {
	o := &Shelf{base: s, docs: map[string]*entry{"blocks/" + name + ".html": s.docs["blocks/"+name+".html"]}, rules: s.rules}
	o.reach()
	out := o.Reached()
	sort.Strings(out)
	return out
}
