package cli

import (
	"fmt"
	"maps"
	"path/filepath"

	"github.com/spf13/cobra"

	"brickshelf/internal/core/check"
	"brickshelf/internal/core/edit/adopting"
	"brickshelf/internal/core/repeat"
	"brickshelf/internal/core/shelf"
	"brickshelf/internal/core/site"
	"brickshelf/internal/folder"
	"brickshelf/internal/plain"
)

// adopted is a block that came of a piece, as it is printed.
type adopted struct {
	ID     string    `json:"id"`
	Block  string    `json:"block"`
	Places int       `json:"places"`
	Left   []foundAt `json:"left"`
}

func (a *app) adopt() *cobra.Command {
	var as, out, layout string
	c := &cobra.Command{
		Use:   "adopt FOLDER|ZIP ID… [--as NAME|--layout NAME] [--out OUT]",
		Short: "Make blocks of repeated pieces; no byte of any page changes",
		Long: `Make blocks of repeated pieces, by the ids that repeats prints. Each place becomes a call with the values
that stand there. Every page is rendered before and after; if a byte of one would change, nothing is written.
OUT is a folder that is not there yet, or a .zip; without it a shelf folder is changed where it is. Where two
pieces overlap, the one that is named first takes the place.`,
		Args: cobra.MinimumNArgs(2),
		RunE: func(c *cobra.Command, args []string) error {
			if as != "" && len(args) > 2 {
				return fmt.Errorf("--as names one block; make the blocks one after the other, or leave it out")
			}
			files, report, err := plain.Take(args[0], true, a.progress("Reading"))
			if err != nil {
				return err
			}
			if out == "" && (report != nil || filepath.Ext(args[0]) == ".zip") {
				return fmt.Errorf("%s is no shelf folder that can be changed where it is; write --out OUT for the one that it becomes",
					args[0])
			}
			if layout != "" {
				return a.framing(c, files, args, layout, out)
			}
			set, list, err := a.adopting(c, files, args[1:], as)
			if err != nil {
				return err
			}
			if err := putInto(args[0], out, files, set, a.progress("Writing")); err != nil {
				return err
			}
			if a.asJSON {
				return a.json(map[string]any{"blocks": list, "documents": len(set.Changes)})
			}
			for _, m := range list {
				fmt.Fprintf(a.out, "%s: block %s in %s, %d left as they are\n", m.ID, m.Block,
					counted(m.Places, "place"), len(m.Left))
			}
			fmt.Fprintln(a.out, "No byte of any page changes.")
			return nil
		},
	}
	c.Flags().StringVar(&as, "as", "", "the name of the block; without it, one is made of the piece's title")
	c.Flags().StringVar(&layout, "layout", "",
		"make a layout of this name of two pieces, with which pages begin and end; what is between is their content")
	c.Flags().StringVar(&out, "out", "", "where the shelf folder is written")
	a.jsonFlag(c)
	return c
}

// framing makes a layout of the pieces with which pages begin and end.
func (a *app) framing(c *cobra.Command, files site.Files, args []string, name, out string) error {
	if len(args) != 3 {
		return fmt.Errorf("a layout is made of two pieces: the one with which pages begin, and the one with which they end")
	}
	s, pages, pieces, err := a.pieces(c, files, args[1:])
	if err != nil {
		return err
	}
	set, made, err := adopting.Layout(s, pages, adopting.WantedLayout{Top: pieces[0], Bottom: pieces[1],
		Name: name, Title: repeat.Titled(name)})
	if err != nil {
		return err
	}
	if bad := check.Validity(s.With(set.Changes)); len(bad) > 0 {
		return bad
	}
	if err := putInto(args[0], out, files, set, a.progress("Writing")); err != nil {
		return err
	}
	if a.asJSON {
		return a.json(map[string]any{"layout": made.Name, "pages": made.Pages,
			"left": append([]string{}, made.Left...)})
	}
	fmt.Fprintf(a.out, "Layout %s: %s, %d left as they are\nNo byte of any page changes.\n", made.Name,
		counted(made.Pages, "page"), len(made.Left))
	return nil
}

// pieces are a site, its pages, and the pieces of some ids that are repeated on them.
func (a *app) pieces(c *cobra.Command, files site.Files, ids []string) (*shelf.Shelf, []repeat.Page,
	[]*repeat.Piece, error) {
	s := shelf.NewScripted(files, a.now(), a.scripts())
	if bad := check.Validity(s); len(bad) > 0 {
		return nil, nil, nil, bad
	}
	pages := adopting.Pages(s)
	found, err := repeat.Find(c.Context(), pages, a.progress("Comparing"))
	if err != nil {
		return nil, nil, nil, err
	}
	var out []*repeat.Piece
	for _, id := range ids {
		p := found.Piece(id)
		if p == nil {
			return nil, nil, nil,
				fmt.Errorf("no repeated piece has the id %s; repeats lists those that there are", id)
		}
		out = append(out, p)
	}
	return s, pages, out, nil
}

// adopting makes the change set that turns the pieces of these ids into blocks.
func (a *app) adopting(c *cobra.Command, files site.Files, ids []string,
	as string) (site.ChangeSet, []adopted, error) {
	s, pages, pieces, err := a.pieces(c, files, ids)
	if err != nil {
		return site.ChangeSet{}, nil, err
	}
	var wanted []adopting.Wanted
	for _, p := range pieces {
		wanted = append(wanted, adopting.Wanted{Piece: p, Name: as})
	}
	set, made, err := adopting.Adopt(s, pages, wanted)
	if err != nil {
		return set, nil, err
	}
	if bad := check.Validity(s.With(set.Changes)); len(bad) > 0 {
		return set, nil, bad
	}
	var list []adopted
	for i, m := range made {
		one := adopted{ID: wanted[i].Piece.ID, Block: m.Name, Places: m.Places, Left: []foundAt{}}
		for _, at := range m.Left {
			one.Left = append(one.Left, foundAt{at.Path, at.From, at.To})
		}
		list = append(list, one)
	}
	return set, list, nil
}

// putInto puts a change set where it belongs: all of a site into a new folder or zip, or what changes
// into the folder as it is.
func putInto(from, out string, files site.Files, set site.ChangeSet, progress folder.Progress) error {
	if out != "" {
		all := maps.Clone(files)
		for _, c := range set.Changes {
			all[c.Path] = c.After
		}
		return folder.Write(out, all, progress)
	}
	after := site.Files{}
	for _, c := range set.Changes {
		after[c.Path] = c.After
	}
	return folder.Change(from, after)
}
