-- +goose Up
-- Jobs, facts and sessions speak of people and of kept answers by number: a number that was given is never given again, also when what had
-- it is gone. Whose number was given twice before cannot be told, so that everybody signs in again.
DELETE FROM session;
ALTER TABLE session ADD COLUMN person INTEGER NOT NULL DEFAULT 0;
CREATE INDEX session_person ON session (person);

CREATE TABLE collaborating AS SELECT * FROM collaborator;
DROP TABLE collaborator;
ALTER TABLE person RENAME TO person_before;
CREATE TABLE person (
  id INTEGER PRIMARY KEY AUTOINCREMENT, email TEXT NOT NULL UNIQUE COLLATE NOCASE, name TEXT NOT NULL,
  hash TEXT NOT NULL, created INTEGER NOT NULL, generation INTEGER NOT NULL DEFAULT 1, role TEXT NOT NULL DEFAULT 'owner',
  ref TEXT NOT NULL DEFAULT '', run INTEGER NOT NULL DEFAULT 0, invited INTEGER NOT NULL DEFAULT 0, seen INTEGER NOT NULL DEFAULT 0);
INSERT INTO person (id, email, name, hash, created, generation, role, ref, run, invited, seen)
  SELECT id, email, name, hash, created, generation, role, ref, run, invited, seen FROM person_before;
DROP TABLE person_before;
CREATE UNIQUE INDEX person_ref ON person (ref);
CREATE TABLE collaborator (
  person INTEGER NOT NULL REFERENCES person ON DELETE CASCADE, intake INTEGER NOT NULL REFERENCES intake ON DELETE CASCADE,
  role TEXT NOT NULL, PRIMARY KEY (person, intake));
INSERT INTO collaborator (person, intake, role) SELECT person, intake, role FROM collaborating;
DROP TABLE collaborating;

ALTER TABLE draft RENAME TO draft_before;
CREATE TABLE draft (
  id INTEGER PRIMARY KEY AUTOINCREMENT, hash TEXT NOT NULL UNIQUE, ref TEXT NOT NULL DEFAULT '', intake INTEGER NOT NULL REFERENCES intake,
  answers TEXT NOT NULL, updated INTEGER NOT NULL, run INTEGER NOT NULL DEFAULT 0, email TEXT NOT NULL DEFAULT '' COLLATE NOCASE,
  language TEXT NOT NULL DEFAULT '', invited TEXT NOT NULL DEFAULT '');
INSERT INTO draft (id, hash, ref, intake, answers, updated, run, email, language, invited)
  SELECT id, hash, ref, intake, answers, updated, run, email, language, invited FROM draft_before;
DROP TABLE draft_before;
CREATE INDEX draft_updated ON draft (updated);
CREATE INDEX draft_intake ON draft (intake);
CREATE INDEX draft_email ON draft (email) WHERE email <> '';

DELETE FROM sqlite_sequence WHERE name IN ('person', 'draft');
INSERT INTO sqlite_sequence (name, seq) SELECT t.name, max(
  CASE t.name WHEN 'person' THEN coalesce((SELECT max(id) FROM person), 0) ELSE coalesce((SELECT max(id) FROM draft), 0) END,
  coalesce((SELECT max(subject) FROM job WHERE about = t.name), 0),
  coalesce((SELECT max(subject) FROM fact WHERE about = t.name), 0))
  FROM (SELECT 'person' AS name UNION SELECT 'draft') t;

-- A letter that somebody of the house sends again goes to whom they named; all other steps may only shrink whom a message is for.
UPDATE job SET body = json_remove(json_set(CAST(body AS TEXT), '$.whom', json_extract(CAST(body AS TEXT), '$.only')), '$.only')
  WHERE kind = 'notice' AND key LIKE '% again %' AND json_extract(CAST(body AS TEXT), '$.only') IS NOT NULL;
