-- +goose Up
-- How a file lay where it was filed when it was compared last: changed or lost, or empty where it was as it should be or nobody could say.
ALTER TABLE filed ADD COLUMN checked INTEGER NOT NULL DEFAULT 0;
ALTER TABLE filed ADD COLUMN standing TEXT NOT NULL DEFAULT '';
CREATE INDEX filed_checked ON filed (checked);
CREATE INDEX filed_path ON filed (destination, path);
CREATE INDEX filed_amiss ON filed (standing) WHERE standing <> '';
