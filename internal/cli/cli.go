// Package cli is the command line: it wires the parts together.
package cli

import (
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"log/slog"
	"os"
	"os/exec"
	"runtime/debug"
	"strings"
	"time"

	"github.com/spf13/cobra"

	"brickshelf/demo"
	"brickshelf/internal/core/check"
	"brickshelf/internal/core/script"
	"brickshelf/internal/core/shelf"
	"brickshelf/internal/core/site"
	"brickshelf/internal/folder"
	"brickshelf/internal/generate"
	"brickshelf/internal/publish"
	"brickshelf/internal/scripts"
	"brickshelf/internal/store"
)

// Exit codes: what was asked for is done; bad input; done, but something in it
// does not work.
const (
	ExitDone   = 0
	ExitBad    = 1
	ExitBreaks = 2
)

// errBreaks ends a command with ExitBreaks after it has said everything.
var errBreaks = errors.New("something does not work")

// Run runs the program and returns its exit code.
func Run(args []string, stdout, stderr io.Writer) int {
	app := &app{in: os.Stdin, out: stdout, err: stderr, now: time.Now}
	defer app.close()
	defer publish.Settle()
	root := app.root()
	root.SetArgs(args)
	root.SetOut(stdout)
	root.SetErr(stderr)
	err := root.Execute()
	switch {
	case err == nil:
		return ExitDone
	case errors.Is(err, errBreaks):
		return ExitBreaks
	}
	fmt.Fprintln(stderr, err)
	return ExitBad
}

type app struct {
	in         io.Reader
	out, err   io.Writer
	now        func() time.Time
	verbose    bool
	asJSON     bool            // what commands print is JSON
	line       map[string]bool // the flags that were given on the command line
	settingsAt string          // the file of settings; "" for where it stands by itself
	pool       *scripts.Pool   // nil until a script is to be run
	runner     script.Runner
}

// scripts runs the scripts of sites, in processes of this same program.
func (a *app) scripts() script.Runner {
	if a.pool == nil {
		a.pool = scripts.NewPool(2, func() *exec.Cmd {
			self, err := os.Executable()
			if err != nil {
				self = os.Args[0]
			}
			return exec.Command(self, workerCommand)
		})
		a.runner = script.Remember(a.pool)
	}
	return a.runner
}

func (a *app) close() {
	if a.pool != nil {
		a.pool.Close()
	}
}

// workerCommand is what this program calls itself with to run scripts.
const workerCommand = "script-worker"

func (a *app) scriptWorker() *cobra.Command {
	return &cobra.Command{
		Use:    workerCommand,
		Short:  "Run scripts for another process of this program",
		Hidden: true,
		Args:   cobra.NoArgs,
		RunE:   func(*cobra.Command, []string) error { return scripts.Serve(os.Stdin, a.out) },
	}
}

func (a *app) root() *cobra.Command {
	root := &cobra.Command{
		Use:               "brickshelf",
		Short:             "Blocks that stand on many pages, and what an edit of them changes",
		Version:           version(),
		SilenceUsage:      true,
		SilenceErrors:     true,
		PersistentPreRunE: func(c *cobra.Command, _ []string) error { return a.settle(c) },
	}
	root.PersistentFlags().StringVar(&a.settingsAt, "settings", "",
		"the file of settings (default: "+settingsFile+" here, or config.yaml among the user's own)")
	root.PersistentFlags().BoolVar(&a.verbose, "verbose", false, "log every request")
	root.AddCommand(a.demo(), a.serve(), a.newSite(), a.sites(), a.imports(), a.convert(),
		a.export(), a.part(),
		a.publish(), a.impact(), a.check(), a.explain(), a.copies(), a.repeats(), a.adopt(), a.man(),
		a.generate(),
		a.scriptWorker())
	return root
}

// version is that of the module, and what it was built of.
func version() string {
	info, ok := debug.ReadBuildInfo()
	if !ok {
		return "unknown"
	}
	out := info.Main.Version
	for _, s := range info.Settings {
		if s.Key == "vcs.revision" && !strings.Contains(out, s.Value[:min(12, len(s.Value))]) {
			out += " " + s.Value[:min(12, len(s.Value))]
		}
	}
	return out + ", " + info.GoVersion
}

func (a *app) log() *slog.Logger {
	level := slog.LevelInfo
	if a.verbose {
		level = slog.LevelDebug
	}
	return slog.New(slog.NewTextHandler(a.err, &slog.HandlerOptions{Level: level}))
}

// progress shows how far work is, on a terminal and only after a second.
func (a *app) progress(what string) folder.Progress {
	f, ok := a.err.(*os.File)
	if !ok {
		return nil
	}
	if info, err := f.Stat(); err != nil || info.Mode()&os.ModeCharDevice == 0 {
		return nil
	}
	start, last := time.Now(), time.Time{}
	return func(done, total int) {
		now := time.Now()
		if now.Sub(start) < time.Second || now.Sub(last) < 100*time.Millisecond && done != total {
			return
		}
		last = now
		if total > 0 {
			fmt.Fprintf(f, "\r%s %d of %d\x1b[K", what, done, total)
		} else {
			fmt.Fprintf(f, "\r%s %d\x1b[K", what, done)
		}
		if done == total {
			fmt.Fprintln(f)
		}
	}
}

// load reads a tree and refuses what is not a valid site.
func (a *app) load(name string) (*shelf.Shelf, error) {
	files, err := folder.Read(name, a.progress("Reading"))
	if err != nil {
		return nil, err
	}
	s := shelf.NewScripted(files, a.now(), a.scripts())
	if bad := check.Validity(s); len(bad) > 0 {
		return nil, bad
	}
	return s, nil
}

// dataFlags are the flags of commands that work on a data directory.
func dataFlags(c *cobra.Command, data, name *string, siteDefault string) {
	c.Flags().StringVar(data, "data", "", "the folder that holds the database")
	c.Flags().StringVar(name, "site", siteDefault, "the name of the site")
}

// jsonFlag has a command print what came of it as JSON.
func (a *app) jsonFlag(c *cobra.Command) {
	c.Flags().BoolVar(&a.asJSON, "json", false, "print one JSON object")
}

// stored reads a tree of a site; without a name, of the only one there is.
func (a *app) stored(data, name string, tree store.Tree) (site.Files, error) {
	st, err := reading(data)
	if err != nil {
		return nil, err
	}
	defer st.Close()
	s, err := pick(st, name)
	if err != nil {
		return nil, err
	}
	return st.Files(s.ID, tree)
}

func pick(st *store.Store, name string) (store.Site, error) {
	if name != "" {
		return st.Site(name)
	}
	sites, err := st.Sites()
	if err != nil {
		return store.Site{}, err
	}
	if len(sites) != 1 {
		names := ""
		for _, s := range sites {
			names += " " + s.Name
		}
		return store.Site{}, fmt.Errorf("there are %d sites here; name one with --site:%s", len(sites), names)
	}
	return sites[0], nil
}

func (a *app) json(v any) error {
	e := json.NewEncoder(a.out)
	e.SetEscapeHTML(false)
	return e.Encode(v)
}

func (a *app) generate() *cobra.Command {
	var pages int
	var deep bool
	c := &cobra.Command{
		Use:    "generate FOLDER",
		Short:  "Write a site of any size, to measure with",
		Hidden: true,
		Args:   cobra.ExactArgs(1),
		RunE: func(_ *cobra.Command, args []string) error {
			files := generate.Deep
			if !deep {
				files = func() site.Files { return generate.Site(pages) }
			}
			return folder.Write(args[0], files(), a.progress("Writing"))
		},
	}
	c.Flags().IntVar(&pages, "pages", 10_000, "how many pages")
	c.Flags().BoolVar(&deep, "deep", false, "many blocks, rules, layouts and sections, with long titles")
	return c
}

// demoFiles is the demo site as it is embedded.
func demoFiles() (site.Files, error) { return folder.FromFS(demo.Files(), nil) }
