package api

import (
	"net/http"
	"time"

	"github.com/gin-gonic/gin"

	"brickshelf/internal/core/block"
	"brickshelf/internal/core/edit/values"
	"brickshelf/internal/core/render"
	"brickshelf/internal/core/script"
	"brickshelf/internal/core/site"
)

// TryScript runs a scripted shortcode once, as its text stands.
func (h *handlers) TryScript(c *gin.Context, name SiteName) {
	var in ScriptTrial
	if !h.body(c, &in) {
		return
	}
	w := h.open(c, name)
	if w == nil {
		return
	}
	path := "shortcodes/" + in.Name + ".js"
	if class, _, bad := site.Classify(path); bad != "" || class != site.ShortcodeDoc {
		problem(c, http.StatusUnprocessableEntity, "This is no name for a script", path+" "+bad)
		return
	}
	reader := block.NewReader()
	sc, problems := script.Parse(in.Name, path, []byte(in.Text), reader)
	out := ScriptResult{Title: sc.Title, About: sc.About, Encloses: sc.Encloses, Reads: append([]string{},
		sc.Reads...), Fields: contractFields(sc.Params)}
	args, call, wrong := argumentsOf(sc, in, reader)
	problems = append(problems, wrong...)
	out.Call = call + " /}"
	if sc.Encloses {
		out.Call = call + "}" + in.Inner + "@{/" + in.Name + "}"
	}
	if len(problems) == 0 {
		page := ""
		if in.Page != nil {
			page = *in.Page
		}
		d := w.State().Draft
		start := time.Now()
		given, failure := render.TryScript(d, sc, args, []byte(in.Inner), page)
		out.Microseconds = int(time.Since(start).Microseconds())
		out.Text, out.Html = given.Text, given.HTML
		if failure != nil {
			problems = append(problems, site.Problem{Code: "script-failed", Severity: site.Error,
				Path: failure.Path, Line: failure.Line, Column: failure.Column, Message: failure.Message})
		}
	}
	out.Problems = findings(problems)
	c.JSON(http.StatusOK, out)
}

// argumentsOf are the arguments with which a script is tried, the call that gives them as far
// as it goes, and what is wrong with them.
func argumentsOf(sc *script.Script, in ScriptTrial,
	reader *block.Reader) (args map[string]any, call string, problems site.Problems) {
	args, call = map[string]any{}, "@{"+in.Name
	problem := func(f *block.Field, code, message string) {
		problems = append(problems, site.Problem{Code: code, Severity: site.Error, Path: sc.Path,
			Line: f.Line, Column: f.Column, Message: message})
	}
	for _, f := range sc.Params {
		v := f.Default
		if typed := in.Arguments[f.Name]; typed != "" {
			given, err := values.Typed(reader, f, typed)
			if err != nil {
				problem(f, "wrong-type", err.Error())
				continue
			}
			v = given
			call += " " + f.Name + "=" + v.Argument()
		}
		if f.Required && v.Empty() {
			problem(f, "missing-value", in.Name+" needs the argument "+f.Name)
		}
		if v.IsSet() {
			args[f.Name] = v.Plain()
		}
	}
	return args, call, problems
}
