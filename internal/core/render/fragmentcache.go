package render

import (
	"sync"
	"sync/atomic"

	"brickshelf/internal/core/block"
	"brickshelf/internal/core/markup"
	"brickshelf/internal/core/place"
)

// fragment is what a placement shows on every page that answers alike what it asks.
type fragment struct {
	html   []byte
	count  int
	bare   bool // there is nothing more to it that every page that shows it takes over
	site   bool
	asks   []ask
	assets []asset
	faults []Fault
	names  []string
	menus  []string
}

// ask is something that a placement asks of the page that shows it, with the
// answer: a field of the page, or that no item of a menu is marked there.
type ask struct {
	menu  *place.Menu
	name  string
	value block.Value
}

func (r *renderer) asked(a ask) {
	if r.asking {
		r.asks = append(r.asks, a)
	}
}

// holds reports whether the page being rendered answers everything alike.
func (f *fragment) holds(r *renderer) bool {
	for i := range f.asks {
		a := &f.asks[i]
		if a.menu != nil {
			if marked(a.menu.Items, r.info.URL) {
				return false
			}
		} else if r.fieldOf(a.name) != a.value {
			return false
		}
	}
	return true
}

// Of each placement that rules and layouts bring, at most so many versions are
// kept; and where so many pages in a row had one of their own, no more is tried.
const (
	maxKept  = 8
	maxAlone = 64
)

// fragmentCache holds what a placement by a rule or a layout's call shows, in the versions
// in which pages show it.
type fragmentCache struct {
	list  atomic.Pointer[[]*fragment]
	mu    sync.Mutex
	alone atomic.Int32
}

func (k *fragmentCache) find(r *renderer) *fragment {
	if list := k.list.Load(); list != nil {
		for _, f := range *list {
			if f.holds(r) {
				return f
			}
		}
	}
	return nil
}

func (k *fragmentCache) add(f *fragment) {
	k.mu.Lock()
	defer k.mu.Unlock()
	var list []*fragment
	if old := k.list.Load(); old != nil {
		list = append(list, *old...)
	}
	if len(list) == maxKept {
		k.alone.Add(maxAlone)
		return
	}
	list = append(list, f)
	k.list.Store(&list)
}

// shared renders a placement by a rule or a layout's call. What it shows is kept
// for the pages that show the same: in memo for the base, in the overlay's own
// store where the edit can reach it.
func (r *renderer) shared(memo *atomic.Pointer[markup.Memo], name, address string, n *markup.Node,
	rule *place.Rule, sc *scope) {
	if r.trace != nil || r.visit != nil || r.info.Local && r.localUnder(address) {
		r.placement(name, address, n, rule, sc)
		return
	}
	k := r.fragmentsAt(memo, name)
	if k == nil {
		r.placement(name, address, n, rule, sc)
		return
	}
	if f := k.find(r); f != nil {
		r.take(f)
		return
	}
	if r.strip || k.alone.Load() >= maxAlone {
		r.placement(name, address, n, rule, sc)
		return
	}
	f, alone := r.capture(name, address, n, rule, sc)
	if alone {
		k.alone.Add(1)
		r.give(f)
		return
	}
	k.add(f)
	r.take(f)
}

// fragmentsAt finds the place where what a block shows is kept; nil where there is no
// such block.
func (r *renderer) fragmentsAt(memo *atomic.Pointer[markup.Memo], name string) *fragmentCache {
	s := r.s
	if s.Base() != nil {
		if s.All() || s.TouchedNames()[name] || s.Resolved() {
			k, _ := s.Fragments.LoadOrStore(memo, &fragmentCache{})
			return k.(*fragmentCache)
		}
		s = s.Base()
	}
	if m := memo.Load(); m != nil && s.Has(m.Life) {
		return m.Value.(*fragmentCache)
	}
	of := s.Shelved(name)
	if of == nil || of.Life.Over.Load() { // a newer state would have to keep its own anew
		return nil
	}
	m := &markup.Memo{Life: of.Life, Value: &fragmentCache{}}
	memo.Store(m)
	return m.Value.(*fragmentCache)
}

// give shows a fragment that is not kept: its bytes are those of this page alone.
func (r *renderer) give(f *fragment) {
	whole := r.whole
	r.whole = nil
	r.take(f)
	r.whole = whole
}

// capture renders a placement apart from the page around it. alone is set where
// it asks what hardly another page answers alike.
func (r *renderer) capture(name, address string, n *markup.Node, rule *place.Rule, sc *scope) (f *fragment,
	alone bool) {
	if address == "" && n != nil {
		address = sc.step(n)
	}
	outer := *r
	r.buf, r.assets, r.faults, r.names, r.menus, r.whole, r.asks = nil, nil, nil, nil, nil, nil, nil
	r.manyAssets = nil
	r.listing, r.addressed, r.asking = true, true, true
	r.strip, r.readSite, r.alone = false, false, false
	r.placement(name, address, n, rule, sc)
	f = &fragment{html: r.buf, asks: r.asks, assets: r.assets, faults: r.faults, names: r.names,
		menus: r.menus, site: r.readSite, count: r.count - outer.count}
	f.bare = len(f.assets)+len(f.faults)+len(f.menus) == 0 && !f.site
	alone = r.alone
	scopes, values := r.scopes, r.values
	*r = outer
	r.scopes, r.values, r.alone = scopes[:len(outer.scopes)], values[:min(len(outer.values), len(values))],
		outer.alone || alone
	return f, alone
}
