package check

import (
	"bytes"
	"fmt"
	"unicode/utf8"

	"brickshelf/internal/core/shelf"
	"brickshelf/internal/core/site"
)

// unread is what stands in a text where a character was that could not be read.
const unread = "\uFFFD"

// Spoiled lists the documents in another encoding than UTF-8 that changes would write as texts of which
// characters were lost when they were read as UTF-8: what their author wrote would be gone.
func Spoiled(draft *shelf.Shelf, changes []site.Change) site.Problems {
	var out site.Problems
	for _, c := range changes {
		n := bytes.Count(c.After, []byte(unread))
		if n == 0 || !utf8.Valid(c.After) {
			continue
		}
		if was, there := draft.Get(c.Path); !there || utf8.Valid(was) {
			continue
		}
		before := c.After[:bytes.Index(c.After, []byte(unread))]
		out = append(out, site.Problem{Code: "lost-characters", Severity: site.Invalid, Path: c.Path,
			Line:   1 + bytes.Count(before, []byte("\n")),
			Column: 1 + utf8.RuneCount(before[bytes.LastIndexByte(before, '\n')+1:]),
			Message: fmt.Sprintf("is not written in UTF-8, and %d of its characters would be lost; "+
				"edit the file itself, or bring it as UTF-8", n)})
	}
	return out
}
