package shelf

import (
	"slices"
	"sort"
	"strings"

	"brickshelf/internal/core/picture"
	"brickshelf/internal/core/place"
	"brickshelf/internal/core/script"
	"brickshelf/internal/core/sets"
	"brickshelf/internal/core/site"
)

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
	touchAll := func(names []string) {
		for _, n := range names {
			touch(n)
		}
	}
	for _, n := range o.dayReach() { // before anything asks what stands on a page
		touch(n)
	}
	o.reachFrom(touch, touchAll)
	for _, n := range o.dataReach() {
		touch(n)
	}
	for len(todo) > 0 {
		name := todo[0]
		todo = todo[1:]
		for b := range x.inBlocks[name] {
			touch(b)
		}
		if len(x.inMenus[name]) > 0 {
			touchAll(builtinsReading(script.Menus))
		}
	}
}

// reachFrom notes what each changed document touches itself.
func (o *Shelf) reachFrom(touch func(string), touchAll func([]string)) {
	x := o.base.index
	for p := range o.docs {
		class, name, _ := site.Classify(p)
		switch class {
		case site.ConfigDoc:
			if !place.OnlySets(o.base.config, o.config) {
				o.all = true
				o.resolved = true
				break
			}
			for _, set := range append(slices.Clone(o.base.config.SetsOff), o.config.SetsOff...) {
				for _, n := range o.InSet(set) {
					touch(n)
				}
			}
		case site.BlockDoc, site.StyleDoc, site.BehaviourDoc, site.ShortcodeDoc:
			touch(name)
			for b := range x.copiedIn[name] { // which stays as it is, and that is told
				touch(b)
			}
		case site.AssetDoc, site.FileDoc:
			if o.base.isPicture(p) || o.isPicture(p) {
				touchAll(builtinsReading(Pictures))
			}
		case site.MenuDoc:
			touchAll(builtinsReading(script.Menus))
			o.resolved = o.resolved || o.limits().audience != o.base.limits().audience
		case site.RuleDoc, site.LayoutDoc:
			o.resolved = true
		case site.PageDoc:
			o.pagesChanged = true
			if !o.sameFace(p) {
				touchAll(builtinsReading(script.Pages))
			}
		}
	}
}

// isPicture reports whether a document is a picture that can be made smaller.
func (s *Shelf) isPicture(p string) bool {
	e := s.entry(p)
	if e == nil {
		return false
	}
	_, ok := e.parsed.(*picture.Picture)
	return ok
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
	return ok1 && ok2 && g.Title == h.Title && g.Draft == h.Draft && g.Redirect == h.Redirect &&
		g.URL == h.URL
}

// Reach is a page that an edit can reach, as it was and as it would be; nil
// where it is not there.
type Reach struct {
	Path          string
	Before, After *Info
	// InText is set where the page itself was edited, or its own text calls or
	// copies what was; elsewhere rules and layouts alone bring it to the page.
	InText bool
}

// Reached lists the pages that an overlay's changes can reach, by address. Every
// other page renders to the same bytes as in the base.
func (o *Shelf) Reached() []Reach {
	x := o.base.index
	h := hits{x: x, few: map[*ref]bool{}}
	if o.all {
		for _, n := range x.order {
			h.add(x.refs[n], false)
		}
	}
	for name := range o.touched {
		h.addAll(x.calls.Of(name), true)
		h.addAll(x.copies.Of(name), true)
		for l := range x.inLayout[name] {
			h.addAll(x.layouts.Of(l), false)
		}
	}
	for _, r := range o.base.rules {
		if o.touched[r.Block] || o.turned[r.Name] {
			h.addAll(x.rules.Of(r.Name), false)
		}
	}
	var fresh []Reach
	for p := range o.docs {
		class, name, _ := site.Classify(p)
		switch class {
		case site.PageDoc:
			if n, ok := x.number[p]; ok {
				h.add(x.refs[n], true)
			} else if in := o.Info(p); in != nil {
				fresh = append(fresh, Reach{Path: p, After: in, InText: true})
			}
		case site.LayoutDoc:
			h.addAll(x.layouts.Of(name), false)
		case site.RuleDoc:
			h.addAll(x.rules.Of(name), false)
			o.takenBy(name, &h)
		}
	}
	out := h.list(x, func(r *ref, inText bool) Reach {
		after := r.info
		if o.resolved || inText {
			after = o.Info(r.path)
		}
		return Reach{r.path, r.info, after, inText}
	})
	if len(fresh) > 0 {
		out = Paired(append(out, fresh...))
		sort.SliceStable(out, func(i, j int) bool { return out[i].URL() < out[j].URL() })
	}
	return out
}

// Touched reports whether an overlay's changes can show through a block or shortcode.
func (o *Shelf) Touched(name string) bool { return o.all || o.touched[name] }

// Around lists the documents other than pages in which an overlay's changes can bring an
// error about: those that were changed, and those that call or place what the changes show
// through. resolved is set where what stands where can be another thing, so that rules may
// lose their pages or regions.
func (o *Shelf) Around() (docs []string, resolved bool) {
	x := o.base.index
	seen := map[string]bool{}
	add := func(path string) {
		if class, _, _ := site.Classify(path); class != site.PageDoc && !seen[path] {
			seen[path] = true
			docs = append(docs, path)
		}
	}
	for p := range o.docs {
		add(p)
	}
	for name := range o.touched {
		for b := range x.inBlocks[name] {
			add("blocks/" + b + ".html")
		}
		for l := range x.inLayout[name] {
			add("layouts/" + l + ".html")
		}
	}
	for _, path := range o.naming() {
		add(path)
	}
	for _, list := range [][]*place.Rule{o.base.rules, o.rules} {
		for _, r := range list {
			if o.resolved || o.touched[r.Block] {
				add(r.Path)
			}
		}
	}
	resolved = o.resolved
	for _, r := range o.tellingOfRegions() {
		add(r.Path)
		resolved = true
	}
	if o.all {
		for _, s := range []*Shelf{o.base, o} {
			for _, folder := range []string{"blocks/", "layouts/", "rules/", "shortcodes/"} {
				for _, p := range s.Paths(folder) {
					add(p)
				}
			}
		}
	}
	sort.Strings(docs)
	return docs, resolved
}

// naming lists the blocks and layouts that call in samples, or in what pages begin with, what an overlay
// brings or takes away.
func (o *Shelf) naming() []string {
	var calls []string
	for p := range o.docs {
		class, name, _ := site.Classify(p)
		if (class == site.BlockDoc || class == site.ShortcodeDoc) &&
			(o.docs[p] == nil) != (o.base.docs[p] == nil) {
			calls = append(calls, "@{"+name)
		}
	}
	if o.config != o.base.config && !slices.Equal(o.config.SetsOff, o.base.config.SetsOff) {
		calls = append(calls, "@{")
	}
	var out []string
	says := func(path, text string) {
		if slices.ContainsFunc(calls, func(c string) bool { return strings.Contains(text, c) }) {
			out = append(out, path)
		}
	}
	if len(calls) == 0 {
		return nil
	}
	for _, n := range o.Names() {
		if b := o.Block(n); b != nil {
			says(b.Path, b.Sample)
		}
	}
	for _, l := range o.Layouts() {
		for _, text := range l.StartsWith {
			says(l.Path, text)
		}
	}
	return out
}

// tellingOfRegions lists the rules to which an overlay's changes of pages give a page with
// their region, or from which they take one, or with which they do so without it.
func (o *Shelf) tellingOfRegions() []*place.Rule {
	var out []*place.Rule
	for p := range o.docs {
		if class, _, _ := site.Classify(p); class != site.PageDoc {
			continue
		}
		was, is := o.base.Info(p), o.Info(p)
		if was != nil && is != nil && was.URL == is.URL && was.Layout == is.Layout &&
			slices.Equal(was.Page.Tags, is.Page.Tags) {
			continue // rules take it as they did
		}
		for _, list := range [][]*place.Rule{o.base.rules, o.rules} {
			for _, r := range list {
				took, had := o.base.regionBy(r, was)
				if takes, has := o.regionBy(r, is); (took != takes || had != has) &&
					!slices.Contains(out, r) {
					out = append(out, r)
				}
			}
		}
	}
	return out
}

// regionBy reports whether a rule takes a page, and whether that has the rule's region.
func (s *Shelf) regionBy(r *place.Rule, in *Info) (taken, region bool) {
	if in == nil {
		return false, false
	}
	_, taken = r.Takes(s.Facts(in.Page))
	return taken, taken && in.Layout != nil && in.Layout.Region(r.Region) != nil
}

// Paired joins a page that goes with one that comes at the same address: its file has
// another name, and it is one page.
func Paired(list []Reach) []Reach {
	goes := map[string]int{}
	for i, r := range list {
		if r.Before != nil && r.After == nil {
			goes[r.Before.URL] = i
		}
	}
	if len(goes) == 0 {
		return list
	}
	gone := map[int]bool{}
	for i := range list {
		r := &list[i]
		if r.Before != nil || r.After == nil {
			continue
		}
		if k, ok := goes[r.After.URL]; ok {
			r.Before = list[k].Before
			gone[k] = true
		}
	}
	out := list[:0]
	for i, r := range list {
		if !gone[i] {
			out = append(out, r)
		}
	}
	return out
}

// hits gathers pages: a map while they are few, marks by their number when they
// are many, so that the work follows their number and not that of the site.
type hits struct {
	x    *index
	few  map[*ref]bool // and whether the page's own text brings the edit there
	many []byte        // 1 hit, 2 by its own text
}

func (h *hits) add(r *ref, inText bool) {
	if h.many == nil {
		if len(h.few) < 512 {
			h.few[r] = h.few[r] || inText
			return
		}
		h.many = make([]byte, len(h.x.refs))
		for f, in := range h.few {
			h.add(f, in)
		}
	}
	if inText {
		h.many[r.n] = 2
	} else if h.many[r.n] == 0 {
		h.many[r.n] = 1
	}
}

func (h *hits) addAll(s *sets.Set, inText bool) {
	s.Each(func(n int32) { h.add(h.x.refs[n], inText) })
}

// URL is the address of the page.
func (r Reach) URL() string {
	if r.After != nil {
		return r.After.Page.URL
	}
	return r.Before.Page.URL
}

// takenBy adds the pages that a changed rule takes from now on.
func (o *Shelf) takenBy(rule string, h *hits) {
	for _, r := range o.rules {
		if r.Name != rule {
			continue
		}
		for _, n := range o.base.index.order {
			p := o.base.index.refs[n]
			if _, ok := r.Takes(o.Facts(p.info.Page)); ok {
				h.add(p, false)
			}
		}
	}
}

// Users lists the pages that can show a block or hold a copy of it, by path.
func (s *Shelf) Users(name string) []string {
	o := s.overlay()
	path := "blocks/" + name + ".html"
	o.docs[path] = s.docs[path]
	o.reach()
	var out []string
	for _, r := range o.Reached() {
		out = append(out, r.Path)
	}
	return out
}

// Used reports whether anything can bring a block to a page: a call anywhere, or a
// rule.
func (s *Shelf) Used(name string) bool {
	root := s
	if s.base != nil {
		root = s.base
	}
	x := root.index
	if !x.calls.Of(name).Empty() || len(x.inBlocks[name])+len(x.inLayout[name])+len(x.inMenus[name]) > 0 {
		return true
	}
	for _, r := range s.rules {
		if r.Block == name {
			return true
		}
	}
	return false
}

func (h *hits) list(x *index, reach func(r *ref, inText bool) Reach) []Reach {
	if h.many == nil {
		order := make([]*ref, 0, len(h.few))
		for r := range h.few {
			order = append(order, r)
		}
		sort.Slice(order, func(i, j int) bool { return order[i].before(order[j]) })
		out := make([]Reach, 0, len(h.few))
		for _, r := range order {
			out = append(out, reach(r, h.few[r]))
		}
		return out
	}
	out := make([]Reach, 0, len(x.order))
	for _, n := range x.order {
		if m := h.many[n]; m > 0 {
			out = append(out, reach(x.refs[n], m == 2))
		}
	}
	return out
}
