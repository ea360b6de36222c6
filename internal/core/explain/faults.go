package explain

import (
	"slices"

	"brickshelf/internal/core/render"
	"brickshelf/internal/core/shelf"
)

// Faults lists what does not work on the page at a path, for either audience.
func Faults(s *shelf.Shelf, path string) []render.Fault {
	res := render.Page(s, path, render.Options{})
	if res == nil {
		return nil
	}
	if s.Info(path).SignedIn() == nil {
		return res.Faults
	}
	return Both(res.Faults, render.Page(s, path, render.Options{SignedIn: true}).Faults)
}

// FaultsAhead lists what does not work on the page at a path on a day ahead on which rules
// begin or end, and is not known yet. Each says from when on.
func FaultsAhead(s *shelf.Shelf, path string, known []render.Fault) []render.Fault {
	type key struct{ code, address, field string }
	told := map[key]bool{}
	for _, f := range known {
		told[key{f.Code, f.Address, f.Field}] = true
	}
	var out []render.Fault
	for _, v := range s.Views(path) {
		if v.Day == "" {
			continue
		}
		for _, f := range render.PageAs(v, path, render.Options{}).Faults {
			if k := (key{f.Code, f.Address, f.Field}); !told[k] {
				told[k] = true
				f.Message = "from " + v.Day + " on: " + f.Message
				out = append(out, f)
			}
		}
	}
	return out
}

// Both lists the faults that one audience meets and those that only the other does.
func Both(one, other []render.Fault) []render.Fault {
	out := slices.Clone(one)
	for _, f := range other {
		if !slices.Contains(out, f) {
			out = append(out, f)
		}
	}
	return out
}
