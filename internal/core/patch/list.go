package patch

import (
	"slices"
	"strings"

	"brickshelf/internal/core/site"
)

// Add puts a text behind the others of a list, which is made where there is none. What
// stands there already stays as it is.
func Add(path string, src []byte, keys []string, item string) ([]byte, error) {
	return inList(path, src, keys, func(list []string) []string {
		return append(list, item)
	}, func(e *keyEdit, p site.Pair) string { return e.add(p, item) })
}

// Drop takes a text out of a list wherever it stands there, and the list with its last.
func Drop(path string, src []byte, keys []string, item string) ([]byte, error) {
	without := func(list []string) []string {
		return slices.DeleteFunc(list, func(s string) bool { return s == item })
	}
	return inList(path, src, keys, without, func(e *keyEdit, p site.Pair) string { return e.take(p, item) })
}

// Exchange writes another text in the place of one in a list.
func Exchange(path string, src []byte, keys []string, item, to string) ([]byte, error) {
	other := func(list []string) []string {
		for i := range list {
			if list[i] == item {
				list[i] = to
			}
		}
		return list
	}
	return inList(path, src, keys, other, func(e *keyEdit, p site.Pair) string {
		return e.exchange(p, item, to)
	})
}

// inList edits a list in its place, or writes it anew where that cannot be.
func inList(path string, src []byte, keys []string, change func([]string) []string,
	edit func(*keyEdit, site.Pair) string) ([]byte, error) {
	class, _, _ := site.Classify(path)
	return inYAML(path, src, func(text string) (string, error) {
		e, y, err := editing(text)
		if err != nil {
			return "", err
		}
		p, there := at(y, keys)
		var list []string
		if there && p.Value.Kind == site.Sequence {
			for _, it := range p.Value.Items {
				list = append(list, it.Text)
			}
		} else if there && p.Value.Kind == site.Text {
			list = []string{p.Value.Text}
		}
		was := slices.Clone(list)
		list = change(list)
		var value any = list
		switch {
		case slices.Equal(list, was):
			return text, nil
		case len(list) == 0:
			value = nil
		case len(was) > 0 && p.Value.Kind == site.Sequence:
			out := edit(e, p)
			if says(out, withKey(plainOf(y), keys, plainValue(list))) {
				return out, nil
			}
		}
		return setKey(text, keys, value, keysInOrder[class])
	})
}

// at finds the pair that keys lead to.
func at(y *site.YAML, keys []string) (site.Pair, bool) {
	i := slices.IndexFunc(y.Pairs, func(p site.Pair) bool { return p.Key == keys[0] })
	switch {
	case i < 0:
		return site.Pair{}, false
	case len(keys) == 1:
		return y.Pairs[i], true
	}
	return at(y.Pairs[i].Value, keys[1:])
}

// dash is the indentation of a list that has an entry a line, -1 of one in brackets.
func (e *keyEdit) dash(list *site.YAML) int {
	l := e.lines[list.Items[0].Line-1]
	bare := strings.TrimLeft(l, " ")
	if !strings.HasPrefix(bare, "- ") {
		return -1
	}
	return len(l) - len(bare)
}

func (e *keyEdit) add(p site.Pair, item string) string {
	if dash := e.dash(p.Value); dash >= 0 {
		end := e.blockEnd(p)
		before := e.text[:end]
		if !strings.HasSuffix(before, "\n") {
			before += e.nl
		}
		return before + strings.Repeat(" ", dash) + "- " + scalarText(item) + e.nl + e.text[end:]
	}
	end := scalarEnd(e.text, e.valueAt(p, e.colon(p)), false)
	if end < 0 {
		return e.text
	}
	inside := strings.TrimRight(e.text[:end-1], " \t\r\n,")
	return inside + ", " + scalarText(item) + e.text[end-1:]
}

// take takes a text out of a list that has an entry a line; one in brackets is written anew.
func (e *keyEdit) take(p site.Pair, item string) string {
	if e.dash(p.Value) < 0 {
		return e.text
	}
	var out strings.Builder
	line := 0
	for i, it := range p.Value.Items {
		if it.Text != item {
			continue
		}
		from, to := it.Line-1, it.Line
		if i+1 == len(p.Value.Items) { // comments behind the last stay
			to = max(to, strings.Count(e.text[:e.blockEnd(p)], "\n"))
		}
		out.WriteString(strings.Join(e.lines[line:from], ""))
		line = to
	}
	return out.String() + strings.Join(e.lines[min(line, len(e.lines)):], "")
}

func (e *keyEdit) exchange(p site.Pair, item, to string) string {
	var list []Replacement
	for _, it := range p.Value.Items {
		from := offset(e.lines, it.Line, it.Col)
		if it.Text != item || from < 0 {
			continue
		}
		end := from + len(item)
		if c := e.text[from]; c == '"' || c == '\'' {
			end = scalarEnd(e.text, from, false)
		}
		if end < 0 || end > len(e.text) {
			return e.text
		}
		list = append(list, Replacement{from, end, scalarText(to)})
	}
	return string(Apply([]byte(e.text), list))
}
