-- +goose Up
-- Whose messages are held: those of an intake, or of the whole house where it is 0.
CREATE TABLE hold (intake INTEGER PRIMARY KEY, since INTEGER NOT NULL);
CREATE INDEX job_notice ON job (share, due) WHERE kind = 'notice' AND state NOT IN ('done', 'void');
