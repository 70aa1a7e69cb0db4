-- +goose Up
-- What several submissions are told of in one message: those of an intake's notice that go to the same addresses. It is closed when its
-- message begins to go, or when it is full. job is the step of its first submission by which it goes; 0 until there is one.
CREATE TABLE collection (
  id INTEGER PRIMARY KEY, intake INTEGER NOT NULL REFERENCES intake, notice TEXT NOT NULL, whom TEXT NOT NULL, closed INTEGER NOT NULL DEFAULT 0,
  job INTEGER NOT NULL DEFAULT 0);
CREATE INDEX collection_open ON collection (intake, notice, whom) WHERE closed = 0;
CREATE INDEX collection_job ON collection (job) WHERE job > 0;
CREATE TABLE collected (
  collection INTEGER NOT NULL REFERENCES collection, submission INTEGER NOT NULL REFERENCES submission, run INTEGER NOT NULL,
  documents TEXT NOT NULL, PRIMARY KEY (collection, submission)) WITHOUT ROWID;
CREATE INDEX collected_submission ON collected (submission);
