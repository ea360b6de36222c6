// Package outline takes a page's own text apart into what it is made of, calls, copies,
// elements and stretches of text, and puts it together again. What is said of a call goes
// with it.
package outline

import (
	"bytes"
	"slices"
	"strings"

	"brickshelf/internal/core/markup"
	"brickshelf/internal/core/patch"
	"brickshelf/internal/core/shelf"
	"brickshelf/internal/core/site"
)

// Part is one thing that a page's own text puts into a region: a call, a one-off copy,
// an element, or a stretch of text. From and To are byte offsets in the document.
type Part struct {
	Region   string
	Name     string // of the block or shortcode; "" for text
	Copy     bool
	Within   bool   // a call or copy inside the element or text before it in the list
	Address  string // of a call or copy
	From, To int
	Excerpt  string // as it stands
	Called   string // of a picture: what it is called in the tool
}

// Of lists what a page's own text puts into its regions, in the order in which it
// stands.
func Of(src []byte) []Part {
	split, bad := site.Cut(src)
	if bad != "" {
		return nil
	}
	t := markup.Parse(split.Text)
	if len(t.Errors) > 0 {
		return nil
	}
	return of(split, t)
}

func of(split site.Split, t *markup.Text) []Part {
	var out []Part
	region := func(name string, nodes []*markup.Node) {
		if len(nodes) == 0 {
			return
		}
		elements := elementsIn(t, nodes)
		open := -1 // the part that further text belongs to
		add := func(p Part, from, to int) int {
			p.Region, p.From, p.To = name, split.TextAt+from, split.TextAt+to
			out = append(out, p)
			return len(out) - 1
		}
		text := func(from, to int) {
			if open >= 0 && !elements.cut(out[open].From-split.TextAt, from) {
				out[open].To = split.TextAt + to
				return
			}
			open = add(Part{}, from, to)
		}
		for _, n := range nodes {
			switch n.Kind {
			case markup.Call, markup.Copy:
				p := Part{Name: n.Name, Copy: n.Kind == markup.Copy, Address: n.Container + "/" + n.Step,
					Within: elements.hold(n.Span.From)}
				if n.Kind == markup.Call && n.Name == "image" {
					p.Called = n.ArgString("name")
				}
				if add(p, n.Span.From, n.Span.To); p.Within {
					out[open].To = split.TextAt + n.Span.To
				} else {
					open = -1
				}
			case markup.Comment:
			case markup.Literal:
				for _, s := range elements.pieces(n.Span) {
					raw := string(t.Src[s.From:s.To])
					if bare := strings.TrimSpace(raw); bare != "" {
						at := s.From + strings.Index(raw, bare)
						text(at, at+len(bare))
					}
				}
			default:
				text(n.Span.From, n.Span.To)
			}
		}
	}
	for _, nodes := range outsideFills(t) {
		region("main", nodes)
	}
	for _, n := range t.Nodes {
		if n.Kind == markup.Fill {
			region(n.Name, n.Body)
		}
	}
	for i, p := range out {
		out[i].Excerpt = string(t.Src[p.From-split.TextAt : p.To-split.TextAt])
	}
	return out
}

// inside lists the addresses of a part and of the calls inside it, with where they begin.
func inside(parts []Part, p Part) []Part {
	var out []Part
	for _, q := range parts {
		if q.From >= p.From && q.To <= p.To && q.Address != "" {
			out = append(out, q)
		}
	}
	return out
}

// rebuild is a text made of ranges of an old one and of new pieces.
type rebuild struct {
	src   []byte
	out   []byte
	moves []struct{ from, to, at int }
}

func (b *rebuild) keep(from, to int) {
	b.moves = append(b.moves, struct{ from, to, at int }{from, to, len(b.out)})
	b.out = append(b.out, b.src[from:to]...)
}

// moved gives where a byte of the old text stands now, or -1.
func (b *rebuild) moved(at int) int {
	for _, m := range b.moves {
		if at >= m.from && at < m.to {
			return m.at + at - m.from
		}
	}
	return -1
}

// SpotIn is where something new goes into a region of a page: the offset, and what to
// write before and behind it. before is the place among the region's parts that it
// takes; below zero it goes behind them all.
func SpotIn(src []byte, split site.Split, t *markup.Text, parts []Part, region string, before int) (at int,
	lead, tail string) {
	nl := patch.Newline(src)
	var own []Part
	for _, p := range parts {
		if p.Region == region && !p.Within {
			own = append(own, p)
		}
	}
	switch {
	case len(own) > 0 && before >= 0 && before < len(own):
		return own[before].From, "", nl
	case len(own) > 0:
		return own[len(own)-1].To, nl, ""
	}
	for _, n := range t.Nodes {
		if n.Kind == markup.Fill && n.Name == region {
			return split.TextAt + n.Head.To, "", ""
		}
	}
	if region == "main" {
		return split.TextAt, "", nl
	}
	end := len(src)
	lead = "@{fill " + region + "}"
	if end > split.TextAt && !bytes.HasSuffix(src, []byte("\n")) {
		lead = nl + lead
	}
	return end, lead, "@{/fill}" + nl
}

// Put writes a call into a region of a page's own text, as the part that stands
// there before the one at the given place, or behind all where that is below zero.
func Put(path string, src []byte, region string, before int, call string) ([]byte, error) {
	out, _, err := PutAt(path, src, region, before, call)
	return out, err
}

// PutAt is Put that tells at which byte the call begins.
func PutAt(path string, src []byte, region string, before int, call string) (out []byte, from int,
	err error) {
	if t := markup.Parse([]byte(call)); len(t.Errors) > 0 {
		return nil, 0, site.Refuse("%s: %s", call, t.Errors[0].Message)
	}
	split, _ := site.Cut(src)
	t := markup.Parse(split.Text)
	if len(t.Errors) > 0 {
		return nil, 0, site.Refuse("mend the text of the page first: %s", t.Errors[0].Message)
	}
	at, lead, tail := SpotIn(src, split, t, of(split, t), region, before)
	b := &rebuild{src: src}
	b.keep(0, at)
	from = len(b.out) + len(lead)
	b.out = append(b.out, lead+call+tail...)
	b.keep(at, len(src))
	out, shift := StableKeys(Speaks(nil, path, src), src, b.out, b.moved)
	return out, shift(from), nil
}

// partAt finds the part that begins at a byte of a document.
func partAt(parts []Part, from int) (Part, error) {
	i := slices.IndexFunc(parts, func(p Part) bool { return p.From == from })
	if i < 0 {
		return Part{}, site.Refuse("the text has changed meanwhile; choose the piece again")
	}
	return parts[i], nil
}

// hole is the range to take out with a part: with it goes the line that it stood on
// alone, or a fill that it leaves empty.
func hole(src []byte, parts []Part, p Part) (from, to int) {
	from, to = p.From, p.To
	alone := !slices.ContainsFunc(parts, func(q Part) bool {
		return q.Region == p.Region && (q.From < p.From || q.To > p.To)
	})
	if alone && p.Region != "main" {
		split, _ := site.Cut(src)
		for _, n := range markup.Parse(split.Text).Nodes {
			if n.Kind == markup.Fill && n.Name == p.Region && split.TextAt+n.Span.From <= from &&
				split.TextAt+n.Span.To >= to {
				from, to = split.TextAt+n.Span.From, split.TextAt+n.Span.To
			}
		}
	}
	start := bytes.LastIndexByte(src[:from], '\n') + 1
	end := to
	for end < len(src) && (src[end] == ' ' || src[end] == '\t' || src[end] == '\r') {
		end++
	}
	if len(bytes.TrimSpace(src[start:from])) == 0 && (end == len(src) || src[end] == '\n') {
		return start, min(end+1, len(src))
	}
	return from, to
}

// Take takes the part of a page's own text that begins at a byte out of it. What
// the page says of it in its front matter goes with it.
func Take(path string, src []byte, from int) ([]byte, error) {
	parts := Of(src)
	p, err := partAt(parts, from)
	if err != nil {
		return nil, err
	}
	a, z := hole(src, parts, p)
	b := &rebuild{src: src}
	b.keep(0, a)
	b.keep(z, len(src))
	out, _ := StableKeys(Speaks(nil, path, src), src, b.out, b.moved)
	for _, e := range entriesIn(path, src, parts, p) {
		if out, err = e.Drop(path, out); err != nil {
			return nil, err
		}
	}
	return out, nil
}

// Move puts a part of a page's own text into a region, as Put puts a call.
// What the page says of it follows.
func Move(path string, src []byte, from int, region string, before int) ([]byte, error) {
	parts := Of(src)
	p, err := partAt(parts, from)
	if err != nil {
		return nil, err
	}
	i, n := 0, 0
	for _, q := range parts {
		if q.Region == p.Region && !q.Within {
			if q.From == from {
				i = n
			}
			n++
		}
	}
	if region == p.Region && !p.Within && (before == i || before == i+1 || before < 0 && i == n-1) {
		return src, nil
	}
	a, z := hole(src, parts, p)
	split, _ := site.Cut(src)
	at, lead, tail := SpotIn(src, split, markup.Parse(split.Text), parts, region, before)
	if at > a && at < z {
		at = z
	}
	b := &rebuild{src: src}
	put := func() {
		b.out = append(b.out, lead...)
		b.keep(p.From, p.To)
		b.out = append(b.out, tail...)
	}
	if at <= a {
		b.keep(0, at)
		put()
		b.keep(at, a)
		b.keep(z, len(src))
	} else {
		b.keep(0, a)
		b.keep(z, at)
		put()
		b.keep(at, len(src))
	}
	out, shift := StableKeys(Speaks(nil, path, src), src, b.out, b.moved)
	said := entriesIn(path, src, parts, p)
	now := make([]string, len(said))
	for i, e := range said {
		now[i] = AddressAt(out, shift(b.moved(e.at)))
	}
	return carry(path, out, said, now)
}

// AddressAt is the address of the part that begins at a byte of a document.
func AddressAt(src []byte, from int) string {
	p, err := partAt(Of(src), from)
	if err != nil {
		return ""
	}
	return p.Address
}

// Send moves a part of one page's own text to another page, behind what stands in
// a region there. What the page says of it goes with it.
func Send(s *shelf.Shelf, path string, from int, to, region string) (site.ChangeSet, error) {
	set := site.ChangeSet{}
	a, b := s.Info(path), s.Info(to)
	if a == nil || b == nil || a == b {
		return set, site.Refuse("name the page that has it and another one")
	}
	src, _ := s.Get(path)
	target, _ := s.Get(to)
	parts := Of(src)
	p, err := partAt(parts, from)
	if err != nil {
		return set, err
	}
	if err := HasRegion(b, region); err != nil {
		return set, err
	}
	left, err := Take(path, src, from)
	if err != nil {
		return set, err
	}
	got, at, err := PutAt(to, target, region, -1, string(src[p.From:p.To]))
	if err != nil {
		return set, err
	}
	// What is sent stands there byte for byte, but for keys that were given to it.
	there := inside(Of(got), Part{From: at, To: len(got)})
	here := inside(parts, p)
	for _, e := range entriesIn(path, src, parts, p) {
		i := slices.IndexFunc(here, func(q Part) bool { return q.From == e.at })
		if got, err = e.Put(to, got, there[i].Address); err != nil {
			return set, err
		}
	}
	what := p.Name
	if what == "" {
		what = "a piece of text"
	}
	set.Title = "Move " + what + " from " + a.URL + " to " + b.URL
	set.Changes = []site.Change{{Path: path, Before: s.Hash(path), After: left},
		{Path: to, Before: s.Hash(to), After: got}}
	return set, nil
}

func HasRegion(in *shelf.Info, region string) error {
	if in.Layout == nil && region == "main" {
		return nil
	}
	if in.Layout == nil || in.Layout.Region(region) == nil {
		return site.Refuse("%s has no region %s", in.URL, region)
	}
	return nil
}

// outsideFills are the stretches of a text that stand in no fill.
func outsideFills(t *markup.Text) [][]*markup.Node {
	var out [][]*markup.Node
	end := -1
	for _, n := range t.Nodes {
		if n.Kind == markup.Fill {
			continue
		}
		if n.Span.From != end { // what stands on either side of a fill is not one stretch
			out = append(out, nil)
		}
		out[len(out)-1] = append(out[len(out)-1], n)
		end = n.Span.To
	}
	return out
}
