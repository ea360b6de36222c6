package site

import (
	"golang.org/x/text/cases"
	"golang.org/x/text/unicode/norm"
)

// Twins pairs paths that some disks take for the same: those that differ in case or Unicode form
// alone, the earlier one first.
func Twins(paths []string) [][2]string {
	var out [][2]string
	fold := cases.Fold()
	first := make(map[string]string, len(paths))
	for _, p := range paths {
		key := p
		if !plain(p) {
			key = norm.NFC.String(fold.String(norm.NFC.String(p)))
		}
		if other, twice := first[key]; twice {
			out = append(out, [2]string{other, p})
			continue
		}
		first[key] = p
	}
	return out
}

// plain reports whether a path has nothing in it that folding would change.
func plain(p string) bool {
	for i := 0; i < len(p); i++ {
		if p[i] >= 0x80 || 'A' <= p[i] && p[i] <= 'Z' {
			return false
		}
	}
	return true
}
