// Package store keeps sites in SQLite: content-addressed document versions, the
// draft and the published tree of each site, change sets and releases. Every
// write is one transaction.
package store

import (
	"context"
	"database/sql"
	"embed"
	"errors"
	"fmt"
	"io/fs"
	"os"
	"path/filepath"
	"strings"
	"time"

	"github.com/jmoiron/sqlx"
	"github.com/pressly/goose/v3"
	_ "modernc.org/sqlite" // the pure-Go driver

	"brickshelf/internal/core/markup"
	"brickshelf/internal/core/site"
)

//go:embed migrations/*.sql
var migrations embed.FS

// ErrNoSite says that there is no site of the name asked for.
var ErrNoSite = errors.New("there is no such site")

// ErrNoRelease says that there is no release of the number asked for.
var ErrNoRelease = errors.New("no such release")

// ErrNothing says that there is nothing to undo, redo or publish.
var ErrNothing = errors.New("there is nothing to do")

// Store is an open database.
type Store struct {
	db   *sqlx.DB
	now  func() time.Time
	lock *lock // nil for one who reads beside another process
}

// Site is one site of a store.
type Site struct {
	ID   int64  `db:"id"`
	Name string `db:"name"`
}

// FileName is the name of the database in its data directory.
const FileName = "brickshelf.db"

// Open opens the database in a data directory, making both where they are
// missing. Where another process has it open, Open returns a *Served. A damaged
// database or one of a newer version is refused, and its files stay as they are.
func Open(dir string) (*Store, error) {
	if err := os.MkdirAll(dir, 0o755); err != nil {
		return nil, fmt.Errorf("making the data directory: %w", err)
	}
	l, err := lockFolder(dir)
	if err != nil {
		return nil, err
	}
	s, err := prepare(dir)
	if err != nil {
		_ = l.release()
		return nil, err
	}
	s.lock = l
	return s, nil
}

// Beside opens a database for reading only, also while another process has it open: what
// is read is whole, whatever that one writes meanwhile.
func Beside(dir string) (*Store, error) {
	s, err := Open(dir)
	var served *Served
	if !errors.As(err, &served) {
		return s, err
	}
	path := filepath.Join(dir, FileName)
	version, err := inspect(path)
	if err != nil {
		return nil, err
	}
	if version < latest() {
		return nil, fmt.Errorf("%s is in use by an older version of this program, at %s; stop that first",
			path, served.Tool)
	}
	db, err := connect(path)
	if err != nil {
		return nil, err
	}
	return &Store{db: db, now: time.Now}, nil
}

func connect(path string) (*sqlx.DB, error) {
	db, err := sqlx.Open("sqlite", "file:"+path+
		"?_pragma=busy_timeout(10000)&_pragma=auto_vacuum(2)&_pragma=journal_mode(WAL)&_pragma=journal_size_limit(16777216)&_pragma=foreign_keys(1)&_pragma=synchronous(FULL)&_pragma=cache_size(-8000)&_txlock=immediate")
	if err != nil {
		return nil, fmt.Errorf("opening %s: %w", path, err)
	}
	db.SetConnMaxIdleTime(time.Minute) // each has memory of its own
	return db, nil
}

// prepare brings the database of a folder that nobody else uses to the newest schema.
func prepare(dir string) (*Store, error) {
	path := filepath.Join(dir, FileName)
	sub, err := fs.Sub(migrations, "migrations")
	if err != nil {
		return nil, err
	}
	if _, err := inspect(path); err != nil {
		return nil, err
	}
	db, err := connect(path)
	if err != nil {
		return nil, err
	}
	p, err := goose.NewProvider(goose.DialectSQLite3, db.DB, sub)
	if err == nil {
		_, err = p.Up(context.Background())
	}
	if err != nil {
		_ = db.Close()
		return nil, fmt.Errorf("preparing %s: %w", path, err)
	}
	if err := givesBack(db); err != nil {
		_ = db.Close()
		return nil, fmt.Errorf("preparing %s: %w", path, err)
	}
	return &Store{db: db, now: time.Now}, nil
}

// givesBack sees to it that a database can give room back to the disk. One that was made by
// an older version of this program is written anew for that, once.
func givesBack(db *sqlx.DB) error {
	var mode int
	if err := db.Get(&mode, "PRAGMA auto_vacuum"); err != nil || mode != 0 {
		return err
	}
	_, err := db.Exec("PRAGMA auto_vacuum = 2; VACUUM")
	return err
}

// latest is the newest schema that this program knows.
func latest() int64 {
	entries, _ := migrations.ReadDir("migrations")
	return int64(len(entries))
}

// inspect looks at an existing database without writing to it, and gives the version of
// its schema, 0 where there is none yet.
func inspect(path string) (version int64, err error) {
	info, err := os.Stat(path)
	if errors.Is(err, fs.ErrNotExist) || err == nil && info.Size() == 0 {
		return 0, nil
	}
	if err != nil {
		return 0, err
	}
	mode := "&immutable=1"
	if w, err := os.Stat(path + "-wal"); err == nil && w.Size() > 0 {
		mode = "" // what was written last still stands beside the file
	}
	db, err := sqlx.Open("sqlite", "file:"+path+"?mode=ro"+mode)
	if err != nil {
		return 0, err
	}
	defer db.Close()
	damaged := func(why any) (int64, error) {
		return 0,
			fmt.Errorf("%s is damaged (%v); nothing in it was changed. Put a copy of the folder in its place, or import the site from its shelf folder into a new one", path, why)
	}
	var tables int
	if err := db.Get(&tables,
		"SELECT count(*) FROM sqlite_master WHERE name = 'goose_db_version'"); err != nil {
		return damaged(err)
	}
	if tables == 0 {
		return 0, fmt.Errorf("%s is not a database of this program; name another --data folder", path)
	}
	if err := db.Get(&version, "SELECT max(version_id) FROM goose_db_version"); err != nil {
		return damaged(err)
	}
	if version > latest() {
		return 0,
			fmt.Errorf("%s was written by a newer version of this program (schema %d; this one knows %d); nothing in it was changed. Use the newer program", path, version, latest())
	}
	if info.Size() < 64<<20 {
		var ok string
		if err := db.Get(&ok, "PRAGMA quick_check(1)"); err != nil {
			return damaged(err)
		}
		if ok != "ok" {
			return damaged(ok)
		}
	}
	return version, nil
}

// Close closes the database, and lets others have its folder.
func (s *Store) Close() error {
	err := s.db.Close()
	if s.lock != nil {
		err = errors.Join(err, s.lock.release())
	}
	return err
}

// Sites lists the sites by name.
func (s *Store) Sites() ([]Site, error) {
	var out []Site
	err := s.db.Select(&out, "SELECT id, name FROM sites WHERE deleted IS NULL ORDER BY name")
	return out, err
}

// Site returns the site of a name, or ErrNoSite.
func (s *Store) Site(name string) (Site, error) {
	var out Site
	err := s.db.Get(&out, "SELECT id, name FROM sites WHERE name = ? AND deleted IS NULL", name)
	if errors.Is(err, sql.ErrNoRows) {
		return out, fmt.Errorf("%s: %w", name, ErrNoSite)
	}
	return out, err
}

// Tree names one of the two trees of a site.
type Tree string

// The draft is what is being worked on, the published tree what visitors see.
const (
	Draft     Tree = "drafts"
	Published Tree = "published"
)

// write runs do in one transaction.
func (s *Store) write(do func(tx *sqlx.Tx) error) error {
	tx, err := s.db.Beginx()
	if err != nil {
		return full(err)
	}
	if err := do(tx); err != nil {
		_ = tx.Rollback()
		return full(err)
	}
	return full(tx.Commit())
}

// ErrName says that a site cannot have the name that was asked for.
var ErrName = errors.New("a site's name should be of lower-case letters, digits and hyphens, begin with a letter, not end with a hyphen, and have at most 63 of them")

// CheckName returns ErrName where a site cannot have a name.
func CheckName(name string) error {
	if !markup.ValidName(name) || len(name) > 63 || strings.HasSuffix(name, "-") { // a part of a host name, too
		return fmt.Errorf("%q: %w", name, ErrName)
	}
	return nil
}

// Create makes a new site with a draft. progress, where not nil, is told how
// many documents are in.
func (s *Store) Create(name string, files site.Files, progress func(done, total int)) (Site, error) {
	out := Site{Name: name}
	if err := CheckName(name); err != nil {
		return out, err
	}
	err := s.write(func(tx *sqlx.Tx) error {
		if err := free(tx, name, 0); err != nil {
			return err
		}
		res, err := tx.Exec("INSERT INTO sites (name, created) VALUES (?, ?)", name, s.stamp())
		if err != nil {
			return err
		}
		if out.ID, err = res.LastInsertId(); err != nil {
			return err
		}
		many := &prepared{tx: tx}
		for i, p := range files.Paths() {
			b, err := blob(many, files[p], 0)
			if err != nil {
				return err
			}
			if _, err := many.Exec("INSERT INTO drafts (site, path, blob) VALUES (?, ?, ?)", out.ID, p,
				b); err != nil {
				return err
			}
			if progress != nil {
				progress(i+1, len(files))
			}
		}
		return nil
	})
	if err != nil {
		return out, fmt.Errorf("making the site %s: %w", name, err)
	}
	return out, nil
}

func (s *Store) stamp() string { return s.now().UTC().Format(time.RFC3339Nano) }
