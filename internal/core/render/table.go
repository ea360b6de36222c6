package render

import (
	"maps"
	"math/bits"
	"slices"
)

// table leads from names to sets of pages. Tables that were forked from one another share
// the sets in which they are alike; mine are the names of those that are this table's alone.
type table struct {
	sets map[string]*pageSet
	mine map[string]bool
}

func newTable() *table { return &table{map[string]*pageSet{}, map[string]bool{}} }

func (t *table) fork() *table { return &table{maps.Clone(t.sets), map[string]bool{}} }

// own is a set that this table may write to.
func (t *table) own(key string) *pageSet {
	s := t.sets[key]
	if s != nil && t.mine[key] {
		return s
	}
	if s == nil {
		s = &pageSet{}
	} else {
		s = &pageSet{slices.Clone(s.few), slices.Clone(s.bits)}
	}
	t.sets[key], t.mine[key] = s, true
	return s
}

func (t *table) add(key string, n int32) { t.own(key).add(n) }

func (t *table) remove(key string, n int32) {
	s := t.own(key)
	if s.remove(n); s.empty() {
		delete(t.sets, key)
	}
}

// of lists the pages of a name, in order of their numbers.
func (t *table) of(key string) *pageSet { return t.sets[key] }

// maxFew is how many pages a set lists before it marks them.
const maxFew = 64

// pageSet is a set of numbers of pages: a sorted list while they are few, marks when they
// are many. nil is empty.
type pageSet struct {
	few  []int32
	bits []uint64
}

func (s *pageSet) add(n int32) {
	if s.bits == nil {
		i, there := slices.BinarySearch(s.few, n)
		if there {
			return
		}
		if len(s.few) < maxFew {
			s.few = slices.Insert(s.few, i, n)
			return
		}
		for _, f := range s.few {
			s.mark(f)
		}
		s.few = nil
	}
	s.mark(n)
}

func (s *pageSet) mark(n int32) {
	if need := int(n/64) + 1; need > len(s.bits) {
		s.bits = append(s.bits, make([]uint64, max(need, len(s.bits)+len(s.bits)/2)-len(s.bits))...)
	}
	s.bits[n/64] |= 1 << (n % 64)
}

func (s *pageSet) remove(n int32) {
	if s.bits != nil {
		if int(n/64) < len(s.bits) {
			s.bits[n/64] &^= 1 << (n % 64)
		}
		return
	}
	if i, there := slices.BinarySearch(s.few, n); there {
		s.few = slices.Delete(s.few, i, i+1)
	}
}

func (s *pageSet) empty() bool {
	return s == nil || len(s.few) == 0 && !slices.ContainsFunc(s.bits, func(b uint64) bool { return b != 0 })
}

func (s *pageSet) each(do func(n int32)) {
	if s == nil {
		return
	}
	for _, n := range s.few {
		do(n)
	}
	for i, word := range s.bits {
		for ; word != 0; word &= word - 1 {
			do(int32(i*64 + bits.TrailingZeros64(word)))
		}
	}
}
