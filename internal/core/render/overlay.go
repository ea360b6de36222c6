package render

import (
	"brickshelf/internal/core/site"
)

// With returns the site as it would be after some changes.
func (s *Shelf) With(changes []site.Change) *Shelf {
	root := s
	o := &Shelf{docs: map[string]*entry{}, reader: s.reader, config: s.config, now: s.now, rules: s.rules, builtins: s.builtins, runner: s.runner, blocks: map[string]*shelved{}, pageFree: map[string]bool{}, infos: map[string]*Info{}, plans: map[string]*Plan{}}
	if s.base != nil {
		root = s.base
		for p, e := range s.docs {
			o.docs[p] = e
		}
	}
	o.base = root
	for _, c := range changes {
		if c.Path == "site.yaml" {
			e := &entry{bytes: c.After}
			o.config, e.problems = parseConfig(c.After, s.reader)
			e.parsed = o.config
			if c.Delete {
				e, o.config = nil, &Config{Home: "/"}
			}
			o.docs["site.yaml"] = e
		}
	}
	if o.config.ExactURLs != root.config.ExactURLs || o.config.Home != root.config.Home {
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
	parsed := make([]*entry, len(changes))
	Parallel(len(changes), func(i int) {
		if c := changes[i]; c.Path != "site.yaml" && !c.Delete {
			parsed[i] = o.parse(c.Path, c.After)
		}
	})
	for i, c := range changes {
		if c.Path != "site.yaml" {
			o.docs[c.Path] = parsed[i]
		}
	}
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
	return o
}

// Commit makes an edit, as With gave it, part of the shelf. It and other overlays made
// from the shelf before are stale afterwards. Only a shelf made by New can be committed
// to; the result is the shelf to go on with.
func (s *Shelf) Commit(o *Shelf) *Shelf {
	if o.base == nil {
		return o
	}
	for p, e := range o.docs {
		s.index.forget(s, p)
		if e == nil {
			delete(s.docs, p)
		} else {
			s.docs[p] = e
		}
	}
	s.config, s.rules = o.config, o.rules
	for p := range o.docs {
		s.shelve(p)
	}
	// What was remembered of a block holds as long as its entry is the same one.
	for name, b := range s.blocks {
		if b != nil && (o.all || o.resolved || o.touched[name]) {
			b.gone.Store(true)
			s.blocks[name] = &shelved{block: b.block, style: b.style, code: b.code}
		}
	}
	s.pageFree = map[string]bool{}
	for what, changed := range o.dataChanged {
		if changed {
			delete(s.data, what)
		}
	}
	if o.all { // of what type pages' fields are may have changed
		clear(s.data)
	}
	for p := range o.docs {
		s.index.learn(s, p)
	}
	if o.resolved {
		s.index.resolve(s)
	}
	return s
}
