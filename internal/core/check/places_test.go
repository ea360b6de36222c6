package check_test

import (
	"encoding/json"
	"net/url"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"
	"golang.org/x/net/html"
	"pgregory.net/rapid"

	"brickshelf/internal/core/check"
	"brickshelf/internal/core/markup"
	"brickshelf/internal/core/render"
	"brickshelf/internal/core/site"
	"brickshelf/internal/core/sitetest"
)

// What drawn blocks are put together from: values, words at the edges of HTML and of
// addresses, and what may stand around others.
var (
	values = []string{"@{=v}", "@{=v}", "@{=w}", "@{=v or w}", "@{=inner}", "@{echo}@{=v}@{/echo}",
		"@{echo /}", "@{=x.t}"}
	words = []string{"a", " ", "/", ":", "?", "#", "&", ";", ",", "-", "javascript", "https:", "java",
		"&colon;", "&#58;", "\"", "'", ">", "<p>", "</p>", "<svg>", "</svg>", "-->", "]]>", " 2x, ", "<",
		"</", "</title", "</t", "</noscript", "!"}
	around = [][2]string{
		{"@{when v}", "@{/when}"}, {"@{when w}", "@{else}a@{/when}"},
		{"@{when not v}", "@{else}@{=v}@{/when}"}, {"@{each l as x}", "@{/each}"}, {"@{echo}", "@{/echo}"},
		{"<div class=\"", "\">"}, {"<div title='", "'>"}, {"<a href=\"", "\">"}, {"<a href='", "'>"},
		{"<img src=\"", "\">"}, {"<img srcset=\"", "\">"}, {"<a ping=\"", "\">"}, {"<form action=\"", "\">"},
		{"<button formaction=\"", "\">"},
		{"<svg><a xlink:href=\"", "\"/></svg>"}, {"<svg><a><set attributeName=\"href\" to=\"",
			"\"/></a></svg>"}, {"<svg><animate attributeName=href values=\"", "\"/></svg>"},
		{"<meta content=\"", "\">"}, {"<meta http-equiv=refresh content=\"", "\">"},
		{"<p style=\"", "\">"}, {"<p onclick=\"", "\">"}, {"<p x=", ">"}, {"<p ", ">"}, {"<!--", "-->"},
		{"<!-- ", " -->"}, {"<title>", "</title>"}, {"<textarea>", "</textarea>"}, {"<script>", "</script>"},
		{"<style>", "</style>"}, {"<noscript>", "</noscript>"},
		{"<svg><![CDATA[", "]]></svg>"}, {"<xmp>", "</xmp>"}, {"<iframe srcdoc=\"", "\">"},
		{"<li@{when v} class=\"", "\"@{/when}>"}, {"<input type=text@{when v} title=\"", "\"@{/when}>"},
	}
)

func drawn(t *rapid.T, depth int) string {
	out := ""
	for range rapid.IntRange(1, 4).Draw(t, "parts") {
		switch kind := rapid.IntRange(0, 5).Draw(t, "kind"); {
		case kind < 2:
			out += rapid.SampledFrom(values).Draw(t, "value")
		case kind == 2 || depth == 0:
			out += rapid.SampledFrom(words).Draw(t, "word")
		default:
			a := rapid.SampledFrom(around).Draw(t, "around")
			out += a[0] + drawn(t, depth-1) + a[1]
		}
	}
	return out
}

// Texts that drawing would rarely come upon.
var rare = []string{
	"<title><@{=v}</title>", "<title></@{=v}</title>", "<title></t@{=v}</title>",
	"<textarea>a<@{=inner}x</textarea>", "<textarea></textarea@{=v}</textarea>",
	"<title><@{when v}@{=v}@{/when}</title>", "<title>@{when v}<@{/when}@{=v}</title>",
	"<title>@{each l as x}</@{=x.t}@{/each}</title>",
	"<noscript><p title=\"</noscript@{=v}\">a</p></noscript>",
	"<noscript><p title=\"<@{=v}\">a</p></noscript>", "<noscript><!-- <@{=v} --></noscript>",
	"<noscript></@{=v}</noscript>",
	"<img srcset=\"/a@{=inner}@{=v}\">", "<a ping=\"/a?@{=inner}@{=v}@{=v}\">", "<a ping=\"/ @{=v}@{=v}\">",
	"<img srcset=\"/a 1x, @{=v}@{=w}\">", "<img srcset=\"java@{echo /}@{=v}\">",
	"<a ping=\"@{echo}@{=v}@{/echo}@{=v}\">", "<a ping=\"@{=v or inner}\">",
	"<a href=\"@{when w}@{=v}?@{=v}@{else}a@{/when}@{=v}\">",
	"<a href=\"@{when not w}?@{else}java@{/when}@{=v}\">", "<a href=\"@{when w}@{else}?@{/when}@{=inner}\">",
	"<a href=\"@{each l as x}?@{=x.t}@{/each}@{=v}\">",
}

var hostile = []string{
	"javascript:alert(1)", "JaVaScRiPt:alert(1)", " javascript:alert(1)", "java\tscript:alert(1)",
	"script:alert(1)", ":alert(1)", "data:text/html,<script>alert(1)</script>", "&#58;alert(1)", "&colon;x",
	"8alert(1)", "vbscript:x",
	"\" onload=\"alert(1)", "' onload='alert(1)", "><script>alert(1)</script>",
	"</title><script>alert(1)</script>", "</textarea><img src=x onerror=alert(1)>",
	"--><img src=x onerror=alert(1)>", "--!><b>", "-", "--", "->", ">",
	"]]><b>", "</noscript><b>", "/title ", "/textarea x", "/noscript x", "itle ", "extarea x", " ",
	"</script><b>", "</xmp><b>", "<svg>", "<!--", "<![CDATA[", "//elsewhere.example/",
	"\\\\elsewhere.example", "#a;javascript:alert(1)", "x, javascript:alert(1) 2x", "expression(alert(1))",
	"red;background:url(javascript:x)", "@{=v}", "a b", "\x00", "\r\n", "",
}

// structure is what a page has of elements and attributes, and where each stands.
func structure(t require.TestingT, page []byte) string {
	root, err := html.Parse(strings.NewReader(string(page)))
	require.NoError(t, err)
	var out strings.Builder
	var walk func(*html.Node)
	walk = func(n *html.Node) {
		for c := n.FirstChild; c != nil; c = c.NextSibling {
			switch c.Type {
			case html.ElementNode:
				out.WriteString("<" + c.Namespace + " " + c.Data)
				for _, a := range c.Attr {
					out.WriteString(" " + a.Namespace + ":" + a.Key)
				}
				walk(c)
				out.WriteString(">")
			case html.CommentNode:
				out.WriteString("<!>")
			}
		}
	}
	walk(root)
	return out.String()
}

// schemes lists the schemes of all addresses of a page, as a browser reads them.
func schemes(t require.TestingT, page []byte) []string {
	root, err := html.Parse(strings.NewReader(string(page)))
	require.NoError(t, err)
	var out []string
	add := func(address string) {
		address = strings.Map(func(r rune) rune {
			if r == '\t' || r == '\n' || r == '\r' {
				return -1
			}
			return r
		}, strings.TrimLeft(address,
			"\x00\x01\x02\x03\x04\x05\x06\x07\x08\t\n\x0b\x0c\r\x0e\x0f\x10\x11\x12\x13\x14\x15\x16\x17\x18\x19\x1a\x1b\x1c\x1d\x1e\x1f "))
		if scheme, _, ok := strings.Cut(address, ":"); ok && !strings.ContainsAny(scheme, "/?#\\") {
			if _, err := url.Parse(scheme + ":x"); err == nil {
				out = append(out, strings.ToLower(scheme))
			}
		}
	}
	for n := range root.Descendants() {
		for _, a := range n.Attr {
			switch a.Key {
			case "href", "src", "action", "formaction":
				add(a.Val)
			case "ping", "srcset":
				for _, one := range strings.FieldsFunc(a.Val,
					func(r rune) bool { return strings.ContainsRune(" \t\r\n\f", r) }) {
					add(strings.TrimPrefix(one, ","))
				}
			case "to", "values":
				if n.Data != "set" && n.Data != "animate" {
					continue
				}
				for _, one := range strings.Split(a.Val, ";") {
					add(one)
				}
			}
		}
	}
	return out
}

// shown is a page on which a block with that text is given values and enclosed content; nil
// where one cannot write the block so, or give it that.
func shown(text, v, w, inner string) []byte {
	list, _ := json.Marshal([]map[string]string{{"t": v}, {"t": w}})
	s := sitetest.New(site.Files{
		"site.yaml":        []byte("format: brickshelf/1\n"),
		"blocks/b.html":    []byte("---\nfields: {v: {type: text}, w: {type: text}, l: {type: list, fields: {t: {type: text}}}}\n---\n" + text),
		"blocks/echo.html": []byte("@{=inner}"),
		"pages/p.html": []byte("<body>@{b v=" + markup.Quote(v) + " w=" + markup.Quote(w) + " l=" +
			string(list) + "}" + inner + "@{/b}</body>"),
	})
	if len(check.Validity(s)) > 0 {
		return nil
	}
	res := render.Page(s, "pages/p.html", render.Options{})
	if len(res.Faults) > 0 {
		return nil
	}
	return res.HTML
}

// harmlessFor is a word where there is a value, so that conditions take the same branches.
func harmlessFor(value string) string {
	if value == "" {
		return ""
	}
	return "abc"
}

// holds compares a page with what it is with a harmless value; false where there is none.
func holds(t require.TestingT, text, v, w, inner string) bool {
	harmless := shown(text, harmlessFor(v), harmlessFor(w), "abc")
	got := shown(text, v, w, inner)
	if harmless == nil || got == nil {
		return false
	}
	require.Equal(t, structure(t, harmless), structure(t, got), "%s\nharmless: %s\nhostile: %s", text,
		harmless, got)
	allowed := append(schemes(t, harmless), "http", "https", "mailto", "tel")
	for _, s := range schemes(t, got) {
		require.Contains(t, allowed, s, "%s\nhostile: %s", text, got)
	}
	return true
}

var enclosed = []string{"abc", "He said &#34;go&#34; now", "javascript&colon;alert(1)", "--&gt;",
	"&lt;/title&gt;", "a javascript:alert(1)", "a https://b.example/ 2x, /c", "/title ", "/textarea x",
	"&lt;b&gt;"}

// Whatever stands in a value, the page has the elements and attributes that it has with a
// harmless one, and no address with another scheme.
func TestNoValueChangesTheStructureOfAPage(t *testing.T) {
	held := 0
	rapid.Check(t, func(t *rapid.T) {
		bad := rapid.SampledFrom(hostile)
		if holds(t, drawn(t, 3), bad.Draw(t, "v"), bad.Draw(t, "w"), rapid.SampledFrom(enclosed).Draw(t,
			"inner")) {
			held++
		}
	})
	require.Positive(t, held)
}

func TestNoValueChangesTheStructureOfRareTexts(t *testing.T) {
	for _, text := range rare {
		for i, v := range hostile {
			for _, w := range []string{"", "x", v} {
				holds(t, text, v, w, enclosed[i%len(enclosed)])
			}
		}
	}
}
