package patch

import (
	"slices"
	"strconv"
	"strings"

	"brickshelf/internal/core/site"
)

// Scalar is a text or number in a document's YAML.
type Scalar struct {
	// Keys lead there from the top; an item of a list is led to by its number, from 0.
	Keys []string
	Kind site.YAMLKind
	Text string
	// Line and Column are where it begins, in the YAML alone, from 1.
	Line, Column int
}

// ScalarsOf lists the texts and numbers of YAML in the order in which they stand.
func ScalarsOf(y *site.YAML) []Scalar {
	var out []Scalar
	leaves(y, nil, func(s Scalar) {
		if s.Kind == site.Text || s.Kind == site.Number {
			out = append(out, s)
		}
	})
	return out
}

// leaves visits everything that holds nothing else.
func leaves(y *site.YAML, keys []string, visit func(Scalar)) {
	switch {
	case y.Kind == site.Mapping && len(y.Pairs) > 0:
		for _, p := range y.Pairs {
			leaves(p.Value, append(slices.Clip(keys), p.Key), visit)
		}
	case y.Kind == site.Sequence && len(y.Items) > 0:
		for i, it := range y.Items {
			leaves(it, append(slices.Clip(keys), strconv.Itoa(i)), visit)
		}
	default:
		visit(Scalar{Keys: keys, Kind: y.Kind, Text: y.Text, Line: y.Line, Column: y.Col})
	}
}

// SetScalars gives texts and numbers of a document's YAML other texts, by their position in
// ScalarsOf, each where it stands and in the quotes that it has where they can hold it.
// Nothing else changes. The error is a site.Refusal where one is written in a way that cannot
// be edited so.
func SetScalars(path string, src []byte, want map[int]string) ([]byte, error) {
	return inYAML(path, src, func(text string) (string, error) {
		e, y, err := editing(text)
		if err != nil {
			return "", err
		}
		list := ScalarsOf(y)
		var edits []Replacement
		for i, to := range want {
			if i >= len(list) {
				return "", site.Refuse("%s has no value of that number any more", path)
			}
			edit, ok := e.scalarEdit(y, list[i], i, to)
			if !ok {
				return "", unfit(list[i].Keys)
			}
			edits = append(edits, edit)
		}
		return string(Apply([]byte(text), edits)), nil
	})
}

// scalarEdit is the way to write a value that reads back as it, and leaves all others alone.
func (e *keyEdit) scalarEdit(y *site.YAML, s Scalar, at int, to string) (Replacement, bool) {
	for _, inBrackets := range []bool{false, true} {
		edit, ok := e.scalar(s, to, inBrackets)
		if ok && changesOnly(y, string(Apply([]byte(e.text), []Replacement{edit})), map[int]string{at: to}) {
			return edit, true
		}
	}
	return Replacement{}, false
}

// changesOnly reports whether a text of YAML holds what another does, with other texts and
// numbers. A text stays one, whatever it looks like.
func changesOnly(before *site.YAML, text string, want map[int]string) bool {
	after, problem := site.ParseYAML([]byte(text), "", 1)
	if problem != nil {
		return false
	}
	var a, b []Scalar
	leaves(before, nil, func(s Scalar) { a = append(a, s) })
	leaves(after, nil, func(s Scalar) { b = append(b, s) })
	n := 0
	return slices.EqualFunc(a, b, func(was, is Scalar) bool {
		wanted, edited := "", false
		if was.Kind == site.Text || was.Kind == site.Number {
			wanted, edited = want[n]
			n++
		}
		if !edited {
			wanted = was.Text
		}
		sameKind := is.Kind == was.Kind || edited && was.Kind == site.Number && is.Kind == site.Text
		return slices.Equal(was.Keys, is.Keys) && is.Text == wanted && sameKind
	})
}

// scalar is how a value comes to say something else; false where it is written in a way that
// this does not know. Within braces and brackets, one without quotes ends where these or a
// comma stand.
func (e *keyEdit) scalar(s Scalar, to string, inBrackets bool) (Replacement, bool) {
	from := offset(e.lines, s.Line, s.Column)
	if from < 0 || from >= len(e.text) {
		return Replacement{}, false
	}
	if e.text[from] == '|' {
		return e.blockScalar(from, to)
	}
	end := scalarEnd(e.text, from, false)
	if end < 0 {
		return Replacement{}, false
	}
	raw := e.text[from:end]
	switch {
	case raw[0] == '\'' && site.QuoteYAML(to) == plainlyQuoted(to):
		return Put(from, end, "'"+strings.ReplaceAll(to, "'", "''")+"'"), true
	case raw[0] == '"' || raw[0] == '\'':
		return Put(from, end, site.QuoteYAML(to)), true
	}
	if i := strings.IndexAny(raw, ",]}"); inBrackets && i >= 0 {
		end = from + len(strings.TrimRight(raw[:i], " \t"))
	}
	if s.Kind == site.Number && isNumber(to) {
		return Put(from, end, to), true
	}
	if strings.ContainsAny(raw, ":@") {
		return Put(from, end, site.PlainYAML(to)), true
	}
	return Put(from, end, scalarText(to)), true
}

// plainlyQuoted is a text in double quotes where nothing but these and backslashes needs one.
func plainlyQuoted(s string) string {
	return `"` + strings.NewReplacer(`\`, `\\`, `"`, `\"`).Replace(s) + `"`
}

func isNumber(s string) bool {
	y, problem := site.ParseYAML([]byte("k: "+s+"\n"), "", 1)
	return problem == nil && len(y.Pairs) == 1 && y.Pairs[0].Value.Kind == site.Number
}

// blockScalar writes the lines of a text that stands under a bar.
func (e *keyEdit) blockScalar(from int, to string) (Replacement, bool) {
	begin := e.lineEnd(from)
	indent, end := "", begin
	for at := begin; at < len(e.text); at = e.lineEnd(at) {
		line := strings.TrimRight(e.text[at:e.lineEnd(at)], "\r\n")
		bare := strings.TrimLeft(line, " ")
		if bare == "" {
			continue
		}
		if indent == "" {
			indent = line[:len(line)-len(bare)]
		}
		if indent == "" || !strings.HasPrefix(line, indent) {
			break
		}
		end = e.lineEnd(at)
	}
	if indent == "" {
		return Replacement{}, false
	}
	var b strings.Builder
	for line := range strings.Lines(strings.TrimRight(to, "\n")) {
		if line = strings.TrimSuffix(line, "\n"); line != "" {
			b.WriteString(indent)
		}
		b.WriteString(line)
		b.WriteString(e.nl)
	}
	out := b.String()
	if !strings.HasSuffix(e.text[begin:end], "\n") {
		out = strings.TrimSuffix(out, e.nl)
	}
	return Put(begin, end, out), true
}
