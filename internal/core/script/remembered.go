package script

import (
	"encoding/binary"
	"slices"
	"sync"

	"github.com/cespare/xxhash/v2"

	"brickshelf/internal/core/site"
)

// maxRemembered is how many outputs are remembered; then all are forgotten.
const maxRemembered = 50_000

// Remembered is a Runner that runs each call once and remembers what it gave.
type Remembered struct {
	of Runner

	mu  sync.Mutex
	all map[key]answer
}

type key struct {
	script site.Hash
	inputs [2]uint64
}

type answer struct {
	out     Output
	failure *Failure
}

// Remember makes a Runner remember.
func Remember(of Runner) *Remembered { return &Remembered{of: of, all: map[key]answer{}} }

// Run gives what the call gave before, or runs it.
func (r *Remembered) Run(c Call) (Output, *Failure) {
	k := key{c.Script.Hash, [2]uint64{c.sum(1), c.sum(2)}}
	r.mu.Lock()
	a, known := r.all[k]
	r.mu.Unlock()
	if known {
		return a.out, a.failure
	}
	a.out, a.failure = r.of.Run(c)
	if a.failure != nil && a.failure.Passing {
		return a.out, a.failure
	}
	r.mu.Lock()
	defer r.mu.Unlock()
	if len(r.all) >= maxRemembered {
		clear(r.all)
	}
	r.all[k] = a
	return a.out, a.failure
}

// sum hashes everything that a call hands to its script.
func (c *Call) sum(seed uint64) uint64 {
	d := xxhash.NewWithSeed(seed)
	part := func(b []byte) {
		var n [8]byte
		binary.LittleEndian.PutUint64(n[:], uint64(len(b)))
		_, _ = d.Write(n[:])
		_, _ = d.Write(b)
	}
	for _, b := range [][]byte{[]byte(c.Script.Path), c.Args, c.Inner, c.Page, c.Site, []byte(c.Now)} {
		part(b)
	}
	for _, what := range Readable {
		if data := c.Data[what]; data != nil && slices.Contains(c.Script.Reads, what) {
			part([]byte(what))
			part([]byte(data.Hash))
		}
	}
	return d.Sum64()
}
