package cli

import (
	"errors"
	"fmt"
	"io/fs"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"time"

	"github.com/spf13/cobra"
	"github.com/spf13/cobra/doc"
	"github.com/spf13/pflag"

	"brickshelf/internal/core/block"
	"brickshelf/internal/core/site"
)

// settingsFile is what settings are read from in the working folder, else config.yaml in the folder
// brickshelf below the user's own for configuration.
const settingsFile = "brickshelf.yaml"

// environment is what the name of a variable of the environment begins with that sets a flag.
const environment = "BRICKSHELF_"

// settle gives each flag of a command that was not given its value from the environment, else from
// a file of settings: a mapping of flags, under the name of a command those that are for it alone.
func (a *app) settle(c *cobra.Command) error {
	if c.Hidden {
		return nil // what the program calls itself with says all itself
	}
	a.line = map[string]bool{}
	c.Flags().Visit(func(f *pflag.Flag) { a.line[f.Name] = true })
	file, settings, err := a.settings(c.Root())
	if err != nil {
		return err
	}
	c.Flags().VisitAll(func(f *pflag.Flag) {
		if a.line[f.Name] || err != nil || f.Name == "help" || f.Name == "settings" {
			return
		}
		name := environment + strings.ToUpper(strings.ReplaceAll(f.Name, "-", "_"))
		if v, there := os.LookupEnv(name); there && v != "" {
			if e := c.Flags().Set(f.Name, v); e != nil {
				err = fmt.Errorf("%s: %w", name, e)
			}
			return
		}
		y := settings.Get(f.Name)
		if own := settings.Get(c.Name()); own != nil && own.Get(f.Name) != nil {
			y = own.Get(f.Name)
		}
		if y == nil || y.Kind == site.Null {
			return
		}
		for _, v := range append(slices.Clone(y.Items), y) {
			if v.Kind == site.Sequence {
				continue
			}
			if e := c.Flags().Set(f.Name, v.Text); e != nil {
				err = fmt.Errorf("%s:%d:%d: %s: %w", file, v.Line, v.Col, f.Name, e)
			}
		}
	})
	return err
}

// settings are what the file of settings holds; nothing where there is none.
func (a *app) settings(root *cobra.Command) (string, *site.YAML, error) {
	file, asked := a.settingsAt, a.settingsAt != ""
	if !asked {
		file = settingsFile
		if _, err := os.Stat(file); err != nil {
			dir, err := os.UserConfigDir()
			if err != nil {
				return "", nil, nil
			}
			file = filepath.Join(dir, "brickshelf", "config.yaml")
		}
	}
	src, err := os.ReadFile(file)
	if errors.Is(err, fs.ErrNotExist) && !asked {
		return file, nil, nil
	}
	if err != nil {
		return file, nil, err
	}
	y, problem := site.ParseYAML(src, file, 1)
	if problem != nil {
		return file, nil, problem
	}
	if y.Kind != site.Mapping && y.Kind != site.Null {
		return file, nil, fmt.Errorf("%s:1:1: settings are written as FLAG: value, a line for each", file)
	}
	return file, y, known(root, file, y)
}

// known refuses settings of which no command has a flag.
func known(root *cobra.Command, file string, y *site.YAML) error {
	var flags, commands []string
	note := func(f *pflag.Flag) { flags = append(flags, f.Name) }
	root.PersistentFlags().VisitAll(note)
	for _, c := range root.Commands() {
		commands = append(commands, c.Name())
		c.Flags().VisitAll(note)
	}
	for _, p := range y.Pairs {
		if slices.Contains(commands, p.Key) && p.Value.Kind == site.Mapping {
			if err := known(root, file, p.Value); err != nil {
				return err
			}
			continue
		}
		if !slices.Contains(flags, p.Key) {
			return fmt.Errorf("%s:%d:%d: no command has a flag --%s%s", file, p.Line, p.Col, p.Key,
				block.Nearest(p.Key, flags))
		}
	}
	return nil
}

// said reports whether a flag was given on the command line, and not by settings.
func (a *app) said(flag string) bool { return a.line[flag] }

// undated keeps the day on which it was written out of the manual, so that it is the same each time.
var undated = time.Date(2026, 1, 1, 0, 0, 0, 0, time.UTC)

// man writes the manual.
func (a *app) man() *cobra.Command {
	return &cobra.Command{
		Use:   "man [FOLDER]",
		Short: "Write the manual as a man page, or one for each command into a folder",
		Args:  cobra.MaximumNArgs(1),
		RunE: func(c *cobra.Command, args []string) error {
			c.Root().DisableAutoGenTag = true
			header := &doc.GenManHeader{Title: "BRICKSHELF", Section: "1", Source: "Brick Shelf",
				Manual: "Brick Shelf", Date: &undated}
			if len(args) == 0 {
				return doc.GenMan(c.Root(), header, a.out)
			}
			if err := os.MkdirAll(args[0], 0o755); err != nil {
				return err
			}
			return doc.GenManTree(c.Root(), header, args[0])
		},
	}
}
