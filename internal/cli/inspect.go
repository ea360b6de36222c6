package cli

import (
	"errors"
	"fmt"
	"maps"
	"slices"
	"strings"

	"github.com/spf13/cobra"

	"brickshelf/internal/core/check"
	"brickshelf/internal/core/impact"
	"brickshelf/internal/core/shelf"
	"brickshelf/internal/core/site"
	"brickshelf/internal/folder"
)

func (a *app) impact() *cobra.Command {
	var asJSON, markdown bool
	c := &cobra.Command{
		Use:   "impact BEFORE AFTER",
		Short: "Which pages differ between two sites, which stay and why, what breaks",
		Args:  cobra.ExactArgs(2),
		RunE: func(_ *cobra.Command, args []string) error {
			before, err := a.load(args[0])
			if err != nil {
				return err
			}
			after, err := a.load(args[1])
			if err != nil {
				return err
			}
			files := after.Files()
			im, o := impact.Whole(before, files)
			im.Later = impact.Ahead(before, o)
			var docs []string
			for _, ch := range site.Diff(before.Files(), files).Changes {
				docs = append(docs, ch.Path)
			}
			for i := range im.Pages {
				impact.Detail(before, o, docs, &im.Pages[i])
				if im.Pages[i].Breaks == nil {
					im.Pages[i].Breaks = []impact.Break{}
				}
			}
			switch {
			case asJSON:
				if err := a.json(im); err != nil {
					return err
				}
			case markdown:
				a.tellMarkdown(im)
			default:
				a.tell(im)
			}
			if im.Breaks() > 0 {
				return errBreaks
			}
			return nil
		},
	}
	c.Flags().BoolVar(&asJSON, "json", false, "print one JSON object")
	c.Flags().BoolVar(&markdown, "markdown", false, "print Markdown, as for a merge request")
	c.MarkFlagsMutuallyExclusive("json", "markdown")
	return c
}

// tellMarkdown tells an impact as a note on a merge request: the sentence, what breaks, and the
// pages by what becomes of them.
func (a *app) tellMarkdown(im *impact.Impact) {
	fmt.Fprintf(a.out, "**%s**\n", shown.Replace(im.Sentence()))
	var breaks []string
	pages := map[impact.Effect][]string{}
	for _, p := range im.Pages {
		pages[p.Effect] = append(pages[p.Effect], code(p.Path))
		for _, b := range p.Breaks {
			breaks = append(breaks, fmt.Sprintf("- %s at %s: %s", code(p.Path), code(b.Address), shown.Replace(b.Message)))
		}
	}
	for _, b := range im.Documents {
		breaks = append(breaks, fmt.Sprintf("- %s: %s", code(b.Address), shown.Replace(b.Message)))
	}
	if len(breaks) > 0 {
		fmt.Fprintf(a.out, "\nWhat breaks:\n\n%s\n", strings.Join(breaks, "\n"))
	}
	for _, e := range slices.Sorted(maps.Keys(pages)) {
		fmt.Fprintf(a.out, "\n<details><summary>%s: %d</summary>\n\n%s\n\n</details>\n", e, len(pages[e]),
			strings.Join(pages[e], ", "))
	}
}

// shown writes words so that Markdown shows them as they are.
var shown = strings.NewReplacer("\\", "\\\\", "*", "\\*", "_", "\\_", "`", "\\`", "<", "&lt;", "[", "\\[", "|", "\\|",
	"\n", " ", "@", "&#64;", "#", "\\#")

// code writes a name or an address in Markdown.
func code(s string) string {
	return "`" + strings.NewReplacer("`", "'", "\n", " ").Replace(s) + "`"
}

func (a *app) tell(im *impact.Impact) {
	for _, p := range im.Pages {
		fmt.Fprintf(a.out, "%-9s %s\n", p.Effect, p.Path)
		for _, b := range p.Breaks {
			fmt.Fprintf(a.out, "          breaks at %s: %s\n", b.Address, b.Message)
		}
	}
	for _, b := range im.Documents {
		fmt.Fprintf(a.out, "breaks at %s: %s\n", b.Address, b.Message)
	}
	fmt.Fprintln(a.out, im.Sentence())
}

type finding struct {
	Code     string `json:"code"`
	Severity string `json:"severity"`
	Path     string `json:"path"`
	Line     int    `json:"line"`
	Column   int    `json:"column"`
	Message  string `json:"message"`
	Pages    int    `json:"pages,omitempty"` // on how many it shows, where they share the document
}

func (a *app) check() *cobra.Command {
	var asJSON bool
	c := &cobra.Command{
		Use:   "check FOLDER",
		Short: "What is wrong in a site",
		Args:  cobra.ExactArgs(1),
		RunE: func(_ *cobra.Command, args []string) error {
			files, err := folder.Read(args[0], a.progress("Reading"))
			if err != nil {
				return err
			}
			problems := check.Site(shelf.NewScripted(files, a.now(), a.scripts()))
			invalid, broken := len(problems.Invalid()) > 0, false
			list := []finding{}
			for _, p := range problems {
				sev := p.Severity
				broken = broken || sev == site.Error
				if sev == site.Invalid {
					sev = site.Error
				}
				list = append(list, finding{p.Code, string(sev), p.Path, p.Line, p.Column, p.Message,
					p.Pages})
				if !asJSON {
					on := ""
					if p.Pages > 1 {
						on = fmt.Sprintf(", on %d pages", p.Pages)
					}
					fmt.Fprintf(a.out, "%s (%s%s)\n", p.Error(), sev, on)
				}
			}
			if asJSON {
				if err := a.json(map[string]any{"findings": list}); err != nil {
					return err
				}
			}
			switch {
			case invalid:
				return errors.New("this is not a valid site")
			case broken:
				return errBreaks
			}
			return nil
		},
	}
	c.Flags().BoolVar(&asJSON, "json", false, "print one JSON object")
	return c
}
