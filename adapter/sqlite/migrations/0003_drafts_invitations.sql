-- +goose Up
CREATE TABLE draft (
  token TEXT PRIMARY KEY, intake INTEGER NOT NULL REFERENCES intake, answers TEXT NOT NULL, updated INTEGER NOT NULL);
CREATE INDEX draft_updated ON draft (updated);
CREATE TABLE invitation (
  id INTEGER PRIMARY KEY, intake INTEGER NOT NULL REFERENCES intake, token TEXT NOT NULL UNIQUE, email TEXT NOT NULL COLLATE NOCASE,
  link TEXT NOT NULL, state TEXT NOT NULL, attempts INTEGER NOT NULL DEFAULT 0, due INTEGER NOT NULL, reason TEXT NOT NULL DEFAULT '',
  sent INTEGER NOT NULL DEFAULT 0, submission INTEGER REFERENCES submission, UNIQUE (intake, email));
CREATE INDEX invitation_due ON invitation (due) WHERE state = 'waits';
