package repeat

import (
	"cmp"
	"slices"
)

// spot is a place of a piece: tokens of a page, the last one included.
type spot struct{ page, first, last int32 }

// proposal is a piece that may be one: its spots in the order of the pages.
type proposal struct {
	spots   []spot
	saves   int // bytes that it would save, estimated
	pages   int
	stretch bool // it was found as a stretch of pages, whatever its tags
}

const (
	leastPages = 3   // on which a piece stands
	leastBytes = 40  // that it has
	mostTried  = 160 // proposals that are laid over one another
	sampled    = 24  // spots by which a proposal is estimated
)

// label tells elements of one kind: the form of the start tag, and where that has no value that is common,
// the form of what it stands in as well.
func (f *finder) label(p *page, n *node) uint32 {
	k := &p.tokens[n.first]
	if k.valued || n.parent < 0 {
		return k.form
	}
	return mix(k.form, p.tokens[p.nodes[n.parent].first].form)
}

// elements proposes elements of one label, and within it those that are alike.
func (f *finder) elements() []proposal {
	pages, last := map[uint32]int{}, map[uint32]int32{}
	f.eachNode(func(i int32, p *page, n *node) {
		if n.last > n.first {
			if l := f.label(p, n); last[l] != i+1 {
				last[l] = i + 1
				pages[l]++
			}
		}
	})
	of := map[uint32][]member{}
	f.eachNode(func(i int32, p *page, n *node) {
		if n.last > n.first {
			if l := f.label(p, n); pages[l] >= f.least {
				of[l] = append(of[l], member{spot{i, n.first, n.last}, n.form})
			}
		}
	})
	var out []proposal
	for _, l := range sortedKeys(of) {
		out = append(out, f.variants(of[l])...)
	}
	return out
}

type member struct {
	spot
	form uint32
}

// variants are the groups of elements of one label that are alike, nearly alike, and all of them.
func (f *finder) variants(all []member) []proposal {
	byForm := map[uint32][]spot{}
	var order []uint32
	for _, m := range all {
		if byForm[m.form] == nil {
			order = append(order, m.form)
		}
		byForm[m.form] = append(byForm[m.form], m.spot)
	}
	slices.SortStableFunc(order, func(a, b uint32) int { return len(byForm[b]) - len(byForm[a]) })
	spotsOf := func(forms []uint32) []spot {
		var out []spot
		for _, o := range forms {
			out = append(out, byForm[o]...)
		}
		slices.SortFunc(out, spot.compare)
		return out
	}
	whole := spotsOf(order)
	out := []proposal{{spots: whole}}
	if len(order) == 1 || len(order) > 400 {
		return out
	}
	sketches := map[uint32][]uint32{}
	for _, o := range order {
		sketches[o] = f.sketch(byForm[o][0])
	}
	for _, near := range []float64{.8, .45} {
		var leaders []uint32
		groups := map[uint32][]uint32{}
		for _, o := range order {
			at := slices.IndexFunc(leaders, func(l uint32) bool {
				return alike(sketches[l], sketches[o]) >= near
			})
			lead := o
			if at < 0 {
				leaders = append(leaders, o)
			} else {
				lead = leaders[at]
			}
			groups[lead] = append(groups[lead], o)
		}
		for _, l := range leaders {
			if len(leaders) > 1 {
				out = append(out, proposal{spots: spotsOf(groups[l])})
			}
		}
	}
	return out
}

func (s spot) compare(t spot) int {
	return cmp.Or(cmp.Compare(s.page, t.page), cmp.Compare(s.first, t.first), cmp.Compare(t.last, s.last))
}

// sketch are the forms of the tokens at a spot, each once.
func (f *finder) sketch(s spot) []uint32 {
	var out []uint32
	for _, k := range f.pages[s.page].tokens[s.first : s.last+1] {
		if k.kind != space {
			out = append(out, k.form)
		}
	}
	slices.Sort(out)
	return slices.Compact(out)
}

// alike is how much of two sketches is the same, from 0 to 1.
func alike(a, b []uint32) float64 {
	both, i, j := 0, 0, 0
	for i < len(a) && j < len(b) {
		switch {
		case a[i] < b[j]:
			i++
		case a[i] > b[j]:
			j++
		default:
			both, i, j = both+1, i+1, j+1
		}
	}
	if n := len(a) + len(b) - both; n > 0 {
		return float64(both) / float64(n)
	}
	return 1
}

// neighbours proposes runs of siblings that follow one another in nine of ten places of both.
func (f *finder) neighbours() []proposal {
	count, pairs := map[uint32]int{}, map[[2]uint32]int{}
	f.eachRow(func(_ int32, labels []uint32, _ []*node) {
		for i, l := range labels {
			count[l]++
			if i > 0 {
				pairs[[2]uint32{labels[i-1], l}]++
			}
		}
	})
	next, prev := map[uint32]uint32{}, map[uint32]uint32{}
	for p, n := range pairs {
		if n >= f.least && p[0] != p[1] && 10*n >= 9*count[p[0]] && 10*n >= 9*count[p[1]] {
			next[p[0]], prev[p[1]] = p[1], p[0]
		}
	}
	root := func(l uint32) uint32 {
		for n := 0; n < 1000; n++ {
			p, ok := prev[l]
			if !ok {
				break
			}
			l = p
		}
		return l
	}
	runs := map[uint32][]spot{}
	f.eachRow(func(page int32, labels []uint32, row []*node) {
		for i := 0; i < len(row); {
			j := i
			for j+1 < len(row) && next[labels[j]] == labels[j+1] {
				j++
			}
			if j > i {
				r := root(labels[i])
				runs[r] = append(runs[r], spot{page, row[i].first, row[j].last})
			}
			i = j + 1
		}
	})
	var out []proposal
	for _, r := range sortedKeys(runs) {
		slices.SortFunc(runs[r], spot.compare)
		out = append(out, proposal{spots: runs[r]})
	}
	return out
}

// eachRow visits the neighbours of each element, white space and texts that say something else on every
// page left out, with their labels.
func (f *finder) eachRow(visit func(page int32, labels []uint32, row []*node)) {
	var labels []uint32
	var row []*node
	for i := range f.pages {
		p := &f.pages[i]
		rowOf := func(from, to int32) {
			labels, row = labels[:0], row[:0]
			for j := from; j < to; j = p.nodes[j].next {
				n := &p.nodes[j]
				k := &p.tokens[n.first]
				if k.kind == space || k.kind == word && !k.valued {
					continue
				}
				labels, row = append(labels, f.label(p, n)), append(row, n)
			}
			if len(row) > 1 {
				visit(int32(i), labels, row)
			}
		}
		rowOf(0, int32(len(p.nodes)))
		for j := range p.nodes {
			if n := &p.nodes[j]; n.next > int32(j)+2 {
				rowOf(int32(j)+1, n.next)
			}
		}
	}
}

func (f *finder) eachNode(visit func(page int32, p *page, n *node)) {
	for i := range f.pages {
		p := &f.pages[i]
		for j := range p.nodes {
			visit(int32(i), p, &p.nodes[j])
		}
	}
}

// estimate works out from some of a proposal's spots what it would save: the bytes of tokens that are the
// same in nine of ten.
func (f *finder) estimate(p *proposal) {
	if p.pages = 0; len(p.spots) == 0 {
		return
	}
	for i, s := range p.spots {
		if i == 0 || p.spots[i-1].page != s.page {
			p.pages++
		}
	}
	step := max(len(p.spots)/sampled, 1)
	counts, n := map[uint32]int{}, 0
	for i := 0; i < len(p.spots); i += step {
		n++
		for _, e := range f.exacts(p.spots[i]) {
			counts[e]++
		}
	}
	fixed := 0
	for i := 0; i < len(p.spots); i += step {
		s := p.spots[i]
		pg := &f.pages[s.page]
		for t := s.first; t <= s.last; t++ {
			if k := &pg.tokens[t]; 10*counts[k.exact] >= 9*n {
				fixed += int(k.to - k.from)
			}
		}
	}
	p.saves = (fixed/n - 12) * (len(p.spots) - 1)
}

func (f *finder) exacts(s spot) []uint32 {
	var out []uint32
	for _, k := range f.pages[s.page].tokens[s.first : s.last+1] {
		out = append(out, k.exact)
	}
	slices.Sort(out)
	return slices.Compact(out)
}

func sortedKeys[V any](m map[uint32]V) []uint32 {
	out := make([]uint32, 0, len(m))
	for k := range m {
		out = append(out, k)
	}
	slices.Sort(out)
	return out
}
