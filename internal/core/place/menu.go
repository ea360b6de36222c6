package place

import (
	"html"
	"strings"

	"brickshelf/internal/core/block"
	"brickshelf/internal/core/markup"
	"brickshelf/internal/core/site"
)

// Menu is a tree of links.
type Menu struct {
	Name  string
	Title string
	Items []MenuItem

	// Calm is how the menu looks where no item is marked, for who renders it to keep; ""
	// where panels depend on the page.
	Calm string
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

	Href  string // the address as it stands in HTML
	Shown string // the icon, label and badge as they stand in HTML
}

// ReadMenu reads a menu's text by itself.
func ReadMenu(src []byte) (*Menu, site.Problems) { return ParseMenu("menu", "menu", src) }

// ParseMenu reads the text of a menu.
func ParseMenu(name, path string, src []byte) (*Menu, site.Problems) {
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
	if !Panelled(m.Items) {
		m.Calm = string(appendCalm(nil, m.Items, MenuOpens))
	}
	return m, h.Problems
}

// Panelled reports whether an item, or one below it, has a panel.
func Panelled(items []MenuItem) bool {
	for i := range items {
		if items[i].Panel != nil || Panelled(items[i].Items) {
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
		h.Keys(it, "a menu item", []string{"label", "to", "badge", "icon", "new_tab", "items", "panel"},
			func(p site.Pair) {
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
		m.Href = string(block.Append(nil, block.Value{Type: block.Link, Text: m.To}, markup.InURL))
		if m.Icon != "" {
			m.Shown = `<img class="icon" src="` +
				string(block.Append(nil, block.Value{Type: block.Image, Text: m.Icon}, markup.InURL)) +
				`" alt=""> `
		}
		m.Shown += html.EscapeString(m.Label)
		if m.Badge != "" {
			m.Shown += ` <span class="badge">` + html.EscapeString(m.Badge) + "</span>"
		}
		if m.Label == "" {
			h.Fail(it.Line, it.Col, "missing-key", "a menu item needs a label")
		}
		out = append(out, m)
	}
	return out
}

// MenuOpens is the tag with which a menu begins.
const MenuOpens = `<ul class="menu">`

// appendCalm writes the items of a menu without panels, none of them marked.
func appendCalm(out []byte, items []MenuItem, open string) []byte {
	if len(items) == 0 {
		return out
	}
	out = append(out, open...)
	for i := range items {
		out = items[i].AppendLink(append(out, "<li>"...), "")
		out = append(appendCalm(out, items[i].Items, "<ul>"), "</li>"...)
	}
	return append(out, "</ul>"...)
}

// AppendLink writes what an item shows, as it does on the page at an address: its label, and
// where it leads.
func (it *MenuItem) AppendLink(out []byte, here string) []byte {
	if it.To == "" {
		return append(append(append(out, "<span>"...), it.Shown...), "</span>"...)
	}
	out = append(append(out, `<a href="`...), it.Href...)
	switch {
	case it.LeadsTo(here):
		out = append(out, `" aria-current="page`...)
	case it.LeadsAbove(here):
		out = append(out, `" class="within`...)
	}
	if it.NewTab {
		out = append(out, `" target="_blank" rel="noopener`...)
	}
	return append(append(append(out, `">`...), it.Shown...), "</a>"...)
}

// LeadsTo reports whether the item leads to the page at an address.
func (it *MenuItem) LeadsTo(here string) bool { return it.To == here }

// LeadsAbove reports whether the item leads to a page above the one at an address.
func (it *MenuItem) LeadsAbove(here string) bool {
	return it.To != "/" && strings.HasSuffix(it.To, "/") && strings.HasPrefix(here, it.To)
}
