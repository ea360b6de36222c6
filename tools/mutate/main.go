// Command mutate finds the branches that no test notices: it draws changes of the code that mean
// something else, one at a time, and runs the tests that could notice each. What no test notices is
// printed with its place, to be tested or to be seen as meaning the same.
//
// The tree is never written to: the compiler is given the changed file in place of the old one. Tests
// run in the order of their nearness, and no further than the first that fails; one that does not come
// to an end, or does not compile, has noticed too (the latter is drawn anew, since the compiler is no
// test).
package main

import (
	"bytes"
	"encoding/json"
	"errors"
	"flag"
	"fmt"
	"go/ast"
	"go/format"
	"go/parser"
	"go/token"
	"math/rand/v2"
	"os"
	"os/exec"
	"path/filepath"
	"slices"
	"strings"
	"sync"
	"syscall"
)

func main() {
	count := flag.Int("n", 100, "how many changes to draw")
	seed := flag.Uint64("seed", 1, "which draw")
	workers := flag.Int("workers", 2, "how many at once")
	rooms := flag.String("rooms", "internal/core,internal/store,internal/publish,internal/api", "folders to draw from")
	root := flag.String("root", ".", "the repository")
	flag.Parse()
	if err := run(*root, strings.Split(*rooms, ","), *count, *seed, *workers); err != nil {
		fmt.Fprintln(os.Stderr, err)
		os.Exit(1)
	}
}

// mutant is one change: the node at Path:Line is written otherwise.
type mutant struct {
	file  string // path from the root
	index int    // which of the file's changes
	line  int
	what  string
}

func run(root string, rooms []string, count int, seed uint64, workers int) error {
	// A change that makes a loop endless must not take the machine's memory with it.
	limit := syscall.Rlimit{Cur: 12 << 30, Max: 12 << 30}
	if err := syscall.Setrlimit(syscall.RLIMIT_AS, &limit); err != nil {
		return err
	}
	all, err := collect(root, rooms)
	if err != nil {
		return err
	}
	tests, err := readPackages(root)
	if err != nil {
		return err
	}
	draw := rand.New(rand.NewPCG(seed, 0))
	draw.Shuffle(len(all), func(i, j int) { all[i], all[j] = all[j], all[i] })
	fmt.Printf("%d changes of %d\n", count, len(all))

	var (
		lock             sync.Mutex
		wait             sync.WaitGroup
		next             int
		caught, survived int
	)
	for range workers {
		wait.Go(func() {
			for {
				lock.Lock()
				if caught+survived >= count || next >= len(all) {
					lock.Unlock()
					return
				}
				m := all[next]
				next++
				lock.Unlock()
				by, err := try(root, tests, m)
				lock.Lock()
				switch {
				case errors.Is(err, errCompile):
				case err != nil:
					fmt.Printf("?         %s:%d: %s: %v\n", m.file, m.line, m.what, err)
				case by == "":
					survived++
					fmt.Printf("SURVIVED  %s:%d: %s\n", m.file, m.line, m.what)
				default:
					caught++
					fmt.Printf("caught    %s:%d: %s (%s)\n", m.file, m.line, m.what, by)
				}
				lock.Unlock()
			}
		})
	}
	wait.Wait()
	fmt.Printf("%d of %d caught\n", caught, caught+survived)
	return nil
}

// collect lists every change that could be made in the rooms, in the order of files and places.
func collect(root string, rooms []string) ([]mutant, error) {
	var all []mutant
	for _, room := range rooms {
		err := filepath.WalkDir(filepath.Join(root, room), func(path string, d os.DirEntry, err error) error {
			if err != nil || d.IsDir() || !strings.HasSuffix(path, ".go") || strings.HasSuffix(path, "_test.go") ||
				strings.HasSuffix(path, ".gen.go") || strings.Contains(path, "sitetest") {
				return err
			}
			name, err := filepath.Rel(root, path)
			if err != nil {
				return err
			}
			fset := token.NewFileSet()
			file, err := parser.ParseFile(fset, path, nil, parser.ParseComments)
			if err != nil {
				return err
			}
			for i, c := range changes(file) {
				all = append(all, mutant{name, i, fset.Position(c.pos).Line, c.what})
			}
			return nil
		})
		if err != nil {
			return nil, err
		}
	}
	return all, nil
}

// change is a change of a parsed file: apply makes it.
type change struct {
	pos   token.Pos
	what  string
	apply func()
}

var swapped = map[token.Token]token.Token{
	token.EQL: token.NEQ, token.NEQ: token.EQL, token.LAND: token.LOR, token.LOR: token.LAND,
	token.LSS: token.LEQ, token.LEQ: token.LSS, token.GTR: token.GEQ, token.GEQ: token.GTR,
	token.ADD: token.SUB, token.SUB: token.ADD,
}

// changes lists what could be written otherwise in a file: comparisons, junctions, sums, conditions,
// truth values, statements left out, and a loop that stops in place of going on.
func changes(file *ast.File) []change {
	var list []change
	add := func(at ast.Node, what string, apply func()) { list = append(list, change{at.Pos(), what, apply}) }
	ast.Inspect(file, func(n ast.Node) bool {
		switch n := n.(type) {
		case *ast.GenDecl:
			return n.Tok == token.VAR
		case *ast.BinaryExpr:
			if to, ok := swapped[n.Op]; ok && !isText(n) {
				list = append(list, change{n.OpPos, n.Op.String() + " is " + to.String(), func() { n.Op = to }})
			}
		case *ast.IfStmt:
			add(n.Cond, "the condition is turned round", func() {
				n.Cond = &ast.UnaryExpr{Op: token.NOT, X: &ast.ParenExpr{X: n.Cond}}
			})
		case *ast.Ident:
			if to := map[string]string{"true": "false", "false": "true"}[n.Name]; to != "" {
				add(n, n.Name+" is "+to, func() { n.Name = to })
			}
		case *ast.BranchStmt:
			if n.Tok == token.CONTINUE && n.Label == nil {
				add(n, "continue is break", func() { n.Tok = token.BREAK })
			}
		case *ast.BlockStmt:
			for i, s := range n.List {
				if leavable(s) {
					add(s, "the statement is left out", func() { n.List[i] = &ast.EmptyStmt{Semicolon: s.Pos()} })
				}
			}
		}
		return true
	})
	return list
}

// isText tells a sum of strings, which cannot be a difference.
func isText(n *ast.BinaryExpr) bool {
	text := false
	ast.Inspect(n, func(n ast.Node) bool {
		if lit, ok := n.(*ast.BasicLit); ok && lit.Kind == token.STRING {
			text = true
		}
		return true
	})
	return text && (n.Op == token.ADD)
}

// leavable tells the statements that can be left out with the rest still compiling, mostly.
func leavable(s ast.Stmt) bool {
	switch s := s.(type) {
	case *ast.ExprStmt:
		return true
	case *ast.IncDecStmt:
		return true
	case *ast.AssignStmt:
		return s.Tok != token.DEFINE
	}
	return false
}

var errCompile = errors.New("it does not compile")

// try gives the package whose tests noticed a change, or "".
func try(root string, tests packages, m mutant) (string, error) {
	folder, err := os.MkdirTemp("", "mutate")
	if err != nil {
		return "", err
	}
	defer os.RemoveAll(folder)
	overlay, err := write(root, folder, m)
	if err != nil {
		return "", err
	}
	own := "./" + filepath.Dir(m.file)
	build := exec.Command("go", "build", "-overlay", overlay, own)
	build.Dir = root
	if build.Run() != nil {
		return "", errCompile
	}
	for _, p := range tests.nearest(own) {
		args := []string{"test", "-overlay", overlay, "-vet=off", "-failfast", "-timeout", "240s", p.path}
		if p.drawn {
			args = append(args, "-rapid.checks=40", "-rapid.nofailfile")
		}
		cmd := exec.Command("go", args...)
		cmd.Dir = root
		if out, err := cmd.CombinedOutput(); err != nil {
			if bytes.Contains(out, []byte("[build failed]")) {
				return "", errCompile
			}
			return p.path, nil
		}
	}
	return "", nil
}

// write puts the changed file, and the list that puts it in the place of the old one, into a folder.
func write(root, folder string, m mutant) (string, error) {
	path, err := filepath.Abs(filepath.Join(root, m.file))
	if err != nil {
		return "", err
	}
	fset := token.NewFileSet()
	file, err := parser.ParseFile(fset, path, nil, parser.ParseComments)
	if err != nil {
		return "", err
	}
	changes(file)[m.index].apply()
	var text bytes.Buffer
	if err := format.Node(&text, fset, file); err != nil {
		return "", err
	}
	changed := filepath.Join(folder, "changed.go")
	if err := os.WriteFile(changed, text.Bytes(), 0o600); err != nil {
		return "", err
	}
	list, err := json.Marshal(map[string]map[string]string{"Replace": {path: changed}})
	if err != nil {
		return "", err
	}
	overlay := filepath.Join(folder, "overlay.json")
	return overlay, os.WriteFile(overlay, list, 0o600)
}

// packages are the repository's packages that have tests, with what each is built from.
type packages []tested

type tested struct {
	path  string // from the root, with "./"
	drawn bool   // its tests draw, and know the flag for how many
	needs []string
}

// readPackages asks the Go command for the packages that have tests.
func readPackages(root string) (packages, error) {
	cmd := exec.Command("go", "list", "-test", "-json=ImportPath,ForTest,Dir,Deps", "./...")
	cmd.Dir = root
	out, err := cmd.Output()
	if err != nil {
		return nil, err
	}
	module, err := exec.Command("go", "-C", root, "list", "-m").Output()
	if err != nil {
		return nil, err
	}
	prefix := strings.TrimSpace(string(module))
	var list packages
	for d := json.NewDecoder(bytes.NewReader(out)); d.More(); {
		var p struct {
			ImportPath, ForTest, Dir string
			Deps                     []string
		}
		if err := d.Decode(&p); err != nil {
			return nil, err
		}
		path, ok := strings.CutSuffix(p.ImportPath, ".test")
		if !ok {
			continue
		}
		t := tested{path: "." + strings.TrimPrefix(path, prefix)}
		for _, dep := range p.Deps {
			dep, _, _ = strings.Cut(dep, " ")
			if strings.HasPrefix(dep, prefix) {
				t.needs = append(t.needs, "."+strings.TrimPrefix(dep, prefix))
			}
			t.drawn = t.drawn || dep == "pgregory.net/rapid"
		}
		list = append(list, t)
	}
	return list, nil
}

// nearest gives the packages whose tests a change of a package can reach: its own first, then those
// that need the fewest others.
func (l packages) nearest(own string) packages {
	var reached packages
	for _, p := range l {
		if p.path == own || slices.Contains(p.needs, own) {
			reached = append(reached, p)
		}
	}
	slices.SortStableFunc(reached, func(a, b tested) int {
		if (a.path == own) != (b.path == own) {
			if a.path == own {
				return -1
			}
			return 1
		}
		return len(a.needs) - len(b.needs)
	})
	return reached
}
