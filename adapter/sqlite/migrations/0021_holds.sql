-- +goose Up
-- Whose messages are held: those of an intake, or of the whole house where it is 0.
CREATE TABLE hold (intake INTEGER PRIMARY KEY, since INTEGER NOT NULL);
-- What was planned for later is told from what is unfinished without a look at the row.
DROP INDEX job_open;
CREATE INDEX job_open ON job (about, share, subject, not_before) WHERE state NOT IN ('done', 'void');
