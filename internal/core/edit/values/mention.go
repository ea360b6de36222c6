package values

import (
	"bytes"
	"slices"
	"strings"

	"brickshelf/internal/core/block"
	"brickshelf/internal/core/edit"
	"brickshelf/internal/core/markup"
	"brickshelf/internal/core/patch"
	"brickshelf/internal/core/place"
	"brickshelf/internal/core/render"
	"brickshelf/internal/core/shelf"
	"brickshelf/internal/core/site"
)

// Mention is a spot where a document gives a field of a block a value: an argument of a
// call, an override of a page, what a rule sets.
type Mention struct {
	Path    string // the document
	Page    string // the address of the page; "" where the document is none
	Address string // of an override, or of a call in a page's text; "" elsewhere
	Field   string
	Text    string // the value as a person types it
	Derived bool   // an expression, whose value is another one on each page

	Call *markup.Node // whose argument it is, in the document's own text; nil elsewhere

	keys []string // of an override or what a rule sets: where it stands in the YAML
	text []string // of a call: where the YAML text stands that holds it; nil in the document's own text
	step string   // of a call: its step
	at   int      // and the offset just inside its tag
	arg  int      // and that of the argument's name
}

// Within tells of an argument of a call that does not stand in the document's own text under which
// keys the text stands that holds it, or, after "panel", what the panels of a menu say that do;
// and its step there. Elsewhere under is nil.
func (m *Mention) Within() (under []string, step string) { return m.text, m.step }

// Mentions lists where documents give fields of a block values, of those fields that
// want takes. Menus' panels are told of too, and can only be edited as text.
func Mentions(s *shelf.Shelf, name string, want func(field string) bool) []Mention {
	var out []Mention
	for _, path := range s.Paths("") {
		src, _ := s.Get(path)
		class, doc, _ := site.Classify(path)
		switch class {
		case site.PageDoc:
			if in := s.Info(path); in != nil {
				out = append(out, mentionsOf(s, in.Page, name, want)...)
			}
		case site.BlockDoc:
			if b := s.Block(doc); b != nil {
				out = append(out, argumentsIn(path, b.Text, b.Split.TextAt, nil, name, want)...)
				out = append(out, argumentsIn(path, markup.Parse([]byte(b.Sample)), 0, []string{"sample"},
					name, want)...)
			}
		case site.LayoutDoc:
			if l := s.Layout(doc); l != nil {
				out = append(out, argumentsIn(path, l.Text, l.Split.TextAt, nil, name, want)...)
				for _, region := range edit.SortedKeys(l.StartsWith) {
					out = append(out, argumentsIn(path, markup.Parse([]byte(l.StartsWith[region])), 0,
						[]string{"starts_with", region}, name, want)...)
				}
			}
		case site.RuleDoc:
			i := slices.IndexFunc(s.Rules(), func(r *place.Rule) bool { return r.Path == path })
			if i < 0 || s.Rules()[i].Block != name {
				continue
			}
			for _, set := range s.Rules()[i].Set {
				if want(set.Field) {
					out = append(out, Mention{Path: path, Field: set.Field, Text: typedRaw(set.Raw),
						keys: []string{"set", set.Field}})
				}
			}
		case site.MenuDoc:
			if bytes.Contains(src, []byte("@{"+name)) {
				out = append(out, mentionsInPanels(path, src, name, want)...)
			}
		}
	}
	for i := range out {
		if out[i].Page == "" { // addresses are those of pages
			out[i].Address = ""
		}
	}
	return out
}

func argumentsIn(path string, t *markup.Text, shift int, text []string, name string,
	want func(string) bool) []Mention {
	var out []Mention
	markup.Walk(t.Nodes, func(n *markup.Node) bool {
		if n.Kind != markup.Call || n.Name != name {
			return true
		}
		for _, a := range n.Args {
			if a.Name == "key" || !want(a.Name) {
				continue
			}
			m := Mention{Path: path, Field: a.Name, Text: a.Value.Text,
				Derived: a.Value.Kind == markup.ArgExpr, text: text, step: n.Step, at: shift + n.Head.From + len("@{") + 1,
				arg: shift + a.At}
			if a.Value.Kind == markup.ArgJSON || m.Derived {
				m.Text = string(t.Src[a.Value.Span.From:a.Value.Span.To])
			}
			if text == nil {
				m.Call = n
			}
			if text == nil && n.Container != "" {
				m.Address = n.Container + "/" + n.Step
			}
			out = append(out, m)
		}
		return true
	})
	return out
}

func mentionsOf(s *shelf.Shelf, g *place.Page, name string, want func(string) bool) []Mention {
	out := argumentsIn(g.Path, g.Text, g.Split.TextAt, nil, name, want)
	for _, a := range edit.SortedKeys(g.Copies) {
		out = append(out, argumentsIn(g.Path, g.Copies[a].Text, 0, []string{"copies", a, "text"}, name,
			want)...)
	}
	var stands map[string]string
	for _, a := range edit.SortedKeys(g.Overrides) {
		for _, p := range g.Overrides[a] {
			if !want(p.Key) {
				continue
			}
			if stands == nil {
				stands = standsAt(s, g.Path)
			}
			if blockAt(s, stands, a) == name {
				out = append(out, Mention{Path: g.Path, Address: a, Field: p.Key,
					Text: typedRaw(block.Raw(p.Value)), keys: []string{"overrides", a, p.Key}})
			}
		}
	}
	for i := range out {
		out[i].Page = g.URL
	}
	return out
}

// standsAt tells which block stands at which address of a page, whoever sees it.
func standsAt(s *shelf.Shelf, path string) map[string]string {
	out := map[string]string{}
	for _, p := range render.Placements(s, path) {
		if p.Kind == render.Linked {
			out[p.Address] = p.Block
		}
	}
	return out
}

// blockAt is the block that an address speaks of, also where it is not shown: on another
// day, or since its call is gone. "" where that cannot be told.
func blockAt(s *shelf.Shelf, stands map[string]string, address string) string {
	if b := stands[address]; b != "" {
		return b
	}
	if rule := shelf.RuleOf(address); rule != "" {
		for _, r := range s.Rules() {
			if r.Name == rule {
				return r.Block
			}
		}
		return ""
	}
	name, _, numbered := strings.Cut(address[strings.LastIndexByte(address, '/')+1:], "~")
	if numbered && s.Block(name) != nil {
		return name
	}
	return ""
}

// typedRaw writes a raw value as a person types it.
func typedRaw(raw any) string {
	switch t := raw.(type) {
	case nil:
		return ""
	case string:
		return t
	}
	return patch.Flow(raw)
}

// say gives each mention another value, nil none; value tells which, and false leaves it
// alone.
func say(d *edit.Texts, list []Mention, field func(Mention) *block.Field, value func(Mention) (*string,
	bool)) error {
	// From the end on, so that offsets in a text hold.
	ordered := slices.Clone(list)
	slices.SortStableFunc(ordered, func(a, b Mention) int { return b.arg - a.arg })
	p := panels{}
	for _, m := range ordered {
		v, ok := value(m)
		if !ok {
			continue
		}
		src, f := d.Get(m.Path), field(m)
		var err error
		switch {
		case m.keys != nil && v == nil:
			src, err = patch.Set(m.Path, src, m.keys, nil)
		case m.keys != nil:
			var typed block.Value
			if typed, err = Typed(block.Verbatim, f, *v); err == nil {
				src, err = patch.Set(m.Path, src, m.keys, typed.Plain())
			}
		case m.text == nil:
			src, err = SetArgument(src, m.at, f, v)
		case m.text[0] == "panel":
			src, err = p.edit(m.Path, src, m.text[1], func(text []byte) ([]byte, error) {
				return SetArgument(text, m.at, f, v)
			})
		default:
			src, err = inText(m.Path, src, m.text, func(text []byte) ([]byte, error) {
				return SetArgument(text, m.at, f, v)
			})
		}
		if err != nil {
			return site.Refuse("%s: %v", m.Path, err)
		}
		d.Put(m.Path, src)
	}
	return nil
}

// inText edits a text that stands under a key of a document's YAML.
func inText(path string, src []byte, keys []string, change func([]byte) ([]byte, error)) ([]byte, error) {
	split, bad := site.Cut(src)
	if bad != "" {
		return nil, site.Refuse("%s", bad)
	}
	y, problem := site.ParseYAML(split.Head, path, 1)
	if problem != nil {
		return nil, problem
	}
	for _, k := range keys {
		if y = y.Get(k); y == nil {
			return nil, site.Refuse("%s is gone", strings.Join(keys, ", "))
		}
	}
	text, err := change([]byte(y.Text))
	if err != nil {
		return nil, err
	}
	return patch.Set(path, src, keys, string(text))
}

// panels knows what the panels of menus that were edited say now, by document and what
// they said.
type panels map[[2]string]string

// edit edits every panel of a menu that had some text.
func (p panels) edit(path string, src []byte, was string, change func([]byte) ([]byte, error)) ([]byte,
	error) {
	panel, known := p[[2]string{path, was}]
	if !known {
		panel = was
	}
	items, err := patch.MenuItems(src)
	if err != nil {
		return nil, err
	}
	var walk func(items []patch.MenuItem)
	walk = func(items []patch.MenuItem) {
		for i := range items {
			if items[i].Panel == panel && err == nil {
				var text []byte
				text, err = change([]byte(panel))
				items[i].Panel = string(text)
				p[[2]string{path, was}] = string(text)
			}
			walk(items[i].Items)
		}
	}
	if walk(items); err != nil {
		return nil, err
	}
	return patch.SetMenu(src, items)
}

// mentionsInPanels are those in the panels of a menu, each text that panels have once.
func mentionsInPanels(path string, src []byte, name string, want func(field string) bool) []Mention {
	items, err := patch.MenuItems(src)
	if err != nil {
		return nil
	}
	var out []Mention
	seen := map[string]bool{"": true}
	var walk func(items []patch.MenuItem)
	walk = func(items []patch.MenuItem) {
		for _, it := range items {
			if !seen[it.Panel] {
				seen[it.Panel] = true
				out = append(out, argumentsIn(path, markup.Parse([]byte(it.Panel)), 0,
					[]string{"panel", it.Panel}, name, want)...)
			}
			walk(it.Items)
		}
	}
	walk(items)
	return out
}
