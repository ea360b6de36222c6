package workspace

import (
	"sync"

	"brickshelf/internal/core/render"
)

// Standing says how a block stands on a page.
type Standing byte

// The ways to stand. Where a page has a block in several, the first counts.
const (
	WithOwnValues Standing = 'o'
	AsTheBlockHas Standing = 'l'
	AsCopy        Standing = 'c'
	NotShown      Standing = 'h'
	NotThere      Standing = '-'
)

// standings remembers, page by page, which blocks stand there.
type standings struct {
	mu     sync.Mutex
	byPage map[string]map[string]Standing
}

func (t *standings) forget(path string) {
	t.mu.Lock()
	defer t.mu.Unlock()
	delete(t.byPage, path)
}

// Standings tells for every block how it stands on each page, in the order of
// the draft's pages.
func (w *Workspace) Standings(draft *render.Shelf, pages []string) map[string][]byte {
	w.standings.mu.Lock()
	defer w.standings.mu.Unlock()
	if w.standings.byPage == nil {
		w.standings.byPage = map[string]map[string]Standing{}
	}
	out := map[string][]byte{}
	for i, p := range pages {
		on, known := w.standings.byPage[p]
		if !known {
			on = standingOn(draft, p)
			w.standings.byPage[p] = on
		}
		for b, st := range on {
			row := out[b]
			if row == nil {
				row = make([]byte, len(pages))
				for j := range row {
					row[j] = byte(NotThere)
				}
				out[b] = row
			}
			row[i] = byte(st)
		}
	}
	return out
}

func standingOn(s *render.Shelf, path string) map[string]Standing {
	rank := map[Standing]int{WithOwnValues: 4, AsTheBlockHas: 3, AsCopy: 2, NotShown: 1}
	out := map[string]Standing{}
	put := func(b string, st Standing) {
		if rank[st] > rank[out[b]] {
			out[b] = st
		}
	}
	for _, p := range s.Render(path, render.Options{Placements: true}).Placements {
		switch {
		case p.Kind == render.Copied:
			put(p.Block, AsCopy)
		case p.Kind == render.Hidden:
			put(p.Block, NotShown)
		case len(p.Own) > 0:
			put(p.Block, WithOwnValues)
		default:
			put(p.Block, AsTheBlockHas)
		}
	}
	in := s.Info(path)
	_, idle := in.Rules()
	for _, c := range in.Candidates {
		for _, r := range idle {
			if r == c.Rule.Name {
				put(c.Rule.Block, NotShown)
			}
		}
	}
	return out
}
