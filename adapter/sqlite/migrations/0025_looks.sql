-- +goose Up
-- How far the mailboxes of mail accounts were read for reports of what came back, and how the last look went.
CREATE TABLE look (account TEXT PRIMARY KEY, validity INTEGER NOT NULL, last INTEGER NOT NULL, at INTEGER NOT NULL, reason TEXT NOT NULL);
