package render_test

import (
	"testing"
	"time"

	"github.com/stretchr/testify/require"
	"golang.org/x/text/encoding/charmap"
	"golang.org/x/text/encoding/japanese"

	"brickshelf/internal/core/render"
	"brickshelf/internal/core/shelf"
	"brickshelf/internal/core/site"
)

// What blocks, arguments and enclosed content bring into a page of another encoding is written in that.
func TestPagesInOtherEncodings(t *testing.T) {
	latin := func(s string) string {
		b, err := charmap.ISO8859_1.NewEncoder().String(s)
		require.NoError(t, err)
		return b
	}
	sjis := func(s string) string {
		b, err := japanese.ShiftJIS.NewEncoder().String(s)
		require.NoError(t, err)
		return b
	}
	const block = "---\nfields:\n  who: {type: text, default: Jürgen}\n---\n<b title=\"@{=who}\">Grüße →, @{=who}</b>@{=inner}"
	head := "<meta charset=iso-8859-1>"
	for name, c := range map[string][2]string{
		"a default, and a character that the encoding lacks": {latin(head + "ä @{b /} ö"),
			latin(head+"ä <b title=\"Jürgen\">Grüße ") + "&#8594;" + latin(", Jürgen</b> ö")},
		"an argument of the page": {latin(head + `@{b who="Zoë" /}ä`),
			latin(head+"<b title=\"Zoë\">Grüße ") + "&#8594;" + latin(", Zoë</b>ä")},
		"an argument as it is spelled": {latin(head + "@{b who=`Zoë &amp; &eacute;` /}ä"),
			latin(head+"<b title=\"Zoë &amp; &eacute;\">Grüße ") + "&#8594;" + latin(", Zoë &amp; &eacute;</b>ä")},
		"enclosed content, with a call in it": {latin(head + "@{b}<i>é @{b /}</i>@{/b}"),
			latin(head+"<b title=\"Jürgen\">Grüße ") + "&#8594;" + latin(", Jürgen</b><i>é <b title=\"Jürgen\">Grüße ") + "&#8594;" +
				latin(", Jürgen</b></i>")},
		"the text of the page is ASCII": {head + "@{b /}",
			latin(head+"<b title=\"Jürgen\">Grüße ") + "&#8594;" + latin(", Jürgen</b>")},
		"what declares the encoding is a block": {"@{h /}<p>@{b /}",
			latin(head+"<p><b title=\"Jürgen\">Grüße ") + "&#8594;" + latin(", Jürgen</b>")},
		"another alphabet":                 {sjis("<meta charset=shift_jis>能 @{k /} 表"), sjis("<meta charset=shift_jis>能 <i>水車 能</i> 表")},
		"UTF-8 stays what it is":           {"<meta charset=utf-8>ä @{b /}", "<meta charset=utf-8>ä <b title=\"Jürgen\">Grüße →, Jürgen</b>"},
		"UTF-8 that says it is not":        {head + "ä @{b /}", head + "ä <b title=\"Jürgen\">Grüße →, Jürgen</b>"},
		"no declaration, and all is UTF-8": {"@{b /}", "<b title=\"Jürgen\">Grüße →, Jürgen</b>"},
	} {
		files := site.Files{"site.yaml": []byte("format: brickshelf/1\n"), "blocks/b.html": []byte(block),
			"blocks/k.html": []byte("<i>水車 能</i>"), "blocks/h.html": []byte(head), "pages/p.html": []byte(c[0])}
		s := shelf.New(files, time.Date(2026, 6, 1, 0, 0, 0, 0, time.UTC))
		in := s.Info("pages/p.html")
		require.Equal(t, c[1], string(render.AppendPage(s, nil, in)), name)
		res := render.Page(s, "pages/p.html", render.Options{Placements: true})
		require.Equal(t, c[1], string(res.HTML), name)
		for _, p := range res.Placements {
			require.Regexp(t, `^(<b|<i|<meta)`, string(res.HTML[p.From:p.To]), name)
		}
		for _, l := range res.Literals {
			if !in.Page.Split.HasHead && name != "enclosed content, with a call in it" {
				require.Equal(t, c[0][l.At:l.At+l.To-l.From], string(res.HTML[l.From:l.To]), name)
			}
		}
	}
}
