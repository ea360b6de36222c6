package cli

import (
	"fmt"

	"github.com/spf13/cobra"

	"brickshelf/internal/core/edit/copies"
)

// copied is one line of the list of copies.
type copied struct {
	Page     string `json:"page"`
	Address  string `json:"address"`
	Of       string `json:"of"`
	Standing string `json:"standing"`
}

func (a *app) copies() *cobra.Command {
	var asJSON bool
	c := &cobra.Command{
		Use:   "copies FOLDER",
		Short: "How each one-off copy stands towards the block that it came from",
		Long: `How each one-off copy stands towards the block that it came from: unchanged; behind, where the
block has moved on; edited; both; or unknown, where what it came from cannot be told.`,
		Args: cobra.ExactArgs(1),
		RunE: func(_ *cobra.Command, args []string) error {
			s, err := a.load(args[0])
			if err != nil {
				return err
			}
			list := []copied{}
			for _, c := range copies.All(s) {
				list = append(list, copied{c.URL, c.Address, c.Of, string(c.Standing)})
				if asJSON {
					continue
				}
				why := ""
				if c.Why != "" {
					why = ": " + c.Why
				}
				fmt.Fprintf(a.out, "%-9s %s at %s of %s%s\n", c.Standing, c.Of, c.Address, c.URL, why)
			}
			if asJSON {
				return a.json(map[string][]copied{"copies": list})
			}
			if len(list) == 0 {
				fmt.Fprintln(a.out, "No page holds a copy.")
			}
			return nil
		},
	}
	c.Flags().BoolVar(&asJSON, "json", false, "print one JSON object")
	return c
}
