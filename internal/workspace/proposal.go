package workspace

import (
	"strconv"
	"sync"
	"time"

	"brickshelf/internal/core/impact"
	"brickshelf/internal/core/render"
	"brickshelf/internal/core/site"
)

// Proposal is an edit that is not saved: the site as it would be, and what that
// changes.
type Proposal struct {
	ID       string
	Changes  []site.Change
	Shelf    *render.Shelf
	Impact   *impact.Impact
	Problems site.Problems // where there are any, there is no Impact
	Docs     []string
}

// keep is how many proposals stay available to previews, keepBytes how many bytes of
// texts they may have in all; the newest stays whatever its size.
const (
	keep      = 32
	keepBytes = 256 << 20
)

type proposals struct {
	mu    sync.Mutex
	last  int
	order []string
	bytes int
	byID  map[string]*Proposal
}

func (p *proposals) add(pr *Proposal) {
	p.mu.Lock()
	defer p.mu.Unlock()
	p.last++
	pr.ID = strconv.Itoa(p.last)
	p.byID[pr.ID] = pr
	p.order = append(p.order, pr.ID)
	p.bytes += pr.size()
	for len(p.order) > keep || len(p.order) > 1 && p.bytes > keepBytes {
		p.bytes -= p.byID[p.order[0]].size()
		delete(p.byID, p.order[0])
		p.order = p.order[1:]
	}
}

func (pr *Proposal) size() int {
	n := 0
	for _, c := range pr.Changes {
		n += len(c.After)
	}
	return n
}

func (p *proposals) stale() {
	p.mu.Lock()
	defer p.mu.Unlock()
	for _, pr := range p.byID {
		pr.Shelf = nil
	}
}

// Propose works out what changes would do to the draft, without saving them.
func (w *Workspace) Propose(changes []site.Change) *Proposal {
	w.asked.Store(time.Now().UnixNano())
	w.mu.RLock()
	defer w.mu.RUnlock()
	pr := &Proposal{Changes: changes}
	for _, c := range changes {
		pr.Docs = append(pr.Docs, c.Path)
	}
	pr.Shelf = w.draft.With(changes)
	if pr.Problems = Invalid(pr.Shelf); len(pr.Problems) == 0 {
		pr.Impact = w.compare(pr)
	}
	w.proposals.add(pr)
	return pr
}

func (w *Workspace) compare(pr *Proposal) *impact.Impact {
	if pr.Shelf.Overlay() {
		return impact.Of(w.draft, pr.Shelf)
	}
	return impact.Every(w.draft, pr.Shelf, pr.Docs)
}

// ReadProposal runs do with the draft and a proposal, whose shelf is worked out
// anew where the draft has changed since.
func (w *Workspace) ReadProposal(id string, do func(draft *render.Shelf, pr *Proposal)) error {
	w.mu.RLock()
	defer w.mu.RUnlock()
	w.proposals.mu.Lock()
	pr := w.proposals.byID[id]
	if pr != nil && pr.Shelf == nil {
		pr.Shelf = w.draft.With(pr.Changes)
		pr.Impact = w.compare(pr)
	}
	w.proposals.mu.Unlock()
	if pr == nil {
		return ErrStale
	}
	do(w.draft, pr)
	return nil
}

type listeners struct {
	mu  sync.Mutex
	all map[chan Event]struct{}
}

func (l *listeners) tell(e Event) {
	l.mu.Lock()
	defer l.mu.Unlock()
	for c := range l.all {
		select {
		case c <- e:
		default: // a listener that does not keep up asks anew when it comes back
		}
	}
}

// Listen returns a channel of events and a function that ends them.
func (w *Workspace) Listen() (<-chan Event, func()) {
	c := make(chan Event, 16)
	w.listeners.mu.Lock()
	w.listeners.all[c] = struct{}{}
	w.listeners.mu.Unlock()
	return c, func() {
		w.listeners.mu.Lock()
		delete(w.listeners.all, c)
		w.listeners.mu.Unlock()
	}
}

// Proposals lists the shelves of the proposals that are still fresh.
func (w *Workspace) Proposals() []*render.Shelf {
	w.proposals.mu.Lock()
	defer w.proposals.mu.Unlock()
	var out []*render.Shelf
	for i := len(w.proposals.order) - 1; i >= 0; i-- {
		if pr := w.proposals.byID[w.proposals.order[i]]; pr.Shelf != nil {
			out = append(out, pr.Shelf)
		}
	}
	return out
}
