package block

import (
	"fmt"
	"strings"

	"brickshelf/internal/core/markup"
	"brickshelf/internal/core/site"
)

// Field is one thing that a placement of a block can set.
type Field struct {
	Name     string
	Type     Type
	Label    string
	Help     string
	Required bool
	Choices  []string
	Min, Max string   // limits, "" for none; see limit
	Fields   []*Field // of a list's groups
	From     []string // page or site value, as ["page", "logo"]; nil where there is none
	Default  Value
	Written  Value  // the default as it is written; see Verbatim
	Unshown  string // what of the default is not shown; see Reader.Lost
	Line     int    // where the field stands in its document
	Column   int
	// DefaultAt is the line and column of the default, 0 where there is none.
	DefaultAt [2]int
}

// Field returns the field of a list's groups with the given name, or nil.
func (f *Field) Field(name string) *Field {
	for _, s := range f.Fields {
		if s.Name == name {
			return s
		}
	}
	return nil
}

func (f *Field) firstField() string {
	if len(f.Fields) > 0 {
		return f.Fields[0].Name
	}
	return "field"
}

// Head reads front matter strictly: every key must be known, every value of
// its kind. Problems gather in Problems.
type Head struct {
	Path     string
	Reader   *Reader
	Problems site.Problems
}

// Fail notes a problem at a line and column.
func (h *Head) Fail(line, col int, code, format string, args ...any) {
	h.Problems = append(h.Problems, site.Problem{Code: code, Severity: site.Invalid, Path: h.Path, Line: line,
		Column: col, Message: fmt.Sprintf(format, args...)})
}

// Keys walks a mapping. handle says whether it knows the key.
func (h *Head) Keys(y *site.YAML, what string, known []string, handle func(p site.Pair)) {
	if y.Kind == site.Null {
		return
	}
	if y.Kind != site.Mapping {
		h.Fail(y.Line, y.Col, "wrong-type", "%s should be a list of key: value", what)
		return
	}
	for _, p := range y.Pairs {
		ok := false
		for _, k := range known {
			ok = ok || k == p.Key
		}
		if !ok {
			h.Fail(p.Line, p.Col, "unknown-key", "%s has no key %q%s", what, p.Key, Nearest(p.Key, known))
			continue
		}
		handle(p)
	}
}

// String reads a scalar.
func (h *Head) String(p site.Pair) string {
	if p.Value.Kind == site.Sequence || p.Value.Kind == site.Mapping {
		h.Fail(p.Value.Line, p.Value.Col, "wrong-type", "%s should be a text", p.Key)
		return ""
	}
	return p.Value.Text
}

// Bool reads true or false.
func (h *Head) Bool(p site.Pair) bool {
	if p.Value.Kind != site.Bool {
		h.Fail(p.Value.Line, p.Value.Col, "wrong-type", "%s should be true or false", p.Key)
	}
	return p.Value.Text == "true"
}

// Strings reads a list of texts; a single text counts as a list of one.
func (h *Head) Strings(p site.Pair) []string {
	if p.Value.Kind == site.Text {
		return []string{p.Value.Text}
	}
	if p.Value.Kind != site.Sequence {
		h.Fail(p.Value.Line, p.Value.Col, "wrong-type", "%s should be a list, as in [a, b]", p.Key)
		return nil
	}
	var out []string
	for _, it := range p.Value.Items {
		if it.Kind == site.Sequence || it.Kind == site.Mapping || it.Kind == site.Null {
			h.Fail(it.Line, it.Col, "wrong-type", "%s should hold texts only", p.Key)
			continue
		}
		out = append(out, it.Text)
	}
	return out
}

var fieldKeys = []string{"type", "label", "help", "default", "required", "choices", "fields", "from",
	"min", "max"}

// Fields reads a mapping of field names to their descriptions.
func (h *Head) Fields(y *site.YAML) []*Field {
	if y.Kind == site.Null {
		return nil
	}
	if y.Kind != site.Mapping {
		h.Fail(y.Line, y.Col, "wrong-type", "fields should be written as NAME: {type: …}")
		return nil
	}
	var out []*Field
	for _, p := range y.Pairs {
		if !markup.ValidName(p.Key) || markup.IsReserved(p.Key) {
			h.Fail(p.Line, p.Col, "bad-name",
				"%q cannot name a field; use lower-case letters, digits and hyphens, and none of %s", p.Key,
				strings.Join(markup.Reserved, ", "))
			continue
		}
		out = append(out, h.field(p))
	}
	return out
}

// field reads the declaration of one field.
func (h *Head) field(p site.Pair) *Field {
	f := &Field{Name: p.Key, Type: Text, Line: p.Line, Column: p.Col}
	var deflt *site.YAML
	var limits []site.Pair
	h.Keys(p.Value, "the field "+p.Key, fieldKeys, func(k site.Pair) {
		switch k.Key {
		case "type":
			f.Type = Type(h.String(k))
			if !knownType(f.Type) {
				h.Fail(k.Value.Line, k.Value.Col, "wrong-type", "%q is no type of field%s", f.Type,
					Nearest(string(f.Type), typeNames()))
				f.Type = Text
			}
		case "label":
			f.Label = h.String(k)
		case "help":
			f.Help = h.String(k)
		case "required":
			f.Required = h.Bool(k)
		case "choices":
			f.Choices = h.Strings(k)
		case "fields":
			f.Fields = h.Fields(k.Value)
		case "from":
			f.From = h.from(k)
		case "default":
			deflt = k.Value
		case "min", "max":
			limits = append(limits, k)
		}
	})
	for _, k := range limits {
		if k.Key == "min" {
			f.Min = h.limit(f, k)
		} else {
			f.Max = h.limit(f, k)
		}
	}
	if f.Type == Choice && len(f.Choices) == 0 {
		h.Fail(p.Line, p.Col, "wrong-type", "the choice %s needs choices, as in choices: [calm, loud]",
			f.Name)
	}
	if deflt != nil {
		f.Default = h.Value(f, deflt)
		f.Written, _ = Verbatim.Read(f, Raw(deflt))
		f.Unshown = h.Reader.Lost(f, Raw(deflt))
		f.DefaultAt = [2]int{deflt.Line, deflt.Col}
	}
	return f
}

func (h *Head) from(p site.Pair) []string {
	parts := strings.Split(h.String(p), ".")
	if len(parts) != 2 || parts[0] != "page" && parts[0] != "site" || !markup.ValidName(parts[1]) {
		h.Fail(p.Value.Line, p.Value.Col, "wrong-type",
			"from should name a page or site value, as in page.logo")
		return nil
	}
	return parts
}

// Value reads a value of field f, noting a problem where it does not fit.
func (h *Head) Value(f *Field, y *site.YAML) Value {
	v, err := h.Reader.Read(f, Raw(y))
	if err != nil {
		h.Fail(y.Line, y.Col, "wrong-type", "%v", err)
	}
	return v
}

func knownType(t Type) bool {
	for _, k := range Types {
		if k == t {
			return true
		}
	}
	return false
}

func typeNames() []string {
	out := make([]string, len(Types))
	for i, t := range Types {
		out[i] = string(t)
	}
	return out
}

// Nearest suggests the name that word was likely meant to be: " (did you mean
// x?)", or the choices where there are few, or nothing.
func Nearest(word string, names []string) string {
	best, at := "", 3
	for _, n := range names {
		if d := distance(word, n); d < at && n != word {
			best, at = n, d
		}
	}
	switch {
	case best != "":
		return fmt.Sprintf("; did you mean %s?", best)
	case len(names) > 0 && len(names) <= 16:
		return "; there are " + strings.Join(names, ", ")
	}
	return ""
}

// distance counts the letters to change, add, drop or swap with their neighbour
// between two words.
func distance(a, b string) int {
	before, row := make([]int, len(b)+1), make([]int, len(b)+1)
	for j := range row {
		row[j] = j
	}
	for i := 1; i <= len(a); i++ {
		next := make([]int, len(b)+1)
		next[0] = i
		for j := 1; j <= len(b); j++ {
			cost := 1
			if a[i-1] == b[j-1] {
				cost = 0
			}
			next[j] = min(next[j-1]+1, row[j]+1, row[j-1]+cost)
			if i > 1 && j > 1 && a[i-1] == b[j-2] && a[i-2] == b[j-1] {
				next[j] = min(next[j], before[j-2]+1)
			}
		}
		before, row = row, next
	}
	return row[len(b)]
}
