package repeat

import (
	"testing"

	"github.com/stretchr/testify/require"
)

// Where a place can be read in several ways, what is the same everywhere comes before what can be anything,
// and every reading gives the bytes back.
func TestPlacesAreReadByTheirTemplate(t *testing.T) {
	f := func(s string) part { return part{bytes: []byte(s)} }
	v := func(h int) part { return part{kind: value, hole: h} }
	a := &aligner{holes: []hole{{place: inMarkup}, {place: isFlag}, {place: inAttr, quote: '"'}, {place: inText},
		{place: isFlag}, {place: inAddress, quote: '\''}}}
	template := []part{f("<t>"),
		{kind: when, hole: 0, body: []part{f("<r>"), v(0), f("</r>")}},
		{kind: when, hole: 1, body: []part{f("<r>menu</r>")}},
		f(`<a x="`), v(2), f(`">`), v(3), f("</a>"),
		{kind: when, hole: 4, is: "b", body: []part{f("[b]")}}, {kind: when, hole: 4, is: "c", body: []part{f("[c]")}},
		f("<i s='"), {kind: up}, v(5), f("'>"), v(3), f("</i></t>")}
	for text, want := range map[string][]string{
		`<t><r>menu</r><a x="1">w</a><i s='../p'>w</i></t>`:          {"-", "true", "1", "w", "-", "p"},
		`<t><r>o<b></r>ther</r><a x="">w</a>[c]<i s='../'>w</i></t>`: {"o<b></r>ther", "-", "", "w", "c", ""},
		`<t><a x="'">w w</a>[b]<i s='../p'>w w</i></t>`:              {"-", "-", "'", "w w", "b", "p"},
		`<t><r>a</r><r>menu</r><a x="">w</a><i s='../"'>w</i></t>`:   {"a", "true", "", "w", "-", `"`},
		`<t><a x="1">w</a><i s='../p'>v</i></t>`:                     nil, // one field, two values
		`<t><a x="1">w</a>[b][c]<i s='../p'>w</i></t>`:               nil, // one choice, two values
		`<t><a x="1">w<b></b></a><i s='../p'>w<b></b></i></t>`:       nil, // a text with tags
		`<t><a x="1">w</a><i s='p'>w</i></t>`:                        nil, // not as deep
		`<t><a x="1">w</a><i s='../p'>w</i></t> `:                    nil, // something behind it
		`<t><r></r><a x="1">w</a><i s='../p'>w</i></t>`:              nil, // nothing is no value
	} {
		found, _, ok := a.match(template, []byte(text), "../")
		require.Equal(t, want != nil, ok, text)
		for i, w := range want {
			if w == "-" {
				require.Nil(t, found.values[i], "%s: %d", text, i)
			} else {
				require.Equal(t, w, string(found.values[i]), "%s: %d", text, i)
			}
		}
	}
}

// Of what is no place it is told how far it is like one.
func TestWhereAPlaceBeginsToDiffer(t *testing.T) {
	a := &aligner{holes: []hole{{place: inText}, {place: isFlag}}}
	template := []part{{bytes: []byte("<p>Kept by ")}, {kind: value, hole: 0}, {bytes: []byte("</p>")},
		{kind: when, hole: 1, body: []part{{bytes: []byte("<i>Closed</i>")}}}, {bytes: []byte("<hr>")}}
	for text, want := range map[string]string{
		"<p>Kept for Ida</p><hr>":                   "for Ida</p><hr>",
		"<p>Kept by <b>Ida</b></p><hr>":             "<b>Ida</b></p><hr>",
		"<p>Kept by Ida</p><i>Open</i><hr>":         "Open</i><hr>",
		"<p>Kept by Ida</p><i>Closed</i><hr>behind": "behind",
		"<p>Kept by Ida</p>":                        "",
	} {
		_, far, ok := a.match(template, []byte(text), "")
		require.False(t, ok, text)
		require.Equal(t, want, text[far:], text)
	}
}
