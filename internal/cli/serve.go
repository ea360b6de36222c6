package cli

import (
	"errors"
	"fmt"
	"net"
	"os"
	"os/signal"
	"path/filepath"
	"sync"
	"syscall"

	"github.com/spf13/cobra"

	"brickshelf/demo"
	"brickshelf/internal/api"
	"brickshelf/internal/core/check"
	"brickshelf/internal/core/shelf"
	"brickshelf/internal/folder"
	"brickshelf/internal/publish"
	"brickshelf/internal/store"
	"brickshelf/web"
)

// writer writes what is published of a site into a folder.
func writer(out string) func(*shelf.Shelf, func(string, int, int)) *api.Outcome {
	return func(live *shelf.Shelf, told func(string, int, int)) *api.Outcome {
		progress := func(what string) folder.Progress {
			return func(done, total int) { told(what, done, total) }
		}
		res, err := publish.Render(live, progress("Rendering pages"))
		if err != nil {
			return &api.Outcome{Folder: out, Err: err}
		}
		wrote, err := publish.Write(out, res.Files, progress("Writing files"))
		return &api.Outcome{Folder: out, Aside: wrote.Aside, Err: err}
	}
}

type addresses struct{ tool, site string }

func (d *addresses) flags(c *cobra.Command) {
	c.Flags().StringVar(&d.tool, "addr", "127.0.0.1:7420", "where the tool listens")
	c.Flags().StringVar(&d.site, "site-addr", "127.0.0.1:7421",
		"where the site listens, published and as preview")
}

func (a *app) serve() *cobra.Command {
	var data, name, out, kept string
	var at addresses
	c := &cobra.Command{
		Use:   "serve --data DIR|--folder DIR",
		Short: "Serve the tool and the site",
		Long: `Serve the tool and the sites of a data folder. With --folder a site is kept in a shelf folder: what
is saved in the tool is written there, and what an editor or a git pull changes there is an edit of the
draft a moment later. What is not valid there waits, and is told. History and releases stand in the
data folder, without --data in one of the user's own for each folder.`,
		Args: cobra.NoArgs,
		RunE: func(*cobra.Command, []string) error {
			if data == "" && kept == "" {
				return errors.New("name the data folder with --data, or a shelf folder with --folder")
			}
			if kept != "" {
				return a.serveFolder(kept, data, name, out, at)
			}
			st, err := store.Open(data)
			if err != nil {
				return err
			}
			defer st.Close()
			return a.listen(st, name, out, at, nil)
		},
	}
	c.Flags().StringVar(&kept, "folder", "", "keep a site in this shelf folder")
	c.Flags().StringVar(&out, "out", "",
		"also write what is published into this folder, after each release and when rules begin or end")
	dataFlags(c, &data, &name, "")
	at.flags(c)
	return c
}

func (a *app) demo() *cobra.Command {
	var data string
	var at addresses
	c := &cobra.Command{
		Use:   "demo",
		Short: "Serve a fresh copy of the demo site",
		Args:  cobra.NoArgs,
		RunE: func(*cobra.Command, []string) error {
			if data == "" {
				dir, err := os.MkdirTemp("", "brickshelf-demo-*")
				if err != nil {
					return err
				}
				defer os.RemoveAll(dir)
				data = dir
			} else if _, err := os.Stat(filepath.Join(data, store.FileName)); err == nil {
				return fmt.Errorf("%s holds a database already; serve it with: brickshelf serve --data %s",
					data, data)
			}
			st, err := store.Open(data)
			if err != nil {
				return err
			}
			defer st.Close()
			if err := a.fillDemo(st); err != nil {
				return err
			}
			return a.listen(st, demo.Name, "", at, nil)
		},
	}
	c.Flags().StringVar(&data, "data", "",
		"keep the copy in this folder (default: one that is deleted at the end)")
	at.flags(c)
	return c
}

func (a *app) fillDemo(st *store.Store) error {
	files, err := demoFiles()
	if err != nil {
		return err
	}
	if bad := check.Validity(shelf.NewScripted(files, a.now(), a.scripts())); len(bad) > 0 {
		return bad
	}
	s, err := st.Create(demo.Name, files, nil)
	if err != nil {
		return err
	}
	_, err = st.Publish(s.ID, "First release")
	return err
}

// ofThisMachine reports whether no other machine can reach a listener.
func ofThisMachine(l net.Listener) bool {
	at, ok := l.Addr().(*net.TCPAddr)
	return ok && at.IP.IsLoopback()
}

// listen serves the sites of a store. follow, where it is not nil, is called once the site of the name
// is open.
func (a *app) listen(st *store.Store, name, out string, at addresses, follow func(srv *api.Server,
	stop <-chan struct{}) error) error {
	if name == "" { // where there is none yet, it is the first that is made
		if s, err := pick(st, ""); err == nil {
			name = s.Name
		} else if sites, _ := st.Sites(); len(sites) > 0 && out != "" {
			return err
		}
	}
	if name != "" {
		if _, err := st.Site(name); err != nil {
			return err
		}
	}
	api.Frugal()
	srv := api.NewServer(st, web.Files(), a.log(), a.now, a.scripts())
	srv.Demo = demoFiles
	if out != "" {
		srv.Write, srv.Written = writer(out), name
	}
	tool, site, err := at.open()
	if err != nil {
		return err
	}
	stop := make(chan struct{})
	end := sync.OnceFunc(func() { close(stop) })
	signals := make(chan os.Signal, 1)
	signal.Notify(signals, os.Interrupt, syscall.SIGTERM)
	defer signal.Stop(signals)
	if err := st.Serving("http://"+tool.Addr().String(), "http://"+site.Addr().String()); err != nil {
		return err
	}
	if !ofThisMachine(site) {
		fmt.Fprintf(a.err,
			"The site at %s can be reached from other machines, and with it the draft (/_draft/) and edits that are not saved (/_edit/). Name 127.0.0.1 with --site-addr to keep it to this one.\n", site.Addr())
	}
	fmt.Fprintf(a.out, "Brick Shelf   http://%s\nThe site      http://%s\n", tool.Addr(), site.Addr())
	go func() {
		<-signals
		end()
	}()
	opened := make(chan error, 1)
	go func() { // the tool's first files are answered meanwhile
		var err error
		if name != "" {
			_, err = srv.Workspace(name)
		}
		if err == nil && follow != nil {
			err = follow(srv, stop)
		}
		opened <- err
		if err != nil {
			end()
		}
	}()
	if err := srv.Serve(tool, site, name, stop); err != nil {
		return err
	}
	return <-opened
}

// open listens for the tool, on this machine alone, and for the site.
func (at addresses) open() (tool, site net.Listener, err error) {
	tool, err = net.Listen("tcp", at.tool)
	if err != nil {
		return nil, nil, fmt.Errorf("the tool cannot listen: %w; name a free address with --addr", err)
	}
	if !ofThisMachine(tool) {
		_ = tool.Close()
		return nil, nil,
			fmt.Errorf("the tool listens on this machine alone: it has no sign-in, and whoever reached it at %s could change everything. Name an address such as 127.0.0.1:7420 with --addr, and reach it from elsewhere through a tunnel", at.tool)
	}
	site, err = net.Listen("tcp", at.site)
	if err != nil {
		_ = tool.Close()
		return nil, nil, fmt.Errorf("the site cannot listen: %w; name a free address with --site-addr", err)
	}
	return tool, site, nil
}
