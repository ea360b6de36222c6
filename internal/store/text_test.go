package store

import (
	"bytes"
	"fmt"
	"os"
	"path/filepath"
	"testing"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"brickshelf/internal/core/site"
)

// Whatever is packed, by itself or beside another text, is unpacked to the same bytes; and
// a row in which any bit is another one is told as damaged.
func TestPackedTextsComeBack(t *testing.T) {
	piece := rapid.OneOf(rapid.SliceOfN(rapid.Byte(), 0, 40), rapid.Map(rapid.IntRange(0, 3000),
		func(n int) []byte {
			return bytes.Repeat([]byte("text "), n)
		}))
	rapid.Check(t, func(t *rapid.T) {
		text, head, tail := piece.Draw(t, "text"), piece.Draw(t, "head"), piece.Draw(t, "tail")
		former := bytes.Join([][]byte{head, piece.Draw(t, "former"), tail}, nil)
		if rapid.Bool().Draw(t, "alike") {
			text = bytes.Join([][]byte{head, text, tail}, nil)
		}
		base := pack(former, nil, 0)
		of := func(int64) (*stored, error) { return &base, nil }
		for _, beside := range [][]byte{nil, former} {
			row := pack(text, beside, 7)
			got, err := unpack(&row, of)
			require.NoError(t, err)
			require.Equal(t, string(text), string(got))
			if len(row.Bytes) == 0 {
				continue
			}
			row.Bytes = bytes.Clone(row.Bytes)
			row.Bytes[rapid.IntRange(0, len(row.Bytes)-1).Draw(t, "at")] ^= 1 << rapid.IntRange(0,
				7).Draw(t, "bit")
			if got, err := unpack(&row, of); err == nil {
				require.Equal(t, string(text), string(got), "what is given is whole")
			}
		}
	})
}

// A version that differs little from the one before takes little room, whatever it is of.
func TestVersionsTakeLittleRoom(t *testing.T) {
	s, st, dir := open(t)
	size := func() int64 {
		_, err := s.db.Exec("PRAGMA wal_checkpoint(TRUNCATE)")
		require.NoError(t, err)
		info, err := os.Stat(filepath.Join(dir, FileName))
		require.NoError(t, err)
		return info.Size()
	}
	defer s.Close()
	text := noise(400 << 10)
	set := site.ChangeSet{Title: "first", Changes: []site.Change{{Path: "assets/a", After: text}}}
	for i := range 30 {
		_, err := s.Save(st.ID, set)
		require.NoError(t, err)
		before := site.HashOf(text)
		text = bytes.Clone(text)
		copy(text[200<<10:], fmt.Sprintf("version %d", i))
		set = site.ChangeSet{Title: "next", Changes: []site.Change{{Path: "assets/a", Before: before,
			After: text}}}
	}
	require.Less(t, size(), int64(3*400<<10))
	f, err := s.Files(st.ID, Draft)
	require.NoError(t, err)
	require.Equal(t, set.Changes[0].Before, site.HashOf(f["assets/a"]))
	for range 29 {
		_, _, err := s.Undo(st.ID)
		require.NoError(t, err)
	}
	f, err = s.Files(st.ID, Draft)
	require.NoError(t, err)
	require.Equal(t, string(noise(400<<10)), string(f["assets/a"]))
}

// Damage is told with the document that it is of, and everything else is read.
func TestDamageNamesTheDocument(t *testing.T) {
	for name, harm := range map[string]string{
		"other bytes":   "UPDATE blobs SET bytes = x'00112233' WHERE hash = ?",
		"another text":  "UPDATE blobs SET (bytes, form, sum) = (SELECT bytes, form, sum + 1 FROM blobs WHERE hash <> ?1 LIMIT 1) WHERE hash = ?1",
		"a missing row": "DELETE FROM blobs WHERE hash = ?",
		"an old text":   "UPDATE blobs SET bytes = 'other', form = 0, sum = NULL WHERE hash = ?",
	} {
		t.Run(name, func(t *testing.T) {
			s, st, _ := open(t)
			defer s.Close()
			whole, err := s.Files(st.ID, Draft)
			require.NoError(t, err)
			p := "pages/x.html"
			require.Contains(t, whole, p)
			c, err := s.db.Connx(t.Context())
			require.NoError(t, err)
			_, err = c.ExecContext(t.Context(), "PRAGMA foreign_keys = 0")
			require.NoError(t, err)
			_, err = c.ExecContext(t.Context(), harm, string(site.HashOf(whole[p])))
			require.NoError(t, err)
			_, err = c.ExecContext(t.Context(), "PRAGMA foreign_keys = 1")
			require.NoError(t, err)
			require.NoError(t, c.Close())
			got, err := s.Files(st.ID, Draft)
			var damage *Damaged
			require.ErrorAs(t, err, &damage)
			require.Equal(t, []string{p}, damage.Paths)
			require.ErrorContains(t, err, p+" is damaged in the database")
			text := whole[p]
			delete(whole, p)
			require.Equal(t, whole, got)

			// The same text, stored once more, mends it.
			whole[p] = text
			require.NoError(t, s.Mend(st.ID, whole))
			got, err = s.Files(st.ID, Draft)
			require.NoError(t, err)
			require.Equal(t, whole, got)
		})
	}
}

func noise(n int) []byte {
	out := make([]byte, n)
	x := uint32(1)
	for i := range out {
		x = x*1664525 + 1013904223
		out[i] = byte(x >> 24)
	}
	return out
}
