package patch

import (
	"reflect"
	"regexp"
	"strconv"
	"strings"

	"brickshelf/internal/core/site"
)

// MenuItem is an entry of a menu as it is to be. Was names the entry of the text that
// it comes from by the way there, as 0.2 for the third under the first; "" is a new one.
type MenuItem struct {
	Label, To, Badge, Note, Icon, IconSize, Image string
	Audience, From, Until, Panel                  string
	NewTab                                        bool
	Was                                           string
	Items                                         []MenuItem
}

// SetMenu gives a menu other items. Entries that stay as they were are kept as they are
// written, with the comments above them, wherever they stand now.
func SetMenu(src []byte, items []MenuItem) ([]byte, error) {
	y, problem := site.ParseYAML(src, "", 1)
	if problem != nil {
		return nil, problem
	}
	w := &menuWriter{lines: strings.SplitAfter(string(src), "\n"), nl: Newline(src),
		known: map[string]oldItem{}}
	from, to := extent(w.lines, y, "items")
	comment := ""
	if old := y.Get("items"); old == nil {
		from = len(w.lines)
	} else {
		w.read(old, "", from)
		comment = w.commentAt(from)
		if last := w.lastOf(old); last >= 0 { // comments behind the list stay where they are
			to = last
		}
	}
	body := "items:" + comment + w.nl + w.write(items, 2)
	if len(items) == 0 {
		body = "items: []" + comment + w.nl
	}
	head := strings.Join(w.lines[:from], "")
	if head != "" && !strings.HasSuffix(head, "\n") {
		head += w.nl
	}
	out := head + body + strings.Join(w.lines[to:], "")
	after, problem := site.ParseYAML([]byte(out), "", 1)
	if problem != nil || !reflect.DeepEqual(itemsOf(after.Get("items")), strip(items)) {
		return nil,
			site.Refuse("this menu is written in a way that cannot be edited here; edit it in the text")
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

// commentAt is the comment behind what stands on a line and holds none, with a blank before.
func (w *menuWriter) commentAt(line int) string {
	l := strings.TrimRight(w.lines[line], "\r\n")
	at := 0
	for at < len(l) {
		switch {
		case l[at] == '#' && (at == 0 || l[at-1] == ' ' || l[at-1] == '\t'):
			return " " + l[at:]
		case l[at] == '"' || l[at] == '\'' && !(at > 0 && isWord(l[at-1])):
			if end := scalarEnd(l, at, false); end > at {
				at = end
				continue
			}
		}
		at++
	}
	return ""
}

func isWord(c byte) bool { return c >= 'a' && c <= 'z' || c >= 'A' && c <= 'Z' || c >= '0' && c <= '9' }

// lastOf is where the lines of a list's last entry end, -1 where it has none of its own.
func (w *menuWriter) lastOf(list *site.YAML) int {
	if len(list.Items) == 0 {
		return -1
	}
	o := w.known[strconv.Itoa(len(list.Items)-1)]
	if o.from < 0 {
		return -1
	}
	return o.to
}

// patched is an entry with other values and what stands under it, written as it was but for
// those. It reports false where that cannot be.
func (w *menuWriter) patched(o oldItem, it MenuItem, indent int) (string, bool) {
	if o.from < 0 || o.children > 0 && o.itemsAt < 0 {
		return "", false
	}
	first, stop := o.from, o.to
	for first < o.to && isComment(w.lines[first]) {
		first++
	}
	if o.itemsAt >= 0 {
		stop = o.itemsAt
	}
	if stop <= first {
		return "", false
	}
	text := strings.Repeat(" ", o.column) + "  " + strings.Join(w.lines[first:stop], "")[o.column+2:]
	if !strings.HasSuffix(text, "\n") {
		text += w.nl
	}
	was := valuesOf(o.item)
	for _, key := range menuKeys {
		value := valuesOf(it).get(key)
		if reflect.DeepEqual(value, was.get(key)) {
			continue
		}
		y, problem := site.ParseYAML([]byte(text), "", 1)
		if problem != nil {
			return "", false
		}
		e := &keyEdit{text: text, nl: w.nl, lines: strings.SplitAfter(text, "\n")}
		text = e.set(y, []string{key}, value, menuKeys,
			insideBraces(text, y, e.lines))
	}
	y, problem := site.ParseYAML([]byte(text), "", 1)
	if problem != nil || !sameValues(itemOf(y), it) || y.Get("items") != nil && o.children > 0 ||
		strings.TrimSpace(text[:o.column+2]) != "" {
		return "", false
	}
	if len(it.Items) > 0 && insideBraces(text, y, strings.SplitAfter(text, "\n")) {
		return "", false
	}
	text = text[:o.column] + "- " + text[o.column+2:]
	out := w.shifted(o.from, first, indent-o.column)
	if first == o.from {
		out = ""
	}
	moved := &menuWriter{lines: strings.SplitAfter(text, "\n"), nl: w.nl}
	out += moved.shifted(0, len(moved.lines)-1, indent-o.column) // behind the last line end is nothing
	if len(it.Items) > 0 {
		comment := ""
		if o.itemsAt >= 0 {
			comment = w.commentAt(o.itemsAt)
		}
		out += strings.Repeat(" ", indent+2) + "items:" + comment + w.nl + w.write(it.Items, indent+4)
	}
	return out, true
}

type menuWriter struct {
	lines []string
	nl    string
	known map[string]oldItem
}

// read notes the entries of a list with the lines that they take, behind a line.
func (w *menuWriter) read(list *site.YAML, way string, behind int) {
	if list == nil {
		return
	}
	last := behind + 1
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
			for o.from > last && isComment(w.lines[o.from-1]) {
				o.from--
			}
			last = o.to
		}
		if sub := it.Get("items"); sub != nil {
			o.children = len(sub.Items)
			if n := len(it.Pairs); it.Pairs[n-1].Key == "items" && o.from >= 0 &&
				!strings.HasPrefix(bare, "- {") {
				o.itemsAt = it.Pairs[n-1].Line - 1
			}
		}
		key := way + strconv.Itoa(i)
		w.known[key] = o
		if sub := it.Get("items"); sub != nil {
			at := o.itemsAt
			if at < 0 {
				at = max(0, sub.Line-1)
			}
			w.read(sub, key+".", at)
		}
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
	a.Was, a.Items, b.Was, b.Items = "", nil, "", nil
	return reflect.DeepEqual(a, b)
}

func (w *menuWriter) write(items []MenuItem, indent int) string {
	var b strings.Builder
	for _, it := range items {
		o, known := w.known[it.Was]
		if w.same(it) {
			b.WriteString(w.shifted(o.from, o.to, indent-o.column))
			continue
		}
		if known {
			if text, ok := w.patched(o, it, indent); ok {
				b.WriteString(text)
				continue
			}
		}
		if len(it.Items) == 0 {
			b.WriteString(strings.Repeat(" ", indent) + "- " + Flow(valuesOf(it)) + w.nl)
			continue
		}
		lead := strings.Repeat(" ", indent) + "- "
		for _, v := range valuesOf(it) {
			b.WriteString(lead + v.Key + ": " + Flow(v.Value) + w.nl)
			lead = strings.Repeat(" ", indent+2)
		}
		b.WriteString(lead + "items:" + w.nl + w.write(it.Items, indent+4))
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

func valuesOf(it MenuItem) Entries {
	out := Entries{}
	texts := it.texts()
	for _, key := range menuKeys {
		switch at := texts[key]; {
		case key == "new_tab":
			if it.NewTab {
				out = out.With(key, true)
			}
		case key == "icon_size" && digits.MatchString(*at):
			out = out.With(key, Literal(*at))
		case *at != "" || key == "label":
			out = out.With(key, *at)
		}
	}
	return out
}

var digits = regexp.MustCompile("^[1-9][0-9]*$")

// menuKeys are the keys of an entry but for what stands under it, in the order in which they are written.
var menuKeys = []string{"label", "to", "badge", "note", "icon", "icon_size", "image", "new_tab", "audience",
	"from", "until", "panel"}

// texts are the values of an entry that are texts, by key.
func (it *MenuItem) texts() map[string]*string {
	return map[string]*string{"label": &it.Label, "to": &it.To, "badge": &it.Badge, "note": &it.Note,
		"icon": &it.Icon, "icon_size": &it.IconSize, "image": &it.Image, "audience": &it.Audience, "from": &it.From,
		"until": &it.Until, "panel": &it.Panel}
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
	var it MenuItem
	for key, at := range it.texts() {
		if v := y.Get(key); v != nil {
			*at = v.Text
		}
	}
	if v := y.Get("new_tab"); v != nil {
		it.NewTab = v.Text == "true"
	}
	return it
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

// PanelAt is what the panel of a menu says in which something stands at an address, which names
// the items around as item~1, item~2; "" where there is none.
func PanelAt(src []byte, address string) string {
	items, err := MenuItems(src)
	if err != nil {
		return ""
	}
	panel := ""
	for step := range strings.SplitSeq(address, "/") {
		n, named := strings.CutPrefix(step, "item~")
		if i, err := strconv.Atoi(n); named && err == nil && i >= 1 && i <= len(items) {
			panel, items = items[i-1].Panel, items[i-1].Items
		}
	}
	return panel
}

// SetPanel gives every item of a menu whose panel says one thing a panel that says another.
func SetPanel(src []byte, was, is string) ([]byte, error) {
	items, err := MenuItems(src)
	if err != nil {
		return nil, err
	}
	var walk func(items []MenuItem)
	walk = func(items []MenuItem) {
		for i := range items {
			if items[i].Panel == was {
				items[i].Panel = is
			}
			walk(items[i].Items)
		}
	}
	walk(items)
	return SetMenu(src, items)
}
