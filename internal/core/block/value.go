package block

import (
	"encoding/json"
	"fmt"

	"brickshelf/internal/core/markup"
)

// Type is the type of a field.
type Type string

// The types of fields. Unset is the type of a value that nobody gave.
const (
	Unset  Type = ""
	Text   Type = "text"
	Lines  Type = "lines"
	Rich   Type = "rich"
	Number Type = "number"
	Switch Type = "switch"
	Choice Type = "choice"
	Colour Type = "colour"
	Date   Type = "date"
	Image  Type = "image"
	Link   Type = "link"
	Page   Type = "page"
	Menu   Type = "menu"
	List   Type = "list"
	group  Type = "group"
)

// Types are the types that a field can have, in the order of the documentation.
var Types = []Type{Text, Lines, Rich, Number, Switch, Choice, Colour, Date, Image, Link, Page, Menu, List}

// Value is a typed value. Text holds scalars as they are shown ("true" or
// "false" for a switch, the address for a link); More holds the rest of a link,
// the items of a list, the fields of a group.
type Value struct {
	Type Type
	Text string
	More *More
}

// More is what a value has beyond its text.
type More struct {
	// Written is how HTML spells the value, which is shown so where that is safe; "" where nobody says.
	Written string

	Label  string
	NewTab bool
	Items  []Value
	Group  map[string]Value
}

// IsSet reports whether somebody gave the value.
func (v Value) IsSet() bool { return v.Type != Unset }

// Empty reports whether a condition takes the value for nothing: unset, an
// empty text or list, a switch that is off.
func (v Value) Empty() bool {
	switch v.Type {
	case Unset:
		return true
	case Switch:
		return v.Text != "true"
	case List:
		return v.More == nil || len(v.More.Items) == 0
	case group:
		return false
	}
	return v.Text == ""
}

// Items are the items of a list.
func (v Value) Items() []Value {
	if v.More == nil {
		return nil
	}
	return v.More.Items
}

// Member returns a part of a value: a field of a group, or to, label and
// new_tab of a link.
func (v Value) Member(name string) Value {
	switch v.Type {
	case group:
		return v.More.Group[name]
	case Link:
		switch name {
		case "to":
			return Value{Type: Link, Text: v.Text}
		case "label":
			if v.More != nil {
				return Value{Type: Text, Text: v.More.Label}
			}
		case "new_tab":
			return Value{Type: Switch, Text: fmt.Sprint(v.More != nil && v.More.NewTab)}
		}
	}
	return Value{}
}

// Equal reports whether two values are the same in every part.
func (v Value) Equal(w Value) bool {
	a, _ := json.Marshal(v.Plain())
	b, _ := json.Marshal(w.Plain())
	return v.Type == w.Type && string(a) == string(b)
}

// Plain gives the value as JSON has it: a text, number, bool, list or object.
func (v Value) Plain() any {
	switch v.Type {
	case Unset:
		return nil
	case Number:
		return json.Number(v.Text)
	case Switch:
		return v.Text == "true"
	case List:
		out := []any{}
		for _, it := range v.Items() {
			out = append(out, it.Plain())
		}
		return out
	case group:
		out := map[string]any{}
		for k, m := range v.More.Group {
			if m.IsSet() {
				out[k] = m.Plain()
			}
		}
		return out
	case Link:
		if v.More != nil && (v.More.Label != "" || v.More.NewTab) {
			out := map[string]any{"to": v.Text}
			if v.More.Label != "" {
				out["label"] = v.More.Label
			}
			if v.More.NewTab {
				out["new_tab"] = true
			}
			return out
		}
	}
	return v.Text
}

// Argument writes the value as an argument of a call.
func (v Value) Argument() string {
	switch p := v.Plain().(type) {
	case string:
		return markup.Quote(p)
	case nil:
		return `""`
	default:
		return markup.QuoteList(p)
	}
}
