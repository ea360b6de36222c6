package render_test

import (
	"bytes"
	"fmt"
	"html/template"
	"testing"

	"brickshelf/internal/core/impact"
	"brickshelf/internal/core/render"
	"brickshelf/internal/core/site"
	"brickshelf/internal/core/sitetest"
	"brickshelf/internal/generate"
)

const pages = 10_000

func shelf(b *testing.B, n int) *render.Shelf {
	s := render.New(generate.Site(n), sitetest.Now)
	for _, p := range s.PagePaths() {
		s.Render(p, render.Options{})
	}
	b.ResetTimer()
	return s
}

func BenchmarkCopyBytes(b *testing.B) {
	s := shelf(b, pages)
	var all [][]byte
	for _, p := range s.PagePaths() {
		all = append(all, s.Render(p, render.Options{}).HTML)
	}
	var buf []byte
	b.ResetTimer()
	for b.Loop() {
		for _, p := range all {
			buf = append(buf[:0], p...)
		}
	}
	b.SetBytes(int64(len(buf)) * pages)
}

func BenchmarkRenderSite(b *testing.B) {
	s := shelf(b, pages)
	paths := s.PagePaths()
	var buf []byte
	b.ResetTimer()
	for b.Loop() {
		for _, p := range paths {
			buf = s.AppendPage(buf[:0], p)
		}
	}
}

// BenchmarkHTMLTemplate renders the same texts with the standard library: one
// template a page, the blocks as associated templates.
func BenchmarkHTMLTemplate(b *testing.B) {
	const n = 500 // of pages; the figure is scaled to the whole site
	s := render.New(generate.Site(n), sitetest.Now)
	base := template.Must(template.New("card").Parse(`<div class="card {{.Tone}}"><h3>{{.Title}}</h3><p>{{.Text}}</p></div>`))
	template.Must(base.New("note").Parse(`<aside class="{{.Tone}}"><p>Mind the gap, page {{.Page}}.</p></aside>`))
	template.Must(base.New("side").Parse(`<section><h2>{{.}}</h2><p>text</p></section>`))
	template.Must(base.New("header").Parse(`<header><img src="{{.Logo}}" alt=""><ul class="menu">{{range .Items}}<li><a href="{{.To}}">{{.Label}}</a></li>{{end}}</ul></header>`))
	type item struct{ To, Label string }
	type view struct {
		Title, Logo, Tone, Text, Page string
		Items                         []item
	}
	var all []*template.Template
	for _, p := range s.PagePaths() {
		html := s.Render(p, render.Options{}).HTML
		page := template.Must(base.Clone())
		lit := func(b []byte) string { return string(bytes.ReplaceAll(b, []byte("{{"), []byte("{"))) }
		chunk := len(html) / 12
		text := `{{template "header" .}}{{template "side" .Title}}{{template "side" .Title}}{{template "side" .Title}}`
		cut := bytes.Split(html, []byte("</p>\n<p>"))
		for i, c := range cut {
			text += lit(c) + "</p>\n<p>"
			if i*12/len(cut) != (i+1)*12/len(cut) {
				text += `{{template "card" .}}{{template "note" .}}`
			}
		}
		_ = chunk
		all = append(all, template.Must(page.New("page").Parse(text)))
	}
	v := view{"Page", "/assets/logo.svg", "calm", "No more is known.", "1", []item{{"/a/", "A"}, {"/b/", "B"}, {"/c/", "C"}, {"/d/", "D"}}}
	var buf bytes.Buffer
	b.ResetTimer()
	for b.Loop() {
		for _, t := range all {
			buf.Reset()
			if err := t.ExecuteTemplate(&buf, "page", v); err != nil {
				b.Fatal(err)
			}
		}
	}
	b.ReportMetric(float64(b.Elapsed().Nanoseconds())/float64(b.N)*pages/n, "site-ns/op")
}

func change(s *render.Shelf, block, after string) []site.Change {
	path := "blocks/" + block + ".html"
	src, _ := s.Get(path)
	return []site.Change{{Path: path, Before: s.Hash(path), After: append(append([]byte{}, src...), after...)}}
}

func BenchmarkImpact(b *testing.B) {
	for _, c := range []struct {
		name, block string
		pages       int
	}{{"rare on 20 pages of 1000", "rare", 1000}, {"rare on 20 pages of 10000", "rare", pages}, {"rare on 20 pages of 100000", "rare", 100_000},
		{"claim everywhere alike", "header-plain", pages}, {"header depends on page", "header", pages}, {"cards in text", "card", pages}} {
		b.Run(fmt.Sprint(c.name), func(b *testing.B) {
			if c.pages > pages && testing.Short() {
				b.Skip()
			}
			s := shelf(b, c.pages)
			set := change(s, c.block, "<hr>")
			b.ResetTimer()
			for b.Loop() {
				impact.Of(s, s.With(set))
			}
		})
	}
}
