package shelf

import (
	"bytes"
	"maps"
	"slices"

	"brickshelf/internal/core/place"
	"brickshelf/internal/core/script"
	"brickshelf/internal/core/site"
)

// With returns the site as it would be after some changes.
func (s *Shelf) With(changes []site.Change) *Shelf { return s.WithAs(changes, nil) }

// WithAs is With for changes of which some may lead to what another state of the site
// holds, whose documents are read already; they are shared then.
func (s *Shelf) WithAs(changes []site.Change, other *Shelf) *Shelf {
	o := s.overlay()
	if s.base != nil {
		maps.Copy(o.docs, s.docs)
	}
	o.config = s.config
	for _, c := range changes {
		if c.Path == "site.yaml" {
			e := &entry{bytes: c.After}
			o.config, e.problems = place.ParseConfig(c.After, s.reader)
			e.parsed = o.config
			if c.Delete {
				e, o.config = nil, &place.Config{Home: "/"}
			}
			o.docs["site.yaml"] = e
		}
	}
	if !o.config.SameAddresses(o.base.config) {
		files := s.Files()
		for _, c := range changes {
			if c.Delete {
				delete(files, c.Path)
			} else {
				files[c.Path] = c.After
			}
		}
		return NewScripted(files, s.now, s.runner)
	}
	if other != nil && !other.config.SameAddresses(o.config) {
		other = nil
	}
	parsed := make([]*entry, len(changes))
	Parallel(len(changes), func(i int) {
		c := changes[i]
		if c.Path == "site.yaml" || c.Delete {
			return
		}
		if other != nil {
			if e := other.entry(c.Path); e != nil && bytes.Equal(e.bytes, c.After) {
				parsed[i] = e
				return
			}
		}
		parsed[i] = o.parse(c.Path, c.After)
	})
	for i, c := range changes {
		if c.Path != "site.yaml" {
			o.docs[c.Path] = parsed[i]
		}
	}
	o.settle()
	return o
}

// Like returns another site as an overlay of this one, with what is read of its documents
// already; where their pages have other addresses, it returns that site itself. Neither
// may be an overlay.
func (s *Shelf) Like(other *Shelf) *Shelf {
	if !other.config.SameAddresses(s.config) {
		return other
	}
	o := s.overlay()
	o.config, o.now = other.config, other.now
	for _, p := range s.Differing(other) {
		o.docs[p] = other.docs[p]
	}
	o.settle()
	return o
}

// Differing lists the documents in which two sites differ, neither of them an overlay.
func (s *Shelf) Differing(other *Shelf) []string {
	out := []string{}
	for p, e := range s.docs {
		if f := other.docs[p]; f != e && (f == nil || !bytes.Equal(e.bytes, f.bytes)) {
			out = append(out, p)
		}
	}
	for p := range other.docs {
		if s.docs[p] == nil {
			out = append(out, p)
		}
	}
	slices.Sort(out)
	return out
}

// overlay is an overlay in which nothing differs yet.
func (s *Shelf) overlay() *Shelf {
	o := &Shelf{docs: map[string]*entry{}, reader: s.reader, config: s.config, now: s.now, rules: s.rules,
		runner: s.runner,
		blocks: map[string]*Shelved{}, onAllPages: map[string]bool{}, infos: map[string]*Info{},
		plans: map[string]*Plan{}, turned: map[string]bool{}}
	if o.base = s; s.base != nil {
		o.base = s.base
	}
	o.paths = o.base.paths
	return o
}

// settle works out what follows from the documents in which an overlay differs.
func (o *Shelf) settle() {
	o.paths = o.base.pathsWith(o)
	for p := range o.docs {
		o.shelve(p)
	}
	for p := range o.docs {
		if class, _, _ := site.Classify(p); class == site.RuleDoc {
			o.collectRules()
			break
		}
	}
	o.reach()
}

// Commit gives the site after an edit, as With gave it. The shelf itself stays as it is,
// for whoever still reads it.
func (s *Shelf) Commit(o *Shelf) *Shelf {
	if o.base == nil {
		return o
	}
	n := &Shelf{docs: s.docs, paths: s.paths, reader: s.reader, config: o.config, rules: o.rules, now: o.now,
		runner: s.runner,
		blocks: maps.Clone(s.blocks), lives: slices.Clone(s.lives), onAllPages: map[string]bool{},
		data: s.dataBut(o)}
	if len(o.docs) > 0 {
		n.docs = maps.Clone(s.docs)
		n.paths = o.paths
	}
	for p, e := range o.docs {
		if e == nil {
			delete(n.docs, p)
		} else {
			n.docs[p] = e
		}
	}
	for p := range o.docs {
		n.shelve(p)
	}
	// What was remembered of a block holds as long as its entry is the same one.
	for name, b := range s.blocks {
		if is := n.blocks[name]; is == b && b != nil && (o.all || o.resolved || o.touched[name]) {
			n.blocks[name] = renewed(b)
		}
	}
	for _, name := range slices.Sorted(maps.Keys(n.blocks)) {
		if was := s.blocks[name]; was != n.blocks[name] {
			n.live(name, was)
			if was != nil {
				was.Life.Over.Store(true)
			}
		}
	}
	n.index = s.index.fork(n, o.docs)
	for p, e := range o.docs {
		_, stays := e.page()
		n.index.forget(s, p, stays)
	}
	for _, p := range slices.Sorted(maps.Keys(o.docs)) {
		n.index.learn(n, p)
	}
	if o.resolved {
		n.index.resolve(n)
	}
	n.index.sort()
	return n
}

// dataBut is what is known of the site for scripts, but for what an edit changes.
func (s *Shelf) dataBut(o *Shelf) map[string]*script.Data {
	if o.all { // of what type pages' fields are may have changed
		return nil
	}
	s.dataMu.Lock()
	defer s.dataMu.Unlock()
	out := maps.Clone(s.data)
	for what, changed := range o.dataChanged {
		if changed {
			delete(out, what)
		}
	}
	return out
}

// pathsWith lists the documents of a base after an edit, in order.
func (s *Shelf) pathsWith(o *Shelf) []string {
	var come []string
	went := false
	for p, e := range o.docs {
		switch _, was := s.docs[p]; {
		case e != nil && !was:
			come = append(come, p)
		case e == nil && was:
			went = true
		}
	}
	if len(come) == 0 && !went {
		return s.paths
	}
	slices.Sort(come)
	out := make([]string, 0, len(s.paths)+len(come))
	for _, p := range s.paths {
		for len(come) > 0 && come[0] < p {
			out, come = append(out, come[0]), come[1:]
		}
		if e, changed := o.docs[p]; !changed || e != nil {
			out = append(out, p)
		}
	}
	return append(out, come...)
}

// Changed lists the documents in which an overlay differs from its base, in order.
func (s *Shelf) Changed() []string {
	if s.base == nil {
		return nil
	}
	return slices.Sorted(maps.Keys(s.docs))
}

// Overlay reports whether the shelf was made by With and shares its base.
func (s *Shelf) Overlay() bool { return s.base != nil }
