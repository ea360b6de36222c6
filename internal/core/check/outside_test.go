package check_test

import (
	"fmt"
	"go/ast"
	goparser "go/parser"
	"go/token"
	"os/exec"
	"path/filepath"
	"regexp"
	"strconv"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"
	"golang.org/x/net/html"

	"brickshelf/internal/core/check"
	"brickshelf/internal/core/markup"
	"brickshelf/internal/core/render"
	"brickshelf/internal/core/site"
	"brickshelf/internal/core/sitetest"
)

// escaped lists the cases of a template language that escapes by place too: a template and
// what comes of it. They come with the Go tree.
func escaped(t *testing.T) map[string]string {
	root, err := exec.Command("go", "env", "GOROOT").Output()
	require.NoError(t, err)
	file, err := goparser.ParseFile(token.NewFileSet(), filepath.Join(strings.TrimSpace(string(root)), "src",
		"html", "template", "escape_test.go"), nil, 0)
	require.NoError(t, err)
	out := map[string]string{}
	ast.Inspect(file, func(n ast.Node) bool {
		c, ok := n.(*ast.CompositeLit)
		if !ok || len(c.Elts) != 3 {
			return true
		}
		var texts []string
		for _, e := range c.Elts {
			if lit, ok := e.(*ast.BasicLit); ok && lit.Kind == token.STRING {
				s, err := strconv.Unquote(lit.Value)
				require.NoError(t, err)
				texts = append(texts, s)
			}
		}
		if len(texts) == 3 {
			out[texts[1]] = texts[2]
		}
		return true
	})
	require.NotEmpty(t, out)
	return out
}

// What the data of those cases holds.
var given = map[string]string{".C": "<Cincinnati>", ".G": "<Goodbye>", ".H": "<Hello>", ".I": "${ asd `` }",
	".N": "42", ".T": "true"}

// translated is a template as a block, with the values that it shows; false where it does
// more than show values.
func translated(text string) (block string, values []string, ok bool) {
	ok = true
	block = action.ReplaceAllStringFunc(strings.ReplaceAll(text, "@{", "@@{"), func(a string) string {
		word := strings.TrimSpace(strings.Trim(a, "{}"))
		value, known := given[word]
		if s, err := strconv.Unquote(word); err == nil {
			value, known = s, true
		}
		ok = ok && known
		values = append(values, value)
		return fmt.Sprintf("@{=v%d}", len(values))
	})
	return block, values, ok && len(values) > 0
}

var action = regexp.MustCompile(`\{\{[^}]*\}\}`)

// said is what the elements of a page say, without comments, which that language leaves
// out, and without what is encoded or left out in other ways: addresses and styles.
func said(t *testing.T, page string) []string {
	root, err := html.Parse(strings.NewReader(page))
	require.NoError(t, err)
	out, text := []string{}, ""
	for n := range root.Descendants() {
		switch n.Type {
		case html.TextNode:
			text += n.Data
		case html.ElementNode:
			out = append(out, text, "<"+n.Data)
			text = ""
			for _, a := range n.Attr {
				if a.Key != "href" && a.Key != "src" && a.Key != "srcset" && a.Key != "style" {
					out = append(out, a.Key+"="+a.Val)
				} else {
					out = append(out, a.Key)
				}
			}
		}
	}
	return append(out, text)
}

// Where a block says what one of those templates says, the page has the same elements and
// attributes, and they say the same.
func TestWhatAnotherEscapingShows(t *testing.T) {
	same := 0
	for text, want := range escaped(t) {
		block, values, ok := translated(text)
		if !ok {
			continue
		}
		fields, args := "", ""
		for i, v := range values {
			fields += fmt.Sprintf("  v%d: {type: text}\n", i+1)
			args += fmt.Sprintf(" v%d=%s", i+1, markup.Quote(v))
		}
		s := sitetest.New(site.Files{
			"site.yaml":     []byte("format: brickshelf/1\n"),
			"blocks/b.html": []byte("---\nfields:\n" + fields + "---\n" + block),
			"pages/p.html":  []byte("@{b" + args + " /}"),
		})
		if len(check.Validity(s)) > 0 { // values in scripts and the like
			continue
		}
		got := string(render.Page(s, "pages/p.html", render.Options{}).HTML)
		require.Equal(t, said(t, want), said(t, got), "%s\nwant %s\ngot  %s", text, want, got)
		same++
	}
	require.Positive(t, same)
}
