package main

import (
	"bytes"
	"context"
	"fmt"

	"brickshelf/internal/core/edit/adopting"
	"brickshelf/internal/core/render"
	"brickshelf/internal/core/repeat"
	"brickshelf/internal/core/shelf"
	"brickshelf/internal/core/site"
)

// repeated looks for what the pages repeat, as an old site has them: each as it is published.
func repeated(s *shelf.Shelf) error {
	old := site.Files{"site.yaml": []byte("format: brickshelf/1\nname: Old\nexact_urls: true\n")}
	total := 0
	for i, p := range s.PagePaths() {
		text := render.AppendPage(s, nil, s.Info(p))
		total += len(text)
		old[fmt.Sprintf("pages/s%02d/p%05d.html", i/200, i)] = bytes.ReplaceAll(text, []byte("@{"), []byte("@@{"))
	}
	plain := shelf.New(old, day)
	var found *repeat.Found
	var err error
	took := median(3, func() { found, err = repeat.Find(context.Background(), adopting.Pages(plain), nil) })
	if err != nil {
		return err
	}
	row(fmt.Sprintf("finding what these pages repeat, %d MB as published", total>>20), took, "10000 ms")
	saved := 0
	for _, p := range found.Pieces {
		saved = max(saved, p.Bytes)
	}
	row("of their bytes one block saves at most", fmt.Sprintf("%d %%", 100*saved/max(total, 1)), "")
	return nil
}
