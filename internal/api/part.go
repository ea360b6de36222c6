package api

import (
	"net/http"
	"sort"
	"strings"

	"brickshelf/internal/core/block"
	"brickshelf/internal/core/markup"
	"brickshelf/internal/core/render"
	"brickshelf/internal/core/shelf"
	"brickshelf/internal/core/site"
)

// partPage is where a call is put to be rendered by itself.
const partPage = "pages/shelf-part.html"

// renderPart answers /render/blocks/NAME?field=value with the HTML of a published
// block, and /render/pages/PATH with that of a published page, for server-side
// includes and for scripts. It reports false where a page of the site stands at
// the address itself.
func renderPart(rw http.ResponseWriter, r *http.Request, live *shelf.Shelf) bool {
	if in := live.Page(r.URL.Path); in != nil {
		return false
	}
	if path, ok := strings.CutPrefix(r.URL.Path, "/render/pages"); ok {
		in := live.Page(path)
		if in == nil || in.Draft {
			http.Error(rw, "There is no published page at "+path+".", http.StatusNotFound)
			return true
		}
		content(rw, r, "x.html", render.AppendPage(live, nil, in))
		return true
	}
	name, ok := strings.CutPrefix(r.URL.Path, "/render/blocks/")
	if !ok {
		return false
	}
	b := live.Block(name)
	if b == nil {
		http.Error(rw, "There is no published block "+name+".", http.StatusNotFound)
		return true
	}
	call, problem := callOf(b, r)
	if problem != "" {
		http.Error(rw, problem, http.StatusBadRequest)
		return true
	}
	o := live.With([]site.Change{{Path: partPage, After: []byte("<head></head>" + call)}})
	res := render.Page(o, partPage, render.Options{})
	for _, f := range res.Styles {
		rw.Header().Add("Link", "<"+f.URL()+">; rel=stylesheet")
	}
	for _, f := range res.Behaviours {
		rw.Header().Add("Link", "<"+f.URL()+">; rel=modulepreload")
	}
	_, html, _ := strings.Cut(string(res.HTML), "</head>")
	// The query decides what it shows, so nobody who is led here may run anything in the
	// site's name; in a page that includes it the page's own policy holds.
	rw.Header().Set("Content-Security-Policy",
		"sandbox; default-src 'none'; style-src * 'unsafe-inline'; img-src *; font-src *; frame-ancestors 'none'")
	content(rw, r, "x.html", []byte(html))
	return true
}

// callOf writes the call that a query asks for, or says what is wrong with it.
func callOf(b *block.Block, r *http.Request) (call, problem string) {
	reader := block.NewReader()
	query := r.URL.Query()
	names := make([]string, 0, len(query))
	for n := range query {
		names = append(names, n)
	}
	sort.Strings(names)
	call = "@{" + b.Name
	for _, n := range names {
		i := b.Field(n)
		if i < 0 {
			return "", b.Name + " has no field " + n + block.Nearest(n, b.FieldNames()) + "."
		}
		v, err := reader.Argument(b.Fields[i], markup.ArgValue{Kind: markup.ArgText, Text: query.Get(n)})
		if err != nil {
			return "", err.Error() + "."
		}
		call += " " + n + "=" + v.Argument()
	}
	for _, f := range b.Fields {
		if f.Required && !query.Has(f.Name) && !f.Default.IsSet() {
			return "", b.Name + " needs the field " + f.Name + ", as in ?" + f.Name + "=…."
		}
	}
	return call + " /}", ""
}
