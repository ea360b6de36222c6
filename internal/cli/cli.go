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
	"path/filepath"
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
	root.AddCommand(a.demo(), a.serve(), a.newSite(), a.sites(), a.imports(), a.export(), a.part(),
		a.publish(), a.impact(), a.check(), a.explain(), a.copies(), a.man(), a.generate(),
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

func (a *app) export() *cobra.Command {
	var data, name string
	var replace bool
	c := &cobra.Command{
		Use:   "export --data DIR [--site NAME] FOLDER|ZIP|-",
		Short: "Write a site's draft as a shelf folder or zip, - for a zip to the standard output",
		Long: `Write a site's draft as a shelf folder or zip, - for a zip to the standard output. In a folder
that is there already only what differs is written, and only what this program wrote before and the
site no longer has is removed: .git, a README.md and all else stay. Where a file of the site was edited
there meanwhile, it is put right and what it held is kept below .shelf; where one stands in the way that
this program did not write, nothing is written. With --replace such a file is put right as well, and kept
in the same way.`,
		Args: cobra.ExactArgs(1),
		RunE: func(_ *cobra.Command, args []string) error {
			files, err := a.stored(data, name, store.Draft)
			var damaged *store.Damaged
			if err != nil && !errors.As(err, &damaged) {
				return err
			}
			files = files.WithoutSpent()
			if err := a.writeOut(args[0], files, replace); err != nil {
				return err
			}
			if damaged == nil {
				return nil
			}
			for _, p := range damaged.Paths {
				fmt.Fprintf(a.err,
					"%s is damaged in the database and was not written. Put the file into the folder from a copy and import that: it mends the database\n", p)
			}
			return errBreaks
		},
	}
	dataFlags(c, &data, &name, "")
	c.Flags().BoolVar(&replace, "replace", false, "also put right files that this program did not write")
	a.jsonFlag(c)
	_ = c.MarkFlagRequired("data")
	return c
}

// writtenLine is what export and publish print with --json: where it was written, how many files
// that holds, how many of them were written anew, and which ones somebody had edited there.
type writtenLine struct {
	To    string   `json:"to"`
	Files int      `json:"files"`
	Wrote int      `json:"wrote"`
	Aside []string `json:"aside"`
}

// jsonFlag has a command print what came of it as JSON.
func (a *app) jsonFlag(c *cobra.Command) {
	c.Flags().BoolVar(&a.asJSON, "json", false, "print one JSON object")
}

// writeOut writes a site as a folder, a zip, or a zip to the standard output.
func (a *app) writeOut(to string, files site.Files, replace bool) error {
	if to == "-" {
		return folder.Zip(a.out, files, nil)
	}
	if strings.HasSuffix(strings.ToLower(to), ".zip") {
		if err := folder.Write(to, files, a.progress("Writing")); err != nil {
			return err
		}
		if a.asJSON {
			return a.json(writtenLine{to, len(files), len(files), []string{}})
		}
		fmt.Fprintf(a.out, "Wrote %d documents to %s.\n", len(files), to)
		return nil
	}
	if replace {
		if err := publish.Adopt(to, files); err != nil {
			return err
		}
	}
	wrote, err := publish.Write(to, files, a.progress("Writing"))
	if err != nil {
		return err
	}
	if a.asJSON {
		return a.json(writtenLine{to, len(files), wrote.Files, append([]string{}, wrote.Aside...)})
	}
	fmt.Fprintf(a.out, "Wrote %d of %d documents to %s.\n", wrote.Files, len(files), to)
	for _, p := range wrote.Aside {
		fmt.Fprintf(a.out, "  %s was another one there; what it held is kept below %s\n", p, publish.State)
	}
	return nil
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

func (a *app) publish() *cobra.Command {
	var data, name, out string
	c := &cobra.Command{
		Use:   "publish FOLDER|--data DIR [--site NAME] --out DIR",
		Short: "Write a site as plain files",
		Args:  cobra.MaximumNArgs(1),
		RunE: func(_ *cobra.Command, args []string) error {
			var s *shelf.Shelf
			var err error
			switch {
			case len(args) == 1 && (data == "" || !a.said("data")):
				s, err = a.load(args[0])
			case len(args) == 0 && data != "":
				var files site.Files
				if files, err = a.stored(data, name, store.Published); err == nil {
					if len(files) == 0 {
						return errors.New("nothing of this site is published yet; publish a release in the tool, or publish a shelf folder")
					}
					s = shelf.NewScripted(files, a.now(), a.scripts())
				}
			default:
				return errors.New("name either a shelf folder or --data")
			}
			if err != nil {
				return err
			}
			return a.write(s, out)
		},
	}
	dataFlags(c, &data, &name, "")
	c.Flags().StringVar(&out, "out", "", "the folder to write")
	a.jsonFlag(c)
	_ = c.MarkFlagRequired("out")
	return c
}

func (a *app) write(s *shelf.Shelf, out string) error {
	res, err := publish.Render(s, a.progress("Rendering"))
	if err != nil {
		return err
	}
	wrote, err := publish.Write(out, res.Files, a.progress("Writing"))
	if err != nil {
		return err
	}
	if a.asJSON {
		line := writtenLine{out, len(res.Files), wrote.Files, append([]string{}, wrote.Aside...)}
		if err := a.json(line); err != nil {
			return err
		}
	} else {
		fmt.Fprintf(a.out, "Wrote %d of %d files to %s.\n", wrote.Files, len(res.Files), out)
	}
	for _, p := range wrote.Aside {
		fmt.Fprintf(a.err,
			"%s was edited since it was published; it was put right, and what it held is kept in %s\n", p,
			filepath.Join(out, publish.State, "aside"))
	}
	broken := false
	for _, p := range s.PagePaths() {
		url := s.Info(p).Page.URL
		for _, f := range res.Faults[url] {
			fmt.Fprintf(a.err, "%s: %s: %s\n", url, f.Address, f.Message)
			broken = true
		}
	}
	if broken {
		return errBreaks
	}
	return nil
}

func (a *app) json(v any) error {
	e := json.NewEncoder(a.out)
	e.SetEscapeHTML(false)
	return e.Encode(v)
}

func (a *app) generate() *cobra.Command {
	var pages int
	c := &cobra.Command{
		Use:    "generate FOLDER",
		Short:  "Write a site of any size, to measure with",
		Hidden: true,
		Args:   cobra.ExactArgs(1),
		RunE: func(_ *cobra.Command, args []string) error {
			return folder.Write(args[0], generate.Site(pages), a.progress("Writing"))
		},
	}
	c.Flags().IntVar(&pages, "pages", 10_000, "how many pages")
	return c
}

// demoFiles is the demo site as it is embedded.
func demoFiles() (site.Files, error) { return folder.FromFS(demo.Files(), nil) }
