// Package workspace holds one site while it is worked on: the compiled draft,
// what is published, the edits being proposed, and who wants to hear of changes.
package workspace

import (
	"bytes"
	"errors"
	"fmt"
	"maps"
	"slices"
	"sync"
	"sync/atomic"
	"time"

	"brickshelf/internal/core/check"
	"brickshelf/internal/core/impact"
	"brickshelf/internal/core/render"
	"brickshelf/internal/core/script"
	"brickshelf/internal/core/site"
	"brickshelf/internal/store"
)

// Workspace is one open site. Its methods may be called from several goroutines.
type Workspace struct {
	Site  store.Site
	store *store.Store
	now   func() time.Time

	mu      sync.RWMutex
	draft   *render.Shelf
	back    map[string]site.Change // by path, what leads from the draft to what is published
	live    *render.Shelf          // made of draft and back when asked for
	version int
	release int // newest release number, 0 before the first

	proposals proposals
	listeners listeners
	survey    survey
	liveOnce  *sync.Once
	differs   differs
	asked     atomic.Int64 // when something was last asked of the draft, in nanoseconds
}

// differs remembers in what the draft differs from the published site.
type differs struct {
	mu      sync.Mutex
	version int // of the draft for which it holds
	impact  *impact.Impact
	docs    []string
}

// Event tells that something is no longer as it was.
type Event struct {
	Kind    string // "draft", "release", or "checks" when all pages have been checked
	Version int
	Title   string
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
	w := &Workspace{Site: s, store: st, now: now, version: 1, back: map[string]site.Change{}, liveOnce: &sync.Once{}}
	w.draft = render.NewScripted(draft, now(), runner)
	for _, c := range published {
		w.back[c.Path] = c
	}
	if len(releases) > 0 {
		w.release = releases[0].Number
	}
	w.proposals.byID = map[string]*Proposal{}
	w.listeners.all = map[chan Event]struct{}{}
	return w, nil
}

// Read runs do with the draft, which stays as it is meanwhile.
func (w *Workspace) Read(do func(draft *render.Shelf)) {
	w.asked.Store(time.Now().UnixNano())
	w.mu.RLock()
	defer w.mu.RUnlock()
	do(w.draft)
}

// ReadLive runs do with the draft and with the published site.
func (w *Workspace) ReadLive(do func(draft, live *render.Shelf)) {
	w.mu.RLock()
	defer w.mu.RUnlock()
	do(w.draft, w.liveLocked())
}

func (w *Workspace) liveLocked() *render.Shelf {
	w.liveOnce.Do(func() {
		w.live = w.draft.With(slices.Collect(maps.Values(w.back)))
	})
	return w.live
}

// Version counts the states of the draft since the site was opened.
func (w *Workspace) Version() int {
	w.mu.RLock()
	defer w.mu.RUnlock()
	return w.version
}

// Release is the number of the newest release, 0 where nothing is published.
func (w *Workspace) Release() int {
	w.mu.RLock()
	defer w.mu.RUnlock()
	return w.release
}

// Save makes a change set part of the draft. It returns an *InvalidError or a
// *site.Conflict, having changed nothing, where that cannot be.
func (w *Workspace) Save(set site.ChangeSet) (store.Record, error) {
	w.mu.Lock()
	defer w.mu.Unlock()
	for _, c := range set.Changes {
		if w.draft.Hash(c.Path) == c.Before {
			continue
		}
		old, there := w.draft.Get(c.Path)
		if err := c.Check(old, there); err != nil {
			return store.Record{}, err
		}
	}
	edited := w.draft.With(set.Changes)
	if problems := Invalid(edited); len(problems) > 0 {
		return store.Record{}, &InvalidError{problems}
	}
	rec, err := w.store.Save(w.Site.ID, set)
	if err != nil {
		return rec, err
	}
	w.commit(set, edited, rec.Title)
	return rec, nil
}

// Invalid lists what would make a site invalid after an edit of a valid one.
func Invalid(o *render.Shelf) site.Problems {
	if o.Overlay() {
		return check.Changed(o)
	}
	return check.Validity(o)
}

// commit takes what the store has taken. It keeps, for each document, what is
// published of it where that differs.
func (w *Workspace) commit(set site.ChangeSet, edited *render.Shelf, title string) {
	for _, c := range set.Changes {
		old, there := w.draft.Get(c.Path)
		back, differed := w.back[c.Path]
		if !differed {
			back = site.Change{Path: c.Path, After: old, Delete: !there}
		}
		if back.Delete == c.Delete && (c.Delete || bytes.Equal(back.After, c.After)) {
			delete(w.back, c.Path)
		} else {
			w.back[c.Path] = back
		}
	}
	w.survey.forget(w.draft, edited)
	w.draft = w.draft.Commit(edited)
	w.liveOnce = &sync.Once{}
	w.version++
	w.proposals.stale()
	w.listeners.tell(Event{"draft", w.version, title})
}

// NewDay makes the present moment that of the site, where it is on another day than
// before: rules with dates begin and end by that. It reports whether a published page
// is another one now.
func (w *Workspace) NewDay() bool {
	w.mu.Lock()
	defer w.mu.Unlock()
	now := w.now()
	if w.draft.Now().Format(time.DateOnly) == now.Format(time.DateOnly) {
		return false
	}
	live := w.liveLocked()
	before := map[string]string{}
	look := func(s *render.Shelf, each func(path, html string)) {
		for _, p := range s.PagePaths() {
			if in := s.Info(p); !in.Draft {
				each(p, string(s.Render(p, render.Options{}).HTML)+string(s.Render(p, render.Options{SignedIn: true}).HTML))
			}
		}
	}
	look(live, func(p, html string) { before[p] = html })
	w.draft.NewDay(now)
	w.survey.drop()
	w.liveOnce = &sync.Once{}
	w.version++
	w.proposals.stale()
	differs := false
	look(w.liveLocked(), func(p, html string) { differs = differs || before[p] != html })
	kind := "draft"
	if differs {
		kind = "release"
	}
	w.listeners.tell(Event{kind, w.version, "It is " + now.Format(time.DateOnly)})
	return differs
}

// Earlier gives what a document was before each of its last changes, the newest first.
func (w *Workspace) Earlier(path string) ([][]byte, error) {
	return w.store.Earlier(w.Site.ID, path)
}

// Undo takes back the newest edit; Redo does again what was taken back last.
func (w *Workspace) Undo() (store.Record, error) { return w.step(w.store.Undo) }

// Redo is described with Undo.
func (w *Workspace) Redo() (store.Record, error) { return w.step(w.store.Redo) }

func (w *Workspace) step(do func(int64) (store.Record, site.ChangeSet, error)) (store.Record, error) {
	w.mu.Lock()
	defer w.mu.Unlock()
	rec, set, err := do(w.Site.ID)
	if err != nil {
		return rec, err
	}
	w.commit(set, w.draft.With(set.Changes), rec.Title)
	return rec, nil
}

// Publish makes the draft the published site.
func (w *Workspace) Publish(title string) (store.Release, error) {
	w.mu.Lock()
	defer w.mu.Unlock()
	rel, err := w.store.Publish(w.Site.ID, title)
	if err != nil {
		return rel, err
	}
	w.back = map[string]site.Change{}
	w.liveOnce = &sync.Once{}
	w.release = rel.Number
	w.version++
	w.proposals.stale()
	w.listeners.tell(Event{"release", w.version, rel.Title})
	return rel, nil
}

// Restore makes the draft what a release was, as an edit that can be undone.
func (w *Workspace) Restore(number int) (store.Record, error) {
	files, err := w.store.ReleaseFiles(w.Site.ID, number)
	if err != nil {
		return store.Record{}, err
	}
	var set site.ChangeSet
	w.Read(func(d *render.Shelf) { set = site.Diff(d.Files(), files) })
	if len(set.Changes) == 0 {
		return store.Record{}, store.ErrNothing
	}
	set.Title = fmt.Sprintf("Restore release %d", number)
	return w.Save(set)
}

// Review is what stands between the draft and the published site.
type Review struct {
	Records  []store.Record
	Releases []store.Release
	Impact   *impact.Impact
	Docs     []string
	Undo     string
	Redo     string
}

// Review gathers the edits since the last release and what they do.
func (w *Workspace) Review() (*Review, error) {
	r := &Review{}
	var err error
	if r.Releases, err = w.store.Releases(w.Site.ID); err != nil {
		return nil, err
	}
	upto := int64(0)
	if len(r.Releases) > 0 {
		upto = r.Releases[0].Upto
	}
	if r.Records, err = w.store.History(w.Site.ID, upto); err != nil {
		return nil, err
	}
	if r.Undo, r.Redo, err = w.store.Steps(w.Site.ID); err != nil {
		return nil, err
	}
	w.ReadLive(func(draft, live *render.Shelf) {
		r.Impact, r.Docs = w.FromLive(draft, live)
	})
	return r, nil
}

// FromLive compares the published site with the draft, as ReadLive gives them,
// once for each state of the draft.
func (w *Workspace) FromLive(draft, live *render.Shelf) (*impact.Impact, []string) {
	d := &w.differs
	d.mu.Lock()
	defer d.mu.Unlock()
	if d.version != w.version {
		if d.version = w.version; w.release == 0 {
			d.impact, d.docs = impact.First(draft), draft.Paths("")
		} else {
			d.impact, d.docs = fromLive(draft, live)
		}
	}
	return d.impact, d.docs
}

// fromLive makes the comparison. live is an overlay of draft where that can be,
// so it is made that way round and turned.
func fromLive(draft, live *render.Shelf) (*impact.Impact, []string) {
	if !live.Overlay() {
		docs := []string{}
		for _, c := range site.Diff(live.Files(), draft.Files()).Changes {
			docs = append(docs, c.Path)
		}
		return impact.Every(live, draft, docs), docs
	}
	return impact.Turned(draft, live), live.Changed()
}

// ErrStale says that a proposal is unknown or was made for an older draft.
var ErrStale = errors.New("the draft has changed since; ask again")
