package render

import (
	"html"
	"sort"
	"strconv"
	"strings"

	"brickshelf/internal/core/block"
	"brickshelf/internal/core/markup"
	"brickshelf/internal/core/place"
)

// Builtin is a shortcode that the program brings along.
type Builtin struct {
	Name   string
	Set    string
	About  string
	Sample string
	Params []*block.Field
	// OfPage is set where the output depends on the page that shows it.
	OfPage bool

	run func(r *renderer, w *writer)
}

func builtinTable() map[string]*Builtin {
	m := map[string]*Builtin{}
	for _, b := range Builtins() {
		m[b.Name] = b
	}
	return m
}

// IsBuiltin reports whether a built-in shortcode has the name.
func IsBuiltin(name string) bool { return builtinTable()[name] != nil }

// Builtins lists the built-in shortcodes by name.
func Builtins() []*Builtin {
	p := func(name string, t block.Type, required bool, deflt string) *block.Field {
		f := &block.Field{Name: name, Type: t, Required: required}
		if deflt != "" {
			f.Default = block.Value{Type: t, Text: deflt}
		}
		return f
	}
	return []*Builtin{
		{Name: "crumbs", Set: "paths", About: "The way from the home page to this one, as a list of links.",
			Sample: "@{crumbs /}", OfPage: true, run: crumbs},
		{Name: "image", Set: "media", About: "An image with its alternative text.",
			Sample: "@{image src=\"/assets/logo.svg\" alt=\"The logo\" width=320 /}",
			Params: []*block.Field{p("src", block.Image, true, ""), p("alt", block.Text, false, ""),
				p("width", block.Number, false, ""), p("height", block.Number, false, ""),
				p("lazy", block.Switch, false, "true")}, run: image},
		{Name: "menu", Set: "paths", About: "A menu as nested lists; the link to the current page is marked.",
			Sample: "@{menu name=\"main\" /}", Params: []*block.Field{p("name", block.Menu, true, "")},
			OfPage: true, run: menu},
		{Name: "pages", Set: "paths", About: "A list of the pages under a path.",
			Sample: "@{pages under=\"/\" limit=5 /}", Params: []*block.Field{p("under", block.Page, true, ""),
				p("sort", block.Text, false, "title"), p("limit", block.Number, false, "")}, run: pages},
		{Name: "url", Set: "paths", About: "The address of a page of this site.",
			Sample: "<a href=\"@{url page=\"/\" /}\">Home</a>",
			Params: []*block.Field{p("page", block.Page, true, "")}, run: url},
		{Name: "year", Set: "dates", About: "The year in which the site is published.", Sample: "@{year /}",
			run: year},
	}
}

// writer is what a built-in works with: its arguments and where it stands.
type writer struct {
	params  []*block.Field
	args    []block.Value
	address string
	scope   *scope
}

func (w *writer) arg(name string) block.Value {
	for i, p := range w.params {
		if p.Name == name {
			return w.args[i]
		}
	}
	return block.Value{}
}

func (w *writer) text(name string) string { return w.arg(name).Text }

func (b *Builtin) render(r *renderer, n *markup.Node, sc *scope, address string) {
	mark := len(r.values)
	w := &writer{params: b.Params, args: r.slots(len(b.Params)), address: address, scope: sc}
	defer func() { r.values = r.values[:min(mark, len(r.values))] }()
	for i, f := range b.Params {
		v := f.Default
		if a, ok := n.Arg(f.Name); ok {
			given, err := r.argument(f, a, sc)
			if err != nil {
				r.fault(Fault{Code: "wrong-type", Address: address, Message: err.Error()})
			} else if given.IsSet() {
				v = given
			}
		}
		if f.Required && v.Empty() {
			r.fault(Fault{Code: "missing-value", Address: address, Message: b.Name + " needs the argument " +
				f.Name})
			return
		}
		w.args[i] = v
	}
	b.run(r, w)
}

func (r *renderer) put(s ...string) {
	for _, t := range s {
		r.buf = append(r.buf, t...)
	}
}

// published returns the page at an address unless it is a draft.
func (s *Shelf) published(url string) *Info {
	if in := s.Page(url); in != nil && !in.Page.Draft {
		return in
	}
	return nil
}

func year(r *renderer, _ *writer) { r.put(strconv.Itoa(r.s.now.Year())) }

func url(r *renderer, w *writer) {
	r.buf = block.Append(r.buf, w.arg("page"), markup.InURL)
}

func image(r *renderer, w *writer) {
	r.put(`<img src="`)
	r.buf = block.Append(r.buf, w.arg("src"), markup.InURL)
	r.put(`" alt="`, html.EscapeString(w.text("alt")), `"`)
	for _, k := range []string{"width", "height"} {
		if v := w.text(k); v != "" {
			r.put(" ", k, `="`, v, `"`)
		}
	}
	if w.text("lazy") == "true" {
		r.put(` loading="lazy"`)
	}
	r.put(">")
}

func menu(r *renderer, w *writer) {
	name := w.text("name")
	r.menus = append(r.menus, name)
	m := r.s.Menu(name)
	if m == nil {
		meant := ""
		if b := w.scope.block; b != nil && b.Field(name) >= 0 {
			meant = ", or write name=(" + name + ") for the value of the field " + name
		}
		r.fault(Fault{Code: "missing-menu", Address: w.address, Message: "there is no menu " + name +
			"; make menus/" + name + ".yaml or choose another" + meant})
		return
	}
	if marked(m.Items, r.info.URL) {
		r.alone = true
	} else {
		r.asked(ask{menu: m})
		if m.Calm != "" {
			r.put(m.Calm)
			return
		}
	}
	r.menuList(m.Items, `<ul class="menu">`, w.address, "menus/"+name+".yaml")
}

// MenusShown lists the menus that each published page shows, in the order of their
// addresses.
func (s *Shelf) MenusShown() [][]string {
	var paths []string
	for _, p := range s.PagePaths() {
		if s.Info(p).Listed {
			paths = append(paths, p)
		}
	}
	out := make([][]string, len(paths))
	Parallel(len(paths), func(i int) {
		in := s.Info(paths[i])
		r := reused(s, in, nil)
		r.page()
		out[i] = append([]string{}, r.menus...)
		renderers.Put(r)
	})
	return out
}

// marked reports whether one of the items is marked on the page at an address: it
// leads there, or to a page above.
func marked(items []place.MenuItem, here string) bool {
	for i := range items {
		if it := &items[i]; it.LeadsTo(here) || it.LeadsAbove(here) || marked(it.Items, here) {
			return true
		}
	}
	return false
}

// menuList shows the items of a menu that stand in a list. address is that of what the
// list stands in: the menu or an item of it, by which the calls in panels are told.
func (r *renderer) menuList(items []place.MenuItem, open, address, doc string) {
	if len(items) == 0 {
		return
	}
	r.put(open)
	here := r.info.URL
	for i := range items {
		it, at := &items[i], ""
		if it.Panel != nil || place.Panelled(it.Items) {
			at = address + "/item~" + strconv.Itoa(i+1)
		}
		if it.To == "" {
			r.put("<li><span>", it.Shown, "</span>")
		} else {
			r.put(`<li><a href="`, it.Href)
			switch {
			case it.LeadsTo(here):
				r.put(`" aria-current="page`)
			case it.LeadsAbove(here):
				r.put(`" class="within`)
			}
			if it.NewTab {
				r.put(`" target="_blank" rel="noopener`)
			}
			r.put(`">`, it.Shown, "</a>")
		}
		r.menuList(it.Items, "<ul>", at, doc)
		if it.Panel != nil {
			r.put(`<div class="panel">`)
			r.nodes(it.Panel.Nodes, &scope{src: it.Panel.Src, address: at, menu: doc})
			r.put("</div>")
		}
		r.put("</li>")
	}
	r.put("</ul>")
}

func crumbs(r *renderer, _ *writer) {
	here := r.info.Page.URL
	r.alone = true
	r.put(`<ol class="crumbs">`)
	for i := 0; i < len(here); i++ {
		if here[i] != '/' || i == len(here)-1 {
			continue
		}
		if in := r.s.published(here[:i+1]); in != nil {
			r.link(in.Page)
		}
	}
	r.put(`<li aria-current="page">`, html.EscapeString(r.info.Page.Title), "</li></ol>")
}

func (r *renderer) link(g *place.Page) {
	r.put(`<li><a href="`)
	r.buf = block.Append(r.buf, block.Value{Type: block.Link, Text: g.URL}, markup.InURL)
	r.put(`">`, html.EscapeString(g.Title), "</a></li>")
}

func pages(r *renderer, w *writer) {
	under := w.text("under")
	var list []*place.Page
	for _, p := range r.s.PagePaths() {
		if in := r.s.Info(p); in.Listed && strings.HasPrefix(in.Page.URL, under) && in.Page.URL != under {
			list = append(list, in.Page)
		}
	}
	if w.text("sort") == "title" {
		sort.SliceStable(list, func(i, j int) bool { return list[i].Title < list[j].Title })
	}
	if n, err := strconv.Atoi(w.text("limit")); err == nil && n >= 0 && n < len(list) {
		list = list[:n]
	}
	r.put(`<ul class="pages">`)
	for _, g := range list {
		r.link(g)
	}
	r.put("</ul>")
}

// Names are all names that can be called: blocks and shortcodes, those that are
// switched off too.
func (s *Shelf) Names() []string {
	var out []string
	for _, p := range s.Paths("blocks/") {
		if n, ok := strings.CutSuffix(p, ".html"); ok {
			out = append(out, strings.TrimPrefix(n, "blocks/"))
		}
	}
	return append(out, s.shortcodes()...)
}

// Unresolved explains why a name cannot be called, with the nearest right one.
func (s *Shelf) Unresolved(name string) string {
	if s.SetOff(name) != "" {
		return s.missing(name)
	}
	return s.missing(name) + block.Nearest(name, s.Names())
}

// missing is Unresolved without a look at all other names.
func (s *Shelf) missing(name string) string {
	if set := s.SetOff(name); set != "" {
		return name + " is in the set " + set +
			", which is switched off; switch it on, or take this call away"
	}
	return "there is no block or shortcode " + name
}

// Signature lists the fields or parameters of a block or shortcode. It reports
// false for one that cannot be called.
func (s *Shelf) Signature(name string) ([]*block.Field, bool) {
	if s.Block(name) == nil && (s.SetOff(name) != "" || s.SetOf(name) == "") {
		return nil, false
	}
	return s.Parameters(name), true
}

// Parameters lists the fields or parameters of a block or shortcode, whether or not
// it can be called.
func (s *Shelf) Parameters(name string) []*block.Field {
	if b := s.Block(name); b != nil {
		return b.Fields
	}
	if b := s.builtins[name]; b != nil {
		return b.Params
	}
	if c := s.Script(name); c != nil {
		return c.Params
	}
	return nil
}

// MenuNames lists the menus by name.
func (s *Shelf) MenuNames() []string {
	var out []string
	for _, p := range s.Paths("menus/") {
		if m, ok := s.entry(p).parsed.(*place.Menu); ok {
			out = append(out, m.Name)
		}
	}
	return out
}

// Panels lists the texts in the panels of a menu.
func (s *Shelf) Panels(menu string) []*markup.Text {
	var out []*markup.Text
	var walk func(items []place.MenuItem)
	walk = func(items []place.MenuItem) {
		for _, it := range items {
			if it.Panel != nil {
				out = append(out, it.Panel)
			}
			walk(it.Items)
		}
	}
	if m := s.Menu(menu); m != nil {
		walk(m.Items)
	}
	return out
}

// PanelCalls lists what the panels of menus call.
func (s *Shelf) PanelCalls() []string {
	var out []string
	for _, p := range s.Paths("menus/") {
		if m, ok := s.entry(p).parsed.(*place.Menu); ok {
			out = append(out, menuNames(m.Items)...)
		}
	}
	return out
}
