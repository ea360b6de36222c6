package script

import (
	"errors"
	"reflect"
	"strings"

	"github.com/dop251/goja"
	"github.com/dop251/goja/ast"

	"brickshelf/internal/core/block"
)

// compile notes what is wrong with a program that its grammar alone does not tell: names
// declared twice, what strict code may not say, regular expressions that are none, or that
// would never match what they say.
func (s *Script) compile(h *block.Head, program *ast.Program) {
	defer func() {
		if p := recover(); p != nil { // the compiler is not ours
			h.Fail(1, 1, "syntax", "this cannot be read as ECMAScript: %v", p)
		}
	}()
	_, err := goja.CompileAST(program, true)
	var wrong *goja.CompilerSyntaxError
	switch {
	case errors.As(err, &wrong) && wrong.File != nil:
		at := wrong.File.Position(wrong.Offset)
		message, _, _ := strings.Cut(wrong.Message, " (Invalid regular expression")
		h.Fail(max(1, at.Line), max(1, at.Column), "syntax", "%s", message)
	case err != nil:
		h.Fail(1, 1, "syntax", "%v", err)
	}
	regularExpressions(reflect.ValueOf(program), map[uintptr]bool{}, func(r *ast.RegExpLiteral) {
		if strings.ContainsAny(r.Flags, "uv") && hasUnicodeClass(r.Pattern) {
			at := program.File.Position(int(r.Idx) - program.File.Base())
			h.Fail(at.Line, at.Column, "syntax",
				"classes such as \\p{Lu} are not available; write the letters out, as in [A-ZÄÖÜ]")
		}
	})
}

// hasUnicodeClass reports whether a pattern names a class of characters by what Unicode says
// of them.
func hasUnicodeClass(pattern string) bool {
	for i := 0; i+2 < len(pattern); i++ {
		if pattern[i] != '\\' {
			continue
		}
		if i++; (pattern[i] == 'p' || pattern[i] == 'P') && pattern[i+1] == '{' {
			return true
		}
	}
	return false
}

// regularExpressions visits those of a program, which has no walk of its own.
func regularExpressions(v reflect.Value, seen map[uintptr]bool, visit func(*ast.RegExpLiteral)) {
	switch v.Kind() {
	case reflect.Interface:
		regularExpressions(v.Elem(), seen, visit)
	case reflect.Pointer:
		if v.IsNil() || seen[v.Pointer()] {
			return
		}
		seen[v.Pointer()] = true
		if r, ok := v.Interface().(*ast.RegExpLiteral); ok {
			visit(r)
			return
		}
		if strings.HasSuffix(v.Type().Elem().PkgPath(), "/ast") {
			regularExpressions(v.Elem(), seen, visit)
		}
	case reflect.Struct:
		for i := range v.NumField() {
			if v.Type().Field(i).IsExported() {
				regularExpressions(v.Field(i), seen, visit)
			}
		}
	case reflect.Slice:
		for i := range v.Len() {
			regularExpressions(v.Index(i), seen, visit)
		}
	}
}
