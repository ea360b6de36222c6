package cli

import (
	"errors"
	"fmt"
	"strings"
	"text/tabwriter"

	"github.com/spf13/cobra"

	"brickshelf/internal/core/edit/parts"
	"brickshelf/internal/core/shelf"
	"brickshelf/internal/core/site"
	"brickshelf/internal/folder"
	"brickshelf/internal/store"
)

// part takes a part of a site, with what it needs, into a zip or another site.
func (a *app) part() *cobra.Command {
	var in intake
	var from, dir, out string
	var list bool
	c := &cobra.Command{
		Use:   "part (--data DIR --site NAME | --folder FOLDER) [--out ZIP|-] [--to NAME] ITEM…",
		Short: "Take blocks, layouts, menus, scripts, rules or pages of a site, with what they need, elsewhere",
		Long: `Take blocks, layouts, menus, scripts, rules or pages of a site elsewhere, with all that they need: the
blocks that they call, styles, behaviours, files, menus, layouts, values of the site. An ITEM is the path of
a document, as blocks/card.html, or that without its ending. With --out they become a zip of the same
format, which import takes; with --to they come into another site of the same data folder, as one edit,
and are offered there what they become later. Without either they are listed.`,
		Args: cobra.MinimumNArgs(1),
		RunE: func(_ *cobra.Command, args []string) error {
			if dir != "" && in.name == "" && !a.said("data") {
				in.data = "" // a standing setting
			}
			switch {
			case (in.data == "") == (dir == ""):
				return errors.New("name a data folder with --data, or a shelf folder with --folder")
			case in.name != "" && in.data == "":
				return errors.New("--to brings the part into a site of a data folder; name it with --data")
			case in.name != "" && from == "":
				return errors.New("name the site that the part is of with --site")
			}
			s, err := a.whole(in.data, from, dir)
			if err != nil {
				return err
			}
			ids, err := itemsOf(s, args)
			if err != nil {
				return err
			}
			part, err := parts.Cut(s, ids)
			if err != nil {
				return err
			}
			switch {
			case out == "-":
				return folder.Zip(a.out, part, nil)
			case out != "":
				err = folder.Write(out, part, a.progress("Writing"))
			case in.name == "" || list:
				return a.listPart(s, ids)
			}
			if err != nil {
				return err
			}
			if in.name == "" {
				return a.wrotePart(out, len(part))
			}
			in.from = from
			return a.take(in, part, "")
		},
	}
	c.Flags().StringVar(&in.data, "data", "", "the folder that holds the database")
	c.Flags().StringVar(&from, "site", "", "the site that it is of")
	c.Flags().StringVar(&dir, "folder", "", "or the shelf folder or zip that it is of")
	c.Flags().StringVar(&out, "out", "", "write a zip of that name, or a folder; - is the standard output")
	c.Flags().StringVar(&in.name, "to", "", "bring it into this site")
	c.Flags().BoolVar(&in.merge, "merge", false, "take what the part has where a name is taken")
	c.Flags().BoolVar(&list, "list", false, "only list what it is made of")
	a.jsonFlag(c)
	in.clashFlags(c)
	return c
}

// wrotePart tells where a part was written.
func (a *app) wrotePart(to string, files int) error {
	if a.asJSON {
		return a.json(writtenLine{to, files, files, []string{}})
	}
	fmt.Fprintf(a.out, "Wrote a part of %d documents to %s.\n", files, to)
	return nil
}

// whole is the draft of a site, or a shelf folder.
func (a *app) whole(data, name, dir string) (*shelf.Shelf, error) {
	if dir != "" {
		files, err := folder.Read(dir, a.progress("Reading"))
		if err != nil {
			return nil, err
		}
		return shelf.NewScripted(files, a.now(), a.scripts()), nil
	}
	files, err := a.stored(data, name, store.Draft)
	if err != nil {
		return nil, err
	}
	return shelf.NewScripted(files, a.now(), a.scripts()), nil
}

// itemsOf are the IDs of units that somebody names by their paths, with or without an ending.
func itemsOf(s *shelf.Shelf, items []string) ([]string, error) {
	var out []string
	for _, item := range items {
		id := ""
		for _, u := range parts.All(s) {
			bare := strings.TrimSuffix(strings.TrimSuffix(strings.TrimSuffix(u.ID, ".html"), ".yaml"), ".js")
			if u.ID == item || id == "" && bare == item {
				id = u.ID
			}
		}
		if id == "" {
			return nil, site.Missing("there is no %s here; name a document, as blocks/card.html", item)
		}
		out = append(out, id)
	}
	return out, nil
}

// partLine is a unit as part --json prints it.
type partLine struct {
	ID    string   `json:"id"`
	Kind  string   `json:"kind"`
	Title string   `json:"title"`
	For   []string `json:"for"`
}

func (a *app) listPart(s *shelf.Shelf, ids []string) error {
	list, err := parts.Needs(s, ids)
	if err != nil {
		return err
	}
	if a.asJSON {
		out := make([]partLine, len(list))
		for i, n := range list {
			out[i] = partLine{n.ID, string(n.Kind), n.Title, append([]string{}, n.For...)}
		}
		return a.json(out)
	}
	w := tabwriter.NewWriter(a.out, 0, 4, 2, ' ', 0)
	for _, n := range list {
		why := "asked for"
		if n.For != nil {
			why = "for " + strings.Join(n.For[:min(3, len(n.For))], ", ")
			if more := len(n.For) - 3; more > 0 {
				why += fmt.Sprintf(" and %d more", more)
			}
		}
		fmt.Fprintf(w, "%s\t%s\t%s\n", n.ID, n.Title, why)
	}
	return w.Flush()
}
