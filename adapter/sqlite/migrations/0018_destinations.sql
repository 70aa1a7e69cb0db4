-- +goose Up
-- Where the house files besides its cabinet, and what is known of each file that it filed.
CREATE TABLE destination (key TEXT PRIMARY KEY, body TEXT NOT NULL, changed INTEGER NOT NULL) WITHOUT ROWID;
ALTER TABLE filed ADD COLUMN destination TEXT NOT NULL DEFAULT 'cabinet';
ALTER TABLE filed ADD COLUMN title TEXT NOT NULL DEFAULT '';
ALTER TABLE filed ADD COLUMN link TEXT NOT NULL DEFAULT '';
ALTER TABLE filed ADD COLUMN sha256 TEXT NOT NULL DEFAULT '';

-- Whom else a message went to, and where answers to it go.
ALTER TABLE message ADD COLUMN others TEXT NOT NULL DEFAULT '{}';
