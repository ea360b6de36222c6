package block

import (
	"encoding/json"
	"fmt"
	"regexp"
	"sort"
	"strings"
	"time"

	"github.com/microcosm-cc/bluemonday"

	"brickshelf/internal/core/markup"
	"brickshelf/internal/core/site"
)

var (
	numberForm = regexp.MustCompile(`^-?(0|[1-9][0-9]*)(\.[0-9]+)?([eE][-+]?[0-9]+)?$`)
	colourForm = regexp.MustCompile(`^(#[0-9a-fA-F]{3}|#[0-9a-fA-F]{4}|#[0-9a-fA-F]{6}|#[0-9a-fA-F]{8}|[a-z]{3,24}|(rgb|rgba|hsl|hsla)\([0-9., %/]+\))?$`)
)

// TypeError says why a value does not fit its field.
type TypeError struct{ Message string }

func (e *TypeError) Error() string { return e.Message }

func misfit(format string, args ...any) error { return &TypeError{fmt.Sprintf(format, args...)} }

// Reader turns raw values into typed ones. Its sanitising policy is made once.
type Reader struct{ policy *bluemonday.Policy }

// Verbatim reads values as they are to be written again: rich texts as they stand, lists
// without what defaults add to their groups.
var Verbatim = &Reader{}

// NewReader returns a reader whose rich values keep what ordinary texts need:
// headings, lists, tables, links, images, and class names.
func NewReader() *Reader {
	p := bluemonday.UGCPolicy()
	p.AllowStandardURLs()
	p.RequireNoFollowOnLinks(false)
	p.AllowURLSchemes("http", "https", "mailto", "tel")
	p.AllowRelativeURLs(true)
	p.AllowAttrs("class").Globally()
	return &Reader{policy: p}
}

// Read makes a value of field f from raw: a string, json.Number, bool, nil,
// []any or map[string]any. The error says what should stand there instead.
func (r *Reader) Read(f *Field, raw any) (Value, error) {
	v, err := r.read(f, raw)
	if err == nil {
		err = within(f, v)
	}
	if err != nil {
		return Value{}, err
	}
	return v, nil
}

func (r *Reader) read(f *Field, raw any) (Value, error) {
	if raw == nil {
		return Value{}, nil
	}
	if s, ok := raw.(markup.Spelled); ok {
		return r.written(f, s)
	}
	switch f.Type {
	case List:
		return r.list(f, raw)
	case Link:
		return r.link(f, raw)
	case Switch:
		switch s := raw.(type) {
		case bool:
			return Value{Type: Switch, Text: fmt.Sprint(s)}, nil
		case string:
			if s == "true" || s == "false" {
				return Value{Type: Switch, Text: s}, nil
			}
		}
		return Value{}, misfit("%s is a switch and should be true or false", f.Name)
	}
	var s string
	switch t := raw.(type) {
	case string:
		s = t
	case json.Number:
		s = t.String()
	case bool:
		s = fmt.Sprint(t)
	default:
		return Value{}, misfit("%s is a %s and should be a single value", f.Name, f.Type)
	}
	return r.scalar(f, s)
}

func (r *Reader) scalar(f *Field, s string) (Value, error) {
	v := Value{Type: f.Type, Text: s}
	switch f.Type {
	case Number:
		if s == "" {
			return v, nil
		}
		if !numberForm.MatchString(s) {
			return Value{}, misfit("%s is a number and cannot be %q; write digits, as in 12 or 0.5", f.Name,
				short(s))
		}
	case Choice:
		if s == "" {
			return v, nil
		}
		for _, c := range f.Choices {
			if c == s {
				return v, nil
			}
		}
		return Value{}, misfit("%s cannot be %q; choose one of %s", f.Name, short(s),
			strings.Join(f.Choices, ", "))
	case Colour:
		if !colourForm.MatchString(s) {
			return Value{}, misfit("%s is a colour and cannot be %q; write it as in #1e6e74", f.Name,
				short(s))
		}
	case Date:
		if _, err := time.Parse("2006-01-02", s); err != nil && s != "" {
			return Value{}, misfit("%s is a date and cannot be %q; write it as in 2026-03-01", f.Name,
				short(s))
		}
	case Image, Page:
		if s != "" && !safeAddress(s) {
			return Value{},
				misfit("%s cannot be %q; an address begins with /, http:, https:, mailto:, tel: or #", f.Name,
					short(s))
		}
	case Menu:
		if s != "" && !markup.ValidName(s) {
			return Value{}, misfit("%s should name a menu, as in main", f.Name)
		}
	case Rich:
		if r == Verbatim {
			return v, nil
		}
		v.Text = Mended(r.policy.Sanitize(s))
	}
	return v, nil
}

func short(s string) string {
	if len(s) > 40 {
		return s[:40] + "…"
	}
	return s
}

func (r *Reader) link(f *Field, raw any) (Value, error) {
	v := Value{Type: Link}
	switch t := raw.(type) {
	case string:
		v.Text = t
	case map[string]any:
		v.More = &More{}
		for k, m := range t {
			ok := true
			switch k {
			case "to":
				v.Text, ok = m.(string)
			case "label":
				v.More.Label, ok = m.(string)
			case "new_tab":
				switch b := m.(type) {
				case bool:
					v.More.NewTab = b
				case string:
					v.More.NewTab, ok = b == "true", b == "true" || b == "false"
				default:
					ok = false
				}
			default:
				ok = false
			}
			if !ok {
				return Value{}, misfit("%s is a link and has the parts to, label and new_tab", f.Name)
			}
		}
	default:
		return Value{}, misfit("%s is a link and should be an address", f.Name)
	}
	if v.Text != "" && !safeAddress(v.Text) {
		return Value{},
			misfit("%s cannot lead to %q; an address begins with /, http:, https:, mailto:, tel: or #",
				f.Name, short(v.Text))
	}
	return v, nil
}

func (r *Reader) list(f *Field, raw any) (Value, error) {
	items, ok := raw.([]any)
	if !ok {
		return Value{}, misfit("%s is a list and should be written as [{…}, {…}]", f.Name)
	}
	v := Value{Type: List, More: &More{}}
	for i, it := range items {
		m, ok := it.(map[string]any)
		if !ok {
			return Value{}, misfit("item %d of %s should be a group of fields, as in {%s: …}", i+1, f.Name,
				f.firstField())
		}
		g := Value{Type: group, More: &More{Group: map[string]Value{}}}
		names := make([]string, 0, len(m))
		for k := range m {
			names = append(names, k)
		}
		sort.Strings(names)
		for _, k := range names {
			sub := f.Field(k)
			if sub == nil {
				return Value{}, misfit("item %d of %s has no field %s", i+1, f.Name, k)
			}
			mv, err := r.Read(sub, m[k])
			if err != nil {
				return Value{}, misfit("item %d of %s: %v", i+1, f.Name, err)
			}
			g.More.Group[k] = mv
		}
		for _, sub := range f.Fields {
			if _, there := g.More.Group[sub.Name]; !there && sub.Default.IsSet() && r != Verbatim {
				g.More.Group[sub.Name] = sub.Default
			}
		}
		v.More.Items = append(v.More.Items, g)
	}
	return v, nil
}

// Raw turns a YAML node into what Read takes.
func Raw(y *site.YAML) any {
	if y == nil {
		return nil
	}
	switch y.Kind {
	case site.Null:
		return nil
	case site.Bool:
		return y.Text == "true"
	case site.Number:
		return json.Number(y.Text)
	case site.Sequence:
		out := []any{}
		for _, it := range y.Items {
			out = append(out, Raw(it))
		}
		return out
	case site.Mapping:
		out := map[string]any{}
		for _, p := range y.Pairs {
			out[p.Key] = Raw(p.Value)
		}
		return out
	}
	return y.Text
}

// RawArgument turns a literal argument into what Read takes.
func RawArgument(a markup.ArgValue) any {
	switch a.Kind {
	case markup.ArgNumber:
		return json.Number(a.Text)
	case markup.ArgBool:
		return a.Text == "true"
	case markup.ArgJSON:
		return a.JSON
	}
	return a.Text
}

// Argument makes a value of field f from a literal argument.
func (r *Reader) Argument(f *Field, a markup.ArgValue) (Value, error) {
	if a.Written != "" {
		return r.written(f, markup.Spelled{Text: a.Text, Written: a.Written})
	}
	if a.Kind == markup.ArgText && f.Type != List && f.Type != Link && f.Type != Switch {
		return r.scalar(f, a.Text)
	}
	return r.Read(f, RawArgument(a))
}

// written makes a value of a text that is shown as HTML spells it.
func (r *Reader) written(f *Field, a markup.Spelled) (Value, error) {
	text := a.Text
	if f.Type == Rich {
		text = a.Written
	}
	v, err := r.Read(f, text)
	if err == nil && v.IsSet() && r != Verbatim {
		more := More{Written: a.Written}
		if v.More != nil {
			more = *v.More
			more.Written = a.Written
		}
		v.More = &more
	}
	return v, err
}

// Fit makes a value that another expression gave into one of field f. A value
// that already has the type passes as it is.
func (r *Reader) Fit(f *Field, v Value) (Value, error) {
	if v.Type == f.Type || v.Type == Unset {
		return v, nil
	}
	if v.Type == List || v.Type == group {
		return Value{}, misfit("%s is a %s and cannot take a %s", f.Name, f.Type, v.Type)
	}
	return r.Read(f, v.Plain())
}
