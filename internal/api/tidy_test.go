package api

import (
	"io"
	"log/slog"
	"os"
	"path/filepath"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"brickshelf/internal/core/site"
	"brickshelf/internal/store"
)

// The database is tidied up once after each time of work, when nobody has asked for anything
// for a while: not under the hands of those who work, and not again and again in the night.
func TestTheServerTidiesUpOnceItIsAtRest(t *testing.T) {
	dir := t.TempDir()
	st, err := store.Open(dir)
	require.NoError(t, err)
	defer func() { require.NoError(t, st.Close()) }()
	_, err = st.Create("small", site.Files{"shelf.yaml": []byte("title: Small\n")}, nil)
	require.NoError(t, err)
	logs, err := filepath.Glob(filepath.Join(dir, "*-wal"))
	require.NoError(t, err)
	require.Len(t, logs, 1)
	// What is written stands in the log of the database until it is tidied up.
	logged := func() bool {
		info, err := os.Stat(logs[0])
		require.NoError(t, err)
		return info.Size() > 0
	}
	s := NewServer(st, nil, slog.New(slog.NewTextHandler(io.Discard, nil)), time.Now, nil)
	_, err = s.Workspace("small")
	require.NoError(t, err)
	ago := func(d time.Duration) int64 { return time.Now().Add(-d).UnixNano() }

	require.True(t, logged())
	s.asked.Store(ago(idleFor / 2))
	s.tidy(t.Context())
	require.True(t, logged(), "somebody is at work")

	s.asked.Store(ago(idleFor + time.Second))
	s.tidy(t.Context())
	require.False(t, logged(), "nobody has asked for a while")

	_, err = st.Create("second", site.Files{"shelf.yaml": []byte("title: Second\n")}, nil)
	require.NoError(t, err)
	s.tidy(t.Context())
	require.True(t, logged(), "nobody has asked since")

	s.asked.Store(ago(idleFor + time.Minute))
	s.tidy(t.Context())
	require.False(t, logged(), "somebody has")
}
