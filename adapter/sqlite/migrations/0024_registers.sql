-- +goose Up
-- The files of running registers as they were written last, see package sheets.
CREATE TABLE sheet (
  intake INTEGER NOT NULL REFERENCES intake, register TEXT NOT NULL, n INTEGER NOT NULL, destination TEXT NOT NULL, begun TEXT NOT NULL,
  path TEXT NOT NULL, link TEXT NOT NULL, sha256 TEXT NOT NULL, pending TEXT NOT NULL, first INTEGER NOT NULL, last INTEGER NOT NULL,
  lines INTEGER NOT NULL, filled INTEGER NOT NULL, upto INTEGER NOT NULL, at INTEGER NOT NULL, put_aside TEXT NOT NULL,
  PRIMARY KEY (intake, register, n)) WITHOUT ROWID;
