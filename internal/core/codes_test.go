package core_test

import (
	"flag"
	"go/ast"
	"go/parser"
	"go/token"
	"io/fs"
	"os"
	"path/filepath"
	"regexp"
	"slices"
	"strconv"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"brickshelf/internal/core/site"
)

var update = flag.Bool("update", false, "write the table of codes into docs/format.md")

// codeAt is where a call of that name has the code among its arguments, and the severity
// where it has one.
var codeAt = map[string][2]int{"Fail": {2, -1}, "fail": {1, -1}, "At": {4, 3}, "err": {1, -1},
	"note": {1, -1}, "at": {2, 1}}

var codeForm = regexp.MustCompile(`^[a-z]+(-[a-z]+)*$`)

// found lists the codes of problems in the core's own text, with the severities that are
// written beside them.
func found(t *testing.T) map[string][]string {
	out := map[string][]string{}
	put := func(code, severity ast.Expr) {
		lit, ok := code.(*ast.BasicLit)
		if !ok || lit.Kind != token.STRING {
			return
		}
		name, err := strconv.Unquote(lit.Value)
		require.NoError(t, err)
		if !codeForm.MatchString(name) {
			return
		}
		list := out[name]
		if sel, ok := severity.(*ast.SelectorExpr); ok {
			severity = sel.Sel
		}
		if id, ok := severity.(*ast.Ident); ok &&
			slices.Contains([]string{"Invalid", "Error", "Warning", "Note"}, id.Name) {
			list = append(list, strings.ToLower(id.Name))
		}
		out[name] = list
	}
	look := func(p string, _ fs.DirEntry, err error) error {
		if err != nil || !strings.HasSuffix(p, ".go") || strings.HasSuffix(p, "_test.go") ||
			strings.HasPrefix(p, "edit") || strings.HasPrefix(p, "sitetest") {
			return err
		}
		file, err := parser.ParseFile(token.NewFileSet(), p, nil, 0)
		require.NoError(t, err)
		ast.Inspect(file, func(n ast.Node) bool {
			switch n := n.(type) {
			case *ast.CallExpr:
				name := ""
				switch f := n.Fun.(type) {
				case *ast.Ident:
					name = f.Name
				case *ast.SelectorExpr:
					name = f.Sel.Name
				}
				if at, ok := codeAt[name]; ok && len(n.Args) > at[0] {
					var severity ast.Expr
					if at[1] >= 0 {
						severity = n.Args[at[1]]
					}
					put(n.Args[at[0]], severity)
				}
			case *ast.CompositeLit:
				var code, severity ast.Expr
				for _, e := range n.Elts {
					if kv, ok := e.(*ast.KeyValueExpr); ok {
						switch key, _ := kv.Key.(*ast.Ident); {
						case key == nil:
						case key.Name == "Code":
							code = kv.Value
						case key.Name == "Severity":
							severity = kv.Value
						}
					}
				}
				if code != nil {
					put(code, severity)
				}
			case *ast.AssignStmt: // f.Code, f.Message = …
				for i, l := range n.Lhs {
					if sel, ok := l.(*ast.SelectorExpr); ok && sel.Sel.Name == "Code" && len(n.Rhs) > i {
						put(n.Rhs[i], nil)
					}
				}
			}
			return true
		})
		return nil
	}
	for _, dir := range []string{".", "../plain"} { // and who takes sites in
		require.NoError(t, filepath.WalkDir(dir, look))
	}
	return out
}

// Each code of a problem is declared once, with the severities that it is given, and none
// that nothing has.
func TestEveryCodeIsDeclared(t *testing.T) {
	all := found(t)
	declared := map[string]bool{}
	for _, c := range site.Codes {
		require.False(t, declared[c.Name], c.Name)
		declared[c.Name] = true
		require.Contains(t, all, c.Name, "nothing has this code")
		require.NotEmpty(t, c.What, c.Name)
		require.NotEmpty(t, c.Mend, c.Name)
	}
	for code, severities := range all {
		assert.True(t, declared[code], "%s is not declared in site.Codes", code)
		if !declared[code] {
			continue
		}
		i := slices.IndexFunc(site.Codes, func(c site.Code) bool { return c.Name == code })
		for _, s := range severities {
			assert.Contains(t, site.Codes[i].Severities, site.Severity(s), code)
		}
	}
}

func TestTheDocumentationHasTheTableOfCodes(t *testing.T) {
	const path = "../../docs/format.md"
	text, err := os.ReadFile(path)
	require.NoError(t, err)
	if *update {
		from := strings.Index(string(text), "| code |")
		to := from
		for strings.HasPrefix(string(text[to:]), "|") {
			to += strings.IndexByte(string(text[to:]), '\n') + 1
		}
		text = slices.Concat(text[:from], []byte(site.CodeTable()), text[to:])
		require.NoError(t, os.WriteFile(path, text, 0o644))
	}
	require.Contains(t, string(text), site.CodeTable(),
		"write it with: go test ./internal/core -run Documentation -update")
}
