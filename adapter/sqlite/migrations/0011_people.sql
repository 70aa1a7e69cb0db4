-- +goose Up
-- People are asked in by letters; some work on single intakes only.
ALTER TABLE person ADD COLUMN ref TEXT NOT NULL DEFAULT '';
ALTER TABLE person ADD COLUMN run INTEGER NOT NULL DEFAULT 0;
ALTER TABLE person ADD COLUMN invited INTEGER NOT NULL DEFAULT 0;
ALTER TABLE person ADD COLUMN seen INTEGER NOT NULL DEFAULT 0;
UPDATE person SET ref = substr(lower(hex(randomblob(6))), 1, 12);
CREATE UNIQUE INDEX person_ref ON person (ref);
CREATE TABLE collaborator (
  person INTEGER NOT NULL REFERENCES person ON DELETE CASCADE, intake INTEGER NOT NULL REFERENCES intake ON DELETE CASCADE,
  role TEXT NOT NULL, PRIMARY KEY (person, intake));
