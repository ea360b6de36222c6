// Package script reads scripted shortcodes: a function of ECMAScript, described by
// a comment at the head of its file. It runs nothing; see Runner.
package script

import (
	"bytes"
	"fmt"
	"slices"
	"strings"

	"github.com/dop251/goja/ast"
	"github.com/dop251/goja/parser"

	"brickshelf/internal/core/block"
	"brickshelf/internal/core/site"
)

// Function is the name of the function that a script declares.
const Function = "shortcode"

// Standard is the set of scripts that name none.
const Standard = "site"

// What a script may read beside its arguments and what its call encloses.
const (
	Page   = "page"   // the page that shows it
	Pages  = "pages"  // all published pages
	Menus  = "menus"  // all menus
	Assets = "assets" // the addresses of all assets
)

// Readable is all that a script may ask to read.
var Readable = []string{Page, Pages, Menus, Assets}

// Script is a scripted shortcode.
type Script struct {
	Name     string
	Path     string
	Title    string
	About    string
	Set      string
	Sample   string
	Encloses bool // it shows what its call encloses
	Params   []*block.Field
	Called   *block.Block // what a call of it binds values to: its params
	Reads    []string     // of Readable
	Source   []byte
	Hash     site.Hash      // of Source
	Line     int            // where the function begins
	Library  *block.Library // where it came from; nil where it is the site's own
}

// ReadsOf reports whether the script may read something of Readable.
func (s *Script) ReadsOf(what string) bool { return slices.Contains(s.Reads, what) }

// Parse reads a script. The comment at its head holds YAML: title, about, set,
// params, reads, encloses, sample.
func Parse(name, path string, src []byte, r *block.Reader) (*Script, site.Problems) {
	src = bytes.TrimPrefix(src, site.ByteOrderMark)
	s := &Script{Name: name, Path: path, Title: name, Set: Standard, Source: src, Hash: site.HashOf(src),
		Line: 1}
	h := &block.Head{Path: path, Reader: r}
	s.head(h, src)
	s.Called = block.Of(name, path, s.Params)
	s.body(h, src)
	return s, h.Problems
}

func (s *Script) head(h *block.Head, src []byte) {
	rest, begun := bytes.CutPrefix(src, []byte("/*"))
	text, _, ended := bytes.Cut(rest, []byte("*/"))
	if !begun || !ended {
		h.Fail(1, 1, "no-head",
			"a scripted shortcode begins with a comment that describes it: /* on a line of its own, then title, about, params and so on, then */")
		return
	}
	y, problem := site.ParseYAML(append([]byte("  "), text...), s.Path, 1)
	if problem != nil {
		h.Problems = append(h.Problems, *problem)
		return
	}
	h.Keys(y, "a scripted shortcode", []string{"title", "about", "set", "params", "reads", "encloses",
		"sample", "library"}, func(p site.Pair) {
		switch p.Key {
		case "title":
			s.Title = h.String(p)
		case "about":
			s.About = h.String(p)
		case "set":
			s.Set = h.String(p)
		case "params":
			s.Params = h.Fields(p.Value)
		case "encloses":
			s.Encloses = h.Bool(p)
		case "sample":
			s.Sample = h.String(p)
		case "library":
			s.Library = h.Library(p.Value)
		case "reads":
			s.Reads = h.Strings(p)
			for _, what := range s.Reads {
				if !slices.Contains(Readable, what) {
					h.Fail(p.Value.Line, p.Value.Col, "unknown-key", "a script can read %s, not %q%s",
						strings.Join(Readable, ", "), what, block.Nearest(what, Readable))
				}
			}
		}
	})
}

// body finds the function, and what is wrong with the text around it.
func (s *Script) body(h *block.Head, src []byte) {
	program, err := parse(src)
	if list, ok := err.(parser.ErrorList); ok {
		for _, e := range list {
			h.Fail(max(1, e.Position.Line), max(1, e.Position.Column), "syntax", "%s", e.Message)
		}
		return
	}
	if err != nil {
		h.Fail(1, 1, "syntax", "%v", err)
		return
	}
	s.compile(h, program)
	for _, statement := range program.Body {
		if f, ok := statement.(*ast.FunctionDeclaration); ok && f.Function.Name != nil &&
			f.Function.Name.Name == Function {
			s.Line = 1 + bytes.Count(src[:max(0, int(f.Idx0())-1)], []byte("\n"))
			return
		}
	}
	h.Fail(1, 1, "no-function", "a scripted shortcode declares what it does as: function %s({ args }) { … }",
		Function)
}

// parse reads ECMAScript. The parser is not ours: where a text makes it panic, that
// is an error of the text.
func parse(src []byte) (program *ast.Program, err error) {
	defer func() {
		if p := recover(); p != nil {
			program, err = nil, fmt.Errorf("this cannot be read as ECMAScript: %v", p)
		}
	}()
	return parser.ParseFile(nil, "", src, 0, parser.WithDisableSourceMaps)
}

// Data is what scripts may read of a whole site, in the form in which they get it.
type Data struct {
	Hash site.Hash // of JSON
	JSON []byte
}

// Call is one run of a script. Its output follows from it alone.
type Call struct {
	Script *Script
	Args   []byte           // a JSON object: parameter to value
	Inner  []byte           // what the call encloses, as HTML
	Page   []byte           // a JSON object; nil unless the script reads it
	Site   []byte           // a JSON object: the site's name, address and fields
	Data   map[string]*Data // what the script reads of Pages, Menus and Assets
	Now    string           // the moment that the script takes for now, as RFC 3339 has it
}

// Output is what a script gave.
type Output struct {
	Text string
	HTML bool // Text is HTML, and stands as it is
}

// Failure says where and why a script gave nothing.
type Failure struct {
	Path    string
	Line    int
	Column  int
	Message string
	Passing bool // the script is not to blame, and may well run the next time
}

func (f *Failure) Error() string {
	return fmt.Sprintf("%s:%d:%d: %s", f.Path, f.Line, f.Column, f.Message)
}

// Runner runs scripts. It may be used from several goroutines at once.
type Runner interface {
	Run(Call) (Output, *Failure)
}
