package cli

import (
	"fmt"

	"github.com/spf13/cobra"

	"brickshelf/internal/folder"
	"brickshelf/internal/plain"
)

// plainFlags add what is done where a web site is taken in that is no shelf folder.
func plainFlags(c *cobra.Command, leave, follow *bool) {
	c.Flags().BoolVar(leave, "leave-out", false,
		"of a web site that is no shelf folder: go on without the files that cannot be taken in")
	c.Flags().BoolVar(follow, "follow-links", true,
		"of such a site: take symbolic links within the folder as files of their own")
}

func (a *app) convert() *cobra.Command {
	var in intake
	c := &cobra.Command{
		Use:   "convert [--dry-run] [--leave-out] FOLDER|ZIP OUT",
		Short: "Make a shelf folder of any web site: pages and files, whatever wrote them",
		Long: `Make a shelf folder of any web site: pages and files, whatever wrote them. Published again it is
the same, byte for byte. Each .html, .htm and .xhtml is a page at its own address, every other file is
published at its own path. OUT is a folder that is not there yet, or a .zip.`,
		Args: cobra.ExactArgs(2),
		RunE: func(_ *cobra.Command, args []string) error {
			files, report, err := plain.Take(args[0], in.follow, a.progress("Reading"))
			switch {
			case err != nil:
				return err
			case report == nil:
				return fmt.Errorf("%s is a shelf folder already, or holds no page", args[0])
			}
			if err := a.tellPlain(report, in); err != nil {
				return err
			}
			if !in.dry {
				if err := folder.Write(args[1], files, a.progress("Writing")); err != nil {
					return err
				}
			}
			if a.asJSON {
				return a.json(report)
			}
			return nil
		},
	}
	plainFlags(c, &in.leave, &in.follow)
	c.Flags().BoolVar(&in.dry, "dry-run", false, "only tell what is taken as what")
	a.jsonFlag(c)
	return c
}

// tellPlain says what a web site is taken as. Where some of it cannot be taken in, that is an error, unless
// it is left out or only asked about. A report that is nil is that of a shelf folder, and says nothing.
func (a *app) tellPlain(r *plain.Report, in intake) error {
	if r == nil {
		return nil
	}
	if left := r.Refusal(); len(left) > 0 && !in.leave && !in.dry {
		return fmt.Errorf("%w\nNothing was written. Put these right, or go on without them with --leave-out", left)
	}
	fmt.Fprintf(a.err, "A web site of %s and %s, each published at its own path.\n", counted(r.Pages, "page"),
		counted(r.Files, "other file"))
	for _, n := range r.Notes {
		as := map[plain.Kind]string{plain.Page: "page", plain.File: "file", plain.Left: "left out"}[n.As]
		fmt.Fprintf(a.err, "  %s (%s): %s\n", n.Path, as, n.Says)
	}
	return nil
}

func counted(n int, what string) string {
	if n == 1 {
		return "1 " + what
	}
	return fmt.Sprintf("%d %ss", n, what)
}
