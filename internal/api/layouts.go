package api

import (
	"net/http"

	"github.com/gin-gonic/gin"

	"brickshelf/internal/core/block"
	"brickshelf/internal/core/edit/placing"
	"brickshelf/internal/core/place"
	"brickshelf/internal/core/shelf"
)

// ListLayouts answers with the layouts.
func (h *handlers) ListLayouts(c *gin.Context, name SiteName) {
	h.read(c, name, func(d *shelf.Shelf) {
		pages := map[string]int{}
		for _, p := range d.PagePaths() {
			pages[d.Info(p).Page.Layout]++
		}
		out := []Layout{}
		for _, l := range d.Layouts() {
			item := contractLayout(l)
			item.Pages = pages[l.Name]
			out = append(out, item)
		}
		c.JSON(http.StatusOK, out)
	})
}

func contractLayout(l *place.Layout) Layout {
	out := Layout{Name: l.Name, Title: l.Title, Path: l.Path, Regions: []Region{},
		PageFields: contractFields(l.PageFields), StartsWith: l.StartsWith}
	if out.StartsWith == nil {
		out.StartsWith = map[string]string{}
	}
	for _, r := range l.Regions {
		out.Regions = append(out.Regions, Region{Name: r.Name, Mode: RegionMode(r.Mode), Width: r.Width})
	}
	return out
}

// ReadLayout answers with what a layout's text says.
func (h *handlers) ReadLayout(c *gin.Context, _ SiteName) {
	var in BlockText
	if h.body(c, &in) {
		l, _ := place.ParseLayout("layout", "layouts/layout.html", []byte(in.Text), block.NewReader())
		c.JSON(http.StatusOK, contractLayout(l))
	}
}

// EditLayout gives a layout's text a region more, or takes one out.
func (h *handlers) EditLayout(c *gin.Context, _ SiteName) {
	var in LayoutEdit
	if !h.body(c, &in) {
		return
	}
	if in.Edit == Drop {
		text, err := placing.DropRegion([]byte(in.Text), in.Region)
		h.text(c, text, err)
		return
	}
	text, err := placing.AddRegion([]byte(in.Text), in.Region, given(in.After))
	h.text(c, text, err)
}
