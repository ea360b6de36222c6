-- +goose Up
ALTER TABLE blobs ADD COLUMN form INTEGER NOT NULL DEFAULT 0;
ALTER TABLE blobs ADD COLUMN base INTEGER REFERENCES blobs(id);
ALTER TABLE blobs ADD COLUMN sum INTEGER;
CREATE INDEX blobs_of_base ON blobs(base) WHERE base IS NOT NULL;
ALTER TABLE change_sets ADD COLUMN kept INTEGER NOT NULL DEFAULT 1;
CREATE INDEX change_sets_of_target ON change_sets(target) WHERE target IS NOT NULL;
