package repeat

// node is a token or, where it is a start tag whose end is known, an element with what it holds.
type node struct {
	first, last int32 // tokens, the last one included
	next        int32 // index of the node behind it and all that it holds
	parent      int32 // -1 at the top
	ended       bool  // its last token is its end tag
	form        uint32
	exact       uint32
}

// ending tells of an element which others its start tag ends, as old HTML leaves their ends out, and
// within which these are looked for.
type ending struct{ ends, within map[uint32]bool }

// grammar is what is known of elements whose ends may be missing, by the hashes of their names.
type grammar struct {
	starts map[uint32]ending
	loose  map[uint32]bool // they end where what they stand in ends
	// entries are those that a list has many of: two that say different things are two entries.
	entries map[uint32]bool
}

func newGrammar() *grammar {
	g := &grammar{starts: map[uint32]ending{}, loose: hashes("li p td th tr dd dt option thead tbody tfoot"),
		entries: hashes("li tr option dt")}
	for _, row := range [][3]string{
		{"li", "li p", "ul ol menu dir td body"},
		{"dt dd", "dt dd p", "dl td body"},
		{"tr", "tr td th p", "table"},
		{"td th", "td th p", "tr table"},
		{"thead tbody tfoot", "thead tbody tfoot tr td th", "table"},
		{"option", "option", "select"},
		{"p h1 h2 h3 h4 h5 h6 ul ol dl table pre hr div address blockquote form", "p",
			"td li div body dd blockquote"},
	} {
		for n := range hashes(row[0]) {
			g.starts[n] = ending{hashes(row[1]), hashes(row[2])}
		}
	}
	return g
}

func hashes(words string) map[uint32]bool {
	out := map[uint32]bool{}
	for w := range setOf(words) {
		out[hash([]byte(w))] = true
	}
	return out
}

// match finds for each start tag the last token of its element; itself where it has no end.
func (g *grammar) match(tokens []token) (last []int32, ended []bool) {
	last, ended = make([]int32, len(tokens)), make([]bool, len(tokens))
	var open []int32
	pop := func(to int, behind int32) {
		for _, o := range open[to:] {
			if g.loose[tokens[o].name] {
				last[o] = behind
			}
		}
		open = open[:to]
	}
	for i := range tokens {
		k := &tokens[i]
		last[i] = int32(i)
		switch k.kind {
		case start, void:
			if e, ok := g.starts[k.name]; ok {
				for j := len(open) - 1; j >= 0; j-- {
					if n := tokens[open[j]].name; e.ends[n] {
						pop(j, int32(i-1))
					} else if e.within[n] {
						break
					}
				}
			}
			if k.kind == start {
				open = append(open, int32(i))
			}
		case end:
			for j := len(open) - 1; j >= 0; j-- {
				if o := open[j]; tokens[o].name == k.name {
					pop(j+1, int32(i-1))
					last[o], ended[o] = int32(i), true
					open = open[:j]
					break
				}
			}
		}
	}
	pop(0, int32(len(tokens)-1))
	return last, ended
}

// grow makes a tree of tokens: its nodes, in the order of the page. An end tag ends the nearest open element
// of its name; what is never ended, or ends nothing, stands for itself.
func (g *grammar) grow(tokens []token) []node {
	last, ended := g.match(tokens)
	out := make([]node, 0, len(tokens))
	var open []int32
	for i := range tokens {
		for len(open) > 0 && int(out[open[len(open)-1]].last) < i {
			out[open[len(open)-1]].next = int32(len(out))
			open = open[:len(open)-1]
		}
		n := node{first: int32(i), last: last[i], next: int32(len(out) + 1), parent: -1, ended: ended[i]}
		if len(open) > 0 {
			n.parent = open[len(open)-1]
			if p := out[n.parent]; p.ended && int(p.last) == i {
				continue
			}
		}
		n.form, n.exact = tokens[i].form, tokens[i].exact
		for _, k := range tokens[n.first+1 : n.last+1] {
			n.form, n.exact = mix(n.form, k.form), mix(n.exact, k.exact)
		}
		if n.last > n.first {
			open = append(open, int32(len(out)))
		}
		out = append(out, n)
	}
	for _, o := range open {
		out[o].next = int32(len(out))
	}
	return out
}
