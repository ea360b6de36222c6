package store

import (
	"fmt"
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/require"

	"brickshelf/internal/core/site"
)

func TestAFullDiskSavesNothing(t *testing.T) {
	s, st, _ := open(t)
	defer s.Close()
	s.db.SetMaxOpenConns(1) // the limit is that of a connection
	var pages int
	require.NoError(t, s.db.Get(&pages, "PRAGMA page_count"))
	_, err := s.db.Exec(fmt.Sprintf("PRAGMA max_page_count = %d", pages+20))
	require.NoError(t, err)
	before := s.files(t, st)
	large := make([]byte, 4<<20)
	_, _ = rand.NewChaCha8([32]byte{}).Read(large) // which packs into no less
	_, err = s.Save(st.ID, site.ChangeSet{Title: "large", Changes: []site.Change{{Path: "assets/small.txt",
		After: []byte("s")}, {Path: "assets/large.bin", After: large}}})
	require.ErrorIs(t, err, ErrFull)
	require.Equal(t, before, s.files(t, st))
}

func (s *Store) files(t *testing.T, of Site) site.Files {
	one, err := s.db.Connx(t.Context())
	require.NoError(t, err)
	defer one.Close()
	out, err := documents(one, "SELECT d.path, "+columns+
		" FROM drafts d LEFT JOIN blobs b ON b.id = d.blob WHERE d.site = ?", of.ID)
	require.NoError(t, err)
	return out
}
