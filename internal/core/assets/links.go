package assets

import (
	"bytes"
	"html"
)

// Add adds a file to those of a page, where there is one, and it has not been seen.
func Add(list []File, seen map[File]bool, f File) []File {
	if f.Hash == "" || seen[f] {
		return list
	}
	seen[f] = true
	return append(list, f)
}

// Links are the elements by which the page at an address loads styles and behaviours.
func Links(url string, styles, behaviours []File) []byte {
	var out []byte
	for _, f := range styles {
		out = append(out, `<link rel="stylesheet" href="`+f.URL()+"\">\n"...)
	}
	for _, f := range behaviours {
		out = append(out, `<script type="module" src="`+f.URL()+`"`...)
		if f.Each {
			out = append(out, ` data-shelf-run="`+run(f.Hash)+`"`...)
		}
		if f == Starter() {
			out = append(out, ` data-shelf-page="`+html.EscapeString(url)+`"`...)
		}
		out = append(out, "></script>\n"...)
	}
	return out
}

// HeadEnd is where </head> stands, or the beginning of a text without one.
func HeadEnd(b []byte) int {
	if i := bytes.Index(b, []byte("</head>")); i >= 0 {
		return i
	}
	if i := bytes.Index(b, []byte("</HEAD>")); i >= 0 {
		return i
	}
	return 0
}
