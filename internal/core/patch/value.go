package patch

import (
	"encoding/json"
	"slices"
	"strconv"
	"strings"

	"brickshelf/internal/core/site"
)

func nested(keys []string, value any) any {
	for i := len(keys) - 1; i >= 0; i-- {
		value = Entries{{keys[i], value}}
	}
	return value
}

// Entries is a mapping whose keys keep their order.
type Entries []Entry

// Entry is a key of a mapping and its value.
type Entry struct {
	Key   string
	Value any
}

// With adds an entry.
func (e Entries) With(key string, value any) Entries { return append(e, Entry{key, value}) }

// Lines is a mapping that is written with a line for each entry, where it is new.
type Lines Entries

// behindColon is what stands behind the colon of a key that is new: a value on its line, or
// entries on the next ones.
func behindColon(value any, indent, nl string) string {
	list, ok := value.(Lines)
	if !ok {
		return " " + Flow(value)
	}
	out := ""
	for _, p := range list {
		out += nl + indent + keyText(p.Key) + ": " + Flow(p.Value)
	}
	return out
}

// get is the value under a key, nil where there is none.
func (e Entries) get(key string) any {
	for _, p := range e {
		if p.Key == key {
			return p.Value
		}
	}
	return nil
}

// Flow writes a value on one line.
func Flow(v any) string {
	var parts []string
	switch t := v.(type) {
	case nil:
		return "null"
	case string:
		return scalarText(t)
	case bool:
		return strconv.FormatBool(t)
	case Literal:
		return string(t)
	case float64:
		return strconv.FormatFloat(t, 'f', -1, 64)
	case int:
		return strconv.Itoa(t)
	case []string:
		for _, s := range t {
			parts = append(parts, scalarText(s))
		}
		return "[" + strings.Join(parts, ", ") + "]"
	case []any:
		for _, s := range t {
			parts = append(parts, Flow(s))
		}
		return "[" + strings.Join(parts, ", ") + "]"
	case Lines:
		return Flow(Entries(t))
	case Entries:
		for _, p := range t {
			parts = append(parts, keyText(p.Key)+": "+Flow(p.Value))
		}
	case map[string]any:
		for _, k := range sortedKeys(t) {
			parts = append(parts, keyText(k)+": "+Flow(t[k]))
		}
	default:
		b, err := json.Marshal(v)
		if err != nil {
			return "null"
		}
		return string(b)
	}
	return "{" + strings.Join(parts, ", ") + "}"
}

func sortedKeys(m map[string]any) []string {
	keys := make([]string, 0, len(m))
	for k := range m {
		keys = append(keys, k)
	}
	slices.Sort(keys)
	return keys
}

// scalarText writes a text so that it reads back as that, also inside brackets.
func scalarText(s string) string {
	if strings.ContainsAny(s, ":@") {
		return site.QuoteYAML(s)
	}
	return site.PlainYAML(s)
}

func keyText(k string) string { return scalarText(k) }

// plainOf is YAML as plain values, numbers and all by their text.
func plainOf(y *site.YAML) any {
	switch y.Kind {
	case site.Mapping:
		m := map[string]any{}
		for _, p := range y.Pairs {
			m[p.Key] = plainOf(p.Value)
		}
		return m
	case site.Sequence:
		out := []any{}
		for _, it := range y.Items {
			out = append(out, plainOf(it))
		}
		return out
	case site.Null:
		return nil
	}
	return [2]any{y.Kind, y.Text}
}

// plainValue is what plainOf gives for a value that Flow wrote.
func plainValue(v any) any {
	if v == nil {
		return nil
	}
	y, problem := site.ParseYAML([]byte("k: "+Flow(v)+"\n"), "", 1)
	if problem != nil {
		return problem
	}
	return plainOf(y.Get("k"))
}

// Of is YAML as Set takes it.
func Of(y *site.YAML) any {
	switch y.Kind {
	case site.Mapping:
		out := Entries{}
		for _, p := range y.Pairs {
			out = out.With(p.Key, Of(p.Value))
		}
		return out
	case site.Sequence:
		out := []any{}
		for _, it := range y.Items {
			out = append(out, Of(it))
		}
		return out
	case site.Text:
		return y.Text
	case site.Null:
		return nil
	}
	return Literal(y.Text)
}

// Literal is a YAML scalar that is written as it stands: a number or a truth value.
type Literal string
