-- +goose Up
-- A step's id is never used again: a correction removes steps while somebody may be at work on them, and what is
-- finished late must not be taken for one of the new steps.
CREATE TABLE step_once (
  id INTEGER PRIMARY KEY AUTOINCREMENT, submission INTEGER NOT NULL REFERENCES submission, kind TEXT NOT NULL, key TEXT NOT NULL,
  name TEXT NOT NULL, needs TEXT NOT NULL, missing INTEGER NOT NULL, state TEXT NOT NULL, attempts INTEGER NOT NULL DEFAULT 0,
  due INTEGER NOT NULL, reason TEXT NOT NULL DEFAULT '', outage INTEGER NOT NULL DEFAULT 0, result TEXT NOT NULL DEFAULT '',
  updated INTEGER NOT NULL, UNIQUE (submission, kind, key));
INSERT INTO step_once SELECT id, submission, kind, key, name, needs, missing, state, attempts, due, reason, outage, result, updated FROM step;
DROP TABLE step;
ALTER TABLE step_once RENAME TO step;
CREATE INDEX step_due ON step (kind, due) WHERE state IN ('ready', 'working');
CREATE INDEX step_failed ON step (submission) WHERE state = 'failed';
CREATE INDEX step_open ON step (submission) WHERE state <> 'done';
