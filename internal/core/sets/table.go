// Package sets has sets of small numbers under names, which share what is alike in them.
package sets

import (
	"maps"
	"math/bits"
	"slices"
)

// Table leads from names to sets of pages. Tables that were forked from one another share
// the sets in which they are alike; mine are the names of those that are this table's alone.
type Table struct {
	sets map[string]*Set
	mine map[string]bool
}

// New makes an empty table.
func New() *Table { return &Table{map[string]*Set{}, map[string]bool{}} }

// Fork is a table of its own that is alike as yet. The one from which it was forked stays as
// it is from then on: nothing may be added to it or removed.
func (t *Table) Fork() *Table { return &Table{maps.Clone(t.sets), map[string]bool{}} }

// own is a set that this table may write to.
func (t *Table) own(key string) *Set {
	s := t.sets[key]
	if s != nil && t.mine[key] {
		return s
	}
	if s == nil {
		s = &Set{}
	} else {
		s = &Set{slices.Clone(s.few), slices.Clone(s.bits)}
	}
	t.sets[key], t.mine[key] = s, true
	return s
}

// Add puts a number into the set of a name.
func (t *Table) Add(key string, n int32) { t.own(key).add(n) }

// Remove takes one out.
func (t *Table) Remove(key string, n int32) {
	s := t.own(key)
	if s.remove(n); s.Empty() {
		delete(t.sets, key)
	}
}

// Of is the set of a name, in order of their numbers.
func (t *Table) Of(key string) *Set { return t.sets[key] }

// maxFew is how many pages a set lists before it marks them.
const maxFew = 64

// Set is a set of numbers: a sorted list while they are few, marks when they
// are many. nil is empty.
type Set struct {
	few  []int32
	bits []uint64
}

func (s *Set) add(n int32) {
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

func (s *Set) mark(n int32) {
	if need := int(n/64) + 1; need > len(s.bits) {
		s.bits = append(s.bits, make([]uint64, max(need, len(s.bits)+len(s.bits)/2)-len(s.bits))...)
	}
	s.bits[n/64] |= 1 << (n % 64)
}

func (s *Set) remove(n int32) {
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

// Empty reports whether nothing is in it.
func (s *Set) Empty() bool {
	return s == nil || len(s.few) == 0 && !slices.ContainsFunc(s.bits, func(b uint64) bool { return b != 0 })
}

// Each goes through the numbers, in order.
func (s *Set) Each(do func(n int32)) {
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
