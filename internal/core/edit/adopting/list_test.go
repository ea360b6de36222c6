package adopting_test

import (
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"brickshelf/internal/core/edit/adopting"
	"brickshelf/internal/core/repeat"
)

// ways are pages with a list each, whose entries are those that rows give.
func ways(rows ...string) map[string]string {
	out := map[string]string{}
	for i, r := range rows {
		out[fmt.Sprintf("p%d.html", i)] = fmt.Sprintf("<p>%s</p>\n<div class=\"ways\"><h3>Ways from here to the mill house and the pond</h3>"+
			"<ul>%s\n</ul></div><hr>", strings.Repeat(string(rune('a'+i)), 50), r)
	}
	return out
}

func entry(to, label string) string {
	return fmt.Sprintf("\n<li><a href=\"%s\">%s</a></li>", to, label)
}

// listed is the piece with a list, and its list.
func listed(t *testing.T, pieces []*repeat.Piece) (*repeat.Piece, *repeat.Field) {
	for _, p := range pieces {
		for i := range p.Fields {
			if p.Fields[i].Type == repeat.List {
				return p, &p.Fields[i]
			}
		}
	}
	require.Fail(t, "no piece has a list")
	return nil, nil
}

// Rows become items, each value as it is read where that gives its bytes back, else as it is spelled.
func TestRowsBecomeItemsOfAList(t *testing.T) {
	pages := ways(entry("gate.html", "The gate")+entry("yard.html", "Yard &amp; pond"), entry("well.html", "It's a&nbsp;well"), "",
		entry("barn.html", "Barn")+entry("loft.html", "Loft")+entry("javascript:x", "No way"))
	s := siteOf(pages)
	looked, pieces := find(t, s)
	p, _ := listed(t, pieces)
	set, made, err := adopting.Adopt(s, looked, []adopting.Wanted{{Piece: p, Name: "ways"}})
	require.NoError(t, err)
	require.Equal(t, 3, made[0].Places)
	require.Len(t, made[0].Left, 1, "an address that no value may be")
	o := after(s, set)
	same(t, o, pages)
	text := func(n int) string {
		b, _ := o.Get(fmt.Sprintf("pages/p%d.html", n))
		return string(b)
	}
	require.Contains(t, text(0), `@{ways entries=[{"address":"gate.html","label":"The gate"},{"address":"yard.html","label":"Yard & pond"}] /}`)
	require.Contains(t, text(1), "@{ways entries=[{\"address\":\"well.html\",\"label\":`It's a&nbsp;well`}] /}")
	require.Contains(t, text(2), "@{ways /}")
	require.Contains(t, text(3), "<li>")
	block, _ := o.Get("blocks/ways.html")
	require.Contains(t, string(block), "entries: {type: list, label: Entries, fields: {address: {type: link, label: Address}, "+
		"label: {type: text, label: Label}}}")
}

// A page in another encoding has no way to write more than ASCII in a list, and keeps its own.
func TestAListOnAPageInAnotherEncoding(t *testing.T) {
	pages := ways(entry("a", "A")+entry("b", "B"), entry("c", "C"), entry("d", "M\xfchle"), entry("e", "E"))
	for p := range pages {
		pages[p] = "<meta charset=\"iso-8859-1\">" + strings.Replace(pages[p], "<p>", "<p>\xe4", 1)
	}
	s := siteOf(pages)
	looked, pieces := find(t, s)
	p, _ := listed(t, pieces)
	set, made, err := adopting.Adopt(s, looked, []adopting.Wanted{{Piece: p}})
	require.NoError(t, err)
	require.Equal(t, "pages/p2.html", made[0].Left[0].Path)
	require.Equal(t, 3, made[0].Places)
	same(t, after(s, set), pages)
}

func TestListsDoNotBecomeOne(t *testing.T) {
	pages := ways(entry("a", "A")+entry("b", "B"), entry("c", "C"), entry("d", "D"), entry("e", "E"))
	for p, text := range pages {
		pages[p] = strings.Replace(text, "</div>", "<h4>The same the other way round, from the pond</h4><ol>"+
			strings.Repeat(entry("x", "X")+entry("y", p), int(p[1]-'0'))+"\n</ol></div>", 1)
	}
	s := siteOf(pages)
	looked, pieces := find(t, s)
	var lists []string
	p, _ := listed(t, pieces)
	for i := range p.Fields {
		lists = append(lists, p.Fields[i].Name)
	}
	require.Len(t, lists, 2)
	_, _, err := adopting.Adopt(s, looked, []adopting.Wanted{{Piece: p,
		Rename: map[string]string{lists[1]: lists[0]}}})
	require.ErrorContains(t, err, "lists do not become one")
	set, _, err := adopting.Adopt(s, looked, []adopting.Wanted{{Piece: p, Drop: lists[1:], Rename: map[string]string{lists[0]: "more"}}})
	if err != nil {
		require.ErrorContains(t, err, "no place is left")
		return
	}
	same(t, after(s, set), pages)
}

// Lists in the frame of pages stand in their front matter.
func TestAListInAFrame(t *testing.T) {
	pages := book()
	for p, text := range pages {
		rows := ""
		for i := range 1 + len(text)%4 {
			rows += entry(fmt.Sprintf("%d/%s", i, p), fmt.Sprintf("To %d of %s", i, p))
		}
		pages[p] = strings.Replace(text, "</i></div>", "</i><ul class=\"ways\">"+rows+"\n</ul></div>", 1)
	}
	s := siteOf(pages)
	looked, pieces := find(t, s)
	_, bottom := edges(t, pieces)
	top, _ := listed(t, pieces)
	require.Zero(t, top.Places[0].From)
	set, made, err := adopting.Layout(s, looked, adopting.WantedLayout{Top: top, Bottom: bottom, Title: "Chapter"})
	require.NoError(t, err)
	require.Equal(t, 8, made.Pages)
	o := after(s, set)
	same(t, o, pages)
	layout, _ := o.Get("layouts/chapter.html")
	require.Contains(t, string(layout), "@{each page.")
}
