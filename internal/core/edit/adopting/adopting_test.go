package adopting_test

import (
	"context"
	"fmt"
	"slices"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/require"
	"golang.org/x/text/encoding/japanese"
	"pgregory.net/rapid"

	"brickshelf/internal/core/check"
	"brickshelf/internal/core/edit/adopting"
	"brickshelf/internal/core/render"
	"brickshelf/internal/core/repeat"
	"brickshelf/internal/core/shelf"
	"brickshelf/internal/core/site"
)

var now = time.Date(2026, 6, 1, 0, 0, 0, 0, time.UTC)

const config = "format: brickshelf/1\nname: Mill\nexact_urls: true\n"

// siteOf is a site of pages that are their text alone.
func siteOf(pages map[string]string) *shelf.Shelf {
	files := site.Files{"site.yaml": []byte(config)}
	for p, text := range pages {
		files["pages/"+p] = []byte(text)
	}
	return shelf.New(files, now)
}

func find(t require.TestingT, s *shelf.Shelf) ([]repeat.Page, []*repeat.Piece) {
	pages := adopting.Pages(s)
	found, err := repeat.Find(context.Background(), pages, nil)
	require.NoError(t, err)
	return pages, found.Pieces
}

// after is the site as it is once a change set is saved, made anew.
func after(s *shelf.Shelf, set site.ChangeSet) *shelf.Shelf {
	files := s.Files()
	for _, c := range set.Changes {
		files[c.Path] = c.After
	}
	return shelf.New(files, now)
}

// same holds every page of a site to its text before.
func same(t require.TestingT, s *shelf.Shelf, pages map[string]string) {
	require.Empty(t, check.Validity(s))
	for p, text := range pages {
		in := s.Info("pages/" + p)
		require.Equal(t, strings.ReplaceAll(text, "@@{", "@{"), string(render.AppendPage(s, nil, in)), p)
	}
}

// fifteen are pages with one footer, as fifteen people pasted it.
func fifteen() map[string]string {
	out := map[string]string{}
	for i := range 15 {
		deep := i % 3
		out[fmt.Sprintf("%sp%d.html", strings.Repeat("d/", deep), i)] = fmt.Sprintf(`<html><head><title>Page %d &amp; more</title></head><body>
<h1>Page %d &amp; more</h1><p>%s</p>
<div id="footer"><img src="%smill.png" alt="The mill"><p>Kept by <b>%s</b> since%s1890.
Write to the mill house, at the end of the long pond, and wait.</p></div></body></html>`, i, i,
			strings.Repeat(string(rune('a'+i)), 40), strings.Repeat("../", deep), []string{"Ida", "Ole &ndash; Per", `"Ann's"`}[i%3],
			[]string{" ", "&nbsp;"}[i%2])
	}
	return out
}

// Pasted footers become one block with fields, and no byte of any page changes.
func TestFooterBecomesABlock(t *testing.T) {
	pages := fifteen()
	s := siteOf(pages)
	looked, pieces := find(t, s)
	at := -1
	for i, p := range pieces {
		if p.Title == "Footer" && p.Pages == 15 {
			at = i
			break
		}
	}
	require.GreaterOrEqual(t, at, 0)
	set, made, err := adopting.Adopt(s, looked, []adopting.Wanted{{Piece: pieces[at], Name: "mill-footer", Title: "Foot"}})
	require.NoError(t, err)
	require.Equal(t, "Made a block of Foot", set.Title)
	require.Equal(t, 15, made[0].Places)
	require.Len(t, set.Changes, 16)
	o := after(s, set)
	same(t, o, pages)
	b := o.Block("mill-footer")
	require.NotNil(t, b)
	require.LessOrEqual(t, len(b.Fields), 2)
	require.Contains(t, string(b.Text.Src), "@{=page.to-top}mill.png")
	require.NotContains(t, string(o.Info("pages/p0.html").Page.Text.Src), "Kept by")
}

// A page whose title goes into a block says in its front matter what it is called, and the block takes it
// from there.
func TestTitlesStayWhatTheyWere(t *testing.T) {
	pages := fifteen()
	s := siteOf(pages)
	looked, pieces := find(t, s)
	for _, p := range pieces {
		if !strings.Contains(string(p.Markup()), "<title>") {
			continue
		}
		set, made, err := adopting.Adopt(s, looked, []adopting.Wanted{{Piece: p}})
		require.NoError(t, err)
		o := after(s, set)
		same(t, o, pages)
		in := o.Info("pages/d/p4.html")
		require.Equal(t, "Page 4 & more", in.Page.Called())
		require.Contains(t, string(o.Block(made[0].Name).Text.Src), "<title>@{=title}</title>")
		require.NotContains(t, string(in.Page.Text.Src), "<title>")
		require.NotContains(t, string(in.Page.Text.Src), "title=", "it is said once")
		return
	}
	t.Fatal("no piece holds the title")
}

// A piece that lies within another one and is the same everywhere becomes a block that the other one calls.
func TestPiecesWithinPiecesAreNested(t *testing.T) {
	pages := map[string]string{}
	for i := range 6 {
		menu := `<ul class="menu"><li><a href="/mill.html">The mill</a></li><li><a href="/yard.html">The yard of it</a></li></ul>`
		pages[fmt.Sprintf("p%d.html", i)] = fmt.Sprintf(`<body><div class="top"><h1>Page %d of the handbook</h1>%s</div><p>%s</p>`, i,
			menu, strings.Repeat(string(rune('a'+i)), 40))
		if i == 5 {
			pages["p5.html"] = "<body><p>only its menu</p>" + menu
		}
	}
	s := siteOf(pages)
	looked, pieces := find(t, s)
	byRoot := func(begins string) *repeat.Piece {
		return pieces[slices.IndexFunc(pieces, func(p *repeat.Piece) bool {
			return strings.HasPrefix(string(p.Markup()), begins)
		})]
	}
	top, menu := byRoot(`<div class="top">`), byRoot(`<ul class="menu">`)
	require.Equal(t, 6, menu.Pages)
	set, made, err := adopting.Adopt(s, looked, []adopting.Wanted{{Piece: top, Name: "top"}, {Piece: menu, Name: "links"}})
	require.NoError(t, err)
	o := after(s, set)
	same(t, o, pages)
	require.Contains(t, string(o.Block("top").Text.Src), "</h1>@{links /}</div>")
	require.Contains(t, string(o.Info("pages/p5.html").Page.Text.Src), "@{links /}")
	require.Equal(t, 2, made[1].Places, "one on a page, one in the block")
	require.Empty(t, made[1].Left)
}

// Fields are dropped, become one and get other types before the block is made; pages that say something
// else then keep their own markup.
func TestFieldsAreDecidedOn(t *testing.T) {
	pages := map[string]string{}
	for i := range 6 {
		keeper, since, told, note := "Ida", "1890", "1890", ""
		if i == 3 {
			told = "1891"
		}
		if i == 4 {
			keeper, since, told = "Ole", "1902", "1902"
		}
		if i == 5 {
			note = "<em>Closed in winter</em>"
		}
		pages[fmt.Sprintf("p%d.html", i)] = fmt.Sprintf(`<h1>%s</h1><div class="foot"><p title="%s">Kept since <i>%s</i> at the end of the long pond</p>
<p>Ask for <b>%s</b> at the mill house beside it, or wait</p>%s</div>`, strings.Repeat(string(rune('a'+i)), 40), told, since, keeper, note)
	}
	s := siteOf(pages)
	looked, pieces := find(t, s)
	p := pieces[slices.IndexFunc(pieces, func(p *repeat.Piece) bool { return len(p.Fields) == 4 })]
	// named is the field that some place has this value in.
	named := func(value string) string {
		return p.Fields[slices.IndexFunc(p.Fields, func(f repeat.Field) bool {
			return slices.ContainsFunc(f.Values, func(v []byte) bool { return string(v) == value })
		})].Name
	}
	note := p.Fields[slices.IndexFunc(p.Fields, func(f repeat.Field) bool { return f.Optional() })].Name
	told, keeper := named("1891"), named("Ole")
	since := p.Fields[slices.IndexFunc(p.Fields, func(f repeat.Field) bool {
		return string(f.Values[4]) == "1902" && f.Name != told
	})].Name
	made := func(w adopting.Wanted) (adopting.Made, string, string) {
		w.Piece, w.Name = p, "foot"
		set, made, err := adopting.Adopt(s, looked, []adopting.Wanted{w})
		require.NoError(t, err)
		o := after(s, set)
		same(t, o, pages)
		doc, _ := o.Get("blocks/foot.html")
		page, _ := o.Get("pages/p4.html")
		return made[0], string(doc), string(page)
	}
	left := func(m adopting.Made) (out []string) {
		for _, at := range m.Left {
			out = append(out, at.Path)
		}
		return out
	}
	m, doc, page := made(adopting.Wanted{Drop: []string{keeper}})
	require.Equal(t, []string{"pages/p4.html"}, left(m))
	require.Contains(t, doc, "<b>Ida</b>")
	require.NotContains(t, page, "@{foot")
	m, doc, _ = made(adopting.Wanted{Drop: []string{note}})
	require.Equal(t, []string{"pages/p5.html"}, left(m), "most have none")
	require.NotContains(t, doc, "@{when")
	require.NotContains(t, doc, "winter")
	m, _, page = made(adopting.Wanted{Types: map[string]repeat.FieldType{since: "number"}, Rename: map[string]string{since: "year"}})
	require.Empty(t, m.Left)
	require.Contains(t, page, `year="1902"`)
	m, doc, page = made(adopting.Wanted{Rename: map[string]string{told: since}})
	require.Equal(t, []string{"pages/p3.html"}, left(m), "there they differ")
	require.Equal(t, 2, strings.Count(doc, "@{="+since+"}"))
	require.Equal(t, 1, strings.Count(page, "1902"))

	for want, w := range map[string]adopting.Wanted{
		"cannot be of type image":    {Piece: p, Types: map[string]repeat.FieldType{note: "image"}},
		"two fields would be called": {Piece: p, Rename: map[string]string{note: since}},
		"no place is left":           {Piece: p, Rename: map[string]string{keeper: since}},
	} {
		_, _, err := adopting.Adopt(s, looked, []adopting.Wanted{w})
		require.ErrorContains(t, err, want)
	}
}

// What cannot be done is refused with the reason, or left as it is.
func TestWhatIsNotTaken(t *testing.T) {
	pages := fifteen()
	s := siteOf(pages)
	looked, pieces := find(t, s)
	adopt := func(s *shelf.Shelf, w ...adopting.Wanted) ([]adopting.Made, error) {
		_, made, err := adopting.Adopt(s, looked, w)
		return made, err
	}
	p := pieces[slices.IndexFunc(pieces, func(p *repeat.Piece) bool { return len(p.Fields) > 0 })]
	other := pieces[slices.IndexFunc(pieces, func(q *repeat.Piece) bool { return q != p })]
	for name, c := range map[string]struct {
		w    adopting.Wanted
		want string
	}{
		"a name that blocks cannot have":  {adopting.Wanted{Piece: p, Name: "Foot"}, "cannot name a block"},
		"a word of the language":          {adopting.Wanted{Piece: p, Name: "menu"}, "choose another name"},
		"all pages left out":              {adopting.Wanted{Piece: p, Leave: all(looked)}, "no place is left"},
		"a field that cannot be named so": {adopting.Wanted{Piece: p, Rename: map[string]string{p.Fields[0].Name: "A b"}}, "cannot name a field"},
	} {
		_, err := adopt(s, c.w)
		require.ErrorContains(t, err, c.want, name)
	}
	_, err := adopt(s, adopting.Wanted{Piece: p, Name: "foot"}, adopting.Wanted{Piece: other, Name: "foot"})
	require.ErrorContains(t, err, "two blocks would be called foot")
	made, err := adopt(s, adopting.Wanted{Piece: p, Leave: map[string]bool{looked[0].Path: true}})
	require.NoError(t, err)
	require.Equal(t, looked[0].Path, made[0].Left[0].Path)
	made, err = adopt(s, adopting.Wanted{Piece: p, Name: "one"}, adopting.Wanted{Piece: p, Name: "two"})
	require.NoError(t, err)
	require.Equal(t, 0, made[1].Places, "the first one has the places")
	pages[strings.TrimPrefix(looked[3].Path, "pages/")] += "<p>It has changed since.</p>"
	_, err = adopt(siteOf(pages), adopting.Wanted{Piece: p})
	require.ErrorContains(t, err, looked[3].Path+" has changed since")
}

// A page in another encoding keeps what says so, and what a block shows there later is written in it.
func TestPagesInAnotherEncodingKeepIt(t *testing.T) {
	pages := map[string]string{}
	for i := range 4 {
		pages[fmt.Sprintf("p%d.html", i)] = fmt.Sprintf("<html><head><meta charset=\"iso-8859-1\"><meta name=\"author\" "+
			"content=\"The keepers of the mill house at the pond\"></head><body><h1>M\xfchle %d</h1>\n<p>%s</p><div id=\"foot\"><p>Geh\xf6rt "+
			"<b>J\xf6rg %d</b> of the mill house, at the end of the long pond</p></div></body></html>", i, strings.Repeat("\xe4", 30+i), i)
	}
	s := siteOf(pages)
	looked, pieces := find(t, s)
	var wanted []adopting.Wanted
	for _, p := range pieces {
		wanted = append(wanted, adopting.Wanted{Piece: p})
	}
	set, _, err := adopting.Adopt(s, looked, wanted)
	require.NoError(t, err)
	o := after(s, set)
	same(t, o, pages)
	in := o.Info("pages/p1.html")
	require.Contains(t, string(in.Page.Text.Src), "charset")
	require.NotContains(t, string(in.Page.Text.Src), "Geh\xf6rt")
	for i, c := range set.Changes {
		set.Changes[i].After = []byte(strings.Replace(string(c.After), "Geh\u00f6rt", "F\u00fcr", -1))
	}
	edited := after(s, set)
	require.Contains(t, string(render.AppendPage(edited, nil, edited.Info("pages/p1.html"))), "<p>F\xfcr <b>J\xf6rg 1</b>")
}

// In Shift_JIS the second byte of a character can be a backslash or a quotation mark of the language.
func TestValuesWhoseBytesLookLikeMarkup(t *testing.T) {
	pages := map[string]string{}
	for i, who := range []string{"表能ソ", "十 &amp; 予", "`貼", "{申}"} {
		text, err := japanese.ShiftJIS.NewEncoder().String(fmt.Sprintf("<html><head><meta charset=shift_jis></head><body><p>%s</p>"+
			"<div id=\"foot\"><p>水車小屋の手引き、池のほとりの古い家にて <b title=\"%s\">%s</b> 記す。水車小屋の手引き</p></div></body></html>",
			strings.Repeat("あ", 20+i), who, who))
		require.NoError(t, err)
		pages[fmt.Sprintf("p%d.html", i)] = text
	}
	s := siteOf(pages)
	looked, pieces := find(t, s)
	taken := 0
	for _, p := range pieces {
		set, made, err := adopting.Adopt(s, looked, []adopting.Wanted{{Piece: p}})
		if strings.Contains(string(p.Markup()), "charset") {
			require.ErrorContains(t, err, "no place is left", "what says the encoding stays")
			continue
		}
		require.NoError(t, err)
		require.Equal(t, 4, made[0].Places)
		taken++
		same(t, after(s, set), pages)
	}
	require.Positive(t, taken)
}

func all(pages []repeat.Page) map[string]bool {
	out := map[string]bool{}
	for _, p := range pages {
		out[p.Path] = true
	}
	return out
}

// Whatever is repeated on drawn pages, however broken, spelled and nested: each piece, and all of them at
// once, becomes a block, and no byte of any page changes.
func TestNoByteChanges(t *testing.T) {
	taken, left, lists := 0, 0, 0
	rapid.Check(t, func(t *rapid.T) {
		pages := drawn(t)
		s := siteOf(pages)
		if len(check.Validity(s)) > 0 {
			return // such as are no site
		}
		looked, pieces := find(t, s)
		if len(pieces) == 0 {
			return
		}
		var wanted []adopting.Wanted
		for _, p := range pieces[:min(len(pieces), 6)] {
			wanted = append(wanted, adopting.Wanted{Piece: p})
		}
		one := rapid.IntRange(0, len(wanted)-1).Draw(t, "one")
		thought := wanted[one]
		decide(t, &thought)
		for _, w := range [][]adopting.Wanted{wanted, wanted[one : one+1], {thought}} {
			set, made, err := adopting.Adopt(s, looked, w)
			if err != nil {
				require.Regexp(t, "no place is left|two fields would be called", err.Error())
				continue
			}
			if len(w[0].Drop)+len(w[0].Rename)+len(w[0].Types) > 0 {
				same(t, after(s, set), pages)
				continue
			}
			for i, m := range made {
				taken += m.Places
				for _, f := range w[i].Piece.Fields {
					if f.Type == repeat.List {
						lists += m.Places
					}
				}
				if m.Places > 0 {
					left += len(m.Left)
				}
			}
			same(t, after(s, set), pages)
		}
	})
	require.Greater(t, taken, 100, "places")
	require.Positive(t, lists, "places with a list")
	require.Less(t, 10*left, taken, "places left: addresses that no value may be")
}

// decide has some fields of a piece dropped, called alike and of other types.
func decide(t *rapid.T, w *adopting.Wanted) {
	w.Rename, w.Types = map[string]string{}, map[string]repeat.FieldType{}
	for i := range w.Piece.Fields {
		f := &w.Piece.Fields[i]
		switch rapid.IntRange(0, 4).Draw(t, "decision") {
		case 0:
			w.Drop = append(w.Drop, f.Name)
		case 1:
			w.Rename[f.Name] = w.Piece.Fields[rapid.IntRange(0, len(w.Piece.Fields)-1).Draw(t, "as")].Name
		case 2:
			w.Types[f.Name] = rapid.SampledFrom(adopting.Types(f.Type)).Draw(t, "type")
		}
	}
}

// drawn are pages that share a frame and cards, with values that are spelled in every way.
func drawn(t *rapid.T) map[string]string {
	value := rapid.SampledFrom([]string{"mill", "pond &amp; yard", "a&nbsp;b", "it's", `say "so"`, "<b>bold</b>", "", " ",
		"é", "a < b", "<br />", "&lt;b>", "&#39;x&#39;", "@@{x}", "javascript:x", "//host/x", "`q`", `a\b`, "x\ny\tz"})
	frame := rapid.SampledFrom([]string{
		"<title>%s</title><div class=\"top\"><h1>%s</h1><a href=\"%s\" title='%s'>Home of the mill house</a></div>",
		"<body><div class=wrap><ul class=\"nav\"><li>%s</li><li>%s</li><li title=\"%s\" id=\"%s\">The yard</li></ul>",
		"<header><script>var x = '%s'</script><b>%s</b><img alt='%s' src=\"%s\"><p>The mill at the pond</p></header>",
		"<table><tr><td>%s<td style=\"%s\">The mill<td onclick=\"%s\">The pond and the yard<tr><td>%s</table>",
	}).Draw(t, "frame")
	out := map[string]string{}
	for i := range rapid.IntRange(3, 7).Draw(t, "pages") {
		n := 0
		v := func() string { n++; return value.Draw(t, fmt.Sprint("v", i, ".", n)) }
		a := func() string { return strings.NewReplacer(`"`, "", "'", "", "<", "", ">", "").Replace(v()) }
		s := fmt.Sprintf(frame, v(), v(), a(), a())
		for range rapid.IntRange(0, 3).Draw(t, "cards") {
			s += fmt.Sprintf("<div class=\"card\"><h2>%s</h2>\n<p>Opening hours: %s, and ring the bell</p></div>\n", v(), v())
		}
		s += "<ul class=\"more\">"
		for range rapid.IntRange(0, 4).Draw(t, "rows") {
			s += fmt.Sprintf(rapid.SampledFrom([]string{"\n<li><a href=\"%s\">%s</a></li>", "\n<li class=on><a href=\"%s\">%s</a></li>"}).
				Draw(t, "row"), a(), v())
		}
		s += "\n</ul>"
		out[strings.Repeat("d/", i%3)+fmt.Sprintf("p%d.html", i)] = s + v() + "</div></body>"
	}
	return out
}
