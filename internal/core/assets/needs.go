package assets

import (
	"strings"

	"brickshelf/internal/core/site"
)

// eachNeed begins the hash of a behaviour that is started for each placement.
const eachNeed = "each:"

// Needs are the words in which a copy says which behaviours come before its own.
func Needs(list []File) string {
	var out []string
	for _, f := range list {
		switch {
		case f.Hash == "":
		case f.Each:
			out = append(out, eachNeed+string(f.Hash))
		default:
			out = append(out, string(f.Hash))
		}
	}
	return strings.Join(out, " ")
}

// Needed are the behaviours that such words name.
func Needed(words string) []File {
	var out []File
	for _, n := range strings.Fields(words) {
		hash, each := strings.CutPrefix(n, eachNeed)
		out = append(out, File{Hash: site.Hash(hash), Ext: ".js", Each: each})
	}
	return out
}
