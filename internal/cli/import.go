package cli

import (
	"bytes"
	"cmp"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"net/http"
	"net/url"
	"os"
	"os/user"
	"strings"

	"github.com/spf13/cobra"

	"brickshelf/internal/api"
	"brickshelf/internal/core/check"
	"brickshelf/internal/core/shelf"
	"brickshelf/internal/core/site"
	"brickshelf/internal/folder"
	"brickshelf/internal/plain"
	"brickshelf/internal/store"
	"brickshelf/internal/workspace"
)

// intake is what the import command was asked for.
type intake struct {
	data, name     string
	merge, replace bool
	dry            bool
	leave          bool // of a web site that is no shelf folder, as is follow
	follow         bool
	keep           bool // of a part, as is what follows
	as             []string
	from           string
}

// intake is what the server is told of it.
func (in intake) intake(title string) api.Intake {
	return api.Intake{Mode: in.mode(), Title: title, Author: userName(), Dry: in.dry, Keep: in.keep,
		As: in.as, From: in.from}
}

// clashFlags add what is done where a part takes names that are taken.
func (in *intake) clashFlags(c *cobra.Command) {
	c.Flags().BoolVar(&in.keep, "keep", false, "of a part: keep what is here under a name that it takes too")
	c.Flags().StringArrayVar(&in.as, "as", nil, "of a part: take `ID=NAME` under another name; all that speaks of it follows")
	c.Flags().BoolVar(&in.dry, "dry-run", false, "only tell what it would do")
}

func (a *app) imports() *cobra.Command {
	var in intake
	c := &cobra.Command{
		Use:   "import --data DIR [--site NAME] [--merge|--replace|--keep] [--as ID=NAME] [--dry-run] FOLDER|ZIP|-",
		Short: "Take a site in, as a new one or as an edit of one that is there",
		Long: `Take a site in, as a new one or as an edit of one that is there. What the folder does not
hold is removed only with --replace, and kept with --merge; without either, an import that
would remove something is refused. A part of a site (see part) only adds and changes: where it takes a
name that is taken here it is refused, unless --merge takes it, --keep leaves it or --as gives it another
name. Where the data folder is served, the server takes the
site in, and every open tab sees it.

A folder or zip that is no shelf folder is taken as the web site that it is: each .html, .htm and .xhtml is a
page at its own address, every other file is published at its own path. --dry-run tells what is taken as
what. Where some of it cannot be taken in, all of that is told and nothing is imported, unless --leave-out
goes on without it.`,
		Args: cobra.ExactArgs(1),
		RunE: func(_ *cobra.Command, args []string) error {
			if in.merge && in.replace {
				return errors.New("--merge keeps what the folder does not hold, --replace removes it; name one of them")
			}
			files, err := a.takeIn(args[0], in)
			if err != nil {
				return err
			}
			if !in.merge { // a part of a site need be none
				if bad := check.Validity(shelf.NewScripted(files, a.now(), a.scripts())); len(bad) > 0 {
					return bad
				}
			}
			return a.take(in, files, "Import "+args[0])
		},
	}
	dataFlags(c, &in.data, &in.name, "main")
	c.Flags().BoolVar(&in.merge, "merge", false, "only add and change")
	c.Flags().BoolVar(&in.replace, "replace", false, "also remove what the folder does not hold")
	in.clashFlags(c)
	plainFlags(c, &in.leave, &in.follow)
	a.jsonFlag(c)
	_ = c.MarkFlagRequired("data")
	return c
}

// takeIn reads a folder, a zip, or a zip from the standard input, and says what it leaves alone.
func (a *app) takeIn(from string, in intake) (site.Files, error) {
	if from == "-" {
		b, err := io.ReadAll(io.LimitReader(a.in, folder.MaxTotal))
		if err != nil {
			return nil, err
		}
		files, report, err := plain.FromZip(bytes.NewReader(b), int64(len(b)), in.name, a.progress("Reading"))
		return files, cmp.Or(err, a.tellPlain(report, in))
	}
	files, report, err := plain.Take(from, in.follow, a.progress("Reading"))
	if err != nil {
		return nil, err
	}
	if report != nil {
		return files, a.tellPlain(report, in)
	}
	if beside := folder.Beside(from); err == nil && len(beside) > 0 {
		fmt.Fprintf(a.err, "Left alone, since it is none of the site: %s.\n", strings.Join(beside, ", "))
	}
	return files, err
}

func (in intake) mode() workspace.Mode {
	switch {
	case in.merge:
		return workspace.Merge
	case in.replace:
		return workspace.Replace
	}
	return workspace.Add
}

// take brings a tree into a data folder, by way of the process that serves it if there is
// one.
func (a *app) take(in intake, files site.Files, title string) error {
	st, err := store.Open(in.data)
	var served *store.Served
	if errors.As(err, &served) && served.Tool != "" {
		return a.hand(served.Tool, in, files, title)
	}
	if err != nil {
		return err
	}
	defer st.Close()
	srv := api.NewServer(st, nil, a.log(), a.now, a.scripts())
	out, err := srv.Import(in.name, files, in.intake(title))
	if err != nil {
		var removes *workspace.RemovalError
		var invalid *workspace.InvalidError
		var clashes *api.ClashError
		switch {
		case errors.As(err, &clashes):
			return clash(err.Error())
		case errors.As(err, &removes):
			return removal(err.Error())
		case errors.As(err, &invalid):
			return invalid.Problems
		}
		return err
	}
	return a.tellImport(in, out)
}

// removal tells how to go on after a refusal, in the words of the command line.
func removal(why string) error {
	return fmt.Errorf("%s. Use --merge to keep them, or --replace to have the site be just what the folder holds; --dry-run tells what either does", why)
}

// clash tells how to go on where names are taken, in the words of the command line.
func clash(why string) error {
	why, _, _ = strings.Cut(why, ". ")
	return fmt.Errorf("%s. Use --merge to take what the part has, --keep to keep what is here, or --as ID=NAME to take it under another name; --dry-run tells what that does", why)
}

// hand gives a tree to the server of the data folder.
func (a *app) hand(tool string, in intake, files site.Files, title string) error {
	var body bytes.Buffer
	if err := folder.Zip(&body, files, a.progress("Packing")); err != nil {
		return err
	}
	q := url.Values{"title": {title}}
	for flag, set := range map[string]bool{"dry_run": in.dry, "merge": in.merge, "replace": in.replace,
		"keep": in.keep} {
		if set {
			q.Set(flag, "true")
		}
	}
	for _, as := range in.as {
		q.Add("as", as)
	}
	if in.from != "" {
		q.Set("from", in.from)
	}
	req, err := http.NewRequest(http.MethodPost, tool+"/api/v1/sites/"+url.PathEscape(in.name)+"/imports?"+
		q.Encode(), &body)
	if err != nil {
		return err
	}
	req.Header.Set("X-Brick-Shelf", "1")
	req.Header.Set("X-Brick-Shelf-Author", url.PathEscape(userName()))
	req.Header.Set("Content-Type", "application/zip")
	resp, err := http.DefaultClient.Do(req)
	if err != nil {
		return fmt.Errorf("%s is served at %s, which does not answer: %w", in.data, tool, err)
	}
	defer resp.Body.Close()
	answer, err := io.ReadAll(resp.Body)
	if err != nil {
		return err
	}
	if resp.StatusCode != http.StatusOK {
		var p api.Problem
		if json.Unmarshal(answer, &p) != nil || p.Detail == "" {
			return fmt.Errorf("the server at %s answered %s", tool, resp.Status)
		}
		if p.Problems != nil && len(*p.Problems) > 0 {
			var list site.Problems
			for _, f := range *p.Problems {
				list = append(list, site.Problem{Path: f.Path, Line: f.Line, Column: f.Column,
					Message: f.Message})
			}
			return list
		}
		switch p.Title {
		case api.WouldRemove:
			return removal(p.Detail)
		case api.Clash:
			return clash(p.Detail)
		}
		return errors.New(p.Detail)
	}
	var out api.Imported
	if err := json.Unmarshal(answer, &out); err != nil {
		return fmt.Errorf("the server at %s answered what cannot be read: %w", tool, err)
	}
	return a.tellImport(in, &out)
}

func (a *app) tellImport(in intake, out *api.Imported) error {
	if a.asJSON {
		return a.json(out)
	}
	if len(out.Mended) > 0 {
		fmt.Fprintf(a.out, "Mended what was damaged in the database: %s.\n", strings.Join(out.Mended, ", "))
	}
	switch {
	case out.Created && in.dry:
		fmt.Fprintf(a.out, "Would import %d documents as the new site %s.\n", len(out.Added), in.name)
	case out.Created:
		fmt.Fprintf(a.out, "Imported %d documents as the new site %s.\n", len(out.Added), in.name)
	case len(out.Added)+len(out.Changed)+len(out.Removed) == 0:
		fmt.Fprintf(a.out, "The draft of %s is the same already.\n", in.name)
	default:
		verb := [3]string{"adds", "changes", "removes"}
		if in.dry {
			verb = [3]string{"would add", "would change", "would remove"}
		}
		fmt.Fprintf(a.out, "Import into %s: %s %d, %s %d, %s %d documents.\n%s\n", in.name, verb[0],
			len(out.Added), verb[1], len(out.Changed), verb[2], len(out.Removed), out.Sentence)
		for _, p := range out.Removed {
			fmt.Fprintf(a.out, "  %s %s\n", verb[2], p)
		}
		if !in.dry {
			fmt.Fprintln(a.out, "Undo takes it back.")
		}
	}
	return nil
}

// reading opens a data folder that may be served at the same time.
func reading(data string) (*store.Store, error) {
	if _, err := os.Stat(data); err != nil {
		return nil, fmt.Errorf("there is no data folder %s", data)
	}
	return store.Beside(data)
}

// userName is what the system calls the one who runs the program; "" where it does not tell.
func userName() string {
	u, err := user.Current()
	if err != nil {
		return ""
	}
	return cmp.Or(u.Name, u.Username)
}
