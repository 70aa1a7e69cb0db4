-- +goose Up
-- Personal links are derived from the house's secret, which lies beside the database: here stand only names of what they are
-- about, and counters. Links made before are withdrawn, since they could be rebuilt from the Message-IDs of mails.
ALTER TABLE submission RENAME COLUMN token TO ref;
UPDATE submission SET ref = lower(hex(randomblob(6)));
ALTER TABLE submission ADD COLUMN links INTEGER NOT NULL DEFAULT 1;
ALTER TABLE submission ADD COLUMN own INTEGER NOT NULL DEFAULT 1; -- handed in by the house itself, not by a stranger
ALTER TABLE invitation RENAME COLUMN token TO ref;
UPDATE invitation SET ref = lower(hex(randomblob(6)));
ALTER TABLE invitation ADD COLUMN links INTEGER NOT NULL DEFAULT 1;
ALTER TABLE invitation ADD COLUMN words TEXT NOT NULL DEFAULT '';
ALTER TABLE invitation ADD COLUMN since INTEGER NOT NULL DEFAULT 0;
ALTER TABLE invitation DROP COLUMN link;
ALTER TABLE draft RENAME COLUMN token TO hash;
UPDATE draft SET hash = sha256(CAST(hash AS BLOB));
ALTER TABLE session RENAME COLUMN token TO hash;
DELETE FROM session;
ALTER TABLE person ADD COLUMN generation INTEGER NOT NULL DEFAULT 1;

-- Where respondents find a form is what was published last, and what was published before still leads to it.
CREATE TABLE address (slug TEXT PRIMARY KEY, intake INTEGER NOT NULL REFERENCES intake, since INTEGER NOT NULL);
INSERT OR IGNORE INTO address SELECT json_extract(v.design, '$.slug'), v.intake, v.created FROM version v JOIN intake i ON i.id = v.intake AND i.version = v.version;

-- How long a step has been tried, and how often the program ended while it was at it.
ALTER TABLE step ADD COLUMN since INTEGER NOT NULL DEFAULT 0;
ALTER TABLE step ADD COLUMN lost INTEGER NOT NULL DEFAULT 0;
UPDATE step SET since = updated;

-- Who was written to, and when: nobody is mailed without end because a stranger names them.
CREATE TABLE recipient (address TEXT NOT NULL COLLATE NOCASE, sent INTEGER NOT NULL);
CREATE INDEX recipient_address ON recipient (address, sent);
CREATE INDEX recipient_sent ON recipient (sent);

-- Bytes lie last in a row, so that what stands beside them is read without them.
CREATE TABLE document_whole (
  submission INTEGER NOT NULL REFERENCES submission, key TEXT NOT NULL, revision INTEGER NOT NULL, name TEXT NOT NULL, file_name TEXT NOT NULL,
  pages INTEGER NOT NULL, size INTEGER NOT NULL, made INTEGER NOT NULL, code TEXT, sha256 TEXT, pdf BLOB NOT NULL, PRIMARY KEY (submission, key, revision));
INSERT INTO document_whole SELECT submission, key, revision, name, file_name, pages, size, made, code, sha256, pdf FROM document;
DROP TABLE document;
ALTER TABLE document_whole RENAME TO document;
CREATE UNIQUE INDEX document_code ON document (code) WHERE code IS NOT NULL;
CREATE INDEX document_sha256 ON document (sha256);

-- How many submissions of each intake there are, counted as they come.
CREATE TABLE tally (intake INTEGER PRIMARY KEY REFERENCES intake, submissions INTEGER NOT NULL);
INSERT INTO tally SELECT intake, count(*) FROM submission GROUP BY intake;
ALTER TABLE step ADD COLUMN unsure INTEGER NOT NULL DEFAULT 0;
CREATE TABLE pulse (id INTEGER PRIMARY KEY CHECK (id = 1), at INTEGER NOT NULL);
