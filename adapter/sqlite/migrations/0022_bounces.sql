-- +goose Up
-- What came back: which job a message was, its Message-ID without the domain, and from whom it came back with what words.
ALTER TABLE message ADD COLUMN job INTEGER NOT NULL DEFAULT 0;
ALTER TABLE message ADD COLUMN mid TEXT NOT NULL DEFAULT '';
ALTER TABLE message ADD COLUMN returned TEXT NOT NULL DEFAULT '[]';
CREATE INDEX message_job ON message (job) WHERE job > 0;
CREATE INDEX message_mid ON message (mid) WHERE mid <> '';
