package api

import (
	"encoding/json"
	"net/http"
	"net/url"
	"strconv"
	"strings"

	"github.com/gin-gonic/gin"

	"brickshelf/internal/core/assets"
	"brickshelf/internal/core/block"
	"brickshelf/internal/core/edit/copies"
	"brickshelf/internal/core/render"
	"brickshelf/internal/core/shelf"
	"brickshelf/internal/core/site"
)

// GetBlock answers with a block.
func (h *handlers) GetBlock(c *gin.Context, name SiteName, blockName string) {
	h.onBlock(c, name, blockName, func(d *shelf.Shelf, b *block.Block) {
		out := Block{Name: b.Name, Title: b.Title, Category: b.Category, About: b.About,
			Call: call(b.Name, b.Fields, encloses(b)), Path: b.Path, Fields: contractFields(b.Fields)}
		if d.Hash("blocks/"+b.Name+".css") != "" {
			out.Style = "blocks/" + b.Name + ".css"
		}
		if d.Hash("blocks/"+b.Name+".js") != "" {
			out.Behaviour = "blocks/" + b.Name + ".js"
		}
		var faults site.Problems
		for _, path := range []string{out.Style, out.Behaviour} {
			src, _ := d.Get(path)
			faults = append(faults, assets.Syntax(path, src)...)
		}
		if len(faults) > 0 {
			list := findings(faults)
			out.Faults = &list
		}
		c.JSON(http.StatusOK, out)
	})
}

// ListPlacements answers with every spot where a block stands.
func (h *handlers) ListPlacements(c *gin.Context, name SiteName, blockName string,
	params ListPlacementsParams) {
	h.read(c, name, func(d *shelf.Shelf) {
		if _, known := d.Signature(blockName); !known {
			problem(c, http.StatusNotFound, "No such block", "There is no block or shortcode "+blockName+".")
			return
		}
		users := window(c, d.Users(blockName), params.After, params.Pages)
		lists := make([][]Placement, len(users))
		shelf.Parallel(len(users), func(i int) {
			if c.Request.Context().Err() == nil { // else nobody waits for the answer
				lists[i] = placementsOn(d, users[i], blockName)
			}
		})
		out := []Placement{}
		for _, l := range lists {
			out = append(out, l...)
		}
		stands := map[[2]string]Standing{}
		for _, k := range copies.Of(d, blockName) {
			stands[[2]string{k.Page, k.Address}] = Standing(k.Standing)
			if k.Holder != "" { // it stands alike on every page that shows it
				stands[[2]string{k.Holder, lastStep(k.Address)}] = Standing(k.Standing)
			}
		}
		for i := range out {
			if p := &out[i]; p.Kind == PlacementKindCopy {
				standing, known := stands[[2]string{p.Doc, p.Address}]
				if !known {
					standing, known = stands[[2]string{p.Via, lastStep(p.Address)}]
				}
				if known {
					p.Standing = &standing
				}
			}
		}
		c.JSON(http.StatusOK, out)
	})
}

func lastStep(address string) string { return address[strings.LastIndexByte(address, '/')+1:] }

func placementsOn(d *shelf.Shelf, path, blockName string) []Placement {
	var out []Placement
	in := d.Info(path)
	if in == nil || in.Page.Draft {
		return nil
	}
	for _, p := range render.Placements(d, path) {
		if p.Block != blockName {
			continue
		}
		region, _, _ := strings.Cut(p.Address, "/")
		one := Placement{Page: in.Page.URL, Title: pageTitle(in), Doc: path, Address: p.Address,
			Region: region, Kind: PlacementKind(p.Kind), Via: p.Via, Own: ownValues(p.Own)}
		if to := PlacementAudience(p.Sight.Audience); to != "" {
			one.Audience = &to
		}
		if p.Sight.From != "" {
			one.From = &p.Sight.From
		}
		if p.Sight.Until != "" {
			one.Until = &p.Sight.Until
		}
		out = append(out, one)
	}
	return out
}

func ownValues(list []render.OwnValue) []OwnValue {
	out := []OwnValue{}
	for _, o := range list {
		out = append(out, OwnValue{Field: o.Field, Text: valueText(o.Value.Plain()),
			Source: string(o.Source)})
	}
	return out
}

// valueText shows a value as a person would type it: plain texts as they are,
// the rest as JSON.
func valueText(v any) string {
	switch t := v.(type) {
	case nil:
		return ""
	case string:
		return t
	}
	b, err := json.Marshal(v)
	if err != nil {
		return ""
	}
	return string(b)
}

// window is those pages that are asked for out of all, by default all; the answer's head says where
// to ask for the next.
func window(c *gin.Context, all []string, after, pages *int) []string {
	from, most := 0, 0
	if after != nil {
		from = *after
	}
	if pages != nil {
		most = *pages
	}
	rest := all[min(max(from, 0), len(all)):]
	if most <= 0 || most >= len(rest) {
		return rest
	}
	next := *c.Request.URL
	next.RawQuery = url.Values{"after": {strconv.Itoa(len(all) - len(rest) + most)},
		"pages": {strconv.Itoa(most)}}.Encode()
	c.Header("Link", "<"+next.RequestURI()+`>; rel="next"`)
	return rest[:most]
}
