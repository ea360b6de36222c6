package edit

import (
	"strings"

	"brickshelf/internal/core/block"
	"brickshelf/internal/core/site"
)

// SetDefault gives a field of a block another default, in the block's text. value
// is a text as a person types it; for lists it is JSON. Nothing but the default
// changes.
func SetDefault(text []byte, field, value string) ([]byte, error) {
	b, problems := block.Parse("block", "block", text, block.NewReader())
	if len(problems) > 0 {
		return nil, refuse("mend the text first: %s", problems[0].Message)
	}
	i := b.Field(field)
	if i < 0 {
		return nil, refuse("there is no field %s", field)
	}
	f := b.Fields[i]
	quoted, err := written(f, value)
	if err != nil {
		return nil, err
	}
	head := string(b.Split.Head)
	y, problem := site.ParseYAML(b.Split.Head, "", 1)
	if problem != nil {
		return nil, problem
	}
	desc := y.Get("fields").Get(field)
	lines := strings.SplitAfter(head, "\n")
	var out string
	if old := desc.Get("default"); old != nil {
		from := offset(lines, old.Line, old.Col)
		if (old.Kind == site.Mapping || old.Kind == site.Sequence) && from > 0 {
			from = strings.LastIndexAny(head[:from+1], "[{")
		}
		to := scalarEnd(head, from, insideBraces(head, desc, lines))
		if from < 0 || to < 0 {
			return nil, refuse("the default of %s is written over several lines; edit it in the text", field)
		}
		out = head[:from] + quoted + head[to:]
	} else {
		at := offset(lines, desc.Line, desc.Col)
		if at < 0 {
			return nil, refuse("give the field %s a type first", field)
		}
		if insideBraces(head, desc, lines) {
			out = head[:at] + "default: " + quoted + ", " + head[at:]
		} else {
			out = head[:at] + "default: " + quoted + newline(text) + strings.Repeat(" ", desc.Col-1) + head[at:]
		}
	}
	return proved(text, b, out, field, quoted)
}

// proved puts the head back and makes sure that only the default is different.
func proved(text []byte, before *block.Block, head, field, quoted string) ([]byte, error) {
	at := before.Split.TextAt
	top := len(text[:at]) - len(before.Split.Head)
	fence := strings.LastIndex(string(text[:at]), string(before.Split.Head))
	if fence < 0 || top < 0 {
		return nil, refuse("the front matter cannot be edited here; edit it in the text")
	}
	out := string(text[:fence]) + head + string(text[fence+len(before.Split.Head):])
	after, problems := block.Parse("block", "block", []byte(out), block.NewReader())
	same := len(problems) == 0 && len(after.Fields) == len(before.Fields)
	for i := 0; same && i < len(after.Fields); i++ {
		a, b := after.Fields[i], before.Fields[i]
		same = a.Name == b.Name && a.Type == b.Type && a.Required == b.Required && (a.Name == field || a.Written.Equal(b.Written))
	}
	if !same {
		return nil, refuse("the default of %s is written in a way that cannot be edited here; edit it in the text", field)
	}
	return []byte(out), nil
}

// written is the value as YAML, after making sure that the field takes it.
func written(f *block.Field, value string) (string, error) {
	if f.Type == block.List {
		y, problem := site.ParseYAML([]byte(value), "", 1)
		if problem != nil {
			return "", refuse("%s should be written as [{…}, {…}]: %s", f.Name, problem.Message)
		}
		if _, err := block.Verbatim.Read(f, block.Raw(y)); err != nil {
			return "", err
		}
		return flow(y), nil
	}
	if _, err := block.Verbatim.Read(f, value); err != nil {
		return "", err
	}
	if f.Type == block.Switch || f.Type == block.Number && value != "" {
		return value, nil
	}
	return site.QuoteYAML(value), nil
}

// offset is where a line and column stand in a text of ASCII keys; -1 where not.
func offset(lines []string, line, col int) int {
	if line < 1 || line > len(lines) {
		return -1
	}
	at := 0
	for _, l := range lines[:line-1] {
		at += len(l)
	}
	runes := []rune(lines[line-1])
	if col-1 > len(runes) {
		return -1
	}
	return at + len(string(runes[:col-1]))
}

// insideBraces reports whether a mapping is written in braces.
func insideBraces(head string, m *site.YAML, lines []string) bool {
	at := offset(lines, m.Line, m.Col)
	if at < 0 {
		return false
	}
	before := strings.TrimRight(head[:at], " ")
	return strings.HasSuffix(before, "{")
}

// scalarEnd is where the YAML value that begins at from ends on its line, or -1
// where it goes on over lines.
func scalarEnd(head string, from int, braces bool) int {
	if from < 0 || from >= len(head) {
		return -1
	}
	switch c := head[from]; c {
	case '"', '\'':
		for i := from + 1; i < len(head); i++ {
			switch {
			case c == '"' && head[i] == '\\':
				i++
			case head[i] == c && c == '\'' && i+1 < len(head) && head[i+1] == '\'':
				i++
			case head[i] == c:
				return i + 1
			}
		}
		return -1
	case '[', '{':
		depth := 0
		for i := from; i < len(head); i++ {
			switch head[i] {
			case '"', '\'':
				if i = scalarEnd(head, i, false) - 1; i < 0 {
					return -1
				}
			case '[', '{':
				depth++
			case ']', '}':
				if depth--; depth == 0 {
					return i + 1
				}
			}
		}
		return -1
	case '|', '>', '\n':
		return -1
	}
	for i := from; i < len(head); i++ {
		switch {
		case head[i] == '\n' || head[i] == '\r', head[i] == '#' && head[i-1] == ' ', braces && (head[i] == ',' || head[i] == '}'):
			return from + len(strings.TrimRight(head[from:i], " \t"))
		}
	}
	return len(head)
}
