package render

import (
	"bytes"
	"html"
	"time"
	"unicode/utf8"

	"brickshelf/internal/core/block"
	"brickshelf/internal/core/markup"
	"brickshelf/internal/core/place"
	"brickshelf/internal/core/script"
	"brickshelf/internal/core/shelf"
)

// runScript shows what a scripted shortcode gives at a call.
func (r *renderer) runScript(c *script.Script, n *markup.Node, sc *scope, address string) {
	if r.listing {
		r.list(c.Name)
	}
	if r.s.Runner() == nil {
		r.fault(Fault{Code: "not-run", Address: address,
			Message: "scripted shortcodes are not run here, so " + c.Name + " shows nothing"})
		return
	}
	call := scriptCall(r.s, c, r.info, !r.strip)
	if call.Page != nil {
		r.alone = true
	}
	mark := len(r.values)
	defer func() { r.values = r.values[:min(mark, len(r.values))] }()
	values, own := r.bind(c.Called, address, n, nil, sc)
	var given bool
	if call.Args, given = scriptArgs(c, values); !given {
		return
	}
	at := r.begin(Placement{Address: address, Block: c.Name, Kind: Linked, Via: r.via(n, nil, sc),
		InText: sc.own && sc.loops == nil && n.Context == markup.InText && sc.pageText, Own: own})
	defer func() { r.end(at) }()
	from, traced := len(r.buf), 0
	if r.trace != nil {
		traced = len(*r.trace)
	}
	if c.Encloses && len(n.Body) > 0 {
		r.nodes(n.Body, sc)
		call.Inner = bytes.Clone(r.buf[from:])
		r.buf = r.buf[:from]
	}
	if !utf8.Valid(call.Inner) {
		r.fault(Fault{Code: "script-failed", Address: address,
			Message: "what this call encloses is not UTF-8, and " + c.Name +
				" cannot read it; save the page in that encoding"})
		return
	}
	out, failure := r.s.Runner().Run(call)
	if failure != nil {
		r.fault(Fault{Code: "script-failed", Address: address, Message: failure.Error()})
	} else if out.HTML {
		r.buf = append(r.buf, out.Text...)
	} else {
		r.buf = append(r.buf, html.EscapeString(out.Text)...)
	}
	if r.trace != nil {
		r.enclosedPlacements((*r.trace)[traced:], from, call.Inner)
	}
}

// scriptCall is a call of a script on a page, without its arguments and what it
// encloses. own is false where the page's own values are left out.
func scriptCall(s *shelf.Shelf, c *script.Script, in *shelf.Info, own bool) script.Call {
	call := script.Call{Script: c, Site: s.SiteRecord(), Data: map[string]*script.Data{},
		Now: s.Now().UTC().Truncate(24 * time.Hour).Format(time.RFC3339)}
	for _, what := range c.Reads {
		if what == script.Page {
			call.Page = shelf.JSON(s.PageRecord(in, own))
		} else {
			call.Data[what] = s.SiteData(what)
		}
	}
	return call
}

// TryScript runs a script, which need not be one of the site, as a call on the page
// at an address would; where there is none, on the home page.
func TryScript(s *shelf.Shelf, c *script.Script, args map[string]any, inner []byte,
	page string) (script.Output,
	*script.Failure) {
	in := s.Page(page)
	if in == nil {
		in = s.Page(s.Config().Home)
	}
	if in == nil {
		in = &shelf.Info{Page: &place.Page{}}
	}
	if s.Runner() == nil {
		return script.Output{}, &script.Failure{Path: c.Path, Line: 1, Column: 1,
			Message: "scripted shortcodes are not run here"}
	}
	call := scriptCall(s, c, in, true)
	call.Args, call.Inner = shelf.JSON(args), inner
	return s.Runner().Run(call)
}

// enclosedPlacements puts the placements of enclosed content where the script has put
// that, which is nowhere if it shows it changed.
func (r *renderer) enclosedPlacements(inside []Placement, from int, inner []byte) {
	at := -1
	if len(inner) > 0 {
		at = bytes.Index(r.buf[from:], inner)
	}
	for i := range inside {
		if p := &inside[i]; at >= 0 {
			p.From += at
			p.To += at
		} else {
			p.From, p.To = from, from
		}
	}
}

// scriptArgs gives the arguments of a call as a JSON object. It reports false
// where a required one is missing.
func scriptArgs(c *script.Script, values []block.Value) ([]byte, bool) {
	args := map[string]any{}
	for i, f := range c.Params {
		if f.Required && values[i].Empty() {
			return nil, false
		}
		if values[i].IsSet() {
			args[f.Name] = values[i].Plain()
		}
	}
	return shelf.JSON(args), true
}
