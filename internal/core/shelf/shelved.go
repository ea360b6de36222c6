package shelf

import (
	"sync/atomic"

	"brickshelf/internal/core/assets"
	"brickshelf/internal/core/block"
	"brickshelf/internal/core/markup"
	"brickshelf/internal/core/site"
)

// shelved is a block with the hashes of its style and behaviour, "" where it has
// none, and what is known of whether it shows the same on every page.
type Shelved struct {
	Block *block.Block
	Style site.Hash
	Code  site.Hash
	Each  bool // the behaviour is started for each placement
	free  atomic.Int32
	Life  *markup.Life // in which what is remembered of it holds
}

// live gives a block of a base a life, in the slot of the one that it takes the place of.
func (s *Shelf) live(name string, former *Shelved) {
	b := s.blocks[name]
	switch {
	case b != nil && former != nil:
		b.Life.Slot = former.Life.Slot
		s.lives[b.Life.Slot] = b.Life
	case b != nil:
		b.Life.Slot = len(s.lives)
		s.lives = append(s.lives, b.Life)
	case former != nil:
		s.lives[former.Life.Slot] = nil
	}
}

// has reports whether what is remembered under a life holds in the shelf, or in the base
// of an overlay.
func (s *Shelf) Has(l *markup.Life) bool {
	if s.base != nil {
		s = s.base
	}
	return l.Slot < len(s.lives) && s.lives[l.Slot] == l
}

func (s *Shelf) shelved(b *block.Block) *Shelved {
	code := "blocks/" + b.Name + ".js"
	src, _ := s.Get(code)
	return &Shelved{Block: b, Style: s.Hash("blocks/" + b.Name + ".css"), Code: s.Hash(code), Each: assets.Starts(src),
		Life: &markup.Life{}}
}

// renewed is a block with nothing remembered of it.
func renewed(b *Shelved) *Shelved {
	return &Shelved{Block: b.Block, Style: b.Style, Code: b.Code, Each: b.Each, Life: &markup.Life{}}
}

// Needed are the blocks whose behaviours that of a block needs, each behind those that it needs itself.
func (s *Shelf) Needed(b *block.Block) []*Shelved {
	var out []*Shelved
	seen := map[string]bool{b.Name: true}
	var visit func(b *block.Block)
	visit = func(b *block.Block) {
		for _, name := range b.Behaviour.Needs {
			if o := s.Shelved(name); o != nil && !seen[name] {
				seen[name] = true
				visit(o.Block)
				out = append(out, o)
			}
		}
	}
	visit(b)
	return out
}

func (s *Shelf) Shelved(name string) *Shelved {
	if s.base != nil {
		if b, ok := s.blocks[name]; ok {
			return b
		}
		return s.base.blocks[name]
	}
	return s.blocks[name]
}

// shelve puts a block where shelved finds it. In an overlay a block that is gone
// is nil.
func (s *Shelf) shelve(path string) {
	class, name, _ := site.Classify(path)
	if class != site.BlockDoc && class != site.StyleDoc && class != site.BehaviourDoc {
		return
	}
	s.blocks[name] = nil
	e := s.entry("blocks/" + name + ".html")
	if e == nil {
		return
	}
	b, ok := e.parsed.(*block.Block)
	if !ok { // no block can have that name
		return
	}
	s.blocks[name] = s.shelved(b)
}

// Block returns the block of the given name, or nil.
func (s *Shelf) Block(name string) *block.Block {
	if b := s.Shelved(name); b != nil {
		return b.Block
	}
	return nil
}
