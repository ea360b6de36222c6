// Command measure prints the figures by which this program's speed is judged,
// taken in one run on a generated site. Times are medians; what counts are the
// ratios, since absolute times change with the machine. With words (rendering, impacts,
// scripts, store, memory, publish, bundle) it takes just those.
package main

import (
	"cmp"
	"fmt"
	"io"
	"log/slog"
	"net"
	"net/http"
	"os"
	"os/exec"
	"path/filepath"
	"runtime"
	"slices"
	"strings"
	"time"

	"brickshelf/internal/api"
	"brickshelf/internal/core/block"
	"brickshelf/internal/core/edit/copies"
	"brickshelf/internal/core/edit/placing"
	"brickshelf/internal/core/impact"
	"brickshelf/internal/core/render"
	"brickshelf/internal/core/script"
	"brickshelf/internal/core/shelf"
	"brickshelf/internal/core/site"
	"brickshelf/internal/generate"
	"brickshelf/internal/scripts"
	"brickshelf/internal/store"
	"brickshelf/web"
)

const pages = 10_000

var day = time.Date(2026, 6, 1, 12, 0, 0, 0, time.UTC)

func main() {
	if len(os.Args) == 3 && os.Args[1] == daysWork {
		if err := work(os.Args[2]); err != nil {
			fmt.Fprintln(os.Stderr, err)
			os.Exit(1)
		}
		return
	}
	if len(os.Args) == 2 && os.Args[1] == worker {
		if err := scripts.Serve(os.Stdin, os.Stdout); err != nil {
			fmt.Fprintln(os.Stderr, err)
			os.Exit(1)
		}
		return
	}
	if err := run(); err != nil {
		fmt.Fprintln(os.Stderr, err)
		os.Exit(1)
	}
}

// median runs do so often and returns the median time.
func median(times int, do func()) time.Duration { return inTurns(times, do)[0] }

// inTurns is median for each of what is to be compared, one after the other each time,
// so that all meet the machine as fast and as slow as it is.
func inTurns(times int, do ...func()) []time.Duration {
	all := make([][]time.Duration, len(do))
	for range times {
		for i, one := range do {
			start := time.Now()
			one()
			all[i] = append(all[i], time.Since(start))
		}
	}
	out := make([]time.Duration, len(do))
	for i, list := range all {
		slices.Sort(list)
		out[i] = list[times/2]
	}
	return out
}

func row(what string, value any, reach string) {
	if d, ok := value.(time.Duration); ok {
		value = fmt.Sprintf("%.2f ms", float64(d.Microseconds())/1000)
	}
	fmt.Printf("%-58s %14v   %s\n", what, value, reach)
}

func ratio(a, b time.Duration) string { return fmt.Sprintf("%.1f", float64(a)/float64(b)) }

func run() error {
	files := generate.Site(pages)
	total := 0
	for _, b := range files {
		total += len(b)
	}
	fmt.Printf("A site of %d pages, %d MB of texts; %s, %d cores\n\n%-58s %14s   %s\n", pages, total>>20,
		runtime.Version(), runtime.NumCPU(), "work", "measured", "to reach")
	s := shelf.New(files, day)
	for _, part := range []struct {
		name string
		do   func() error
	}{
		{"rendering", func() error { rendering(s); return nil }},
		{"impacts", func() error { impacts(s); return nil }},
		{"scripts", scripted},
		{"store", func() error { return stored(files, total) }},
		{"memory", func() error { return memory(files, total) }},
		{"publish", func() error { return published(s) }},
		{"bundle", bundle},
		{"repeats", func() error { return repeated(s) }},
	} {
		if len(os.Args) > 1 && !slices.Contains(os.Args[1:], part.name) {
			continue
		}
		if err := part.do(); err != nil {
			return err
		}
	}
	return nil
}

func rendering(s *shelf.Shelf) {
	var html [][]byte
	var all []*shelf.Info
	for _, p := range s.PagePaths() {
		all = append(all, s.Info(p))
		html = append(html, render.AppendPage(s, nil, s.Info(p)))
	}
	var buf []byte
	once, share := standardLibrary(html)
	times := inTurns(15, func() {
		for _, h := range html {
			buf = append(buf[:0], h...)
		}
	}, func() {
		for _, in := range all {
			buf = render.AppendPage(s, buf[:0], in)
		}
	}, once)
	copying, rendered, standard := times[0], times[1], times[2]*time.Duration(share)
	row("copying the bytes of all pages", copying, "")
	row("rendering all pages", rendered, "")
	row("html/template on pages of the same size and calls", standard, "")
	row("rendering / copying", ratio(rendered, copying), "at most 3")
	row("html/template / rendering", ratio(standard, rendered), "at least 15")
}

func change(s *shelf.Shelf, block, more string) []site.Change {
	path := "blocks/" + block + ".html"
	src, _ := s.Get(path)
	return []site.Change{{Path: path, Before: s.Hash(path), After: append(append([]byte{}, src...), more...)}}
}

func impacts(s *shelf.Shelf) {
	for _, n := range []int{1_000, pages, 100_000} {
		x := s
		if n != pages {
			x = shelf.New(generate.Site(n), day)
		}
		set := change(x, "rare", "<hr>")
		row(fmt.Sprintf("impact of a block on 20 of %d pages", n), median(301, func() {
			impact.Of(x, x.With(set))
		}), "0.2 ms, the same at every size")
	}
	runtime.GC() // what the largest site leaves behind belongs to nobody's work
	same, depends, titled := change(s, "header-plain", "<hr>"), change(s, "header", "<hr>"),
		change(s, "header", "<p>@{=page.title}</p>")
	row("impact of a block on all pages, alike everywhere", median(51, func() {
		impact.Of(s, s.With(same))
	}), "5 ms")
	row("impact of a header that depends on the page", median(21, func() {
		impact.Of(s, s.With(depends))
	}), "half of copying")
	row("impact of a header that shows each page's title", median(21, func() {
		impact.Of(s, s.With(titled))
	}), "")
	path := s.PagePaths()[7]
	row("detach on one page", median(51, func() {
		if set, err := copies.Detach(s, path, "footer/rule:footer"); err == nil {
			impact.Of(s, s.With(set.Changes))
		}
	}), "1 ms")
	half := s.PagePaths()[:pages/2]
	row(fmt.Sprintf("roll-out to %d pages, previewed", len(half)), median(7, func() {
		set, _, err := placing.RollOut(s, half, "main", "@{rare /}", false)
		if err == nil {
			impact.Of(s, s.With(set.Changes))
		}
	}), "150 ms")
	row("  of that, writing their texts", median(7, func() {
		_, _, _ = placing.RollOut(s, half, "main", "@{rare /}", false)
	}), "")
	set, _, _ := placing.RollOut(s, half, "main", "@{rare /}", false)
	row("  of that, reading them", median(7, func() { s.With(set.Changes) }), "")
}

// worker is what this program calls itself with to run scripts.
const worker = "script-worker"

// scripted tells what a call of a script takes that does hardly any work, with its
// arguments new each time, so that nothing is remembered.
func scripted() error {
	pool := scripts.NewPool(1, func() *exec.Cmd { return exec.Command(os.Args[0], worker) })
	defer pool.Close()
	s, problems := script.Parse("x", "shortcodes/x.js",
		[]byte("/*\nparams: {n: {type: number}}\n*/\nfunction shortcode({ args }) { return html`<b>${args.n}</b>`; }\n"), block.NewReader())
	if len(problems) > 0 {
		return problems
	}
	n := 0
	var failure *script.Failure
	call := func() {
		n++
		_, f := pool.Run(script.Call{Script: s, Args: fmt.Appendf(nil, `{"n":%d}`, n), Site: []byte("{}"),
			Now: "2026-06-01T00:00:00Z"})
		failure = cmp.Or(failure, f)
	}
	call()
	row("a scripted shortcode, called in a warm worker", median(2001, call), "0.1 ms beyond its own work")
	if failure != nil {
		return failure
	}
	return nil
}

func stored(files site.Files, total int) error {
	dir, err := os.MkdirTemp("", "measure-*")
	if err != nil {
		return err
	}
	defer os.RemoveAll(dir)
	st, err := store.Open(dir)
	if err != nil {
		return err
	}
	defer st.Close()
	made, err := st.Create("main", files, nil)
	if err != nil {
		return err
	}
	if _, err := st.Publish(made.ID, "First release"); err != nil {
		return err
	}
	runtime.GC()
	var before, after runtime.MemStats
	runtime.ReadMemStats(&before)
	start := time.Now()
	srv := api.NewServer(st, web.Files(), slog.New(slog.NewTextHandler(io.Discard, nil)), time.Now, nil)
	w, err := srv.Workspace("main")
	if err != nil {
		return err
	}
	row("start from SQLite, everything ready", time.Since(start), "1 s")
	runtime.GC()
	runtime.ReadMemStats(&after)
	row("memory / texts", fmt.Sprintf("%.1f", float64(after.HeapAlloc-before.HeapAlloc)/float64(total)),
		"at most 4")

	probe, err := os.Create(filepath.Join(dir, "sync"))
	if err != nil {
		return err
	}
	defer probe.Close()
	row("the disk's own sync", median(15, func() { _, _ = probe.Write([]byte("x")); _ = probe.Sync() }), "")
	n := 0
	save := median(15, func() {
		n++
		d := w.State().Draft
		set := site.ChangeSet{Title: "Edit", Changes: change(d, "header-plain", fmt.Sprint(n%10))}
		if _, e := w.Save(set, ""); e != nil {
			err = e
		}
	})
	row("save of an edit that all pages show", save, "10 ms beyond the sync")
	if err != nil {
		return err
	}
	if err := overHTTP(srv); err != nil {
		return err
	}
	return whileSaving(w)
}

func overHTTP(srv *api.Server) error {
	tool, err := net.Listen("tcp", "127.0.0.1:0")
	if err != nil {
		return err
	}
	other, err := net.Listen("tcp", "127.0.0.1:0")
	if err != nil {
		return err
	}
	stop, ended := make(chan struct{}), make(chan error, 1)
	go func() { ended <- srv.Serve(tool, other, "main", stop) }()
	ask := func(block string) func() {
		w, _ := srv.Workspace("main")
		set := change(w.State().Draft, block, "<hr>")
		body := fmt.Sprintf(`{"title":"x","changes":[{"path":%q,"before":%q,"text":%q}]}`, set[0].Path,
			set[0].Before, set[0].After)
		return func() {
			req, _ := http.NewRequest("POST", "http://"+tool.Addr().String()+"/api/v1/sites/main/proposals",
				strings.NewReader(body))
			req.Header.Set("X-Brick-Shelf", "1")
			req.Header.Set("Content-Type", "application/json")
			answer, err := http.DefaultClient.Do(req)
			if err != nil || answer.StatusCode != http.StatusOK {
				panic(fmt.Sprint("the server does not answer: ", err))
			}
			_, _ = io.Copy(io.Discard, answer.Body)
			_ = answer.Body.Close()
		}
	}
	row("impact over HTTP, block on 20 pages", median(101, ask("rare")), "5 ms")
	row("impact over HTTP, block on all pages", median(31, ask("header-plain")), "100 ms to the browser")
	close(stop)
	return <-ended
}
