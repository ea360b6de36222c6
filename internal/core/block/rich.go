package block

import (
	"reflect"
	"slices"
	"sort"
	"strings"

	"golang.org/x/net/html"
	"golang.org/x/net/html/atom"

	"brickshelf/internal/core/markup"
)

// Mended is HTML that cannot leave the element it is put into: what it leaves open is
// closed, what it closes and did not open is dropped, and what stands in a table where
// nothing may is moved before it, as a browser would. HTML that is whole stays as it is.
func Mended(s string) string {
	s, whole := mended(s)
	if !whole {
		return html.EscapeString(s)
	}
	return s
}

// mended also tells whether what it gives is whole.
func mended(s string) (string, bool) {
	if !strings.ContainsRune(s, '<') {
		return s, true
	}
	for range 4 { // what a browser makes of what it makes of it may differ again
		nodes, err := html.ParseFragment(strings.NewReader(s), &html.Node{Type: html.ElementNode, Data: "div",
			DataAtom: atom.Div})
		if err != nil {
			return "", true
		}
		var out strings.Builder
		for _, n := range nodes {
			if err := html.Render(&out, n); err != nil {
				return "", true
			}
		}
		if reflect.DeepEqual(tokens(s), tokens(out.String())) {
			return s, true
		}
		s = out.String()
	}
	return s, false
}

// InOrder is a value of a field as it is written where a person enters it: the tags of rich
// texts, those within lists among them, are put in order, as Mended does; whatever else they
// say stays. A text of which a word would go, as where it ends within a tag, stays as it is.
// raw is what Read takes.
func InOrder(f *Field, raw any) any {
	switch v := raw.(type) {
	case string:
		if ordered, whole := mended(v); f.Type == Rich && whole && !unfinished(v) {
			return ordered
		}
	case []any:
		items := slices.Clone(v)
		for i, item := range items {
			if group, ok := item.(map[string]any); ok {
				ordered := make(map[string]any, len(group))
				for name, inner := range group {
					ordered[name] = inner
					if at := slices.IndexFunc(f.Fields,
						func(f *Field) bool { return f.Name == name }); at >= 0 {
						ordered[name] = InOrder(f.Fields[at], inner)
					}
				}
				items[i] = ordered
			}
		}
		return items
	}
	return raw
}

// unfinished reports whether HTML ends within a tag or a comment, of which a browser shows
// nothing.
func unfinished(s string) bool {
	read, open := 0, false
	z := html.NewTokenizer(strings.NewReader(s))
	for kind := z.Next(); kind != html.ErrorToken; kind = z.Next() {
		raw := string(z.Raw())
		read += len(raw)
		ended := strings.HasSuffix(raw, "-->") || strings.HasSuffix(raw, "--!>") ||
			!strings.HasPrefix(raw, "<!--") && strings.HasSuffix(raw, ">")
		open = kind == html.CommentToken && !ended
	}
	return open || read < len(s)
}

// Lost says what a rich value, or one within a list, says and does not show: the tags and
// attributes that are left out of it, or that it is put in order. It is empty where it
// shows all that it says, as it does in a field of any other type.
func (r *Reader) Lost(f *Field, raw any) string {
	switch v := raw.(type) {
	case string:
		if f.Type == Rich && strings.ContainsRune(v, '<') {
			if unfinished(v) {
				return "this rich text ends within a tag or a comment, so its end is not shown; close it with >, or write &lt; for a < that begins none"
			}
			return lost(tokens(v), tokens(r.policy.Sanitize(v)), tokens(Mended(r.policy.Sanitize(v))))
		}
	case []any:
		for _, item := range v {
			group, _ := item.(map[string]any)
			for _, inner := range f.Fields {
				if s := r.Lost(inner, group[inner.Name]); s != "" {
					return s
				}
			}
		}
	}
	return ""
}

func lost(written, clean, mended []html.Token) string {
	named := func(list []html.Token) map[string]int {
		out := map[string]int{}
		for _, t := range list {
			if t.Type != html.StartTagToken {
				continue
			}
			out["<"+t.Data+">"]++
			for _, a := range t.Attr {
				if a.Key != "rel" {
					out[a.Key+" of <"+t.Data+">"]++
				}
			}
		}
		return out
	}
	kept, missed := named(clean), []string{}
	for what, n := range named(written) {
		tag := what[strings.IndexByte(what, '<'):]
		if kept[what] < n && (what == tag || kept[tag] > 0) {
			missed = append(missed, what)
		}
	}
	sort.Strings(missed)
	switch {
	case len(missed) > 0:
		return "what is shown leaves out " + strings.Join(missed, ", ") +
			", which a rich text cannot hold; write it into the block"
	case !reflect.DeepEqual(clean, mended):
		return "the tags of this rich text do not fit together, so it is shown put in order; end what it begins, and begin what it ends"
	}
	return ""
}

// tokens are the tags and texts of HTML, with texts in one piece.
func tokens(s string) []html.Token {
	var out []html.Token
	z := html.NewTokenizer(strings.NewReader(s))
	for z.Next() != html.ErrorToken {
		t := z.Token()
		if t.Type == html.SelfClosingTagToken {
			t.Type = html.StartTagToken
		}
		if n := len(out); t.Type == html.TextToken && n > 0 && out[n-1].Type == html.TextToken {
			out[n-1].Data += t.Data
			continue
		}
		out = append(out, t)
	}
	return out
}

// Contained is a rich value without the tags that would end what it stands in: between what
// were blocks within a paragraph stands a line break.
func Contained(s string, in markup.Inside) string {
	if in == 0 || !strings.ContainsRune(s, '<') {
		return s
	}
	var out strings.Builder
	lists, terms, dropped, owed := 0, 0, false, false
	z := html.NewTokenizer(strings.NewReader(s))
	for kind := z.Next(); kind != html.ErrorToken; kind = z.Next() {
		raw := string(z.Raw())
		if kind == html.TextToken {
			if owed && strings.TrimSpace(raw) != "" && out.Len() > 0 {
				out.WriteString("<br>")
			}
			owed = owed && strings.TrimSpace(raw) == ""
			out.WriteString(raw)
			continue
		}
		n, _ := z.TagName()
		name := string(n)
		step := map[html.TokenType]int{html.StartTagToken: 1, html.EndTagToken: -1}[kind]
		ends := in&markup.InParagraph != 0 && markup.Blocks[name] ||
			in&markup.InHeading != 0 && markup.Headings[name] || in&markup.InLink != 0 && name == "a" ||
			in&markup.InItem != 0 && name == "li" && lists == 0 ||
			in&markup.InTerm != 0 && (name == "dt" || name == "dd") && terms == 0
		switch {
		case name == "ul" || name == "ol":
			lists += step
		case name == "dl":
			terms += step
		}
		if ends {
			dropped, owed = true, owed || markup.Blocks[name]
			continue
		}
		if in&markup.InParagraph != 0 && tableParts[name] {
			dropped, owed = true, true
			continue
		}
		owed = owed && !markup.Blocks[name]
		out.WriteString(raw)
	}
	if !dropped {
		return s
	}
	return out.String()
}

// tableParts have no meaning without their table.
var tableParts = map[string]bool{"caption": true, "colgroup": true, "col": true, "thead": true, "tbody": true,
	"tfoot": true, "tr": true, "td": true, "th": true}
