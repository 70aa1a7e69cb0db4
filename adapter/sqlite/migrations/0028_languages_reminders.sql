-- +goose Up
-- The language that the respondent read the form in, where they chose one.
ALTER TABLE submission ADD COLUMN language TEXT NOT NULL DEFAULT '';

-- Answers that are kept can be reminded of: they have a number, on which a job hangs, and a name that a link can be derived of. Those that
-- were kept before have no name.
CREATE TABLE kept (
  id INTEGER PRIMARY KEY, hash TEXT NOT NULL UNIQUE, ref TEXT NOT NULL DEFAULT '', intake INTEGER NOT NULL REFERENCES intake, answers TEXT NOT NULL,
  updated INTEGER NOT NULL, run INTEGER NOT NULL DEFAULT 0, email TEXT NOT NULL DEFAULT '' COLLATE NOCASE, language TEXT NOT NULL DEFAULT '',
  invited TEXT NOT NULL DEFAULT '');
INSERT INTO kept (hash, intake, answers, updated) SELECT hash, intake, answers, updated FROM draft;
DROP TABLE draft;
ALTER TABLE kept RENAME TO draft;
CREATE INDEX draft_updated ON draft (updated);
CREATE INDEX draft_intake ON draft (intake);
CREATE INDEX draft_email ON draft (email) WHERE email <> '';
