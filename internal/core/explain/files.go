package explain

import (
	"bytes"
	"path"
	"slices"

	"brickshelf/internal/core/refer"
	"brickshelf/internal/core/render"
	"brickshelf/internal/core/shelf"
)

// Showing lists the documents of the pages that show or lead to the file at an address, in their
// HTML or by a style or behaviour that they load, for those who are signed in too.
func Showing(s *shelf.Shelf, url string) []string {
	var out []string
	loaded := map[string]bool{} // of styles and behaviours, by address: whether it names the file
	for _, p := range s.PagePaths() {
		in := s.Info(p)
		if !in.Listed {
			continue
		}
		found := shows(s, p, url, render.Options{}, loaded) ||
			in.SignedIn() != nil && shows(s, p, url, render.Options{SignedIn: true}, loaded)
		if found {
			out = append(out, p)
		}
	}
	return out
}

func shows(s *shelf.Shelf, p, url string, as render.Options, loaded map[string]bool) bool {
	res := render.Page(s, p, as)
	for _, f := range slices.Concat(res.Styles, res.Behaviours) {
		named, known := loaded[f.URL()]
		if !known {
			b, _ := f.Bytes(s)
			named = names(b, url)
			loaded[f.URL()] = named
		}
		if named {
			return true
		}
	}
	if !bytes.Contains(res.HTML, []byte(path.Base(url))) {
		return false
	}
	for _, r := range refer.Scan(res.HTML, s.Info(p).URL).Refs {
		if r.Kind != refer.ToElement && r.To == url {
			return true
		}
	}
	return names(res.HTML, url)
}

// names reports whether a text holds an address as a whole, as in url(…) or srcset.
func names(text []byte, url string) bool {
	for {
		i := bytes.Index(text, []byte(url))
		if i < 0 {
			return false
		}
		text = text[i+len(url):]
		if len(text) == 0 || bytes.IndexByte([]byte("\"') ?#,;<\t\r\n&"), text[0]) >= 0 {
			return true
		}
	}
}
