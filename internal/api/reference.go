package api

import (
	"cmp"
	"net/http"
	"slices"
	"strings"

	"github.com/gin-gonic/gin"

	"brickshelf/internal/core/block"
	"brickshelf/internal/core/edit/documents"
	"brickshelf/internal/core/edit/outline"
	"brickshelf/internal/core/edit/values"
	"brickshelf/internal/core/markup"
	"brickshelf/internal/core/shelf"
	"brickshelf/internal/core/site"
)

// GetReference answers with everything that can be called.
func (h *handlers) GetReference(c *gin.Context, name SiteName) {
	h.read(c, name, func(d *shelf.Shelf) {
		out := Reference{Entries: []Entry{}, Sets: []ShortcodeSet{}, Menus: []Titled{}, Assets: []string{}}
		for _, n := range d.Names() {
			e := entry(d, n)
			out.Entries = append(out.Entries, e)
			if i := slices.IndexFunc(out.Sets, func(s ShortcodeSet) bool { return s.Name == e.Set }); i >= 0 {
				out.Sets[i].Shortcodes = append(out.Sets[i].Shortcodes, n)
			} else if e.Set != "" {
				out.Sets = append(out.Sets, ShortcodeSet{Name: e.Set, On: e.On, Shortcodes: []string{n}})
			}
		}
		for _, p := range d.Paths("menus/") {
			name := strings.TrimSuffix(strings.TrimPrefix(p, "menus/"), ".yaml")
			if m := d.Menu(name); m != nil {
				out.Menus = append(out.Menus, Titled{Name: name, Title: cmp.Or(m.Title, name)})
			}
		}
		for _, p := range slices.Concat(d.Paths("assets/"), d.Paths("files/")) {
			out.Assets = append(out.Assets, site.FileURL(p))
		}
		c.JSON(http.StatusOK, out)
	})
}

func entry(d *shelf.Shelf, name string) Entry {
	fields, on := d.Parameters(name), d.SetOff(name) == ""
	e := Entry{Name: name, Kind: "built-in", Title: name, Fields: contractFields(fields),
		Pages: len(d.Users(name)), Set: d.SetOf(name), On: on}
	inner := false
	if b := d.Block(name); b != nil {
		inner = encloses(b)
		e.Kind, e.Title, e.Category, e.About, e.Sample = "block", b.Title, b.Category, b.About, b.Sample
	} else if c := d.Script(name); c != nil {
		inner = c.Encloses
		e.Kind, e.Title, e.About, e.Sample = "scripted", c.Title, c.About, c.Sample
	} else if b := shelf.BuiltinOf(name); b != nil {
		e.About, e.Sample = b.About, b.Sample
	}
	e.Call, e.Encloses = call(name, fields, inner), inner
	if e.Sample == "" {
		e.Sample = e.Call
	}
	return e
}

// ListCallers answers with the pages that can show a block or shortcode.
func (h *handlers) ListCallers(c *gin.Context, name SiteName, params ListCallersParams) {
	h.read(c, name, func(d *shelf.Shelf) {
		if _, known := d.Signature(params.Name); !known {
			problem(c, http.StatusNotFound, "Not there", "There is no block or shortcode "+params.Name+".")
			return
		}
		out := []string{}
		for _, p := range d.Users(params.Name) {
			if in := d.Info(p); !in.Draft {
				out = append(out, in.URL)
			}
		}
		c.JSON(http.StatusOK, out)
	})
}

// encloses reports whether a block shows the content that its call encloses.
func encloses(b *block.Block) bool {
	found := false
	markup.Walk(b.Text.Nodes, func(n *markup.Node) bool {
		if n.Expr != nil {
			for _, t := range n.Expr.Terms {
				found = found || len(t.Path) == 1 && t.Path[0] == "inner"
			}
		}
		return !found
	})
	return found
}

// call is how something is called: with its required fields.
func call(name string, fields []*block.Field, inner bool) string {
	s := "@{" + name
	for _, f := range fields {
		if f.Required {
			s += " " + f.Name + `="…"`
		}
	}
	if inner {
		return s + "} … @{/" + name + "}"
	}
	return s + " /}"
}

func contractFields(fields []*block.Field) []Field {
	out := []Field{}
	for _, f := range fields {
		field := Field{Name: f.Name, Type: FieldType(f.Type), Label: f.Label, Help: f.Help,
			Required: f.Required, Choices: f.Choices, Fields: contractFields(f.Fields),
			Default: f.Default.Plain(), DefaultText: valueText(f.Written.Plain()), From: strings.Join(f.From,
				"."), Min: f.Min, Max: f.Max}
		if field.Label == "" {
			field.Label = f.Name
		}
		if field.Choices == nil {
			field.Choices = []string{}
		}
		out = append(out, field)
	}
	return out
}

// DescribeFields answers with the fields that a block's text declares.
func (h *handlers) DescribeFields(c *gin.Context, _ SiteName) {
	var in BlockText
	if !h.body(c, &in) {
		return
	}
	b, _ := block.Parse("block", "block", []byte(in.Text), block.NewReader())
	c.JSON(http.StatusOK, contractFields(b.Fields))
}

// DescribeBlock answers with what a block's text says of the block.
func (h *handlers) DescribeBlock(c *gin.Context, _ SiteName) {
	var in BlockText
	if !h.body(c, &in) {
		return
	}
	b, _ := block.Parse("", "block", []byte(in.Text), block.NewReader())
	c.JSON(http.StatusOK, BlockSays{Title: b.Title, Category: b.Category, About: b.About, Sample: b.Sample})
}

// FindCall answers with the call at a place of a text.
func (h *handlers) FindCall(c *gin.Context, name SiteName) {
	w := h.open(c, name)
	var in PlaceInText
	if w == nil || !h.body(c, &in) {
		return
	}
	out := FoundCall{Arguments: []Argument{}}
	found := values.CallAt([]byte(in.Text), in.At)
	if in.Addresses != nil {
		found = nil
		for i := 0; i < len(*in.Addresses) && found == nil; i++ {
			found = values.CallOf([]byte(in.Text), (*in.Addresses)[i])
		}
	}
	if found != nil {
		out.Name, out.From, out.Address = found.Name, found.From, found.Address
		for _, a := range found.Arguments {
			out.Arguments = append(out.Arguments, Argument{Name: a.Name, Text: a.Text, Derived: a.Derived})
		}
	}
	c.JSON(http.StatusOK, out)
}

// SetArgument edits one argument of a call in a text.
func (h *handlers) SetArgument(c *gin.Context, name SiteName) {
	w := h.open(c, name)
	var in ArgumentEdit
	if w == nil || !h.body(c, &in) {
		return
	}
	var text []byte
	var err error
	text, err = setArgument(w.State().Draft, in)
	if err != nil {
		h.fail(c, err)
		return
	}
	c.JSON(http.StatusOK, BlockText{Text: string(text)})
}

func setArgument(d *shelf.Shelf, in ArgumentEdit) ([]byte, error) {
	found := values.CallAt([]byte(in.Text), in.At)
	if found == nil {
		return nil, site.Refuse("no call stands here any more")
	}
	fields, _ := d.Signature(found.Name)
	for _, f := range fields {
		if f.Name == in.Field {
			if in.Value != nil {
				entered := values.Entered(f, *in.Value)
				in.Value = &entered
			}
			return values.SetArgument([]byte(in.Text), in.At, f, in.Value)
		}
	}
	return nil, &site.Refusal{Message: found.Name + " has no field " + in.Field}
}

// FindRows answers with the rows of calls that a text holds.
func (h *handlers) FindRows(c *gin.Context, _ SiteName) {
	var in RowQuestion
	if !h.body(c, &in) {
		return
	}
	out := []Row{}
	for _, r := range outline.Rows(in.Path, []byte(in.Text)) {
		row := Row{Region: r.Region, Items: []RowItem{}}
		for _, it := range r.Items {
			row.Items = append(row.Items, RowItem{Name: it.Name, Copy: it.Copy, From: it.From,
				Text: in.Text[it.From:it.To]})
		}
		out = append(out, row)
	}
	c.JSON(http.StatusOK, out)
}

// RearrangeRow answers with a text whose row stands in another order.
func (h *handlers) RearrangeRow(c *gin.Context, name SiteName) {
	w := h.open(c, name)
	var in RowEdit
	if w == nil || !h.body(c, &in) {
		return
	}
	var text []byte
	var err error
	d := w.State().Draft
	text, err = outline.Rearrange(d, in.Path, []byte(in.Text), in.Region, in.Order, in.Add)
	if err != nil {
		h.fail(c, err)
		return
	}
	c.JSON(http.StatusOK, BlockText{Text: string(text)})
}

// FindElement answers with the range of an element of a page's own text.
func (h *handlers) FindElement(c *gin.Context, name SiteName) {
	w := h.open(c, name)
	var in ElementQuestion
	if w == nil || !h.body(c, &in) {
		return
	}
	var out PlaceOfPiece
	var err error
	d := w.State().Draft
	src, _ := d.Get(in.Doc)
	out.From, out.To, err = outline.Element(src, in.At)
	if err != nil {
		h.fail(c, err)
		return
	}
	c.JSON(http.StatusOK, out)
}

// CutPiece answers with the parts of a piece of a page.
func (h *handlers) CutPiece(c *gin.Context, name SiteName) {
	w := h.open(c, name)
	var in PieceQuestion
	if w == nil || !h.body(c, &in) {
		return
	}
	var piece *documents.Piece
	var err error
	piece, err = documents.CutPiece(w.State().Draft, in.Doc, in.Piece.From, in.Piece.To)
	if err != nil {
		h.fail(c, err)
		return
	}
	out := []Part{}
	for _, p := range piece.Parts {
		out = append(out, Part{Field: p.Field, Type: string(p.Type), Value: p.Value})
	}
	c.JSON(http.StatusOK, out)
}
