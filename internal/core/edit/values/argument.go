package values

import (
	"strings"

	"brickshelf/internal/core/block"
	"brickshelf/internal/core/markup"
	"brickshelf/internal/core/patch"
	"brickshelf/internal/core/site"
)

// Call is a call as it is written in a text. From is the byte offset at which it
// begins in the document, Address its address where the document is a page.
type Call struct {
	Name      string
	From      int
	Address   string
	Arguments []Argument
}

// Argument is one argument of a call. Text is its value as a person types it;
// lists, objects and expressions are as they are written.
type Argument struct {
	Name    string
	Text    string
	Derived bool // an expression in parentheses
}

// CallAt finds the innermost call whose opening tag holds a byte offset of a
// document; nil where there is none.
func CallAt(src []byte, at int) *Call {
	t, shift, n := callAt(src, at)
	if n == nil {
		return nil
	}
	return describe(t, shift, n)
}

// CallOf finds the call of a page's text at an address; nil where there is none.
func CallOf(src []byte, address string) *Call {
	split, bad := site.Cut(src)
	if bad != "" {
		return nil
	}
	t := markup.Parse(split.Text)
	var found *Call
	markup.Walk(t.Nodes, func(n *markup.Node) bool {
		if n.Kind == markup.Call && n.Container+"/"+n.Step == address {
			found = describe(t, split.TextAt, n)
		}
		return found == nil
	})
	return found
}

func describe(t *markup.Text, shift int, n *markup.Node) *Call {
	c := &Call{Name: n.Name, From: shift + n.Head.From, Address: n.Container + "/" + n.Step,
		Arguments: []Argument{}}
	for _, a := range n.Args {
		text := a.Value.Text
		switch a.Value.Kind {
		case markup.ArgJSON:
			if text = string(t.Src[a.Value.Span.From:a.Value.Span.To]); strings.Contains(text, "`") {
				text = markup.QuoteList(markup.Unspelled(a.Value.JSON))
			}
		case markup.ArgExpr:
			text = string(t.Src[a.Value.Span.From:a.Value.Span.To])
		default:
		}
		c.Arguments = append(c.Arguments, Argument{a.Name, text, a.Value.Kind == markup.ArgExpr})
	}
	return c
}

func callAt(src []byte, at int) (*markup.Text, int, *markup.Node) {
	split, bad := site.Cut(src)
	if bad != "" || at < split.TextAt {
		return nil, 0, nil
	}
	t := markup.Parse(split.Text)
	var found *markup.Node
	markup.Walk(t.Nodes, func(n *markup.Node) bool {
		if p := at - split.TextAt; n.Kind == markup.Call && n.Head.From < p && p < n.Head.To {
			found = n
		}
		return true
	})
	return t, split.TextAt, found
}

// SetArgument gives an argument of the call at a byte offset of a document another
// value, adding it where the call has none; nil takes it away. Nothing but the
// argument changes.
func SetArgument(src []byte, at int, f *block.Field, value *string) ([]byte, error) {
	t, shift, n := callAt(src, at)
	if n == nil {
		return nil, site.Refuse("no call stands here any more")
	}
	p, err := argumentPatch(t, shift, n, f, value)
	if p == nil || err != nil {
		return src, err
	}
	return patch.Apply(src, []patch.Replacement{*p}), nil
}

// argumentPatch is the patch by which SetArgument edits a call of a text that begins at
// an offset of its document; nil where nothing is to be done.
func argumentPatch(t *markup.Text, shift int, n *markup.Node, f *block.Field,
	value *string) (*patch.Replacement, error) {
	var old *markup.Arg
	for i := range n.Args {
		if n.Args[i].Name == f.Name {
			old = &n.Args[i]
		}
	}
	if value == nil {
		if old == nil {
			return nil, nil
		}
		from := old.At
		for from > 0 && strings.IndexByte(" \t\r\n", t.Src[from-1]) >= 0 {
			from--
		}
		return &patch.Replacement{From: shift + from, To: shift + old.Value.Span.To, With: ""}, nil
	}
	written, err := argument(f, *value, old)
	if err != nil {
		return nil, err
	}
	if old != nil {
		return &patch.Replacement{From: shift + old.Value.Span.From, To: shift + old.Value.Span.To,
			With: written}, nil
	}
	end := n.Head.To - len("}")
	if !n.Closed {
		end = n.Head.To - len("/}")
	}
	for end > n.Head.From && strings.IndexByte(" \t\r\n", t.Src[end-1]) >= 0 {
		end--
	}
	with := " " + f.Name + "=" + written
	if !n.Closed && end == n.Head.To-len("/}") {
		with += " "
	}
	return &patch.Replacement{From: shift + end, To: shift + end, With: with}, nil
}

// Typed reads a value as a person types it: a text; for lists, and links with a
// label, JSON. What is to be written is read by block.Verbatim.
func Typed(r *block.Reader, f *block.Field, value string) (block.Value, error) {
	if !structured(f, value) {
		return r.Read(f, value)
	}
	y, problem := site.ParseYAML([]byte(value), "", 1)
	if problem != nil {
		return block.Value{}, site.Refuse("%s should be written as JSON: %s", f.Name, problem.Message)
	}
	return r.Read(f, block.Raw(y))
}

func structured(f *block.Field, value string) bool {
	return f.Type == block.List || f.Type == block.Link && strings.HasPrefix(strings.TrimSpace(value), "{")
}

// argument writes a value as it stands in a call, after making sure that the field
// takes it. What a list says still is spelled as the old one, if there is one, had it.
func argument(f *block.Field, value string, old *markup.Arg) (string, error) {
	v, err := Typed(block.Verbatim, f, value)
	switch {
	case err != nil:
		return "", err
	case structured(f, value) && old != nil:
		return markup.QuoteList(markup.Respell(v.Plain(), old.Value.JSON)), nil
	case structured(f, value):
		return v.Argument(), nil
	case f.Type == block.Switch || f.Type == block.Number && value != "":
		return v.Text, nil
	}
	return markup.Quote(value), nil
}
