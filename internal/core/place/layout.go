package place

import (
	"bytes"
	"unicode/utf8"

	"brickshelf/internal/core/block"
	"brickshelf/internal/core/markup"
	"brickshelf/internal/core/site"
)

// Mode says how many things stand in a region.
type Mode string

// A One region shows exactly one thing, a Stack region all of them in order.
const (
	One   Mode = "one"
	Stack Mode = "stack"
)

// Region is a place in a layout that pages and rules fill.
type Region struct {
	Name  string
	Mode  Mode
	Width int // hint for images, in CSS pixels; 0 where there is none
	// Default is set where the layout has content for it that shows where nothing
	// else stands there.
	Default bool
}

// Layout is a page type: regions, page fields and the HTML around them.
type Layout struct {
	Name       string
	Path       string
	Title      string
	Regions    []Region
	PageFields []*block.Field
	StartsWith map[string]string
	StartsAt   map[string][2]int // line and column of each
	Split      site.Split
	Text       *markup.Text
	// Fixed is set where the layout shows the same regions on every page: nothing
	// in it stands under a condition or in a loop.
	Fixed bool
}

// Region returns the region of the given name, or nil.
func (l *Layout) Region(name string) *Region {
	for i := range l.Regions {
		if l.Regions[i].Name == name {
			return &l.Regions[i]
		}
	}
	return nil
}

// PageField returns the page field of the given name, or nil.
func (l *Layout) PageField(name string) *block.Field {
	for _, f := range l.PageFields {
		if f.Name == name {
			return f
		}
	}
	return nil
}

// ParseLayout reads a layout.
func ParseLayout(name, path string, src []byte, r *block.Reader) (*Layout, site.Problems) {
	l := &Layout{Name: name, Path: path, Title: name}
	h := &block.Head{Path: path, Reader: r}
	if !utf8.Valid(src) {
		h.Fail(1, 1, "encoding", "a layout should be UTF-8; save the file in that encoding")
		l.Text = markup.Parse(nil)
		return l, h.Problems
	}
	split, y := h.Document(src)
	l.Split = split
	h.Keys(y, "a layout", []string{"title", "regions", "page_fields", "starts_with"}, func(p site.Pair) {
		switch p.Key {
		case "title":
			l.Title = h.String(p)
		case "regions":
			l.regions(h, p)
		case "page_fields":
			l.PageFields = h.Fields(p.Value)
		case "starts_with":
			l.StartsWith, l.StartsAt = map[string]string{}, map[string][2]int{}
			if p.Value.Kind != site.Mapping {
				h.Fail(p.Value.Line, p.Value.Col, "wrong-type",
					"starts_with should be written as REGION: text")
				return
			}
			for _, s := range p.Value.Pairs {
				l.StartsWith[s.Key], l.StartsAt[s.Key] = h.String(s), [2]int{s.Value.Line, s.Value.Col}
			}
		}
	})
	l.Text = h.Markup(split)
	l.place(h, split)
	return l, h.Problems
}

func (l *Layout) regions(h *block.Head, p site.Pair) {
	if p.Value.Kind != site.Mapping {
		h.Fail(p.Value.Line, p.Value.Col, "wrong-type", "regions should be written as NAME: {mode: stack}")
		return
	}
	for _, rp := range p.Value.Pairs {
		reg := Region{Name: rp.Key, Mode: Stack}
		if !markup.ValidName(rp.Key) || rp.Key == "layout" {
			h.Fail(rp.Line, rp.Col, "bad-name",
				"%q cannot name a region; use lower-case letters, digits and hyphens, and not layout", rp.Key)
			continue
		}
		h.Keys(rp.Value, "the region "+rp.Key, []string{"mode", "width"}, func(k site.Pair) {
			switch k.Key {
			case "mode":
				reg.Mode = Mode(h.String(k))
				if reg.Mode != One && reg.Mode != Stack {
					h.Fail(k.Value.Line, k.Value.Col, "wrong-type", "the mode of a region is one or stack")
					reg.Mode = Stack
				}
			case "width":
				w, ok := positive(k.Value.Text)
				if !ok {
					h.Fail(k.Value.Line, k.Value.Col, "wrong-type", "width should be a number of pixels")
				}
				reg.Width = w
			}
		})
		l.Regions = append(l.Regions, reg)
	}
}

// place holds the regions of the text against those of the front matter.
func (l *Layout) place(h *block.Head, split site.Split) {
	l.Fixed = true
	seen := map[string]bool{}
	fail := func(at int, code, format string, args ...any) {
		h.Problems = append(h.Problems, site.At(split, h.Path, at, site.Invalid, code, format, args...))
	}
	block.CheckNames(h, split, l.Text, nil, func(n *markup.Node) {
		switch n.Kind {
		case markup.When, markup.Each:
			l.Fixed = false
		case markup.Region:
			if l.Region(n.Name) == nil {
				l.Regions = append(l.Regions, Region{Name: n.Name, Mode: Stack})
			}
			for i := range l.Regions {
				if l.Regions[i].Name == n.Name {
					n.Index = i
					l.Regions[i].Default = l.shows(n.Body)
				}
			}
			if seen[n.Name] {
				fail(n.Span.From, "duplicate-region", "the region %s stands here for a second time", n.Name)
			}
			if n.Loops > 0 {
				fail(n.Span.From, "bad-place", "a region cannot stand in a loop")
			}
			seen[n.Name] = true
		case markup.Fill, markup.Copy, markup.Inner:
			fail(n.Span.From, "bad-place", "this belongs into a page, not into a layout")
		}
	})
	for _, r := range l.Regions {
		if !seen[r.Name] {
			h.Fail(max(split.HeadLine, 1), 1, "missing-region",
				"the region %s is declared and stands nowhere in the text; write @{region %s /} where it belongs", r.Name, r.Name)
		}
	}
}

// shows reports whether nodes hold more than white space and comments.
func (l *Layout) shows(nodes []*markup.Node) bool {
	for _, n := range nodes {
		if n.Kind != markup.Comment && (n.Kind != markup.Literal ||
			len(bytes.TrimSpace(l.Text.Src[n.Span.From:n.Span.To])) > 0) {
			return true
		}
	}
	return false
}

func positive(s string) (int, bool) {
	n := 0
	for i := 0; i < len(s); i++ {
		if s[i] < '0' || s[i] > '9' || n > 1e8 {
			return 0, false
		}
		n = n*10 + int(s[i]-'0')
	}
	return n, s != ""
}
