package api

import (
	"net/http"
	"slices"

	"github.com/gin-gonic/gin"

	"brickshelf/internal/core/edit/wording"
	"brickshelf/internal/core/shelf"
	"brickshelf/internal/core/site"
)

// FindWords answers with the spots where the draft says something.
func (h *handlers) FindWords(c *gin.Context, name SiteName) {
	var in WordsQuestion
	if !h.body(c, &in) {
		return
	}
	h.read(c, name, func(d *shelf.Shelf) {
		list, err := wording.Find(c.Request.Context(), d, query(in.Words), given(in.With))
		if err != nil {
			h.fail(c, err)
			return
		}
		limit := len(list)
		if in.Limit != nil {
			limit = min(limit, *in.Limit)
		}
		out := WordsFound{Total: len(list), Seen: string(wording.Seen(list)), Classes: []WordsIn{},
			Spots: make([]WordsSpot, limit)}
		for i, s := range list {
			if i < limit {
				out.Spots[i] = WordsSpot{Doc: s.Path, N: s.N, Kind: WordsSpotKind(s.Kind), Of: s.Of,
					Line: s.Line, Column: s.Column, Before: s.Before, Match: s.Match, After: s.After,
					With: s.With}
			}
			class, _, _ := site.Classify(s.Path)
			at := slices.IndexFunc(out.Classes, func(c WordsIn) bool {
				return c.Class == DocumentClass(class)
			})
			if at < 0 {
				at = len(out.Classes)
				out.Classes = append(out.Classes, WordsIn{Class: DocumentClass(class)})
			}
			out.Classes[at].Spots++
			if s.N == 0 {
				out.Classes[at].Documents++
			}
		}
		c.JSON(http.StatusOK, out)
	})
}

func query(w Words) wording.Query {
	q := wording.Query{Text: w.Text, Pattern: given(w.Pattern), Case: given(w.Case), Whole: given(w.Whole),
		Written: given(w.Written)}
	for _, c := range given(w.In) {
		q.In = append(q.In, site.Class(c))
	}
	return q
}
