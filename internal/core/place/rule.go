package place

import (
	"cmp"
	"slices"
	"strconv"
	"strings"
	"time"

	"brickshelf/internal/core/block"
	"brickshelf/internal/core/markup"
	"brickshelf/internal/core/site"
)

// TargetKind is a way of saying which pages a rule takes.
type TargetKind uint8

// The kinds of targets, from the least to the most specific.
const (
	All TargetKind = iota
	ByTag
	ByLayout
	Under
	Home
	OnePage
)

// Target is one entry of a rule's on or except.
type Target struct {
	Kind TargetKind
	Arg  string
}

// ParseTarget reads all, home, layout:NAME, tag:NAME, under:/path/ or page:/path/.
func ParseTarget(s string) (Target, bool) {
	word, arg, more := strings.Cut(s, ":")
	for kind, t := range targetKinds {
		if t.word == word && more == (t.valid != nil) {
			return Target{TargetKind(kind), arg}, !more || arg != "" && t.valid(arg)
		}
	}
	return Target{}, false
}

// String writes the target as it stands in a rule.
func (t Target) String() string {
	if k := targetKinds[t.Kind]; k.valid == nil {
		return k.word
	}
	return targetKinds[t.Kind].word + ":" + t.Arg
}

// Facts are what targets ask about a page.
type Facts struct {
	URL    string
	Layout string
	Tags   []string
	IsHome bool
}

// Words says in words which pages a target takes.
func (t Target) Words() string {
	switch t.Kind {
	case Home:
		return "the home page"
	case ByLayout:
		return "pages of the type " + t.Arg
	case ByTag:
		return "pages tagged " + t.Arg
	case Under:
		return "all pages under " + t.Arg
	case OnePage:
		return "the page " + t.Arg
	}
	return "all pages"
}

// Takes reports whether the target takes a page.
func (t Target) Takes(f Facts) bool { return targetKinds[t.Kind].takes(t.Arg, f) }

// Specificity orders targets: page, home, under (deeper first), layout and tag
// alike, all.
type Specificity int

func (t Target) specificity() Specificity { return targetKinds[t.Kind].specificity(t.Arg) }

// targetKinds has what each kind of target is: its word in a rule, what may follow that behind a
// colon (nil where nothing does), which pages it takes, and how specific it is.
var targetKinds = [...]struct {
	word        string
	valid       func(arg string) bool
	takes       func(arg string, f Facts) bool
	specificity func(arg string) Specificity
}{
	All: {"all", nil, func(string, Facts) bool { return true }, always(0)},
	ByTag: {"tag", func(string) bool { return true },
		func(arg string, f Facts) bool { return slices.Contains(f.Tags, arg) }, always(1)},
	ByLayout: {"layout", markup.ValidName,
		func(arg string, f Facts) bool { return f.Layout == arg }, always(1)},
	Under: {"under", func(arg string) bool { return arg[0] == '/' && arg[len(arg)-1] == '/' },
		func(arg string, f Facts) bool { return strings.HasPrefix(f.URL, arg) },
		func(arg string) Specificity { return Specificity(2 + strings.Count(arg, "/")) }},
	Home: {"home", nil, func(_ string, f Facts) bool { return f.IsHome }, always(1 << 19)},
	OnePage: {"page", func(arg string) bool { return arg[0] == '/' },
		func(arg string, f Facts) bool { return f.URL == arg }, always(1 << 20)},
}

func always(s Specificity) func(string) Specificity {
	return func(string) Specificity { return s }
}

// Setting is a value that a rule sets. Raw is what block.Reader.Read takes.
type Setting struct {
	Field string
	Raw   any
	Line  int
	Col   int
}

// Rule says which block appears in which region of which pages.
type Rule struct {
	Name     string
	Title    string // what it is called, "" where it says nothing of it
	Path     string
	Block    string
	Region   string
	On       []Target
	Except   []Target
	Set      []Setting
	AtStart  bool
	Order    int
	Audience string // everyone, signed-in or signed-out
	From     string // dates as 2006-01-02, "" where there is none
	Until    string
	Enabled  bool
	BlockAt  [2]int // line and column of the block's name
	RegionAt [2]int
	OnAt     [][2]int // of the entries of On and Except
	ExceptAt [][2]int
}

// Called is what the rule is called where one reads of it: its title, or its name where it has none.
func (r *Rule) Called() string { return cmp.Or(r.Title, r.Name) }

// Takes reports whether the rule takes a page, and how specifically.
func (r *Rule) Takes(f Facts) (Specificity, bool) {
	best, taken := Specificity(-1), false
	for _, t := range r.On {
		if t.Takes(f) {
			best, taken = max(best, t.specificity()), true
		}
	}
	if !taken {
		return 0, false
	}
	for _, t := range r.Except {
		if t.Takes(f) {
			return 0, false
		}
	}
	return best, true
}

// Running reports whether the rule is switched on for an audience on a day.
func (r *Rule) Running(now time.Time, audience string) bool {
	return r.Enabled && running(r.Audience, r.From, r.Until, now, audience)
}

// everyone is the audience of what is for all.
const everyone = "everyone"

// running reports whether what is for an audience and from one day until another stands for
// somebody at a moment.
func running(of, from, until string, now time.Time, audience string) bool {
	day := now.Format(time.DateOnly)
	return (of == everyone || of == audience) && (from == "" || day >= from) && (until == "" || day <= until)
}

// For reports whether an audience, signed-in or signed-out, is meant by the rule.
func (r *Rule) For(audience string) bool { return r.Audience == "everyone" || r.Audience == audience }

// ParseRule reads a rule.
func ParseRule(name, path string, src []byte) (*Rule, site.Problems) {
	r := &Rule{Name: name, Path: path, Audience: "everyone", Enabled: true}
	h := &block.Head{Path: path}
	y, problem := site.ParseYAML(src, path, 1)
	if problem != nil {
		return r, site.Problems{*problem}
	}
	keys := []string{"title", "block", "region", "on", "except", "set", "at", "order", "audience", "from", "until",
		"enabled", "note"}
	h.Keys(y, "a rule", keys, func(p site.Pair) { r.key(h, p) })
	need := func(have bool, key, how string) {
		if !have {
			h.Fail(1, 1, "missing-key", "a rule needs %s, as in %s", key, how)
		}
	}
	need(r.Block != "", "block", "block: header")
	need(r.Region != "", "region", "region: header")
	need(len(r.On) > 0 || len(h.Problems) > 0, "on", "on: [all]")
	if r.From != "" && r.Until != "" && r.From > r.Until {
		h.Fail(y.Line, y.Col, "bad-dates", "the rule ends on %s, before it begins on %s", r.Until, r.From)
	}
	return r, h.Problems
}

func (r *Rule) key(h *block.Head, p site.Pair) {
	v := p.Value
	switch p.Key {
	case "title":
		r.Title = h.String(p)
	case "block":
		r.Block, r.BlockAt = h.String(p), [2]int{v.Line, v.Col}
	case "region":
		r.Region, r.RegionAt = h.String(p), [2]int{v.Line, v.Col}
	case "on":
		r.On, r.OnAt = targets(h, p)
	case "except":
		r.Except, r.ExceptAt = targets(h, p)
	case "set":
		if v.Kind != site.Mapping {
			h.Fail(v.Line, v.Col, "wrong-type", "set should be written as {FIELD: value}")
			return
		}
		for _, s := range v.Pairs {
			r.Set = append(r.Set, Setting{s.Key, block.Raw(s.Value), s.Value.Line, s.Value.Col})
		}
	case "at":
		r.AtStart = v.Text == "start"
		if v.Text != "start" && v.Text != "end" {
			h.Fail(v.Line, v.Col, "wrong-type", "at is start or end")
		}
	case "order":
		n, err := strconv.Atoi(v.Text)
		if err != nil || v.Kind != site.Number {
			h.Fail(v.Line, v.Col, "wrong-type", "order should be a whole number")
		}
		r.Order = n
	case "audience":
		r.Audience = audienceOf(h, p)
	case "from":
		r.From = dayOf(h, p)
	case "until":
		r.Until = dayOf(h, p)
	case "enabled":
		r.Enabled = h.Bool(p)
	}
}

func audienceOf(h *block.Head, p site.Pair) string {
	v := p.Value
	if v.Text != everyone && v.Text != "signed-in" && v.Text != "signed-out" {
		h.Fail(v.Line, v.Col, "wrong-type", "audience is everyone, signed-in or signed-out")
	}
	return v.Text
}

// dayOf reads a day, "" where it is none.
func dayOf(h *block.Head, p site.Pair) string {
	if _, err := time.Parse("2006-01-02", p.Value.Text); err != nil {
		h.Fail(p.Value.Line, p.Value.Col, "wrong-type", "%s should be a date, as in 2026-03-01", p.Key)
		return ""
	}
	return p.Value.Text
}

func targets(h *block.Head, p site.Pair) (out []Target, at [][2]int) {
	list := h.Strings(p)
	for i, s := range list {
		pos := [2]int{p.Value.Line, p.Value.Col}
		if len(p.Value.Items) == len(list) {
			pos = [2]int{p.Value.Items[i].Line, p.Value.Items[i].Col}
		}
		t, ok := ParseTarget(s)
		if !ok {
			h.Fail(pos[0], pos[1], "bad-target",
				"%q is no target; write all, home, layout:NAME, tag:NAME, under:/path/ or page:/path/", s)
			continue
		}
		out, at = append(out, t), append(at, pos)
	}
	return out, at
}
