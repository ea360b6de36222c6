package repeat

import (
	"bytes"
	"context"
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"
)

// pagesOf makes pages of texts, by their paths.
func pagesOf(texts ...string) []Page {
	var out []Page
	for i, t := range texts {
		out = append(out, Page{Path: fmt.Sprintf("pages/p%d.html", i), Text: []byte(t)})
	}
	return out
}

func find(t require.TestingT, pages []Page) []*Piece {
	found, err := Find(context.Background(), pages, nil)
	require.NoError(t, err)
	return found.Pieces
}

// long makes a text worth a block.
func long(s string) string {
	return strings.ReplaceAll(s, "mill", "mill at the end of the long pond, which has been there since the old days")
}

// filled makes pages of one template, with the values of each page in turn.
func filled(template string, rows ...[]any) []Page {
	var texts []string
	for i, r := range rows {
		body := fmt.Sprintf("<p>Words that are on page %d alone: %s.</p>\n", i, strings.Repeat(string(rune('a'+i)), 30))
		texts = append(texts, fmt.Sprintf(long(template), r...)+body)
	}
	return pagesOf(texts...)
}

// What differs becomes fields, named for what is around them.
func TestFields(t *testing.T) {
	for name, c := range map[string]struct {
		template string
		rows     [][]any
		want     string
		markup   string
	}{
		"a link before and its words": {
			`<div class="way"><a rel="prev" href="%s">Back</a> <span>Somewhere in the handbook of the mill</span></div>`,
			[][]any{{"a.html"}, {"b.html"}, {"c.html"}, {"d.html"}}, "prev-href:link:4",
			`<div class="way"><a rel="prev" href="@{=prev-href}">Back</a> <span>Somewhere in the handbook of the mill</span></div>`},
		"a label says what follows": {
			`<div class="foot"><p>Last changed: <i>%s</i>, by the keepers of the mill house</p></div>`,
			[][]any{{"May"}, {"June"}, {"July"}}, "last-changed:text:3",
			`<div class="foot"><p>Last changed: <i>@{=last-changed}</i>, by the keepers of the mill house</p></div>`},
		"an attribute that only some have": {
			`<div class="note"%s>This mill is a monument, and may be visited on any day</div>`,
			[][]any{{""}, {` title="b"`}, {` title="c"`}, {""}}, "note-title:text:2?",
			`<div class="note"@{when note-title} title="@{=note-title}"@{/when}>This mill is a monument, and may be visited on any day</div>`},
		"equal values are one field": {
			`<div class="head"><h1>%s</h1><img src="/a-banner.png" title="The mill" alt="%s"><p>About the mill</p></div>`,
			[][]any{{"A", "A"}, {"B", "B"}, {"C", "C"}}, "heading:text:3", ""},
		"what only some have": {
			`<div class="card"><h2>Opening hours of the mill house</h2>%s<p>Ring the bell at the gate</p></div>`,
			[][]any{{""}, {"<hr class=\"thick\">"}, {""}, {"<hr class=\"thick\">"}}, "thick:switch:1?", ""},
		"inline markup in a text": {
			`<div class="tip"><b>A tip of the miller:</b><p>%s</p><small>More of these stand in the yard</small></div>`,
			[][]any{{"a <i>x</i> b"}, {"c"}, {"<b>d</b> e <i>f</i>"}, {"g <u>h</u>"}}, "paragraph:rich:4", ""},
	} {
		t.Run(name, func(t *testing.T) {
			pieces := find(t, filled(c.template, c.rows...))
			require.NotEmpty(t, pieces)
			require.Equal(t, len(c.rows), pieces[0].Pages)
			var got []string
			for i := range pieces[0].Fields {
				f := &pieces[0].Fields[i]
				s := fmt.Sprintf("%s:%s:%d", f.Name, f.Type, f.Different())
				if f.Optional() {
					s += "?"
				}
				got = append(got, s)
			}
			require.Equal(t, c.want, strings.Join(got, " "))
			if c.markup != "" {
				require.Equal(t, long(c.markup), string(pieces[0].Markup()))
			}
		})
	}
}

// The entry of a menu that leads to the page itself is marked by one field, whatever it is on each.
func TestTheMarkOfTheCurrentPageIsOneField(t *testing.T) {
	entries := []string{"Mill", "Yard", "Barn", "Pond"}
	var texts []string
	for i := range entries {
		s := "<ul id=\"menu\">"
		for j, e := range entries {
			mark := ""
			if i == j {
				mark = ` class="current"`
			}
			s += fmt.Sprintf("\n<li><a href=\"/%s/\"%s>%s</a></li>", strings.ToLower(e), mark, e)
		}
		texts = append(texts, s+"\n</ul><p>"+strings.Repeat(string(rune('a'+i)), 20)+"</p>")
	}
	p := find(t, pagesOf(texts...))[0]
	require.Len(t, p.Fields, 1)
	require.Equal(t, Choice, p.Fields[0].Type)
	require.Contains(t, string(p.Markup()), `@{when current is "yard"} class="current"@{/when}>Yard`)
	require.Equal(t, "mill yard barn pond", string(bytes.Join(p.Fields[0].Values, []byte(" "))))
}

// What only leads to the top of the site is no field.
func TestDepthIsNoField(t *testing.T) {
	pages := filled(`<div class="head"><img src="%slogo.png" alt="The mill, as it stood"></div>`,
		[]any{""}, []any{"../"}, []any{"../../"}, []any{"../"})
	for i, up := range []string{"", "../", "../../", "../"} {
		pages[i].Up = up
	}
	p := find(t, pages)[0]
	require.Empty(t, p.Fields)
	require.Contains(t, string(p.Markup()), `src="@{=page.to-top}logo.png"`)
}

// Rows of which pages have different numbers are a list, whose fields are those of a row.
func TestLists(t *testing.T) {
	entries := func(names ...string) string {
		out := ""
		for i, n := range names {
			mark := ""
			if i == 1 {
				mark = " class=\"here\""
			}
			out += fmt.Sprintf("\n<li%s><a href=\"%s.html\">To the %s</a></li>", mark, n, n)
		}
		return out
	}
	box := "<div class=\"more\"><h3>More about the mill house and all that stands around it</h3><ul class=\"links\">%s\n</ul></div>"
	for name, c := range map[string]struct {
		template     string
		rows         [][]any
		want, markup string
	}{
		"of links": {box, [][]any{{entries("gate", "yard", "pond")}, {entries("well")}, {entries("barn", "loft")}, {entries("lane", "gate")}},
			"links[address:link label:text current:switch?]", "<ul class=\"links\">@{each links as entry}\n" +
				"<li@{when entry.current} class=\"here\"@{/when}><a href=\"@{=entry.address}\">@{=entry.label}</a></li>@{/each}\n</ul>"},
		"that some do not have": {box, [][]any{{entries("gate", "yard")}, {""}, {entries("barn")}, {""}},
			"links[address:link label:text current:switch?]", ""},
		"of rows of a table": {"<table class=\"hours\"><caption>The hours in which the mill house is open to all</caption>%s</table>",
			[][]any{{"<tr><td>May</td><td>9</td></tr>"}, {"<tr><td>June</td><td>8</td></tr><tr><td>July</td><td>7</td></tr>"},
				{"<tr><td>March</td><td>10</td></tr><tr><td>April</td><td>12</td></tr><tr><td>Other</td><td>1</td></tr>"}},
			"hours[cell:text words:text]", ""},
	} {
		t.Run(name, func(t *testing.T) {
			piece := find(t, filled(c.template, c.rows...))[0]
			var got []string
			for i := range piece.Fields {
				f := &piece.Fields[i]
				if f.Type != List {
					got = append(got, f.Name+":"+string(f.Type))
					continue
				}
				var in []string
				for k := range f.Fields {
					one := f.Fields[k].Name + ":" + string(f.Fields[k].Type)
					if f.Fields[k].Optional() {
						one += "?"
					}
					in = append(in, one)
				}
				got = append(got, f.Name+"["+strings.Join(in, " ")+"]")
			}
			require.Equal(t, c.want, strings.Join(got, " "), string(piece.Markup()))
			require.Contains(t, string(piece.Markup()), c.markup)
			require.Len(t, piece.Places, len(c.rows))
			if f := &piece.Fields[0]; name == "of links" {
				require.Equal(t, []string{"To the gate", "To the yard", "To the pond"}, f.RowsText(0))
			}
		})
	}
}

func TestTitlesAreToldApart(t *testing.T) {
	var pieces []*Piece
	for _, title := range []string{"Note", "Note", "Note 2", "Foot", "Note", "Note 2"} {
		pieces = append(pieces, &Piece{Title: title})
	}
	tellApart(pieces)
	var got []string
	for _, p := range pieces {
		got = append(got, p.Title)
	}
	require.Equal(t, []string{"Note", "Note 3", "Note 2", "Foot", "Note 4", "Note 2 2"}, got)
}

// What is said in paragraphs is a text, and no list.
func TestParagraphsAreNoList(t *testing.T) {
	pieces := find(t, filled("<div class=\"words\"><h3>What the miller says of his mill house</h3>%s</div>", []any{"<p>one</p>"},
		[]any{"<p>two</p>\n<p>three</p>"}, []any{"<p>four</p>\n<p>five</p>\n<p>six</p>"}, []any{"<p>seven</p>\n<p>eight</p>"}))
	require.NotEmpty(t, pieces)
	for _, p := range pieces {
		for i := range p.Fields {
			require.NotEqual(t, List, p.Fields[i].Type)
		}
	}
}

// A header may open what a footer closes: both are pieces all the same.
func TestUnbalancedTopsAndBottoms(t *testing.T) {
	top := "<html><body bgcolor=white><div class=\"wrap\"><table class=\"bar\"><tr><td>The Mill Handbook</td></tr></table>\n"
	bottom := "\n<hr class=\"end\"></div><address>Kept by the mill house, ring twice</address></body></html>"
	var texts []string
	for i := range 6 {
		texts = append(texts, top+strings.Repeat(fmt.Sprintf("<p>%c%c</p>", 'a'+i, 'z'-i), i+1)+bottom)
	}
	var from, to int
	for _, p := range find(t, pagesOf(texts...)) {
		if p.Pages == 6 && p.Places[0].From == 0 && p.Places[0].To >= len(strings.TrimSpace(top)) {
			from++
		}
		if p.Pages == 6 && p.Places[0].To == len(texts[0]) {
			to++
		}
	}
	require.Positive(t, from, "the top")
	require.Positive(t, to, "the bottom")
}

// draw draws pages that share frames and cards, with values of all sorts, broken tags among them.
func draw(t *rapid.T) []Page {
	words := rapid.SampledFrom([]string{"mill", "pond &amp; yard", "&nbsp;", "it's", `say "so"`, "<b>bold</b>", "", " ",
		"é", "a < b", "<br />", "<i>open", "</div>", "<!-- c -->"})
	n := rapid.IntRange(3, 9).Draw(t, "pages")
	frame := rapid.SampledFrom([]string{
		"<div class=\"top\"><h1 id=\"h\">%s</h1><a href=\"%s\">Home of the mill</a></div>",
		"<body><div id=wrap><ul class=\"nav\"><li>%s</li><li title=\"%s\">The yard of the mill</li></ul>",
		"<header><script>var x = 1</script><b>%s</b><img alt='%s' src=\"../mill-at-the-pond.png\"></header>",
	}).Draw(t, "frame")
	card := "<div class=\"card\"><h2>%s</h2>\n<p>Opening hours of the mill: %s</p></div>\n"
	var out []Page
	for i := range n {
		w := func(what string) string { return words.Draw(t, fmt.Sprint(what, i)) }
		attr := strings.NewReplacer("\"", "", "<", "", ">", "").Replace(w("attr"))
		s := fmt.Sprintf(frame, w("a"), attr)
		for range rapid.IntRange(0, 3).Draw(t, "cards") {
			s += fmt.Sprintf(card, w("b"), w("c"))
		}
		s += "<div class=\"links\"><h2>More of the mill and the yard</h2><ul>"
		for range rapid.IntRange(0, 5).Draw(t, "rows") {
			row := rapid.SampledFrom([]string{"\n<li><a href=\"../%s.html\">%s</a></li>",
				"\n<li class=\"on\"><a href=\"%s\">%s</a></li>"}).Draw(t, "row")
			s += fmt.Sprintf(row, strings.NewReplacer("\"", "", "<", "", ">", "").Replace(w("to")), w("e"))
		}
		s += "\n</ul></div>" + w("d") + "</div></body>"
		depth := rapid.IntRange(0, 2).Draw(t, "depth")
		out = append(out, Page{Path: fmt.Sprintf("pages/p%d.html", i), Text: []byte(s), At: i,
			Up: strings.Repeat("../", depth)})
	}
	return out
}

// Every place of every piece is its template with its values, places of a piece lie apart, and the same pages
// give the same pieces.
func TestPlacesAreTheirTemplates(t *testing.T) {
	lists := 0
	defer func() { require.Positive(t, lists, "no list was found") }()
	rapid.Check(t, func(t *rapid.T) {
		pages := draw(t)
		pieces, again := find(t, pages), find(t, pages)
		require.Len(t, again, len(pieces))
		for n, p := range pieces {
			for f := range p.Fields {
				if p.Fields[f].Type == List {
					lists++
				}
			}
			require.Equal(t, p.ID, again[n].ID)
			require.Equal(t, p.Places, again[n].Places)
			last := Place{Page: -1}
			for i, at := range p.Places {
				pg := pages[at.Page]
				require.Equal(t, pg.Path, at.Path)
				require.True(t, at.Page != last.Page || at.From >= last.To, "places lie apart")
				last = at
				want := string(pg.Text[at.From-pg.At : at.To-pg.At])
				var says [][]byte
				for f := range p.Fields {
					says = append(says, p.Fields[f].Values[i])
				}
				rows := func(hole int) []Row { return p.Fields[hole].Rows[i] }
				require.Equal(t, want, fill(p.parts, says, pg.Up, rows))
			}
		}
	})
}

// fill writes a place of a piece from its template: another way than the one by which it was checked.
func fill(parts []part, says [][]byte, above string, rows func(hole int) []Row) string {
	out := ""
	for _, x := range parts {
		switch x.kind {
		case fixed:
			out += string(x.bytes)
		case up:
			out += above
		case value:
			out += string(says[x.hole])
		case when:
			v := string(says[x.hole])
			if x.is == "" && v != "" || x.is != "" && v == x.is {
				out += fill(x.body, says, above, rows)
			}
		case each:
			for _, row := range rows(x.hole) {
				out += fill(x.row, row, above, nil)
			}
		}
	}
	return out
}

// Tokens cover a text, and a tree covers its tokens, whatever the text is.
func FuzzReading(f *testing.F) {
	for _, s := range []string{"<p>a<p>b", "<table><tr><td>x<td>y</table></table>", "<script>a</b></script ><br/>",
		"<![CDATA[x]]><?php y ?>", "<a href='", "<div><!-- x", "\xff\x00<é>", "<li>a<ul><li>b</ul><li>c", "</p></p>"} {
		f.Add([]byte(s))
	}
	f.Fuzz(func(t *testing.T, text []byte) {
		tokens, _ := read(text, nil)
		at := uint32(0)
		for _, k := range tokens {
			require.Equal(t, at, k.from)
			require.Greater(t, k.to, k.from)
			at = k.to
		}
		require.Equal(t, len(text), int(at))
		nodes := newGrammar().grow(tokens)
		var covered []int32
		var walk func(from, to int32)
		walk = func(from, to int32) {
			for j := from; j < to; j = nodes[j].next {
				n := nodes[j]
				covered = append(covered, n.first)
				walk(j+1, n.next)
				if n.ended {
					covered = append(covered, n.last)
				}
			}
		}
		walk(0, int32(len(nodes)))
		for i, c := range covered {
			require.Equal(t, int32(i), c)
		}
		require.Len(t, covered, len(tokens))
	})
}

// Attributes give a tag back, whatever it is.
func FuzzAttributes(f *testing.F) {
	for _, s := range []string{"<a href=x>", "<a  href = 'x' b>", `<a b="c`, "<a/b=c/>", "<a =x>", "<>", "<a b=\"\"c>"} {
		f.Add([]byte(s))
	}
	f.Fuzz(func(t *testing.T, tag []byte) {
		if len(tag) == 0 {
			return
		}
		name, attrs, rest := attributes(tag)
		out := bytes.Clone(name)
		for _, a := range attrs {
			out = append(append(append(append(out, a.lead...), a.name...), a.eq...), quoted(a.quote)...)
			out = append(out, a.value...)
			out = append(out, quoted(a.quote)...)
		}
		out = append(out, rest...)
		require.True(t, bytes.HasPrefix(out, tag), "%q %q", tag, out)
	})
}

func TestWhatIsStoppedGivesNothing(t *testing.T) {
	ctx, stop := context.WithCancel(context.Background())
	stop()
	_, err := Find(ctx, filled("<div class=\"a\">%s of the old mill, and more of it in here</div>", []any{"a"}, []any{"b"},
		[]any{"c"}), nil)
	require.ErrorIs(t, err, context.Canceled)
}
