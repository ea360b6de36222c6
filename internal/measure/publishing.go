package main

import (
	"bytes"
	"compress/gzip"
	"errors"
	"fmt"
	"io/fs"
	"os"
	"path/filepath"
	"regexp"

	"brickshelf/internal/core/shelf"
	"brickshelf/internal/core/site"
	"brickshelf/internal/folder"
	"brickshelf/internal/publish"
	"brickshelf/web"
)

func published(s *shelf.Shelf) error {
	dir, err := os.MkdirTemp("", "measure-*")
	if err != nil {
		return err
	}
	defer os.RemoveAll(dir)
	out, err := publish.Render(s, nil)
	if err != nil {
		return err
	}
	i := 0
	times := inTurns(3, func() {
		i++
		if e := folder.Tree(filepath.Join(dir, fmt.Sprint("plain", i)), out.Files, nil); e != nil {
			err = e
		}
	}, func() {
		if _, e := publish.Write(filepath.Join(dir, fmt.Sprint("www", i)), out.Files, nil); e != nil {
			err = e
		}
	})
	plain, whole := times[0], times[1]
	wrote := 0
	updates := inTurns(5, func() {
		wrote++
		for j := range 20 {
			p := s.Info(s.PagePaths()[j*400])
			out.Files[site.FileOf(p.URL)] = fmt.Appendf(nil, "edit %d", wrote)
		}
		if _, e := publish.Write(filepath.Join(dir, fmt.Sprint("www", i)), out.Files, nil); e != nil {
			err = e
		}
	}, publish.Settle)
	twenty := median(5, func() {
		for j := range 20 {
			name := filepath.Join(dir, fmt.Sprint("twenty", j))
			if f, e := os.Create(name + ".new"); e == nil {
				_, _ = f.Write(make([]byte, 17_000))
				_ = f.Sync()
				_ = f.Close()
				_ = os.Rename(name+".new", name)
			}
		}
	})
	row("writing new files plainly", plain, "")
	row("writing 20 files plainly, with sync and rename", twenty, "")
	row("publishing the whole site / writing plainly", ratio(whole, plain), "1.2")
	row("publishing after an edit of 20 pages", updates[0], "80 ms")
	row("  and removing afterwards what that replaced", updates[1], "")
	return err
}

// bundle is the script that the tool begins with, and what it cannot begin without.
func bundle() error {
	index, err := fs.ReadFile(web.Files(), "index.html")
	if err != nil {
		return fmt.Errorf("the interface is not built: %w", err)
	}
	entry := regexp.MustCompile(`<script [^>]*src="/(assets/[^"]+)"`).FindSubmatch(index)
	if entry == nil {
		return errors.New("the interface begins with no script")
	}
	imports := regexp.MustCompile("(?:from|import)[\"'`]\\./([^\"'`]+\\.js)[\"'`]")
	sum, seen, wanted := 0, map[string]bool{}, []string{string(entry[1])}
	for len(wanted) > 0 {
		p := wanted[0]
		if wanted = wanted[1:]; seen[p] {
			continue
		}
		seen[p] = true
		b, err := fs.ReadFile(web.Files(), p)
		if err != nil {
			return err
		}
		var z bytes.Buffer
		w := gzip.NewWriter(&z)
		_, _ = w.Write(b)
		_ = w.Close()
		sum += z.Len()
		for _, m := range imports.FindAllSubmatch(b, -1) {
			wanted = append(wanted, "assets/"+string(m[1]))
		}
	}
	row("main bundle, gzip", fmt.Sprintf("%d kB", sum/1000), "under 300 kB")
	return nil
}
