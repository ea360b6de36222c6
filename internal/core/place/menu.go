package place

import (
	"html"
	"strconv"
	"strings"
	"time"

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
	// where panels depend on the page, or items on who sees it and when.
	Calm string
}

// MenuItem is one entry of a menu. Panel is markup shown beneath it.
type MenuItem struct {
	Label string
	To    string
	Badge string
	Icon  string // address of an image, "" for none
	Size  string // of the icon, in pixels, "" for its own
	Image string // address of an image that stands before the label, "" for none
	Note  string // a few words under the label
	// Audience is whom it is for: everyone, signed-in or signed-out.
	Audience    string
	From, Until string // the first and last day on which it stands, "" where there is none
	NewTab      bool
	Items       []MenuItem
	Panel       *markup.Text
	Line        int
	Col         int
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
	if !Panelled(m.Items) && !Limited(m.Items) {
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
		m := MenuItem{Line: it.Line, Col: it.Col, Audience: everyone}
		h.Keys(it, "a menu item", MenuKeys, func(p site.Pair) { m.key(h, p) })
		if m.From != "" && m.Until != "" && m.Until < m.From {
			h.Fail(it.Line, it.Col, "bad-dates", "this entry ends on %s, before it begins on %s", m.Until, m.From)
		}
		m.Href = string(block.Append(nil, block.Value{Type: block.Link, Text: m.To}, markup.InURL))
		m.Shown = m.shown()
		if m.Label == "" {
			h.Fail(it.Line, it.Col, "missing-key", "a menu item needs a label")
		}
		out = append(out, m)
	}
	return out
}

// MenuKeys are the keys of an item, in the order in which they are written.
var MenuKeys = []string{"label", "to", "badge", "note", "icon", "icon_size", "image", "new_tab", "audience",
	"from", "until", "panel", "items"}

func (it *MenuItem) key(h *block.Head, p site.Pair) {
	switch p.Key {
	case "label":
		it.Label = h.String(p)
	case "to":
		it.To = h.String(p)
	case "badge":
		it.Badge = h.String(p)
	case "note":
		it.Note = h.String(p)
	case "icon":
		it.Icon = h.String(p)
	case "icon_size":
		it.Size = h.String(p)
		if n, err := strconv.Atoi(it.Size); err != nil || n < 1 || n > 1000 {
			h.Fail(p.Value.Line, p.Value.Col, "wrong-type", "icon_size should be a number of pixels, as in 20")
			it.Size = ""
		}
	case "image":
		it.Image = h.String(p)
	case "new_tab":
		it.NewTab = h.Bool(p)
	case "audience":
		it.Audience = audienceOf(h, p)
	case "from":
		it.From = dayOf(h, p)
	case "until":
		it.Until = dayOf(h, p)
	case "items":
		it.Items = menuItems(h, p.Value)
	case "panel":
		it.Panel, it.PanelAt = markup.Parse([]byte(h.String(p))), [2]int{p.Value.Line, p.Value.Col}
		h.Apart(it.Panel, p.Value.Line, p.Value.Col, "this panel")
	}
}

// shown is what stands in the item's link, as HTML.
func (it *MenuItem) shown() string {
	image := func(class, address, size string) string {
		if address == "" {
			return ""
		}
		out := `<img class="` + class + `" src="` +
			string(block.Append(nil, block.Value{Type: block.Image, Text: address}, markup.InURL)) + `" alt=""`
		if size != "" {
			out += ` width="` + size + `" height="` + size + `"`
		}
		return out + "> "
	}
	out := image("image", it.Image, "") + image("icon", it.Icon, it.Size) + html.EscapeString(it.Label)
	if it.Badge != "" {
		out += ` <span class="badge">` + html.EscapeString(it.Badge) + "</span>"
	}
	if it.Note != "" {
		out += ` <span class="note">` + html.EscapeString(it.Note) + "</span>"
	}
	return out
}

// Running reports whether the item stands for an audience on a day.
func (it *MenuItem) Running(now time.Time, audience string) bool {
	return running(it.Audience, it.From, it.Until, now, audience)
}

// Limited reports whether an item, or one below it, is for an audience or for some days only.
func Limited(items []MenuItem) bool {
	for i := range items {
		it := &items[i]
		if it.Audience != everyone || it.From != "" || it.Until != "" || Limited(it.Items) {
			return true
		}
	}
	return false
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
		out = items[i].AppendLink(append(out, items[i].Opens()...), "")
		out = append(appendCalm(out, items[i].Items, "<ul>"), "</li>"...)
	}
	return append(out, "</ul>"...)
}

// Opens is the tag with which an item begins.
func (it *MenuItem) Opens() string {
	switch {
	case it.Panel != nil && len(it.Items) > 0:
		return `<li class="has-list has-panel">`
	case it.Panel != nil:
		return `<li class="has-panel">`
	case len(it.Items) > 0:
		return `<li class="has-list">`
	}
	return "<li>"
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
