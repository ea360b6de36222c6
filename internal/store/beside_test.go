package store

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/require"

	"brickshelf/internal/core/site"
)

// Who reads beside a process that saves gets a tree that was there at some moment, never
// one half of before and half of after.
func TestWhatIsReadBesideASaverIsWhole(t *testing.T) {
	s, st, dir := open(t)
	defer s.Close()
	other, err := Beside(dir)
	require.NoError(t, err)
	defer other.Close()
	_, err = Open(dir)
	var served *Served
	require.ErrorAs(t, err, &served)
	require.ErrorContains(t, err, "in use by another process")
	require.NoError(t, s.Serving("http://127.0.0.1:1", "http://127.0.0.1:2"))
	_, err = Open(dir)
	require.ErrorContains(t, err, "is served already, at http://127.0.0.1:1 (process ")

	const pages = 40
	saved := make(chan error, 1)
	go func() {
		for round := range 60 {
			set := site.ChangeSet{Title: "round"}
			f, err := s.Files(st.ID, Draft)
			for i := 0; i < pages && err == nil; i++ {
				c := site.Change{Path: fmt.Sprintf("pages/p%02d.html", i), After: fmt.Append(nil, round)}
				if old, there := f[c.Path]; there {
					c.Before = site.HashOf(old)
				}
				set.Changes = append(set.Changes, c)
			}
			if err == nil {
				_, err = s.Save(st.ID, set)
			}
			if err != nil {
				saved <- err
				return
			}
		}
		saved <- nil
	}()
	for reading := true; reading; {
		select {
		case err := <-saved:
			require.NoError(t, err)
			reading = false
		default:
		}
		f, err := other.Files(st.ID, Draft)
		require.NoError(t, err)
		for i := range pages {
			require.Equal(t, string(f["pages/p00.html"]), string(f[fmt.Sprintf("pages/p%02d.html", i)]))
		}
	}
}
