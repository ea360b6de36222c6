package store

import (
	"encoding/json"
	"errors"
	"fmt"
	"io/fs"
	"os"
	"path/filepath"

	"github.com/gofrs/flock"
)

// Served says that another process has a data folder open. Tool is where it serves the
// tool, "" where it serves nothing.
type Served struct {
	Dir  string `json:"-"`
	Tool string `json:"tool"`
	Site string `json:"site"`
	PID  int    `json:"pid"`
}

// Error says where the folder is served.
func (s *Served) Error() string {
	if s.Tool == "" {
		return fmt.Sprintf("%s is in use by another process of this program; try again when that is done",
			s.Dir)
	}
	return fmt.Sprintf("%s is served already, at %s (process %d); use that, or stop it first", s.Dir,
		s.Tool, s.PID)
}

// lock is held by the one process that may write to a data folder. Beside it stands a note
// of where that process serves the folder.
type lock struct {
	file *flock.Flock
	note string
}

func lockFolder(dir string) (*lock, error) {
	l := &lock{flock.New(filepath.Join(dir, "brickshelf.lock")), filepath.Join(dir, "brickshelf.served")}
	got, err := l.file.TryLock()
	if err != nil {
		return nil, fmt.Errorf("locking %s: %w", dir, err)
	}
	if got {
		if err := os.Remove(l.note); err != nil && !errors.Is(err, fs.ErrNotExist) { // of one that was killed
			return nil, errors.Join(err, l.file.Unlock())
		}
		return l, nil
	}
	out := &Served{}
	if b, err := os.ReadFile(l.note); err == nil {
		_ = json.Unmarshal(b, out) // a note that is being written says nothing
	}
	out.Dir = dir
	return nil, out
}

func (l *lock) release() error {
	err := os.Remove(l.note)
	if errors.Is(err, fs.ErrNotExist) {
		err = nil
	}
	return errors.Join(err, l.file.Unlock())
}

// Serving notes where the data folder is served, for other processes that find it locked.
func (s *Store) Serving(tool, site string) error {
	b, err := json.Marshal(Served{Tool: tool, Site: site, PID: os.Getpid()})
	if err != nil {
		return err
	}
	if err := os.WriteFile(s.lock.note+".tmp", b, 0o644); err != nil {
		return err
	}
	return os.Rename(s.lock.note+".tmp", s.lock.note)
}
