// Package follow keeps a folder and the draft of a site one: what is saved in the tool is written
// to the folder, and what an editor or a git pull changes there becomes an edit of the draft.
package follow

import (
	"encoding/json"
	"errors"
	"fmt"
	"io/fs"
	"maps"
	"os"
	"path/filepath"
	"slices"
	"sync"

	"brickshelf/internal/core/shelf"
	"brickshelf/internal/core/site"
	"brickshelf/internal/workspace"
)

// Desk is the site that is kept in a folder.
type Desk interface {
	// Draft is the draft as it is now.
	Draft() *shelf.Shelf
	// Save makes a change set part of the draft. It returns an *workspace.InvalidError or a
	// *site.Conflict, having changed nothing, where that cannot be.
	Save(set site.ChangeSet) error
}

// State tells how a folder and a draft stand to one another.
type State struct {
	Dir string
	// Problems are what is not valid in the folder; until it is, the draft stays as it was.
	Problems site.Problems
	// Conflicts are the documents that were changed on both sides, and that stay as they are on each
	// until somebody chooses.
	Conflicts []string
	// Broken is why the folder cannot be read or written; "" where it can.
	Broken string
}

// Follower follows one folder.
type Follower struct {
	dir, memory string // the folder, and the file in which what is known of it is kept
	desk        Desk
	changed     func() // called when State is another one

	mu    sync.Mutex
	known map[string]site.Hash // of what was the same on both sides last
	seen  seen
	state State
}

// New follows a folder. What was the same on both sides last is remembered in a file, so that what
// changed while nobody followed is told apart by its side.
func New(dir, memory string, desk Desk, changed func()) *Follower {
	f := &Follower{dir: dir, memory: memory, desk: desk, changed: changed, known: map[string]site.Hash{},
		seen: seen{}, state: State{Dir: dir}}
	if b, err := os.ReadFile(memory); err == nil {
		_ = json.Unmarshal(b, &f.known) // without it, what differs on both sides is a conflict
	}
	return f
}

// State is how things stand since the last Sync.
func (f *Follower) State() State {
	f.mu.Lock()
	defer f.mu.Unlock()
	out := f.state
	out.Problems, out.Conflicts = slices.Clone(out.Problems), slices.Clone(out.Conflicts)
	return out
}

// Sync brings what was changed on one side to the other.
func (f *Follower) Sync() {
	f.mu.Lock()
	before := f.state
	f.state = State{Dir: f.dir}
	f.sync()
	after := f.state
	f.mu.Unlock()
	if before.Broken != after.Broken || !slices.Equal(before.Conflicts, after.Conflicts) ||
		!slices.Equal(before.Problems, after.Problems) {
		f.changed()
	}
}

func (f *Follower) sync() {
	there, err := f.seen.read(f.dir)
	if err != nil {
		f.state.Broken = err.Error()
		return
	}
	draft := f.desk.Draft()
	in, out, conflicts := compare(f.known, there, draft)
	f.state.Conflicts = conflicts
	if len(in) > 0 && !f.takeIn(in, there, draft) {
		return
	}
	if err := f.writeOut(out, draft, there); err != nil {
		f.state.Broken = err.Error()
	}
	f.remember()
}

// compare tells what was changed in the folder alone, in the draft alone, and on both sides. What is
// the same on both becomes known.
func compare(known map[string]site.Hash, there map[string]site.Hash, draft *shelf.Shelf) (in, out,
	conflicts []string) {
	all := map[string]bool{}
	for p := range there {
		all[p] = true
	}
	for _, p := range draft.Paths("") {
		all[p] = true
	}
	for p := range known {
		all[p] = true
	}
	for _, p := range slices.Sorted(maps.Keys(all)) {
		a, b, was := there[p], draft.Hash(p), known[p]
		switch {
		case a == b:
			if a == "" {
				delete(known, p)
			} else {
				known[p] = a
			}
		case b == was:
			in = append(in, p)
		case a == was:
			out = append(out, p)
		default:
			conflicts = append(conflicts, p)
		}
	}
	return in, out, conflicts
}

// takeIn makes what was changed in the folder an edit of the draft. It reports false where that
// has to be tried again.
func (f *Follower) takeIn(in []string, there map[string]site.Hash, draft *shelf.Shelf) bool {
	set := site.ChangeSet{Title: title(in), Author: "the folder"}
	for _, p := range in {
		c := site.Change{Path: p, Before: draft.Hash(p), Delete: there[p] == ""}
		if !c.Delete {
			b, err := os.ReadFile(filepath.Join(f.dir, filepath.FromSlash(p)))
			if err != nil || site.HashOf(b) != there[p] {
				return false // it is being written, and is looked at again at once
			}
			c.After = b
		}
		set.Changes = append(set.Changes, c)
	}
	err := f.desk.Save(set)
	var invalid *workspace.InvalidError
	var conflict *site.Conflict
	switch {
	case errors.As(err, &invalid):
		f.state.Problems = invalid.Problems
	case errors.As(err, &conflict): // somebody has saved meanwhile, and is heard of at once
		return false
	case err != nil:
		f.state.Broken = err.Error()
	default:
		for _, p := range in {
			f.know(p, there[p])
		}
	}
	return true
}

func (f *Follower) know(p string, h site.Hash) {
	if h == "" {
		delete(f.known, p)
	} else {
		f.known[p] = h
	}
}

func title(in []string) string {
	if len(in) == 1 {
		return "From the folder: " + in[0]
	}
	return fmt.Sprintf("From the folder: %d documents", len(in))
}

// writeOut brings what was changed in the draft to the folder: all of it is written beside its place
// first, and then put there. What somebody has changed there in this moment stays, and is a
// conflict.
func (f *Follower) writeOut(out []string, draft *shelf.Shelf, there map[string]site.Hash) error {
	type staged struct{ path, tmp string }
	var all []staged
	defer func() {
		for _, s := range all {
			if s.tmp != "" {
				_ = os.Remove(s.tmp) // what was put in its place is no longer there
			}
		}
	}()
	for _, p := range out {
		b, keep := draft.Get(p)
		if !keep {
			all = append(all, staged{path: p})
			continue
		}
		tmp, err := stage(filepath.Join(f.dir, filepath.FromSlash(p)), b)
		if err != nil {
			return fmt.Errorf("%s cannot be written: %w", p, err)
		}
		all = append(all, staged{p, tmp})
	}
	for _, s := range all {
		at := filepath.Join(f.dir, filepath.FromSlash(s.path))
		if now, err := hashAt(at); err != nil || now != there[s.path] {
			f.state.Conflicts = append(f.state.Conflicts, s.path)
			continue
		}
		var err error
		if s.tmp == "" {
			err = os.Remove(at)
		} else {
			err = os.Rename(s.tmp, at)
		}
		if err != nil {
			return fmt.Errorf("%s cannot be written: %w", s.path, err)
		}
		f.know(s.path, draft.Hash(s.path))
	}
	return nil
}

func stage(at string, b []byte) (string, error) {
	if err := os.MkdirAll(filepath.Dir(at), 0o755); err != nil {
		return "", err
	}
	tmp, err := os.CreateTemp(filepath.Dir(at), staging+"*")
	if err != nil {
		return "", err
	}
	_, err = tmp.Write(b)
	err = errors.Join(err, tmp.Chmod(0o644), tmp.Close())
	if err != nil {
		_ = os.Remove(tmp.Name())
		return "", err
	}
	return tmp.Name(), nil
}

// hashAt is the hash of what a file holds now; "" where there is none.
func hashAt(at string) (site.Hash, error) {
	b, err := os.ReadFile(at)
	if errors.Is(err, fs.ErrNotExist) {
		return "", nil
	}
	if err != nil {
		return "", err
	}
	return site.HashOf(b), nil
}

// remember keeps what is known for the next time.
func (f *Follower) remember() {
	b, err := json.Marshal(f.known)
	if err == nil {
		if tmp, failed := stage(f.memory, b); failed == nil {
			err = os.Rename(tmp, f.memory)
		} else {
			err = failed
		}
	}
	if err != nil && f.state.Broken == "" {
		f.state.Broken = "what is known of the folder cannot be kept: " + err.Error()
	}
}

// Choose settles a conflict: the folder's side, or that of the tool. What goes is kept by the other
// side's history: an edit of the draft can be undone, and what the folder held becomes one first.
func (f *Follower) Choose(p string, folder bool) error {
	f.mu.Lock()
	there, err := f.seen.read(f.dir)
	draft := f.desk.Draft()
	switch {
	case err != nil:
	case there[p] == draft.Hash(p):
		err = site.Refuse("%s is the same on both sides by now", p)
	case folder:
		f.know(p, draft.Hash(p)) // as if the folder alone had changed it
	default:
		// What the folder holds is made an edit first, so that undo has it back.
		set := site.ChangeSet{Title: "From the folder, and put back: " + p, Author: "the folder"}
		back := site.ChangeSet{Title: "As it was here: " + p, Author: "the folder"}
		ours, kept := draft.Get(p)
		var theirs []byte
		if there[p] != "" {
			if theirs, err = os.ReadFile(filepath.Join(f.dir, filepath.FromSlash(p))); err != nil {
				break
			}
		}
		set.Changes = []site.Change{{Path: p, Before: draft.Hash(p), After: theirs, Delete: there[p] == ""}}
		back.Changes = []site.Change{{Path: p, Before: there[p], After: ours, Delete: !kept}}
		if err = f.desk.Save(set); err == nil {
			err = f.desk.Save(back)
		}
		if err == nil {
			f.know(p, there[p]) // as if the tool alone had changed it
		} // else what the folder holds could be kept nowhere, and stays
	}
	f.mu.Unlock()
	if err != nil {
		return err
	}
	f.Sync()
	return nil
}

// Text is what a document of the site holds in the folder; empty where it is not there.
func (f *Follower) Text(p string) ([]byte, error) {
	if _, _, bad := site.Classify(p); bad != "" {
		return nil, site.Refuse("%s: %s", p, bad)
	}
	b, err := os.ReadFile(filepath.Join(f.dir, filepath.FromSlash(p)))
	if errors.Is(err, fs.ErrNotExist) {
		return nil, nil
	}
	return b, err
}
