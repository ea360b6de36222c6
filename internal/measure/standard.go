package main

import (
	"bytes"
	"html/template"
	"strings"
)

// standardLibrary gives what renders pages of the same size, with as many calls, by
// html/template; of so many pages it is that share.
func standardLibrary(html [][]byte) (once func(), share int) {
	const sample = 500
	base := template.Must(template.New("card").Parse(`<div class="card {{.Tone}}"><h3>{{.Title}}</h3><p>{{.Text}}</p></div>`))
	template.Must(base.New("note").Parse(`<aside class="{{.Tone}}"><p>Mind the gap, page {{.Number}}.</p></aside>`))
	template.Must(base.New("side").Parse(`<section><h2>{{.}}</h2><p>text</p></section>`))
	template.Must(base.New("header").Parse(`<header><img src="{{.Logo}}" alt=""><ul class="menu">{{range .Items}}<li><a href="{{.To}}">{{.Label}}</a></li>{{end}}</ul></header>`))
	type item struct{ To, Label string }
	v := struct {
		Title, Logo, Tone, Text, Number string
		Items                           []item
	}{"Page", "/assets/logo.svg", "calm", "No more is known.", "1", []item{{"/a/", "A"}, {"/b/", "B"},
		{"/c/", "C"}, {"/d/", "D"}}}
	var all []*template.Template
	for _, h := range html[:sample] {
		text := strings.ReplaceAll(string(h), "{{", "{")
		parts := strings.SplitAfter(text, "</p>\n")
		var b strings.Builder
		b.WriteString(`{{template "header" .}}{{template "side" .Title}}{{template "side" .Title}}{{template "side" .Title}}`)
		for i, p := range parts {
			b.WriteString(p)
			if i*6/len(parts) != (i+1)*6/len(parts) {
				b.WriteString(`{{template "card" .}}{{template "note" .}}`)
			}
		}
		all = append(all, template.Must(template.Must(base.Clone()).New("page").Parse(b.String())))
	}
	var buf bytes.Buffer
	return func() {
		for _, t := range all {
			buf.Reset()
			_ = t.ExecuteTemplate(&buf, "page", v)
		}
	}, len(html) / sample
}
