package cli

import (
	"bytes"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"net/http"
	"text/tabwriter"

	"github.com/spf13/cobra"

	"brickshelf/internal/api"
	"brickshelf/internal/store"
)

// newSite makes a site in a data folder, by way of the process that serves it if there is one.
func (a *app) newSite() *cobra.Command {
	var data, name, copyOf string
	c := &cobra.Command{
		Use:   "new --data DIR [--site NAME] [--copy-of NAME] TITLE",
		Short: "Make a site, with a first layout, header, footer and page, or as a copy of another",
		Args:  cobra.ExactArgs(1),
		RunE: func(_ *cobra.Command, args []string) error {
			in := api.NewSite{Title: args[0]}
			if name != "" {
				in.Name = &name
			}
			if copyOf != "" {
				in.CopyOf = &copyOf
			}
			made, err := a.make(data, in)
			if err != nil {
				return err
			}
			if a.asJSON {
				return a.json(map[string]string{"site": made})
			}
			fmt.Fprintf(a.out, "Made the site %s.\n", made)
			return nil
		},
	}
	dataFlags(c, &data, &name, "")
	a.jsonFlag(c)
	c.Flags().StringVar(&copyOf, "copy-of", "", "begin with all that another site holds")
	_ = c.MarkFlagRequired("data")
	return c
}

func (a *app) make(data string, in api.NewSite) (string, error) {
	st, err := store.Open(data)
	var served *store.Served
	if errors.As(err, &served) && served.Tool != "" {
		return askToMake(served.Tool, in)
	}
	if err != nil {
		return "", err
	}
	defer st.Close()
	return api.NewServer(st, nil, a.log(), a.now, a.scripts()).Make(in)
}

func askToMake(tool string, in api.NewSite) (string, error) {
	body, err := json.Marshal(in)
	if err != nil {
		return "", err
	}
	req, err := http.NewRequest(http.MethodPost, tool+"/api/v1/sites", bytes.NewReader(body))
	if err != nil {
		return "", err
	}
	req.Header.Set("X-Brick-Shelf", "1")
	req.Header.Set("Content-Type", "application/json")
	resp, err := http.DefaultClient.Do(req)
	if err != nil {
		return "", fmt.Errorf("the data folder is served at %s, which does not answer: %w", tool, err)
	}
	defer resp.Body.Close()
	answer, err := io.ReadAll(resp.Body)
	if err != nil {
		return "", err
	}
	if resp.StatusCode != http.StatusCreated {
		var p api.Problem
		if json.Unmarshal(answer, &p) != nil || p.Detail == "" {
			return "", fmt.Errorf("the server at %s answered %s", tool, resp.Status)
		}
		return "", errors.New(p.Detail)
	}
	var made api.Site
	if err := json.Unmarshal(answer, &made); err != nil {
		return "", fmt.Errorf("the server at %s answered what cannot be read: %w", tool, err)
	}
	return made.Name, nil
}

// sites lists the sites of a data folder.
func (a *app) sites() *cobra.Command {
	var data string
	var asJSON bool
	c := &cobra.Command{
		Use:   "sites --data DIR",
		Short: "List the sites of a data folder, with pages, releases and what is not published",
		Args:  cobra.NoArgs,
		RunE: func(*cobra.Command, []string) error {
			st, err := reading(data)
			if err != nil {
				return err
			}
			defer st.Close()
			list, err := st.Summaries()
			if err != nil {
				return err
			}
			if asJSON {
				out := make([]siteLine, len(list))
				for i, s := range list {
					out[i] = siteLine(s)
				}
				return a.json(out)
			}
			w := tabwriter.NewWriter(a.out, 0, 4, 2, ' ', 0)
			for _, s := range list {
				state := fmt.Sprintf("release %d", s.Release)
				switch {
				case s.Deleted != "":
					state = "deleted " + s.Deleted
				case s.Release == 0:
					state = "not published"
				}
				fmt.Fprintf(w, "%s\t%d pages\t%s\t%d edits wait\t%s\n", s.Name, s.Pages, state, s.Waiting, s.Changed)
			}
			return w.Flush()
		},
	}
	c.Flags().StringVar(&data, "data", "", "the folder that holds the database")
	c.Flags().BoolVar(&asJSON, "json", false, "print one JSON array")
	_ = c.MarkFlagRequired("data")
	return c
}

// siteLine is a site as sites --json prints it.
type siteLine struct {
	Name     string `json:"name"`
	Pages    int    `json:"pages"`
	Waiting  int    `json:"waiting"`
	Release  int    `json:"release"`
	Released string `json:"released"`
	Title    string `json:"last"`
	Changed  string `json:"changed"`
	Deleted  string `json:"deleted"`
}
