package store

import (
	"errors"
	"fmt"
	"syscall"

	"modernc.org/sqlite"
	sqlite3 "modernc.org/sqlite/lib"
)

// ErrFull says that nothing more fits on the disk; nothing was saved.
var ErrFull = errors.New("the disk is full")

// full wraps an error that says so in ErrFull.
func full(err error) error {
	var of *sqlite.Error
	if errors.As(err, &of) && of.Code()&0xff == sqlite3.SQLITE_FULL || errors.Is(err, syscall.ENOSPC) ||
		errors.Is(err, syscall.EDQUOT) {
		return fmt.Errorf("%w (%w)", ErrFull, err)
	}
	return err
}
