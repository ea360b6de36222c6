package repeat

import (
	"bytes"
	"fmt"
	"math"
	"slices"
	"strings"
	"sync"

	"golang.org/x/net/html"
)

// Found is what is repeated on some pages.
type Found struct {
	Looked int // pages
	// Pieces are what would save most, surest first; those that overlap one before them stand behind all
	// that do not.
	Pieces []*Piece
}

const (
	mostSpots = 100 // spots by which a template is worked out; values are read off all
	mostTold  = 200 // pieces
)

// rank makes pieces of proposals and puts them in order.
func (f *finder) rank(all []proposal) (*Found, error) {
	pieces := make([]*Piece, len(all))
	var mu sync.Mutex
	done := 0
	if err := f.parallel(len(all), 1, func(i int) {
		pieces[i] = f.lay(&all[i])
		mu.Lock()
		defer mu.Unlock()
		done++
		f.tell(done, len(pieces))
	}); err != nil {
		return nil, err
	}
	var kept []*Piece
	seen := map[string]bool{}
	for _, p := range pieces {
		if p != nil && p.Pages >= f.least && p.Bytes > 2*leastBytes && p.share > .25 && !seen[p.ID] {
			seen[p.ID] = true
			kept = append(kept, p)
		}
	}
	f.lift(kept)
	slices.SortStableFunc(kept, func(a, b *Piece) int {
		switch {
		case a.score > b.score:
			return -1
		case a.score < b.score:
			return 1
		}
		return strings.Compare(a.ID, b.ID)
	})
	kept = f.apart(kept)
	kept = kept[:min(len(kept), mostTold)]
	tellApart(kept)
	return &Found{len(f.pages), kept}, nil
}

// tellApart numbers titles that several pieces have; the first keeps it as it is.
func tellApart(pieces []*Piece) {
	taken := map[string]bool{}
	for _, p := range pieces {
		taken[p.Title] = true
	}
	seen := map[string]int{}
	for _, p := range pieces {
		title := p.Title
		for seen[title]++; seen[title] > 1; seen[title]++ {
			if next := fmt.Sprintf("%s %d", title, seen[title]); !taken[next] {
				p.Title, taken[next] = next, true
				break
			}
		}
	}
}

// lift puts a piece before those that it holds, where it saves much more than they do and asks for few fields
// more: a whole menu before its entries that never change.
func (f *finder) lift(pieces []*Piece) {
	at := map[string]map[int32]Place{}
	for _, p := range pieces {
		of := map[int32]Place{}
		for _, x := range p.Places {
			of[int32(x.Page)] = x
		}
		at[p.ID] = of
	}
	for _, y := range pieces {
		if y.layout || y.share < .35 {
			continue
		}
		for _, x := range pieces {
			if 4*y.Bytes < 5*x.Bytes || 10*y.Pages < 9*x.Pages || len(y.Fields) > len(x.Fields)+4 ||
				y.score >= x.score {
				continue
			}
			within := 0
			for page, small := range at[x.ID] {
				if big, ok := at[y.ID][page]; ok && big.From <= small.From && small.To <= big.To {
					within++
				}
			}
			if 10*within >= 9*x.Pages && 10*len(x.Places) <= 12*x.Pages {
				y.score = x.score * 1.01
			}
		}
	}
}

// thinned are some of many spots, spread evenly.
func thinned(spots []spot) []spot {
	step := (len(spots) + mostSpots - 1) / mostSpots
	if step <= 1 {
		return spots
	}
	var out []spot
	for i := 0; i < len(spots); i += step {
		out = append(out, spots[i])
	}
	return out
}

// score orders pieces: what they save, how much of them is the same, on how much of the site.
func (f *finder) score(p *Piece, from *proposal, total int) float64 {
	out := float64(p.Bytes) * max(p.share-.2, .01) * math.Sqrt(float64(p.Pages)/float64(len(f.pages)))
	whole := 0
	for i, at := range p.Places {
		if i == 0 || p.Places[i-1].Page != at.Page {
			whole += len(f.pages[at.Page].Text)
		}
	}
	if p.layout = 10*total > 8*whole; p.layout {
		out *= .02
	}
	if from.stretch && !f.balanced(p) {
		out *= .7
	}
	root := f.root(p)
	switch {
	case inline[root] && len(p.Places) > 3*p.Pages:
		out *= .02 // a word with a link, wherever it stands
	case inline[root] || single[root]:
		out *= .3
	}
	return out
}

var (
	inline = setOf("a abbr acronym b cite code em font i kbd samp small span strong sub sup tt u var")
	single = setOf("li td th tr link meta dt dd option col colgroup")
)

// first is the token with which a piece begins, white space left out.
func (f *finder) first(p *Piece) (pg *page, t int32) {
	s := p.spots[0]
	pg = &f.pages[s.page]
	for t = s.first; t < s.last && (pg.tokens[t].kind == space || pg.tokens[t].kind == comment); t++ {
	}
	return pg, t
}

// root is the name of the only element of a piece; "" where it has several.
func (f *finder) root(p *Piece) string {
	pg, t := f.first(p)
	k := pg.tokens[t]
	s := p.spots[0]
	nodes := f.grammar.grow(pg.tokens[t : s.last+1])
	if k.kind == start && len(nodes) > 0 && int(nodes[0].next) == len(nodes) {
		head, _, _ := attributes(pg.Text[k.from:k.to])
		return strings.ToLower(string(head[1:]))
	}
	return ""
}

// balanced reports whether no tag of a piece waits for its end, or ends what it did not begin.
func (f *finder) balanced(p *Piece) bool {
	s := p.spots[0]
	for _, n := range f.grammar.grow(f.pages[s.page].tokens[s.first : s.last+1]) {
		k := f.pages[s.page].tokens[s.first+n.first]
		if k.kind == end || k.kind == start && n.first == n.last && !f.grammar.loose[k.name] {
			return false
		}
	}
	return true
}

// apart puts pieces that overlap one before them behind the others, and notes within which they stand.
func (f *finder) apart(pieces []*Piece) []*Piece {
	taken := make([][]Span, len(f.pages))
	owner := make([][]string, len(f.pages))
	var out, later []*Piece
	for _, p := range pieces {
		over, inside := 0, map[string]int{}
		for _, at := range p.Places {
			for n, t := range taken[at.Page] {
				if at.From < t.To && t.From < at.To {
					over++
					if at.From >= t.From && at.To <= t.To {
						inside[owner[at.Page][n]]++
					}
					break
				}
			}
		}
		if 10*over > len(p.Places) {
			for _, id := range slices.Sorted(keys(inside)) {
				if 2*inside[id] > len(p.Places) {
					p.Within = id
				}
			}
			later = append(later, p)
			continue
		}
		out = append(out, p)
		for _, at := range p.Places {
			taken[at.Page] = append(taken[at.Page], Span{at.From, at.To})
			owner[at.Page] = append(owner[at.Page], p.ID)
		}
	}
	return append(out, later...)
}

func keys[K comparable, V any](m map[K]V) func(yield func(K) bool) {
	return func(yield func(K) bool) {
		for k := range m {
			if !yield(k) {
				return
			}
		}
	}
}

// kindOf tells the frame of pages from their content: it stands at the edges of many pages, once or twice.
func (f *finder) kindOf(p *Piece) Kind {
	switch f.root(p) {
	case "header", "footer", "nav", "head":
		return Frame
	}
	edge := 0
	for _, at := range p.Places {
		n := len(f.pages[at.Page].Text)
		from, to := at.From-f.pages[at.Page].At, at.To-f.pages[at.Page].At
		if 4*from < n || 4*to > 3*n {
			edge++
		}
	}
	if 10*edge >= 9*len(p.Places) && 10*len(p.Places) <= 22*p.Pages && 5*p.Pages >= len(f.pages) {
		return Frame
	}
	return Content
}

// called is a title for a piece: of its landmark, id, class or heading, or of what it says.
func (f *finder) called(p *Piece) string {
	pg, t := f.first(p)
	s := p.spots[0]
	for _, want := range []string{"id", "class", "name"} {
		for n := t; n <= s.last && n < t+8; n++ {
			k := pg.tokens[n]
			if k.kind != start {
				continue
			}
			_, attrs, _ := attributes(pg.Text[k.from:k.to])
			for _, a := range attrs {
				if strings.EqualFold(string(a.name), want) && !bytes.Contains(a.value, []byte("@{")) {
					if words := NameOf(string(a.value)); words != "" && len(words) <= 32 {
						return Titled(words)
					}
				}
			}
		}
	}
	k := pg.tokens[t]
	head, _, _ := attributes(pg.Text[k.from:k.to])
	elem := strings.ToLower(strings.Trim(string(head), "</>"))
	if word := map[string]string{"header": "Header", "footer": "Footer", "nav": "Navigation", "aside": "Aside",
		"head": "Head", "html": "Top"}[elem]; word != "" {
		return word
	}
	if k.kind == comment && s.first == 0 {
		return "Top"
	}
	for n := t; n <= s.last; n++ {
		if k := pg.tokens[n]; k.kind == word {
			words := strings.Fields(html.UnescapeString(string(pg.Text[k.from:k.to])))
			if s := NameOf(strings.Join(words[:min(len(words), 4)], " ")); s != "" {
				return Titled(s[:min(len(s), 32)])
			}
		}
	}
	if int(s.last) == len(pg.tokens)-1 {
		return "Bottom"
	}
	return Titled(elem)
}

// Titled makes a title of a name.
func Titled(s string) string {
	s = strings.Trim(strings.ReplaceAll(s, "-", " "), " ")
	if s == "" {
		return "Piece"
	}
	return strings.ToUpper(s[:1]) + s[1:]
}
