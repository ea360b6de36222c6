package site

import (
	"fmt"
	"sort"
	"strings"
)

// Severity says how much a problem matters.
type Severity string

// The severities. A tree with an Invalid problem is not a site: it is neither
// imported, saved nor published. An Error is something broken that shows, a
// Warning something that is likely a mistake, a Note worth knowing.
const (
	Invalid Severity = "invalid"
	Error   Severity = "error"
	Warning Severity = "warning"
	Note    Severity = "note"
)

// Problem is something wrong at a place in a document. Line and Column count
// from 1 in the whole file.
type Problem struct {
	Code     string
	Severity Severity
	Path     string
	Line     int
	Column   int
	Message  string
	// Pages is on how many pages a problem of a document that they share shows; 0 for one
	// that is the document's own.
	Pages int
}

// Error prints the problem as path:line:column: message.
func (p Problem) Error() string {
	return fmt.Sprintf("%s:%d:%d: %s", p.Path, p.Line, p.Column, p.Message)
}

// Problems is a list of problems, usable as an error.
type Problems []Problem

// Error prints each problem on a line of its own.
func (ps Problems) Error() string {
	var s strings.Builder
	for i, p := range ps {
		if i > 0 {
			s.WriteByte('\n')
		}
		s.WriteString(p.Error())
	}
	return s.String()
}

// Invalid returns those problems that make the tree invalid.
func (ps Problems) Invalid() Problems {
	var out Problems
	for _, p := range ps {
		if p.Severity == Invalid {
			out = append(out, p)
		}
	}
	return out
}

// Sort orders the problems by path, line, column and code.
func (ps Problems) Sort() {
	sort.SliceStable(ps, func(i, j int) bool {
		a, b := ps[i], ps[j]
		if a.Path != b.Path {
			return a.Path < b.Path
		}
		if a.Line != b.Line {
			return a.Line < b.Line
		}
		if a.Column != b.Column {
			return a.Column < b.Column
		}
		return a.Code < b.Code
	})
}

// At makes a problem at a byte offset of a document's text.
func At(doc Split, path string, offset int, sev Severity, code, format string, args ...any) Problem {
	line, col := doc.position(offset)
	if doc.Marked && !doc.HasHead && line == 1 {
		col++ // a byte order mark is a character of its line
	}
	return Problem{Code: code, Severity: sev, Path: path, Line: line + doc.TextLine - 1, Column: col,
		Message: fmt.Sprintf(format, args...)}
}

// Refusal says why an operation cannot be done, and what to do instead. Missing is set
// where what it is about is not there at all.
type Refusal struct {
	Message string
	Missing bool
}

// Error is the message.
func (r *Refusal) Error() string { return r.Message }

// Refuse makes a refusal.
func Refuse(format string, args ...any) error { return &Refusal{Message: fmt.Sprintf(format, args...)} }

// Missing makes a refusal of what is not there at all.
func Missing(format string, args ...any) error {
	return &Refusal{Message: fmt.Sprintf(format, args...), Missing: true}
}
