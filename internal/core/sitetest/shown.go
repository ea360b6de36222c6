package sitetest

import (
	"brickshelf/internal/core/render"
	"brickshelf/internal/core/shelf"
	"brickshelf/internal/core/site"
)

// Apply makes the changes of a set in files, which have to be what it begins from.
func Apply(t interface {
	Errorf(format string, args ...any)
	FailNow()
}, f site.Files, set site.ChangeSet) site.Files {
	out, err := f.Apply(set)
	if err != nil {
		t.Errorf("%v", err)
		t.FailNow()
	}
	return out
}

// HTML is a page as those see it who are not signed in.
func HTML(s *shelf.Shelf, path string) string {
	return string(render.Page(s, path, render.Options{}).HTML)
}

// Source is the text of a document.
func Source(s *shelf.Shelf, path string) string {
	b, _ := s.Get(path)
	return string(b)
}

// Harbour is a site with a rule that places a block on each of its pages, of which the
// pages say this and that.
func Harbour() site.Files {
	return site.Files{
		"site.yaml":         []byte("format: brickshelf/1\nname: x\n"),
		"layouts/port.html": []byte("---\nregions: {head: {mode: one}, main: {mode: stack}}\n---\n@{region head /}@{region main /}"),
		"blocks/head.html":  []byte("---\nfields: {logo: {type: text, default: std}, phone: {type: text, default: \"1\"}}\n---\n<b>@{=logo}</b>@{=phone}"),
		"rules/head.yaml":   []byte("block: head\nregion: head\non: [all]\nenabled: true\n"),
		"pages/index.html":  []byte("---\ntitle: Home\nlayout: port\n---\n"),
		"pages/a.html":      []byte("---\ntitle: A\nlayout: port\noverrides:\n  head/rule:head: {logo: red, phone: \"2\"}\n---\n"),
		"pages/b.html":      []byte("---\ntitle: B\nlayout: port\noverrides:\n  head/rule:head: {logo: red}\n---\n@{head logo=red /}"),
		"pages/c.html":      []byte("---\ntitle: C\nlayout: port\noverrides:\n  head/rule:gone: {logo: lost}\n  head/rule:head: {logo: blue}\n---\n"),
	}
}
