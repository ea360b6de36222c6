// Package publish writes a site as plain files: every page's HTML, the styles
// and behaviours by content hash, the files as they are and a sitemap.
package publish

import (
	"bytes"
	"encoding/xml"
	"fmt"
	"net/url"
	"slices"
	"strings"

	"brickshelf/internal/core/assets"
	"brickshelf/internal/core/explain"
	"brickshelf/internal/core/picture"
	"brickshelf/internal/core/render"
	"brickshelf/internal/core/shelf"
	"brickshelf/internal/core/site"
	"brickshelf/internal/folder"
	"brickshelf/internal/pictures"
)

// ForSignedIn is the folder of the pages that those who are signed in see in place of
// the others.
const ForSignedIn = "_for/signed-in/"

// Output is a published site before it is written: file to bytes, and what does
// not work in it.
type Output struct {
	Files  site.Files
	Faults map[string][]render.Fault // by page address
}

// Render renders the whole site.
func Render(s *shelf.Shelf, progress folder.Progress) (*Output, error) {
	return RenderWith(s, pictures.Kept(), progress)
}

// RenderWith is Render with a maker of the smaller pictures that the pages show.
func RenderWith(s *shelf.Shelf, made *pictures.Maker, progress folder.Progress) (*Output, error) {
	out := &Output{Files: site.Files{}, Faults: map[string][]render.Fault{}}
	var urls []string
	paths := s.PagePaths()
	for i, p := range paths {
		g := s.Info(p).Page
		if progress != nil {
			progress(i+1, len(paths))
		}
		if g.Draft {
			continue
		}
		if g.Redirect == "" {
			urls = append(urls, g.URL)
		}
		res := render.Page(s, p, render.Options{})
		if err := out.page(s, site.FileOf(g.URL), g.URL, res); err != nil {
			return nil, fmt.Errorf("%s: %w", p, err)
		}
		if s.Info(p).SignedIn() != nil {
			other := render.Page(s, p, render.Options{SignedIn: true})
			if bytes.Equal(res.HTML, other.HTML) { // what is at fault may show nothing
				out.faults(g.URL, other.Faults)
			} else if err := out.page(s, ForSignedIn+site.FileOf(g.URL), g.URL, other); err != nil {
				return nil, fmt.Errorf("%s: %w", p, err)
			}
		}
		out.faults(g.URL, explain.FaultsAhead(s, p, out.Faults[g.URL]))
	}
	if err := out.pictures(s, made); err != nil {
		return nil, err
	}
	if !s.Config().NoSitemap {
		out.Files["sitemap.xml"] = Sitemap(s.Config().BaseURL, urls)
	}
	for _, p := range slices.Concat(s.Paths("assets/"), s.Paths("files/")) {
		out.Files[site.FileURL(p)[1:]], _ = s.Get(p)
	}
	return out, nil
}

// page puts a rendered page among the files, with what it loads.
func (o *Output) page(s *shelf.Shelf, file, url string, res *render.Result) error {
	o.Files[file] = res.HTML
	o.faults(url, res.Faults)
	for _, f := range slices.Concat(res.Styles, res.Behaviours) {
		if err := o.shelfFile(s, f); err != nil {
			return err
		}
	}
	return nil
}

// pictures puts the smaller pictures among the files that the pages show.
func (o *Output) pictures(s *shelf.Shelf, made *pictures.Maker) error {
	var of map[string][]byte
	for _, page := range o.Files.Paths() {
		for _, name := range picture.In(o.Files[page]) {
			file := "_shelf/" + name
			if o.Files[file] != nil {
				continue
			}
			if of == nil {
				of = s.Pictures()
			}
			hash, width, _ := picture.Read(name)
			b, there := of[hash]
			if !there { // somebody has written such an address himself
				continue
			}
			out, err := made.Make(name, width, b)
			if err != nil {
				return fmt.Errorf("%s, as the page %s shows it: %w", name, page, err)
			}
			o.Files[file] = out
		}
	}
	return nil
}

func (o *Output) faults(url string, list []render.Fault) {
	if faults := explain.Both(o.Faults[url], list); len(faults) > 0 {
		o.Faults[url] = faults
	}
}

func (o *Output) shelfFile(s *shelf.Shelf, f assets.File) error {
	name := strings.TrimPrefix(f.URL(), "/")
	if o.Files[name] != nil {
		return nil
	}
	b, ok := f.Bytes(s)
	if !ok {
		return fmt.Errorf("the %s file with the hash %s is neither a block's nor in history; link the copy that needs it again", f.Ext, f.Hash)
	}
	o.Files[name] = b
	return nil
}

// Sitemap lists the pages as sitemaps.org describes it, their addresses written as RFC
// 3986 does.
func Sitemap(base string, urls []string) []byte {
	var b bytes.Buffer
	b.WriteString(xml.Header + `<urlset xmlns="http://www.sitemaps.org/schemas/sitemap/0.9">` + "\n")
	for _, u := range urls {
		b.WriteString("<url><loc>")
		_ = xml.EscapeText(&b, []byte(base+(&url.URL{Path: u}).EscapedPath()))
		b.WriteString("</loc></url>\n")
	}
	b.WriteString("</urlset>\n")
	return b.Bytes()
}
