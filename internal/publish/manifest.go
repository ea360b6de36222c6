package publish

import (
	"errors"
	"os"
	"sort"
	"strconv"
	"strings"
	"sync"

	"github.com/cespare/xxhash/v2"

	"brickshelf/internal/core/shelf"
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

// readManifest reads one file a line: hash, size, time and path; "-" and a path where one
// went since. It is empty where there is none, or none that can be trusted: nothing in the
// folder is ours then. A last line that was cut short counts for nothing, since the journal
// of what it belongs to still stands.
func (t target) readManifest() manifest {
	b, err := os.ReadFile(t.state("manifest"))
	if err != nil {
		return manifest{}
	}
	text := string(b)
	m := make(manifest, strings.Count(text, "\n"))
	for line := range strings.Lines(text) {
		line, whole := strings.CutSuffix(line, "\n")
		if !whole {
			break
		}
		if path, gone := strings.CutPrefix(line, "- "); gone {
			delete(m, path)
			continue
		}
		hash, rest, _ := strings.Cut(line, " ")
		size, rest, _ := strings.Cut(rest, " ")
		at, path, _ := strings.Cut(rest, " ")
		h, err1 := strconv.ParseUint(hash, 16, 64)
		n, err2 := strconv.ParseInt(size, 10, 64)
		ns, err3 := strconv.ParseInt(at, 10, 64)
		if err1 != nil || err2 != nil || err3 != nil || path == "" {
			return manifest{}
		}
		m[path] = entry{h, n, ns}
	}
	return m
}

func appendEntry(b []byte, p string, e entry) []byte {
	b = strconv.AppendUint(b, e.hash, 16)
	b = strconv.AppendInt(append(b, ' '), e.size, 10)
	b = strconv.AppendInt(append(b, ' '), e.time, 10)
	return append(append(append(b, ' '), p...), '\n')
}

func (t target) writeManifest(m manifest) error {
	b := make([]byte, 0, 80*len(m))
	for p, e := range m {
		b = appendEntry(b, p, e)
	}
	return replaceFile(t.state("manifest"), b)
}

// note writes into the manifest what an update has done: behind the rest, where that is
// little.
func (t target) note(j *journal, known manifest) error {
	entries := make([]entry, len(j.Write))
	shelf.Parallel(len(j.Write), func(i int) {
		s := lookAt(t.file(j.Write[i].Path))
		entries[i] = entry{j.Write[i].Hash, s.size, s.time}
	})
	few := (len(j.Write)+len(j.Clear)+len(j.Drop))*10 < len(known)
	var more []byte
	for _, list := range [][]string{j.Clear, j.Drop} {
		for _, p := range list {
			delete(known, p)
			more = append(append(append(more, "- "...), p...), '\n')
		}
	}
	for i, w := range j.Write {
		known[w.Path] = entries[i]
		more = appendEntry(more, w.Path, entries[i])
	}
	info, err := os.Stat(t.state("manifest"))
	if !few || err != nil || info.Size() > 200*int64(len(known)) {
		return t.writeManifest(known)
	}
	f, err := os.OpenFile(t.state("manifest"), os.O_WRONLY|os.O_APPEND, 0o644)
	if err != nil {
		return err
	}
	_, err = f.Write(more)
	return errors.Join(err, f.Sync(), f.Close())
}

// difference is what compare finds.
type difference struct {
	write, drop, aside []string
	adopted            bool // the manifest changes even where no file does
}

// inspection is what stands at the paths of files, and the hashes of what they are to hold.
type inspection struct {
	paths []string
	there []standing
	hash  []uint64
}

// inspect looks at every file, which is most of the work of an update. The manifest is read
// meanwhile.
func (t target) inspect(files site.Files) (inspection, manifest) {
	s := inspection{paths: make([]string, 0, len(files)), there: make([]standing, len(files)),
		hash: make([]uint64, len(files))}
	for p := range files {
		s.paths = append(s.paths, p)
	}
	var known manifest
	var reading sync.WaitGroup
	reading.Go(func() { known = t.readManifest() })
	shelf.Parallel(len(s.paths), func(i int) {
		s.there[i] = lookAt(t.file(s.paths[i]))
		s.hash[i] = xxhash.Sum64(files[s.paths[i]])
	})
	reading.Wait()
	return s, known
}

// compare finds what differs from what was published, and tells what stands at the paths
// of that. A file that somebody touched since counts as different.
func (m manifest) compare(s inspection, files site.Files) (difference, map[string]standing) {
	var d difference
	looked := map[string]standing{}
	for i, p := range s.paths {
		if e, known := m[p]; !known || !s.there[i].is(e) || e.hash != s.hash[i] {
			d.write = append(d.write, p)
			looked[p] = s.there[i]
		}
	}
	for p := range m {
		if _, still := files[p]; !still {
			d.drop = append(d.drop, p)
		}
	}
	sort.Strings(d.write)
	sort.Strings(d.drop)
	return d, looked
}
