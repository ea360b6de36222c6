package workspace

import (
	"slices"
	"sync"
	"time"

	"brickshelf/internal/core/check"
	"brickshelf/internal/core/render"
	"brickshelf/internal/core/site"
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

// atOnce is how many pages are checked while somebody waits for the answer, and
// how many in one go in the background, between which edits can be saved.
const atOnce = 200

// survey remembers, page by page, which blocks stand there and what is wrong, for
// as long as no edit can have changed it.
type survey struct {
	mu        sync.Mutex
	standings map[string][]stood
	findings  map[string]site.Problems
	merged    site.Problems // of all pages and documents, nil where it must be made anew
	running   bool          // in the background
}

// forget drops what is known of the pages that an edit reaches.
func (t *survey) forget(draft, after *render.Shelf) {
	t.mu.Lock()
	defer t.mu.Unlock()
	t.merged = nil
	if !after.Overlay() {
		t.standings, t.findings = nil, nil
		return
	}
	for _, r := range after.Reached() {
		delete(t.standings, r.Path)
		delete(t.findings, r.Path)
	}
	for _, p := range after.Changed() {
		class, _, _ := site.Classify(p)
		_, was := draft.Get(p)
		_, is := after.Get(p)
		if class == site.PageDoc || (class == site.AssetDoc || class == site.BlockDoc) && was != is {
			t.findings = nil // links may lead somewhere that led nowhere, and another name may be the nearest
		}
	}
}

// drop forgets everything.
func (t *survey) drop() {
	t.mu.Lock()
	defer t.mu.Unlock()
	t.standings, t.findings, t.merged = nil, nil, nil
}

// Standings tells for every block how it stands on each page, in the order of
// the pages given.
func (w *Workspace) Standings(draft *render.Shelf, pages []string) map[string][]byte {
	t := &w.survey
	t.mu.Lock()
	defer t.mu.Unlock()
	if t.standings == nil {
		t.standings = map[string][]stood{}
	}
	var unknown []string
	for _, p := range pages {
		if _, known := t.standings[p]; !known {
			unknown = append(unknown, p)
		}
	}
	fresh := make([][]stood, len(unknown))
	render.Parallel(len(unknown), func(i int) { fresh[i] = standingOn(draft, unknown[i]) })
	for i, p := range unknown {
		t.standings[p] = fresh[i]
	}
	out := map[string][]byte{}
	for i, p := range pages {
		for _, s := range t.standings[p] {
			row := out[s.block]
			if row == nil {
				row = make([]byte, len(pages))
				for j := range row {
					row[j] = byte(NotThere)
				}
				out[s.block] = row
			}
			row[i] = byte(s.as)
		}
	}
	return out
}

// Ahead works out how every block stands everywhere, before somebody asks.
func (w *Workspace) Ahead() {
	w.mu.RLock()
	defer w.mu.RUnlock()
	w.Standings(w.draft, w.draft.PagePaths())
}

// stood says how a block stands on some page.
type stood struct {
	block string
	as    Standing
}

func (s Standing) rank() int {
	switch s {
	case WithOwnValues:
		return 3
	case AsTheBlockHas:
		return 2
	case AsCopy:
		return 1
	}
	return 0
}

func standingOn(s *render.Shelf, path string) []stood {
	var room [32]stood
	out := room[:0]
	put := func(b string, st Standing) {
		for i := range out {
			if out[i].block == b {
				if st.rank() > out[i].as.rank() {
					out[i].as = st
				}
				return
			}
		}
		out = append(out, stood{b, st})
	}
	s.LookAtPlacements(path, func(list []render.Placement) {
		for i := range list {
			switch p := &list[i]; {
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
	})
	in := s.Info(path)
	_, idle := in.Rules()
	for _, c := range in.Candidates {
		for _, r := range idle {
			if r == c.Rule.Name {
				put(c.Rule.Block, NotShown)
			}
		}
	}
	return slices.Clone(out)
}

// Findings lists what is wrong in the draft. It reports false where pages are
// still being checked in the background; listeners are told when that is done.
func (w *Workspace) Findings(draft *render.Shelf) (site.Problems, bool) {
	t := &w.survey
	t.mu.Lock()
	defer t.mu.Unlock()
	if t.merged != nil {
		return t.merged, true
	}
	if t.findings == nil {
		t.findings = map[string]site.Problems{}
	}
	pages := draft.PagePaths()
	var unknown []string
	for _, p := range pages {
		if _, known := t.findings[p]; !known {
			unknown = append(unknown, p)
		}
	}
	complete := len(unknown) <= atOnce
	if complete {
		t.learn(draft, unknown)
	} else if !t.running {
		t.running = true
		go w.checkAll()
	}
	lists := []site.Problems{check.New(draft).Documents()}
	for _, p := range pages {
		lists = append(lists, t.findings[p])
	}
	list := check.Merge(lists...)
	if list == nil {
		list = site.Problems{}
	}
	if complete {
		t.merged = list
	}
	return list, complete
}

func (t *survey) learn(draft *render.Shelf, paths []string) {
	for i, list := range check.New(draft).Pages(paths) {
		t.findings[paths[i]] = list
	}
}

// checkAll checks what is not checked yet, some pages at a time, while nobody waits for
// anything else.
func (w *Workspace) checkAll() {
	for more := true; more; {
		w.quiet()
		more = w.checkSome()
	}
	w.listeners.tell(Event{"checks", w.Version(), ""})
}

// quiet waits until nothing has been asked of the draft for a moment, but not for long.
func (w *Workspace) quiet() {
	const moment, long = 300 * time.Millisecond, 2 * time.Second
	for start := time.Now(); time.Since(start) < long; {
		rest := moment - time.Duration(time.Now().UnixNano()-w.asked.Load())
		if rest <= 0 {
			return
		}
		time.Sleep(rest)
	}
}

// checkSome checks some of the pages that are not checked yet, and reports whether there
// are more.
func (w *Workspace) checkSome() (more bool) {
	w.mu.RLock()
	defer w.mu.RUnlock()
	t := &w.survey
	var some []string
	t.mu.Lock()
	if t.findings == nil {
		t.findings = map[string]site.Problems{}
	}
	for _, p := range w.draft.PagePaths() {
		if _, known := t.findings[p]; !known {
			if some = append(some, p); len(some) == atOnce {
				break
			}
		}
	}
	t.mu.Unlock()
	lists := check.New(w.draft).Pages(some) // what is asked meanwhile need not wait for it
	t.mu.Lock()
	defer t.mu.Unlock()
	for i, list := range lists {
		t.findings[some[i]] = list
	}
	t.running = len(some) == atOnce
	return t.running
}
