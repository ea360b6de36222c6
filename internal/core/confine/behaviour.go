package confine

import (
	_ "embed"
	"strconv"
	"strings"
)

//go:embed behaviour.js
var apart string

// Behaviour confines an ES module: its document finds no elements that stand in placements of
// other revisions, and hears of no events there. It is put before the module in one line. What
// is reached otherwise, as through document.body, is not confined.
func Behaviour(module []byte, group, hash string, role Role) []byte {
	var line string // one, so that lines of the module stay what they are
	for l := range strings.Lines(apart) {
		line += strings.TrimSpace(l) + " "
	}
	line = strings.NewReplacer("ATTRIBUTE", strconv.Quote(Attribute(group)), "OWN", strconv.Quote(Short(hash)),
		"REST", strconv.FormatBool(role == Rest)).Replace(line)
	return append([]byte(line), module...)
}
