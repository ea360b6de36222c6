package place

import (
	"bytes"
	"slices"
	"strings"

	"golang.org/x/text/encoding"

	"brickshelf/internal/core/block"
	"brickshelf/internal/core/markup"
	"brickshelf/internal/core/site"
)

// Page is one page: front matter and text.
type Page struct {
	Name      string // path without pages/ and .html
	Path      string
	URL       string
	Title     string
	Layout    string // "" for a page that is its text alone
	LayoutAt  [2]int
	Fields    []site.Pair
	Overrides map[string][]site.Pair // by address
	Copies    map[string]*Copy       // by address
	Hidden    map[string]bool        // by address
	Tags      []string
	Draft     bool
	Redirect  string // the address to which it leads on, "" for a page of its own
	Split     site.Split
	Text      *markup.Text
	// Encoding is that of a page that is its text alone and calls something, where it is not UTF-8; else nil.
	Encoding encoding.Encoding

	// Fills is what the page puts into each region.
	Fills Fills
	// Calls are the names that the page's text and copies call, each once;
	// Copied those that it holds one-off copies of.
	Calls  []string
	Copied []string
	// InCopies are the names that the copies in the front matter call.
	InCopies []string
	// Local is set where overrides, copies or hidden name addresses.
	Local bool

	untitled bool // it is called what its own text says, which has no layout around it
	headless bool // the front matter has faults, and what it says is not all known
}

// Fill is what a page's own text puts into a region.
type Fill struct {
	Region   string
	Nodes    []*markup.Node
	Segments []markup.Segment // the same, for rendering
}

// Fills are what a page puts into its regions: few, so that going through them is faster
// than a map.
type Fills []Fill

// Of is what stands in a region, nil where nothing does.
func (f Fills) Of(region string) *Fill {
	for i := range f {
		if f[i].Region == region {
			return &f[i]
		}
	}
	return nil
}

// Copy is a detached copy of a placement that the page's text does not hold.
type Copy struct {
	Of        string
	Base      string
	Style     string
	Behaviour string
	Starts    string // what the behaviour is given where it is started, "" where it runs once for the page
	Needs     string // the behaviours before it
	Text      *markup.Text
	Line      int
	Col       int
}

var pageKeys = []string{"title", "layout", "fields", "overrides", "copies", "hidden", "tags", "draft",
	"redirect"}

// ParsePage reads a page whose address is url.
func ParsePage(name, path, url string, src []byte) (*Page, site.Problems) {
	g := &Page{Name: name, Path: path, URL: url}
	h := &block.Head{Path: path}
	split, bad := site.Cut(src)
	if bad != "" {
		h.Fail(1, 1, "yaml", "%s", bad)
	}
	g.Split = split
	if split.HasHead {
		if !g.plain(split.Head) {
			y, problem := site.ParseYAML(split.Head, path, split.HeadLine)
			if problem != nil {
				h.Problems = append(h.Problems, *problem)
			} else {
				h.Keys(y, "a page", pageKeys, func(p site.Pair) { g.key(h, p) })
			}
		}
	}
	g.Local = len(g.Overrides)+len(g.Copies)+len(g.Hidden) > 0
	g.headless = len(h.Problems) > 0
	g.untitled = g.Title == "" && g.Layout == ""
	return g, g.read(h, markup.Parse(split.Text))
}

// read takes the page's text apart.
func (g *Page) read(h *block.Head, t *markup.Text) site.Problems {
	g.Text = t
	if g.untitled {
		g.Title = titleIn(t.Src)
	}
	if g.Layout == "" && len(t.Nodes) > 1 {
		g.Encoding = site.ForeignEncoding(t.Src)
	}
	for _, e := range g.Text.Errors {
		h.Problems = append(h.Problems, site.At(g.Split, g.Path, e.At, site.Invalid, e.Code, "%s", e.Message))
	}
	g.arrange(h)
	return h.Problems
}

// Check notes what Parse leaves for later, since it costs more: values in
// places where they cannot be made safe, and names that nothing defines.
func (g *Page) Check() site.Problems {
	h := &block.Head{Path: g.Path}
	for _, e := range g.Text.Contexts() {
		h.Problems = append(h.Problems, site.At(g.Split, g.Path, e.At, site.Invalid, e.Code, "%s", e.Message))
	}
	block.CheckNames(h, g.Split, g.Text, nil, func(n *markup.Node) {
		if n.Kind == markup.Region || n.Kind == markup.Assets {
			h.Problems = append(h.Problems, site.At(g.Split, g.Path, n.Span.From, site.Invalid, "bad-place",
				"this belongs into a layout, not into a page; to fill a region write @{fill …}"))
		}
	})
	return h.Problems
}

// plain reads front matter of nothing but simple titles and layouts, which most
// pages have, without the cost of a YAML parser. It reports false, having
// changed nothing, where there is more to it.
func (g *Page) plain(head []byte) bool {
	var title, layout string
	line := 2
	at := [2]int{}
	for len(head) > 0 {
		l, rest, _ := bytes.Cut(head, []byte("\n"))
		head = rest
		key, val, ok := strings.Cut(string(l), ": ")
		if !ok || !plainScalar(val) {
			return false
		}
		switch {
		case key == "title" && title == "":
			title = val
		case key == "layout" && layout == "":
			layout, at = val, [2]int{line, 9}
		default:
			return false
		}
		line++
	}
	g.Title, g.Layout, g.LayoutAt = title, layout, at
	return true
}

// plainScalar reports whether s is a YAML text that stands for itself: letters,
// digits, blanks and a few marks, a letter first, and none of YAML's own words.
func plainScalar(s string) bool {
	if s == "" || len(s) < 5 && strings.Contains("null~truefalseyesnoonoffyn", strings.ToLower(s)) ||
		strings.EqualFold(s, "false") {
		return false
	}
	for i := 0; i < len(s); i++ {
		c := s[i]
		letter := c >= 'a' && c <= 'z' || c >= 'A' && c <= 'Z'
		if !letter && (i == 0 || !(c >= '0' && c <= '9') && strings.IndexByte(" -.,/()", c) < 0) {
			return false
		}
	}
	return s[len(s)-1] != ' '
}

func (g *Page) key(h *block.Head, p site.Pair) {
	v := p.Value
	switch p.Key {
	case "title":
		g.Title = h.String(p)
	case "layout":
		g.Layout, g.LayoutAt = h.String(p), [2]int{v.Line, v.Col}
	case "fields":
		if v.Kind == site.Mapping {
			g.Fields = v.Pairs
		} else if v.Kind != site.Null {
			h.Fail(v.Line, v.Col, "wrong-type", "fields should be written as NAME: value")
		}
	case "tags":
		g.Tags = h.Strings(p)
	case "redirect":
		if p.Value.Kind != site.Text || !strings.HasPrefix(p.Value.Text, "/") {
			h.Fail(p.Value.Line, p.Value.Col, "wrong-type",
				"redirect should be the address of a page, as /fares/")
			return
		}
		g.Redirect = p.Value.Text
	case "draft":
		g.Draft = h.Bool(p)
	case "hidden":
		g.Hidden = map[string]bool{}
		for _, a := range h.Strings(p) {
			g.Hidden[a] = true
		}
	case "overrides":
		g.Overrides = map[string][]site.Pair{}
		g.addresses(h, p, func(a site.Pair) {
			if a.Value.Kind != site.Mapping {
				h.Fail(a.Value.Line, a.Value.Col, "wrong-type",
					"an override should be written as ADDRESS: {FIELD: value}")
				return
			}
			g.Overrides[a.Key] = a.Value.Pairs
		})
	case "copies":
		g.Copies = map[string]*Copy{}
		g.addresses(h, p, func(a site.Pair) { g.copy(h, a) })
	}
}

func (g *Page) addresses(h *block.Head, p site.Pair, each func(site.Pair)) {
	if p.Value.Kind == site.Null {
		return
	}
	if p.Value.Kind != site.Mapping {
		h.Fail(p.Value.Line, p.Value.Col, "wrong-type", "%s should be written as ADDRESS: …", p.Key)
		return
	}
	for _, a := range p.Value.Pairs {
		each(a)
	}
}

func (g *Page) copy(h *block.Head, a site.Pair) {
	c := &Copy{Line: a.Line, Col: a.Col}
	text := ""
	h.Keys(a.Value, "a copy", []string{"of", "base", "style", "behaviour", "starts", "needs", "text"}, func(k site.Pair) {
		switch k.Key {
		case "of":
			c.Of = h.String(k)
		case "base":
			c.Base = h.String(k)
		case "style":
			c.Style = h.String(k)
		case "behaviour":
			c.Behaviour = h.String(k)
		case "starts":
			c.Starts = h.String(k)
		case "needs":
			c.Needs = h.String(k)
		case "text":
			text = h.String(k)
		}
	})
	if c.Of == "" {
		h.Fail(a.Line, a.Col, "missing-key",
			"a copy should say what it is of, as in {of: hours, base: HASH, text: …}")
	}
	c.Text = markup.Parse([]byte(text))
	h.Apart(c.Text, a.Line, a.Col, "the text of this copy")
	g.Copies[a.Key] = c
}

// arrange sorts the page's text by region and lists what it calls.
func (g *Page) arrange(h *block.Head) {
	g.fill()
	var keys map[string]bool
	var named naming
	var inCopies names
	named.collect(g.Text, func(n *markup.Node, depth int) {
		if n.Kind == markup.Fill && depth > 0 {
			h.Problems = append(h.Problems, site.At(g.Split, g.Path, n.Span.From, site.Invalid, "bad-place",
				"@{fill %s} cannot stand inside something else", n.Name))
		}
		if k := n.ArgString("key"); k != "" && n.Kind == markup.Call {
			at := n.Container + "/" + k // a region counts for itself, and so does a copy
			if keys[at] {
				h.Problems = append(h.Problems, site.At(g.Split, g.Path, n.Span.From, site.Invalid, "duplicate-key",
					"the key %s is given twice in %s of this page; a key names one placement there", k, n.Container))
			}
			if keys == nil {
				keys = map[string]bool{}
			}
			keys[at] = true
		}
	})
	for _, c := range g.Copies {
		named.collect(c.Text, func(n *markup.Node, _ int) {
			if n.Kind == markup.Call {
				inCopies.add(n.Name)
			}
		})
		named.copied.add(c.Of)
	}
	g.Calls, g.Copied, g.InCopies = named.calls.list, named.copied.list, inCopies.list
}

// naming gathers what texts call, and of what they hold copies.
type naming struct{ calls, copied names }

func (g *naming) collect(t *markup.Text, visit func(n *markup.Node, depth int)) {
	var walk func(nodes []*markup.Node, depth int)
	walk = func(nodes []*markup.Node, depth int) {
		for _, n := range nodes {
			if n.Kind == markup.Literal {
				continue
			}
			visit(n, depth)
			switch n.Kind {
			case markup.Call:
				g.calls.add(n.Name)
			case markup.Copy:
				g.copied.add(n.Name)
			}
			walk(n.Body, depth+1)
			walk(n.Else, depth+1)
		}
	}
	walk(t.Nodes, 0)
}

// names is a list of names, each once.
type names struct {
	list []string
	seen map[string]bool // of a list that is not short
}

// short is how many names are looked through one by one.
const short = 32

func (n *names) add(name string) {
	switch {
	case n.seen[name], n.seen == nil && slices.Contains(n.list, name):
		return
	case n.seen == nil && len(n.list) == short:
		n.seen = make(map[string]bool, 2*short)
		for _, l := range n.list {
			n.seen[l] = true
		}
	}
	if n.seen != nil {
		n.seen[name] = true
	}
	n.list = append(n.list, name)
}

// Filled reports whether the page itself puts something into a region.
func (g *Page) Filled(region string) bool {
	f := g.Fills.Of(region)
	if f == nil {
		return false
	}
	for _, n := range f.Nodes {
		switch n.Kind {
		case markup.Comment:
		case markup.Literal:
			if len(bytes.TrimSpace(g.Text.Src[n.Span.From:n.Span.To])) > 0 {
				return true
			}
		default:
			return true
		}
	}
	return false
}
