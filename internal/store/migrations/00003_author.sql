-- +goose Up
ALTER TABLE change_sets ADD COLUMN author TEXT NOT NULL DEFAULT '';
