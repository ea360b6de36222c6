package block

import (
	"encoding/json"
	"testing"

	"strings"

	"github.com/stretchr/testify/require"
	"golang.org/x/net/html"
	"pgregory.net/rapid"

	"brickshelf/internal/core/markup"
)

func TestEscapingByTypeAndPlace(t *testing.T) {
	for _, c := range []struct {
		typ  Type
		text string
		ctx  markup.Context
		want string
	}{
		{Text, `<b>"&'`, markup.InText, "&lt;b&gt;&#34;&amp;&#39;"},
		{Text, `" onload="x`, markup.InAttr, "&#34; onload=&#34;x"},
		{Lines, "a<\nb", markup.InText, "a&lt;<br>\nb"},
		{Lines, "a\nb", markup.InAttr, "a\nb"},
		{Rich, "<b>x</b>", markup.InText, "<b>x</b>"},
		{Rich, "<b>x</b>", markup.InAttr, "&lt;b&gt;x&lt;/b&gt;"},
		{Text, "javascript:alert(1)", markup.InURL, "#"},
		{Text, "JavaScript:alert(1)", markup.InURL, "#"},
		{Text, " data:text/html,x", markup.InURL, "#"},
		{Text, "//elsewhere.example/", markup.InURL, "#"},
		{Link, "/ports/?a=1&b=2", markup.InURL, "/ports/?a=1&amp;b=2"},
		{Link, "mailto:a@b.example", markup.InURL, "mailto:a@b.example"},
		{Text, "a b/c\"", markup.InURLPath, "a%20b/c%22"},
		{Text, "a b&c/d", markup.InURLQuery, "a%20b%26c%2Fd"},
		{Colour, "rgb(1, 2, 3)", markup.InStyle, "rgb(1, 2, 3)"},
		{Text, "red;background:url(x)", markup.InStyle, ""},
		{Text, "12px", markup.InStyle, "12px"},
		{Text, "--><b>", markup.InComment, "&#45;&#45;&gt;&lt;b&gt;"},
		{Date, "2026-03-01", markup.InComment, "2026-03-01"},
		{Text, "-a-", markup.InComment, "&#45;a&#45;"},
		{Text, "</title><b>", markup.InTitle, "&lt;/title&gt;&lt;b&gt;"},
		{Rich, "<b>x</b>", markup.InTitle, "&lt;b&gt;x&lt;/b&gt;"},
		{Lines, "a\nb", markup.InTitle, "a\nb"},
		{Text, " /x ", markup.InURL, "/x"},
		{Text, " https://a.example", markup.InURL, "https://a.example"},
		{Text, "\n/x", markup.InURL, "/x"},
		{Text, " javascript:x", markup.InURL, "#"},
		{Text, "java\tscript:x", markup.InURL, "#"},
		{Text, "java\nscript:x", markup.InURL, "#"},
		{Text, "\x00javascript:x", markup.InURL, "#"},
		{Text, "\x01javascript:x", markup.InURL, "#"},
		{Text, "\\\\elsewhere.example", markup.InURL, "#"},
		{Text, "/\\elsewhere.example", markup.InURL, "#"},
		{Text, "vbscript:x", markup.InURL, "#"},
		{Text, "data:text/html,x", markup.InURL, "#"},
		{Text, "HTTPS://a.example", markup.InURL, "HTTPS://a.example"},
		{Text, "tel:1", markup.InURL, "tel:1"},
		{Text, "ftp://a.example", markup.InURL, "#"},
		{Text, "a/b:c", markup.InURL, "a/b:c"},
		{Text, "?a:b", markup.InURL, "?a:b"},
		{Text, "#a:b", markup.InURL, "#a:b"},
		{Text, "script:alert(1)", markup.InURLRest, "script%3Aalert(1)"},
		{Text, "a:b:c/d:e", markup.InURLRest, "a%3Ab%3Ac/d:e"},
		{Text, "a/b:c", markup.InURLRest, "a/b:c"},
		{Text, "?a:b", markup.InURLRest, "?a:b"},
		{Text, "0;10;0", markup.InURLs, "0;10;0"},
		{Text, "#a; https://a.example; javascript:x", markup.InURLs, "#a; https://a.example;#"},
		{Text, "#a;javascript:x;/b", markup.InURLs, "#a;#;/b"},
		{Text, "a;b:c/d", markup.InURLQuery, "a%3Bb%3Ac%2Fd"},
		{List, "", markup.InText, ""},
	} {
		require.Equal(t, c.want, string(Append(nil, Value{Type: c.typ, Text: c.text}, c.ctx)), "%v", c)
	}
}

// What may yet become a scheme is judged with what stands before it in the address.
func TestAValueFurtherOnInAnAddress(t *testing.T) {
	for _, c := range [][3]string{
		{`<a href="`, "javascript:x", "#"},
		{`<a href="`, "https://a.example/", "https://a.example/"},
		{`<a href=" `, "javascript:x", "#"},
		{`<a href="java`, "script:x", "script%3Ax"},
		{`<a href='java`, "script:x", "script%3Ax"},
		{`<a href="&#106;ava`, "script:x", "script%3Ax"},
		{`<a href="/a`, "b:c", "b:c"},
		{`<a href="&sol;a`, "b:c", "b:c"},
		{`<a href="\a`, "b:c", "b:c"},
		{`<a href="https:`, "//a.example:80/", "//a.example:80/"},
		{`<a href="https&colon;`, "//a.example:80/", "//a.example:80/"},
		{`<a href="tel:`, "1:2", "1:2"},
		{`<a href="odd:`, "a:b", "a%3Ab"},
		{`<a href="?q=`, "a&b", "a%26b"},
		{`<a href="/a#`, "b/c", "b%2Fc"},
		{"no quotation mark", "a:b", "a%3Ab"},
		{`<a href="` + strings.Repeat("a", maxBefore), "a:b", "a%3Ab"},
	} {
		require.Equal(t, c[0]+c[2], string(Append([]byte(c[0]), Value{Type: Text, Text: c[1]},
			markup.InURLOpen)), "%q", c)
	}
	require.Equal(t, `<a href="/%2Felsewhere.example`,
		string(Append([]byte(`<a href="/`), Value{Type: Text, Text: "/elsewhere.example"}, markup.InURLPath)),
		"no other host")
	require.Equal(t, `<a href="/a/`+`/b`, string(Append([]byte(`<a href="/a/`), Value{Type: Text, Text: "/b"},
		markup.InURLPath)))
}

// What a call gave is escaped already, and judged as what it stands for.
func TestOutputInPlaces(t *testing.T) {
	for _, c := range []struct {
		html string
		ctx  markup.Context
		want string
	}{
		{`<b title="x">a</b>`, markup.InText, `<b title="x">a</b>`},
		{`<b title="x">&amp;'</b>`, markup.InAttr, "&lt;b title=&#34;x&#34;&gt;&amp;&#39;&lt;/b&gt;"},
		{"</title>&amp;", markup.InTitle, "&lt;/title&gt;&amp;"},
		{"javascript&colon;x", markup.InURL, "#"},
		{"&#106;avascript:x", markup.InURL, "#"},
		{"/a?b&amp;c", markup.InURL, "/a?b&amp;c"},
		{"a&colon;b", markup.InURLRest, "a%3Ab"},
		{"a&amp;b/c:d", markup.InURLRest, "a&amp;b/c:d"},
		{"#a;javascript&colon;x", markup.InURLs, "#a;#"},
		{"/a.png 1x,\n https://b.example/b.png 2x ", markup.InURLItems,
			"/a.png 1x, https://b.example/b.png 2x"},
		{"a javascript:x ,data:y b", markup.InURLItems, "a # # b"},
		{"//elsewhere.example/", markup.InURLItems, "#"},
		{"red", markup.InStyle, "red"},
		{"red;x", markup.InStyle, ""},
	} {
		require.Equal(t, c.want, string(AppendOutput(nil, []byte(c.html), c.ctx)), "%v", c)
	}
}

func TestValuesAreEqualInTypeToo(t *testing.T) {
	a := Value{Type: Text, Text: "1"}
	require.True(t, a.Equal(Value{Type: Text, Text: "1"}))
	require.False(t, a.Equal(Value{Type: Lines, Text: "1"}), "the same in JSON, and shown otherwise")
	require.False(t, a.Equal(Value{Type: Text, Text: "2"}))
	require.False(t, a.Equal(Value{}))
	list := func(n string) Value {
		return Value{Type: List, More: &More{Items: []Value{{Type: Text, Text: n}}}}
	}
	require.True(t, list("a").Equal(list("a")))
	require.False(t, list("a").Equal(list("b")))
}

func TestTheTextOfHTML(t *testing.T) {
	for html, want := range map[string]string{
		`He said "go" &amp; <b class="x>y">now</b>`: `He said "go" &amp; now`,
		"a<!-- b -->c<br>d":                         "acd",
		"a<script>b</script><style>c</style>d":      "ad",
		"a < b":                                     "a < b",
		"plain &lt;b&gt;":                           "plain &lt;b&gt;",
	} {
		require.Equal(t, want, string(TextOf([]byte(html))))
	}
}

// A value can neither end the attribute it stands in nor bring a tag of its own.
func TestNoValueBreaksOut(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		text := rapid.StringOf(rapid.SampledFrom([]rune(`<>"'&=/ -:;ajvscript!@{}\u0000`))).Draw(t, "text")
		typ := rapid.SampledFrom([]Type{Text, Lines, Link, Image}).Draw(t, "type")
		ctx := rapid.SampledFrom([]markup.Context{markup.InAttr, markup.InURL, markup.InURLPath,
			markup.InURLQuery, markup.InStyle}).Draw(t, "context")
		attr := map[markup.Context]string{markup.InAttr: "title", markup.InStyle: "style"}[ctx]
		if attr == "" {
			attr = "href"
		}
		v := Value{Type: typ, Text: text}
		doc := `<a ` + attr + `="` + string(Append(nil, v, ctx)) + `">` +
			string(Append(nil, v, markup.InText)) + "</a>"
		z := html.NewTokenizer(strings.NewReader(doc))
		tags := 0
		for z.Next() != html.ErrorToken {
			tok := z.Token()
			if tok.Type == html.TextToken || tok.Type == html.EndTagToken || tok.Data == "br" {
				continue
			}
			tags++
			require.Equal(t, "a", tok.Data, doc)
			require.Len(t, tok.Attr, 1, doc)
			if ctx == markup.InURL {
				require.NotRegexp(t, `(?i)^\s*(javascript|data|vbscript):`, tok.Attr[0].Val)
			}
		}
		require.Equal(t, 1, tags, doc)
	})
}

func TestReading(t *testing.T) {
	r := NewReader()
	list := &Field{Name: "links", Type: List, Fields: []*Field{{Name: "to", Type: Link},
		{Name: "n", Type: Number, Default: Value{Type: Number, Text: "1"}}}}
	for _, c := range []struct {
		f    *Field
		raw  any
		want string // as JSON, or the beginning of the message
	}{
		{&Field{Type: Text}, json.Number("0900"), `"0900"`},
		{&Field{Type: Number}, "12.5", `12.5`},
		{&Field{Name: "n", Type: Number}, "0900", `n is a number`},
		{&Field{Type: Switch}, true, `true`},
		{&Field{Name: "s", Type: Switch}, "yes", `s is a switch`},
		{&Field{Name: "c", Type: Choice, Choices: []string{"calm", "loud"}}, "clam",
			`c cannot be "clam"; choose one of calm, loud`},
		{&Field{Type: Colour}, "#1e6e74", `"#1e6e74"`},
		{&Field{Name: "c", Type: Colour}, "red;x", `c is a colour`},
		{&Field{Name: "d", Type: Date}, "2026-02-30", `d is a date`},
		{&Field{Type: Link}, map[string]any{"to": "/x/", "label": "X", "new_tab": true},
			`{"label":"X","new_tab":true,"to":"/x/"}`},
		{&Field{Name: "l", Type: Link}, "javascript:x", `l cannot lead to`},
		{&Field{Name: "l", Type: Link}, map[string]any{"href": "/"}, `l is a link and has the parts`},
		{list, []any{map[string]any{"to": "/a/"}}, `[{"n":1,"to":"/a/"}]`},
		{list, []any{map[string]any{"at": "/a/"}}, `item 1 of links has no field at`},
		{list, "x", `links is a list`},
		{&Field{Type: Rich}, `<b onclick="x">a</b><script>1</script><a href="data:x">l</a><style>p{}</style>`,
			`"<b>a</b>l"`},
		{&Field{Name: "t", Type: Text}, []any{"x"}, `t is a text and should be a single value`},
	} {
		v, err := r.Read(c.f, c.raw)
		if err != nil {
			require.Contains(t, err.Error(), c.want)
			continue
		}
		b, err := json.Marshal(v.Plain())
		require.NoError(t, err)
		require.JSONEq(t, c.want, string(b), "%v", c.raw)
		back, err := r.Read(c.f, v.Plain())
		require.NoError(t, err)
		require.True(t, v.Equal(back), "a value read again is the same")
	}
}

func TestArgumentsAreReadBackAsTheyWere(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		text := rapid.String().Draw(t, "text")
		v := Value{Type: Text, Text: text}
		p := markup.Parse([]byte("@{a x=" + v.Argument() + " /}"))
		require.Empty(t, p.Errors)
		require.Equal(t, text, p.Nodes[0].ArgString("x"))
	})
}

func TestBlockProblems(t *testing.T) {
	for src, want := range map[string]string{
		"---\ntitel: x\n---\n":                                  `blocks/a.html:2:1: a block has no key "titel"; did you mean title?`,
		"---\nfields: {a: {type: txt}}\n---\n":                  `blocks/a.html:2:20: "txt" is no type of field; did you mean text?`,
		"---\nfields: {when: {type: text}}\n---\n":              `blocks/a.html:2:10: "when" cannot name a field`,
		"---\nfields: {n: {type: number, default: x}}\n---\n":   `n is a number and cannot be "x"`,
		"---\nfields: {a: {}, a: {}}\n---\n":                    `the key a stands here for a second time`,
		"---\nfields: {c: {type: choice}}\n---\n":               `the choice c needs choices`,
		"---\ntitle: x\n":                                       `the front matter that begins here never ends`,
		"---\nfields: {title: {type: text}}\n---\n<p>@{=titel}": `blocks/a.html:4:7: nothing here is called titel; did you mean title?`,
		"x\n@{region main /}":                                   `blocks/a.html:2:1: @{region main} belongs into a layout`,
		"@{hours":                                               `blocks/a.html:1:3: @{hours is never closed`,
		"<p class=@{=page.x}>":                                  `put quotes around`,
		"---\na: &x 1\nb: *x\n---\n":                            `anchors`,
		"\xff":                                                  `should be UTF-8`,
		"---\nfields: {l: {type: link, from: logo}}\n---\n":     `from should name a page or site value`,
	} {
		_, problems := Parse("a", "blocks/a.html", []byte(src), NewReader())
		require.NotEmpty(t, problems, src)
		require.Contains(t, problems.Error(), want, src)
	}
}

func FuzzBlock(f *testing.F) {
	f.Add([]byte("---\ntitle: x\nfields:\n  a: {type: list, fields: {b: {type: link}}, default: [{b: /x/}]}\n---\n@{each a as x}@{=x.b}@{/each}"))
	f.Add([]byte("---\n- a\n? b\n---\n"))
	r := NewReader()
	f.Fuzz(func(t *testing.T, src []byte) {
		b, _ := Parse("a", "blocks/a.html", src, r)
		if b == nil || b.Text == nil {
			t.Fatal("a block always has a text")
		}
	})
}

// A value that another expression gave goes into a field of another type where it fits.
func TestFitting(t *testing.T) {
	r := NewReader()
	for _, c := range []struct {
		from Value
		to   Type
		want string // "" where it does not fit
	}{
		{Value{Type: Number, Text: "12.5"}, Text, "12.5"},
		{Value{Type: Switch, Text: "true"}, Text, "true"},
		{Value{Type: Text, Text: "12"}, Number, "12"},
		{Value{Type: Text, Text: "twelve"}, Number, ""},
		{Value{Type: Text, Text: "/fares/"}, Link, "/fares/"},
		{Value{Type: Text, Text: "javascript:alert(1)"}, Link, ""},
		{Value{Type: Link, Text: "/fares/"}, Text, "/fares/"},
		{Value{Type: Text, Text: "<b onclick=x>y</b>"}, Rich, "<b>y</b>"},
		{Value{Type: List, More: &More{Items: []Value{{Type: Text, Text: "x"}}}}, Text, ""},
		{Value{Type: Text, Text: "true"}, Switch, "true"},
		{Value{Type: Text, Text: "perhaps"}, Switch, ""},
	} {
		got, err := r.Fit(&Field{Name: "f", Type: c.to}, c.from)
		require.Equal(t, c.want == "", err != nil, "%s %q to %s: %v", c.from.Type, c.from.Text, c.to, err)
		require.Equal(t, c.want, got.Text, "%s %q to %s", c.from.Type, c.from.Text, c.to)
		if err == nil {
			require.Equal(t, c.to, got.Type)
		}
	}
	none, err := r.Fit(&Field{Name: "f", Type: Number}, Value{})
	require.NoError(t, err)
	require.False(t, none.IsSet(), "what is not set leaves it to the next source")
}
