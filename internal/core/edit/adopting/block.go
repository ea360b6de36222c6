package adopting

import (
	"bytes"
	"html"
	"slices"
	"strings"

	"brickshelf/internal/core/block"
	"brickshelf/internal/core/markup"
	"brickshelf/internal/core/repeat"
	"brickshelf/internal/core/site"
)

// field is how a field of a piece is declared in its block, and what the calls say of it: an argument for
// each place, "" where a call leaves it out.
type field struct {
	declared string
	args     []string
}

// fieldOf works out how a field is declared: with a default where most places say the same, or as the page's
// title where it mostly is that. bad are places whose value cannot stand where it would.
func (a *adoption) fieldOf(p *repeat.Piece, f *repeat.Field, bad []bool) field {
	if f.Type == repeat.List {
		return a.listOf(p, f, bad)
	}
	b := &block.Field{Name: f.Name, Type: block.Type(f.Type)}
	out := field{args: make([]string, len(p.Places))}
	said, exact := make([]string, len(p.Places)), make([]bool, len(p.Places))
	count, titles, none := map[string]int{}, 0, false
	for i, raw := range f.Values {
		if raw == nil {
			none = true
			continue
		}
		v, ok := bytes.ReplaceAll(raw, []byte("@@{"), []byte("@{")), true
		if said[i], exact[i], ok = a.spelled(b, f, v); !ok {
			bad[i] = true
		}
		if exact[i] {
			count[said[i]]++
		}
		if a.titled(b, f, p.Places[i].Page, v) {
			titles++
		}
	}
	usual := ""
	for _, s := range sortedKeys(count) {
		if count[s] > count[usual] {
			usual = s
		}
	}
	title := !none && 2*titles > len(p.Places)
	if none || title || count[usual] < 2 || 3*count[usual] < len(p.Places) || b.Type == block.Switch {
		usual = ""
	}
	for i, raw := range f.Values {
		switch {
		case raw == nil || usual != "" && said[i] == usual:
		case title && a.titled(b, f, p.Places[i].Page, bytes.ReplaceAll(raw, []byte("@@{"), []byte("@{"))):
		default:
			out.args[i] = " " + f.Name + "=" + said[i]
		}
	}
	out.declared = declared(f, usual, title)
	return out
}

// declared is a field as the front matter of a block has it.
func declared(f *repeat.Field, usual string, title bool) string {
	out := "  " + f.Name + ": " + inline(f)
	if usual != "" {
		if v, ok := argumentText(usual); ok {
			out += ", default: " + site.PlainYAML(v)
		}
	}
	if title {
		out += ", from: page.title"
	}
	return out + "}\n"
}

// choicesOf declares what a choice can be.
func choicesOf(f *repeat.Field) string {
	if f.Type != repeat.Choice {
		return ""
	}
	var all []string
	for _, v := range f.Values {
		if v != nil {
			all = append(all, string(v))
		}
	}
	slices.Sort(all)
	return ", choices: [" + strings.Join(slices.Compact(all), ", ") + "]"
}

// argumentText is the text of an argument in double quotes.
func argumentText(arg string) (string, bool) {
	t := markup.Parse([]byte("@{x a=" + arg + " /}"))
	if len(t.Nodes) != 1 || len(t.Errors) > 0 {
		return "", false
	}
	return t.Nodes[0].ArgString("a"), true
}

func label(name string) string {
	s := strings.ReplaceAll(name, "-", " ")
	return strings.ToUpper(s[:1]) + s[1:]
}

// contextOf is the place in HTML where a field stands.
func contextOf(f *repeat.Field) (markup.Context, []byte) {
	switch {
	case f.Quote() != 0 && (f.Type == repeat.Link || f.Type == repeat.Image):
		return markup.InURL, []byte{f.Quote()}
	case f.Quote() != 0:
		return markup.InAttr, []byte{f.Quote()}
	}
	return markup.InText, nil
}

// spelled is the argument by which a call shows the bytes v: the value that they spell where escaping gives
// them back, and then exact is set, else the bytes as they are written. ok is false where neither can.
func (a *adoption) spelled(b *block.Field, f *repeat.Field, v []byte) (arg string, exact, ok bool) {
	if f.Type == repeat.Switch {
		return "true", true, true
	}
	plain := string(v)
	if f.Type != repeat.Rich {
		plain = html.UnescapeString(plain)
	}
	if a.shows(b, f, markup.ArgValue{Kind: markup.ArgText, Text: plain}, v) {
		return markup.Quote(plain), true, true
	}
	arg = markup.QuoteWritten(string(v))
	t := markup.Parse([]byte("@{x a=" + arg + " /}"))
	if len(t.Errors) > 0 || len(t.Nodes) != 1 {
		return "", false, false
	}
	value, _ := t.Nodes[0].Arg("a")
	return arg, false, a.shows(b, f, value, v)
}

// shows reports whether a field with an argument shows these bytes.
func (a *adoption) shows(b *block.Field, f *repeat.Field, arg markup.ArgValue, v []byte) bool {
	value, err := a.shelf.Reader().Argument(b, arg)
	if err != nil && f.Type != repeat.Choice {
		return false
	}
	if f.Type == repeat.Choice {
		return true // it shows something else
	}
	ctx, before := contextOf(f)
	if ctx == markup.InAttr && !bytes.Equal(block.Append(nil, value, markup.InText), v) {
		return false // it can stand in a text as well
	}
	return bytes.Equal(block.Append(before, value, ctx), append(slices.Clip(before), v...))
}

// titled reports whether a field shows these bytes where it is the title of the page.
func (a *adoption) titled(b *block.Field, f *repeat.Field, page int, v []byte) bool {
	if f.Type != repeat.Text {
		return false
	}
	title := a.pages[page].Title
	return title != "" && a.shows(b, f, markup.ArgValue{Kind: markup.ArgText, Text: title}, v)
}

func sortedKeys(m map[string]int) []string {
	out := make([]string, 0, len(m))
	for k := range m {
		out = append(out, k)
	}
	slices.Sort(out)
	return out
}
