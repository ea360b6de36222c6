package refer

import (
	"bytes"

	"golang.org/x/net/html"
)

// Differ tells how two versions of a piece of HTML differ in what they refer to.
// It remembers what it read last, since many pages begin alike; each goroutine
// needs one of its own.
type Differ struct {
	head   []byte
	inText bool
}

// Delta tells what b refers to that a did not, and which ids a had that b lacks.
// Both stand between tags, on the page at address.
func (d *Differ) Delta(a, b []byte, address string) (added []Ref, lost []string) {
	from, to := trim(a, b)
	if plain(a[from:len(a)-to]) && plain(b[from:len(b)-to]) && d.textBegins(a[:from]) {
		return nil, nil
	}
	was, is := Scan(a, address), Scan(b, address)
	for _, r := range is.Refs {
		if !was.refersTo(r) {
			added = append(added, r)
		}
	}
	for id := range was.IDs {
		if !is.IDs[id] {
			lost = append(lost, id)
		}
	}
	return added, lost
}

func (f Found) refersTo(r Ref) bool {
	for _, o := range f.Refs {
		if o.Kind == r.Kind && o.To == r.To {
			return true
		}
	}
	return false
}

// trim counts the bytes that two texts share at their beginning and at their end.
func trim(a, b []byte) (from, to int) {
	n := min(len(a), len(b))
	for from < n && a[from] == b[from] {
		from++
	}
	for to < n-from && a[len(a)-1-to] == b[len(b)-1-to] {
		to++
	}
	return from, to
}

// plain reports whether characters can neither begin nor end a tag or a comment.
func plain(b []byte) bool { return !bytes.ContainsAny(b, "<>/!-") }

// textBegins reports whether what follows head surely is text, whatever it is.
func (d *Differ) textBegins(head []byte) bool {
	if d.head != nil && bytes.Equal(d.head, head) {
		return d.inText
	}
	d.head, d.inText = append(d.head[:0], head...), true
	z := html.NewTokenizer(bytes.NewReader(head))
	for at := 0; at < len(head) && d.inText; {
		t := z.Next()
		raw := z.Raw()
		switch at += len(raw); t {
		case html.ErrorToken: // in the middle of a tag
			d.inText = false
		case html.TextToken:
			d.inText = at < len(head) || bytes.IndexByte(raw, '<') < 0
		default:
			d.inText = bytes.HasSuffix(raw, []byte{'>'})
		}
	}
	return d.inText
}
