package repeat

import (
	"context"
	"fmt"
	"runtime"
	"slices"

	"golang.org/x/sync/errgroup"
)

// Span is a half-open range of byte offsets.
type Span struct{ From, To int }

// Page is a page to look through.
type Page struct {
	Path string // of its document
	Text []byte // without front matter, in UTF-8 where it can be read so
	At   int    // where the text begins in the document, in bytes
	// Encoded writes some of the text as the document has it; nil where it stands there so.
	Encoded func(text []byte) []byte
	Title   string
	Up      string // what leads from the page to the top of the site: "", "../" …
	// Hard are the tags of the shelf language in the text, in their order; what they hold is no markup.
	Hard []Span
}

// page is a page as tokens and as a tree.
type page struct {
	Page
	tokens []token
	nodes  []node
}

// Offset is where in the page's document an offset in its text is.
func (p *Page) Offset(at int) int {
	if p.Encoded != nil {
		at = len(p.Encoded(p.Text[:at]))
	}
	return p.At + at
}

type finder struct {
	ctx     context.Context
	grammar *grammar
	pages   []page
	least   int // pages on which a piece stands
	tell    func(done, of int)
}

// Find looks for the pieces that are repeated on pages. tell, which may be nil, hears how much of the work
// is done. The error is that of the context.
func Find(ctx context.Context, pages []Page, tell func(done, of int)) (*Found, error) {
	f := &finder{ctx: ctx, grammar: newGrammar(), least: leastPages, tell: tell}
	if f.tell == nil {
		f.tell = func(int, int) {}
	}
	if err := f.read(pages); err != nil {
		return nil, err
	}
	ways := []func() []proposal{f.elements, f.stretches, f.neighbours}
	proposed := make([][]proposal, len(ways))
	if err := f.parallel(len(ways), 1, func(i int) { proposed[i] = ways[i]() }); err != nil {
		return nil, err
	}
	all, err := f.worthwhile(slices.Concat(proposed[1], proposed[2], proposed[0]))
	if err != nil {
		return nil, err
	}
	return f.rank(all)
}

// read reads the pages as tokens and trees.
func (f *finder) read(pages []Page) error {
	f.pages = make([]page, len(pages))
	seen := make([][]uint32, len(pages))
	if err := f.parallel(len(pages), 16, func(i int) {
		f.pages[i].Page = pages[i]
		f.pages[i].tokens, seen[i] = read(pages[i].Text, pages[i].Hard)
	}); err != nil {
		return err
	}
	count, often := map[uint32]int{}, map[uint32]bool{}
	least := max(leastPages, len(pages)/100)
	for _, s := range seen {
		for _, h := range s {
			if count[h]++; count[h] == least {
				often[h] = true
			}
		}
	}
	return f.parallel(len(pages), 16, func(i int) {
		p := &f.pages[i]
		setForms(p.Text, p.tokens, often)
		p.nodes = f.grammar.grow(p.tokens)
	})
}

// parallel does n things, so many in a row and several rows at once.
func (f *finder) parallel(n, row int, do func(i int)) error {
	g, ctx := errgroup.WithContext(f.ctx)
	g.SetLimit(runtime.GOMAXPROCS(0))
	for from := 0; from < n; from += row {
		g.Go(func() error {
			for i := from; i < min(from+row, n) && ctx.Err() == nil; i++ {
				do(i)
			}
			return ctx.Err()
		})
	}
	return g.Wait()
}

// worthwhile are the proposals that would save most, each once.
func (f *finder) worthwhile(all []proposal) ([]proposal, error) {
	if err := f.parallel(len(all), 64, func(i int) { f.estimate(&all[i]) }); err != nil {
		return nil, err
	}
	seen := map[string]bool{}
	out := all[:0]
	for _, p := range all {
		if p.pages < f.least || p.saves < 4*leastBytes {
			continue
		}
		last := p.spots[len(p.spots)-1]
		key := fmt.Sprint(len(p.spots), p.spots[0], p.spots[len(p.spots)/2], last)
		if !seen[key] {
			seen[key] = true
			out = append(out, p)
		}
	}
	slices.SortStableFunc(out, func(a, b proposal) int { return b.saves - a.saves })
	return f.distinct(out), nil
}

// distinct leaves out proposals that stand nearly where one before them does.
func (f *finder) distinct(all []proposal) []proposal {
	type stretch struct{ spots, from, to int }
	near := map[int32][]stretch{} // by the page of the spot in the middle, and of the first one
	var out []proposal
	for _, p := range all {
		twin := false
		for _, s := range []spot{p.spots[len(p.spots)/2], p.spots[0]} {
			tokens := f.pages[s.page].tokens
			x := stretch{len(p.spots), int(tokens[s.first].from), int(tokens[s.last].to)}
			for _, y := range near[s.page] {
				apart := max(x.from-y.from, y.from-x.from) + max(x.to-y.to, y.to-x.to)
				twin = twin || 12*apart < x.to-x.from && 20*max(x.spots-y.spots, y.spots-x.spots) < y.spots
			}
			if !twin {
				near[s.page] = append(near[s.page], x)
			}
		}
		if twin {
			continue
		}
		if out = append(out, p); len(out) == mostTried {
			break
		}
	}
	return out
}
