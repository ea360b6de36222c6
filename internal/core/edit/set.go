package edit

import (
	"regexp"
	"slices"
	"strings"

	"brickshelf/internal/core/render"
	"brickshelf/internal/core/site"
)

// setsOff is a list of sets in brackets, on the line of its key.
var setsOff = regexp.MustCompile(`^(sets_off:[ \t]*)(?:\[[^\]]*\]|[^\s\[#-][^\s#]*)`)

// SwitchSet switches a set of shortcodes on or off: it edits what site.yaml says of
// it, and nothing else there.
func SwitchSet(s *render.Shelf, set string, on bool) (site.ChangeSet, error) {
	if len(s.InSet(set)) == 0 {
		return site.ChangeSet{}, refuse("there is no set %s", set)
	}
	off := slices.Clone(s.Config().SetsOff)
	title := "Switch off the set " + set
	if on {
		title = "Switch on the set " + set
	}
	if slices.Contains(off, set) != on {
		return site.ChangeSet{}, refuse("the set %s is so already", set)
	}
	if on {
		off = slices.DeleteFunc(off, func(n string) bool { return n == set })
	} else {
		off = append(off, set)
	}
	src, _ := s.Get("site.yaml")
	after, err := withSetsOff(src, off, set, on)
	if err != nil {
		return site.ChangeSet{}, err
	}
	return site.ChangeSet{Title: title, Changes: []site.Change{{Path: "site.yaml", Before: s.Hash("site.yaml"), After: after}}}, nil
}

func withSetsOff(src []byte, off []string, set string, on bool) ([]byte, error) {
	y, problem := site.ParseYAML(src, "site.yaml", 1)
	if problem != nil {
		return nil, problem
	}
	nl := newline(src)
	lines := strings.SplitAfter(string(src), "\n")
	list := "[" + strings.Join(off, ", ") + "]"
	at := slices.IndexFunc(y.Pairs, func(p site.Pair) bool { return p.Key == "sets_off" })
	if at < 0 {
		if text := string(src); text != "" && !strings.HasSuffix(text, "\n") {
			return []byte(text + nl + "sets_off: " + list + nl), nil
		}
		return []byte(string(src) + "sets_off: " + list + nl), nil
	}
	pair := y.Pairs[at]
	line := pair.Line - 1
	switch items := pair.Value.Items; {
	case setsOff.MatchString(lines[line]) && len(off) > 0:
		lines[line] = setsOff.ReplaceAllString(lines[line], "${1}"+list)
	case setsOff.MatchString(lines[line]):
		lines[line] = ""
	case len(items) > 0 && items[0].Line > pair.Line && !on: // an item a line
		last := items[len(items)-1].Line - 1
		dash := strings.Index(lines[last], "-")
		lines[last] = strings.TrimRight(lines[last], "\r\n") + nl + lines[last][:dash] + "- " + set + nl
	case len(items) > 0 && items[0].Line > pair.Line:
		for _, it := range items {
			if it.Text == set {
				lines[it.Line-1] = ""
			}
		}
		if len(off) == 0 {
			lines[line] = ""
		}
	default:
		return nil, refuse("sets_off in site.yaml is written in a way that cannot be edited safely; write it as sets_off: %s", list)
	}
	return []byte(strings.Join(lines, "")), nil
}
