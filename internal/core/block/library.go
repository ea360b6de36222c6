package block

import (
	"regexp"

	"brickshelf/internal/core/site"
)

// Library says of a block or shortcode from which site it came, what it is called there, and
// which revision of it came: the hashes of its documents, which history holds. A block
// without a style or behaviour has "" for it.
type Library struct {
	Site, Name             string
	Text, Style, Behaviour site.Hash
}

var hashForm = regexp.MustCompile(`^[0-9a-f]{64}$`)

// Library reads where a block came from.
func (h *Head) Library(y *site.YAML) *Library {
	l := &Library{}
	hash := func(p site.Pair) site.Hash {
		s := h.String(p)
		if !hashForm.MatchString(s) {
			h.Fail(p.Value.Line, p.Value.Col, "wrong-type", "%s should be the SHA-256 of a revision in history", p.Key)
		}
		return site.Hash(s)
	}
	h.Keys(y, "library", []string{"site", "name", "text", "style", "behaviour"}, func(p site.Pair) {
		switch p.Key {
		case "site":
			l.Site = h.String(p)
		case "name":
			l.Name = h.String(p)
		case "text":
			l.Text = hash(p)
		case "style":
			l.Style = hash(p)
		case "behaviour":
			l.Behaviour = hash(p)
		}
	})
	if l.Site == "" || l.Name == "" || l.Text == "" {
		h.Fail(y.Line, y.Col, "missing-key", "library should be written as {site: NAME, name: NAME, text: HASH}")
		return nil
	}
	return l
}
