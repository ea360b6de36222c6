package edit

import (
	"reflect"
	"strconv"
	"strings"

	"brickshelf/internal/core/render"
	"brickshelf/internal/core/site"
)

// MenuItem is an entry of a menu as it is to be. Was names the entry of the text that
// it comes from by the way there, as 0.2 for the third under the first; "" is a new one.
type MenuItem struct {
	Label, To, Badge, Icon, Panel string
	NewTab                        bool
	Was                           string
	Items                         []MenuItem
}

// SetMenu gives a menu other items. Entries that stay as they were are kept as they are
// written, with the comments above them, wherever they stand now.
func SetMenu(src []byte, items []MenuItem) ([]byte, error) {
	y, problem := site.ParseYAML(src, "", 1)
	if problem != nil {
		return nil, problem
	}
	w := &menuWriter{lines: strings.SplitAfter(string(src), "\n"), nl: newline(src), known: map[string]oldItem{}}
	w.read(y.Get("items"), "")
	list := w.write(items, 2)
	from, to := extent(w.lines, y, "items")
	if y.Get("items") == nil {
		from = len(w.lines)
	}
	body := "items:" + w.nl + list
	if len(items) == 0 {
		body = "items: []" + w.nl
	}
	head := strings.Join(w.lines[:from], "")
	if head != "" && !strings.HasSuffix(head, "\n") {
		head += w.nl
	}
	out := head + body + strings.Join(w.lines[to:], "")
	after, problem := site.ParseYAML([]byte(out), "", 1)
	if problem != nil || !reflect.DeepEqual(itemsOf(after.Get("items")), strip(items)) {
		return nil, refuse("this menu is written in a way that cannot be edited here; edit it in the text")
	}
	return []byte(out), nil
}

// oldItem is an entry of the text: its values, and the lines from behind the entry
// before it; none where it shares its line with others.
type oldItem struct {
	item     MenuItem
	children int
	from, to int
	column   int

	itemsAt int // the line of the key items, -1 where there is none
}

type menuWriter struct {
	lines []string
	nl    string
	known map[string]oldItem
}

// read notes the entries of a list with the lines that they take.
func (w *menuWriter) read(list *site.YAML, way string) {
	if list == nil {
		return
	}
	last := -1
	for i, it := range list.Items {
		o := oldItem{item: itemOf(it), from: it.Line - 1, to: it.Line, column: it.Col - 1, itemsAt: -1}
		bare := ""
		if it.Line >= 1 && it.Line <= len(w.lines) {
			bare = strings.TrimLeft(w.lines[it.Line-1], " ")
		}
		if !strings.HasPrefix(bare, "- ") || last > it.Line-1 {
			o.from, o.to = -1, -1
		} else {
			dash := len(w.lines[it.Line-1]) - len(bare)
			o.column = dash
			for o.to < len(w.lines) {
				l := strings.TrimRight(w.lines[o.to], "\r\n")
				inner := strings.TrimLeft(l, " ")
				if inner == "" || len(l)-len(inner) <= dash {
					break
				}
				o.to++
			}
			for last >= 0 && o.from > last && isComment(w.lines[o.from-1]) {
				o.from--
			}
			last = o.to
		}
		if sub := it.Get("items"); sub != nil {
			o.children = len(sub.Items)
			if n := len(it.Pairs); it.Pairs[n-1].Key == "items" && o.from >= 0 && !strings.HasPrefix(bare, "- {") {
				o.itemsAt = it.Pairs[n-1].Line - 1
			}
		}
		key := way + strconv.Itoa(i)
		w.known[key] = o
		w.read(it.Get("items"), key+".")
	}
}

func isComment(line string) bool { return strings.HasPrefix(strings.TrimLeft(line, " "), "#") }

// same reports whether an item and all under it are as they were.
func (w *menuWriter) same(it MenuItem) bool {
	o, known := w.known[it.Was]
	if !known || o.from < 0 || !sameValues(o.item, it) || o.children != len(it.Items) {
		return false
	}
	for i, sub := range it.Items {
		if sub.Was != it.Was+"."+strconv.Itoa(i) || !w.sameBelow(sub) {
			return false
		}
	}
	return true
}

// sameBelow is same for an entry that need not have lines of its own.
func (w *menuWriter) sameBelow(it MenuItem) bool {
	o, known := w.known[it.Was]
	if !known || !sameValues(o.item, it) || o.children != len(it.Items) {
		return false
	}
	for i, sub := range it.Items {
		if sub.Was != it.Was+"."+strconv.Itoa(i) || !w.sameBelow(sub) {
			return false
		}
	}
	return true
}

func sameValues(a, b MenuItem) bool {
	return a.Label == b.Label && a.To == b.To && a.Badge == b.Badge && a.Icon == b.Icon && a.Panel == b.Panel && a.NewTab == b.NewTab
}

func (w *menuWriter) write(items []MenuItem, indent int) string {
	var b strings.Builder
	for _, it := range items {
		o := w.known[it.Was]
		switch {
		case w.same(it):
			b.WriteString(w.shifted(o.from, o.to, indent-o.column))
		case it.Was != "" && o.itemsAt >= 0 && len(it.Items) > 0 && sameValues(o.item, it):
			b.WriteString(w.shifted(o.from, o.itemsAt, indent-o.column))
			b.WriteString(strings.Repeat(" ", indent+2) + "items:" + w.nl + w.write(it.Items, indent+4))
		case len(it.Items) == 0:
			b.WriteString(strings.Repeat(" ", indent) + "- " + flowOf(valuesOf(it)) + w.nl)
		default:
			lead := strings.Repeat(" ", indent) + "- "
			for _, v := range valuesOf(it) {
				b.WriteString(lead + v.Key + ": " + flowOf(v.Value) + w.nl)
				lead = strings.Repeat(" ", indent+2)
			}
			b.WriteString(lead + "items:" + w.nl + w.write(it.Items, indent+4))
		}
	}
	return b.String()
}

// shifted gives lines of the text, moved to the right or left.
func (w *menuWriter) shifted(from, to, by int) string {
	var b strings.Builder
	for _, l := range w.lines[from:to] {
		switch bare := strings.TrimLeft(l, " "); {
		case strings.TrimSpace(l) == "":
			b.WriteString(l)
		default:
			b.WriteString(strings.Repeat(" ", max(len(l)-len(bare)+by, 0)) + bare)
		}
	}
	if s := b.String(); !strings.HasSuffix(s, "\n") {
		return s + w.nl
	}
	return b.String()
}

func valuesOf(it MenuItem) entries {
	out := entries{}
	put := func(key string, v any, set bool) {
		if set {
			out = append(out, struct {
				Key   string
				Value any
			}{key, v})
		}
	}
	put("label", it.Label, true)
	put("to", it.To, it.To != "")
	put("badge", it.Badge, it.Badge != "")
	put("icon", it.Icon, it.Icon != "")
	put("new_tab", true, it.NewTab)
	put("panel", it.Panel, it.Panel != "")
	return out
}

// itemsOf reads the items of a menu's YAML.
func itemsOf(y *site.YAML) []MenuItem {
	var out []MenuItem
	if y == nil {
		return nil
	}
	for _, it := range y.Items {
		m := itemOf(it)
		m.Items = itemsOf(it.Get("items"))
		out = append(out, m)
	}
	return out
}

func itemOf(y *site.YAML) MenuItem {
	text := func(key string) string {
		if v := y.Get(key); v != nil {
			return v.Text
		}
		return ""
	}
	return MenuItem{Label: text("label"), To: text("to"), Badge: text("badge"), Icon: text("icon"), Panel: text("panel"), NewTab: text("new_tab") == "true"}
}

// strip leaves out where items come from.
func strip(items []MenuItem) []MenuItem {
	var out []MenuItem
	for _, it := range items {
		it.Was, it.Items = "", strip(it.Items)
		out = append(out, it)
	}
	return out
}

// MenuItems reads a menu's text, each item with its Was.
func MenuItems(src []byte) ([]MenuItem, error) {
	y, problem := site.ParseYAML(src, "", 1)
	if problem != nil {
		return nil, problem
	}
	out := itemsOf(y.Get("items"))
	var name func(items []MenuItem, way string)
	name = func(items []MenuItem, way string) {
		for i := range items {
			items[i].Was = way + strconv.Itoa(i)
			name(items[i].Items, items[i].Was+".")
		}
	}
	name(out, "")
	return out, nil
}

// NewMenu makes a menu.
func NewMenu(s *render.Shelf, name, title string) (site.ChangeSet, error) {
	path := "menus/" + name + ".yaml"
	if err := freeName(s, "menu", path, name); err != nil {
		return site.ChangeSet{}, err
	}
	if title = strings.TrimSpace(title); title == "" {
		title = titled(name)
	}
	home := s.Config().Home
	return site.ChangeSet{Title: "New menu " + title, Changes: []site.Change{{Path: path, After: []byte("title: " + site.PlainYAML(title) + "\nitems:\n  - {label: Home, to: " + home + "}\n")}}}, nil
}

// DeleteMenu deletes a menu. Where it is still shown is told by the impact.
func DeleteMenu(s *render.Shelf, name string) (site.ChangeSet, error) {
	if s.Menu(name) == nil {
		return site.ChangeSet{}, missing("there is no menu %s", name)
	}
	path := "menus/" + name + ".yaml"
	return site.ChangeSet{Title: "Delete the menu " + name, Changes: []site.Change{{Path: path, Before: s.Hash(path), Delete: true}}}, nil
}
