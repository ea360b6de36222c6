package publish

import (
	"fmt"
	"os"
	"slices"
	"strings"

	"github.com/cespare/xxhash/v2"

	"brickshelf/internal/core/site"
)

// changes are what an update does. Those of drop that stand in clear have to go before
// anything is written: a file where a folder is to be, or the other way round.
type changes struct{ write, clear, drop, aside []string }

// plan finds what differs from what was published, and refuses what would touch files
// that are not ours.
func (t target) plan(s inspection, known manifest, files site.Files) (changes, error) {
	for p := range files {
		if p == State || strings.HasPrefix(p, State+"/") {
			return changes{},
				fmt.Errorf("%s is the name of the folder in which publishing keeps what it must remember; give the page or file another name", p)
		}
	}
	up, looked := known.compare(s, files)
	w := &planner{target: t, known: known, files: files, looked: looked, goes: map[string]bool{},
		obstacle: &Obstacle{Dir: string(t)}, out: changes{aside: up.aside}, adopted: up.adopted}
	for _, p := range up.drop {
		w.goes[p] = true
	}
	for _, p := range up.write {
		w.folders(p)
		if w.needed(p) {
			w.out.write = append(w.out.write, p)
		}
	}
	if len(w.obstacle.Paths) > 0 {
		slices.Sort(w.obstacle.Paths)
		return changes{}, w.obstacle
	}
	for _, p := range up.drop {
		w.drop(p)
	}
	if w.adopted && len(w.out.write)+len(w.out.clear)+len(w.out.drop) == 0 {
		return w.out, t.writeManifest(known)
	}
	return w.out, nil
}

// planner works out what is to be done with each file, by what stands in its place.
type planner struct {
	target
	known    manifest
	files    site.Files
	looked   map[string]standing
	goes     map[string]bool // files that publishing wrote and that the site no longer has
	obstacle *Obstacle
	out      changes
	adopted  bool // what is known has changed, though nothing is to be written
}

func (w *planner) look(p string) standing {
	s, ok := w.looked[p]
	if !ok {
		s = lookAt(w.file(p))
		w.looked[p] = s
	}
	return s
}

// inTheWay notes an obstacle.
func (w *planner) inTheWay(p, why string) {
	if w.obstacle.Why == "" {
		w.obstacle.Why = why
	}
	if !slices.Contains(w.obstacle.Paths, p) {
		w.obstacle.Paths = append(w.obstacle.Paths, p)
	}
}

// folders notes what stands where folders of a file have to.
func (w *planner) folders(p string) {
	for dir := range site.Folders(p) {
		switch w.look(dir).kind {
		case link:
			w.inTheWay(dir, "it is a link, which publishing does not follow")
		case file:
			if !w.goes[dir] {
				w.inTheWay(dir, "this program did not write it, and the site needs a folder of that name")
			}
		}
	}
}

// needed reports whether a file has to be written: it does unless just that stands there.
func (w *planner) needed(p string) bool {
	switch s := w.look(p); s.kind {
	case link:
		w.inTheWay(p, "it is a link, which publishing does not replace")
	case folderThere:
		for _, q := range w.below(p) {
			if !w.goes[q] {
				w.inTheWay(q,
					"this program did not write it, and the site needs a file in the place of its folder")
			}
		}
	case file:
		e, ours := w.known[p]
		if ours && s.is(e) {
			return true
		}
		b, err := os.ReadFile(w.file(p))
		switch h := xxhash.Sum64(b); {
		case err != nil:
			w.inTheWay(p, "it cannot be read")
		case h == xxhash.Sum64(w.files[p]): // as it is to be: nobody loses anything
			w.known[p] = entry{h, s.size, s.time}
			w.adopted = true
			return false
		case !ours:
			w.inTheWay(p, "this program did not write it")
		case h != e.hash:
			w.out.aside = append(w.out.aside, p)
		}
	}
	return true
}

// drop says what is done with a file that the site no longer has.
func (w *planner) drop(p string) {
	s := w.look(p)
	if s.kind != file {
		delete(w.known, p) // somebody has taken it away already, or put something else there
		w.adopted = true
		return
	}
	if e := w.known[p]; !s.is(e) {
		if b, err := os.ReadFile(w.file(p)); err != nil || xxhash.Sum64(b) != e.hash {
			w.out.aside = append(w.out.aside, p)
		}
	}
	if inTheWay(p, w.files, w.out.write) {
		w.out.clear = append(w.out.clear, p)
	} else {
		w.out.drop = append(w.out.drop, p)
	}
}

// inTheWay reports whether a file that goes has the name of a folder that a file to be
// written needs, or stands below a folder that becomes a file.
func inTheWay(p string, files site.Files, write []string) bool {
	for dir := range site.Folders(p) {
		if _, there := files[dir]; there {
			return true
		}
	}
	i, _ := slices.BinarySearch(write, p+"/")
	return i < len(write) && strings.HasPrefix(write[i], p+"/")
}
