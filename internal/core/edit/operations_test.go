package edit_test

import (
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"brickshelf/internal/core/block"
	"brickshelf/internal/core/check"
	"brickshelf/internal/core/edit/copies"
	"brickshelf/internal/core/edit/documents"
	"brickshelf/internal/core/edit/outline"
	"brickshelf/internal/core/edit/placing"
	"brickshelf/internal/core/edit/values"
	"brickshelf/internal/core/place"
	"brickshelf/internal/core/render"
	"brickshelf/internal/core/shelf"
	"brickshelf/internal/core/site"
	"brickshelf/internal/core/sitetest"
)

// world draws arguments for operations: mostly what a site has, now and then what it has
// not, or what no name may be.
type world struct {
	t *rapid.T
	s *shelf.Shelf
}

func (w world) of(label string, there []string, more ...string) string {
	return rapid.SampledFrom(append(append([]string{}, there...), more...)).Draw(w.t, label)
}

func (w world) block(label string) string { return w.of(label, w.s.Names(), "fresh", "No name", "") }
func (w world) page(label string) string {
	return w.of(label, w.s.PagePaths(), "pages/fresh.html", "pages/deep/er/fresh.html", "pages/../x.html",
		"blocks/a.html")
}

// name draws what something new may be called, and now and then what it may not.
func (w world) name(label string) string {
	return w.of(label, []string{"fresh", "other", "third", "fourth"}, "b1", "title", "No name", "")
}

// spare draws where a page may come to stand.
func (w world) spare(label string) string {
	return w.of(label, []string{"pages/fresh.html", "pages/a/fresh.html", "pages/deep/er/fresh.html"},
		"pages/../x.html", "blocks/a.html", "pages/a/p0.html")
}
func (w world) field() string {
	return w.of("field", []string{"title", "on", "logo", "items"}, "fresh", "")
}
func (w world) text() string {
	return w.of("text", []string{"sea", "quay", "calm", "1", "/a/", "true"}, "", "@{", "é\"'\\<b>",
		`[{"label":"x"}]`)
}
func (w world) layout() string {
	var names []string
	for _, l := range w.s.Layouts() {
		names = append(names, l.Name)
	}
	return w.of("layout", names, "fresh", "")
}
func (w world) rule() string {
	var names []string
	for _, r := range w.s.Rules() {
		names = append(names, r.Name)
	}
	return w.of("rule", names, "fresh", "")
}

// rulesOf are the rules of a region, in another order.
func (w world) rulesOf(region string) []string {
	var names []string
	for _, r := range w.s.Rules() {
		if r.Region == region {
			names = append(names, r.Name)
		}
	}
	return rapid.Permutation(names).Draw(w.t, "order")
}
func (w world) region() string {
	return w.of("region", []string{"main", "side", "head", "body"}, "fresh")
}

// spot draws a page and the address of something that stands there.
func (w world) spot() (string, string) {
	page := w.page("page")
	var there []string
	if w.s.Info(page) != nil {
		for _, p := range render.Page(w.s, page, render.Options{Placements: true}).Placements {
			there = append(there, p.Address)
		}
	}
	return page, w.of("address", there, "main/none~1", "main", "")
}

func (w world) pages() []string {
	return rapid.SliceOfNDistinct(rapid.SampledFrom(append(w.s.PagePaths(), "pages/none.html")), 1, 3,
		rapid.ID).Draw(w.t, "pages")
}

func (w world) spots() []copies.Spot {
	return rapid.SliceOfN(rapid.Custom(func(t *rapid.T) copies.Spot {
		w.t = t
		page, at := w.spot()
		return copies.Spot{Doc: page, Address: at}
	}), 1, 3).Draw(w.t, "spots")
}

// operations are all that is done to a site, each with arguments that a world gives.
var operations = map[string]func(w world) (site.ChangeSet, error){
	"new block": func(w world) (site.ChangeSet, error) {
		return documents.NewBlock(w.s, w.name("name"), w.text(), w.text())
	},
	"duplicate block": func(w world) (site.ChangeSet, error) {
		return documents.DuplicateBlock(w.s, w.block("block"), w.name("to"))
	},
	"rename block": func(w world) (site.ChangeSet, error) {
		return documents.RenameBlock(w.s, w.block("block"), w.name("to"))
	},
	"delete block": func(w world) (site.ChangeSet, error) {
		with := rapid.SampledFrom([]documents.Replacement{documents.WithNothing, documents.WithCopies,
			documents.WithContent, documents.WithAnother}).Draw(w.t, "with")
		set, _, err := documents.DeleteBlock(w.s, w.block("block"), with, w.block("another"), nil)
		return set, err
	},
	"replace": func(w world) (site.ChangeSet, error) {
		x := documents.Exchange{From: w.block("block"), To: w.block("another")}
		if rapid.Bool().Draw(w.t, "in some spots") {
			x.Spots = w.spots()
		}
		set, _, err := documents.Replace(w.s, x)
		return set, err
	},
	"detach": func(w world) (site.ChangeSet, error) {
		page, at := w.spot()
		return copies.Detach(w.s, page, at)
	},
	"detach many": func(w world) (site.ChangeSet, error) {
		return copies.DetachAll(w.s, w.spots(), rapid.Bool().Draw(w.t, "filled"))
	},
	"link": func(w world) (site.ChangeSet, error) {
		set, _, err := copies.LinkAll(w.s, w.spots(), copies.Goes)
		return set, err
	},
	"update": func(w world) (site.ChangeSet, error) {
		list := []copies.Wanted{}
		for _, s := range w.spots() {
			list = append(list, copies.Wanted{Spot: s, Choices: []copies.Choice{{Take: copies.OfBoth}}})
		}
		set, _, err := copies.Update(w.s, list)
		return set, err
	},
	"retarget": func(w world) (site.ChangeSet, error) {
		page, at := w.spot()
		_, to := w.spot()
		return values.Retarget(w.s, page, at, to)
	},
	"rename field": func(w world) (site.ChangeSet, error) {
		return values.RenameField(w.s, w.block("block"), w.field(), w.name("to"))
	},
	"retype field": func(w world) (site.ChangeSet, error) {
		to := rapid.SampledFrom([]block.Type{block.Text, block.Number, block.Switch, block.List,
			"none"}).Draw(w.t, "type")
		set, _, err := values.RetypeField(w.s, w.block("block"), w.field(), to)
		return set, err
	},
	"remove field": func(w world) (site.ChangeSet, error) {
		set, _, err := values.RemoveField(w.s, w.block("block"), w.field())
		return set, err
	},
	"add field": func(w world) (site.ChangeSet, error) {
		return values.AddField(w.s, w.block("block"), w.name("field"), block.Text, w.text())
	},
	"drop orphans": func(w world) (site.ChangeSet, error) {
		return values.DropOrphans(w.s, w.block("block"), w.field())
	},
	"default": func(w world) (site.ChangeSet, error) {
		return values.MakeDefault(w.s, w.block("block"), w.field(), w.text(), rapid.Bool().Draw(w.t, "keep"))
	},
	"raise to rule": func(w world) (site.ChangeSet, error) {
		return values.RaiseToRule(w.s, w.rule(), w.field(), w.text())
	},
	"raise to page": func(w world) (site.ChangeSet, error) {
		return values.RaiseToPage(w.s, w.block("block"), w.field(), w.text(), w.name("key"))
	},
	"set values": func(w world) (site.ChangeSet, error) {
		page, at := w.spot()
		text := w.text()
		return values.Set(w.s, w.block("block"), []values.Edit{{Doc: page, Address: at, Field: w.field(),
			Text: &text}})
	},
	"move page": func(w world) (site.ChangeSet, error) {
		return documents.MovePage(w.s, w.page("page"), w.spare("to"), rapid.Bool().Draw(w.t, "redirect"))
	},
	"new page": func(w world) (site.ChangeSet, error) {
		return documents.NewPage(w.s, w.spare("page"), w.text(), w.layout())
	},
	"duplicate page": func(w world) (site.ChangeSet, error) {
		return documents.DuplicatePage(w.s, w.page("page"), w.spare("to"), w.text())
	},
	"delete page": func(w world) (site.ChangeSet, error) { return documents.DeletePage(w.s, w.page("page")) },
	"set layout": func(w world) (site.ChangeSet, error) {
		return documents.SetLayout(w.s, w.page("page"), w.layout(), map[string]string{w.region(): w.region()})
	},
	"new layout": func(w world) (site.ChangeSet, error) {
		return documents.NewLayout(w.s, w.name("name"), w.text(), w.layout())
	},
	"delete layout": func(w world) (site.ChangeSet, error) {
		return documents.DeleteLayout(w.s, w.layout(), w.layout())
	},
	"new rule": func(w world) (site.ChangeSet, error) {
		return placing.NewRule(w.s, w.name("name"), "", w.block("block"), w.region())
	},
	"delete rule": func(w world) (site.ChangeSet, error) { return placing.DeleteRule(w.s, w.rule()) },
	"order rules": func(w world) (site.ChangeSet, error) {
		mode := rapid.SampledFrom([]place.Mode{place.One, place.Stack}).Draw(w.t, "mode")
		region := w.region()
		return placing.OrderRules(w.s, region, mode, w.rulesOf(region))
	},
	"new menu": func(w world) (site.ChangeSet, error) {
		return documents.NewMenu(w.s, w.name("name"), w.text())
	},
	"delete menu": func(w world) (site.ChangeSet, error) {
		return documents.DeleteMenu(w.s, w.of("name", []string{"main", "m", "none"}))
	},
	"roll out": func(w world) (site.ChangeSet, error) {
		set, _, err := placing.RollOut(w.s, w.pages(), w.region(), "@{"+w.of("call", w.s.Names(), "fresh")+
			" /}", rapid.Bool().Draw(w.t, "at start"))
		return set, err
	},
	"take off": func(w world) (site.ChangeSet, error) {
		set, _, err := placing.TakeOff(w.s, w.pages(), w.region(), w.block("block"))
		return set, err
	},
	"send part": func(w world) (site.ChangeSet, error) {
		page := w.page("page")
		from := -1
		if parts := outline.Of(w.s.Files()[page]); len(parts) > 0 {
			from = rapid.SampledFrom(parts).Draw(w.t, "part").From
		}
		return outline.Send(w.s, page, from, w.page("to"), w.region())
	},
	"switch a set": func(w world) (site.ChangeSet, error) {
		return documents.SwitchSet(w.s, w.of("set", []string{"extra", "paths"}), rapid.Bool().Draw(w.t, "on"))
	},
}

// Whatever is asked of a valid site is refused, or leaves a valid site behind by a change
// set that fits it; nothing panics, and no change says what stands there already.
func TestOperationsLeaveAValidSite(t *testing.T) {
	names := make([]string, 0, len(operations))
	for name := range operations {
		names = append(names, name)
	}
	carried := map[string]int{}
	drawn := func(t *rapid.T) {
		files := sitetest.Site(t)
		if len(check.Validity(sitetest.New(files))) > 0 {
			files = sitetest.Harbour()
		}
		for range 10 {
			s := sitetest.New(files)
			name := rapid.SampledFrom(sortedNames(names)).Draw(t, "operation")
			set, err := operations[name](world{t, s})
			if err != nil {
				require.NotEmpty(t, strings.TrimSpace(err.Error()), name)
				continue
			}
			carried[name]++
			seen := map[string]bool{}
			for _, c := range set.Changes {
				require.False(t, seen[c.Path], "%s: %s is changed twice", name, c.Path)
				seen[c.Path] = true
				if old, there := s.Get(c.Path); there {
					require.NotEqual(t, string(old),
						string(c.After)+map[bool]string{true: "deleted"}[c.Delete], "%s: %s is as it was",
						name, c.Path)
				}
			}
			after := sitetest.Apply(t, files, set)
			bad := check.Validity(sitetest.New(after))
			require.Empty(t, bad, name)
			files = after
		}
	}
	// A run of few sites can have drawn none to which some could be done.
	for round := 0; round < 8 && len(carried) <= len(names)*2/3; round++ {
		rapid.Check(t, drawn)
	}
	for _, name := range names {
		if carried[name] == 0 {
			t.Logf("%s was refused each time", name)
		}
	}
	require.Greater(t, len(carried), len(names)*2/3, "most operations can be done to some site")
}

func sortedNames(names []string) []string {
	names = slices.Clone(names)
	slices.Sort(names)
	return names
}
