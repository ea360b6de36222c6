package cli

import (
	"errors"
	"fmt"
	"time"

	"github.com/spf13/cobra"

	"brickshelf/internal/core/explain"
	"brickshelf/internal/core/place"
	"brickshelf/internal/core/shelf"
)

type candidate struct {
	Rule    string `json:"rule"`
	Block   string `json:"block"`
	Why     string `json:"why"`
	By      string `json:"by,omitempty"`
	Decides string `json:"decides,omitempty"`
	Words   string `json:"words"`
}

type regionStory struct {
	Region     string      `json:"region"`
	Mode       string      `json:"mode"`
	Shows      string      `json:"shows"`
	Candidates []candidate `json:"candidates"`
}

type story struct {
	Page     string        `json:"page"`
	Document string        `json:"document"`
	Layout   string        `json:"layout"`
	Audience string        `json:"audience"`
	On       string        `json:"on"`
	Regions  []regionStory `json:"regions"`
	Homeless []candidate   `json:"homeless"`
}

func (a *app) explain() *cobra.Command {
	var asJSON bool
	var audience, on string
	c := &cobra.Command{
		Use:   "explain FOLDER /path/ [ADDRESS]",
		Short: "What stands in the regions of a page, and why what else could does not; or where the values at an address come from",
		Args:  cobra.RangeArgs(2, 3),
		RunE: func(_ *cobra.Command, args []string) error {
			day := a.now()
			if on != "" {
				var err error
				if day, err = time.Parse(time.DateOnly, on); err != nil {
					return fmt.Errorf("%q is no day; write it as 2026-12-24", on)
				}
			}
			if audience != shelf.SignedIn && audience != shelf.SignedOut {
				return errors.New("--audience is signed-in or signed-out")
			}
			s, err := a.load(args[0])
			if err != nil {
				return err
			}
			in := s.Page(args[1])
			if in == nil {
				return fmt.Errorf("there is no page %s; an address is written as /ports/aldwick/", args[1])
			}
			if len(args) == 3 {
				return a.explainValues(s.At(day), in.Page.Path, args[2], audience == shelf.SignedIn, asJSON)
			}
			e := explain.Page(s, in.Page.Path, audience, day)
			out := story{Page: in.URL, Document: in.Page.Path, Layout: in.Page.Layout, Audience: audience,
				On: day.Format(time.DateOnly), Regions: []regionStory{}, Homeless: candidates(e.Homeless)}
			for i := range e.Regions {
				r := &e.Regions[i]
				out.Regions = append(out.Regions, regionStory{r.Name, string(r.Mode), r.Shows(),
					candidates(r.Verdicts)})
			}
			if asJSON {
				return a.json(out)
			}
			a.tellStory(out)
			return nil
		},
	}
	c.Flags().BoolVar(&asJSON, "json", false, "print one JSON object")
	c.Flags().StringVar(&audience, "audience", shelf.SignedOut, "for whom: signed-out or signed-in")
	c.Flags().StringVar(&on, "on", "", "on which day, as 2026-12-24 (default: today)")
	return c
}

func candidates(list []place.Verdict) []candidate {
	out := []candidate{}
	for _, v := range list {
		c := candidate{Rule: v.Rule.Name, Block: v.Rule.Block, Why: string(v.Why), Decides: v.Decides,
			Words: v.Words()}
		if v.By != nil {
			c.By = v.By.Name
		}
		out = append(out, c)
	}
	return out
}

func (a *app) tellStory(s story) {
	shows := map[string]string{"page": "the page's own text", "both": "the page's own text and rules",
		"default": "the layout's own content", "nothing": "nothing", "rule": ""}
	for _, r := range s.Regions {
		fmt.Fprintf(a.out, "%s (%s)", r.Region, r.Mode)
		if what := shows[r.Shows]; what != "" {
			fmt.Fprintf(a.out, ": %s", what)
		}
		fmt.Fprintln(a.out)
		a.tellCandidates(r.Candidates)
	}
	if len(s.Homeless) > 0 {
		fmt.Fprintln(a.out, "not on this page")
		a.tellCandidates(s.Homeless)
	}
}

func (a *app) tellCandidates(list []candidate) {
	for _, c := range list {
		fmt.Fprintf(a.out, "  %-9s %s by the rule %s: %s\n", c.Why, c.Block, c.Rule, c.Words)
	}
}

type source struct {
	Source string `json:"source"`
	Value  any    `json:"value,omitempty"`
	Doc    string `json:"document"`
	Line   int    `json:"line,omitempty"`
	Wins   bool   `json:"wins,omitempty"`
	Bad    string `json:"bad,omitempty"`
}

type fieldPrecedence struct {
	Field   string   `json:"field"`
	Sources []source `json:"sources"`
}

func (a *app) explainValues(s *shelf.Shelf, path, address string, signedIn, asJSON bool) error {
	l := explain.PrecedenceAt(s, path, address, signedIn)
	if l == nil {
		return fmt.Errorf("no block stands at %s; an address is written as footer/rule:main-footer or main/card~1", address)
	}
	out := []fieldPrecedence{}
	for _, f := range l.Fields {
		one := fieldPrecedence{Field: f.Field.Name}
		for i, r := range f.Sources {
			one.Sources = append(one.Sources, source{Source: string(r.Source), Value: r.Value.Plain(),
				Doc: r.Doc, Line: r.Line, Wins: i == f.Wins, Bad: r.Bad})
		}
		out = append(out, one)
	}
	if asJSON {
		return a.json(map[string]any{"address": l.Address, "block": l.Block, "fields": out})
	}
	fmt.Fprintf(a.out, "%s at %s, by %s\n", l.Block, l.Address, l.Via)
	for _, f := range out {
		fmt.Fprintln(a.out, f.Field)
		for _, r := range f.Sources {
			mark, said, at := " ", "not said", r.Doc
			if r.Wins {
				mark = "*"
			}
			if r.Value != nil {
				said = fmt.Sprint(r.Value)
			}
			if r.Bad != "" {
				said = r.Bad
			}
			if r.Line > 0 {
				at = fmt.Sprintf("%s:%d", r.Doc, r.Line)
			}
			fmt.Fprintf(a.out, " %s %-9s %s (%s)\n", mark, r.Source, said, at)
		}
	}
	return nil
}
