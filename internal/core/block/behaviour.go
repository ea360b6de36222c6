package block

import (
	"encoding/json"
	"strings"

	"brickshelf/internal/core/markup"
	"brickshelf/internal/core/site"
)

// Behaviour is what a block says of the behaviour beside it.
type Behaviour struct {
	Gives   []Given  // whose values it is given where it is started
	Needs   []string // blocks whose behaviours come before it, and are loaded with it
	When    string   // "visible" where it waits until its placement comes into view
	Media   string   // a media query, where it runs only while that holds
	At      [2]int   // line and column
	NeedsAt [2]int   // of what it needs
}

// Given is a field whose value a behaviour is given, and under which name: another one where the field
// has been renamed since the behaviour was written.
type Given struct{ Name, Field string }

func (b *Block) behaviour(h *Head, y *site.YAML) {
	b.Behaviour.At = [2]int{y.Line, y.Col}
	h.Keys(y, "a behaviour", []string{"gives", "needs", "when", "media"}, func(p site.Pair) {
		switch p.Key {
		case "gives":
			b.Behaviour.Gives = gives(h, p)
		case "needs":
			b.Behaviour.Needs, b.Behaviour.NeedsAt = h.Strings(p), [2]int{p.Value.Line, p.Value.Col}
			for _, name := range b.Behaviour.Needs {
				if !markup.ValidName(name) {
					h.Fail(p.Value.Line, p.Value.Col, "bad-name", "needs should name blocks, as in [tabs]")
				}
			}
		case "when":
			if b.Behaviour.When = h.String(p); b.Behaviour.When != "visible" {
				h.Fail(p.Value.Line, p.Value.Col, "wrong-type",
					"when should be visible, or be left out, so that it starts when the page is ready")
			}
		case "media":
			b.Behaviour.Media = h.String(p)
		}
	})
}

func gives(h *Head, p site.Pair) []Given {
	var out []Given
	if p.Value.Kind == site.Mapping {
		for _, g := range p.Value.Pairs {
			out = append(out, Given{g.Key, h.String(g)})
		}
		return out
	}
	for _, name := range h.Strings(p) {
		out = append(out, Given{name, name})
	}
	return out
}

// given checks that the fields that a behaviour is given are there.
func (b *Block) given(h *Head) {
	for _, g := range b.Behaviour.Gives {
		if b.Field(g.Field) < 0 {
			h.Fail(b.Behaviour.At[0], b.Behaviour.At[1], "unknown-name",
				"the behaviour should be given %s, and there is no such field%s", g.Field,
				Nearest(g.Field, b.FieldNames()))
		}
	}
}

// Start is what the behaviour is given at a placement with the values of the block's fields, as JSON.
func (b *Block) Start(values []Value) string {
	told := struct {
		Values map[string]any `json:"values,omitempty"`
		When   string         `json:"when,omitempty"`
		Media  string         `json:"media,omitempty"`
	}{When: b.Behaviour.When, Media: b.Behaviour.Media}
	if len(b.Behaviour.Gives) > 0 {
		told.Values = map[string]any{}
		for _, g := range b.Behaviour.Gives {
			if i := b.Field(g.Field); i >= 0 {
				told.Values[g.Name] = values[i].Plain()
			}
		}
	}
	var out strings.Builder
	e := json.NewEncoder(&out)
	e.SetEscapeHTML(false) // it is written into an attribute, and read by people in copies
	if err := e.Encode(told); err != nil {
		return "{}"
	}
	return strings.TrimSuffix(out.String(), "\n")
}
