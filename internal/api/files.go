package api

import (
	"bytes"
	"image"
	_ "image/gif" // the formats of which the size is read
	_ "image/jpeg"
	_ "image/png"
	"net/http"
	"path"
	"slices"
	"strings"
	"unicode/utf8"

	"github.com/gin-gonic/gin"

	"brickshelf/internal/core/edit/documents"
	"brickshelf/internal/core/explain"
	"brickshelf/internal/core/shelf"
	"brickshelf/internal/core/site"
)

// ListFiles lists what is published as it is.
func (h *handlers) ListFiles(c *gin.Context, name SiteName) {
	h.read(c, name, func(d *shelf.Shelf) {
		out := []SiteFile{}
		for _, p := range slices.Concat(d.Paths("assets/"), d.Paths("files/")) {
			b, _ := d.Get(p)
			f := SiteFile{Path: p, Url: site.FileURL(p), Hash: string(d.Hash(p)), Size: int64(len(b)),
				Text: isText(p, b)}
			if config, _, err := image.DecodeConfig(bytes.NewReader(b)); err == nil {
				f.Width, f.Height = config.Width, config.Height
			}
			out = append(out, f)
		}
		c.JSON(http.StatusOK, out)
	})
}

// editable is how large a file may be that is edited as text, in bytes.
const editable = 512 << 10

// isText reports whether a file can be edited as text.
func isText(p string, b []byte) bool {
	switch strings.ToLower(path.Ext(p)) {
	case ".png", ".jpg", ".jpeg", ".gif", ".webp", ".avif", ".ico", ".pdf", ".zip", ".woff", ".woff2":
		return false
	}
	return len(b) <= editable && utf8.Valid(b) && bytes.IndexByte(b, 0) < 0
}

// GetFileUses answers with the pages and documents that have to do with a file.
func (h *handlers) GetFileUses(c *gin.Context, name SiteName, params GetFileUsesParams) {
	h.read(c, name, func(d *shelf.Shelf) {
		url := site.FileURL(params.Path)
		if _, there := d.Get(params.Path); !there || url == "" {
			h.fail(c, site.Missing("there is no file %s", params.Path))
			return
		}
		shows := explain.Showing(d, url)
		var row strings.Builder
		for _, p := range d.PagePaths() {
			if !d.Info(p).Listed {
				continue
			}
			state := byte('-')
			if slices.Contains(shows, p) {
				state = 'l'
			}
			row.WriteByte(state)
		}
		c.JSON(http.StatusOK, FileUses{States: row.String(), Pages: len(shows),
			Docs: append([]string{}, documents.Naming(d, params.Path)...)})
	})
}
