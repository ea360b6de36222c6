package cli

import (
	"errors"
	"fmt"
	"path/filepath"
	"strings"

	"github.com/spf13/cobra"

	"brickshelf/internal/core/shelf"
	"brickshelf/internal/core/site"
	"brickshelf/internal/folder"
	"brickshelf/internal/publish"
	"brickshelf/internal/store"
)

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
