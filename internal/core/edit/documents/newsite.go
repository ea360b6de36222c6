package documents

import (
	"embed"
	"fmt"
	"io/fs"
	"maps"
	"strings"

	"brickshelf/internal/core/markup"
	"brickshelf/internal/core/patch"
	"brickshelf/internal/core/site"
)

//go:embed beginning
var beginning embed.FS

// NewSite is what a new site begins as: a layout, a header and a footer that stand on every
// page by rules, a menu, and a first page.
func NewSite(title string) (site.Files, error) {
	out := site.Files{}
	title = strings.TrimSpace(title)
	if title == "" {
		return nil, site.Refuse("give the site a name; its pages show it")
	}
	sub, err := fs.Sub(beginning, "beginning")
	if err == nil {
		err = fs.WalkDir(sub, ".", func(p string, d fs.DirEntry, err error) error {
			if err != nil || d.IsDir() {
				return err
			}
			out[p], err = fs.ReadFile(sub, p)
			return err
		})
	}
	if err != nil {
		return nil, err
	}
	return Titled(out, title)
}

// Titled is a site under another title; without one, as it is.
func Titled(files site.Files, title string) (site.Files, error) {
	if title = strings.TrimSpace(title); title == "" {
		return files, nil
	}
	src, err := patch.Set("site.yaml", files["site.yaml"], []string{"name"}, title)
	if err != nil {
		return nil, err
	}
	out := maps.Clone(files)
	out["site.yaml"] = src
	return out, nil
}

// SiteName makes a name for a site of its title, one that none of those has that there are.
func SiteName(title string, taken func(name string) bool) string {
	var b strings.Builder
	for _, r := range strings.ToLower(title) {
		switch {
		case r >= 'a' && r <= 'z' || r >= '0' && r <= '9':
			b.WriteRune(r)
		case b.Len() > 0 && !strings.HasSuffix(b.String(), "-"):
			b.WriteByte('-')
		}
	}
	name := strings.Trim(b.String(), "-")
	if len(name) > maxSiteName {
		name = strings.Trim(name[:maxSiteName], "-")
	}
	if !markup.ValidName(name) {
		name = strings.Trim("site-"+name, "-")
	}
	free := name
	for n := 2; taken(free); n++ {
		free = fmt.Sprintf("%s-%d", name, n)
	}
	return free
}

// maxSiteName keeps a site's name short enough for a part of a host name.
const maxSiteName = 40
