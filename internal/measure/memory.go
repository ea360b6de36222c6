package main

import (
	"bufio"
	"context"
	"fmt"
	"os"
	"os/exec"
	"path/filepath"
	"runtime"
	"runtime/debug"
	"runtime/pprof"
	"strconv"
	"strings"
	"time"

	"brickshelf/internal/api"
	"brickshelf/internal/core/edit/placing"
	"brickshelf/internal/core/place"
	"brickshelf/internal/core/render"
	"brickshelf/internal/core/site"
	"brickshelf/internal/store"
	"brickshelf/internal/workspace"
)

// daysWork is what this program calls itself with to do a day's work in a process of its
// own, whose memory is that of a server.
const daysWork = "days-work"

// memory tells what a server has in memory after a site is opened and after a day's work,
// and what the database takes.
func memory(files site.Files, total int) error {
	dir, err := os.MkdirTemp("", "measure-*")
	if err != nil {
		return err
	}
	defer os.RemoveAll(dir)
	st, err := store.Open(dir)
	if err != nil {
		return err
	}
	made, err := st.Create("main", files, nil)
	if err == nil {
		_, err = st.Publish(made.ID, "First release")
	}
	if err != nil {
		return err
	}
	if err := st.Close(); err != nil {
		return err
	}
	before := onDisk(dir)
	cmd := exec.Command(os.Args[0], daysWork, dir)
	cmd.Stderr = os.Stderr
	out, err := cmd.Output()
	if err != nil {
		return fmt.Errorf("a day's work: %w", err)
	}
	for line := range strings.Lines(string(out)) {
		what, kb, _ := strings.Cut(strings.TrimSpace(line), ": ")
		n, err := strconv.Atoi(kb)
		if err != nil {
			return fmt.Errorf("a day's work: %q", line)
		}
		reach := ""
		if what == "when idle" {
			reach = "2.5"
		}
		row("process memory / texts, "+what, fmt.Sprintf("%.2f", float64(n)*1024/float64(total)), reach)
	}
	row("database / texts", fmt.Sprintf("%.2f", float64(before)/float64(total)), "")
	row("database / texts, after a roll-out to all and its undo",
		fmt.Sprintf("%.2f", float64(onDisk(dir))/float64(total)), "")
	return nil
}

func onDisk(dir string) (n int64) {
	files, _ := filepath.Glob(filepath.Join(dir, store.FileName+"*"))
	for _, f := range files {
		if info, err := os.Stat(f); err == nil {
			n += info.Size()
		}
	}
	return n
}

// resident is how much memory the process has, in kB.
func resident() int {
	f, err := os.Open("/proc/self/status")
	if err != nil {
		return 0
	}
	defer f.Close()
	for s := bufio.NewScanner(f); s.Scan(); {
		if rest, ok := strings.CutPrefix(s.Text(), "VmRSS:"); ok {
			n, _ := strconv.Atoi(strings.TrimSuffix(strings.TrimSpace(rest), " kB"))
			return n
		}
	}
	return 0
}

// work is a person's day: 500 proposals, 200 saves, a roll-out to all pages, its undo, and
// another day.
func work(dir string) error {
	api.Frugal()
	st, err := store.Open(dir)
	if err != nil {
		return err
	}
	defer st.Close()
	s, err := st.Site("main")
	if err != nil {
		return err
	}
	now := day
	w, err := workspace.Open(st, s, func() time.Time { return now }, nil)
	if err != nil {
		return err
	}
	w.Ahead()
	fmt.Printf("when opened: %d\n", resident())
	if err := edits(w); err != nil {
		return err
	}
	now = now.AddDate(1, 0, 0)
	w.NewDay()
	fmt.Printf("after the day's work: %d\n", resident())
	d := w.State().Draft
	if _, err := w.Save(site.ChangeSet{Title: "Edit", Changes: change(d, "rare", "last")}, ""); err != nil {
		return err
	}
	if err := st.Tidy(context.Background(), func(int64) int { return place.UndoSteps }); err != nil {
		return err
	}
	w.Rest()
	debug.FreeOSMemory()
	fmt.Printf("when idle: %d\n", resident())
	if name := os.Getenv("MEASURE_HEAP"); name != "" {
		f, err := os.Create(name)
		if err != nil {
			return err
		}
		defer f.Close()
		if err := pprof.WriteHeapProfile(f); err != nil {
			return err
		}
	}
	runtime.KeepAlive(w)
	return nil
}

// edits are a day's: proposals, saves, and a roll-out that is taken back.
func edits(w *workspace.Workspace) error {
	blocks := []string{"rare", "header-plain", "header"}
	for i := range 500 {
		d := w.State().Draft
		w.Propose(change(d, blocks[i%3], fmt.Sprint("try", i)))
		if i%50 == 0 {
			p := d.PagePaths()[i*7]
			src, _ := d.Get(p)
			w.Propose([]site.Change{{Path: p, Before: d.Hash(p), After: append(src[:len(src):len(src)],
				fmt.Sprint(i)...)}})
		}
	}
	for i := range 200 {
		d := w.State().Draft
		if _, err := w.Save(site.ChangeSet{Title: "Edit", Changes: change(d, blocks[i%3],
			fmt.Sprint("save", i))}, ""); err != nil {
			return err
		}
		if i%20 == 0 {
			for _, p := range d.PagePaths() {
				render.AppendPage(d, nil, d.Info(p))
			}
			if _, err := w.Review(); err != nil {
				return err
			}
		}
	}
	d := w.State().Draft
	set, _, err := placing.RollOut(d, d.PagePaths(), "main", "@{rare /}", false)
	if err != nil {
		return err
	}
	set.Title = "Roll out"
	w.Propose(set.Changes)
	if _, err := w.Save(set, ""); err != nil {
		return err
	}
	_, err = w.Undo("")
	return err
}
