package patch

import (
	"bytes"
	"reflect"
	"slices"
	"strings"

	"brickshelf/internal/core/site"
)

// keysInOrder are the keys that documents begin with, in the order in which they are
// written down where they are new.
var keysInOrder = map[site.Class][]string{
	site.RuleDoc: {"title", "block", "region", "on", "except", "set", "at", "order", "audience", "from", "until",
		"enabled", "note"},
	site.PageDoc: {"title", "layout", "fields", "overrides", "copies", "hidden", "tags", "draft",
		"redirect"},
	site.LayoutDoc: {"title", "regions", "page_fields", "starts_with"},
	site.MenuDoc:   {"title", "items"},
}

// Set gives a key of a document's YAML, or of its front matter, another value.
// keys leads there from the top, as overrides, ADDRESS, FIELD does. value is what
// encoding/json would decode, Entries, a Literal or Lines; nil takes the key away, and
// mappings with it that it leaves empty. Nothing but that value changes. The error is a
// site.Refusal where the text cannot be edited so.
func Set(path string, src []byte, keys []string, value any) ([]byte, error) {
	if len(keys) == 0 {
		return nil, site.Refuse("name a key")
	}
	class, _, _ := site.Classify(path)
	return inYAML(path, src, func(text string) (string, error) {
		return setKey(text, keys, value, keysInOrder[class])
	})
}

// inYAML edits the YAML of a document: its front matter, which is made where there is none,
// or all of a rule, a menu or site.yaml.
func inYAML(path string, src []byte, edit func(text string) (string, error)) ([]byte, error) {
	class, _, _ := site.Classify(path)
	bom, rest := mark(src)
	switch class {
	case site.RuleDoc, site.MenuDoc, site.ConfigDoc:
		out, err := edit(string(rest))
		return slices.Concat(bom, []byte(out)), err
	case site.PageDoc, site.LayoutDoc, site.BlockDoc:
	default:
		return nil, site.Refuse("%s has no keys", path)
	}
	split, bad := site.Cut(src)
	if bad != "" {
		return nil, site.Refuse("%s", bad)
	}
	head, err := edit(string(split.Head))
	switch {
	case err != nil:
		return nil, err
	case split.HasHead:
		at := bytes.IndexByte(src, '\n') + 1
		return slices.Concat(src[:at], []byte(head), src[at+len(split.Head):]), nil
	case head == "":
		return src, nil
	}
	nl := Newline(src)
	return slices.Concat(bom, []byte("---"+nl+strings.ReplaceAll(head, "\n", nl)+"---"+nl), rest), nil
}

// Rename gives a key that a document has another name, where it stands.
func Rename(path string, src []byte, keys []string, to string) ([]byte, error) {
	return inYAML(path, src, func(text string) (string, error) {
		e, y, err := editing(text)
		if err != nil {
			return "", err
		}
		var p site.Pair
		for _, k := range keys {
			at := slices.IndexFunc(y.Pairs, func(p site.Pair) bool { return p.Key == k })
			if at < 0 {
				return "", site.Refuse("%s is gone", strings.Join(keys, ", "))
			}
			p = y.Pairs[at]
			y = p.Value
		}
		from, end := offset(e.lines, p.Line, p.Col), e.keyEnd(p)
		if from < 0 || end < 0 || strings.Trim(text[from:min(end, len(text))], `"'`) != p.Key {
			return "", unfit(keys)
		}
		return text[:from] + keyText(to) + text[end:], nil
	})
}

// unfit is the refusal of an edit that cannot be made without touching more than it should.
func unfit(keys []string) error {
	return site.Refuse("%s is written in a way that cannot be edited here; edit it in the text",
		strings.Join(keys, ", "))
}

func editing(text string) (*keyEdit, *site.YAML, error) {
	y, problem := site.ParseYAML([]byte(text), "", 1)
	if problem != nil {
		return nil, nil, problem
	}
	return &keyEdit{text: text, nl: Newline([]byte(text)), lines: strings.SplitAfter(text, "\n")}, y, nil
}

func setKey(text string, keys []string, value any, order []string) (string, error) {
	e, before, err := editing(text)
	if err != nil {
		return "", err
	}
	out := e.set(before, keys, value, order, false)
	if !says(out, withKey(plainOf(before), keys, plainValue(value))) {
		return "", unfit(keys)
	}
	return out, nil
}

// says reports whether a text of YAML holds plain values and nothing else.
func says(text string, want any) bool {
	y, problem := site.ParseYAML([]byte(text), "", 1)
	return problem == nil && reflect.DeepEqual(want, plainOf(y))
}

type keyEdit struct {
	text  string
	nl    string
	lines []string
}

// set edits the mapping m, which is written in braces where flowing is set.
func (e *keyEdit) set(m *site.YAML, keys []string, value any, order []string, flowing bool) string {
	i := slices.IndexFunc(m.Pairs, func(p site.Pair) bool { return p.Key == keys[0] })
	if i < 0 {
		if value == nil {
			return e.text
		}
		return e.insert(m, keys[0], nested(keys[1:], value), order, flowing)
	}
	p := m.Pairs[i]
	if len(keys) > 1 && p.Value.Kind == site.Mapping && len(p.Value.Pairs) > 0 {
		if value == nil && alone(p.Value, keys[1:]) {
			return e.drop(m, i, flowing)
		}
		return e.set(p.Value, keys[1:], value, nil, flowing || insideBraces(e.text, p.Value, e.lines))
	}
	if value == nil {
		if len(keys) > 1 {
			return e.text
		}
		return e.drop(m, i, flowing)
	}
	return e.replace(p, nested(keys[1:], value), flowing)
}

// alone reports whether a mapping holds nothing but what keys lead to.
func alone(m *site.YAML, keys []string) bool {
	return m.Kind == site.Mapping && len(m.Pairs) == 1 && m.Pairs[0].Key == keys[0] && (len(keys) == 1 ||
		alone(m.Pairs[0].Value, keys[1:]))
}

// replace puts another value behind a key.
func (e *keyEdit) replace(p site.Pair, value any, flowing bool) string {
	colon := e.colon(p)
	if flowing {
		from := e.valueAt(p, colon)
		if end := scalarEnd(e.text, from, true); end >= 0 && p.Value.Kind != site.Null {
			return e.text[:from] + Flow(value) + e.text[end:]
		}
		return e.text
	}
	end := e.blockEnd(p)
	nl := e.nl
	if end == len(e.text) && !strings.HasSuffix(e.text, "\n") {
		nl = ""
	}
	return e.text[:colon+1] + " " + Flow(value) + e.commentBehind(p, colon, end) + nl + e.text[end:]
}

// commentBehind is the comment behind a key or its value, with the blanks before it: on the
// line of the key where nothing of the value stands there, else on that on which it ends.
// end is where the lines of the value do.
func (e *keyEdit) commentBehind(p site.Pair, colon, end int) string {
	from := e.valueAt(p, colon)
	line := e.text[from:e.lineEnd(colon)]
	behind := from
	switch {
	case strings.TrimSpace(line) == "" || line[0] == '#':
		behind = colon + 1
	case line[0] == '|' || line[0] == '>':
	default:
		if to := scalarEnd(e.text, from, false); to >= 0 && to <= end {
			behind = to
		}
		if c := line[0]; c != '"' && c != '\'' && c != '[' && c != '{' { // a plain text may go on over lines
			behind = max(behind, strings.LastIndexByte(strings.TrimRight(e.text[:end], "\r\n"), '\n')+1)
		}
	}
	rest := strings.TrimRight(e.text[behind:max(behind, min(end, e.lineEnd(behind)))], "\r\n")
	for i := range len(rest) {
		if rest[i] == '#' && (i == 0 || rest[i-1] == ' ' || rest[i-1] == '\t') {
			blanks := len(strings.TrimRight(rest[:i], " \t"))
			if blanks == i {
				return " " + rest[i:]
			}
			return rest[blanks:]
		}
	}
	return ""
}

// valueAt is where a value begins, behind the colon of its key.
func (e *keyEdit) valueAt(p site.Pair, colon int) int {
	at := colon + 1
	for at < len(e.text) && (e.text[at] == ' ' || e.text[at] == '\t') {
		at++
	}
	return at
}

// colon is the offset of the colon behind a key.
func (e *keyEdit) colon(p site.Pair) int {
	at := e.keyEnd(p)
	if at < 0 {
		return len(e.text) - 1
	}
	return at + max(strings.IndexByte(e.text[at:], ':'), 0)
}

// keyEnd is the offset behind a key, with its quotes; -1 where the key is not found.
func (e *keyEdit) keyEnd(p site.Pair) int {
	at := offset(e.lines, p.Line, p.Col)
	if at < 0 {
		return -1
	}
	if c := e.text[at]; c == '"' || c == '\'' {
		return max(scalarEnd(e.text, at, false), at)
	}
	return at + len(p.Key)
}

func (e *keyEdit) lineEnd(at int) int {
	if i := strings.IndexByte(e.text[at:], '\n'); i >= 0 {
		return at + i + 1
	}
	return len(e.text)
}

// blockEnd is where the lines of a key and its value end, without blank lines and
// comments that stand behind.
func (e *keyEdit) blockEnd(p site.Pair) int {
	last := p.Line // the last line, counted from one
	for n := p.Line; n < len(e.lines); n++ {
		l := strings.TrimRight(e.lines[n], "\r\n")
		bare := strings.TrimLeft(l, " ")
		indent := len(l) - len(bare)
		if bare == "" || bare[0] == '#' && indent < p.Col {
			continue
		}
		if indent < p.Col && !(indent == p.Col-1 && (bare == "-" || strings.HasPrefix(bare, "- "))) {
			break
		}
		last = n + 1
	}
	return len(strings.Join(e.lines[:last], ""))
}

func (e *keyEdit) drop(m *site.YAML, i int, flowing bool) string {
	p := m.Pairs[i]
	if !flowing {
		from := len(strings.Join(e.lines[:p.Line-1], ""))
		return e.text[:from] + e.text[e.blockEnd(p):]
	}
	from := offset(e.lines, p.Line, p.Col)
	if from < 0 {
		return e.text
	}
	switch {
	case i+1 < len(m.Pairs):
		next := offset(e.lines, m.Pairs[i+1].Line, m.Pairs[i+1].Col)
		return e.text[:from] + e.text[max(next, from):]
	case i > 0:
		last := e.valueAt(m.Pairs[i-1], e.colon(m.Pairs[i-1]))
		if end := scalarEnd(e.text, last, true); end >= 0 {
			from = end
		}
	}
	if end := scalarEnd(e.text, e.valueAt(p, e.colon(p)), true); end >= 0 {
		return e.text[:from] + e.text[end:]
	}
	return e.text
}

// braces finds the braces around the pairs of a mapping.
func (e *keyEdit) braces(m *site.YAML) (open, end int) {
	at := offset(e.lines, m.Line, m.Col)
	if at < 0 {
		return -1, -1
	}
	open = strings.LastIndexByte(e.text[:at], '{')
	if open < 0 {
		return -1, -1
	}
	return open, scalarEnd(e.text, open, false)
}

func (e *keyEdit) insert(m *site.YAML, key string, value any, order []string, flowing bool) string {
	if flowing {
		open, end := e.braces(m)
		if open < 0 || end < 0 {
			return e.text
		}
		inside := strings.TrimRight(e.text[open+1:end-1], " \t\r\n")
		return e.text[:open+1] + inside + ", " + keyText(key) + ": " +
			Flow(value) + e.text[open+1+len(inside):]
	}
	indent := ""
	at := len(e.text)
	if len(m.Pairs) > 0 {
		indent = strings.Repeat(" ", m.Pairs[0].Col-1)
		behind := len(m.Pairs) - 1
		if rank := slices.Index(order, key); rank >= 0 {
			behind = -1
			for j, p := range m.Pairs {
				if r := slices.Index(order, p.Key); r >= 0 && r < rank {
					behind = j
				}
			}
		}
		if behind >= 0 {
			at = e.blockEnd(m.Pairs[behind])
		} else {
			at = len(strings.Join(e.lines[:m.Pairs[0].Line-1], ""))
		}
	}
	before := e.text[:at]
	if before != "" && !strings.HasSuffix(before, "\n") {
		before += e.nl
	}
	return before + indent + keyText(key) + ":" + behindColon(value, indent+"  ", e.nl) + e.nl + e.text[at:]
}

// withKey does to plain values what Set does to a text.
func withKey(v any, keys []string, value any) any {
	m, _ := v.(map[string]any)
	out := map[string]any{}
	for k, x := range m {
		out[k] = x
	}
	switch inner, _ := out[keys[0]].(map[string]any); {
	case len(keys) == 1 && value == nil:
		delete(out, keys[0])
	case len(keys) == 1:
		out[keys[0]] = value
	case value == nil && len(inner) == 0:
	default:
		rest := withKey(out[keys[0]], keys[1:], value)
		if empty, _ := rest.(map[string]any); value == nil && len(empty) == 0 {
			delete(out, keys[0])
		} else {
			out[keys[0]] = rest
		}
	}
	if len(out) == 0 && m == nil && v == nil {
		return v
	}
	return out
}
