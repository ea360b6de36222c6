package copies

import (
	"fmt"
	"regexp"
	"slices"
	"strings"

	"brickshelf/internal/core/block"
	"brickshelf/internal/core/edit"
	"brickshelf/internal/core/edit/expansion"
	"brickshelf/internal/core/edit/values"
	"brickshelf/internal/core/merge"
	"brickshelf/internal/core/patch"
	"brickshelf/internal/core/shelf"
	"brickshelf/internal/core/site"
)

// withFields is relink where what fits no field of the block becomes one: a phrase a text, of
// which the block's own words are the default, and other markup a switch, which is off. The
// copy's values are the placement's, and no other page changes. What cannot be a field is lost
// as before.
func withFields(s *shelf.Shelf, path, address string, tries int) (Relinked, error) {
	r, err := relink(s, path, address, tries, false)
	if err != nil {
		return r, err
	}
	c, err := At(s, path, address)
	b := s.Block(c.Of)
	if err != nil || b == nil || r.Before == r.After || c.Holder != "" {
		return relink(s, path, address, tries, true)
	}
	x := expansion.Of(s.With(r.Set.Changes), path, address, s.Info(path).Page.Copies[address] != nil)
	if x == nil {
		return r, nil
	}
	m := maker{s: s, name: b.Name, text: b.Text.Src, literals: x.Literals}
	own := r.Before
	if c.Base != "" { // what the block has become since is no edit of the copy
		pieces := merge.Three(c.Base, c.Text, c.Now)
		ours := []string{}
		for _, p := range pieces {
			if p.Conflict {
				ours = append(ours, p.Ours)
			}
		}
		own = merge.Resolved(pieces, ours)
	}
	differ := merge.Lines(r.After, own)
	for _, d := range slices.Backward(differ) { // so that offsets hold
		m.make(r.After, d.A, own[d.B.From:d.B.To])
	}
	slices.Reverse(m.made)
	plain, err := relink(s, path, address, tries, true)
	if err != nil || len(m.made) == 0 {
		return plain, err
	}
	made := site.Change{Path: b.Path, Before: s.Hash(b.Path), After: edit.TextOf(m.site(), b.Path)}
	out, err := relink(m.site(), path, address, tries, true)
	apart := func(r Relinked) int { return len(lost(own, r.After)) + len(lost(r.After, own)) }
	if err != nil || apart(out) >= apart(plain) {
		return plain, err
	}
	out.Made = m.made
	out.Set.Title += ", with fields for what it has of its own"
	if i := slices.IndexFunc(out.Set.Changes, func(c site.Change) bool { return c.Path == b.Path }); i >= 0 {
		out.Set.Changes[i].Before = made.Before // it has got keys as well
	} else {
		out.Set.Changes = append(out.Set.Changes, made)
	}
	return out, nil
}

// maker makes fields of parts of a block's markup, from its end on.
type maker struct {
	s        *shelf.Shelf
	name     string
	text     []byte // the block's markup as it was
	literals []expansion.Literal
	src      []byte // the block's document as it is by now; nil for as it was
	made     []string
}

func (m *maker) site() *shelf.Shelf {
	if m.src == nil {
		return m.s
	}
	path := "blocks/" + m.name + ".html"
	return m.s.With([]site.Change{{Path: path, Before: m.s.Hash(path), After: m.src}})
}

// make makes fields of a stretch of what the block shows, where the copy has another text.
func (m *maker) make(shown string, at merge.Span, own string) {
	was := len(m.made)
	src := m.src
	phrases := merge.Phrases(shown[at.From:at.To], own)
	for _, d := range slices.Backward(phrases) {
		a := merge.Span{From: at.From + d.A.From, To: at.From + d.A.To}
		if strings.ContainsAny(shown[a.From:a.To]+own[d.B.From:d.B.To], "<>@") || !m.phrase(shown, a) {
			m.made, m.src = m.made[:was], src
			m.part(shown, at, own)
			return
		}
	}
}

// at is where a byte of what is shown stands in the block's markup. It reports false where that
// is no literal part of it, or one that shows more than once.
func (m *maker) at(shown string, i int, end bool) (int, bool) {
	for _, l := range m.literals {
		n := l.Of.Len()
		if i < l.From || i > l.From+n || end && i == l.From || !end && i == l.From+n && i < len(shown) ||
			l.From+n > len(shown) || shown[l.From:l.From+n] != string(m.text[l.Of.From:l.Of.To]) {
			continue
		}
		times := 0
		for _, k := range m.literals {
			if k.Of == l.Of {
				times++
			}
		}
		return l.Of.From + i - l.From, times == 1
	}
	return 0, false
}

// phrase makes a text field of a stretch.
func (m *maker) phrase(shown string, at merge.Span) bool {
	from, ok := m.at(shown, at.From, false)
	to, there := m.at(shown, at.To, true)
	if !ok || !there || to-from != at.To-at.From {
		return false
	}
	now := m.site()
	b := now.Block(m.name)
	name := m.free("text", b)
	set, err := values.FieldFromText(now, m.name, b.Split.TextAt+from, b.Split.TextAt+to, name)
	if err != nil {
		return false
	}
	m.src, m.made = set.Changes[0].After, append(m.made, name)
	return true
}

// part makes a switch of a stretch: where it is on, the copy's text stands there.
func (m *maker) part(shown string, at merge.Span, own string) {
	from, ok := m.at(shown, at.From, at.From == at.To)
	to, there := m.at(shown, at.To, true)
	if at.From == at.To {
		to, there = from, ok
	}
	if !ok || !there || from > to || strings.Contains(own, "@{inner") || strings.Contains(own, "@{=inner") {
		return
	}
	now := m.site()
	b := now.Block(m.name)
	name := m.free("part", b)
	with := "@{when " + name + "}" + own
	if from < to {
		with += "@{else}" + string(m.text[from:to])
	}
	shift := b.Split.TextAt
	src := patch.Apply(edit.TextOf(now, b.Path),
		[]patch.Replacement{patch.Put(shift+from, shift+to, with+"@{/when}")})
	entries := patch.Entries{}.With("type", string(block.Switch))
	if words := wording(own); words != "" {
		entries = entries.With("label", words)
	}
	src, err := patch.Set(b.Path, src, []string{"fields", name}, entries)
	if err != nil {
		return
	}
	_, problems := block.Parse(m.name, b.Path, src, block.NewReader())
	change := site.Change{Path: b.Path, Before: now.Hash(b.Path), After: src}
	if len(problems) > 0 || edit.Unchanged(now, []site.Change{change}, "") != nil {
		return
	}
	m.src, m.made = src, append(m.made, name)
}

func (m *maker) free(name string, b *block.Block) string {
	out := name
	for n := 2; b.Field(out) >= 0; n++ {
		out = fmt.Sprintf("%s-%d", name, n)
	}
	return out
}

var tags = regexp.MustCompile(`<[^>]*>|@\{[^}]*\}|&\w*;`)

// wording is how a text begins, as one reads it.
func wording(text string) string {
	words := strings.Join(strings.Fields(tags.ReplaceAllString(text, " ")), " ")
	if r := []rune(words); len(r) > 40 {
		return strings.TrimSpace(string(r[:40])) + "…"
	}
	return words
}
