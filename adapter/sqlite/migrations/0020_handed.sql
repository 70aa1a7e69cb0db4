-- +goose Up
-- Files that messages gave by a link. The link itself is derived from the house's secret, as all personal links are; links is the
-- submission's counter at that time, so that withdrawing its links withdraws these too.
CREATE TABLE handed (
  id INTEGER PRIMARY KEY, ref TEXT NOT NULL UNIQUE, submission INTEGER NOT NULL REFERENCES submission, run INTEGER NOT NULL, links INTEGER NOT NULL,
  body TEXT NOT NULL, made INTEGER NOT NULL, expires INTEGER NOT NULL, most INTEGER NOT NULL, opened INTEGER NOT NULL DEFAULT 0,
  last INTEGER NOT NULL DEFAULT 0, withdrawn INTEGER NOT NULL DEFAULT 0);
CREATE INDEX handed_submission ON handed (submission);
