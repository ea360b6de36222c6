// Package publish writes a site as plain files: every page's HTML, the styles
// and behaviours by content hash, the assets and a sitemap.
package publish

import (
	"bytes"
	"encoding/xml"
	"errors"
	"fmt"
	"io/fs"
	"os"
	"path/filepath"
	"strings"

	"brickshelf/internal/core/render"
	"brickshelf/internal/core/site"
	"brickshelf/internal/folder"
)

// Output is a published site before it is written: file to bytes, and what does
// not work in it.
type Output struct {
	Files  site.Files
	Faults map[string][]render.Fault // by page address
}

// Render renders the whole site.
func Render(s *render.Shelf, progress folder.Progress) (*Output, error) {
	out := &Output{Files: site.Files{}, Faults: map[string][]render.Fault{}}
	var urls []string
	paths := s.PagePaths()
	for i, p := range paths {
		g := s.Info(p).Page
		if progress != nil {
			progress(i+1, len(paths))
		}
		if g.Draft {
			continue
		}
		res := s.Render(p, render.Options{})
		out.Files[site.FileOf(g.URL)] = res.HTML
		urls = append(urls, g.URL)
		if len(res.Faults) > 0 {
			out.Faults[g.URL] = res.Faults
		}
		for _, h := range res.Styles {
			if err := out.shelfFile(s, h, ".css"); err != nil {
				return nil, fmt.Errorf("%s: %w", p, err)
			}
		}
		for _, h := range res.Behaviours {
			if err := out.shelfFile(s, h, ".js"); err != nil {
				return nil, fmt.Errorf("%s: %w", p, err)
			}
		}
	}
	for _, p := range s.Paths("assets/") {
		out.Files[p], _ = s.Get(p)
	}
	out.Files["sitemap.xml"] = Sitemap(s.Config().BaseURL, urls)
	return out, nil
}

func (o *Output) shelfFile(s *render.Shelf, h site.Hash, ext string) error {
	name := strings.TrimPrefix(render.AssetURL(h, ext), "/")
	if o.Files[name] != nil {
		return nil
	}
	b, ok := s.ByHash(h)
	if !ok {
		return fmt.Errorf("the %s file with the hash %s is neither a block's nor in history; link the copy that needs it again", ext, h)
	}
	o.Files[name] = b
	return nil
}

// Sitemap lists the pages as sitemaps.org describes it.
func Sitemap(base string, urls []string) []byte {
	var b bytes.Buffer
	b.WriteString(xml.Header + `<urlset xmlns="http://www.sitemaps.org/schemas/sitemap/0.9">` + "\n")
	for _, u := range urls {
		b.WriteString("<url><loc>")
		_ = xml.EscapeText(&b, []byte(base+u))
		b.WriteString("</loc></url>\n")
	}
	b.WriteString("</urlset>\n")
	return b.Bytes()
}

// Write puts the output into a folder: written whole beside it, then swapped in,
// so that a crash leaves the old site as it was.
func Write(dir string, files site.Files, progress folder.Progress) error {
	dir = filepath.Clean(dir)
	parent := filepath.Dir(dir)
	if err := os.MkdirAll(parent, 0o755); err != nil {
		return err
	}
	if err := putBack(dir); err != nil {
		return err
	}
	if entries, err := os.ReadDir(dir); err == nil && len(entries) > 0 {
		if _, err := os.Stat(filepath.Join(dir, "sitemap.xml")); err != nil {
			return fmt.Errorf("%s holds something else than a published site; name a new or empty folder", dir)
		}
	}
	fresh, err := os.MkdirTemp(parent, "."+filepath.Base(dir)+".new-*")
	if err != nil {
		return fmt.Errorf("publishing: %w", err)
	}
	defer os.RemoveAll(fresh)
	if err := os.Chmod(fresh, 0o755); err != nil {
		return err
	}
	if err := folder.Tree(fresh, files, progress); err != nil {
		return fmt.Errorf("publishing: %w", err)
	}
	old := aside(dir)
	if err := os.Rename(dir, old); err != nil && !errors.Is(err, fs.ErrNotExist) {
		return fmt.Errorf("publishing: %w", err)
	}
	if err := os.Rename(fresh, dir); err != nil {
		_ = os.Rename(old, dir)
		return fmt.Errorf("publishing: %w", err)
	}
	return os.RemoveAll(old)
}

func aside(dir string) string {
	return filepath.Join(filepath.Dir(dir), "."+filepath.Base(dir)+".old")
}

// putBack puts an old site back that a crash between the two renames left aside.
func putBack(dir string) error {
	old := aside(dir)
	if _, err := os.Stat(old); err != nil {
		return nil
	}
	if _, err := os.Stat(dir); errors.Is(err, fs.ErrNotExist) {
		return os.Rename(old, dir)
	}
	return os.RemoveAll(old)
}
