package edit

import (
	"encoding/json"
	"slices"
	"strconv"
	"strings"

	"brickshelf/internal/core/site"
)

func nested(keys []string, value any) any {
	for i := len(keys) - 1; i >= 0; i-- {
		value = entries{{keys[i], value}}
	}
	return value
}

// entries is a mapping whose keys keep their order.
type entries []struct {
	Key   string
	Value any
}

// get is the value under a key, nil where there is none.
func (e entries) get(key string) any {
	for _, p := range e {
		if p.Key == key {
			return p.Value
		}
	}
	return nil
}

// flowOf writes a value on one line.
func flowOf(v any) string {
	var parts []string
	switch t := v.(type) {
	case nil:
		return "null"
	case string:
		return scalarText(t)
	case bool:
		return strconv.FormatBool(t)
	case literal:
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
			parts = append(parts, flowOf(s))
		}
		return "[" + strings.Join(parts, ", ") + "]"
	case entries:
		for _, p := range t {
			parts = append(parts, keyText(p.Key)+": "+flowOf(p.Value))
		}
	case map[string]any:
		for _, k := range sortedKeys(t) {
			parts = append(parts, keyText(k)+": "+flowOf(t[k]))
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

// plainValue is what plainOf gives for a value that flowOf wrote.
func plainValue(v any) any {
	if v == nil {
		return nil
	}
	y, problem := site.ParseYAML([]byte("k: "+flowOf(v)+"\n"), "", 1)
	if problem != nil {
		return problem
	}
	return plainOf(y.Get("k"))
}
