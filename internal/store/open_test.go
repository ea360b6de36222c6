package store

import "github.com/jmoiron/sqlx"

func openPlain(path string) (*sqlx.DB, error) { return sqlx.Open("sqlite", "file:"+path) }
