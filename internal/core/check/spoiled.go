package check

import (
	"bytes"
	"fmt"
	"unicode/utf8"

	"brickshelf/internal/core/shelf"
	"brickshelf/internal/core/site"
)

// Spoiled lists the documents in another encoding than UTF-8 that changes would write with characters
// which that encoding lacks, or of which characters were lost when they were read as UTF-8: what their
// author wrote would be gone.
func Spoiled(draft *shelf.Shelf, changes []site.Change) site.Problems {
	var out site.Problems
	for _, c := range changes {
		was, there := draft.Get(c.Path)
		if class, _, _ := site.Classify(c.Path); !there || class != site.PageDoc {
			continue // all others that are read as texts are UTF-8
		}
		_, at := site.Written(c.After, was)
		if at < 0 {
			continue
		}
		before := c.After[:at]
		r, _ := utf8.DecodeRune(c.After[at:])
		says := fmt.Sprintf("has the character %c, which the encoding of the page lacks; write it as &#%d;", r, r)
		if r == utf8.RuneError {
			says = "is not written in UTF-8, and its characters would be lost; edit the file itself, or bring it as UTF-8"
		}
		out = append(out, site.Problem{Code: "lost-characters", Severity: site.Invalid, Path: c.Path,
			Line:    1 + bytes.Count(before, []byte("\n")),
			Column:  1 + utf8.RuneCount(before[bytes.LastIndexByte(before, '\n')+1:]),
			Message: says})
	}
	return out
}
