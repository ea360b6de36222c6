package markup

import "strings"

// Foreign content is what stands in svg and math: there no element has raw text, and
// sections of CDATA are read. Of the elements that are open from the outermost of them on,
// a state keeps those that matter here, as a list with a comma behind each.

// kept are the elements of foreign content that are noted, each with what it has to stand
// in: those that begin it, those within which it is HTML again, and those that hold a
// script or style.
var kept = map[string]string{
	"svg": "", "math": "", "foreignobject": "svg", "desc": "svg", "title": "svg", "mi": "math", "mo": "math",
	"mn": "math", "ms": "math", "mtext": "math", "script": "svg", "style": "svg",
}

// breaksOut are the elements whose start tags end all foreign content, by the standard.
var breaksOut = setOf("b big blockquote body br center code dd div dl dt em embed h1 h2 h3 h4 h5 h6 head hr i img li listing menu meta nobr ol p pre ruby s small span strong strike sub sup table tt u ul var")

func setOf(names string) map[string]bool {
	out := map[string]bool{}
	for _, n := range strings.Fields(names) {
		out[n] = true
	}
	return out
}

// maxForeign is how long the list of open elements gets at most.
const maxForeign = 1000

// isForeign reports whether what stands within the open elements is foreign content.
func isForeign(open string) bool {
	if open == "" {
		return false
	}
	switch last(open) {
	case "foreignobject", "desc", "title", "mi", "mo", "mn", "ms", "mtext":
		return false
	}
	return true
}

func last(open string) string {
	open = strings.TrimSuffix(open, ",")
	return open[strings.LastIndexByte(open, ',')+1:]
}

func enter(open, name string) string {
	in, known := kept[name]
	switch {
	case !known || in != "" && in != foreignIn(open) || len(open) > maxForeign:
		return open
	case in == "" && isForeign(open): // one of that name, of the kind that it stands in
		name = "." + name
	}
	return open + name + ","
}

// foreignIn is the kind of foreign content that the open elements are of: svg or math.
func foreignIn(open string) string {
	if strings.LastIndex(","+open, ",svg,") > strings.LastIndex(","+open, ",math,") {
		return "svg"
	}
	return "math"
}

// leave is what is open behind an end tag.
func leave(open, name string) string {
	if open == "" {
		return open
	}
	if i := max(strings.LastIndex(","+open, ","+name+","), strings.LastIndex(","+open, ",."+name+
		",")); i >= 0 {
		return open[:i]
	}
	if isForeign(open) && (breaksOut[name] || name == "html") {
		return outOfForeign(open)
	}
	return open
}

// outOfForeign is what is open of the elements once they are left up to the next within
// which it is HTML.
func outOfForeign(open string) string {
	for open != "" && isForeign(open) {
		open = open[:len(open)-len(last(open))-1]
	}
	return open
}
