-- +goose Up
-- Files that documents are made of, as they were brought. A name comes from the bytes, so that the same file is kept once and each
-- version of a design keeps its own.
CREATE TABLE brought (name TEXT PRIMARY KEY, data BLOB NOT NULL, created INTEGER NOT NULL);
