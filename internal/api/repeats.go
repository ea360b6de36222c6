package api

import (
	"bytes"
	"context"
	"net/http"
	"slices"
	"strings"
	"sync"

	"github.com/gin-gonic/gin"

	"brickshelf/internal/core/edit/adopting"
	"brickshelf/internal/core/repeat"
	"brickshelf/internal/core/shelf"
	"brickshelf/internal/workspace"
)

// lookedThrough is what is repeated on the pages of a site, as long as these stay what they were.
type lookedThrough struct {
	mu    sync.Mutex // one at a time looks
	pages []repeat.Page
	found *repeat.Found
}

// repeats are the pages of a site's draft and what is repeated on them, looked for where they have changed
// since. The error is that of the context.
func (s *Server) repeats(ctx context.Context, w *workspace.Workspace) ([]repeat.Page, *repeat.Found, error) {
	known, _ := s.looked.LoadOrStore(w.Site.Name, &lookedThrough{})
	l := known.(*lookedThrough)
	l.mu.Lock()
	defer l.mu.Unlock()
	if err := ctx.Err(); err != nil {
		return nil, nil, err // while another one looked
	}
	pages := adopting.Pages(w.State().Draft)
	if l.found == nil || !slices.EqualFunc(pages, l.pages, samePage) {
		found, err := repeat.Find(ctx, pages, nil)
		if err != nil {
			return nil, nil, err
		}
		l.pages, l.found = pages, found
	}
	return l.pages, l.found, nil
}

func samePage(a, b repeat.Page) bool {
	return a.Path == b.Path && a.At == b.At && a.Title == b.Title && a.Up == b.Up &&
		bytes.Equal(a.Text, b.Text)
}

// mostShown is how many bytes of a value are told: as many as anybody reads in a table.
const mostShown = 400

// FindRepeats answers with the pieces that are repeated on the pages of the draft.
func (h *handlers) FindRepeats(c *gin.Context, name SiteName) {
	h.onRepeats(c, name, func(_ *shelf.Shelf, found *repeat.Found) {
		out := Repeats{Looked: found.Looked, Pieces: []Repeat{}}
		for _, p := range found.Pieces {
			out.Pieces = append(out.Pieces, toldRepeat(p))
		}
		c.JSON(http.StatusOK, out)
	})
}

// mostPlaces is how many places of a piece are told at once.
const mostPlaces = 1000

// GetRepeat answers with a repeated piece, its places and what they say.
func (h *handlers) GetRepeat(c *gin.Context, name SiteName, id string, params GetRepeatParams) {
	h.onRepeats(c, name, func(draft *shelf.Shelf, found *repeat.Found) {
		p := found.Piece(id)
		if p == nil {
			problem(c, http.StatusNotFound, "No such piece",
				"The pages have changed, and this piece is not repeated on them any more.")
			return
		}
		out := RepeatedPiece{Piece: toldRepeat(p), Markup: string(p.Markup()), Docs: docsOf(p.Places),
			Places: []RepeatPlace{}, Odd: []RepeatPlace{}}
		after := 0
		if params.After != nil {
			after = *params.After
		}
		for i := after; i < min(after+mostPlaces, len(p.Places)); i++ {
			at := p.Places[i]
			values := make([]*string, len(p.Fields))
			for f := range p.Fields {
				if v := p.Fields[f].Values[i]; v != nil {
					if p.Fields[f].Type == repeat.List {
						v = []byte(strings.Join(p.Fields[f].RowsText(i), " · "))
					}
					s := string(v[:min(len(v), mostShown)])
					values[f] = &s
				}
			}
			out.Places = append(out.Places, RepeatPlace{Doc: at.Path, From: at.From, To: at.To,
				Values: &values})
		}
		for _, at := range p.Odd {
			out.Odd = append(out.Odd, RepeatPlace{Doc: at.Path, From: at.From, To: at.To,
				Differs: differs(draft, at)})
		}
		c.JSON(http.StatusOK, out)
	})
}

// differs tells where an odd place begins to be something else, and what stands there.
func differs(draft *shelf.Shelf, at repeat.Place) *RepeatDiffers {
	src, ok := draft.Get(at.Path)
	if !ok || at.Differs > len(src) {
		return nil // it has changed this moment
	}
	const shown = 80
	text := strings.Join(strings.Fields(strings.ToValidUTF8(string(src[at.Differs:min(at.To, at.Differs+shown)]), "")), " ")
	return &RepeatDiffers{Line: 1 + bytes.Count(src[:at.Differs], []byte("\n")), Text: text}
}

// docsOf are the documents that places lie in, once each, in their order.
func docsOf(places []repeat.Place) []string {
	out := []string{}
	for _, at := range places {
		if len(out) == 0 || out[len(out)-1] != at.Path {
			out = append(out, at.Path)
		}
	}
	return out
}

func (h *handlers) onRepeats(c *gin.Context, name string, answer func(*shelf.Shelf, *repeat.Found)) {
	w := h.open(c, name)
	if w == nil {
		return
	}
	_, found, err := h.repeats(c.Request.Context(), w)
	if err != nil {
		h.fail(c, err)
		return
	}
	answer(w.State().Draft, found)
}

func toldRepeat(p *repeat.Piece) Repeat {
	out := Repeat{Id: p.ID, Title: p.Title, Kind: RepeatKind(p.Kind), Pages: p.Pages, Places: len(p.Places),
		Bytes: p.Bytes, Within: p.Within, Fields: []RepeatField{},
		Example: RepeatPlace{Doc: p.Places[0].Path, From: p.Places[0].From, To: p.Places[0].To}}
	out.Fields = toldFields(p.Fields)
	return out
}

func toldFields(fields []repeat.Field) []RepeatField {
	out := []RepeatField{}
	for i := range fields {
		f := &fields[i]
		one := RepeatField{Name: f.Name, Type: RepeatFieldType(f.Type), Types: []string{},
			Values: f.Different(), Optional: f.Optional(), Spacing: f.Spacing}
		for _, t := range adopting.Types(f.Type) {
			one.Types = append(one.Types, string(t))
		}
		if len(f.Fields) > 0 {
			of := toldFields(f.Fields)
			one.Fields = &of
		}
		out = append(out, one)
	}
	return out
}
