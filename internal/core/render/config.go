package render

import (
	"html"
	"reflect"
	"strings"

	"brickshelf/internal/core/block"
	"brickshelf/internal/core/markup"
	"brickshelf/internal/core/site"
)

// Format is the name of the format of a shelf folder.
const Format = "brickshelf/1"

// Config is what site.yaml says.
type Config struct {
	Name      string
	BaseURL   string
	Home      string
	ExactURLs bool
	Fields    []*block.Field
	SetsOff   []string // sets of shortcodes that are switched off
	// Cookie names the cookie by which a server of the site tells that a visitor is
	// signed in.
	Cookie string
}

// OnlySets reports whether two configurations differ in nothing but the sets that
// are switched off.
func OnlySets(a, b *Config) bool {
	x, y := *a, *b
	x.SetsOff, y.SetsOff = nil, nil
	x.Fields, y.Fields = placeless(x.Fields), placeless(y.Fields)
	return reflect.DeepEqual(x, y)
}

// placeless copies fields without where they stand.
func placeless(fields []*block.Field) []*block.Field {
	var out []*block.Field
	for _, f := range fields {
		c := *f
		c.Line, c.Column, c.DefaultAt, c.Fields = 0, 0, [2]int{}, placeless(f.Fields)
		out = append(out, &c)
	}
	return out
}

// Field returns the site-wide value of the given name.
func (c *Config) Field(name string) block.Value {
	switch name {
	case "name":
		return block.Value{Type: block.Text, Text: c.Name}
	case "base_url", "base-url":
		return block.Value{Type: block.Link, Text: c.BaseURL}
	}
	for _, f := range c.Fields {
		if f.Name == name {
			return f.Default
		}
	}
	return block.Value{}
}

func parseConfig(src []byte, r *block.Reader) (*Config, site.Problems) {
	c := &Config{Home: "/", Cookie: "signed-in"}
	h := &block.Head{Path: "site.yaml", Reader: r}
	y, problem := site.ParseYAML(src, "site.yaml", 1)
	if problem != nil {
		return c, site.Problems{*problem}
	}
	format := ""
	h.Keys(y, "site.yaml", []string{"format", "name", "base_url", "home", "exact_urls", "fields", "audiences", "sets_off"}, func(p site.Pair) {
		switch p.Key {
		case "format":
			format = h.String(p)
			if format != Format {
				h.Fail(p.Value.Line, p.Value.Col, "format", "the format is %q; this program reads %s", format, Format)
			}
		case "name":
			c.Name = h.String(p)
		case "base_url":
			c.BaseURL = strings.TrimSuffix(h.String(p), "/")
		case "home":
			c.Home = h.String(p)
			if !strings.HasPrefix(c.Home, "/") {
				h.Fail(p.Value.Line, p.Value.Col, "wrong-type", "home should be the address of a page, as in /")
			}
		case "exact_urls":
			c.ExactURLs = h.Bool(p)
		case "fields":
			c.Fields = h.Fields(p.Value)
		case "audiences":
			h.Keys(p.Value, "audiences", []string{"cookie"}, func(k site.Pair) { c.Cookie = h.String(k) })
			if c.Cookie == "" || strings.Trim(c.Cookie, "abcdefghijklmnopqrstuvwxyzABCDEFGHIJKLMNOPQRSTUVWXYZ0123456789-_.") != "" {
				h.Fail(p.Value.Line, p.Value.Col, "wrong-type", "audiences should be written as {cookie: NAME}, the name of letters, digits, hyphens, underscores and dots")
			}
		case "sets_off":
			c.SetsOff = h.Strings(p)
		}
	})
	if format == "" && len(h.Problems) == 0 {
		h.Fail(1, 1, "format", "site.yaml should begin with format: %s", Format)
	}
	return c, h.Problems
}

// Menu is a tree of links.
type Menu struct {
	Name  string
	Title string
	Items []MenuItem

	calm string // how it looks where no item is marked; "" where panels depend on the page
}

// MenuItem is one entry of a menu. Panel is markup shown beneath it.
type MenuItem struct {
	Label  string
	To     string
	Badge  string
	Icon   string // address of an image, "" for none
	NewTab bool
	Items  []MenuItem
	Panel  *markup.Text
	Line   int
	Col    int
	// PanelAt is the line and column of the panel, 0 where there is none.
	PanelAt [2]int

	href  string // the address and the label as they stand in HTML
	label string
}

// ReadMenu reads a menu's text by itself.
func ReadMenu(src []byte) (*Menu, site.Problems) { return parseMenu("menu", "menu", src) }

func parseMenu(name, path string, src []byte) (*Menu, site.Problems) {
	m := &Menu{Name: name, Title: name}
	h := &block.Head{Path: path}
	y, problem := site.ParseYAML(src, path, 1)
	if problem != nil {
		return m, site.Problems{*problem}
	}
	h.Keys(y, "a menu", []string{"title", "items"}, func(p site.Pair) {
		switch p.Key {
		case "title":
			m.Title = h.String(p)
		case "items":
			m.Items = menuItems(h, p.Value)
		}
	})
	if !panelled(m.Items) {
		r := &renderer{info: &Info{}}
		r.menuList(m.Items, `<ul class="menu">`, "", "")
		m.calm = string(r.buf)
	}
	return m, h.Problems
}

func panelled(items []MenuItem) bool {
	for i := range items {
		if items[i].Panel != nil || panelled(items[i].Items) {
			return true
		}
	}
	return false
}

func menuItems(h *block.Head, y *site.YAML) []MenuItem {
	if y.Kind != site.Sequence {
		h.Fail(y.Line, y.Col, "wrong-type", "items should be a list, as in - {label: Fares, to: /fares/}")
		return nil
	}
	var out []MenuItem
	for _, it := range y.Items {
		m := MenuItem{Line: it.Line, Col: it.Col}
		h.Keys(it, "a menu item", []string{"label", "to", "badge", "icon", "new_tab", "items", "panel"}, func(p site.Pair) {
			switch p.Key {
			case "label":
				m.Label = h.String(p)
			case "to":
				m.To = h.String(p)
			case "badge":
				m.Badge = h.String(p)
			case "icon":
				m.Icon = h.String(p)
			case "new_tab":
				m.NewTab = h.Bool(p)
			case "items":
				m.Items = menuItems(h, p.Value)
			case "panel":
				m.Panel, m.PanelAt = markup.Parse([]byte(h.String(p))), [2]int{p.Value.Line, p.Value.Col}
				h.Apart(m.Panel, p.Value.Line, p.Value.Col, "this panel")
			}
		})
		m.href = string(block.Append(nil, block.Value{Type: block.Link, Text: m.To}, markup.InURL))
		if m.Icon != "" {
			m.label = `<img class="icon" src="` + string(block.Append(nil, block.Value{Type: block.Image, Text: m.Icon}, markup.InURL)) + `" alt=""> `
		}
		m.label += html.EscapeString(m.Label)
		if m.Badge != "" {
			m.label += ` <span class="badge">` + html.EscapeString(m.Badge) + "</span>"
		}
		if m.Label == "" {
			h.Fail(it.Line, it.Col, "missing-key", "a menu item needs a label")
		}
		out = append(out, m)
	}
	return out
}
