package store

import (
	"context"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"brickshelf/internal/core/site"
)

func TestSitesAreRenamedCopiedDeletedAndHadBack(t *testing.T) {
	s, err := Open(t.TempDir())
	require.NoError(t, err)
	defer s.Close()
	now := time.Date(2026, 3, 1, 12, 0, 0, 0, time.UTC)
	s.now = func() time.Time { return now }
	files := site.Files{"site.yaml": []byte("format: brickshelf/1\n"), "pages/a.html": []byte("a"), "pages0": []byte("x")}
	one, err := s.Create("one", files, nil)
	require.NoError(t, err)
	_, err = s.Create("one", files, nil)
	require.ErrorIs(t, err, ErrTaken)
	_, err = s.Publish(one.ID, "First")
	require.NoError(t, err)
	now = now.Add(time.Hour)
	_, err = s.Save(one.ID, site.ChangeSet{Title: "Edit", Changes: []site.Change{{Path: "pages/b.html", After: []byte("b only here")}}})
	require.NoError(t, err)
	is, err := s.Files(one.ID, Draft)
	require.NoError(t, err)
	two, err := s.Create("two", is, nil)
	require.NoError(t, err)

	require.NoError(t, s.Rename(one.ID, "first"))
	require.ErrorIs(t, s.Rename(one.ID, "two"), ErrTaken)
	require.ErrorIs(t, s.Rename(one.ID, "No"), ErrName)
	all, err := s.Summaries()
	require.NoError(t, err)
	require.Equal(t, []Summary{
		{Name: "first", Pages: 2, Waiting: 1, Release: 1, Released: "2026-03-01T12:00:00Z", Title: "Edit", Changed: "2026-03-01T13:00:00Z"},
		{Name: "two", Pages: 2, Changed: "2026-03-01T13:00:00Z"}}, all)
	b, err := s.Document(two.ID, "pages/b.html")
	require.NoError(t, err)
	require.Equal(t, "b only here", string(b))
	b, err = s.Document(two.ID, "pages/none.html")
	require.NoError(t, err)
	require.Nil(t, b)

	require.NoError(t, s.Delete(one.ID))
	for _, name := range []string{"first", "first~1"} {
		_, err = s.Site(name)
		require.ErrorIs(t, err, ErrNoSite)
	}
	sites, err := s.Sites()
	require.NoError(t, err)
	require.Equal(t, []Site{two}, sites)
	all, err = s.Summaries()
	require.NoError(t, err)
	require.Equal(t, "first", all[1].Name)
	require.Equal(t, "2026-03-01T13:00:00Z", all[1].Deleted)

	_, err = s.Recover("first", "two")
	require.ErrorIs(t, err, ErrTaken)
	_, err = s.Recover("none", "none")
	require.ErrorIs(t, err, ErrNoSite)
	back, err := s.Recover("first", "again")
	require.NoError(t, err)
	require.Equal(t, Site{one.ID, "again"}, back)
	is, err = s.Files(back.ID, Draft)
	require.NoError(t, err)
	require.Equal(t, "b only here", string(is["pages/b.html"]))

	// Tidying up keeps it for as long as it can be had back, and then lets go of what only it has.
	require.NoError(t, s.Delete(two.ID))
	only := []byte("nowhere else")
	three, err := s.Create("three", site.Files{"pages/c.html": only}, nil)
	require.NoError(t, err)
	require.NoError(t, s.Delete(three.ID))
	count := func(of string) (n int) {
		require.NoError(t, s.db.Get(&n, "SELECT count(*) FROM "+of))
		return n
	}
	blobs := count("blobs")
	now = now.Add(KeptFor - time.Second)
	require.NoError(t, s.Tidy(context.Background(), everything))
	require.Equal(t, 3, count("sites"))
	now = now.Add(2 * time.Second)
	require.NoError(t, s.Tidy(context.Background(), everything))
	require.Equal(t, 1, count("sites"))
	require.Equal(t, blobs-1, count("blobs"))
	is, err = s.Files(back.ID, Draft)
	require.NoError(t, err)
	require.Len(t, is, 4)
	_, err = s.Recover("two", "two")
	require.ErrorIs(t, err, ErrNoSite)
}
