package shelf

import (
	"strings"

	"brickshelf/internal/core/block"
	"brickshelf/internal/core/markup"
	"brickshelf/internal/core/place"
	"brickshelf/internal/core/script"
)

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
		return s.Missing(name)
	}
	return s.Missing(name) + block.Nearest(name, s.Names())
}

// missing is Unresolved without a look at all other names.
func (s *Shelf) Missing(name string) string {
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
	if b := BuiltinOf(name); b != nil {
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

// Script returns the scripted shortcode of a name, or nil.
func (s *Shelf) Script(name string) *script.Script {
	if e := s.entry("shortcodes/" + name + ".js"); e != nil {
		c, _ := e.parsed.(*script.Script)
		return c
	}
	return nil
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
	if b := BuiltinOf(name); b != nil {
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

// RuleOf is the rule that an address's last step names, or "".
func RuleOf(address string) string {
	last := address[strings.LastIndexByte(address, '/')+1:]
	if r, ok := strings.CutPrefix(last, "rule:"); ok {
		return r
	}
	return ""
}
