package publish

import (
	"errors"
	"io/fs"
	"os"
	"path/filepath"
	"syscall"
)

// back undoes what forth has done.
func (t target) back(j *journal) error {
	s := t.stage(j)
	give := func(from, p string) error {
		if lookAt(from).kind == nothing {
			return nil // it was never taken, or is back
		}
		if err := os.MkdirAll(filepath.Dir(t.file(p)), 0o755); err != nil {
			return err
		}
		return move(from, t.file(p))
	}
	for i, p := range j.Drop {
		if err := give(s.kept("gone", i), p); err != nil {
			return err
		}
	}
	for i, w := range j.Write {
		fresh := s.fresh(w, i)
		if lookAt(fresh).kind != nothing {
			continue // it was never put, or is back
		}
		if !w.New {
			if err := give(s.kept("old", i), w.Path); err != nil {
				return err
			}
			continue
		}
		if err := os.MkdirAll(filepath.Dir(fresh), 0o755); err != nil {
			return err
		}
		if err := move(t.file(w.Path), fresh); err != nil && !errors.Is(err, fs.ErrNotExist) {
			return err
		}
		t.prune(w.Path)
	}
	for i, p := range j.Clear {
		if err := give(s.kept("cleared", i), p); err != nil {
			return err
		}
	}
	return nil
}

// move renames, or copies where the two are on different file systems; in both cases the
// new name stands for a whole file at any moment.
func move(from, to string) error {
	err := os.Rename(from, to)
	if !errors.Is(err, syscall.EXDEV) {
		return err
	}
	b, err := os.ReadFile(from)
	if err != nil {
		return err
	}
	if err := replaceFile(to, b); err != nil {
		return err
	}
	return os.Remove(from)
}

func writeSynced(name string, b []byte) error {
	f, err := os.OpenFile(name, os.O_WRONLY|os.O_CREATE|os.O_TRUNC, 0o644)
	if err != nil {
		return err
	}
	defer f.Close()
	if _, err := f.Write(b); err != nil {
		return err
	}
	if err := f.Sync(); err != nil {
		return err
	}
	return f.Close()
}

// replaceFile puts a file in the place of another, whole.
func replaceFile(name string, b []byte) error {
	if err := writeSynced(name+".tmp", b); err != nil {
		return err
	}
	return os.Rename(name+".tmp", name)
}
