package publish

import (
	"encoding/json"
	"errors"
	"fmt"
	"io/fs"
	"os"
	"path"
	"path/filepath"
	"slices"
	"strconv"
	"sync"
	"sync/atomic"
	"syscall"

	"github.com/cespare/xxhash/v2"
	"golang.org/x/sync/errgroup"

	"brickshelf/internal/core/shelf"
	"brickshelf/internal/core/site"
	"brickshelf/internal/folder"
)

// journal is an update that is ready. Its stage holds the files to write, and takes what
// the update replaces or removes until all is done, so that it can be taken back.
type journal struct {
	Stage string   `json:"stage"`
	Clear []string `json:"clear"` // to be removed before anything is written
	Trees []string `json:"trees"` // folders that are new with all that is in them
	Write []step   `json:"write"`
	Drop  []string `json:"drop"`
	Back  bool     `json:"back"` // it could not be completed and is being taken back
}

// step is a file to be written, with the hash of what it is to hold.
type step struct {
	Path string `json:"path"`
	Hash uint64 `json:"hash"`
	New  bool   `json:"new"`  // no file of ours stands there
	Tree bool   `json:"tree"` // it stands in a folder that is new
}

// stage is the folder in which an update is made ready. Files stand there by number, since
// folders take longer to remove than files; those of folders that are new by their paths.
type stage string

func (s stage) fresh(w step, n int) string {
	if w.Tree {
		return filepath.Join(string(s), "new", filepath.FromSlash(w.Path))
	}
	return filepath.Join(string(s), "new-"+strconv.Itoa(n))
}

func (s stage) kept(what string, n int) string {
	return filepath.Join(string(s), what+"-"+strconv.Itoa(n))
}

// tidying removes stages of updates that are complete: freeing their files takes the disk as
// long as all the rest, and nobody waits for that.
var tidying sync.WaitGroup

// Settle waits until nothing of completed updates is left to be removed.
func Settle() { tidying.Wait() }

// remove deletes the stage, several files at a time: it is the disk that takes the time.
func (s stage) remove() error {
	entries, err := os.ReadDir(string(s))
	if err != nil {
		return err
	}
	var todo errgroup.Group
	todo.SetLimit(atOnce)
	for _, e := range entries {
		todo.Go(func() error { return os.RemoveAll(filepath.Join(string(s), e.Name())) })
	}
	return errors.Join(todo.Wait(), os.RemoveAll(string(s)))
}

func (t target) stage(j *journal) stage { return stage(t.state(filepath.Base(j.Stage))) }

// atOnce is how many files are worked on at a time: the disk waits for several as
// long as for one.
const atOnce = 8

// syncEach is up to how many files are brought to the disk before they are put in place.
// Of more, those that a failing machine cuts short are written again by the next run,
// which knows them by their size.
const syncEach = 200

// begin writes what is new into a stage and notes what is to be done with it.
func (t target) begin(c changes, files site.Files, progress folder.Progress) (*journal, error) {
	if err := t.setAside(c.aside); err != nil {
		return nil, err
	}
	dir, err := os.MkdirTemp(t.state(""), "stage-*")
	if err != nil {
		return nil, err
	}
	j := &journal{Stage: filepath.Base(dir), Clear: c.clear, Drop: c.drop, Write: make([]step, len(c.write))}
	shelf.Parallel(len(c.write), func(i int) {
		p := c.write[i]
		j.Write[i] = step{Path: p, Hash: xxhash.Sum64(files[p]), New: lookAt(t.file(p)).kind != file}
	})
	j.Trees = t.missing(c.write)
	for i := range j.Write {
		j.Write[i].Tree = within(j.Write[i].Path, j.Trees)
	}
	if err = t.fill(j, files, progress); err == nil {
		err = t.writeJournal(j)
	}
	if err != nil {
		_ = os.RemoveAll(dir)
		return nil, err
	}
	return j, nil
}

// within reports whether a path stands in one of some folders, which are sorted.
func within(p string, folders []string) bool {
	for d := range site.Folders(p) {
		if _, found := slices.BinarySearch(folders, d); found {
			return true
		}
	}
	return false
}

// missing lists the topmost folders that some files need and that are not there.
func (t target) missing(paths []string) []string {
	there := map[string]bool{".": true}
	var out []string
	var look func(dir string) bool
	look = func(dir string) bool {
		is, known := there[dir]
		if !known {
			if look(path.Dir(dir)) {
				if is = lookAt(t.file(dir)).kind != nothing; !is {
					out = append(out, dir)
				}
			}
			there[dir] = is
		}
		return is
	}
	for _, p := range paths {
		look(path.Dir(p))
	}
	slices.Sort(out)
	return out
}

func (t target) fill(j *journal, files site.Files, progress folder.Progress) error {
	write := func(name string, b []byte) error { return os.WriteFile(name, b, 0o644) }
	if len(j.Write) <= syncEach {
		write = writeSynced
	}
	s := t.stage(j)
	var inTrees []string
	for _, w := range j.Write {
		if w.Tree {
			inTrees = append(inTrees, w.Path)
		}
	}
	if err := folder.MakeFor(filepath.Join(string(s), "new"), inTrees); err != nil {
		return err
	}
	var todo errgroup.Group
	todo.SetLimit(atOnce)
	var done atomic.Int64
	for i, w := range j.Write {
		todo.Go(func() error {
			err := write(s.fresh(w, i), files[w.Path])
			if n := done.Add(1); progress != nil && err == nil {
				progress(int(n), len(j.Write))
			}
			return err
		})
	}
	return todo.Wait()
}

// finish does what the journal says, as far as that is not done yet, and notes it in the
// manifest; where it cannot be done, finish takes back what was.
func (t target) finish(j *journal, known manifest) error {
	end := func() error {
		err := t.dropJournal()
		tidying.Go(func() { _ = t.stage(j).remove() }) // else the next run does
		return err
	}
	var failed error
	if !j.Back {
		if failed = t.forth(j); failed == nil {
			if err := t.note(j, known); err != nil {
				return err
			}
			return end()
		}
		j.Back = true
		if err := t.writeJournal(j); err != nil {
			return errors.Join(failed, err)
		}
	}
	if err := t.back(j); err != nil {
		return errors.Join(failed, err)
	}
	return errors.Join(failed, end())
}

func (t target) forth(j *journal) error {
	s := t.stage(j)
	for i, p := range j.Clear {
		if err := t.take(p, s.kept("cleared", i)); err != nil {
			return err
		}
	}
	for _, d := range j.Trees {
		if err := t.putTree(d, s); err != nil {
			return err
		}
	}
	var todo errgroup.Group
	todo.SetLimit(atOnce)
	for i, w := range j.Write {
		todo.Go(func() error { return t.put(w, s.fresh(w, i), s.kept("old", i)) })
	}
	if err := todo.Wait(); err != nil {
		return err
	}
	for i, p := range j.Drop {
		if err := t.take(p, s.kept("gone", i)); err != nil {
			return err
		}
	}
	return nil
}

// putTree moves a folder from the stage to its place, where nothing has come there since;
// otherwise its files are put one by one.
func (t target) putTree(d string, s stage) error {
	if lookAt(t.file(d)).kind != nothing {
		return nil
	}
	err := os.Rename(s.fresh(step{Path: d, Tree: true}, 0), t.file(d))
	if errors.Is(err, fs.ErrNotExist) || errors.Is(err, syscall.EXDEV) {
		return nil
	}
	return err
}

// put moves a file from the stage to its place. What stood there is kept as old.
func (t target) put(w step, fresh, old string) error {
	to := t.file(w.Path)
	if lookAt(fresh).kind == nothing {
		return nil // it is there already
	}
	if w.New {
		switch lookAt(to).kind {
		case nothing:
			if err := os.MkdirAll(filepath.Dir(to), 0o755); err != nil {
				return err
			}
		case folderThere: // an empty one, or files have come since
			if err := removeEmpty(to); err != nil {
				return err
			}
		default:
			return fmt.Errorf("%s has come in the way; this program did not write it", w.Path)
		}
		return move(fresh, to)
	}
	if err := os.Link(to, old); err != nil && !errors.Is(err, fs.ErrExist) &&
		!errors.Is(err, fs.ErrNotExist) {
		// A file system without second links, or a folder on another one.
		b, err := os.ReadFile(to)
		if err == nil {
			err = replaceFile(old, b)
		}
		if err != nil {
			return err
		}
	}
	return move(fresh, to)
}

// removeEmpty removes a folder in which there are nothing but folders.
func removeEmpty(dir string) error {
	entries, err := os.ReadDir(dir)
	if err != nil {
		return err
	}
	for _, e := range entries {
		if !e.IsDir() {
			return fmt.Errorf("%s has come in the way; this program did not write it",
				filepath.Join(dir, e.Name()))
		}
		if err := removeEmpty(filepath.Join(dir, e.Name())); err != nil {
			return err
		}
	}
	return os.Remove(dir)
}

// take moves a file that is no longer wanted into the stage, and removes the folders that
// are empty without it.
func (t target) take(p, to string) error {
	if lookAt(t.file(p)).kind != file {
		return nil // it is gone, or something else has come in its place
	}
	if err := move(t.file(p), to); err != nil && !errors.Is(err, fs.ErrNotExist) {
		return err
	}
	t.prune(p)
	return nil
}

// prune removes the folders above a file that are empty.
func (t target) prune(p string) {
	for d := range site.Folders(p) {
		if lookAt(t.file(d)).kind != folderThere || os.Remove(t.file(d)) != nil {
			return
		}
	}
}

// readJournal gives the journal of an update that was interrupted, or nil. One that cannot
// be read was damaged from outside; what it was for is then seen from the files themselves.
func (t target) readJournal() (*journal, error) {
	b, err := os.ReadFile(t.state("journal"))
	if errors.Is(err, fs.ErrNotExist) {
		return nil, nil
	}
	if err != nil {
		return nil, err
	}
	var j journal
	if err := json.Unmarshal(b, &j); err != nil {
		return nil, nil
	}
	paths := append(slices.Concat(j.Clear, j.Drop, j.Trees), j.Stage)
	for _, w := range j.Write {
		paths = append(paths, w.Path)
	}
	for _, p := range paths {
		if !filepath.IsLocal(filepath.FromSlash(p)) {
			return nil, nil
		}
	}
	return &j, nil
}

func (t target) writeJournal(j *journal) error {
	b, err := json.Marshal(j)
	if err != nil {
		return err
	}
	return replaceFile(t.state("journal"), b)
}

func (t target) dropJournal() error {
	if err := os.Remove(t.state("journal")); err != nil && !errors.Is(err, fs.ErrNotExist) {
		return err
	}
	return nil
}
