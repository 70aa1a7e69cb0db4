-- +goose Up
-- Secrets of the house, sealed with a key that lies elsewhere.
CREATE TABLE secret (name TEXT PRIMARY KEY, key TEXT NOT NULL, bytes BLOB NOT NULL, at INTEGER NOT NULL);
