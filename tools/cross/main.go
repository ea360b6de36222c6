// Command cross checks that the program compiles for other systems than this one. It reads the
// sources as a compiler for them would, and generates no code, which is where compiling for each
// of them anew takes its minutes.
package main

import (
	"flag"
	"fmt"
	"go/ast"
	"go/parser"
	"go/token"
	"os"
	"path/filepath"
	"strings"

	"golang.org/x/tools/go/packages"
)

func main() {
	root := flag.String("root", ".", "the folder of the module")
	flag.Parse()
	dir, err := filepath.Abs(*root)
	if err != nil {
		fmt.Fprintln(os.Stderr, err)
		os.Exit(1)
	}
	bad := false
	for _, system := range []string{"windows/amd64", "darwin/arm64"} {
		for _, fault := range faults(dir, system) {
			fmt.Fprintf(os.Stderr, "%s: %s\n", system, fault)
			bad = true
		}
	}
	if bad {
		os.Exit(1)
	}
}

// faults are what a compiler for a system would say of the packages of the module.
func faults(root, system string) []string {
	name, arch, _ := strings.Cut(system, "/")
	const all = packages.NeedName | packages.NeedFiles | packages.NeedCompiledGoFiles | packages.NeedImports |
		packages.NeedDeps | packages.NeedTypes | packages.NeedSyntax | packages.NeedTypesInfo | packages.NeedTypesSizes |
		packages.NeedModule
	list, err := packages.Load(&packages.Config{Mode: all, Dir: root,
		Env:       append(os.Environ(), "GOOS="+name, "GOARCH="+arch, "CGO_ENABLED=0"),
		ParseFile: declared(root)}, "./...")
	if err != nil {
		return []string{err.Error()}
	}
	var out []string
	packages.Visit(list, nil, func(p *packages.Package) {
		if p.Module != nil && p.Module.Main {
			for _, e := range p.Errors {
				out = append(out, e.Error())
			}
		}
	})
	return out
}

// declared reads files; of those of other modules only what they declare.
func declared(root string) func(*token.FileSet, string, []byte) (*ast.File, error) {
	return func(fset *token.FileSet, name string, src []byte) (*ast.File, error) {
		f, err := parser.ParseFile(fset, name, src, parser.SkipObjectResolution)
		if f != nil && !strings.HasPrefix(name, root) {
			for _, d := range f.Decls {
				if fn, ok := d.(*ast.FuncDecl); ok {
					fn.Body = nil
				}
			}
		}
		return f, err
	}
}
