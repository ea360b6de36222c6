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
	say(Hidden, "does not show it", "do not show it")
	switch n := im.Breaks(); {
	case im.unread:
	case n == 0:
		parts = append(parts, "Nothing breaks")
	case n == 1:
		parts = append(parts, "1 thing breaks")
	default:
		parts = append(parts, fmt.Sprintf("%d things break", n))
	}
	return strings.Join(parts, ". ") + "."
}
