-- +goose Up
CREATE TABLE sites (
  id INTEGER PRIMARY KEY,
  name TEXT NOT NULL UNIQUE,
  created TEXT NOT NULL
);
CREATE TABLE blobs (
  id INTEGER PRIMARY KEY,
  hash TEXT NOT NULL UNIQUE,
  bytes BLOB NOT NULL
);
CREATE TABLE drafts (
  site INTEGER NOT NULL REFERENCES sites(id) ON DELETE CASCADE,
  path TEXT NOT NULL,
  blob INTEGER NOT NULL REFERENCES blobs(id),
  PRIMARY KEY (site, path)
) WITHOUT ROWID;
CREATE TABLE published (
  site INTEGER NOT NULL REFERENCES sites(id) ON DELETE CASCADE,
  path TEXT NOT NULL,
  blob INTEGER NOT NULL REFERENCES blobs(id),
  PRIMARY KEY (site, path)
) WITHOUT ROWID;
CREATE TABLE change_sets (
  id INTEGER PRIMARY KEY AUTOINCREMENT,
  site INTEGER NOT NULL REFERENCES sites(id) ON DELETE CASCADE,
  title TEXT NOT NULL,
  kind TEXT NOT NULL CHECK (kind IN ('edit', 'undo', 'redo')),
  target INTEGER REFERENCES change_sets(id),
  undone INTEGER NOT NULL DEFAULT 0,
  at TEXT NOT NULL
);
CREATE INDEX change_sets_of_site ON change_sets(site, id);
CREATE TABLE changes (
  change_set INTEGER NOT NULL REFERENCES change_sets(id) ON DELETE CASCADE,
  path TEXT NOT NULL,
  before INTEGER REFERENCES blobs(id),
  after INTEGER REFERENCES blobs(id),
  PRIMARY KEY (change_set, path)
) WITHOUT ROWID;
CREATE TABLE releases (
  id INTEGER PRIMARY KEY AUTOINCREMENT,
  site INTEGER NOT NULL REFERENCES sites(id) ON DELETE CASCADE,
  number INTEGER NOT NULL,
  title TEXT NOT NULL,
  upto INTEGER NOT NULL,
  at TEXT NOT NULL,
  UNIQUE (site, number)
);
CREATE TABLE release_changes (
  release INTEGER NOT NULL REFERENCES releases(id) ON DELETE CASCADE,
  path TEXT NOT NULL,
  before INTEGER REFERENCES blobs(id),
  after INTEGER REFERENCES blobs(id),
  PRIMARY KEY (release, path)
) WITHOUT ROWID;
