package repeat

import "slices"

// anchor is a form that stands once on most pages, with the token at which it stands on each; -1 where it
// does not.
type anchor struct {
	at    []int32
	pages int
}

// stretches proposes tops, bottoms and other stretches of pages that are kept from page to page, whether
// their tags are balanced or not: anchors, forms that stand once on a page, that follow one another
// everywhere, with little between them that differs.
func (f *finder) stretches() []proposal {
	var out []proposal
	atLeast := func(share float64) int { return max(int(share*float64(len(f.pages))+.999), f.least) }
	all := f.anchors(atLeast(.2))
	for _, share := range []float64{.9, .7, .45, .2} {
		anchors := f.inOrder(all, atLeast(share))
		from := 0
		for i := 1; i <= len(anchors); i++ {
			if i < len(anchors) && f.close(anchors[i-1], anchors[i]) {
				continue
			}
			if i-from > 1 {
				out = append(out, f.whole(f.between(anchors[from], anchors[i-1]))...)
			}
			from = i
		}
	}
	return out
}

// anchors are the forms that stand once on so many pages at least, sorted.
func (f *finder) anchors(least int) map[uint32]anchor {
	count, seen := map[uint32]int{}, map[uint32]int32{}
	visit := func(take func(page int, form uint32, at int32)) {
		for i := range f.pages {
			clear(seen)
			for t, k := range f.pages[i].tokens {
				if k.kind == space || k.kind == word && !k.valued {
					continue
				}
				if _, twice := seen[k.form]; twice {
					seen[k.form] = -1
				} else {
					seen[k.form] = int32(t)
				}
			}
			for form, t := range seen {
				if t >= 0 {
					take(i, form, t)
				}
			}
		}
	}
	visit(func(_ int, form uint32, _ int32) { count[form]++ })
	out := map[uint32]anchor{}
	visit(func(page int, form uint32, t int32) {
		if count[form] < least {
			return
		}
		a, ok := out[form]
		if !ok {
			a = anchor{slices.Repeat([]int32{-1}, len(f.pages)), count[form]}
			out[form] = a
		}
		a.at[page] = t
	})
	return out
}

// inOrder are the anchors of so many pages at least, as they stand on the page that has most of them.
func (f *finder) inOrder(all map[uint32]anchor, least int) []anchor {
	has := make([]int, len(f.pages))
	var out []anchor
	for _, form := range sortedKeys(all) {
		if a := all[form]; a.pages >= least {
			out = append(out, a)
			for i, t := range a.at {
				if t >= 0 {
					has[i]++
				}
			}
		}
	}
	best := 0
	for i, n := range has {
		if n > has[best] {
			best = i
		}
	}
	out = slices.DeleteFunc(out, func(a anchor) bool { return a.at[best] < 0 })
	slices.SortFunc(out, func(a, b anchor) int { return int(a.at[best] - b.at[best]) })
	return out
}

// close reports whether two anchors stand close to one another, in their order, on nine of ten pages that
// have both, and what is between them is mostly the same.
func (f *finder) close(a, b anchor) bool {
	both, near := 0, 0
	gaps := map[uint32]int{}
	for i := range f.pages {
		if a.at[i] < 0 || b.at[i] < 0 {
			continue
		}
		both++
		if n := b.at[i] - a.at[i]; n > 0 {
			h := uint32(n)
			if n <= 4 {
				near++
			}
			if n < 400 {
				for _, k := range f.pages[i].tokens[a.at[i]+1 : b.at[i]] {
					h = mix(h, k.shape)
				}
				gaps[h]++
			}
		}
	}
	same := 0
	for _, n := range gaps {
		same = max(same, n)
	}
	return both >= f.least && (10*near >= 9*both || 10*same >= 7*both)
}

// between are the stretches from one anchor to another one, on the pages that have both.
func (f *finder) between(a, b anchor) proposal {
	p := proposal{stretch: true}
	for i := range f.pages {
		from, to := a.at[i], b.at[i]
		if from < 0 || to < from {
			continue
		}
		p.spots = append(p.spots, spot{int32(i), from, to})
	}
	return p
}

// whole are the stretches of a proposal with whole elements at their ends: once with those that an end cuts,
// once without. Wrappers, within which the content of pages stands, are cut as before.
func (f *finder) whole(p proposal) []proposal {
	long, short := p, p
	long.spots, short.spots = nil, nil
	left, right := f.cut(p, true), f.cut(p, false)
	for i, s := range p.spots {
		l, r := s, s
		if n := left[i]; n != nil {
			l.first, r.first = n.first, n.last+1
		}
		if n := right[i]; n != nil {
			l.last, r.last = n.last, n.first-1
		}
		if l = f.trimmed(l); l.first <= l.last {
			long.spots = append(long.spots, l)
		}
		if r = f.trimmed(r); r.first < r.last {
			short.spots = append(short.spots, r)
		}
	}
	if slices.Equal(long.spots, short.spots) {
		return []proposal{long}
	}
	return []proposal{long, short}
}

// cut are the elements that an end of each stretch cuts, of the form that is cut on most pages, where most of
// what lies outside is common; nil where there is none.
func (f *finder) cut(p proposal, left bool) []*node {
	votes, pages := map[uint32]int{}, map[uint32]int{}
	all := make([][]*node, len(p.spots))
	for i, s := range p.spots {
		pg := &f.pages[s.page]
		seen := map[uint32]bool{}
		for j := range pg.nodes {
			n := &pg.nodes[j]
			in, out := n.first >= s.first && n.first <= s.last, n.last > s.last
			from, to := s.last+1, n.last
			if left {
				in, out = n.last >= s.first && n.last <= s.last, n.first < s.first
				from, to = n.first, s.first-1
			}
			if !in || !out {
				continue
			}
			all[i] = append(all[i], n)
			form := pg.tokens[n.first].form
			if !seen[form] {
				seen[form] = true
				pages[form]++
			}
			if f.commonShare(pg, from, to) >= .5 {
				votes[form]++
			}
		}
	}
	out := make([]*node, len(p.spots))
	for i, s := range p.spots {
		for _, n := range all[i] {
			if form := f.pages[s.page].tokens[n.first].form; 2*votes[form] > pages[form] {
				out[i] = n
				break
			}
		}
	}
	return out
}

// commonShare is how many of the bytes of tokens are in such as say what many pages say.
func (f *finder) commonShare(pg *page, from, to int32) float64 {
	all, common := 0, 0
	for _, k := range pg.tokens[from : to+1] {
		all += int(k.to - k.from)
		if k.common {
			common += int(k.to - k.from)
		}
	}
	if all == 0 {
		return 1
	}
	return float64(common) / float64(all)
}

// trimmed is a spot without white space at its ends.
func (f *finder) trimmed(s spot) spot {
	tokens := f.pages[s.page].tokens
	for s.first < s.last && tokens[s.first].kind == space {
		s.first++
	}
	for s.last > s.first && tokens[s.last].kind == space {
		s.last--
	}
	return s
}
