-- +goose Up
-- How a mail account or a destination was tried last, by its target: at which part that failed, and why.
CREATE TABLE trial (target TEXT PRIMARY KEY, at INTEGER NOT NULL, part TEXT NOT NULL, reason TEXT NOT NULL) WITHOUT ROWID;
