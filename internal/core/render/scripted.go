package render

import (
	"bytes"
	"encoding/json"
	"html"
	"strings"
	"time"
	"unicode/utf8"

	"brickshelf/internal/core/block"
	"brickshelf/internal/core/markup"
	"brickshelf/internal/core/place"
	"brickshelf/internal/core/script"
	"brickshelf/internal/core/site"
)

// NewScripted is New for a site whose scripted shortcodes are run by runner.
// Without one, their calls show nothing and are at fault.
func NewScripted(files site.Files, now time.Time, runner script.Runner) *Shelf {
	s := New(files, now)
	s.runner = runner
	return s
}

// Script returns the scripted shortcode of a name, or nil.
func (s *Shelf) Script(name string) *script.Script {
	if e := s.entry("shortcodes/" + name + ".js"); e != nil {
		c, _ := e.parsed.(*script.Script)
		return c
	}
	return nil
}

// runScript shows what a scripted shortcode gives at a call.
func (r *renderer) runScript(c *script.Script, n *markup.Node, sc *scope, address string) {
	if r.listing {
		r.list(c.Name)
	}
	if r.s.runner == nil {
		r.fault(Fault{Code: "not-run", Address: address,
			Message: "scripted shortcodes are not run here, so " + c.Name + " shows nothing"})
		return
	}
	call := r.s.scriptCall(c, r.info, !r.strip)
	if call.Page != nil {
		r.alone = true
	}
	mark := len(r.values)
	defer func() { r.values = r.values[:min(mark, len(r.values))] }()
	values, own := r.bind(c.Called, address, n, nil, sc)
	var given bool
	if call.Args, given = scriptArgs(c, values); !given {
		return
	}
	at := r.begin(Placement{Address: address, Block: c.Name, Kind: Linked, Via: r.via(n, nil, sc),
		InText: sc.own && sc.loops == nil && n.Context == markup.InText && sc.pageText, Own: own})
	defer func() { r.end(at) }()
	from, traced := len(r.buf), 0
	if r.trace != nil {
		traced = len(*r.trace)
	}
	if c.Encloses && len(n.Body) > 0 {
		r.nodes(n.Body, sc)
		call.Inner = bytes.Clone(r.buf[from:])
		r.buf = r.buf[:from]
	}
	if !utf8.Valid(call.Inner) {
		r.fault(Fault{Code: "script-failed", Address: address,
			Message: "what this call encloses is not UTF-8, and " + c.Name +
				" cannot read it; save the page in that encoding"})
		return
	}
	out, failure := r.s.runner.Run(call)
	if failure != nil {
		r.fault(Fault{Code: "script-failed", Address: address, Message: failure.Error()})
	} else if out.HTML {
		r.buf = append(r.buf, out.Text...)
	} else {
		r.buf = append(r.buf, html.EscapeString(out.Text)...)
	}
	if r.trace != nil {
		r.enclosedPlacements((*r.trace)[traced:], from, call.Inner)
	}
}

// scriptCall is a call of a script on a page, without its arguments and what it
// encloses. own is false where the page's own values are left out.
func (s *Shelf) scriptCall(c *script.Script, in *Info, own bool) script.Call {
	call := script.Call{Script: c, Site: s.siteRecord(), Data: map[string]*script.Data{},
		Now: s.now.UTC().Truncate(24 * time.Hour).Format(time.RFC3339)}
	for _, what := range c.Reads {
		if what == script.Page {
			call.Page = asJSON(s.record(in, own))
		} else {
			call.Data[what] = s.siteData(what)
		}
	}
	return call
}

// TryScript runs a script, which need not be one of the site, as a call on the page
// at an address would; where there is none, on the home page.
func (s *Shelf) TryScript(c *script.Script, args map[string]any, inner []byte, page string) (script.Output,
	*script.Failure) {
	in := s.Page(page)
	if in == nil {
		in = s.Page(s.config.Home)
	}
	if in == nil {
		in = &Info{Page: &place.Page{}}
	}
	if s.runner == nil {
		return script.Output{}, &script.Failure{Path: c.Path, Line: 1, Column: 1,
			Message: "scripted shortcodes are not run here"}
	}
	call := s.scriptCall(c, in, true)
	call.Args, call.Inner = asJSON(args), inner
	return s.runner.Run(call)
}

// enclosedPlacements puts the placements of enclosed content where the script has put
// that, which is nowhere if it shows it changed.
func (r *renderer) enclosedPlacements(inside []Placement, from int, inner []byte) {
	at := -1
	if len(inner) > 0 {
		at = bytes.Index(r.buf[from:], inner)
	}
	for i := range inside {
		if p := &inside[i]; at >= 0 {
			p.From += at
			p.To += at
		} else {
			p.From, p.To = from, from
		}
	}
}

// scriptArgs gives the arguments of a call as a JSON object. It reports false
// where a required one is missing.
func scriptArgs(c *script.Script, values []block.Value) ([]byte, bool) {
	args := map[string]any{}
	for i, f := range c.Params {
		if f.Required && values[i].Empty() {
			return nil, false
		}
		if values[i].IsSet() {
			args[f.Name] = values[i].Plain()
		}
	}
	return asJSON(args), true
}

// asJSON is v as JSON; what is made of texts, numbers, lists and mappings always
// has such a form.
func asJSON(v any) []byte {
	b, err := json.Marshal(v)
	if err != nil {
		return []byte("null")
	}
	return b
}

type pageRecord struct {
	Path   string         `json:"path"`
	Title  string         `json:"title"`
	Layout string         `json:"layout"`
	Tags   []string       `json:"tags"`
	Fields map[string]any `json:"fields"`
}

// record is what a script gets to read of a page.
func (s *Shelf) record(in *Info, own bool) pageRecord {
	p := pageRecord{Path: in.URL, Title: in.Page.Title, Layout: in.Page.Layout,
		Tags: append([]string{}, in.Page.Tags...), Fields: map[string]any{}}
	if own {
		for name, v := range in.fields {
			p.Fields[name] = v.Plain()
		}
	}
	return p
}

func (s *Shelf) siteRecord() []byte {
	fields := map[string]any{}
	for _, f := range s.config.Fields {
		fields[f.Name] = f.Default.Plain()
	}
	return asJSON(map[string]any{"name": s.config.Name, "base_url": s.config.BaseURL, "home": s.config.Home,
		"fields": fields})
}

// siteData is what scripts may read of all pages, menus or assets, made once.
func (s *Shelf) siteData(what string) *script.Data {
	if s.base != nil && !s.all && !s.dataChanged[what] {
		return s.base.siteData(what)
	}
	s.dataMu.Lock()
	defer s.dataMu.Unlock()
	if d := s.data[what]; d != nil {
		return d
	}
	var v any
	switch what {
	case script.Pages:
		list := []pageRecord{}
		for _, p := range s.PagePaths() {
			if in := s.Info(p); in.Listed {
				list = append(list, s.record(in, true))
			}
		}
		v = list
	case script.Menus:
		menus := map[string]any{}
		for _, p := range s.Paths("menus/") {
			if m, ok := s.entry(p).parsed.(*place.Menu); ok {
				menus[m.Name] = map[string]any{"title": m.Title, "items": menuRecords(m.Items)}
			}
		}
		v = menus
	default:
		list := []string{}
		for _, p := range s.Paths("assets/") {
			list = append(list, "/"+p)
		}
		v = list
	}
	b := asJSON(v)
	d := &script.Data{Hash: site.HashOf(b), JSON: b}
	if s.data == nil {
		s.data = map[string]*script.Data{}
	}
	s.data[what] = d
	return d
}

func menuRecords(items []place.MenuItem) []any {
	out := []any{}
	for _, it := range items {
		out = append(out, map[string]any{"label": it.Label, "to": it.To, "badge": it.Badge,
			"new_tab": it.NewTab, "items": menuRecords(it.Items)})
	}
	return out
}

// readers lists the scripts that read something of a site.
func (o *Shelf) readers(what string) []string {
	var out []string
	take := func(name string) {
		if c := o.Script(name); c != nil && c.ReadsOf(what) {
			out = append(out, name)
		}
	}
	for name := range o.base.index.scripts {
		take(name)
	}
	for p := range o.docs {
		if class, name, _ := site.Classify(p); class == site.ShortcodeDoc && !o.base.index.scripts[name] {
			take(name)
		}
	}
	return out
}

// dataReach notes what of Pages, Menus and Assets an overlay's changes touch, and
// gives the scripts that read it.
func (o *Shelf) dataReach() []string {
	o.dataChanged = map[string]bool{}
	for p := range o.docs {
		class, _, _ := site.Classify(p)
		switch class {
		case site.PageDoc:
			o.dataChanged[script.Pages] = true
		case site.MenuDoc:
			o.dataChanged[script.Menus] = true
		case site.LayoutDoc:
			o.dataChanged[script.Pages] = true // it says of which types pages' fields are
		case site.AssetDoc:
			o.dataChanged[script.Assets] = true
		}
	}
	var out []string
	for what := range o.dataChanged {
		names := o.readers(what)
		if len(names) == 0 {
			continue
		}
		if o.base.siteData(what).Hash == o.siteData(what).Hash {
			o.dataChanged[what] = false
			continue
		}
		out = append(out, names...)
	}
	return out
}

// SetOff is the set that a shortcode belongs to where that is switched off, or "".
func (s *Shelf) SetOff(name string) string {
	set := s.SetOf(name)
	for _, o := range s.config.SetsOff {
		if o == set {
			return o
		}
	}
	return ""
}

// SetOf is the set of a built-in or scripted shortcode, or "".
func (s *Shelf) SetOf(name string) string {
	if b := s.builtins[name]; b != nil {
		return b.Set
	}
	if c := s.Script(name); c != nil {
		return c.Set
	}
	return ""
}

// InSet lists the shortcodes of a set, by name.
func (s *Shelf) InSet(set string) []string {
	var out []string
	for _, n := range s.shortcodes() {
		if s.SetOf(n) == set {
			out = append(out, n)
		}
	}
	return out
}

// shortcodes lists the built-in and scripted shortcodes.
func (s *Shelf) shortcodes() []string {
	var out []string
	for _, b := range Builtins() {
		out = append(out, b.Name)
	}
	for _, p := range s.Paths("shortcodes/") {
		if _, ok := s.entry(p).parsed.(*script.Script); ok {
			out = append(out, strings.TrimSuffix(strings.TrimPrefix(p, "shortcodes/"), ".js"))
		}
	}
	return out
}
