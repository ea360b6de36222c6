package follow

import (
	"errors"
	"io/fs"
	"os"
	"path/filepath"
	"time"

	"github.com/fsnotify/fsnotify"
)

// quiet is how long nothing must happen in the folder before it is looked at: an editor saves in
// several steps, and a git checkout in thousands. longest is how long that may go on.
const (
	quiet   = 150 * time.Millisecond
	longest = 2 * time.Second
	anyway  = 5 * time.Second // where a folder tells of nothing, as some that lie on other machines
)

// Run follows the folder until stop is closed. saved is sent to whenever the draft is another one.
func (f *Follower) Run(saved <-chan struct{}, stop <-chan struct{}) {
	told := make(chan struct{}, 1)
	go f.watch(told, stop)
	f.Sync()
	tick := time.NewTicker(anyway)
	defer tick.Stop()
	for {
		select {
		case <-stop:
			return
		case <-saved:
		case <-told:
			settle(told, stop)
		case <-tick.C:
		}
		f.Sync()
	}
}

// settle waits until nothing has been told for a moment.
func settle(told <-chan struct{}, stop <-chan struct{}) {
	end := time.After(longest)
	for {
		select {
		case <-told:
		case <-time.After(quiet):
			return
		case <-end:
			return
		case <-stop:
			return
		}
	}
}

// watch tells whenever something happens in the folder. Where that cannot be had, it is looked at
// every few seconds all the same.
func (f *Follower) watch(told chan<- struct{}, stop <-chan struct{}) {
	w, err := fsnotify.NewWatcher()
	if err != nil {
		return
	}
	defer w.Close()
	f.watchBelow(w, f.dir)
	for {
		select {
		case <-stop:
			return
		case e, ok := <-w.Events:
			if !ok {
				return
			}
			if e.Has(fsnotify.Create) {
				f.watchBelow(w, e.Name)
			}
			select {
			case told <- struct{}{}:
			default:
			}
		case _, ok := <-w.Errors: // events were lost: the tick comes
			if !ok {
				return
			}
		}
	}
}

// watchBelow watches a folder of the site and those in it.
func (f *Follower) watchBelow(w *fsnotify.Watcher, at string) {
	_ = filepath.WalkDir(at, func(p string, d fs.DirEntry, err error) error {
		if err != nil {
			if errors.Is(err, os.ErrNotExist) {
				return nil
			}
			return err
		}
		if !d.IsDir() {
			return nil
		}
		rel, err := filepath.Rel(f.dir, p)
		if err != nil || rel != "." && Outside(filepath.ToSlash(rel), true) {
			return fs.SkipDir
		}
		return w.Add(p)
	})
}
