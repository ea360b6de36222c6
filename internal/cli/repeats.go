package cli

import (
	"fmt"

	"github.com/spf13/cobra"

	"brickshelf/internal/core/check"
	"brickshelf/internal/core/edit/adopting"
	"brickshelf/internal/core/repeat"
	"brickshelf/internal/core/shelf"
	"brickshelf/internal/plain"
)

// repeated is a repeated piece, as it is printed.
type repeated struct {
	ID     string       `json:"id"`
	Title  string       `json:"title"`
	Pages  int          `json:"pages"`
	Places int          `json:"places"`
	Bytes  int          `json:"bytes"`
	Kind   repeat.Kind  `json:"kind"`
	Within string       `json:"within,omitempty"`
	Fields []foundField `json:"fields"`
	// Spacing is how many values of white space alone it has besides, which forms do not show.
	Spacing int       `json:"spacing,omitempty"`
	At      []foundAt `json:"at"`
}

type foundField struct {
	Name     string           `json:"name"`
	Type     repeat.FieldType `json:"type"`
	Values   int              `json:"values"`
	Optional bool             `json:"optional"`
	Fields   []foundField     `json:"fields,omitempty"` // of a row of a list
}

type foundAt struct {
	Page string `json:"page"`
	From int    `json:"from"`
	To   int    `json:"to"`
}

func (a *app) repeats() *cobra.Command {
	c := &cobra.Command{
		Use:   "repeats FOLDER|ZIP",
		Short: "What is repeated on pages, and could be a block",
		Long: `What is repeated on pages, and could be a block: the pieces, those first that would save most, with
the fields in which their places differ. FOLDER is a shelf folder or any web site. Offsets are bytes of the
page's document.`,
		Args: cobra.ExactArgs(1),
		RunE: func(c *cobra.Command, args []string) error {
			s, err := a.any(args[0])
			if err != nil {
				return err
			}
			found, err := repeat.Find(c.Context(), adopting.Pages(s), a.progress("Comparing"))
			if err != nil {
				return err
			}
			list := []repeated{}
			for _, p := range found.Pieces {
				list = append(list, told(p))
			}
			if a.asJSON {
				return a.json(map[string]any{"pages": found.Looked, "candidates": list})
			}
			for _, p := range list {
				fmt.Fprintf(a.out, "%-28s %6d pages %6d places %9d bytes  %s, %s\n", p.ID, p.Pages, p.Places, p.Bytes,
					p.Kind, counted(len(p.Fields), "field"))
			}
			return nil
		},
	}
	a.jsonFlag(c)
	return c
}

func toldField(f *repeat.Field) foundField {
	out := foundField{Name: f.Name, Type: f.Type, Values: f.Different(), Optional: f.Optional()}
	for i := range f.Fields {
		out.Fields = append(out.Fields, toldField(&f.Fields[i]))
	}
	return out
}

func told(p *repeat.Piece) repeated {
	out := repeated{ID: p.ID, Title: p.Title, Pages: p.Pages, Places: len(p.Places), Bytes: p.Bytes,
		Kind: p.Kind, Within: p.Within, Fields: []foundField{}, At: []foundAt{}}
	for i := range p.Fields {
		if p.Fields[i].Spacing {
			out.Spacing++
			continue
		}
		out.Fields = append(out.Fields, toldField(&p.Fields[i]))
	}
	for _, at := range p.Places {
		out.At = append(out.At, foundAt{at.Path, at.From, at.To})
	}
	return out
}

// any reads a shelf folder, or any web site as the shelf folder that it makes.
func (a *app) any(name string) (*shelf.Shelf, error) {
	files, _, err := plain.Take(name, true, a.progress("Reading"))
	if err != nil {
		return nil, err
	}
	s := shelf.NewScripted(files, a.now(), a.scripts())
	if bad := check.Validity(s); len(bad) > 0 {
		return nil, bad
	}
	return s, nil
}
