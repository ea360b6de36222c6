package store

import (
	"bytes"
	"database/sql"
	"errors"

	"github.com/jmoiron/sqlx"

	"brickshelf/internal/core/site"
)

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
		_, err := tx.Exec("UPDATE blobs SET bytes = ?, form = ?, base = NULL, sum = ? WHERE id = ?",
			row.Bytes, row.Form, row.Sum, known.ID)
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
	res, err := tx.Exec("INSERT INTO blobs (hash, bytes, form, base, sum) VALUES (?, ?, ?, ?, ?)", h,
		row.Bytes, row.Form, row.Base, row.Sum)
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
	if err := tx.Get(&row, "SELECT "+columns+" FROM blobs b WHERE b.id = ?", id); errors.Is(err,
		sql.ErrNoRows) {
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
