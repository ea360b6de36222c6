// Package store keeps sites in SQLite: content-addressed document versions, the
// draft and the published tree of each site, change sets and releases. Every
// write is one transaction.
package store

import (
	"bytes"
	"context"
	"database/sql"
	"embed"
	"errors"
	"fmt"
	"io/fs"
	"maps"
	"os"
	"path/filepath"
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
		return nil, fmt.Errorf("%s is in use by an older version of this program, at %s; stop that first", path, served.Tool)
	}
	db, err := connect(path)
	if err != nil {
		return nil, err
	}
	return &Store{db: db, now: time.Now}, nil
}

func connect(path string) (*sqlx.DB, error) {
	db, err := sqlx.Open("sqlite", "file:"+path+"?_pragma=busy_timeout(10000)&_pragma=auto_vacuum(2)&_pragma=journal_mode(WAL)&_pragma=journal_size_limit(16777216)&_pragma=foreign_keys(1)&_pragma=synchronous(FULL)&_pragma=cache_size(-8000)&_txlock=immediate")
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
		return 0, fmt.Errorf("%s is damaged (%v); nothing in it was changed. Put a copy of the folder in its place, or import the site from its shelf folder into a new one", path, why)
	}
	var tables int
	if err := db.Get(&tables, "SELECT count(*) FROM sqlite_master WHERE name = 'goose_db_version'"); err != nil {
		return damaged(err)
	}
	if tables == 0 {
		return 0, fmt.Errorf("%s is not a database of this program; name another --data folder", path)
	}
	if err := db.Get(&version, "SELECT max(version_id) FROM goose_db_version"); err != nil {
		return damaged(err)
	}
	if version > latest() {
		return 0, fmt.Errorf("%s was written by a newer version of this program (schema %d; this one knows %d); nothing in it was changed. Use the newer program", path, version, latest())
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
	err := s.db.Select(&out, "SELECT id, name FROM sites ORDER BY name")
	return out, err
}

// Site returns the site of a name, or ErrNoSite.
func (s *Store) Site(name string) (Site, error) {
	var out Site
	err := s.db.Get(&out, "SELECT id, name FROM sites WHERE name = ?", name)
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

// Files reads a tree. Where some of its texts are damaged it gives the others, and a
// *Damaged.
func (s *Store) Files(id int64, tree Tree) (site.Files, error) {
	var out site.Files
	err := s.together(id, func(one, two *sqlx.Conn) error {
		middle, err := middle(one, id, tree)
		if err != nil {
			return err
		}
		const from = " d LEFT JOIN blobs b ON b.id = d.blob WHERE d.site = ? AND d.path "
		var later site.Files
		var failed error
		done := make(chan struct{})
		go func() {
			defer close(done)
			later, failed = documents(two, "SELECT d.path, "+columns+" FROM "+string(tree)+from+">= ?", id, middle)
		}()
		out, err = documents(one, "SELECT d.path, "+columns+" FROM "+string(tree)+from+"< ?", id, middle)
		<-done
		if out == nil || later == nil {
			return errors.Join(err, failed)
		}
		maps.Copy(out, later)
		return joined(err, failed)
	})
	if err != nil {
		return out, fmt.Errorf("reading the %s: %w", tree, err)
	}
	return out, nil
}

// joined is the damage that two readers found.
func joined(one, other error) error {
	var a, b *Damaged
	if errors.As(one, &a) && errors.As(other, &b) {
		for _, p := range b.Paths {
			a.add(p, b.Hashes[p])
		}
		return a.orNil()
	}
	return errors.Join(one, other)
}

// together runs do with two connections that read the same state of a site, whatever is
// written meanwhile.
func (s *Store) together(id int64, do func(one, two *sqlx.Conn) error) error {
	ctx := context.Background()
	var both [2]*sqlx.Conn
	for i := range both {
		c, err := s.db.Connx(ctx)
		if err != nil {
			return err
		}
		defer c.Close()
		both[i] = c
	}
	for {
		var state [2]struct {
			Changes  int64 `db:"changes"`
			Releases int64 `db:"releases"`
		}
		for i, c := range both {
			if _, err := c.ExecContext(ctx, "BEGIN DEFERRED"); err != nil {
				return err
			}
			defer func() { _, _ = c.ExecContext(ctx, "ROLLBACK") }() // which fails where that is done
			if err := c.GetContext(ctx, &state[i], "SELECT (SELECT coalesce(max(id), 0) FROM change_sets WHERE site = ?1) AS changes, (SELECT coalesce(max(id), 0) FROM releases WHERE site = ?1) AS releases", id); err != nil {
				return err
			}
		}
		if state[0] == state[1] {
			return do(both[0], both[1])
		}
		for _, c := range both { // something was saved between the two
			if _, err := c.ExecContext(ctx, "ROLLBACK"); err != nil {
				return err
			}
		}
	}
}

// middle is a path with about as many documents before as after it: a tree is read in
// two halves at once, since it is the processor that takes the time.
func middle(c *sqlx.Conn, id int64, tree Tree) (string, error) {
	var path string
	err := c.GetContext(context.Background(), &path, "SELECT path FROM "+string(tree)+" WHERE site = ? ORDER BY path LIMIT 1 OFFSET (SELECT count(*) / 2 FROM "+string(tree)+" WHERE site = ?)", id, id)
	if errors.Is(err, sql.ErrNoRows) {
		return "", nil
	}
	return path, err
}

// Unpublished reads in what a site's published tree differs from its draft, as changes
// that lead from the draft to it; without before-hashes.
func (s *Store) Unpublished(id int64) ([]site.Change, error) {
	c, err := s.db.Connx(context.Background())
	if err != nil {
		return nil, err
	}
	defer c.Close()
	differ, err := documents(c, "SELECT p.path, "+columns+` FROM published p LEFT JOIN blobs b ON b.id = p.blob
		LEFT JOIN drafts d ON d.site = p.site AND d.path = p.path WHERE p.site = ? AND d.blob IS NOT p.blob`, id)
	if err != nil {
		return nil, fmt.Errorf("reading what is published: %w", err)
	}
	var added []string
	if err := s.db.Select(&added, `SELECT d.path FROM drafts d
		LEFT JOIN published p ON p.site = d.site AND p.path = d.path WHERE d.site = ? AND p.blob IS NULL`, id); err != nil {
		return nil, fmt.Errorf("reading what is published: %w", err)
	}
	var out []site.Change
	for path, b := range differ {
		out = append(out, site.Change{Path: path, After: b})
	}
	for _, path := range added {
		out = append(out, site.Change{Path: path, Delete: true})
	}
	return out, nil
}

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

// prepared runs the statements of a transaction, of which each is prepared once: a change
// set can be of thousands of documents.
type prepared struct {
	tx *sqlx.Tx
	of map[string]*sqlx.Stmt
}

func (p *prepared) statement(query string) (*sqlx.Stmt, error) {
	if s := p.of[query]; s != nil {
		return s, nil
	}
	s, err := p.tx.Preparex(query) // closed with the transaction
	if err != nil {
		return nil, err
	}
	if p.of == nil {
		p.of = map[string]*sqlx.Stmt{}
	}
	p.of[query] = s
	return s, nil
}

func (p *prepared) Get(into any, query string, args ...any) error {
	s, err := p.statement(query)
	if err != nil {
		return err
	}
	return s.Get(into, args...)
}

func (p *prepared) Exec(query string, args ...any) (sql.Result, error) {
	s, err := p.statement(query)
	if err != nil {
		return nil, err
	}
	return s.Exec(args...)
}

// blob stores a text once and returns its row. former, where it is not 0, is the row of a
// text from which it likely differs little.
func blob(tx *prepared, b []byte, former int64) (int64, error) {
	h := string(site.HashOf(b))
	var known stored
	err := tx.Get(&known, "SELECT "+columns+" FROM blobs b WHERE b.hash = ?", h)
	if err == nil {
		if text, err := unpack(&known, rows(tx.tx)); err == nil && bytes.Equal(text, b) {
			return known.ID, nil
		}
		row := pack(b, nil, 0) // what was damaged is whole again
		_, err := tx.Exec("UPDATE blobs SET bytes = ?, form = ?, base = NULL, sum = ? WHERE id = ?", row.Bytes, row.Form, row.Sum, known.ID)
		return known.ID, err
	}
	if !errors.Is(err, sql.ErrNoRows) {
		return 0, err
	}
	text, base, err := whole(tx, former)
	if err != nil {
		return 0, err
	}
	row := pack(b, text, base)
	res, err := tx.Exec("INSERT INTO blobs (hash, bytes, form, base, sum) VALUES (?, ?, ?, ?, ?)", h, row.Bytes, row.Form, row.Base, row.Sum)
	if err != nil {
		return 0, err
	}
	return res.LastInsertId()
}

// whole gives a text that is stored whole: that of a row, or of the row's base. There is
// none where that is damaged.
func whole(tx *prepared, id int64) ([]byte, int64, error) {
	if id == 0 {
		return nil, 0, nil
	}
	var row stored
	if err := tx.Get(&row, "SELECT "+columns+" FROM blobs b WHERE b.id = ?", id); errors.Is(err, sql.ErrNoRows) {
		return nil, 0, nil
	} else if err != nil {
		return nil, 0, err
	}
	if row.Form == spliced {
		return whole(tx, row.Base.Int64)
	}
	text, err := unpack(&row, nil)
	if err != nil {
		return nil, 0, nil
	}
	return text, id, nil
}

// ErrName says that a site cannot have the name that was asked for.
var ErrName = errors.New("a site's name should be of lower-case letters, digits and hyphens, and begin with a letter")

// CheckName returns ErrName where a site cannot have a name.
func CheckName(name string) error {
	if !markup.ValidName(name) {
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
			if _, err := many.Exec("INSERT INTO drafts (site, path, blob) VALUES (?, ?, ?)", out.ID, p, b); err != nil {
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
