package api

import (
	"net/http"
	"slices"
	"strings"

	"github.com/gin-gonic/gin"

	"brickshelf/internal/core/patch"
	"brickshelf/internal/core/place"
	"brickshelf/internal/core/render"
	"brickshelf/internal/core/shelf"
)

// ListMenus answers with the menus and where each is shown.
func (h *handlers) ListMenus(c *gin.Context, name SiteName) {
	h.read(c, name, func(d *shelf.Shelf) {
		out := []MenuSummary{}
		shown := render.MenusShown(d)
		for _, p := range d.Paths("menus/") {
			m := d.Menu(strings.TrimSuffix(strings.TrimPrefix(p, "menus/"), ".yaml"))
			if m == nil {
				continue
			}
			item := MenuSummary{Name: m.Name, Title: m.Title, Path: p}
			row := make([]byte, len(shown))
			for i, names := range shown {
				if row[i] = '-'; slices.Contains(names, m.Name) {
					row[i] = 'l'
					item.Pages++
				}
			}
			item.States = string(row)
			out = append(out, item)
		}
		c.JSON(http.StatusOK, out)
	})
}

// ReadMenu answers with the items of a menu's text.
func (h *handlers) ReadMenu(c *gin.Context, _ SiteName) {
	var in BlockText
	if !h.body(c, &in) {
		return
	}
	m, problems := place.ReadMenu([]byte(in.Text))
	out := MenuReading{Title: m.Title, Items: []MenuItem{}, Problems: findings(problems)}
	if items, err := patch.MenuItems([]byte(in.Text)); err == nil {
		out.Items = contractItems(items)
	}
	c.JSON(http.StatusOK, out)
}

func contractItems(items []patch.MenuItem) []MenuItem {
	out := []MenuItem{}
	for _, it := range items {
		out = append(out, MenuItem{Label: it.Label, To: it.To, Badge: it.Badge, Icon: it.Icon, Note: it.Note,
			IconSize: it.IconSize, Image: it.Image, Audience: it.Audience, From: it.From, Until: it.Until,
			Panel: it.Panel, NewTab: it.NewTab, Was: it.Was, Items: contractItems(it.Items)})
	}
	return out
}

func coreItems(items []MenuItem) []patch.MenuItem {
	var out []patch.MenuItem
	for _, it := range items {
		out = append(out, patch.MenuItem{Label: it.Label, To: it.To, Badge: it.Badge, Icon: it.Icon,
			Note: it.Note, IconSize: it.IconSize, Image: it.Image, Audience: it.Audience, From: it.From,
			Until: it.Until,
			Panel: it.Panel, NewTab: it.NewTab, Was: it.Was, Items: coreItems(it.Items)})
	}
	return out
}

// EditMenu gives a menu's text other items.
func (h *handlers) EditMenu(c *gin.Context, _ SiteName) {
	var in MenuEdit
	if !h.body(c, &in) {
		return
	}
	text, err := patch.SetMenu([]byte(in.Text), coreItems(in.Items))
	h.text(c, text, err)
}
