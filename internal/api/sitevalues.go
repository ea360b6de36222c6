package api

import (
	"net/http"
	"strings"

	"github.com/gin-gonic/gin"

	"brickshelf/internal/core/block"
	"brickshelf/internal/core/edit/values"
	"brickshelf/internal/core/impact"
	"brickshelf/internal/core/place"
	"brickshelf/internal/core/site"
	"brickshelf/internal/workspace"
)

// ReadSite answers with what a text of site.yaml says.
func (h *handlers) ReadSite(c *gin.Context, _ SiteName) {
	var in BlockText
	if !h.body(c, &in) {
		return
	}
	config, _ := place.ParseConfig([]byte(in.Text), block.NewReader())
	c.JSON(http.StatusOK, SiteReading{Name: config.Name, BaseUrl: config.BaseURL, Home: config.Home,
		ExactUrls: config.ExactURLs, Cookie: config.Cookie, Undo: config.Undo,
		SetsOff: append([]string{}, config.SetsOff...),
		Fields:  contractFields(config.Fields)})
}

// GetSiteValue answers with the pages that show a value of the site.
func (h *handlers) GetSiteValue(c *gin.Context, name SiteName, value string) {
	w := h.open(c, name)
	if w == nil {
		return
	}
	d := w.State().Draft
	src, _ := d.Get("site.yaml")
	texts, err := values.Unlike(src, value)
	if err != nil {
		h.fail(c, err)
		return
	}
	for _, text := range texts {
		o := d.With([]site.Change{{Path: "site.yaml", Before: d.Hash("site.yaml"), After: text}})
		if !o.Overlay() || len(workspace.Invalid(o)) > 0 {
			continue
		}
		shows := map[string]bool{}
		for _, p := range impact.Of(d, o).Pages {
			shows[p.Doc] = p.Effect == impact.Changes
		}
		out := SiteValue{}
		var row strings.Builder
		for _, p := range d.PagePaths() {
			switch {
			case !d.Info(p).Listed:
			case shows[p]:
				out.Pages++
				row.WriteByte('l')
			default:
				row.WriteByte('-')
			}
		}
		out.States = row.String()
		c.JSON(http.StatusOK, out)
		return
	}
	h.fail(c, site.Refuse("the limits of %s leave no other value to compare with", value))
}
