package workspace_test

import (
	"fmt"
	"testing"
	"time"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"brickshelf/internal/core/check"
	"brickshelf/internal/core/impact"
	"brickshelf/internal/core/render"
	"brickshelf/internal/core/shelf"
	"brickshelf/internal/core/site"
	"brickshelf/internal/core/sitetest"
	"brickshelf/internal/store"
	"brickshelf/internal/workspace"
)

func now() time.Time { return sitetest.Now }

func open(t require.TestingT, dir string, files site.Files) (*workspace.Workspace, *store.Store) {
	st, err := store.Open(dir)
	require.NoError(t, err)
	s, err := st.Create("test", files, nil)
	require.NoError(t, err)
	w, err := workspace.Open(st, s, now, sitetest.Runner{})
	require.NoError(t, err)
	return w, st
}

// valid reports whether a tree can be imported at all.
func valid(files site.Files) bool { return len(check.Validity(sitetest.New(files))) == 0 }

// agree holds everything that a workspace keeps from edit to edit against a site
// compiled from nothing.
func agree(t *rapid.T, w *workspace.Workspace, draft, published site.Files) {
	fresh := sitetest.New(draft)
	state := w.State()
	d := state.Draft
	require.Equal(t, draft.Paths(), d.Paths(""))
	list, complete := w.Findings(d)
	require.True(t, complete)
	want := check.Site(fresh)
	require.Len(t, list, len(want))
	for i := range want {
		require.Equal(t, want[i], list[i])
	}
	pages := d.PagePaths()
	got := w.Standings(d, pages)
	other := standings(fresh, pages)
	require.Equal(t, other, flat(got))
	if published != nil {
		im, docs := state.FromLive()
		slow := impact.Every(sitetest.New(published), fresh, docs)
		require.Equal(t, slow, im)
	}
}

// rank orders the letters: a page that has a block in several ways shows the highest.
var rank = map[byte]int{'-': 0, 'h': 1, 'c': 2, 'l': 3, 'o': 4}

// standings works out the slow way how blocks stand: l, o, c or h for each page.
func standings(s *shelf.Shelf, pages []string) map[string]string {
	out := map[string]string{}
	for i, p := range pages {
		put := func(block string, st byte) {
			row := []byte(out[block])
			if len(row) == 0 {
				for range pages {
					row = append(row, '-')
				}
			}
			if rank[st] > rank[row[i]] {
				row[i] = st
			}
			out[block] = string(row)
		}
		both := render.Page(s, p, render.Options{Placements: true}).Placements
		both = append(both, render.Page(s, p, render.Options{Placements: true, SignedIn: true}).Placements...)
		for _, pl := range both {
			switch {
			case pl.Kind == render.Copied:
				put(pl.Block, 'c')
			case pl.Kind == render.Hidden:
				put(pl.Block, 'h')
			case len(pl.Own) > 0:
				put(pl.Block, 'o')
			default:
				put(pl.Block, 'l')
			}
		}
		_, idle := s.Info(p).Rules()
		for _, r := range s.Rules() {
			for _, name := range idle {
				if r.Name == name {
					put(r.Block, 'h')
				}
			}
		}
	}
	return out
}

func flat(rows map[string][]byte) map[string]string {
	out := map[string]string{}
	for b, row := range rows {
		out[b] = string(row)
	}
	return out
}

func TestWhatIsKeptIsWhatWouldBeFoundAnew(t *testing.T) {
	root := t.TempDir()
	n := 0
	rapid.Check(t, func(t *rapid.T) {
		files := sitetest.Site(t)
		if !valid(files) {
			return
		}
		n++
		w, st := open(t, fmt.Sprint(root, "/", n), files)
		defer st.Close()
		draft, published := files, site.Files(nil)
		agree(t, w, draft, published)
		for range rapid.IntRange(1, 4).Draw(t, "steps") {
			switch rapid.IntRange(0, 4).Draw(t, "step") {
			case 0:
				if _, err := w.Publish("release", ""); err == nil {
					published = draft
				}
			case 1:
				if _, err := w.Undo(""); err == nil {
					draft = w.State().Draft.Files()
				}
			default:
				set := site.ChangeSet{Title: "edit", Changes: sitetest.Edit(t, draft)}
				after, err := draft.Apply(set)
				require.NoError(t, err)
				_, err = w.Save(set, "")
				if !valid(after) {
					require.Error(t, err, "what would be invalid is not saved")
					break
				}
				require.NoError(t, err)
				draft = after
			}
			agree(t, w, draft, published)
		}
	})
}

func TestSavesThatCollideLoseNothing(t *testing.T) {
	w, st := open(t, t.TempDir(), site.Files{"site.yaml": []byte("format: brickshelf/1\n"),
		"blocks/a.html": []byte("a")})
	defer st.Close()
	edit := func(before, after string) error {
		_, err := w.Save(site.ChangeSet{Title: "edit",
			Changes: []site.Change{{Path: "blocks/a.html", Before: site.HashOf([]byte(before)),
				After: []byte(after)}}}, "")
		return err
	}
	require.NoError(t, edit("a", "mine"))
	var conflict *site.Conflict
	require.ErrorAs(t, edit("a", "theirs"), &conflict)
	require.Equal(t, "mine", string(conflict.Current))
	require.Equal(t, "theirs", string(conflict.Offered))
	var invalid *workspace.InvalidError
	require.ErrorAs(t, edit("mine", "@{when}"), &invalid)
	d := w.State().Draft
	b, _ := d.Get("blocks/a.html")
	require.Equal(t, "mine", string(b))
}

func TestProposalsAndListeners(t *testing.T) {
	w, st := open(t, t.TempDir(), site.Files{"site.yaml": []byte("format: brickshelf/1\n"),
		"blocks/a.html": []byte("a"), "pages/p.html": []byte("@{a /}")})
	defer st.Close()
	events, end := w.Listen()
	defer end()
	change := site.Change{Path: "blocks/a.html", Before: site.HashOf([]byte("a")), After: []byte("b")}
	pr, seen := w.Propose([]site.Change{change})
	require.Equal(t, 1, seen.Impact.Counts[impact.Changes])
	_, bad := w.Propose([]site.Change{{Path: "blocks/a.html", Before: change.Before,
		After: []byte("@{a /}")}})
	require.Nil(t, bad.Impact)
	require.Contains(t, bad.Problems.Error(), "calls itself: a → a")

	_, err := w.Save(site.ChangeSet{Title: "other",
		Changes: []site.Change{{Path: "pages/q.html", After: []byte("@{a /}")}}}, "")
	require.NoError(t, err)
	require.Equal(t, workspace.Event{Kind: "draft", Version: 2, Title: "other"}, <-events)
	_, seen, err = w.Proposal(pr.ID)
	require.NoError(t, err)
	require.Equal(t, 2, seen.Impact.Counts[impact.Changes], "worked out anew for the draft as it is now")
	w.Progress("Writing files", 3, 10)
	w.Progress("Writing files", 4, 10)
	require.Equal(t, workspace.Event{Kind: "progress", Version: 2, Title: "Writing files", Done: 3,
		Total: 10}, <-events)
	require.Empty(t, events, "who has not yet heard of what came before is told no more")
	for range 40 {
		w.Propose([]site.Change{change})
	}
	_, _, err = w.Proposal(pr.ID)
	require.ErrorIs(t, err, workspace.ErrStale)

	rel, err := w.Publish("first", "")
	require.NoError(t, err)
	require.Equal(t, "release", (<-events).Kind)
	_, err = w.Save(site.ChangeSet{Title: "b", Changes: []site.Change{change}}, "")
	require.NoError(t, err)
	review, err := w.Review()
	require.NoError(t, err)
	require.Len(t, review.Records, 1)
	require.Equal(t, 2, review.Impact.Counts[impact.Changes])
	_, err = w.Restore(rel.Number, "", "")
	require.NoError(t, err)
	review, err = w.Review()
	require.NoError(t, err)
	require.Zero(t, review.Impact.Counts[impact.Changes])
	_, err = w.Restore(rel.Number, "", "")
	require.ErrorIs(t, err, store.ErrNothing)
}

// A large site is checked in the background; who listens is told when that is done.
func TestLargeSitesAreCheckedInTheBackground(t *testing.T) {
	files := site.Files{"site.yaml": []byte("format: brickshelf/1\n")}
	for i := range 450 {
		files[fmt.Sprintf("pages/p%d.html", i)] = []byte(`<a href="/none/">x</a>`)
	}
	w, st := open(t, t.TempDir(), files)
	defer st.Close()
	events, end := w.Listen()
	defer end()
	d := w.State().Draft
	_, complete := w.Findings(d)
	require.False(t, complete)
	require.Equal(t, "checks", (<-events).Kind)
	list, complete := w.Findings(d)
	require.True(t, complete)
	require.Len(t, list, 450)
}

// As days pass rules begin and end, published pages with them; other days change nothing.
func TestDaysPassWhileASiteIsOpen(t *testing.T) {
	files := site.Files{"layouts/l.html": []byte("@{region bar /}@{region main /}"),
		"blocks/b.html": []byte("<b>b</b>"), "pages/index.html": []byte("---\nlayout: l\n---\nhome")}
	today := sitetest.Now
	in := func(days int) string { return today.AddDate(0, 0, days).Format(time.DateOnly) }
	files["rules/r.yaml"] = []byte("block: b\nregion: bar\non: [all]\nfrom: " + in(2) + "\nuntil: " +
		in(3) + "\n")
	st, err := store.Open(t.TempDir())
	require.NoError(t, err)
	s, err := st.Create("test", files, nil)
	require.NoError(t, err)
	_, err = st.Publish(s.ID, "first")
	require.NoError(t, err)
	w, err := workspace.Open(st, s, func() time.Time { return today }, sitetest.Runner{})
	require.NoError(t, err)
	require.False(t, w.NewDay(), "it is the same day")
	for day, shows := range []bool{false, false, true, true, false, false} {
		if day > 0 {
			today = today.AddDate(0, 0, 1)
			require.Equal(t, day == 2 || day == 4, w.NewDay(), "on day %d", day)
		}
		state := w.State()
		for _, s := range []*shelf.Shelf{state.Draft, state.Live} {
			require.Equal(t, shows, string(render.Page(s, "pages/index.html",
				render.Options{}).HTML) == "<b>b</b>home", "on day %d", day)
		}
		im, _ := state.FromLive()
		require.Empty(t, im.Pages, "the draft and the site are on the same day")
	}
}

func TestLargeProposalsAreNotHeapedUp(t *testing.T) {
	w, st := open(t, t.TempDir(), site.Files{"site.yaml": []byte("format: brickshelf/1\n")})
	defer st.Close()
	large := make([]byte, 100<<20)
	var ids []string
	for range 4 {
		pr, _ := w.Propose([]site.Change{{Path: "assets/large.bin", After: large}})
		ids = append(ids, pr.ID)
	}
	kept := func(id string) bool {
		_, _, err := w.Proposal(id)
		return err == nil
	}
	require.Equal(t, []bool{false, false, true, true}, []bool{kept(ids[0]), kept(ids[1]), kept(ids[2]),
		kept(ids[3])})
	huge, _ := w.Propose([]site.Change{{Path: "assets/large.bin", After: make([]byte, 300<<20)}})
	require.True(t, kept(huge.ID), "the newest can be looked at and saved")
	require.False(t, kept(ids[3]))
}

func TestWhatIsPublishedOutlivesARestart(t *testing.T) {
	dir := t.TempDir()
	files := site.Files{
		"site.yaml":        []byte("format: brickshelf/1\nname: Small\n"),
		"layouts/l.html":   []byte("<head></head>@{region main /}"),
		"pages/index.html": []byte("---\ntitle: Home\nlayout: l\n---\nhome"), "assets/empty.txt": {},
		"assets/gone.txt": []byte("gone"),
	}
	w, st := open(t, dir, files)
	_, err := w.Publish("first", "")
	require.NoError(t, err)
	after := site.Files{"assets/new.txt": {}, "assets/gone.txt": []byte("here again")}
	for _, p := range []string{"site.yaml", "layouts/l.html", "pages/index.html"} {
		after[p] = files[p]
	}
	_, err = w.Save(site.Diff(files, after), "")
	require.NoError(t, err)
	again, err := workspace.Open(st, w.Site, now, sitetest.Runner{})
	require.NoError(t, err)
	for _, w := range []*workspace.Workspace{w, again} {
		draft, live := w.State().Draft, w.State().Live
		require.Equal(t, after.Paths(), draft.Paths(""))
		require.Equal(t, files.Paths(), live.Paths(""), "an empty document is published as well")
		gone, _ := live.Get("assets/gone.txt")
		require.Equal(t, "gone", string(gone))
	}
}

// What is found is found anew where an edit of a page or another day makes it something else.
func TestFindingsFollowEditsAndDays(t *testing.T) {
	today := sitetest.Now
	in := func(days int) string { return today.AddDate(0, 0, days).Format(time.DateOnly) }
	page := "---\nlayout: l\n---\n<a href=\"/none/\">x</a>"
	st, err := store.Open(t.TempDir())
	require.NoError(t, err)
	defer st.Close()
	s, err := st.Create("test", site.Files{"site.yaml": []byte("format: brickshelf/1\n"),
		"layouts/l.html": []byte("@{region bar /}@{region main /}"),
		"blocks/b.html":  []byte("@{menu name=none /}"),
		"rules/r.yaml":   []byte("block: b\nregion: bar\non: [all]\nuntil: " + in(0) + "\n"),
		"pages/p.html":   []byte(page), "pages/q.html": []byte("---\nlayout: l\n---\nq")}, nil)
	require.NoError(t, err)
	w, err := workspace.Open(st, s, func() time.Time { return today }, sitetest.Runner{})
	require.NoError(t, err)
	found := func() (codes []string) {
		list, complete := w.Findings(w.State().Draft)
		require.True(t, complete)
		for _, p := range list {
			codes = append(codes, fmt.Sprintf("%s %d", p.Code, p.Pages))
		}
		return codes
	}
	require.Equal(t, []string{"missing-menu 2", "missing-page 0"}, found())
	_, err = w.Save(site.ChangeSet{Title: "new",
		Changes: []site.Change{{Path: "pages/none.html", After: []byte("here")}}}, "")
	require.NoError(t, err)
	require.Equal(t, []string{"missing-menu 2"}, found(), "the link on another page leads somewhere now")
	_, err = w.Undo("")
	require.NoError(t, err)
	require.Equal(t, []string{"missing-menu 2", "missing-page 0"}, found())
	_, err = w.Save(site.ChangeSet{Title: "edit",
		Changes: []site.Change{{Path: "pages/p.html", Before: site.HashOf([]byte(page)),
			After: []byte("---\nlayout: l\n---\np")}}}, "")
	require.NoError(t, err)
	require.Equal(t, []string{"missing-menu 2"}, found())
	today = today.AddDate(0, 0, 1)
	require.False(t, w.NewDay(), "nothing is published")
	require.NotContains(t, found(), "missing-menu 2", "the rule has ended")
}
