package main

import (
	"time"

	"brickshelf/internal/core/edit/placing"
	"brickshelf/internal/core/render"
	"brickshelf/internal/workspace"
)

// whileSaving reads one document over and over while an edit of all pages is saved and
// undone, and tells how long that took at most.
func whileSaving(w *workspace.Workspace) error {
	d := w.State().Draft
	set, _, err := placing.RollOut(d, d.PagePaths(), "main", "@{rare /}", false)
	if err != nil {
		return err
	}
	set.Title = "Roll out"
	page := d.PagePaths()[len(d.PagePaths())/2]
	during := func(do func() error) (longest time.Duration, err error) {
		done := make(chan error, 1)
		go func() { done <- do() }()
		for {
			select {
			case err := <-done:
				return longest, err
			default:
				start := time.Now()
				now := w.State().Draft
				now.Get(page)
				render.Placements(now, page)
				longest = max(longest, time.Since(start))
				time.Sleep(time.Millisecond)
			}
		}
	}
	start := time.Now()
	saving, err := during(func() error { _, err := w.Save(set, ""); return err })
	if err != nil {
		return err
	}
	row("save of an edit of all pages", time.Since(start), "")
	undoing, err := during(func() error { _, err := w.Undo(""); return err })
	if err != nil {
		return err
	}
	row("longest wait of a reader while all pages are saved", saving, "20 ms")
	row("longest wait of a reader while that is undone", undoing, "20 ms")
	return nil
}
