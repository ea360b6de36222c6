package api

import (
	"net/http"

	"github.com/gin-gonic/gin"

	"brickshelf/internal/core/block"
	"brickshelf/internal/core/edit/values"
	"brickshelf/internal/core/explain"
	"brickshelf/internal/core/render"
	"brickshelf/internal/core/shelf"
)

// ExplainValues answers with where the values of a placement come from.
func (h *handlers) ExplainValues(c *gin.Context, name SiteName, params ExplainValuesParams) {
	h.onPage(c, name, params.Page, params.Proposal, params.On, func(s *shelf.Shelf, in *shelf.Info) {
		l := explain.PrecedenceAt(s, in.Page.Path, params.Address,
			audienceOf(params.Audience) == shelf.SignedIn)
		if l == nil {
			problem(c, http.StatusNotFound, "No such placement", "No block stands at "+params.Address+" on "+
				params.Page+".")
			return
		}
		c.JSON(http.StatusOK, contractPrecedence(l))
	})
}

func contractPrecedence(l *explain.Precedence) Precedence {
	out := Precedence{Address: l.Address, Block: l.Block, Via: l.Via, InText: l.InText,
		Fields: []FieldPrecedence{}}
	for _, f := range l.Fields {
		one := FieldPrecedence{Field: contractFields([]*block.Field{f.Field})[0], Wins: f.Wins,
			Sources: []Source{}}
		for _, r := range f.Sources {
			one.Sources = append(one.Sources, Source{Source: SourceSource(r.Source), Set: r.Set,
				Text: valueText(r.Written.Plain()), Doc: r.Doc, Line: r.Line, Column: r.Column, Bad: r.Bad,
				Unshown: r.Unshown})
		}
		out.Fields = append(out.Fields, one)
	}
	return out
}

// ListValues answers with the values of a block at its placements on published pages.
func (h *handlers) ListValues(c *gin.Context, name SiteName, blockName string, params ListValuesParams) {
	h.onBlock(c, name, blockName, func(d *shelf.Shelf, b *block.Block) {
		users := window(c, d.Users(blockName), params.After, params.Pages)
		out := ValueTable{Fields: contractFields(b.Fields), Rows: []ValueRow{}, Orphans: []Mention{}}
		if params.After == nil || *params.After == 0 {
			out.Orphans = mentions(values.Orphans(d, blockName))
		}
		for _, v := range explain.ValuesOn(d, blockName, users,
			func() bool { return c.Request.Context().Err() == nil }) {
			row := ValueRow{Page: v.Page.URL, Title: pageTitle(v.Page), Doc: v.Page.Page.Path,
				Address: v.Address, Cells: []ValueCell{}}
			for _, f := range v.Fields {
				cell := ValueCell{Source: ValueCellSourceNone}
				if f.Wins >= 0 {
					r := f.Sources[f.Wins]
					cell = ValueCell{Text: valueText(r.Written.Plain()), Source: ValueCellSource(r.Source),
						Doc: r.Doc}
				}
				for _, r := range f.Sources {
					if r.Set && r.Source != render.FromOverride && r.Source != render.FromArgument {
						cell.Otherwise = valueText(r.Written.Plain())
						break
					}
				}
				row.Cells = append(row.Cells, cell)
			}
			out.Rows = append(out.Rows, row)
		}
		c.JSON(http.StatusOK, out)
	})
}

func mentions(list []values.Mention) []Mention {
	out := []Mention{}
	for _, m := range list {
		out = append(out, Mention{Doc: m.Path, Page: m.Page, Address: m.Address, Field: m.Field,
			Text: m.Text})
	}
	return out
}

func orphans(list []values.Orphan) []Orphan {
	out := []Orphan{}
	for _, o := range list {
		out = append(out, Orphan{Address: o.Address, Said: o.Said, Message: o.Message,
			Could: append([]string{}, o.Could...), Meant: o.Meant, Doubled: o.Doubled})
	}
	return out
}
