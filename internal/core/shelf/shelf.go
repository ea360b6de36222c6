package shelf

import (
	"maps"
	"runtime"
	"slices"
	"sort"
	"strings"
	"sync"
	"time"

	"brickshelf/internal/core/block"
	"brickshelf/internal/core/markup"
	"brickshelf/internal/core/picture"
	"brickshelf/internal/core/place"
	"brickshelf/internal/core/script"
	"brickshelf/internal/core/site"
)

// Shelf is a site, compiled. It stays as it is and may be read from several goroutines
// at once; With and Commit give others, which share with it what is the same.
type Shelf struct {
	base   *Shelf
	docs   map[string]*entry // of an overlay: what changed; nil where deleted
	paths  []string          // of all documents, in order
	reader *block.Reader
	config *place.Config
	rules  []*place.Rule // by name
	now    time.Time
	index  *index // of a base

	runner script.Runner       // nil where scripts are not run
	blocks map[string]*Shelved // of an overlay: those that changed
	lives  []*markup.Life      // of a base: those of its blocks, by slot

	// Of an overlay: what the changes reach.
	touched      map[string]bool // names that can show something else
	all          bool            // everything can
	resolved     bool            // rules or layouts changed: slots must be worked out anew
	pagesChanged bool
	dataChanged  map[string]bool // of what scripts may read
	turned       map[string]bool // rules that begin or end by the overlay's being of another day

	daysMu sync.Mutex
	days   map[string]*Shelf // the site on days ahead

	limitsOnce sync.Once
	limited    limits

	dataMu sync.Mutex
	data   map[string]*script.Data

	mu         sync.Mutex
	infos      map[string]*Info
	plans      map[string]*Plan
	onAllPages map[string]bool
	Fragments  sync.Map // of an overlay: what rules and layout calls show where the edit reaches them
}

// entry is a document with what was read from it.
type entry struct {
	bytes    []byte
	problems site.Problems
	parsed   any

	once sync.Once
	hash site.Hash
}

// page is the page that an entry is, where it is one.
func (e *entry) page() (*place.Page, bool) {
	if e == nil {
		return nil, false
	}
	g, ok := e.parsed.(*place.Page)
	return g, ok
}

func (e *entry) Hash() site.Hash {
	e.once.Do(func() { e.hash = site.HashOf(e.bytes) })
	return e.hash
}

// New compiles a site. Rules with dates are taken as on the day of now. The
// shelf is usable even where the site has problems; see Problems.
func New(files site.Files, now time.Time) *Shelf {
	s := &Shelf{docs: make(map[string]*entry, len(files)), reader: block.NewReader(), now: now,
		onAllPages: map[string]bool{}, blocks: map[string]*Shelved{}}
	s.config = &place.Config{Home: "/"}
	if src, ok := files["site.yaml"]; ok {
		e := &entry{bytes: src}
		s.config, e.problems = place.ParseConfig(src, s.reader)
		e.parsed = s.config
		s.docs["site.yaml"] = e
	}
	paths := files.Paths()
	s.paths = paths
	entries := make([]*entry, len(paths))
	Parallel(len(paths), func(i int) {
		if paths[i] != "site.yaml" {
			entries[i] = s.parse(paths[i], files[paths[i]])
		}
	})
	for i, p := range paths {
		if entries[i] != nil {
			s.docs[p] = entries[i]
		}
	}
	for p := range s.docs {
		s.shelve(p)
	}
	s.collectRules()
	for _, name := range slices.Sorted(maps.Keys(s.blocks)) {
		s.live(name, nil)
	}
	s.index = newIndex(s)
	return s
}

// Parallel runs do(0) … do(n-1), on as many goroutines as there are cores where they are
// many.
func Parallel(n int, do func(i int)) {
	workers := runtime.GOMAXPROCS(0)
	if n < 64 {
		for i := range n {
			do(i)
		}
		return
	}
	var wg sync.WaitGroup
	for w := range workers {
		wg.Go(func() {
			for i := n * w / workers; i < n*(w+1)/workers; i++ {
				do(i)
			}
		})
	}
	wg.Wait()
}

func (s *Shelf) parse(path string, src []byte) *entry {
	e := &entry{bytes: src}
	class, name, bad := site.Classify(path)
	if bad != "" {
		e.problems = site.Problems{{Code: "bad-path", Severity: site.Invalid, Path: path, Line: 1, Column: 1,
			Message: bad}}
		return e
	}
	switch class {
	case site.AssetDoc, site.FileDoc:
		if p := picture.Of(path, src); p != nil {
			e.parsed = p
		}
	case site.BlockDoc:
		e.parsed, e.problems = block.Parse(name, path, src, s.reader)
	case site.LayoutDoc:
		e.parsed, e.problems = place.ParseLayout(name, path, src, s.reader)
	case site.RuleDoc:
		e.parsed, e.problems = place.ParseRule(name, path, src)
	case site.MenuDoc:
		e.parsed, e.problems = place.ParseMenu(name, path, src)
	case site.ShortcodeDoc:
		e.parsed, e.problems = script.Parse(name, path, src, s.reader)
	case site.HistoryDoc:
		if is := e.Hash(); string(is) != name {
			e.problems = site.Problems{{Code: "other-bytes", Severity: site.Invalid, Path: path, Line: 1,
				Column: 1, Message: "holds other bytes than its name says: their SHA-256 is " + string(is) +
					". Put the revision back from a copy, or name the file so"}}
		}
	case site.PageDoc:
		url := site.URLOf(name, s.config.ExactURLs)
		if old := s.known(path); old != nil {
			e.parsed, e.problems = place.ReparsePage(old, url, src)
		} else {
			e.parsed, e.problems = place.ParsePage(name, path, url, src)
		}
	}
	return e
}

// known is the page at a path as an overlay's base has it, or nil.
func (s *Shelf) known(path string) *place.Page {
	if s.base == nil || s.base.docs[path] == nil {
		return nil
	}
	g, _ := s.base.docs[path].parsed.(*place.Page)
	return g
}

func (s *Shelf) collectRules() {
	s.rules = nil
	for _, p := range s.Paths("rules/") {
		if r, ok := s.entry(p).parsed.(*place.Rule); ok {
			s.rules = append(s.rules, r)
		}
	}
}

// entry returns the document at path, or nil.
func (s *Shelf) entry(path string) *entry {
	if s.base != nil {
		if e, ok := s.docs[path]; ok {
			return e
		}
		return s.base.docs[path]
	}
	return s.docs[path]
}

// Get returns the bytes at path.
func (s *Shelf) Get(path string) ([]byte, bool) {
	e := s.entry(path)
	if e == nil {
		return nil, false
	}
	return e.bytes, true
}

// Hash returns the hash of the document at path, or "".
func (s *Shelf) Hash(path string) site.Hash {
	if e := s.entry(path); e != nil {
		return e.Hash()
	}
	return ""
}

// Paths lists the documents whose paths begin with prefix, in order.
func (s *Shelf) Paths(prefix string) []string { return startingWith(s.paths, prefix) }

// startingWith is the part of a sorted list that begins with a prefix, with no room behind
// it.
func startingWith(paths []string, prefix string) []string {
	from := sort.SearchStrings(paths, prefix)
	to := from + sort.Search(len(paths)-from, func(i int) bool {
		return !strings.HasPrefix(paths[from+i], prefix)
	})
	return paths[from:to:to]
}

// Files gives the whole tree.
func (s *Shelf) Files() site.Files {
	out := site.Files{}
	for _, p := range s.Paths("") {
		out[p] = s.entry(p).bytes
	}
	return out
}

// Config is what site.yaml says.
func (s *Shelf) Config() *place.Config { return s.config }

// Rules are the site's rules by name.
func (s *Shelf) Rules() []*place.Rule { return s.rules }

// Now is the moment for which the shelf was made.
func (s *Shelf) Now() time.Time { return s.now }

// Layout returns the layout of the given name, or nil.
func (s *Shelf) Layout(name string) *place.Layout {
	if e := s.entry("layouts/" + name + ".html"); e != nil {
		l, _ := e.parsed.(*place.Layout)
		return l
	}
	return nil
}

// Layouts lists the layouts by name.
func (s *Shelf) Layouts() []*place.Layout {
	var out []*place.Layout
	for _, p := range s.Paths("layouts/") {
		if l, ok := s.entry(p).parsed.(*place.Layout); ok {
			out = append(out, l)
		}
	}
	return out
}

// Rule returns the rule of the given name, or nil.
func (s *Shelf) Rule(name string) *place.Rule {
	if e := s.entry("rules/" + name + ".yaml"); e != nil {
		r, _ := e.parsed.(*place.Rule)
		return r
	}
	return nil
}

// Menu returns the menu of the given name, or nil.
func (s *Shelf) Menu(name string) *place.Menu {
	if e := s.entry("menus/" + name + ".yaml"); e != nil {
		m, _ := e.parsed.(*place.Menu)
		return m
	}
	return nil
}

// Page returns the page at an address, or nil.
func (s *Shelf) Page(url string) *Info {
	switch {
	case s.base == nil:
		return s.index.atURL(url)
	case !s.resolved && !s.pagesChanged:
		return s.base.index.atURL(url)
	}
	for _, p := range candidatePaths(url) {
		if in := s.Info(p); in != nil && in.Page.URL == url {
			return in
		}
	}
	return nil
}

func candidatePaths(url string) []string {
	if url == "" || url[0] != '/' {
		return nil
	}
	if url[len(url)-1] == '/' {
		out := []string{"pages" + url + "index.html"}
		if url != "/" {
			out = append(out, "pages"+url[:len(url)-1]+".html")
		}
		return out
	}
	return []string{"pages" + url}
}

// Problems lists what is wrong with the documents, each by itself and with one
// another, for those documents that want accepts.
func (s *Shelf) Problems(want func(path string) bool) site.Problems {
	var out site.Problems
	for _, p := range s.Paths("") {
		if want(p) {
			out = append(out, s.DocProblems(p)...)
		}
	}
	return out
}

// DocProblems lists what is wrong with one document by itself.
func (s *Shelf) DocProblems(path string) site.Problems {
	e := s.entry(path)
	if e == nil {
		return nil
	}
	out := append(site.Problems{}, e.problems...)
	if g, ok := e.parsed.(*place.Page); ok {
		out = append(out, g.Check()...)
	}
	return out
}

// PathsOf lists the documents that could be the page at an address.
func PathsOf(url string) []string { return candidatePaths(url) }

// ByHash finds the style or behaviour with a hash: one of a block as it is, or a
// revision kept in history.
func (s *Shelf) ByHash(h site.Hash) ([]byte, bool) {
	if b, ok := s.Get("history/" + string(h)); ok {
		return b, true
	}
	for _, p := range s.Paths("blocks/") {
		if e := s.entry(p); (strings.HasSuffix(p, ".css") || strings.HasSuffix(p, ".js")) && e.Hash() == h {
			return e.bytes, true
		}
	}
	return nil, false
}

// ByHashPrefix is ByHash for the beginning of a hash, as AssetURL has it, and the
// extension of the file.
func (s *Shelf) ByHashPrefix(prefix, ext string) ([]byte, bool) {
	if len(prefix) < 32 {
		return nil, false
	}
	for _, p := range append(s.Paths("blocks/"), s.Paths("history/")...) {
		if e := s.entry(p); (strings.HasSuffix(p, ext) || strings.HasPrefix(p, "history/")) &&
			strings.HasPrefix(string(e.Hash()), prefix) {
			return e.bytes, true
		}
	}
	return nil, false
}

// Picture is the file that is published at an address, where that is a picture which can be made
// smaller, with the hash of its content; nil otherwise.
func (s *Shelf) Picture(url string) (*picture.Picture, site.Hash) {
	for _, doc := range site.FilesAt(url) {
		if e := s.entry(doc); e != nil {
			p, _ := e.parsed.(*picture.Picture)
			if p == nil {
				return nil, ""
			}
			return p, e.Hash()
		}
	}
	return nil, ""
}

// Pictures gives the bytes of the pictures that can be made smaller, by the beginning of their
// hashes, as their names have it.
func (s *Shelf) Pictures() map[string][]byte {
	out := map[string][]byte{}
	for _, p := range slices.Concat(s.Paths("assets/"), s.Paths("files/")) {
		if e := s.entry(p); e != nil {
			if _, ok := e.parsed.(*picture.Picture); ok {
				out[string(e.Hash()[:32])] = e.bytes
			}
		}
	}
	return out
}

// NewScripted is New for a site whose scripted shortcodes are run by runner.
// Without one, their calls show nothing and are at fault.
func NewScripted(files site.Files, now time.Time, runner script.Runner) *Shelf {
	s := New(files, now)
	s.runner = runner
	return s
}

// Reader reads values as the site shows them.
func (s *Shelf) Reader() *block.Reader { return s.reader }

// Runner runs the site's scripts; nil where nobody does.
func (s *Shelf) Runner() script.Runner { return s.runner }

// Base is the site of which an overlay is one, nil where it is none.
func (s *Shelf) Base() *Shelf { return s.base }

// All reports whether an overlay's changes can show everywhere.
func (s *Shelf) All() bool { return s.all }

// TouchedNames are the blocks and shortcodes through which an overlay's changes can show.
func (s *Shelf) TouchedNames() map[string]bool { return s.touched }

// Resolved reports whether in an overlay something else can stand where something stands.
func (s *Shelf) Resolved() bool { return s.resolved }
