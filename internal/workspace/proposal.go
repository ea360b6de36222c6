package workspace

import (
	"slices"
	"strconv"
	"sync"
	"sync/atomic"

	"brickshelf/internal/core/check"
	"brickshelf/internal/core/impact"
	"brickshelf/internal/core/shelf"
	"brickshelf/internal/core/site"
)

// Proposal is an edit that is not saved: the site as it would be, and what that
// changes.
type Proposal struct {
	ID      string
	Changes []site.Change
	Docs    []string

	mu   sync.Mutex // of whoever works out what it would do now
	last atomic.Pointer[Seen]
}

// Seen is what a proposal would do to the draft of some state.
type Seen struct {
	State    *State
	Shelf    *shelf.Shelf
	Impact   *impact.Impact
	Problems site.Problems // where there are any, there is no Impact, and the site is not to be rendered
}

// Err is nil for a proposal that would leave the site valid, else an *InvalidError: what
// is not valid is not rendered, since that may not even come to an end.
func (s *Seen) Err() error {
	if len(s.Problems) == 0 {
		return nil
	}
	return &InvalidError{s.Problems}
}

// keep is how many proposals stay available to previews, keepBytes how many bytes of
// texts they may have in all; the newest stays whatever its size. Once the draft is
// another one, those of more than keepStale bytes are let go.
const (
	keep      = 32
	keepBytes = 256 << 20
	keepStale = 1 << 20
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

// stale forgets what the proposals do, since the draft is another one now.
func (p *proposals) stale() {
	p.mu.Lock()
	defer p.mu.Unlock()
	p.order = slices.DeleteFunc(p.order, func(id string) bool {
		pr := p.byID[id]
		pr.last.Store(nil)
		if pr.size() <= keepStale {
			return false
		}
		p.bytes -= pr.size()
		delete(p.byID, id)
		return true
	})
}

// Propose works out what changes would do to the draft, without saving them.
func (w *Workspace) Propose(changes []site.Change) (*Proposal, *Seen) {
	pr := &Proposal{Changes: changes}
	for _, c := range changes {
		pr.Docs = append(pr.Docs, c.Path)
	}
	seen := pr.see(w.State())
	w.proposals.add(pr)
	return pr, seen
}

// see is what the proposal does to the draft of a state: as it was worked out before,
// or anew, for one who asks at a time.
func (pr *Proposal) see(st *State) *Seen {
	if s := pr.last.Load(); s != nil && s.State == st {
		return s
	}
	pr.mu.Lock()
	defer pr.mu.Unlock()
	if s := pr.last.Load(); s != nil && s.State == st {
		return s
	}
	s := &Seen{State: st, Shelf: st.Draft.With(pr.Changes)}
	if s.Problems = append(check.Spoiled(st.Draft, pr.Changes), Invalid(s.Shelf)...); len(s.Problems) == 0 {
		if s.Shelf.Overlay() {
			s.Impact = impact.Of(st.Draft, s.Shelf)
			s.Impact.Later = impact.Ahead(st.Draft, s.Shelf)
		} else {
			s.Impact = impact.Every(st.Draft, s.Shelf, pr.Docs)
		}
	}
	pr.last.Store(s)
	return s
}

// Proposal gives a proposal and what it would do to the present draft, or ErrStale where
// it is no longer kept.
func (w *Workspace) Proposal(id string) (*Proposal, *Seen, error) {
	w.proposals.mu.Lock()
	pr := w.proposals.byID[id]
	w.proposals.mu.Unlock()
	if pr == nil {
		return nil, nil, ErrStale
	}
	return pr, pr.see(w.State()), nil
}

type listeners struct {
	mu  sync.Mutex
	all map[chan Event]struct{}
}

func (l *listeners) tell(e Event) {
	l.mu.Lock()
	defer l.mu.Unlock()
	for c := range l.all {
		if e.Kind == "progress" && len(c) > 0 {
			continue // what changes goes before
		}
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

// Proposals lists the shelves of the proposals that are still fresh, the newest first.
func (w *Workspace) Proposals() []*shelf.Shelf {
	w.proposals.mu.Lock()
	defer w.proposals.mu.Unlock()
	var out []*shelf.Shelf
	for i := len(w.proposals.order) - 1; i >= 0; i-- {
		if s := w.proposals.byID[w.proposals.order[i]].last.Load(); s != nil {
			out = append(out, s.Shelf)
		}
	}
	return out
}
