package publish

import (
	"encoding/json"
	"errors"
	"io/fs"
	"os"
	"path/filepath"
	"sort"
	"strconv"
	"strings"

	"github.com/cespare/xxhash/v2"
	"golang.org/x/sync/errgroup"

	"brickshelf/internal/core/render"
	"brickshelf/internal/core/site"
)

// manifest is what was published last, file by file.
type manifest map[string]entry

// entry tells a file by the hash of its bytes, and whether it was touched since
// by its size and time (in nanoseconds).
type entry struct {
	hash uint64
	size int64
	time int64
}

func describe(dir string, files site.Files) manifest {
	m := make(manifest, len(files))
	for p, b := range files {
		if info, err := os.Stat(filepath.Join(dir, filepath.FromSlash(p))); err == nil {
			m[p] = entry{xxhash.Sum64(b), info.Size(), info.ModTime().UnixNano()}
		}
	}
	return m
}

// readManifest reads one file a line: hash, size, time and path. nil is no manifest,
// or one that cannot be trusted.
func (t target) readManifest() manifest {
	b, err := os.ReadFile(t.beside("published"))
	if err != nil {
		return nil
	}
	text := string(b)
	m := make(manifest, strings.Count(text, "\n"))
	for line := range strings.Lines(text) {
		hash, rest, _ := strings.Cut(strings.TrimSuffix(line, "\n"), " ")
		size, rest, _ := strings.Cut(rest, " ")
		at, path, _ := strings.Cut(rest, " ")
		h, err1 := strconv.ParseUint(hash, 16, 64)
		n, err2 := strconv.ParseInt(size, 10, 64)
		ns, err3 := strconv.ParseInt(at, 10, 64)
		if err1 != nil || err2 != nil || err3 != nil || path == "" {
			return nil
		}
		m[path] = entry{h, n, ns}
	}
	return m
}

func (t target) writeManifest(m manifest) error {
	b := make([]byte, 0, 80*len(m))
	for p, e := range m {
		b = strconv.AppendUint(b, e.hash, 16)
		b = strconv.AppendInt(append(b, ' '), e.size, 10)
		b = strconv.AppendInt(append(b, ' '), e.time, 10)
		b = append(append(append(b, ' '), p...), '\n')
	}
	// It need not be on the disk for sure: what it does not tell is written again.
	tmp := t.beside("published.tmp")
	if err := os.WriteFile(tmp, b, 0o644); err != nil {
		return err
	}
	return os.Rename(tmp, t.beside("published"))
}

// changes are the files to write and those to drop.
type changes struct{ write, drop []string }

// compare finds what differs from what was published. A file that somebody
// touched since counts as different.
func (m manifest) compare(dir string, files site.Files) changes {
	paths := make([]string, 0, len(files))
	for p := range files {
		paths = append(paths, p)
	}
	same := make([]bool, len(paths))
	render.Parallel(len(paths), func(i int) {
		e, known := m[paths[i]]
		if known && e.hash == xxhash.Sum64(files[paths[i]]) {
			info, err := os.Lstat(filepath.Join(dir, filepath.FromSlash(paths[i])))
			same[i] = err == nil && info.Size() == e.size && info.ModTime().UnixNano() == e.time
		}
	})
	var c changes
	for i, p := range paths {
		if !same[i] {
			c.write = append(c.write, p)
		}
	}
	for p := range m {
		if _, still := files[p]; !still {
			c.drop = append(c.drop, p)
		}
	}
	sort.Strings(c.write)
	sort.Strings(c.drop)
	return c
}

// journal is an update that is ready: files that stand in the stage, by number,
// and where each belongs; and files to drop.
type journal struct {
	Stage string   `json:"stage"`
	Write []string `json:"write"`
	Drop  []string `json:"drop"`
}

// atOnce is how many files are worked on at a time: the disk waits for several as
// long as for one.
const atOnce = 8

// update writes some files into a stage, notes what to do with them, and does it.
func (t target) update(c changes, files site.Files, known manifest) error {
	if len(c.write)+len(c.drop) == 0 {
		return nil
	}
	stage, err := os.MkdirTemp(t.parent(), "."+filepath.Base(string(t))+".new-*")
	if err != nil {
		return err
	}
	var todo errgroup.Group
	todo.SetLimit(atOnce)
	for i, p := range c.write {
		todo.Go(func() error { return writeSynced(filepath.Join(stage, strconv.Itoa(i)), files[p]) })
	}
	if err := todo.Wait(); err != nil {
		_ = os.RemoveAll(stage)
		return err
	}
	note, err := json.Marshal(journal{filepath.Base(stage), c.write, c.drop})
	if err == nil {
		err = replaceFile(t.beside("journal"), note)
	}
	if err != nil {
		_ = os.RemoveAll(stage)
		return err
	}
	if err := t.resume(); err != nil {
		return err
	}
	for _, p := range c.drop {
		delete(known, p)
	}
	some := site.Files{}
	for _, p := range c.write {
		some[p] = files[p]
	}
	for p, e := range describe(string(t), some) {
		known[p] = e
	}
	return t.writeManifest(known)
}

// resume does what the journal says, as far as that is not done yet.
func (t target) resume() error {
	b, err := os.ReadFile(t.beside("journal"))
	if errors.Is(err, fs.ErrNotExist) {
		return nil
	}
	var j journal
	if err == nil {
		err = json.Unmarshal(b, &j)
	}
	if err != nil {
		return err
	}
	stage := filepath.Join(t.parent(), filepath.Base(j.Stage))
	var todo errgroup.Group
	todo.SetLimit(atOnce)
	for i, p := range j.Write {
		todo.Go(func() error {
			to := filepath.Join(string(t), filepath.FromSlash(p))
			if err := os.MkdirAll(filepath.Dir(to), 0o755); err != nil {
				return err
			}
			if err := os.Rename(filepath.Join(stage, strconv.Itoa(i)), to); err != nil && !errors.Is(err, fs.ErrNotExist) {
				return err
			}
			return nil
		})
	}
	if err := todo.Wait(); err != nil {
		return err
	}
	for _, p := range j.Drop {
		gone := filepath.Join(string(t), filepath.FromSlash(p))
		if err := os.Remove(gone); err != nil && !errors.Is(err, fs.ErrNotExist) {
			return err
		}
		for d := filepath.Dir(gone); d != string(t) && os.Remove(d) == nil; d = filepath.Dir(d) {
		}
	}
	if err := os.RemoveAll(stage); err != nil {
		return err
	}
	return os.Remove(t.beside("journal"))
}

func writeSynced(name string, b []byte) error {
	f, err := os.OpenFile(name, os.O_WRONLY|os.O_CREATE|os.O_TRUNC, 0o644)
	if err != nil {
		return err
	}
	defer f.Close()
	if _, err := f.Write(b); err != nil {
		return err
	}
	if err := f.Sync(); err != nil {
		return err
	}
	return f.Close()
}

// replaceFile puts a file in the place of another, whole.
func replaceFile(name string, b []byte) error {
	if err := writeSynced(name+".tmp", b); err != nil {
		return err
	}
	return os.Rename(name+".tmp", name)
}
