package workspace

import (
	"bytes"
	"slices"
	"sync"
	"time"

	"brickshelf/internal/core/check"
	"brickshelf/internal/core/render"
	"brickshelf/internal/core/shelf"
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

// findingsCache remembers of one draft, page by page, which blocks stand there and what is wrong.
// It moves from one draft to the next, taking along what the edit cannot have changed.
// Nothing is worked out while it is locked.
type findingsCache struct {
	mu        sync.Mutex
	of        *shelf.Shelf
	standings map[string][]stood
	findings  map[string]site.Problems
	merged    site.Problems // of all pages and documents, nil where it must be made anew
	running   bool          // in the background
}

// move takes what is known over to the draft after an edit, but for the pages that the
// edit reaches.
func (t *findingsCache) move(to, edited *shelf.Shelf) {
	var reached []shelf.Reach
	links := false // they may lead somewhere that led nowhere, and another name may be the nearest
	if edited.Overlay() {
		reached = edited.Reached()
		for _, p := range edited.Changed() {
			class, _, _ := site.Classify(p)
			_, was := t.of.Get(p)
			_, is := edited.Get(p)
			links = links || class == site.PageDoc ||
				(site.FileURL(p) != "" || class == site.BlockDoc) && was != is
		}
	}
	t.mu.Lock()
	defer t.mu.Unlock()
	t.of, t.merged = to, nil
	if !edited.Overlay() {
		t.standings, t.findings = nil, nil
		return
	}
	for _, r := range reached {
		delete(t.standings, r.Path)
		delete(t.findings, r.Path)
	}
	if links {
		t.findings = nil
	}
}

// Standings tells for every block how it stands on each page, in the order of
// the pages given.
func (w *Workspace) Standings(draft *shelf.Shelf, pages []string) map[string][]byte {
	t := &w.cache
	all := make([][]stood, len(pages))
	var unknown []int
	t.mu.Lock()
	present := t.of == draft
	for i, p := range pages {
		known := false
		if present {
			all[i], known = t.standings[p]
		}
		if !known {
			unknown = append(unknown, i)
		}
	}
	t.mu.Unlock()
	shelf.Parallel(len(unknown), func(i int) { all[unknown[i]] = standingOn(draft, pages[unknown[i]]) })
	t.mu.Lock()
	if t.of == draft && len(unknown) > 0 {
		if t.standings == nil {
			t.standings = make(map[string][]stood, len(pages))
		}
		for _, i := range unknown {
			t.standings[pages[i]] = all[i]
		}
	}
	t.mu.Unlock()
	out := map[string][]byte{}
	for i := range pages {
		for _, s := range all[i] {
			row := out[s.block]
			if row == nil {
				row = bytes.Repeat([]byte{byte(NotThere)}, len(pages))
				out[s.block] = row
			}
			row[i] = byte(s.as)
		}
	}
	return out
}

// Ahead works out how every block stands everywhere, before somebody asks.
func (w *Workspace) Ahead() {
	d := w.state.Load().Draft
	w.Standings(d, d.PagePaths())
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

func standingOn(s *shelf.Shelf, path string) []stood {
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
	render.LookAtPlacements(s, path, func(list []render.Placement) {
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

// Findings lists what is wrong in a draft. It reports false where pages are
// still being checked in the background; listeners are told when that is done.
func (w *Workspace) Findings(draft *shelf.Shelf) (site.Problems, bool) {
	t := &w.cache
	pages := draft.PagePaths()
	t.mu.Lock()
	present := t.of == draft
	if present && t.merged != nil {
		defer t.mu.Unlock()
		return t.merged, true
	}
	lists := make([]site.Problems, len(pages)+1)
	var unknown []int
	for i, p := range pages {
		known := false
		if present {
			lists[i], known = t.findings[p]
		}
		if !known {
			unknown = append(unknown, i)
		}
	}
	complete := len(unknown) <= atOnce
	if !complete && present && !t.running {
		t.running = true
		go w.checkAll()
	}
	t.mu.Unlock()
	c := check.New(draft)
	if complete {
		some := make([]string, len(unknown))
		for i, at := range unknown {
			some[i] = pages[at]
		}
		for i, list := range c.Pages(some) {
			lists[unknown[i]] = list
		}
		t.learn(draft, some, func(i int) site.Problems { return lists[unknown[i]] })
	}
	lists[len(pages)] = c.Documents()
	list := check.Merge(lists...)
	if list == nil {
		list = site.Problems{}
	}
	if complete {
		t.mu.Lock()
		if t.of == draft {
			t.merged = list
		}
		t.mu.Unlock()
	}
	return list, complete
}

// learn notes what was found on some pages of a draft, where that is still the present one.
func (t *findingsCache) learn(draft *shelf.Shelf, paths []string, found func(i int) site.Problems) {
	t.mu.Lock()
	defer t.mu.Unlock()
	if t.of != draft {
		return
	}
	if t.findings == nil {
		t.findings = make(map[string]site.Problems, len(paths))
	}
	for i, p := range paths {
		t.findings[p] = found(i)
	}
}

// checkAll checks what is not checked yet, some pages at a time, while nobody waits for
// anything else.
func (w *Workspace) checkAll() {
	for more := true; more; {
		w.quiet()
		more = w.checkSome()
	}
	w.listeners.tell(Event{Kind: "checks", Version: w.state.Load().Version})
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
	t := &w.cache
	var some []string
	t.mu.Lock()
	draft := t.of
	for _, p := range draft.PagePaths() {
		if _, known := t.findings[p]; !known {
			if some = append(some, p); len(some) == atOnce {
				break
			}
		}
	}
	t.mu.Unlock()
	lists := check.New(draft).Pages(some)
	t.learn(draft, some, func(i int) site.Problems { return lists[i] })
	t.mu.Lock()
	defer t.mu.Unlock()
	t.running = len(some) == atOnce || t.of != draft
	return t.running
}
