-- +goose Up
CREATE TABLE house (id INTEGER PRIMARY KEY CHECK (id = 1), body TEXT NOT NULL);
CREATE TABLE person (
  id INTEGER PRIMARY KEY, email TEXT NOT NULL UNIQUE COLLATE NOCASE, name TEXT NOT NULL,
  hash TEXT NOT NULL, created INTEGER NOT NULL);
CREATE TABLE session (token TEXT PRIMARY KEY, data BLOB NOT NULL, expires INTEGER NOT NULL);
CREATE INDEX session_expires ON session (expires);
CREATE TABLE picture (name TEXT PRIMARY KEY, data BLOB NOT NULL, created INTEGER NOT NULL);

CREATE TABLE intake (
  id INTEGER PRIMARY KEY, slug TEXT NOT NULL UNIQUE, name TEXT NOT NULL, design TEXT NOT NULL,
  revision INTEGER NOT NULL, version INTEGER NOT NULL DEFAULT 0, published INTEGER NOT NULL DEFAULT 0,
  state TEXT NOT NULL, opened INTEGER NOT NULL DEFAULT 0, created INTEGER NOT NULL, updated INTEGER NOT NULL);
CREATE TABLE version (
  intake INTEGER NOT NULL REFERENCES intake, version INTEGER NOT NULL, design TEXT NOT NULL, created INTEGER NOT NULL,
  PRIMARY KEY (intake, version));
CREATE TABLE counter (
  intake INTEGER NOT NULL REFERENCES intake, series TEXT NOT NULL, n INTEGER NOT NULL,
  PRIMARY KEY (intake, series));

CREATE TABLE submission (
  id INTEGER PRIMARY KEY, intake INTEGER NOT NULL REFERENCES intake, version INTEGER NOT NULL,
  number TEXT NOT NULL, person TEXT NOT NULL, token TEXT NOT NULL UNIQUE, answers TEXT NOT NULL,
  received INTEGER NOT NULL, once TEXT, body_hash TEXT NOT NULL,
  UNIQUE (intake, number), UNIQUE (intake, once));
CREATE INDEX submission_intake ON submission (intake, id);
CREATE VIRTUAL TABLE submission_words USING fts5 (words, content='', contentless_delete=1, tokenize="unicode61 remove_diacritics 2");

CREATE TABLE step (
  id INTEGER PRIMARY KEY, submission INTEGER NOT NULL REFERENCES submission, kind TEXT NOT NULL, key TEXT NOT NULL,
  name TEXT NOT NULL, needs TEXT NOT NULL, missing INTEGER NOT NULL, state TEXT NOT NULL, attempts INTEGER NOT NULL DEFAULT 0,
  due INTEGER NOT NULL, reason TEXT NOT NULL DEFAULT '', outage INTEGER NOT NULL DEFAULT 0, result TEXT NOT NULL DEFAULT '',
  updated INTEGER NOT NULL, UNIQUE (submission, kind, key));
CREATE INDEX step_due ON step (kind, due) WHERE state IN ('ready', 'working');
CREATE INDEX step_failed ON step (submission) WHERE state = 'failed';
CREATE INDEX step_open ON step (submission) WHERE state <> 'done';

CREATE TABLE document (
  submission INTEGER NOT NULL REFERENCES submission, key TEXT NOT NULL, name TEXT NOT NULL, file_name TEXT NOT NULL,
  pages INTEGER NOT NULL, size INTEGER NOT NULL, made INTEGER NOT NULL, pdf BLOB NOT NULL, PRIMARY KEY (submission, key));
CREATE TABLE message (
  id INTEGER PRIMARY KEY, submission INTEGER NOT NULL REFERENCES submission, name TEXT NOT NULL, recipients TEXT NOT NULL,
  subject TEXT NOT NULL, text TEXT NOT NULL, html TEXT NOT NULL, attached TEXT NOT NULL, sent INTEGER NOT NULL);
CREATE INDEX message_submission ON message (submission);
CREATE TABLE filed (
  id INTEGER PRIMARY KEY, submission INTEGER NOT NULL REFERENCES submission, path TEXT NOT NULL, size INTEGER NOT NULL,
  at INTEGER NOT NULL);
CREATE INDEX filed_submission ON filed (submission);
CREATE TABLE event (
  id INTEGER PRIMARY KEY, submission INTEGER NOT NULL REFERENCES submission, at INTEGER NOT NULL, what TEXT NOT NULL);
CREATE INDEX event_submission ON event (submission);
