package render

import (
	"html"
	"sort"
	"strconv"
	"strings"

	"brickshelf/internal/core/block"
	"brickshelf/internal/core/markup"
	"brickshelf/internal/core/picture"
	"brickshelf/internal/core/place"
	"brickshelf/internal/core/shelf"
)

// runs shows the built-in shortcodes, by name.
var runs map[string]func(r *renderer, w *writer)

func init() { // panels of menus call built-ins again
	runs = map[string]func(r *renderer, w *writer){
		"crumbs": crumbs, "image": image, "menu": menu, "pages": pages, "url": url, "year": year,
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

func (r *renderer) builtin(b *shelf.Builtin, n *markup.Node, sc *scope, address string) {
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
	runs[b.Name](r, w)
}

func (r *renderer) put(s ...string) {
	for _, t := range s {
		r.buf = append(r.buf, t...)
	}
}

// published returns the page at an address unless it is a draft.
func published(s *shelf.Shelf, url string) *shelf.Info {
	if in := s.Page(url); in != nil && !in.Page.Draft {
		return in
	}
	return nil
}

func year(r *renderer, _ *writer) { r.put(strconv.Itoa(r.s.Now().Year())) }

func url(r *renderer, w *writer) {
	r.buf = block.Append(r.buf, w.arg("page"), markup.InURL)
}

func image(r *renderer, w *writer) {
	width, height := w.text("width"), w.text("height")
	fits := r.fitted(w.text("src"), width)
	r.put(`<img src="`)
	if fits == nil {
		r.buf = block.Append(r.buf, w.arg("src"), markup.InURL)
		r.put(`"`)
	} else {
		r.put(fits.src, `"`)
		if fits.twice != "" {
			r.put(` srcset="`, fits.src, " 1x, ", fits.twice, ` 2x"`)
		}
		width = strconv.Itoa(fits.width)
		if height == "" {
			height = strconv.Itoa(fits.height)
		}
	}
	r.put(` alt="`, html.EscapeString(w.text("alt")), `"`)
	if width != "" {
		r.put(` width="`, width, `"`)
	}
	if height != "" {
		r.put(` height="`, height, `"`)
	}
	if w.text("lazy") == "true" {
		r.put(` loading="lazy"`)
	}
	r.put(">")
}

// fitting is a picture made for the place where it is shown: its address, that of one for screens of
// twice the density, "" where there are no more pixels, and its size there.
type fitting struct {
	src, twice    string
	width, height int
}

// fitted makes a picture of the site fit its width, or else that of the region in which it stands; nil
// for what is shown as it is: what has no more pixels than it needs, and what is no such picture.
func (r *renderer) fitted(src, width string) *fitting {
	p, hash := r.s.Picture(src)
	if p == nil {
		return nil
	}
	wide, err := strconv.Atoi(width)
	if width == "" {
		wide = r.info.RegionWidth(r.within) // what is kept of one page is shown by those of its layout alone
	} else if err != nil {
		return nil
	}
	if wide < 1 || p.Width <= wide {
		return nil
	}
	at := func(width int) string { return "/_shelf/" + picture.Name(hash, width, p.Ext) }
	out := &fitting{src: at(wide), width: wide, height: p.HeightAt(wide)}
	if p.Width >= 2*wide {
		out.twice = at(2 * wide)
	} else {
		out.twice = at(p.Width)
	}
	return out
}

func menu(r *renderer, w *writer) {
	name, buttons := w.text("name"), w.text("buttons") == "true"
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
	if marked(m.Items, r.info.URL) || place.Limited(m.Items) {
		r.alone = true
	} else {
		r.asked(ask{menu: m})
		if m.Calm != "" && !buttons {
			r.put(m.Calm)
			return
		}
	}
	r.menuList(m.Items, place.MenuOpens, w.address, "menus/"+name+".yaml", buttons)
}

// MenusShown lists the menus that each published page shows, in the order of their
// addresses.
func MenusShown(s *shelf.Shelf) [][]string {
	var paths []string
	for _, p := range s.PagePaths() {
		if s.Info(p).Listed {
			paths = append(paths, p)
		}
	}
	out := make([][]string, len(paths))
	shelf.Parallel(len(paths), func(i int) {
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
func (r *renderer) menuList(items []place.MenuItem, open, address, doc string, buttons bool) {
	audience := shelf.SignedOut
	if r.info.Member() {
		audience = shelf.SignedIn
	}
	none := true
	for i := range items {
		it, at := &items[i], ""
		if !it.Running(r.s.Now(), audience) {
			continue
		}
		if none {
			r.put(open)
			none = false
		}
		if it.Panel != nil || place.Panelled(it.Items) {
			at = address + "/item~" + strconv.Itoa(i+1)
		}
		r.buf = it.AppendLink(append(r.buf, it.Opens()...), r.info.URL)
		if buttons && (it.Panel != nil || len(it.Items) > 0) {
			r.put(`<button type="button" class="opens" aria-expanded="false" aria-label="`,
				html.EscapeString(it.Label), `" hidden></button>`)
		}
		r.menuList(it.Items, "<ul>", at, doc, buttons)
		if it.Panel != nil {
			r.put(`<div class="panel">`)
			r.nodes(it.Panel.Nodes, &scope{src: it.Panel.Src, address: at, menu: doc})
			r.put("</div>")
		}
		r.put("</li>")
	}
	if !none {
		r.put("</ul>")
	}
}

func crumbs(r *renderer, _ *writer) {
	here := r.info.Page.URL
	r.alone = true
	r.put(`<ol class="crumbs">`)
	for i := 0; i < len(here); i++ {
		if here[i] != '/' || i == len(here)-1 {
			continue
		}
		if in := published(r.s, here[:i+1]); in != nil {
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
