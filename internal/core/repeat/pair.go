package repeat

import "bytes"

// most is how many pairs of items are compared to lay two rows over one another.
const most = 400_000

// words is a hash of what an item says, where many pages say the same; else 0.
func (it *item) words() uint32 {
	h := uint32(0)
	for _, k := range it.page.tokens[it.first : it.last+1] {
		if k.kind == word {
			if !k.common {
				return 0
			}
			h = mix(h+1, k.form)
		}
	}
	return h
}

// columns lays rows of items over one another, those of the places in. It reports false where they are
// too long.
func (a *aligner) columns(lists [][]*item, in []int) ([]column, bool) {
	var cols []column
	rep := func(c column) *item {
		for _, i := range in {
			if c[i] != nil {
				return c[i]
			}
		}
		return nil
	}
	one := func(i int, it *item) column {
		c := make(column, a.n)
		c[i] = it
		return c
	}
	for _, i := range medoidFirst(lists, in) {
		list := lists[i]
		reps := make([]*item, len(cols))
		for c := range cols {
			reps[c] = rep(cols[c])
		}
		pairs, ok := pair(reps, list)
		if !ok {
			return nil, false
		}
		var next []column
		c, l := 0, 0
		for _, p := range append(pairs, [2]int{len(cols), len(list)}) {
			for ; c < p[0]; c++ {
				next = append(next, cols[c])
			}
			for ; l < p[1]; l++ {
				next = append(next, one(i, list[l]))
			}
			if c < len(cols) {
				cols[c][i] = list[l]
				next = append(next, cols[c])
				c, l = c+1, l+1
			}
		}
		if cols = next; len(cols) > 2*len(lists[in[0]])+most/1000 {
			return nil, false // they have too little in common
		}
	}
	return cols, true
}

// medoidFirst are the places with the row first whose shape most have.
func medoidFirst(lists [][]*item, in []int) []int {
	count, first := map[uint32]int{}, map[uint32]int{}
	best := in[0]
	for _, i := range in {
		h := shapeOf(lists[i])
		if count[h]++; count[h] == 1 {
			first[h] = i
		}
		if count[h] > count[shapeOf(lists[best])] {
			best = first[h]
		}
	}
	out := []int{best}
	for _, i := range in {
		if i != best {
			out = append(out, i)
		}
	}
	return out
}

func shapeOf(list []*item) uint32 {
	h := uint32(len(list))
	for _, it := range list {
		h = mix(h, it.token().shape)
	}
	return h
}

// likeness is how much two items have in common; 0 where one cannot stand for the other.
func likeness(a, b *item) int {
	x, y := a.token(), b.token()
	if x.kind != y.kind || x.name != y.name || a.ended != b.ended {
		return 0
	}
	switch {
	case x.kind == space:
		return 1
	case x.exact == y.exact && bytes.Equal(a.bytes(), b.bytes()):
		return 12
	case x.kind == comment:
		return 1
	}
	if a.says != 0 && b.says != 0 && a.says != b.says {
		return 0 // two entries of one menu
	}
	out := 3
	if x.shape == y.shape {
		out += 2
	}
	if x.form == y.form {
		out += 3
	}
	return out
}

// pair finds which items of two rows answer one another: pairs of their numbers, in order.
func pair(a, b []*item) ([][2]int, bool) {
	var out [][2]int
	from := 0
	for from < len(a) && from < len(b) && a[from].token().shape == b[from].token().shape &&
		(likeness(a[from], b[from]) >= 8 || len(a) == len(b) && likeness(a[from], b[from]) > 0) {
		out = append(out, [2]int{from, from})
		from++
	}
	x, y := a[from:], b[from:]
	tail := 0
	for tail < len(x) && tail < len(y) && likeness(x[len(x)-1-tail], y[len(y)-1-tail]) >= 8 {
		tail++
	}
	x, y = x[:len(x)-tail], y[:len(y)-tail]
	if len(x)*len(y) > most {
		return nil, false
	}
	score := make([]int, (len(x)+1)*(len(y)+1))
	w := len(y) + 1
	for i := len(x) - 1; i >= 0; i-- {
		for j := len(y) - 1; j >= 0; j-- {
			s := max(score[(i+1)*w+j], score[i*w+j+1])
			if l := likeness(x[i], y[j]); l > 0 {
				s = max(s, score[(i+1)*w+j+1]+l)
			}
			score[i*w+j] = s
		}
	}
	for i, j := 0, 0; i < len(x) && j < len(y); {
		l := likeness(x[i], y[j])
		switch {
		case l > 0 && score[i*w+j] == score[(i+1)*w+j+1]+l:
			out = append(out, [2]int{from + i, from + j})
			i, j = i+1, j+1
		case score[i*w+j] == score[(i+1)*w+j]:
			i++
		default:
			j++
		}
	}
	for t := tail; t > 0; t-- {
		out = append(out, [2]int{len(a) - t, len(b) - t})
	}
	return out, true
}
