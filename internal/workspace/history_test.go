package workspace_test

import (
	"fmt"
	"maps"
	"os"
	"testing"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"brickshelf/internal/core/site"
)

// Taking back an old edit gives the documents that it changed what they held before, as long as
// nothing later stands on it; all that later edits did stays. Done again, it is as it was.
func TestAnOldEditIsTakenBackWhereNothingStandsOnIt(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		dir, err := os.MkdirTemp("", "history-*")
		require.NoError(t, err)
		defer os.RemoveAll(dir)
		files := site.Files{"site.yaml": []byte("format: brickshelf/1\n")}
		for i := range 4 {
			files[fmt.Sprintf("pages/p%d.html", i)] = []byte("0")
		}
		w, st := open(t, dir, files)
		defer st.Close()
		type edit struct {
			id   int64
			was  site.Files // what it changed, as it was
			made map[string]string
		}
		var edits []edit
		now := maps.Clone(files)
		for n := range rapid.IntRange(1, 6).Draw(t, "edits") {
			e := edit{was: site.Files{}, made: map[string]string{}}
			set := site.ChangeSet{Title: fmt.Sprint("edit ", n)}
			paths := rapid.SliceOfNDistinct(rapid.SampledFrom([]string{"pages/p0.html", "pages/p1.html", "pages/p2.html",
				"pages/p3.html", "pages/new.html"}), 1, 2, rapid.ID).Draw(t, "paths")
			for _, p := range paths {
				c := site.Change{Path: p, After: fmt.Appendf(nil, "%s by %d", p, n)}
				if old, there := now[p]; there {
					c.Before, e.was[p] = site.HashOf(old), old
					if rapid.IntRange(0, 3).Draw(t, "delete") == 0 {
						c.After, c.Delete = nil, true
					}
				}
				if delete(now, p); !c.Delete {
					now[p] = c.After
				}
				e.made[p] = string(c.After)
				set.Changes = append(set.Changes, c)
			}
			rec, err := w.Save(set, "")
			require.NoError(t, err)
			e.id = rec.ID
			edits = append(edits, e)
		}
		i := rapid.IntRange(0, len(edits)-1).Draw(t, "taken back")
		e := edits[i]
		stands := false
		for _, later := range edits[i+1:] {
			for p := range later.made {
				_, mine := e.made[p]
				stands = stands || mine
			}
		}
		set, err := w.TakeBack(e.id)
		if stands {
			// Where all that was changed since is by chance as it was, nothing stands in the way.
			if err != nil {
				require.Regexp(t, `was changed since by "edit \d"|nothing of this edit is left`, err.Error())
			}
			return
		}
		require.NoError(t, err)
		_, err = w.Save(set, "")
		require.NoError(t, err)
		for p := range e.made {
			if delete(now, p); e.was[p] != nil {
				now[p] = e.was[p]
			}
		}
		got := site.Files{}
		for _, p := range w.State().Draft.Paths("") {
			got[p], _ = w.State().Draft.Get(p)
		}
		require.Equal(t, now, got)
		_, err = w.TakeBack(e.id)
		require.ErrorContains(t, err, "nothing of this edit is left")
	})
}

func TestADocumentIsBroughtBackAsItWas(t *testing.T) {
	w, st := open(t, t.TempDir(), site.Files{"site.yaml": []byte("format: brickshelf/1\n"), "pages/p.html": []byte("0")})
	defer st.Close()
	save := func(before, after string) {
		_, err := w.Save(site.ChangeSet{Title: "to " + after, Changes: []site.Change{{Path: "pages/p.html",
			Before: site.HashOf([]byte(before)), After: []byte(after)}}}, "")
		require.NoError(t, err)
	}
	list, err := w.Revisions("pages/p.html")
	require.NoError(t, err)
	require.Empty(t, list, "it was never changed")
	save("0", "1")
	save("1", "2")
	list, err = w.Revisions("pages/p.html")
	require.NoError(t, err)
	var titles []string
	for _, r := range list {
		text, err := w.Revision("pages/p.html", r.Hash)
		require.NoError(t, err)
		titles = append(titles, r.Title+": "+string(text))
	}
	require.Equal(t, []string{"to 2: 2", "to 1: 1", ": 0"}, titles)
	require.Zero(t, list[2].ID)

	set, err := w.BringBack("pages/p.html", list[2].Hash)
	require.NoError(t, err)
	_, err = w.Save(set, "")
	require.NoError(t, err)
	got, _ := w.State().Draft.Get("pages/p.html")
	require.Equal(t, "0", string(got))
	_, err = w.BringBack("pages/p.html", list[2].Hash)
	require.ErrorContains(t, err, "is that now")
	_, err = w.BringBack("pages/p.html", site.HashOf([]byte("never")))
	require.ErrorContains(t, err, "was never that")
	set, err = w.BringBack("pages/p.html", "")
	require.NoError(t, err)
	require.True(t, set.Changes[0].Delete)

	// One that was undone is done again, and one that is not there is no edit.
	rec, err := w.Save(set, "")
	require.NoError(t, err)
	_, err = w.Undo("")
	require.NoError(t, err)
	set, err = w.TakeBack(rec.ID)
	require.NoError(t, err)
	require.Equal(t, "Do again: "+rec.Title, set.Title)
	require.True(t, set.Changes[0].Delete)
	_, err = w.TakeBack(rec.ID + 100)
	require.ErrorContains(t, err, "there is no such edit")
}

// A copy that a later edit made needs the revision that an older one put into history: it stays.
func TestTakingBackLeavesRevisionsThatCopiesNeed(t *testing.T) {
	base := site.HashOf([]byte("<b>1</b>"))
	copied := `@{copy of="a" base="` + string(base) + `"}<b>1</b>@{/copy}`
	w, st := open(t, t.TempDir(), site.Files{"site.yaml": []byte("format: brickshelf/1\n"),
		"blocks/a.html": []byte("<b>1</b>"), "pages/p.html": []byte(copied), "pages/q.html": []byte("q")})
	defer st.Close()
	rec, err := w.Save(site.ChangeSet{Title: "edit", Changes: []site.Change{{Path: "blocks/a.html", Before: base,
		After: []byte("<b>2</b>")}}}, "")
	require.NoError(t, err)
	require.NotEmpty(t, w.State().Draft.Hash("history/"+string(base)), "the copy came from it")
	set, err := w.TakeBack(rec.ID)
	require.NoError(t, err)
	require.Len(t, set.Changes, 1, "the copy needs it still")
	require.Equal(t, "blocks/a.html", set.Changes[0].Path)
}
