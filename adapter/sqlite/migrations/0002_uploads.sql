-- +goose Up
CREATE TABLE upload (
  id TEXT PRIMARY KEY, intake INTEGER NOT NULL REFERENCES intake, submission INTEGER REFERENCES submission, name TEXT NOT NULL,
  type TEXT NOT NULL, size INTEGER NOT NULL, data BLOB NOT NULL, created INTEGER NOT NULL);
CREATE INDEX upload_waiting ON upload (created) WHERE submission IS NULL;
CREATE INDEX upload_submission ON upload (submission);
CREATE TABLE unique_answer (
  intake INTEGER NOT NULL REFERENCES intake, field TEXT NOT NULL, value TEXT NOT NULL, submission INTEGER NOT NULL REFERENCES submission,
  PRIMARY KEY (intake, field, value));
