-- +goose Up
CREATE TABLE font (name TEXT PRIMARY KEY, data BLOB NOT NULL, created INTEGER NOT NULL);
