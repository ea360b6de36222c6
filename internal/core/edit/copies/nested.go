package copies

import (
	"maps"
	"slices"

	"brickshelf/internal/core/block"
	"brickshelf/internal/core/edit/values"
	"brickshelf/internal/core/markup"
	"brickshelf/internal/core/patch"
)

// nested finds the values that the copy gives to calls of other blocks within it, where the block
// gives them others: they are the page's own there.
func (r *relinker) nested(t trial) (trial, []Fit) {
	if t.after == r.text {
		return t, nil
	}
	mine, text := callsOf(markup.Parse([]byte(r.text))), markup.Parse([]byte(t.after))
	found := map[string][]inCall{}
	markup.Walk(text.Nodes, func(n *markup.Node) bool {
		own, of := mine[n.Container+"/"+n.Step], r.s.Block(n.Name)
		if n.Kind == markup.Call && own != nil && own.Name == n.Name && of != nil {
			found[n.Name] = append(found[n.Name], r.others(n, text, own, of)...)
		}
		return true
	})
	var out []Fit
	var patches []patch.Replacement
	for _, name := range slices.Sorted(maps.Keys(found)) {
		list := found[name]
		edits := make([]values.Edit, len(list))
		for i := range list {
			edits[i] = list[i].edit
		}
		changes, err := r.set(t.changes, name, edits) // in one, since keys that calls get move the others
		if err != nil {
			continue
		}
		t.changes = changes
		for _, w := range list {
			out, patches = append(out, w.fit), append(patches, w.patch)
		}
	}
	t.after = string(patch.Apply(text.Src, patches))
	return t, out
}

// inCall is a value of a call within a copy.
type inCall struct {
	fit   Fit
	edit  values.Edit
	patch patch.Replacement // by which what the linked placement would be written as has it
}

// others are the values that a call in the copy has, and the same in the linked placement has not.
func (r *relinker) others(n *markup.Node, text *markup.Text, own *markup.Node, of *block.Block) []inCall {
	var out []inCall
	for i := range own.Args {
		a := &own.Args[i]
		at, is := of.Field(a.Name), argument(n, a.Name)
		with := r.text[a.Value.Span.From:a.Value.Span.To]
		if at < 0 || a.Name == "key" || a.Value.Kind == markup.ArgExpr ||
			is != nil && string(text.Src[is.Value.Span.From:is.Value.Span.To]) == with {
			continue
		}
		f := of.Fields[at]
		v, err := block.Verbatim.Argument(f, a.Value)
		if err != nil {
			continue
		}
		typed := values.AsTyped(v)
		w := inCall{
			fit:  told(f, Fit{Field: n.Step + "/" + f.Name, Text: typed}),
			edit: values.Edit{Doc: r.path, Address: r.address + "/" + n.Step, Field: f.Name, Text: &typed},
		}
		w.fit.Label = of.Title + ", " + w.fit.Label
		if is != nil {
			w.patch = patch.Put(is.Value.Span.From, is.Value.Span.To, with)
		} else {
			at := n.Head.From + len("@{"+n.Name)
			w.patch = patch.Put(at, at, " "+a.Name+"="+with)
		}
		out = append(out, w)
	}
	return out
}

// callsOf are the calls of a text by where they stand.
func callsOf(t *markup.Text) map[string]*markup.Node {
	out := map[string]*markup.Node{}
	markup.Walk(t.Nodes, func(n *markup.Node) bool {
		if n.Kind == markup.Call {
			out[n.Container+"/"+n.Step] = n
		}
		return true
	})
	return out
}

func argument(n *markup.Node, name string) *markup.Arg {
	for i := range n.Args {
		if n.Args[i].Name == name {
			return &n.Args[i]
		}
	}
	return nil
}
