package publish

import (
	"errors"
	"fmt"
	"io/fs"
	"os"
	"path/filepath"
	"strings"
	"time"

	"github.com/gofrs/flock"

	"brickshelf/internal/core/site"
	"brickshelf/internal/folder"
)

// State is the folder, within the one that is published to, that holds what Write has
// to remember: the manifest of what it wrote, the journal of an update that is under
// way and its stage, and what it set aside.
const State = ".shelf"

// Written tells what Write did.
type Written struct {
	Files int // how many it wrote
	// files that somebody had edited since they were published: they were put right, and what they
	// held is kept below State
	Aside []string
}

// Write makes a folder hold the output: it writes what differs from what it wrote
// before, and removes what it wrote and is no longer wanted. Everything goes through a
// journal, so that each file is whole at any moment, and what a crash interrupts the next
// call completes. What it replaced is removed afterwards, see Settle. A file that Write did
// not write is never changed or removed: where one is in the way, an *Obstacle names it and
// nothing is written. Where the update cannot be completed, it is taken back.
func Write(dir string, files site.Files, progress folder.Progress) (Written, error) {
	t, err := open(dir)
	if err != nil {
		return Written{}, err
	}
	lock := flock.New(t.state("lock"))
	if got, err := lock.TryLock(); err != nil {
		return Written{}, fmt.Errorf("publishing to %s: %w", dir, err)
	} else if !got {
		return Written{},
			fmt.Errorf("%s is being published to by another process; try again when that is done", dir)
	}
	defer func() { _ = lock.Unlock() }()
	if err := t.recover(); err != nil {
		return Written{}, fmt.Errorf("completing what was interrupted in %s: %w", dir, err)
	}
	if twins := site.Twins(files.Paths()); len(twins) > 0 && folds(t) {
		return Written{}, fmt.Errorf("nothing was written to %s: its disk takes %s and %s for one file; rename one of them",
			dir, twins[0][0], twins[0][1])
	}
	s, known := t.inspect(files)
	up, err := t.plan(s, known, files)
	if err != nil {
		return Written{}, err
	}
	if len(up.write)+len(up.clear)+len(up.drop) > 0 {
		j, err := t.begin(up, files, progress)
		if err == nil {
			err = t.finish(j, known)
		}
		if err != nil {
			return Written{}, fmt.Errorf("publishing to %s: %w", dir, err)
		}
	}
	return Written{len(up.write), up.aside}, nil
}

// folds reports whether the disk of a target takes names that differ in case alone for one.
var folds = func(t target) bool {
	probe := t.state("Probe")
	if os.WriteFile(probe, nil, 0o644) != nil {
		return false
	}
	defer os.Remove(probe)
	_, err := os.Stat(t.state("pROBE"))
	return err == nil
}

// Obstacle says that files which are not ours stand where the site would be written.
type Obstacle struct {
	Dir   string
	Paths []string // below Dir, with slashes
	Why   string   // of the first
}

// Error names the first few and the way out.
func (o *Obstacle) Error() string {
	more := ""
	if n := len(o.Paths); n > 3 {
		more = fmt.Sprintf(" and %d more", n-3)
	}
	return fmt.Sprintf("nothing was written to %s: %s%s would be overwritten, and %s. Move it away, or name another folder",
		o.Dir, strings.Join(o.Paths[:min(3, len(o.Paths))], ", "), more, o.Why)
}

// target is the folder that is published to, its links followed.
type target string

func open(dir string) (target, error) {
	full, err := filepath.Abs(dir)
	if err != nil {
		return "", err
	}
	if err := os.MkdirAll(full, 0o755); err != nil {
		return "", fmt.Errorf("publishing to %s: %w", dir, err)
	}
	if full, err = filepath.EvalSymlinks(full); err != nil {
		return "", fmt.Errorf("publishing to %s: %w", dir, err)
	}
	t := target(full)
	if err := os.MkdirAll(t.state(""), 0o755); err != nil {
		return "", fmt.Errorf("publishing to %s: %w", dir, err)
	}
	ignore := t.state(".gitignore") // where the folder is kept by git, what is remembered here is not
	if _, err := os.Stat(ignore); errors.Is(err, fs.ErrNotExist) {
		if err := os.WriteFile(ignore, []byte("*\n"), 0o644); err != nil {
			return "", fmt.Errorf("publishing to %s: %w", dir, err)
		}
	}
	return t, nil
}

func (t target) file(p string) string { return filepath.Join(string(t), filepath.FromSlash(p)) }

func (t target) state(name string) string { return filepath.Join(string(t), State, name) }

// below lists the files in a folder and its folders, by their paths in the target.
func (t target) below(p string) []string {
	var out []string
	_ = filepath.WalkDir(t.file(p), func(q string, d fs.DirEntry, err error) error {
		if err == nil && !d.IsDir() {
			rel, _ := filepath.Rel(string(t), q)
			out = append(out, filepath.ToSlash(rel))
		}
		return nil
	})
	return out
}

// kind is what stands at a path.
type kind byte

const (
	nothing kind = iota
	file
	folderThere
	link // or a device: what publishing never makes
)

// standing is what stands at a path, and for a file its size and time.
type standing struct {
	kind       kind
	size, time int64
}

func (s standing) is(e entry) bool { return s.kind == file && s.size == e.size && s.time == e.time }

// setAside keeps what somebody wrote into a published file, before that is put right. A
// second link costs no space and leaves the file where it is.
func (t target) setAside(paths []string) error {
	if len(paths) == 0 {
		return nil
	}
	to := t.state("aside/" + time.Now().UTC().Format("2006-01-02T150405.000000000Z"))
	for _, p := range paths {
		kept := filepath.Join(to, filepath.FromSlash(p))
		if err := os.MkdirAll(filepath.Dir(kept), 0o755); err != nil {
			return err
		}
		if err := os.Link(t.file(p), kept); err != nil {
			b, err := os.ReadFile(t.file(p))
			if err == nil {
				err = writeSynced(kept, b)
			}
			if err != nil {
				return err
			}
		}
	}
	return nil
}

// recover completes an update that was interrupted, or takes it back where that cannot
// be, and clears what runs that were killed before left.
func (t target) recover() error {
	j, err := t.readJournal()
	if err != nil {
		return err
	}
	if j != nil {
		known := t.readManifest()
		if err := t.writeManifest(known); err != nil { // its last line may have been cut short
			return err
		}
		if err := t.finish(j, known); err != nil && t.hasJournal() {
			return err // neither could be done
		}
	}
	return errors.Join(t.dropJournal(), t.clearStages())
}

func (t target) hasJournal() bool {
	_, err := os.Lstat(t.state("journal"))
	return err == nil
}

func (t target) clearStages() error {
	stages, err := filepath.Glob(t.state("stage-*"))
	for _, s := range stages {
		err = errors.Join(err, os.RemoveAll(s))
	}
	return err
}
