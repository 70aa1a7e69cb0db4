-- +goose Up
-- Fixed files of the house, by names that come from their bytes.
CREATE TABLE fixed (name TEXT PRIMARY KEY, data BLOB NOT NULL, created INTEGER NOT NULL);
