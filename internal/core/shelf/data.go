package shelf

import (
	"encoding/json"

	"brickshelf/internal/core/place"
	"brickshelf/internal/core/script"
	"brickshelf/internal/core/site"
)

// asJSON is v as JSON; what is made of texts, numbers, lists and mappings always
// has such a form.
func JSON(v any) []byte {
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
func (s *Shelf) PageRecord(in *Info, own bool) pageRecord {
	p := pageRecord{Path: in.URL, Title: in.Page.Title, Layout: in.Page.Layout,
		Tags: append([]string{}, in.Page.Tags...), Fields: map[string]any{}}
	if own {
		for name, v := range in.Fields {
			p.Fields[name] = v.Plain()
		}
	}
	return p
}

func (s *Shelf) SiteRecord() []byte {
	fields := map[string]any{}
	for _, f := range s.config.Fields {
		fields[f.Name] = f.Default.Plain()
	}
	return JSON(map[string]any{"name": s.config.Name, "base_url": s.config.BaseURL, "home": s.config.Home,
		"fields": fields})
}

// siteData is what scripts may read of all pages, menus or assets, made once.
func (s *Shelf) SiteData(what string) *script.Data {
	if s.base != nil && !s.all && !s.dataChanged[what] {
		return s.base.SiteData(what)
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
				list = append(list, s.PageRecord(in, true))
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
	b := JSON(v)
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
		out = append(out, map[string]any{"label": it.Label, "to": it.To, "badge": it.Badge, "note": it.Note,
			"icon": it.Icon, "image": it.Image, "audience": it.Audience, "from": it.From, "until": it.Until,
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
		if o.base.SiteData(what).Hash == o.SiteData(what).Hash {
			o.dataChanged[what] = false
			continue
		}
		out = append(out, names...)
	}
	return out
}
