package impact

import (
	"fmt"
	"strings"
)

// Sentence says the impact in words, with numbers.
func (im *Impact) Sentence() string {
	var parts []string
	say := func(e Effect, one, many string) {
		switch n := im.Counts[e]; n {
		case 0:
		case 1:
			parts = append(parts, "1 "+one)
		default:
			parts = append(parts, fmt.Sprintf("%d %s", n, many))
		}
	}
	switch n := im.Counts[Changes]; n {
	case 0:
		parts = append(parts, "No page changes")
	case 1:
		parts = append(parts, "Changes 1 page")
	default:
		parts = append(parts, fmt.Sprintf("Changes %d pages", n))
	}
	switch im.moved {
	case 0:
	case 1:
		parts = append(parts, "1 page gets another address")
	default:
		parts = append(parts, fmt.Sprintf("%d pages get another address", im.moved))
	}
	say(Added, "page is added", "pages are added")
	say(Removed, "page is removed", "pages are removed")
	say(Held, "keeps its own value", "keep their own value")
	say(Copied, "holds a copy and stays as it is", "hold a copy and stay as they are")
	say(Hidden, "page hides it or lacks the region", "pages hide it or lack the region")
	for _, l := range im.Later {
		switch {
		case l.Pages == im.Counts[Changes]: // as today
		case l.Pages == 1:
			parts = append(parts, "From "+l.Day+" on 1 page changes")
		default:
			parts = append(parts, fmt.Sprintf("From %s on %d pages change", l.Day, l.Pages))
		}
	}
	switch n := im.Breaks(); {
	case im.unread:
	case n == 0:
		parts = append(parts, "No new errors")
	case n == 1:
		parts = append(parts, "1 thing breaks: "+im.broken())
	default:
		parts = append(parts, fmt.Sprintf("%d things break: %s", n, im.broken()))
	}
	return strings.Join(parts, ". ") + "."
}

// maxWords is how many of the things that break the sentence says in words.
const maxWords = 2

// broken says what breaks, in words: the first few kinds of it, each with where it does.
func (im *Impact) broken() string {
	where := map[string][]string{}
	var order []string
	say := func(b Break, at string) {
		message := plainly(b.Message)
		if where[message] == nil {
			order = append(order, message)
		}
		where[message] = append(where[message], at)
	}
	for _, b := range im.Documents {
		say(b, b.Address)
	}
	for _, p := range im.Pages {
		for _, b := range p.Breaks {
			say(b, p.Path)
		}
	}
	var parts []string
	for i, m := range order {
		if i == maxWords {
			parts = append(parts, "and more")
			break
		}
		at := where[m][0]
		switch n := len(where[m]); {
		case n == 2:
			at += " and " + where[m][1]
		case n > 2:
			at += fmt.Sprintf(" and %d more", n-1)
		}
		parts = append(parts, m+" ("+at+")")
	}
	return strings.Join(parts, "; ")
}
