package markup

import (
	"fmt"
	"strconv"
	"strings"
	"testing"
	"unicode/utf8"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"
)

// tree writes nodes on one line, for tables to be read.
func tree(src string, nodes []*Node) string {
	var out []string
	for _, n := range nodes {
		s := ""
		switch n.Kind {
		case Literal:
			s = fmt.Sprintf("%q", src[n.Span.From:n.Span.To])
		case Escape:
			s = "escape"
		case Comment:
			s = "comment"
		case Value:
			s = "=" + expr(n.Expr)
		case Call:
			s = n.Step + args(n)
		case When:
			s = "when " + expr(n.Expr)
		case Each:
			s = "each " + expr(n.Expr) + " as " + n.As
		case Region:
			s = "region " + n.Name
		case Fill:
			s = "fill " + n.Name
		case Copy:
			s = "copy " + n.Step
		case Inner:
			s = "inner"
		case Assets:
			s = "assets"
		}
		if n.Closed {
			s += "{" + tree(src, n.Body)
			if n.HasElse {
				s += " else " + tree(src, n.Else)
			}
			s += "}"
		}
		out = append(out, s)
	}
	return strings.Join(out, " ")
}

func args(n *Node) string {
	s := ""
	for _, a := range n.Args {
		v := a.Value.Text
		switch a.Value.Kind {
		case ArgExpr:
			v = "(" + expr(a.Value.Expr) + ")"
		case ArgJSON:
			v = fmt.Sprint(a.Value.JSON)
		case ArgNumber:
			v = "#" + v
		case ArgBool:
			v = "?" + v
		}
		s += " " + a.Name + "=" + v
	}
	return s
}

func expr(e *Expr) string {
	var terms []string
	for _, t := range e.Terms {
		if t.Literal != nil {
			terms = append(terms, "'"+*t.Literal+"'")
		} else {
			terms = append(terms, strings.Join(t.Path, "."))
		}
	}
	s := strings.Join(terms, "|")
	if e.Not {
		s = "!" + s
	}
	if e.Is != nil {
		s += "==" + *e.Is
	}
	return s
}

func TestEveryForm(t *testing.T) {
	for src, want := range map[string]string{
		`<p>@{hours port="north" compact=true /}</p>`: `"<p>" hours~1 port=north compact=?true "</p>"`,
		`@{callout tone="calm"}a @{b /}@{/callout}`:   `callout~1 tone=calm{"a " b~1}`,
		`@{=title}@{=page.logo or logo}`:              `=title =page.logo|logo`,
		"@{b a=`x&nbsp;<b>\\`` /}@{b a=`&lt;` /}":     "b~1 a=x&nbsp;<b>` b~2 a=<",
		`@{="@"}`:                                                            `='@'`,
		`@{when links}x@{else}y@{/when}`:                                     `when links{"x" else "y"}`,
		`@{when not page.a or b}x@{/when}`:                                   `when !page.a|b{"x"}`,
		`@{when tone is "calm"}x@{/when}`:                                    `when tone==calm{"x"}`,
		`@{each links as link}@{=link.to}@{/each}`:                           `each links as link{=link.to}`,
		`@{region main} d @{/region}@{region side /}`:                        `region main{" d "} region side`,
		`@{fill sidebar}x@{/fill}`:                                           `fill sidebar{"x"}`,
		`@{copy of="hours" base="h" key="k"}t@{/copy}`:                       `copy k{"t"}`,
		`@{assets /}@{# a note }`:                                            `assets comment`,
		`a@@{b}`:                                                             `"a" escape "b}"`,
		`@@@{x /}`:                                                           `"@" escape "x /}"`,
		`@{a n=1.5 m=-2 w=north s='it''s' /}`:                                `"@{a n=1.5 m=-2 w=north s='it''s' /}"`,
		`@{a n=1.5 m=-2 w=north s='it\'s' q="\"\n" /}`:                       "a~1 n=#1.5 m=#-2 w=north s=it's q=\"\n",
		`@{a l=[{"label":"x"}] o={"to":"/"} e=(page.x or y) /}`:              `a~1 l=[map[label:x]] o=map[to:/] e=(page.x|y)`,
		`@{a /}@{b /}@{a /}@{a key="k" /}@{a /}`:                             `a~1 b~1 a~2 k key=k a~4`,
		`@{fill s}@{a /}@{/fill}@{a /}`:                                      `fill s{a~1} a~1`,
		`@{copy of="c" base="h"}@{a /}@{inner}@{a /}@{/inner}@{/copy}@{a /}`: `copy c~1{a~1 inner{a~1}} a~2`,
		`href="@{url page="/fares/" /}"`:                                     `"href=\"" url~1 page=/fares/ "\""`,
	} {
		p := Parse([]byte(src))
		require.Equal(t, want, tree(src, p.Nodes), src)
		require.Equal(t, src, string(Print(p)))
	}
}

func TestFaults(t *testing.T) {
	for src, want := range map[string]string{
		"a\n @{hours":                     "2:4 unclosed",
		"@{callout}x":                     "1:1 unclosed",
		"x@{/callout}":                    "1:2 unopened",
		"@{a}@{b}@{/a}@{/b}":              "1:9 mismatch",
		"@{else}":                         "1:1 stray-else",
		"@{when a}@{else}@{else}@{/when}": "1:17 stray-else",
		"@{a x=1 x=2 /}":                  "1:9 duplicate-argument",
		"@{a x= /}":                       "1:7 syntax",
		"@{a x=\"y /}":                    "1:7 unclosed",
		"@{when a is \"y}z@{/when}":       "1:13 unclosed",
		"@{when a is ]}z@{/when}":         "1:13 syntax",
		"@{page /}":                       "1:3 reserved-name",
		"@{each l as inner}@{/each}":      "1:13 reserved-name",
		"@{=not x}":                       "1:4 syntax",
		"é@{ x}":                          "1:2 syntax",
		"@{copy base=\"x\"}y@{/copy}":     "1:1 syntax",
		"@{a l=[1,/}":                     "1:7 syntax",
		"@{a key=\"a/b\" /}":              "1:5 syntax",
		"@{# never":                       "1:1 unclosed",
	} {
		p := Parse([]byte(src))
		require.NotEmpty(t, p.Errors, src)
		line, col := Position(p.Src, p.Errors[0].At)
		require.Equal(t, want, fmt.Sprintf("%d:%d %s", line, col, p.Errors[0].Code), src)
		require.Equal(t, src, string(Print(p)), "what is not the language stays as it is")
	}
}

func TestNestingHasALimit(t *testing.T) {
	deep := strings.Repeat("@{a}", 200) + strings.Repeat("@{/a}", 200)
	p := Parse([]byte(deep))
	require.Equal(t, "too-deep", p.Errors[0].Code)
	require.Equal(t, deep, string(Print(p)))
}

func TestContexts(t *testing.T) {
	for src, want := range map[string]Context{
		`<p>@{=v}</p>`:                                      InText,
		`<p title="@{=v}">`:                                 InAttr,
		`<a href='@{=v}'>`:                                  InURL,
		`<a href="/x/@{=v}/">`:                              InURLPath,
		`<a href="/x?q=@{=v}">`:                             InURLQuery,
		`<p style="color:@{=v}">`:                           InStyle,
		`<!-- @{=v} -->`:                                    InComment,
		`<!--@{=v}-->`:                                      InComment,
		`<!--@{=a}@{=v}-->`:                                 InComment,
		`<script>var a = "</p>";</script>@{=v}`:             InText,
		`<a @{when x}class="b"@{/when} id="@{=v}">`:         InAttr,
		`<title>@{=v}</title>`:                              InTitle,
		`<textarea>a<!-- @{=v}`:                             InTitle,
		`<IMG SRC="@{=v}">`:                                 InURL,
		`a < b @{=v}`:                                       InText,
		`<!doctype html><p>@{=v}`:                           InText,
		`<svg><title>@{=v}</title></svg>`:                   InText,
		`<svg><![CDATA[ "> ]]><a href="@{=v}">`:             InURL,
		`<![CDATA[ "> @{=v}`:                                InText,
		`<noscript><a href="@{=v}"></a></noscript>`:         InURL,
		`<noscript><!-- </noscript>@{=v}`:                   InText,
		`<script><!-- <script> </script> --></script>@{=v}`: InText,

		// of an address
		`<a href=" @{=v}">`:                                InURL,
		`<a href="java@{=v}">`:                             InURLOpen,
		`<a href="@{=a}@{=v}">`:                            InURLOpen,
		`<a href="@{when x}https:@{/when}@{=v}">`:          InURLOpen,
		`<a href="@{when x}/a@{else}b@{/when}@{=v}">`:      InURLOpen,
		`<a href="@{when x}/a@{else}https:@{/when}@{=v}">`: InURLPath,
		`<a href="@{when x}/a@{else}/b?@{/when}@{=v}">`:    InURLQuery,
		`<a href="@{when x}?@{/when}@{=v}">`:               InURLOpen,
		`<a href="@{each l as x}@{=v}@{/each}">`:           InURLOpen,
		`<a href="@{each l as x}a@{/each}@{=v}">`:          InURLOpen,
		`<a href="@{hours /}@{=v}">`:                       InURLRest,
		`<a href="@{=inner}@{=v}">`:                        InURLRest,
		`<a href="@{=a}/@{=v}">`:                           InURLPath,
		`<a href="@{=a}?@{=v}">`:                           InURLQuery,
		`<a href="&#47;@{=v}">`:                            InURLPath,
		`<a href="tel&colon;@{=v}">`:                       InURLPath,
		`<a href="` + "\\" + `x@{=v}">`:                    InURLPath,
		`<a href="` + strings.Repeat("a", 99) + `/@{=v}">`: InURLPath,
		`<use xlink:href="@{=v}">`:                         InURL,
		`<use x:href="#@{=v}">`:                            InURLQuery,
		`<button formaction="@{=v}">`:                      InURL,
		`<a ping="/a?b @{=v}">`:                            InURL,
		`<img srcset="/a?b 1x, @{=v} 2x">`:                 InURL,
		`<img srcset="/a?b,@{=v} 2x">`:                     InURL,
		`<img src="/a,@{=v}">`:                             InURLPath,
		`<object data="@{=v}">`:                            InURL,
		`<img srcset="/a@{=inner}">`:                       InURLItems,
		`<img srcset="@{=v} 1x, @{=v}">`:                   InURL,
		`<img srcset="/a@{b /}@{=v}">`:                     InURLRest,
		`<svg><animate to="@{=v}">`:                        InURLs,
		`<svg><set to="@{=v}">`:                            InURLs,
		`<svg><animate values="#a;@{=v}">`:                 InURLs,
		`<svg><animate values="#@{=v}">`:                   InURLQuery,
		`<svg><animate from="/a/@{=v}">`:                   InURLQuery,
		`<input to="@{=v}">`:                               InAttr,
		`<meta content="@{=v}">`:                           InAttr,
		`<a data-href="@{=v}">`:                            InAttr,
	} {
		p := Parse([]byte(src))
		require.Empty(t, p.Contexts(), src)
		Walk(p.Nodes, func(n *Node) bool {
			if n.Kind == Value && n.Expr.Terms[0].Path[0] == "v" {
				require.Equal(t, want, n.Context, src)
			}
			return true
		})
	}
}

func TestPlacesWhereNoEscapingHelps(t *testing.T) {
	for _, src := range []string{
		`<script>x = "@{=v}"</script>`, `<style>p{color:@{=v}}</style>`, `<p class=@{=v}>`, `<@{=v}>`,
		`</@{=v}>`, `<p @{=v}>`, `<p data-@{=v}="x">`,
		`<a onclick="go('@{=v}')">`, `<iframe srcdoc="@{=v}">`, `<a href="javascript:@{=v}">`,
		`<scr@{hours /}ipt>`, `<!-- @{hours /} -->`,
		`@{when x}<p title="@{/when}">`, `@{each l as x}<p title="@{/each}`, `<p title="@{region main /}">`,
		`<xmp>@{=v}</xmp>`, `<iframe>@{=v}</iframe>`, `<noembed>@{=v}</noembed>`,
		`<noframes>@{=v}</noframes>`, `<plaintext>@{=v}`, `<svg><script>@{=v}`, `<svg><style>@{=v}`,
		`<script><!-- <script> </script> @{=v}`, `<!doctype @{=v}>`, `<?x @{=v}>`, `<svg><![CDATA[ @{=v}`,
		`<!-- -@{=v} -->`, `<!--@{=v}>-->`, `<!--@{=v}->-->`, `<!-- @{=inner} -->`,
		`<a href="data:@{=v}">`, `<a href="vbscript:@{=v}">`, `<a href=" JavaScript:@{=v}">`,
		`<a href="java&Tab;script:@{=v}">`, `<a href="javascript&colon;@{=v}">`,
		`<a href="&#106;avascript:@{=v}">`, "<a href=\"java\tscript:@{=v}\">",
		`<a href="javascript&#58@{=v}">`, `<a href="javascript&#5@{=v}">`, `<a href="@{=a}&@{=v}">`,
		`<a href="@{=v}:x">`, `<a href="@{=v}a:x">`, `<a href="@{when x}java@{/when}script:@{=v}">`,
		`<a href="@{when x}javascript:@{else}/@{/when}@{=v}">`, `<img srcset="@{=v}:x">`,
		`<svg><set to="java@{=v}">`, `<svg><set to="@{=v}:x">`, `<svg><set attributename="@{=v}">`,
		`<meta http-equiv="@{=v}">`, `<meta http-equiv="refresh" content="@{=v}">`,
		`<meta content="@{=v}" http-equiv="refresh">`,
		`<p title="@{copy of="a" base="b"}x@{/copy}">`, `@{callout}<p title="@{/callout}`,
		`@{callout}<!-- @{/callout}`,
	} {
		require.NotEmpty(t, Parse([]byte(src)).Contexts(), src)
	}
}

// What stands within a tag by a condition or loop is taken where one can read on from all
// branches alike.
func TestBranchesWithinATag(t *testing.T) {
	for _, src := range []string{
		`<li@{when on} class="on"@{/when}>`, `<li@{when on} class="on"@{/when} id="a">`,
		`<input type=text@{when on} checked@{/when}>`, `<input@{when on} checked@{/when}/>`,
		`<input @{when a}checked@{/when} @{when b}disabled@{/when}>`,
		`<p @{when a}title="a"@{else}id="b"@{/when}>`, `<p title="a@{when b} c@{/when}">`,
		`<br@{when a} class=x@{else} id=y@{/when} >`,
		`<p@{each l as x} data-x="@{=x}"@{/each}>`, `<p @{each l as x}data-x="@{=x}" @{/each}>`,
		`<p title="@{each l as x}@{=x} @{/each}">`, `<a href="@{when x}a:b@{else}c@{/when}">`,
		`<meta @{when x}name="a"@{/when} content="@{=v}">`, `<!-- @{when x}a@{else}b@{/when} -->`,
		`<style>@{when x}a{}@{/when}</style>`, `<p @{when x}a @{else}b @{/when}c="d">`,
	} {
		require.Empty(t, Parse([]byte(src)).Contexts(), src)
	}
	for _, src := range []string{
		`<li@{when on} class="on"@{/when}ne>`, `<input type=text@{when on} checked@{/when}s>`,
		`<input type=text@{when on} checked@{/when}/>`, `<p @{when x}title@{/when}="y">`,
		`<p @{when x}title@{/when} ="y">`,
		`<p @{when x}title@{/when}"y">`, `<@{when x}a@{else}b@{/when}>`,
		`<p @{each l as x}on@{/each}click="a">`, `<p @{each l as x}a="@{=x}" on@{/each}>`,
		`<a href="@{when x}"@{/when}>`, `<!-- @{when x}-@{/when}->`,
		`@{when x}<svg>@{/when}<title>@{=v}`, `@{when x}<noscript>@{/when}`, `@{when x}</p@{/when}>`,
		`<p title='@{when x}' id="@{/when}">`, `<meta @{when x}http-equiv="refresh"@{/when} content="@{=v}">`,
	} {
		require.NotEmpty(t, Parse([]byte(src)).Contexts(), src)
	}
}

// A text that ends within what it began says where that was.
func TestWhatIsNotEnded(t *testing.T) {
	for src, want := range map[string]string{
		"a<p": "1 a tag", "<p title=\"a": "0 the attribute title", "a\n<!-- b": "2 a comment",
		"<p>a</p><script>b": "8 <script>", "a<title>b</titl": "1 <title>", "<p>a": "", "<svg>": "",
		"<noscript>": "", "a<": "1 a tag", "<?a": "0 a comment", "<textarea>": "0 <textarea>",
		"<style>a</style><style>": "16 <style>", "<plaintext>a": "0 <plaintext>",
	} {
		e, open := Parse([]byte(src)).Unended()
		require.Equal(t, want != "", open, src)
		if open {
			at, what, _ := strings.Cut(want, " ")
			require.Equal(t, at, strconv.Itoa(e.At), src)
			require.True(t, strings.HasPrefix(e.Message, what+" is not ended"), e.Message)
		}
	}
}

func FuzzParseThenPrint(f *testing.F) {
	for _, s := range []string{`<p>@{hours port="north" /}</p>`, `@{when a is "b"}x@{else}y@{/when}@@{`,
		`@{a l=[{"b":1}] e=(page.x or "y") /}`, "@{copy of=\"a\" base=\"b\"}@{inner}@{/inner}@{/copy}",
		"@{a l=[{\"b\":`c&nbsp;d`,\"e\":[1,`\\``]}] /}", "@{a l=[`@{a l=[` /}", "\xff@{", "@{each a as b}@{=b.c}@{/each}@{# }"} {
		f.Add([]byte(s))
	}
	f.Fuzz(func(t *testing.T, src []byte) {
		p := Parse(src)
		if string(Print(p)) != string(src) {
			t.Fatalf("printed %q from %q", Print(p), src)
		}
		at := 0
		var tile func(nodes []*Node)
		tile = func(nodes []*Node) {
			for _, n := range nodes {
				if n.Span.From != at {
					t.Fatalf("a node begins at %d, the one before ends at %d", n.Span.From, at)
				}
				at = n.Head.To
				tile(n.Body)
				if n.HasElse {
					at = n.ElseTag.To
					tile(n.Else)
				}
				if n.Tail.Len() > 0 {
					at = n.Tail.To
				}
				if at != n.Span.To {
					t.Fatalf("a node ends at %d, its parts at %d", n.Span.To, at)
				}
			}
		}
		tile(p.Nodes)
		p.Contexts()
		for _, e := range p.Errors {
			if e.At < 0 || e.At > len(src) {
				t.Fatalf("a fault at %d of %d bytes", e.At, len(src))
			}
			Position(src, e.At)
		}
	})
}

// Places that are asked for one after the other are where they are by themselves.
func TestACursorFindsWhatPositionFinds(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		src := []byte(rapid.StringOf(rapid.SampledFrom([]rune("aé\n"))).Draw(t, "text"))
		var c Cursor
		for range rapid.IntRange(1, 9).Draw(t, "places") {
			at := rapid.IntRange(0, len(src)+2).Draw(t, "at")
			line, col := Position(src, at)
			gotLine, gotCol := c.Position(src, at)
			if at <= len(src) && (at == len(src) || utf8.RuneStart(src[at])) {
				require.Equal(t, [2]int{line, col}, [2]int{gotLine, gotCol})
			}
			if at < len(src) && !utf8.RuneStart(src[at]) {
				c = Cursor{}
			}
		}
	})
}
