package block

import (
	"reflect"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"
	"golang.org/x/net/html"
	"golang.org/x/net/html/atom"
	"pgregory.net/rapid"

	"brickshelf/internal/core/markup"
)

func TestMendingRichText(t *testing.T) {
	for bad, want := range map[string]string{
		"<b>x":                             "<b>x</b>",
		"x</div></section>y":               "xy",
		"<p>a<p>b":                         "<p>a</p><p>b</p>",
		"<table><tr><td>x":                 "<table><tbody><tr><td>x</td></tr></tbody></table>",
		"<td>x</td>":                       "x",
		"<ul><li>a<li>b":                   "<ul><li>a</li><li>b</li></ul>",
		"<table>lost<tr><td>x</table>":     "lost<table><tbody><tr><td>x</td></tr></tbody></table>",
		"<b><i>x</b>y</i>":                 "<b><i>x</i></b><i>y</i>",
		"<p>whole &amp; 'well'</p>":        "<p>whole &amp; 'well'</p>",
		"<p>a<br>b<img src=\"/x\"/></p>":   "<p>a<br>b<img src=\"/x\"/></p>",
		"no tags & nothing > else":         "no tags & nothing > else",
		"<a href=\"/a\">x<a href=\"/b\">y": "<a href=\"/a\">x</a><a href=\"/b\">y</a>",
	} {
		require.Equal(t, want, Mended(bad))
		require.Equal(t, want, Mended(want), "what is mended is whole")
	}
}

func TestRichTextWithinWhatItWouldEnd(t *testing.T) {
	for _, c := range []struct {
		in       markup.Inside
		say, got string
	}{
		{0, "<p>a</p>", "<p>a</p>"},
		{markup.InParagraph, "<p>a</p><p>b</p>", "a<br>b"},
		{markup.InParagraph, "a <b>b</b>", "a <b>b</b>"},
		{markup.InParagraph, "a<ul><li>b</li><li>c</li></ul>d", "a<br>b<br>c<br>d"},
		{markup.InParagraph, "<table><tbody><tr><td>a</td><td>b</td></tr></tbody></table>", "a<br>b"},
		{markup.InParagraph, "<h2>a</h2> \n<p>b</p>", "a \n<br>b"},
		{markup.InHeading, "<h2>a</h2><p>b</p>", "a<p>b</p>"},
		{markup.InLink, "a <a href=\"/x\">b</a>", "a b"},
		{markup.InLink, "<p>a</p>", "<p>a</p>"},
		{markup.InItem, "<li>a</li><ul><li>b</li></ul><li>c</li>", "a<ul><li>b</li></ul><br>c"},
		{markup.InTerm, "<dd>a</dd><dl><dd>b</dd></dl>", "a<dl><dd>b</dd></dl>"},
		{markup.InTerm | markup.InLink, "<dd>a <a>b</a></dd>", "a b"},
	} {
		require.Equal(t, c.got, Contained(c.say, c.in))
	}
}

// Whatever a rich value holds, what stands around it is as it is with a plain word.
func TestRichTextNeverLeavesItsElement(t *testing.T) {
	r := NewReader()
	parts := []string{"a", " ", "<p>", "</p>", "<div>", "</div>", "<b>", "</b>", "<i class=\"x\">", "</i>",
		"<a href=\"/x\">", "</a>", "<ul>", "</ul>", "<ol>", "<li>", "</li>", "<table>", "</table>", "<tr>",
		"</tr>", "<td>", "</td>", "<th>", "<tbody>", "<caption>",
		"<h1>", "</h1>", "<h2>", "<blockquote>", "</blockquote>", "<pre>", "<br>", "<hr>", "<dl>", "</dl>",
		"<dt>", "<dd>", "<img src=\"/x\">", "<script>", "</script>", "<!--", "-->", "<", ">", "</body>",
		"</html>", "<section>", "<details>", "<summary>", "<figure>", "<figcaption>", "<option>", "<select>",
		"<form>", "</form>", "<button>"}
	around := []string{"<div k=1>@</div><div k=2></div>", "<p k=1>@</p><p k=2>b</p>",
		"<h2 k=1>@</h2><p k=2></p>", "<a k=1>@</a><b k=2></b>", "<ul k=0><li k=1>@</li><li k=2></li></ul>",
		"<ul k=0><li k=1><ul k=3><li k=4>a</li></ul>@</li><li k=2></li></ul>",
		"<dl k=0><dt k=1>a</dt><dd k=2>@</dd><dd k=3></dd></dl>",
		"<table k=0><tr k=1><td k=2>@</td><td k=3></td></tr></table>", "<p k=1><b k=2>@</b> c</p>",
		"<section k=1><p k=2>a</p>@</section>", "<blockquote k=1>@</blockquote>",
		"<button k=1>@</button><i k=2></i>", "<p k=1><a k=2>@</a>b</p>", "<li k=1><p k=2>@</p></li>"}
	rapid.Check(t, func(t *rapid.T) {
		v, err := r.Read(&Field{Type: Rich}, strings.Join(rapid.SliceOfN(rapid.SampledFrom(parts), 1,
			10).Draw(t, "rich"), ""))
		require.NoError(t, err)
		src := rapid.SampledFrom(around).Draw(t, "around")
		text := markup.Parse([]byte(strings.Replace(src, "@", "@{=v}", 1)))
		require.Empty(t, text.Contexts())
		in := markup.Inside(0)
		markup.Walk(text.Nodes, func(n *markup.Node) bool {
			if n.Kind == markup.Value {
				in = n.Inside
			}
			return true
		})
		shown := Contained(v.Text, in)
		require.Equal(t, own(t, strings.Replace(src, "@", "word", 1)),
			own(t, strings.Replace(src, "@", shown, 1)), "%s\n%s", v.Text, shown)
	})
}

// own lists the elements of a document that have the attribute k, each with those around it.
func own(t require.TestingT, doc string) []string {
	nodes, err := html.ParseFragment(strings.NewReader(doc), &html.Node{Type: html.ElementNode, Data: "body",
		DataAtom: atom.Body})
	require.NoError(t, err)
	var out []string
	var walk func(n *html.Node, in string)
	walk = func(n *html.Node, in string) {
		for _, a := range n.Attr {
			if a.Key == "k" {
				in += "/" + n.Data + a.Val
				out = append(out, in)
			}
		}
		for c := n.FirstChild; c != nil; c = c.NextSibling {
			walk(c, in)
		}
	}
	for _, n := range nodes {
		walk(n, "")
	}
	return out
}

func TestWhatARichTextLoses(t *testing.T) {
	r := NewReader()
	rich := &Field{Name: "r", Type: Rich}
	for _, c := range []struct {
		f    *Field
		raw  any
		says string
	}{
		{rich, "<p>a <b>b</b> <a href=\"/x\">c</a></p>", ""},
		{rich, "no tags", ""},
		{rich, nil, ""},
		{rich, "<script>a</script><iframe src=\"/x\"></iframe>b", "leaves out <iframe>, <script>"},
		{rich, "<b onclick=\"x()\">a</b>", "leaves out onclick of <b>"},
		{rich, "<b>a", "do not fit together"},
		{rich, "a</div>", "do not fit together"},
		{rich, "a <b and c", "ends within a tag"},
		{rich, "a <!-- b", "ends within a tag"},
		{rich, "a <!-- b>", "ends within a tag"},
		{rich, "a <?b", "ends within a tag"},
		{rich, "a <!-- b --!><!--><?b>", ""},
		{rich, "1 < 2", ""},
		{&Field{Type: Text}, "<script>", ""},
		{&Field{Type: List, Fields: []*Field{rich}}, []any{map[string]any{"r": "<b>a"}},
			"do not fit together"},
		{&Field{Type: List, Fields: []*Field{rich}}, []any{map[string]any{"r": "a"}}, ""},
	} {
		got := r.Lost(c.f, c.raw)
		require.Equal(t, c.says == "", got == "", "%v: %s", c.raw, got)
		require.Contains(t, got, c.says)
	}
}

func TestRichTextIsWrittenInOrder(t *testing.T) {
	rich := &Field{Name: "r", Type: Rich}
	list := &Field{Type: List, Fields: []*Field{rich, {Name: "t", Type: Text}}}
	for _, c := range []struct {
		f         *Field
		raw, want any
	}{
		{rich, "<p onclick=x()>a <b>b", `<p onclick="x()">a <b>b</b></p>`},
		{rich, "<P>as  it 'is'</P>", "<P>as  it 'is'</P>"},
		{rich, "a <b and c", "a <b and c"},
		{rich, "<b>a <!-- c", "<b>a <!-- c"},
		{rich, nil, nil},
		{&Field{Type: Text}, "<b>a", "<b>a"},
		{list, []any{map[string]any{"r": "<b>a", "t": "<b>a", "other": "<b>a"}, "<b>"},
			[]any{map[string]any{"r": "<b>a</b>", "t": "<b>a", "other": "<b>a"}, "<b>"}},
	} {
		require.Equal(t, c.want, InOrder(c.f, c.raw))
	}
}

// What is written in order shows what was shown before, and says every word of it.
func TestRichTextInOrderShowsTheSame(t *testing.T) {
	f, r := &Field{Name: "r", Type: Rich}, NewReader()
	words := func(s string) string {
		var out []byte
		for _, token := range tokens(s) {
			if token.Type == html.TextToken {
				out = append(out, strings.Join(strings.Fields(token.Data), "")...)
			}
		}
		slices.Sort(out) // what may not stand in a table is moved before it
		return string(out)
	}
	rapid.Check(t, func(t *rapid.T) {
		var s strings.Builder
		for range rapid.IntRange(1, 8).Draw(t, "parts") {
			s.WriteString(rapid.SampledFrom([]string{"<p>", "</p>", "<b class=x>", "</b>", "<ul>", "<li>",
				"</ul>", "<table>", "<tr>", "<td>", "</table>", "<a href=\"/x\">", "</a>", "</div>", "<form>",
				"<select>", "<h2>", "a", "b &amp; c", " ", "< d", "<i", "-->", "<!--"}).Draw(t, "part"))
		}
		ordered := InOrder(f, s.String()).(string)
		require.Equal(t, ordered, InOrder(f, ordered))
		before, err := r.Read(f, s.String())
		require.NoError(t, err)
		after, err := r.Read(f, ordered)
		require.NoError(t, err)
		require.Equal(t, words(s.String()), words(ordered))
		require.Equal(t, words(before.Text), words(after.Text))
		require.NotContains(t, r.Lost(f, ordered)+" ", "do not fit")
	})
}

// Rich text is whole once it is mended, and stays where it is put.
func FuzzRich(f *testing.F) {
	for _, s := range []string{"<b>x", "<table>a<tr><td>b", "<p>a<ul><li>b</p>",
		"a</div><a href=\"/x\">b<a>c", "<h1><h2>", "<dl><dd>a<dt>b", "<select><option>", "&lt;<!-- -->"} {
		f.Add(s, uint8(markup.InParagraph|markup.InLink))
	}
	r := NewReader()
	f.Fuzz(func(t *testing.T, s string, in uint8) {
		v, err := r.Read(&Field{Type: Rich}, s)
		if err != nil {
			return
		}
		if again := Mended(v.Text); again != v.Text {
			t.Fatalf("%q is mended to %q, and that to %q", s, v.Text, again)
		}
		doc := func(rich string) []string {
			return own(t, "<section k=1><div k=2>"+rich+"</div><i k=3></i></section><b k=4></b>")
		}
		if got, want := doc(v.Text), doc("word"); !reflect.DeepEqual(got, want) {
			t.Fatalf("%q leaves its element as %q: %v", s, v.Text, got)
		}
		Contained(v.Text, markup.Inside(in))
		r.Lost(&Field{Type: Rich}, s)
		ordered := InOrder(&Field{Type: Rich}, s)
		if again := InOrder(&Field{Type: Rich}, ordered); again != ordered {
			t.Fatalf("%q is written as %q, and that as %q", s, ordered, again)
		}
	})
}
