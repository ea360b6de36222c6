package store

import (
	"context"
	"database/sql"
	"encoding/binary"
	"errors"
	"fmt"
	"slices"
	"strings"
	"sync"

	"github.com/cespare/xxhash/v2"
	"github.com/jmoiron/sqlx"
	"github.com/klauspost/compress/zstd"

	"brickshelf/internal/core/site"
)

// The forms in which a text is stored. Each row has, beside the SHA-256 of the text by which
// it is known, its xxhash64, by which a reader sees whether it is whole.
const (
	raw    = 0 // as it is
	zipped = 1 // zstd (RFC 8878)
	// spliced is what stands between the beginning and the end that a text has in common
	// with another one, its base, which is never in this form itself: the two lengths as
	// varints, then zstd.
	spliced = 2
)

// stored is a row of blobs.
type stored struct {
	ID    int64         `db:"id"`
	Hash  string        `db:"hash"`
	Form  int           `db:"form"`
	Base  sql.NullInt64 `db:"base"`
	Sum   sql.NullInt64 `db:"sum"`
	Bytes []byte        `db:"bytes"`
}

const columns = "b.id, b.hash, b.form, b.base, b.sum, b.bytes"

// codec packs and unpacks; both may be used from several goroutines.
var codec = sync.OnceValues(func() (*zstd.Encoder, *zstd.Decoder) {
	in, err := zstd.NewWriter(nil, zstd.WithEncoderConcurrency(1), zstd.WithEncoderLevel(zstd.SpeedDefault),
		zstd.WithEncoderCRC(false), zstd.WithSingleSegment(true), zstd.WithLowerEncoderMem(true),
		zstd.WithWindowSize(1<<20))
	if err != nil {
		panic(err) // the options are constants
	}
	out, err := zstd.NewReader(nil, zstd.WithDecoderConcurrency(2), zstd.WithDecoderLowmem(true),
		zstd.WithDecoderMaxMemory(1<<30))
	if err != nil {
		panic(err)
	}
	return in, out
})

// pack writes a text in the form that takes the least room. former, which may be nil, is a
// text that is stored whole under the row base.
func pack(text, former []byte, base int64) stored {
	in, _ := codec()
	row := stored{Form: zipped, Sum: sql.NullInt64{Int64: int64(xxhash.Sum64(text)), Valid: true}}
	head, tail := common(former, text)
	if len(former) > 0 && len(text)-head-tail < len(text)/2 {
		row.Form, row.Base = spliced, sql.NullInt64{Int64: base, Valid: true}
		row.Bytes = binary.AppendUvarint(binary.AppendUvarint(nil, uint64(head)), uint64(tail))
		row.Bytes = in.EncodeAll(text[head:len(text)-tail], row.Bytes)
		return row
	}
	row.Bytes = in.EncodeAll(text, make([]byte, 0, len(text)/2))
	if len(row.Bytes) >= len(text) {
		row.Form, row.Bytes = raw, text
	}
	if row.Bytes == nil {
		row.Bytes = []byte{}
	}
	return row
}

// common counts the bytes that two texts have in common at their beginnings, and at their
// ends behind that.
func common(a, b []byte) (head, tail int) {
	most := min(len(a), len(b))
	for head < most && a[head] == b[head] {
		head++
	}
	for tail < most-head && a[len(a)-1-tail] == b[len(b)-1-tail] {
		tail++
	}
	return head, tail
}

var errDamaged = errors.New("the stored text is damaged")

// unpack gives a row's text, whole or not at all. base reads another row.
func unpack(row *stored, base func(id int64) (*stored, error)) ([]byte, error) {
	_, out := codec()
	var text []byte
	var err error
	switch row.Form {
	case raw:
		text = row.Bytes
	case zipped:
		text, err = out.DecodeAll(row.Bytes, nil)
	case spliced:
		head, n := binary.Uvarint(row.Bytes)
		if n <= 0 {
			return nil, errDamaged
		}
		tail, m := binary.Uvarint(row.Bytes[n:])
		if m <= 0 || !row.Base.Valid {
			return nil, errDamaged
		}
		var of *stored
		if of, err = base(row.Base.Int64); err != nil {
			return nil, err
		}
		if of.Form == spliced {
			return nil, errDamaged
		}
		var former []byte
		if former, err = unpack(of, base); err != nil {
			return nil, err
		}
		if head > uint64(len(former)) || tail > uint64(len(former))-head {
			return nil, errDamaged
		}
		text = make([]byte, 0, 2*len(former))
		text = append(text, former[:head]...)
		if text, err = out.DecodeAll(row.Bytes[n+m:], text); err == nil {
			text = append(text, former[uint64(len(former))-tail:]...)
		}
	default:
		return nil, errDamaged
	}
	switch {
	case err != nil:
		return nil, errDamaged
	case row.Sum.Valid && uint64(row.Sum.Int64) != xxhash.Sum64(text):
		return nil, errDamaged
	// stored by an older version of this program
	case !row.Sum.Valid && string(site.HashOf(text)) != row.Hash:
		return nil, errDamaged
	}
	if text == nil {
		text = []byte{}
	}
	return slices.Clip(text), nil
}

// Damaged says of which documents the stored text is damaged or missing. What is whole is
// given beside it.
type Damaged struct {
	Paths  []string
	Hashes map[string]site.Hash // what each should hold; "" where even that is not known
}

// Error names the documents and the way out.
func (d *Damaged) Error() string {
	verb := "is"
	if len(d.Paths) > 1 {
		verb = "are"
	}
	return fmt.Sprintf("%s %s damaged in the database. Everything else can be exported (brickshelf export); importing a folder that holds %s mends it", strings.Join(d.Paths, ", "), verb, map[bool]string{true: "them", false: "it"}[len(d.Paths) > 1])
}

func (d *Damaged) add(path string, hash site.Hash) {
	d.Paths = append(d.Paths, path)
	if d.Hashes == nil {
		d.Hashes = map[string]site.Hash{}
	}
	d.Hashes[path] = hash
}

// orNil is the damage as an error, nil where there is none.
func (d *Damaged) orNil() error {
	if len(d.Paths) == 0 {
		return nil
	}
	slices.Sort(d.Paths)
	return d
}

// getter is a connection or transaction.
type getter interface {
	GetContext(ctx context.Context, into any, query string, args ...any) error
}

// rows reads single rows of blobs.
func rows(q getter) func(id int64) (*stored, error) {
	return func(id int64) (*stored, error) {
		var row stored
		err := q.GetContext(context.Background(), &row, "SELECT "+columns+" FROM blobs b WHERE b.id = ?", id)
		if errors.Is(err, sql.ErrNoRows) {
			return nil, errDamaged
		}
		return &row, err
	}
}

// document is a row of a query for documents: a path, and the text, if that is there.
type document struct {
	Path  string
	ID    sql.NullInt64
	Hash  sql.NullString
	Form  sql.NullInt64
	Base  sql.NullInt64
	Sum   sql.NullInt64
	Bytes sql.RawBytes
}

// documents reads what a query gives as paths and the columns of blobs. Where some texts
// are damaged it gives the others, and a *Damaged.
func documents(c *sqlx.Conn, query string, args ...any) (site.Files, error) {
	rs, err := c.QueryContext(context.Background(), query, args...)
	if err != nil {
		return nil, err
	}
	defer rs.Close()
	out := site.Files{}
	bad := &Damaged{}
	var later []*stored // whose bases have to be read, when these rows are
	paths := map[*stored]string{}
	for rs.Next() {
		var d document
		if err := rs.Scan(&d.Path, &d.ID, &d.Hash, &d.Form, &d.Base, &d.Sum, &d.Bytes); err != nil {
			return nil, err
		}
		if !d.ID.Valid {
			bad.add(d.Path, "")
			continue
		}
		row := &stored{d.ID.Int64, d.Hash.String, int(d.Form.Int64), d.Base, d.Sum, d.Bytes}
		if row.Form != zipped { // which copies
			row.Bytes = slices.Clone(row.Bytes)
		}
		if row.Form == spliced {
			later = append(later, row)
			paths[row] = d.Path
			continue
		}
		text, err := unpack(row, nil)
		if err != nil {
			bad.add(d.Path, site.Hash(row.Hash))
			continue
		}
		out[d.Path] = text
	}
	if err := rs.Err(); err != nil {
		return nil, err
	}
	base := rows(c)
	for _, row := range later {
		text, err := unpack(row, base)
		switch {
		case errors.Is(err, errDamaged):
			bad.add(paths[row], site.Hash(row.Hash))
		case err != nil:
			return nil, err
		default:
			out[paths[row]] = text
		}
	}
	return out, bad.orNil()
}
