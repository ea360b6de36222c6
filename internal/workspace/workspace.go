// Package workspace holds one site while it is worked on: the compiled draft,
// what is published, the edits being proposed, and who wants to hear of changes.
package workspace

import (
	"errors"
	"fmt"
	"maps"
	"slices"
	"sync"
	"sync/atomic"
	"time"

	"brickshelf/internal/core/check"
	"brickshelf/internal/core/edit/copies"
	"brickshelf/internal/core/impact"
	"brickshelf/internal/core/script"
	"brickshelf/internal/core/shelf"
	"brickshelf/internal/core/site"
	"brickshelf/internal/store"
)

// Workspace is one open site. Its methods may be called from several goroutines:
// whoever reads does so in a State, which nobody changes, and waits for nobody.
type Workspace struct {
	Site  store.Site
	store *store.Store
	now   func() time.Time

	mu    sync.Mutex // of whoever makes another state
	state atomic.Pointer[State]

	proposals proposals
	listeners listeners
	cache     findingsCache
	asked     atomic.Int64 // when something was last asked of the draft, in nanoseconds
}

// State is a site as it is at some moment. It stays so, whatever is saved meanwhile.
type State struct {
	Draft   *shelf.Shelf
	Live    *shelf.Shelf // what is published; an empty site where nothing is
	Version int          // counts the states since the site was opened
	Release int          // the newest release, 0 before the first

	differs struct {
		once   sync.Once
		impact *impact.Impact
		docs   []string
	}
}

// Event tells that something is no longer as it was. By is the client that has made it so,
// as it calls itself, "" where that is none.
type Event struct {
	// "draft", "release", "checks" when all pages have been checked, "folder", "gone", or "progress" of
	// what takes long, which Title names.
	Kind    string
	Version int
	Title   string
	By      string
	Done    int // of a progress: how much of it is done, out of how much
	Total   int
}

// InvalidError says that an edit would leave the site invalid.
type InvalidError struct{ Problems site.Problems }

func (e *InvalidError) Error() string { return e.Problems.Error() }

// Open loads a site whose scripts are run by runner; where that is nil, by nobody.
func Open(st *store.Store, s store.Site, now func() time.Time, runner script.Runner) (*Workspace, error) {
	draft, err := st.Files(s.ID, store.Draft)
	if err != nil {
		return nil, err
	}
	published, err := st.Unpublished(s.ID)
	if err != nil {
		return nil, err
	}
	releases, err := st.Releases(s.ID)
	if err != nil {
		return nil, err
	}
	w := &Workspace{Site: s, store: st, now: now}
	first := &State{Version: 1}
	if len(releases) > 0 {
		first.Release = releases[0].Number
		first.Live, first.Draft = both(draft, published, now(), runner)
	} else {
		first.Draft, first.Live = shelf.NewScripted(draft, now(), runner), shelf.NewScripted(nil, now(),
			runner)
	}
	w.state.Store(first)
	w.cache.of = first.Draft
	w.proposals.byID = map[string]*Proposal{}
	w.listeners.all = map[chan Event]struct{}{}
	return w, nil
}

// both compiles what is published, and the draft from that, so that they share what is
// the same. back leads from the draft to what is published.
func both(draft site.Files, back []site.Change, now time.Time, runner script.Runner) (live,
	after *shelf.Shelf) {
	published := maps.Clone(draft)
	forth := make([]site.Change, 0, len(back))
	for _, c := range back {
		b, there := draft[c.Path]
		forth = append(forth, site.Change{Path: c.Path, After: b, Delete: !there})
		if c.Delete {
			delete(published, c.Path)
		} else {
			published[c.Path] = c.After
		}
	}
	live = shelf.NewScripted(published, now, runner)
	if len(forth) == 0 {
		return live, live
	}
	return live, live.Commit(live.With(forth))
}

// State is the site as it is now.
func (w *Workspace) State() *State {
	w.asked.Store(time.Now().UnixNano())
	return w.state.Load()
}

// Rest lets go of what can be worked out again.
func (w *Workspace) Rest() {
	st := w.state.Load()
	st.Draft.Rest()
	if st.Live != st.Draft {
		st.Live.Rest()
	}
}

// Save makes a change set of a client part of the draft. The revisions of blocks that go by it
// and that copies came from are put into history with it. It returns an *InvalidError or a
// *site.Conflict, having changed nothing, where that cannot be.
func (w *Workspace) Save(set site.ChangeSet, by string) (store.Record, error) {
	w.mu.Lock()
	defer w.mu.Unlock()
	st := w.state.Load()
	for _, c := range set.Changes {
		if st.Draft.Hash(c.Path) == c.Before {
			continue
		}
		old, there := st.Draft.Get(c.Path)
		if err := c.Check(old, there); err != nil {
			return store.Record{}, err
		}
	}
	set.Changes = append(slices.Clip(set.Changes), copies.Revisions(st.Draft, set.Changes)...)
	edited := st.Draft.WithAs(set.Changes, st.Live)
	if problems := append(check.Spoiled(st.Draft, set.Changes), Invalid(edited)...); len(problems) > 0 {
		return store.Record{}, &InvalidError{problems}
	}
	rec, err := w.store.Save(w.Site.ID, set)
	if err != nil {
		return rec, err
	}
	w.commit(st, edited, rec.Title, by)
	return rec, nil
}

// Invalid lists what would make a site invalid after an edit of a valid one.
func Invalid(o *shelf.Shelf) site.Problems {
	if o.Overlay() {
		return check.Changed(o)
	}
	return check.Validity(o)
}

// commit takes what the store has taken.
func (w *Workspace) commit(st *State, edited *shelf.Shelf, title, by string) {
	next := &State{Draft: st.Draft.Commit(edited), Live: st.Live, Version: st.Version + 1,
		Release: st.Release}
	w.become(next, edited, Event{Kind: "draft", Version: next.Version, Title: title, By: by})
}

// become makes a state the present one. edited is the draft as an overlay of the one
// before, or a site made anew, nil where the draft stays.
func (w *Workspace) become(next *State, edited *shelf.Shelf, e Event) {
	if edited != nil {
		w.cache.move(next.Draft, edited)
	}
	w.state.Store(next)
	w.proposals.stale()
	w.listeners.tell(e)
}

// FolderChanged tells whoever listens that the folder that the site is kept in stands otherwise to it.
func (w *Workspace) FolderChanged() {
	w.listeners.tell(Event{Kind: "folder", Version: w.state.Load().Version})
}

// Progress tells whoever listens how far something is that takes long. It is not told to who has not
// yet heard of what came before.
func (w *Workspace) Progress(what string, done, total int) {
	w.listeners.tell(Event{Kind: "progress", Version: w.state.Load().Version, Title: what, Done: done,
		Total: total})
}

// Gone tells whoever listens that the site is no longer there under its name.
func (w *Workspace) Gone() {
	w.listeners.tell(Event{Kind: "gone", Version: w.state.Load().Version, Title: w.Site.Name})
}

// NewDay makes the present moment that of the site, where it is on another day than
// before: rules with dates begin and end by that. It reports whether a published page
// is another one now.
func (w *Workspace) NewDay() bool {
	w.mu.Lock()
	defer w.mu.Unlock()
	st, now := w.state.Load(), w.now()
	if st.Draft.Now().Format(time.DateOnly) == now.Format(time.DateOnly) {
		return false
	}
	draft, live := st.Draft.At(now), st.Live.At(now)
	im := impact.Of(st.Live, live)
	next := &State{Draft: st.Draft.Commit(draft), Version: st.Version + 1, Release: st.Release}
	if next.Live = next.Draft; st.Live != st.Draft {
		next.Live = st.Live.Commit(live)
	}
	differs := im.Counts[impact.Changes] > 0
	kind := "draft"
	if differs {
		kind = "release"
	}
	w.become(next, draft, Event{Kind: kind, Version: next.Version,
		Title: "It is " + now.Format(time.DateOnly)})
	return differs
}

// Earlier gives what a document was before each of its last changes, the newest first.
func (w *Workspace) Earlier(path string) ([][]byte, error) {
	return w.store.Earlier(w.Site.ID, path)
}

// Undo takes back the newest edit; Redo does again what was taken back last.
func (w *Workspace) Undo(by string) (store.Record, error) { return w.step(w.store.Undo, by) }

// Redo is described with Undo.
func (w *Workspace) Redo(by string) (store.Record, error) { return w.step(w.store.Redo, by) }

func (w *Workspace) step(do func(int64) (store.Record, site.ChangeSet, error),
	by string) (store.Record, error) {
	w.mu.Lock()
	defer w.mu.Unlock()
	rec, set, err := do(w.Site.ID)
	if err != nil {
		return rec, err
	}
	st := w.state.Load()
	w.commit(st, st.Draft.WithAs(set.Changes, st.Live), rec.Title, by)
	return rec, nil
}

// Publish makes the draft the published site. It returns an *InvalidError where that
// cannot be.
func (w *Workspace) Publish(title, by string) (store.Release, error) {
	w.mu.Lock()
	defer w.mu.Unlock()
	st := w.state.Load()
	if invalid := check.Validity(st.Draft); len(invalid) > 0 {
		return store.Release{}, &InvalidError{invalid}
	}
	rel, err := w.store.Publish(w.Site.ID, title)
	if err != nil {
		return rel, err
	}
	next := &State{Draft: st.Draft, Live: st.Draft, Version: st.Version + 1, Release: rel.Number}
	w.become(next, nil, Event{Kind: "release", Version: next.Version, Title: rel.Title, By: by})
	return rel, nil
}

// Restore makes the draft what a release was, as an edit that can be undone.
func (w *Workspace) Restore(number int, author, by string) (store.Record, error) {
	files, err := w.store.ReleaseFiles(w.Site.ID, number)
	if err != nil {
		return store.Record{}, err
	}
	set := site.Diff(w.State().Draft.Files(), files)
	if len(set.Changes) == 0 {
		return store.Record{}, store.ErrNothing
	}
	set.Title, set.Author = fmt.Sprintf("Restore release %d", number), author
	return w.Save(set, by)
}

// Review is what stands between the draft and the published site.
type Review struct {
	State    *State
	Records  []store.Record // the newest
	Releases []store.Release
	Impact   *impact.Impact
	Docs     []string
	Steps
}

// Steps tells what waits to be published, and what undo and redo would do: the titles,
// "" where there is nothing.
type Steps struct {
	Waiting    int
	Undo, Redo string
}

// Edits is how many edits Review lists; History gives those before.
const Edits = 100

// Steps counts what waits.
func (w *Workspace) Steps() (Steps, error) {
	var out Steps
	upto, err := w.store.LastRelease(w.Site.ID)
	if err == nil {
		out.Waiting, err = w.store.Waiting(w.Site.ID, upto)
	}
	if err == nil {
		out.Undo, out.Redo, err = w.store.Steps(w.Site.ID)
	}
	return out, err
}

// History lists edits since the last release that are older than a given one.
func (w *Workspace) History(before int64) ([]store.Record, error) {
	upto, err := w.store.LastRelease(w.Site.ID)
	if err != nil {
		return nil, err
	}
	return w.store.History(w.Site.ID, upto, before, Edits)
}

// Review gathers the edits since the last release and what they do.
func (w *Workspace) Review() (*Review, error) {
	r := &Review{}
	var err error
	if r.Releases, err = w.store.Releases(w.Site.ID); err != nil {
		return nil, err
	}
	if r.Records, err = w.History(0); err != nil {
		return nil, err
	}
	if r.Steps, err = w.Steps(); err != nil {
		return nil, err
	}
	r.State = w.State()
	r.Impact, r.Docs = r.State.FromLive()
	return r, nil
}

// FromLive compares the published site with the draft, once for each state.
func (st *State) FromLive() (*impact.Impact, []string) {
	d := &st.differs
	d.once.Do(func() {
		if st.Release == 0 {
			d.impact, d.docs = impact.First(st.Draft), st.Draft.Paths("")
			return
		}
		d.docs = st.Draft.Differing(st.Live)
		if live := st.Draft.Like(st.Live); live.Overlay() {
			d.impact = impact.Turned(st.Draft, live)
		} else {
			d.impact = impact.Every(st.Live, st.Draft, d.docs)
		}
	})
	return d.impact, d.docs
}

// ErrStale says that a proposal is unknown or was made for an older draft.
var ErrStale = errors.New("the draft has changed since; ask again")
