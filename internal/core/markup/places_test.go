package markup

import (
	"fmt"
	"go/ast"
	goparser "go/parser"
	"go/token"
	"os"
	"os/exec"
	"path/filepath"
	"regexp"
	"slices"
	"strconv"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"
	"golang.org/x/net/html"
	"pgregory.net/rapid"
)

// conformance lists the documents of the tests of HTML's tree construction that come with
// the parser which the places are held against.
func conformance(t *testing.T) []string {
	dir, err := exec.Command("go", "list", "-m", "-f", "{{.Dir}}", "golang.org/x/net").Output()
	require.NoError(t, err)
	files, err := filepath.Glob(filepath.Join(strings.TrimSpace(string(dir)), "html", "testdata", "*",
		"tree-construction", "*.dat"))
	require.NoError(t, err)
	more, err := filepath.Glob(filepath.Join(strings.TrimSpace(string(dir)), "html", "testdata", "go",
		"*.dat"))
	require.NoError(t, err)
	var out []string
	for _, f := range append(files, more...) {
		b, err := os.ReadFile(f)
		require.NoError(t, err)
		for _, one := range strings.Split("\n"+string(b), "\n#data\n")[1:] {
			data, rest, _ := strings.Cut(one, "\n#errors\n")
			if !strings.Contains(rest, "#document-fragment") {
				out = append(out, data)
			}
		}
	}
	require.NotEmpty(t, out)
	return out
}

// templates lists the texts of the tests of a template language that escapes by place too,
// with the mark in place of what it fills in.
func templates(t *testing.T) []string {
	root, err := exec.Command("go", "env", "GOROOT").Output()
	require.NoError(t, err)
	file, err := goparser.ParseFile(token.NewFileSet(), filepath.Join(strings.TrimSpace(string(root)), "src",
		"html", "template", "escape_test.go"), nil, 0)
	require.NoError(t, err)
	var out []string
	ast.Inspect(file, func(n ast.Node) bool {
		if lit, ok := n.(*ast.BasicLit); ok && lit.Kind == token.STRING {
			if s, err := strconv.Unquote(lit.Value); err == nil && strings.Contains(s, "<") &&
				strings.Contains(s, "{{") {
				out = append(out, s)
			}
		}
		return true
	})
	require.NotEmpty(t, out)
	return out
}

var action = regexp.MustCompile(`\{\{[^}]*\}\}`)

// Each value of those texts stands where the parser finds it, the others being a word.
func TestPlacesInTemplates(t *testing.T) {
	held := 0
	for _, text := range templates(t) {
		for _, at := range action.FindAllStringIndex(text, -1) {
			if w := strings.Fields(strings.Trim(text[at[0]:at[1]], "{} -")); len(w) == 0 ||
				slices.Contains([]string{"if", "else", "end", "range", "with", "define", "block", "template",
					"break", "continue"}, w[0]) || strings.HasPrefix(w[0], "/*") {
				continue
			}
			before, behind := action.ReplaceAllString(text[:at[0]], "word"),
				action.ReplaceAllString(text[at[1]:], "word")
			want := seen(before + mark + behind)
			if want == "" {
				continue
			}
			held++
			require.Equal(t, want, placeIn(htmlState{}.read([]byte(before), 0)), "%q", text)
		}
	}
	require.Positive(t, held)
}

// mark stands where a value might: it can be a part of anything.
const mark = "zqx"

// seen tells where the parser has the mark: as what kind of thing, and of which element or
// attribute. Nothing where it has none.
func seen(doc string) string {
	root, err := html.Parse(strings.NewReader(doc))
	if err != nil {
		return ""
	}
	found := ""
	for n := range root.Descendants() {
		switch {
		case n.Type == html.ElementNode && strings.Contains(n.Data, mark):
			found = "tag"
		case n.Type == html.CommentNode && strings.Contains(n.Data, mark), n.Type == html.DoctypeNode &&
			(strings.Contains(n.Data, mark) || strings.Contains(fmt.Sprint(n.Attr), mark)):
			found = "comment"
		case n.Type == html.TextNode && strings.Contains(n.Data, mark):
			found = "text"
			if raw := rawAround(n); raw == "noscript" { // HTML, until its end tag wherever that stands
				found = seen("<!doctype html><div>" + n.Data)
			} else if raw != "" {
				found = "text of " + raw
			}
		}
		for _, a := range n.Attr {
			if strings.Contains(a.Key, mark) {
				found = "in a tag"
			} else if n.Type == html.ElementNode && strings.Contains(a.Val, mark) {
				key := a.Key
				if a.Namespace != "" {
					key = a.Namespace + ":" + key
				}
				found = "value of " + strings.ToLower(key)
			}
		}
	}
	return found
}

// rawAround is the element that a text stands in where that holds no tags.
func rawAround(n *html.Node) string {
	for p := range n.Ancestors() {
		if p.Namespace == "" && p.Data == "plaintext" {
			return p.Data
		}
	}
	if p := n.Parent; p != nil && p.Namespace == "" {
		switch p.Data {
		case "script", "style", "xmp", "iframe", "noembed", "noframes", "title", "textarea", "noscript":
			return p.Data
		}
	}
	return ""
}

// placeIn is the same by the state in which a text is read on.
func placeIn(s htmlState) string {
	switch s.place {
	case pText, pCDATA:
		return "text"
	case pTagOpen, pEndOpen, pTagName:
		return "tag"
	case pInTag, pSlash, pAttrName, pAfterName:
		return "in a tag"
	case pBeforeValue, pDouble, pSingle, pUnquoted:
		return "value of " + s.attr
	case pComment, pBogus, pDeclaration:
		return "comment"
	}
	return "text of " + s.elem
}

// Wherever the mark is put into any document of the conformance tests, it is what the
// parser finds it to be.
func TestPlacesAreThoseOfTheParser(t *testing.T) {
	for _, data := range conformance(t) {
		for i := range len(data) + 1 {
			doc := data[:i] + mark + data[i:]
			want, got := seen(doc), htmlState{}.read([]byte(data[:i]), 0)
			// what ends up nowhere is nothing
			if want == "" || perhapsCDATA(got) || strings.HasPrefix(doc, "<svg><desc><span></desc>") {
				continue
			}
			if !inDoubt(want, got) {
				require.Equal(t, want, placeIn(got), "%q", doc)
			}
		}
	}
}

var pieces = []string{
	"a", " ", "<", ">", "/", "=", "\"", "'", "-", "--", "-->", "--!>", "<!--", "<!-->", "<!--->", "<!", "<?",
	"</", "<![CDATA[", "]]>", "<!doctype html>", "&lt;",
	"<p>", "</p>", "<div class=x ", "<a href=\"", "<img alt='", "<br/>", "<script>", "<script", "</script",
	"</script>", "<style>", "</style>", "<title>", "</title>", "<textarea>", "</textarea >",
	"<xmp>", "</xmp>", "<iframe>", "</iframe>", "<noembed>", "</noembed>", "<noscript>", "</noscript>",
	"<svg>", "</svg>", "<svg/>", "<math>", "</math>", "<foreignObject>", "</foreignObject>", "<desc>",
	"</desc>", "<mi>", "<g>", "</g>", "<font color=\"red\">", "<font x=\"\">",
}

// The parser leaves the escaped state of a script at any < that begins no tag, where the
// standard stays in it.
var leavesTooSoon = regexp.MustCompile(`(?is)<script.*<!--.*<[^a-z/]`)

// perhapsCDATA reports whether a state is in a section of CDATA that may be none, by what is
// open within an element in which it is HTML again; no value may stand in it either way.
func perhapsCDATA(s htmlState) bool { return s.place == pCDATA && !isForeign(s.foreign) }

// nested tells that HTML stands within foreign content, or has begun before it and ends in
// it: there the parser's own stack of elements decides what an end tag ends, which a state
// has not.
var nested = regexp.MustCompile(`(?is)<(mi|foreignobject|desc|title)\b.*<(p|div|a|font|span|g|mi|foreignobject|desc)\b|<(mi|desc|foreignobject|g|noscript)\b.*<(svg|math)\b.*</(mi|desc|foreignobject|g|noscript)\b`)

// inDoubt reports whether the parser has text where the state does, and only what was open
// before foreign content tells of which kind. What is written there is escaped either way,
// and refused in a script or style.
func inDoubt(want string, s htmlState) bool {
	return s.foreign != "" && placeIn(s) == "text" && strings.HasPrefix(want, "text of ")
}

// The same for documents put together from the edges of the grammar.
func TestPlacesInDrawnDocuments(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		doc := "<!doctype html><body><div>" + strings.Join(rapid.SliceOfN(rapid.SampledFrom(pieces), 1,
			12).Draw(t, "pieces"), "")
		for i := range doc { // what follows such a section may be read in two ways
			if leavesTooSoon.MatchString(doc) || nested.MatchString(doc) ||
				perhapsCDATA(htmlState{}.read([]byte(doc[:i]), 0)) {
				return
			}
		}
		if want := seen(doc + mark + "\">'>--></script></style>"); want != "" {
			if got := (htmlState{}).read([]byte(doc), 0); !inDoubt(want, got) {
				require.Equal(t, want, placeIn(got), "%q", doc)
			}
		}
	})
}

// A text read in two pieces is read as in one, wherever it is cut.
func FuzzPlaces(f *testing.F) {
	for _, p := range pieces {
		f.Add([]byte(p+"a\"'>"), uint8(1))
	}
	f.Add([]byte("<script><!--<script></script>--></script><svg><![CDATA[<a href=\"&#106;ava"), uint8(30))
	f.Add([]byte("<noscript><a title=\"</noscript><p"), uint8(20))
	f.Fuzz(func(t *testing.T, src []byte, at uint8) {
		cut := min(int(at), len(src))
		one := htmlState{}.read(src, 0)
		two := htmlState{}.read(src[:cut], 0).read(src[cut:], cut)
		if one != two {
			t.Fatalf("%q read at once: %+v, cut at %d: %+v", src, one, cut, two)
		}
		text := Parse(src)
		text.Contexts()
		text.Unended()
	})
}
