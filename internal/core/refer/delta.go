package refer

import (
	"bytes"

	"golang.org/x/net/html"
	"golang.org/x/net/html/atom"
)

// Differ tells how two versions of a piece of HTML differ in what they refer to.
// It remembers what it read last, since many pages begin alike; each goroutine
// needs one of its own.
type Differ struct {
	heads map[string]bool // whether text begins behind them

	was, is []byte // the versions last found to refer to the same things
}

// Delta tells what b refers to that a may not have referred to, and which ids a had that b
// may lack: all that is so, and what is elsewhere in what they share too, which is read
// only where it must be. Both stand between tags, on the page at address.
func (d *Differ) Delta(a, b []byte, address string) (added []Ref, lost []string) {
	if same(a, d.was) && same(b, d.is) {
		return nil, nil
	}
	from, to := trim(a, b)
	was, is := d.read(a, b, from, to, address)
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
	if len(was.Refs)+len(is.Refs)+len(was.IDs)+len(is.IDs) == 0 {
		d.was, d.is = a, b
	}
	return added, lost
}

// read scans two texts that share so many bytes at their beginning and at their end: what
// differs alone where that is read as it would be in the whole.
func (d *Differ) read(a, b []byte, from, to int, address string) (was, is Found) {
	x, y := a[from:len(a)-to], b[from:len(b)-to]
	if (plain(x) && plain(y) || tame(x) && tame(y)) && d.textBegins(a[:from]) {
		return Found{}, Found{}
	}
	if i := bytes.IndexByte(a[len(a)-to:], '<'); i >= 0 { // a tag may end in what they share at the end
		to -= i
	} else {
		to = 0
	}
	x, y = a[from:len(a)-to], b[from:len(b)-to]
	if !quick(x) || !quick(y) || !quick(a[:from]) {
		x, y = a, b
	}
	return Scan(x, address), Scan(y, address)
}

// same reports whether two slices are the same bytes in memory.
func same(a, b []byte) bool { return len(a) > 0 && len(a) == len(b) && &a[0] == &b[0] }

// Mark stands in a text for what is filled in when the text is shown.
const Mark = '\x01'

// Inert reports whether the difference between two versions of a text surely
// changes nothing that can be referred to and refers to nothing, wherever the text
// is shown: what differs stands between tags, and is text and whole tags without
// ids and references.
func Inert(a, b []byte) bool {
	from, to := trim(a, b)
	var d Differ
	return d.textBegins(a[:from]) && tame(a[from:len(a)-to]) && tame(b[from:len(b)-to])
}

// tame reports whether a piece that begins between tags ends there too, and holds
// neither ids nor references, nor what makes text of the tags that follow it: text,
// and tags of calm elements without attributes.
func tame(b []byte) bool {
	for len(b) > 0 {
		i := bytes.IndexByte(b, '<')
		if i < 0 {
			i = len(b)
		}
		if bytes.IndexByte(b[:i], Mark) >= 0 {
			return false
		}
		if b = b[i:]; len(b) == 0 {
			break
		}
		end := bytes.IndexByte(b, '>')
		if end < 0 || !calm[atom.Lookup(bytes.Trim(b[1:end], "/"))] {
			return false
		}
		b = b[end+1:]
	}
	return true
}

// calm are elements whose content is read like that of any other.
var calm = map[atom.Atom]bool{atom.P: true, atom.Br: true, atom.Hr: true, atom.B: true, atom.I: true,
	atom.Em: true, atom.Strong: true, atom.Span: true, atom.Div: true,
	atom.Ul: true, atom.Ol: true, atom.Li: true, atom.Section: true, atom.Small: true, atom.H2: true,
	atom.H3: true, atom.H4: true}

func (f Found) refersTo(r Ref) bool {
	for _, o := range f.Refs {
		if o.Kind == r.Kind && o.To == r.To {
			return true
		}
	}
	return false
}

// trim counts the bytes that two texts share at their beginning and at their end.
// A tag begun in what they share is left to what differs.
func trim(a, b []byte) (from, to int) {
	n := min(len(a), len(b))
	for from < n && a[from] == b[from] {
		from++
	}
	if tag := bytes.LastIndexByte(a[:from], '<'); tag > bytes.LastIndexByte(a[:from], '>') {
		from = tag
	}
	for to < n-from && a[len(a)-1-to] == b[len(b)-1-to] {
		to++
	}
	return from, to
}

// plain reports whether characters can neither begin nor end a tag or a comment.
func plain(b []byte) bool { return !bytes.ContainsAny(b, "<>/!-") }

// quick reports whether what follows head surely is text and tags, where that shows at a
// glance: nothing in it is read otherwise, and quotes stand in tags just around the values
// of attributes. It says no to much that is so as well.
func quick(head []byte) bool {
	for {
		i := bytes.IndexByte(head, '<')
		if i < 0 {
			return true
		}
		if head = head[i+1:]; bytes.HasPrefix(head, doctype) {
			head = head[len(doctype):]
			continue
		}
		closes := len(head) > 0 && head[0] == '/'
		if closes {
			head = head[1:]
		}
		name := 0
		for name < len(head) && ('a' <= head[name] && head[name] <= 'z' ||
			'0' <= head[name] && head[name] <= '9') {
			name++
		}
		if name == 0 {
			return false
		}
		if opaque[string(head[:name])] && !closes {
			// Its content has to be text alone.
			end := "</" + string(head[:name]) + ">"
			i := bytes.IndexByte(head, '<')
			if i <= name || head[name] != '>' || !bytes.HasPrefix(head[i:], []byte(end)) {
				return false
			}
			head = head[i+len(end):]
			continue
		}
		head = head[name:]
		for {
			end := bytes.IndexAny(head, "<>\"'")
			if end < 0 || head[end] == '<' {
				return false
			}
			c := head[end]
			if c == '>' {
				head = head[end+1:]
				break
			}
			if end == 0 || head[end-1] != '=' {
				return false
			}
			head = head[end+1:]
			if end = bytes.IndexByte(head, c); end < 0 {
				return false
			}
			head = head[end+1:]
		}
	}
}

var doctype = []byte("!doctype html>")

// opaque are elements whose content is not read as tags.
var opaque = map[string]bool{"script": true, "style": true, "title": true, "textarea": true, "xmp": true,
	"iframe": true, "noembed": true, "noframes": true, "noscript": true, "plaintext": true}

// So many beginnings are remembered.
const maxHeads = 64

// textBegins reports whether what follows head surely is text, whatever it is.
func (d *Differ) textBegins(head []byte) bool {
	if known, ok := d.heads[string(head)]; ok {
		return known
	}
	if d.heads == nil {
		d.heads = map[string]bool{}
	}
	if quick(head) {
		return true
	}
	inText := true
	z := html.NewTokenizer(bytes.NewReader(head))
	for at := 0; at < len(head) && inText; {
		t := z.Next()
		raw := z.Raw()
		switch at += len(raw); t {
		case html.ErrorToken: // in the middle of a tag
			inText = false
		case html.TextToken:
			inText = at < len(head) || bytes.IndexByte(raw, '<') < 0
		case html.CommentToken: // one that ends nowhere is one, too
			inText = at < len(head) || bytes.HasSuffix(raw, []byte("-->")) ||
				!bytes.HasPrefix(raw, []byte("<!--")) && bytes.HasSuffix(raw, []byte{'>'})
		default:
			inText = bytes.HasSuffix(raw, []byte{'>'})
		}
	}
	if len(d.heads) < maxHeads {
		d.heads[string(head)] = inText
	}
	return inText
}
