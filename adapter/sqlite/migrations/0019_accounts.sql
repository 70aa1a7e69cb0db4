-- +goose Up
-- By which servers the house sends its mail.
CREATE TABLE account (key TEXT PRIMARY KEY, body TEXT NOT NULL, changed INTEGER NOT NULL) WITHOUT ROWID;
