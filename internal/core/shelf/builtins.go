package shelf

import (
	"brickshelf/internal/core/block"
	"brickshelf/internal/core/script"
)

// Year is what a built-in reads that shows another thing in another year.
const Year = "year"

// Builtin is a shortcode that the program brings along.
type Builtin struct {
	Name   string
	Set    string
	About  string
	Sample string
	Params []*block.Field
	// Reads is what its output depends on besides its arguments: of what scripts may read,
	// and Year.
	Reads []string
}

// Besides what scripts may read: the content of pictures, and the region in which something stands.
const (
	Pictures = "pictures"
	Place    = "place"
)

// builtins are the built-in shortcodes by name.
var builtins = []*Builtin{
	{Name: "crumbs", Set: "paths", About: "The way from the home page to this one, as a list of links.",
		Sample: "@{crumbs /}", Reads: []string{script.Page, script.Pages}},
	{Name: "image", Set: "media", About: "An image with its alternative text. A JPEG or PNG is made as small as its width, or that of its region, needs.",
		Sample: "@{image src=\"/assets/logo.svg\" alt=\"The logo\" width=320 /}", Reads: []string{Pictures, Place},
		Params: []*block.Field{
			{Name: "src", Type: block.Image, Required: true},
			{Name: "alt", Type: block.Text},
			{Name: "name", Type: block.Text, Label: "Name in the tool", Help: "Visitors do not see it."},
			{Name: "width", Type: block.Number},
			{Name: "height", Type: block.Number},
			{Name: "lazy", Type: block.Switch, Default: block.Value{Type: block.Switch, Text: "true"}},
		}},
	{Name: "menu", Set: "paths", About: "A menu as nested lists; the link to the current page is marked.",
		Sample: "@{menu name=\"main\" /}", Reads: []string{script.Page, script.Menus},
		Params: []*block.Field{
			{Name: "name", Type: block.Menu, Required: true},
			{Name: "buttons", Type: block.Switch, Default: block.Value{Type: block.Switch, Text: "false"}},
		}},
	{Name: "pages", Set: "paths", About: "A list of the pages under a path.",
		Sample: "@{pages under=\"/\" limit=5 /}", Reads: []string{script.Pages},
		Params: []*block.Field{
			{Name: "under", Type: block.Page, Required: true},
			{Name: "sort", Type: block.Text, Default: block.Value{Type: block.Text, Text: "title"}},
			{Name: "limit", Type: block.Number},
		}},
	{Name: "url", Set: "paths", About: "The address of a page of this site.",
		Sample: "<a href=\"@{url page=\"/\" /}\">Home</a>",
		Params: []*block.Field{{Name: "page", Type: block.Page, Required: true}}},
	{Name: "year", Set: "dates", About: "The year in which the site is published.",
		Sample: "@{year /}", Reads: []string{Year}},
}

var builtinsByName = func() map[string]*Builtin {
	m := map[string]*Builtin{}
	for _, b := range builtins {
		m[b.Name] = b
	}
	return m
}()

// Builtins lists the built-in shortcodes by name.
func Builtins() []*Builtin { return builtins }

// BuiltinOf is the built-in shortcode of a name, or nil.
func BuiltinOf(name string) *Builtin { return builtinsByName[name] }

// ReadsOf reports whether what it shows depends on something.
func (b *Builtin) ReadsOf(what string) bool {
	for _, r := range b.Reads {
		if r == what {
			return true
		}
	}
	return false
}

// builtinsReading lists the names of the built-ins whose output depends on something.
func builtinsReading(what string) []string {
	var out []string
	for _, b := range builtins {
		if b.ReadsOf(what) {
			out = append(out, b.Name)
		}
	}
	return out
}

// ShowsMenus reports whether a call of a name shows a menu and what the panels of that call.
func (s *Shelf) ShowsMenus(name string) bool {
	b := BuiltinOf(name)
	return b != nil && b.ReadsOf(script.Menus) && s.Block(name) == nil
}
