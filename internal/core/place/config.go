package place

import (
	"reflect"
	"strconv"
	"strings"

	"brickshelf/internal/core/block"
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
	NoSitemap bool // none is made when the site is published
	Fields    []*block.Field
	SetsOff   []string // sets of shortcodes that are switched off
	// Cookie names the cookie by which a server of the site tells that a visitor is
	// signed in.
	Cookie string
	// Undo is how many edits back undo reaches, and an edit can be taken back.
	Undo int
	// Part is set where the tree is a part of a site, on its way into another. PageFields are
	// the fields of pages that it reads.
	Part       bool
	PageFields []*block.Field
}

// UndoSteps is how far back undo reaches where a site does not say it.
const UndoSteps = 1000

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

// ParseConfig reads site.yaml.
func ParseConfig(src []byte, r *block.Reader) (*Config, site.Problems) {
	c := &Config{Home: "/", Cookie: "signed-in", Undo: UndoSteps}
	h := &block.Head{Path: "site.yaml", Reader: r}
	y, problem := site.ParseYAML(src, "site.yaml", 1)
	if problem != nil {
		return c, site.Problems{*problem}
	}
	format := ""
	h.Keys(y, "site.yaml", []string{"format", "name", "base_url", "home", "exact_urls", "sitemap", "fields", "audiences",
		"sets_off", "history", "part", "page_fields"}, func(p site.Pair) {
		switch p.Key {
		case "format":
			format = h.String(p)
			if format != Format {
				h.Fail(p.Value.Line, p.Value.Col, "format", "the format is %q; this program reads %s", format,
					Format)
			}
		case "name":
			c.Name = h.String(p)
		case "base_url":
			c.BaseURL = strings.TrimSuffix(h.String(p), "/")
		case "home":
			c.Home = h.String(p)
			if !strings.HasPrefix(c.Home, "/") {
				h.Fail(p.Value.Line, p.Value.Col, "wrong-type",
					"home should be the address of a page, as in /")
			}
		case "sitemap":
			c.NoSitemap = !h.Bool(p)
		case "exact_urls":
			c.ExactURLs = h.Bool(p)
		case "fields":
			c.Fields = h.Fields(p.Value)
		case "audiences":
			h.Keys(p.Value, "audiences", []string{"cookie"}, func(k site.Pair) { c.Cookie = h.String(k) })
			if c.Cookie == "" || strings.Trim(c.Cookie,
				"abcdefghijklmnopqrstuvwxyzABCDEFGHIJKLMNOPQRSTUVWXYZ0123456789-_.") != "" {
				h.Fail(p.Value.Line, p.Value.Col, "wrong-type",
					"audiences should be written as {cookie: NAME}, the name of letters, digits, hyphens, underscores and dots")
			}
		case "sets_off":
			c.SetsOff = h.Strings(p)
		case "history":
			h.Keys(p.Value, "history", []string{"edits"}, func(k site.Pair) {
				n, err := strconv.Atoi(k.Value.Text)
				if err != nil || k.Value.Kind != site.Number || n < 20 || n > 100_000 {
					h.Fail(k.Value.Line, k.Value.Col, "wrong-type",
						"edits should be how many of them can be undone, a whole number from 20 to 100000")
					return
				}
				c.Undo = n
			})
		case "part":
			c.Part = h.Bool(p)
		case "page_fields":
			c.PageFields = h.Fields(p.Value)
		}
	})
	if at := y.Get("page_fields"); at != nil && !c.Part {
		h.Fail(at.Line, at.Col, "unknown-key",
			"the fields of pages are declared in layouts; only a part of a site says here which it reads")
	}
	if format == "" && len(h.Problems) == 0 {
		h.Fail(1, 1, "format", "site.yaml should begin with format: %s", Format)
	}
	return c, h.Problems
}

// SameAddresses reports whether pages have the same addresses under two configurations,
// whatever else differs.
func (c *Config) SameAddresses(o *Config) bool {
	return c.ExactURLs == o.ExactURLs && c.Home == o.Home
}
