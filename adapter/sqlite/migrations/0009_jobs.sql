-- +goose Up
-- Jobs are about anything: a submission, an invitation, the house. Steps that were planned before keep their numbers, on which
-- the Message-IDs of their letters hang.
CREATE TABLE job (
  id INTEGER PRIMARY KEY, about TEXT NOT NULL, subject INTEGER NOT NULL, run INTEGER NOT NULL, kind TEXT NOT NULL, key TEXT NOT NULL,
  name TEXT NOT NULL, share INTEGER NOT NULL, target TEXT NOT NULL, lane INTEGER NOT NULL, state TEXT NOT NULL, needs TEXT NOT NULL DEFAULT '',
  due INTEGER NOT NULL, not_before INTEGER NOT NULL DEFAULT 0, expires INTEGER NOT NULL DEFAULT 0, every INTEGER NOT NULL DEFAULT 0,
  leased INTEGER NOT NULL DEFAULT 0, attempts INTEGER NOT NULL DEFAULT 0, lost INTEGER NOT NULL DEFAULT 0, unsure INTEGER NOT NULL DEFAULT 0,
  since INTEGER NOT NULL, updated INTEGER NOT NULL, reason TEXT NOT NULL DEFAULT '', result TEXT NOT NULL DEFAULT '', body TEXT NOT NULL DEFAULT '',
  UNIQUE (subject, run, kind, key, about));
INSERT INTO job (id, about, subject, run, kind, key, name, share, target, lane, state, needs, due, attempts, lost, unsure, since, updated, reason, result, body)
  SELECT t.id, 'submission', t.submission, s.revision, t.kind, t.key, t.name, s.intake,
    CASE t.kind WHEN 'document' THEN 'press' WHEN 'notice' THEN 'mail' ELSE 'cabinet' END, 0,
    CASE t.state WHEN 'working' THEN 'ready' ELSE t.state END,
    CASE t.state WHEN 'waits' THEN (SELECT group_concat('document:' || n.value, char(10)) FROM json_each(t.needs) n
      WHERE NOT EXISTS (SELECT 1 FROM document d WHERE d.submission = t.submission AND d.revision = s.revision AND d.key = n.value)) ELSE '' END, t.due, t.attempts, t.lost, t.unsure, t.since, t.updated, t.reason, t.result,
    CASE t.kind WHEN 'notice' THEN json_object('documents', json(t.needs)) ELSE '' END
  FROM step t JOIN submission s ON s.id = t.submission;
-- What waits for its own subject says so itself; who waits for the house is looked up.
CREATE TABLE need (signal TEXT NOT NULL, job INTEGER NOT NULL REFERENCES job, PRIMARY KEY (signal, job)) WITHOUT ROWID;
CREATE TABLE signal (
  about TEXT NOT NULL, subject INTEGER NOT NULL, run INTEGER NOT NULL, signal TEXT NOT NULL, PRIMARY KEY (subject, signal, run, about)) WITHOUT ROWID;
INSERT INTO signal SELECT 'submission', submission, revision, 'document:' || key FROM document;
CREATE TABLE outage (target TEXT PRIMARY KEY, since INTEGER NOT NULL, until INTEGER NOT NULL, knocks INTEGER NOT NULL, reason TEXT NOT NULL) WITHOUT ROWID;

-- Invitations are sent by jobs.
ALTER TABLE invitation ADD COLUMN run INTEGER NOT NULL DEFAULT 1;
ALTER TABLE invitation ADD COLUMN withdrawn INTEGER NOT NULL DEFAULT 0;
UPDATE invitation SET withdrawn = 1 WHERE state = 'withdrawn';
INSERT INTO job (about, subject, run, kind, key, name, share, target, lane, state, due, attempts, since, updated, reason)
  SELECT 'invitation', id, 1, 'invitation', 'letter', 'Invitation', intake, 'mail', 0,
    CASE state WHEN 'waits' THEN 'ready' WHEN 'sent' THEN 'done' WHEN 'failed' THEN 'failed' ELSE 'void' END, due, attempts, since, due, reason
  FROM invitation;
DROP INDEX invitation_due;
ALTER TABLE invitation DROP COLUMN state;
ALTER TABLE invitation DROP COLUMN attempts;
ALTER TABLE invitation DROP COLUMN due;
ALTER TABLE invitation DROP COLUMN reason;
ALTER TABLE invitation DROP COLUMN since;

CREATE INDEX job_ready ON job (target, lane, share, due) WHERE state = 'ready';
CREATE INDEX job_failed ON job (about, share, subject) WHERE state = 'failed';
CREATE INDEX job_open ON job (about, share, subject) WHERE state NOT IN ('done', 'void');
CREATE INDEX job_expires ON job (expires) WHERE expires > 0 AND state IN ('waits', 'ready');

-- What happened is kept as facts. Each fact holds the one before it fast: hash = sha256(hash before || what it is about || digest),
-- digest = sha256(salt || body). Body and salt can be erased together. Words that people or servers said stand apart.
CREATE TABLE said (id INTEGER PRIMARY KEY, words TEXT NOT NULL);
CREATE TABLE fact (
  id INTEGER PRIMARY KEY, at INTEGER NOT NULL, about TEXT NOT NULL, subject INTEGER NOT NULL, run INTEGER NOT NULL, kind TEXT NOT NULL,
  body TEXT, salt TEXT, digest TEXT NOT NULL, hash TEXT NOT NULL);
INSERT INTO said SELECT id, what FROM event;
CREATE TEMP TABLE told AS SELECT row_number() OVER (ORDER BY id) AS n, at, submission, '{"said":' || id || '}' AS body, lower(hex(randomblob(16))) AS salt FROM event;
CREATE UNIQUE INDEX temp.told_n ON told (n);
INSERT INTO fact WITH RECURSIVE chain (id, at, subject, body, salt, digest, hash) AS (
  SELECT n, at, submission, body, salt, sha256(CAST(salt || body AS BLOB)),
    sha256(CAST('' || n || ' ' || at || ' submission ' || submission || ' 0 told ' || sha256(CAST(salt || body AS BLOB)) AS BLOB))
    FROM told WHERE n = 1
  UNION ALL
  SELECT t.n, t.at, t.submission, t.body, t.salt, sha256(CAST(t.salt || t.body AS BLOB)),
    sha256(CAST(c.hash || t.n || ' ' || t.at || ' submission ' || t.submission || ' 0 told ' || sha256(CAST(t.salt || t.body AS BLOB)) AS BLOB))
    FROM chain c JOIN told t ON t.n = c.id + 1)
  SELECT id, at, 'submission', subject, 0, 'told', body, salt, digest, hash FROM chain;
DROP TABLE told;
DROP TABLE event;
DROP TABLE step;
CREATE INDEX fact_subject ON fact (subject, about);

-- The bytes of documents lie in a table of their own.
CREATE TABLE paper (
  id INTEGER PRIMARY KEY, submission INTEGER NOT NULL REFERENCES submission, key TEXT NOT NULL, revision INTEGER NOT NULL, name TEXT NOT NULL,
  file_name TEXT NOT NULL, pages INTEGER NOT NULL, size INTEGER NOT NULL, made INTEGER NOT NULL, code TEXT, sha256 TEXT, UNIQUE (submission, key, revision));
CREATE TABLE pdf (document INTEGER PRIMARY KEY REFERENCES paper, bytes BLOB NOT NULL);
INSERT INTO paper SELECT rowid, submission, key, revision, name, file_name, pages, size, made, code, sha256 FROM document;
INSERT INTO pdf SELECT rowid, pdf FROM document;
DROP TABLE document;
ALTER TABLE paper RENAME TO document;
CREATE UNIQUE INDEX document_code ON document (code) WHERE code IS NOT NULL;
CREATE INDEX document_sha256 ON document (sha256);

CREATE INDEX draft_intake ON draft (intake);
